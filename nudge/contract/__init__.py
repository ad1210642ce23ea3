"""The assessment contract as JSON: the same shape over HTTP, on the command line, in the store."""
