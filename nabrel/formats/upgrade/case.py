"""Ways in which a case may be written that all mean the same."""

from __future__ import annotations

from typing import Any

Json = dict[str, Any]


def case_1_as_written(document: Json) -> Json:
    """A case with every colour of the body as ``{"lab": …}``: neck and chest may be written as three numbers alone."""
    sitter = document.get("sitter")
    if not isinstance(sitter, dict):
        return document
    plain = {place: {"lab": sitter[place]} for place in ("neck", "chest") if isinstance(sitter.get(place), list)}
    return {**document, "sitter": {**sitter, **plain}} if plain else document
