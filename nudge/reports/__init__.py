"""A visit on paper: the whole record for the file, one plain page for the customer."""
