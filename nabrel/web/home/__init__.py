"""Sitters, and the workspace as a whole."""
