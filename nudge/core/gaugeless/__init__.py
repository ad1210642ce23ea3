"""A look without gauges: what air and line temperatures alone can say."""
