"""One file a resource."""
