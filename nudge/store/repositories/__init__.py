"""One repository an aggregate: how each is found and kept. Transactions belong to services."""
