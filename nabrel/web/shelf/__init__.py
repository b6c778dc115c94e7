"""The Shelf room."""
