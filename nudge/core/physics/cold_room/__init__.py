"""A cold room by its design: what it should evaporate and condense at, and when it is near rest."""
