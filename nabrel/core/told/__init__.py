"""A plan in words."""
