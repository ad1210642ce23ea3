"""Tests of heating, by hand calculation."""
