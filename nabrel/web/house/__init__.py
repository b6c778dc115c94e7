"""The House rules room."""
