"""What goes over the wire, beside the routes that carry it."""
