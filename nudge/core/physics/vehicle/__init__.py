"""A vehicle's air conditioning after a repair: three temperatures' differences, and no gauge."""
