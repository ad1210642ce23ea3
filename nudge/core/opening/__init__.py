"""The opened circuit: its states and the way from one to the next, recovery, repair, first fill."""
