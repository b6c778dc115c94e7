"""Tests of Nabrel."""
