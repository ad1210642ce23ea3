"""The order of a whole visit: its stages and steps, its checks, what must not be left open."""
