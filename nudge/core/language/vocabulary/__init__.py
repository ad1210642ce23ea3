"""One vocabulary from the database to the screen: points, equipment, observations."""
