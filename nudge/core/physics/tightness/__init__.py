"""Dryness and tightness: the nitrogen test."""
