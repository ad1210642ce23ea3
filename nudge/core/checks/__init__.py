"""Everything that can be looked at, read or tested: one row each, with its facets."""
