"""A multi-zone plant as its log tells of it: points, parts, and the log itself."""
