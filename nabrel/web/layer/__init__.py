"""The Layer room."""
