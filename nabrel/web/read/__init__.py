"""The Read room."""
