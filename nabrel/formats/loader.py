"""Reading a JSON file: from bytes to a model, or one clear refusal that names the field."""

from __future__ import annotations

import difflib
from collections.abc import Sequence
from typing import Any, TypeVar

from pydantic import BaseModel, ValidationError

from nabrel.core.errors import Refused
from nabrel.formats.models import FILES, CaseModel, HouseModel, SequenceModel

Model = TypeVar("Model", bound=BaseModel)
MOST_BYTES = 4_000_000


def read_case(data: bytes) -> CaseModel:
    """A ``case`` file."""
    return _read(data, CaseModel, "case")


def read_sequence(data: bytes) -> SequenceModel:
    """A ``sequence`` file."""
    return _read(data, SequenceModel, "sequence")


def read_house(data: bytes) -> HouseModel:
    """A ``house`` file."""
    return _read(data, HouseModel, "house")


def _read(data: bytes, model: type[Model], kind: str) -> Model:
    if len(data) > MOST_BYTES:
        raise Refused("file", f"{len(data):,} bytes", f"at most {MOST_BYTES:,} bytes")
    text = data.removeprefix(b"\xef\xbb\xbf")
    if not text.strip():
        raise Refused("file", "nothing", f"a Nabrel {kind} file (JSON)")
    if text[:2] == b"PK" or text[:2] == b"\x1f\x8b":
        raise Refused("file", "a compressed archive", f"a Nabrel {kind} file (plain JSON)")
    try:
        return model.model_validate_json(text)
    except ValidationError as error:
        raise refusal(error, kind) from None


def refusal(error: ValidationError, kind: str = "file") -> Refused:
    """The first thing wrong, as a refusal with the path of the field, what stood there and what is allowed."""
    first = _first(error)
    if first["type"] == "json_invalid":
        return Refused(kind, "text that is not JSON", f"JSON ({first['ctx']['error']})")
    return Refused(path_of(first["loc"]) or kind, _found(first), _allowed(first))


def _first(error: ValidationError) -> dict[str, Any]:
    rows: list[dict[str, Any]] = list(error.errors(include_url=False))  # type: ignore[arg-type]
    for row in rows:
        # A wrong kind of file makes every other complaint beside the point.
        if row["loc"] in (("nabrel",), ("version",)):
            return row
    return rows[0]


def path_of(location: Sequence[int | str]) -> str:
    """``('kit', 2, 'cover')`` as ``kit[2].cover``. The kind of an edit is no part of the path of its fields."""
    text = ""
    for place, part in enumerate(location):
        if place >= 2 and location[place - 2] == "edits" and isinstance(location[place - 1], int):
            continue
        if isinstance(part, int):
            text += f"[{part}]"
        elif part != "[key]" and not part.startswith(("ColourModel", "tuple[")):
            text += f".{part}" if text else part
    return text


def _found(row: dict[str, Any]) -> object:
    if row["type"] == "missing":
        return "nothing"
    found = row.get("input")
    return f"{type(found).__name__} of {len(found)}" if isinstance(found, (dict, list)) and len(found) > 6 else found


_KINDS = ", ".join(FILES)


def _allowed(row: dict[str, Any]) -> str:
    context = row.get("ctx") or {}
    match row["type"]:
        case "missing":
            return "this field is needed"
        case "extra_forbidden":
            return "no field of this name here"
        case "literal_error":
            said = "one of " + str(context["expected"]).replace(" or ", ", ")
            close = difflib.get_close_matches(str(row.get("input")), str(context["expected"]).split("'"), 1, 0.75)
            return f"{said} (nearest: {close[0]})" if close else said
        case "greater_than_equal":
            return f"{context['ge']:g} or more"
        case "greater_than":
            return f"more than {context['gt']:g}"
        case "less_than_equal":
            return f"{context['le']:g} or less"
        case "finite_number":
            return "a finite number"
        case "string_pattern_mismatch":
            day = "{4}" in str(context["pattern"])
            return (
                "a day as YYYY-MM-DD"
                if day
                else "letters, digits, dots, hyphens and underscores, starting with a letter or digit"
            )
        case "union_tag_invalid":
            return f"one of {context['expected_tags']}"
        case _:
            message = str(row["msg"]).removeprefix("Input should be ").removeprefix("Value error, ")
            return message[:1].lower() + message[1:]
