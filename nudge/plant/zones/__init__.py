"""A multi-zone plant in time: many indoor units on one outdoor unit, cooling, heating or both."""
