"""Evaluations as they were computed, kept to notice when one changes by accident."""
