"""Simulated instruments that stand in for real ones: a colour reader, and a probe for oil and moisture.

They know what the sitter's record says and answer as an instrument would: with scatter, and now and then with a
reading gone wrong. The same seed gives the same answers.
"""
