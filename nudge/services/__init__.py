"""Use cases: load, compute, save. Each owns its transaction."""
