"""Charge arithmetic: line sets, weigh-in, hoses, cylinders, leak rate."""
