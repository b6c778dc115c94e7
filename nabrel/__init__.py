"""Nabrel: a workbench for makeup educators who plan base layering."""

__version__ = "0.1.0"
