"""Kinds of plant and of work: one row each, chosen by the plate's kind and the visit's mode."""
