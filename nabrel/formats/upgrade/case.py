"""Ways in which a case may be written that all mean the same: each is read as the one that is written."""

from __future__ import annotations

from typing import Any

Json = dict[str, Any]


def case_1_as_written(document: Json) -> Json:
    """A case as it is written: neck and chest may come as three numbers alone, an effect by itself instead of in a list."""
    intent = document.get("intent")
    if isinstance(intent, dict) and isinstance(intent.get("effects"), dict):
        listed = {region: [asked] if isinstance(asked, str) else asked for region, asked in intent["effects"].items()}
        document = {**document, "intent": {**intent, "effects": listed}}
    sitter = document.get("sitter")
    if not isinstance(sitter, dict):
        return document
    plain = {place: {"lab": sitter[place]} for place in ("neck", "chest") if isinstance(sitter.get(place), list)}
    return {**document, "sitter": {**sitter, **plain}} if plain else document
