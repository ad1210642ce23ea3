"""HTTP: thin routes over services and the core."""
