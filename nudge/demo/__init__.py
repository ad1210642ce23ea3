"""Skerrow: the made-up harbour town the demo plays in."""
