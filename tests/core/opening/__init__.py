"""Tests of the opened circuit."""
