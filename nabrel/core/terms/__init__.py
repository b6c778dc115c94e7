"""The field's terms, one table each: a row holds everything that is said of an id. Adding a term is adding its row.

``ids.py`` holds the ids as types; ``make generate`` writes it from the tables. Every id here is part of the file formats.
"""
