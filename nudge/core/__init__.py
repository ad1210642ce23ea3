"""The trade's rules and arithmetic: numbers in, numbers out, no input or output of its own."""
