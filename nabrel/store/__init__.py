"""The store: SQLite through SQLAlchemy. Sitters, the kit, sequences and their revisions, in one data folder."""
