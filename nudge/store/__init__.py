"""What is kept: SQLite in the data folder, through SQLAlchemy."""
