"""The printed card and pictures of it, for the rooms that take colours from a photograph."""
