"""Heat a heat pump delivers, what its plate expects of it, and what the house loses."""
