"""Inverse questions: which product and how little of it reaches a wanted result."""
