"""Colours from a photograph of a printed card: where everything lies on it, and what a picture of it says."""
