"""Phrases that several stages need."""

from __future__ import annotations

from nabrel.core.case import Lab


def sentence(text: str) -> str:
    """The text with a capital first letter; the rest untouched."""
    return text[:1].upper() + text[1:]


def lead(evidence: str) -> str:
    """Evidence as the start of a sentence, "Creping 2 under both eyes: ", or nothing."""
    return f"{sentence(evidence)}: " if evidence else ""


def triple(lab: Lab) -> str:
    """A colour as three whole numbers."""
    return " ".join(f"{value:.0f}" for value in lab)
