"""Drawings laid out once, in a frame's own units, and stroked by the screen and the paper alike."""
