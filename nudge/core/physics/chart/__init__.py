"""Makers' charts as data: read from text, looked up between their points, never beyond them."""
