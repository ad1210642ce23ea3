"""Multi-zone plants, read by their log."""
