"""Tests with time: checks that wait on a clock and a curve, and what each proves."""
