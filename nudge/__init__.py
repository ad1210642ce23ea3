"""Nudge: diagnose and charge an air conditioner from pressures and temperatures."""

__version__ = "0.1.0"
