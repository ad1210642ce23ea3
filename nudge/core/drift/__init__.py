"""What moved in a system since its baseline, at like conditions, and what commonly causes it."""
