"""What is wrong with a document, as one clear refusal that names the field."""

from __future__ import annotations

import difflib
import re
from collections.abc import Sequence as Listed
from typing import Any

from pydantic import ValidationError

from nabrel.core.errors import Refused
from nabrel.core.terms.limits import PLAIN, PLAIN_LINES, PLAIN_SEEN

MOST_NESTED = 64
"""How deep JSON may be nested; ours reaches ten."""
_STRING = re.compile(rb'"(?:[^"\\]|\\.)*"')
_BRACKET = re.compile(rb"[][{}]")


def refuse_deep(data: bytes, field: str = "request") -> None:
    """Refuse JSON that is nested deeper than any of ours, before anything follows it down."""
    if data.count(b"[") + data.count(b"{") <= MOST_NESTED:
        return
    depth = 0
    for bracket in _BRACKET.finditer(_STRING.sub(b"", data)):
        depth += 1 if bracket[0] in b"[{" else -1
        if depth > MOST_NESTED:
            raise Refused(field, f"JSON nested more than {MOST_NESTED} deep", f"at most {MOST_NESTED} levels")


def refusal(error: ValidationError, kind: str = "file", within: int = 0) -> Refused:
    """The first thing wrong, as a refusal with the path of the field, what stood there and what is allowed.

    ``within`` leaves so many parts off the start of every path.
    """
    first = _first(error)
    if first["type"] == "json_invalid":
        return Refused(kind, "text that is not JSON", f"JSON ({first['ctx']['error']})")
    return Refused(path_of(first["loc"][within:]) or kind, _found(first), _allowed(first))


def _first(error: ValidationError) -> dict[str, Any]:
    rows: list[dict[str, Any]] = list(error.errors(include_url=False))  # type: ignore[arg-type]
    for row in rows:
        # A wrong kind of file makes every other complaint beside the point.
        if row["loc"] in (("nabrel",), ("version",)):
            return row
    return rows[0]


def path_of(location: Listed[int | str]) -> str:
    """``('kit', 2, 'cover')`` as ``kit[2].cover``. The kind of an edit is no part of the path of its fields."""
    text = ""
    for place, part in enumerate(location):
        if place >= 2 and location[place - 2] == "edits" and isinstance(location[place - 1], int):
            continue
        if isinstance(part, int):
            text += f"[{part}]"
        elif part != "[key]" and not part.startswith("tuple["):
            text += f".{part}" if text else part
    return text


def _found(row: dict[str, Any]) -> object:
    if row["type"] == "missing":
        return "nothing"
    found = row.get("input")
    return f"{type(found).__name__} of {len(found)}" if isinstance(found, (dict, list)) and len(found) > 6 else found


def _allowed(row: dict[str, Any]) -> str:
    context = row.get("ctx") or {}
    match row["type"]:
        case "missing":
            return "this field is needed"
        case "extra_forbidden" | "unexpected_keyword_argument":
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
            if context["pattern"] in (PLAIN, PLAIN_SEEN, PLAIN_LINES):
                return (
                    "plain text"
                    + ("" if context["pattern"] == PLAIN_LINES else " on one line")
                    + (" that can be seen" if context["pattern"] == PLAIN_SEEN else "")
                    + ", without control characters"
                )
            return "letters, digits, dots, hyphens and underscores, starting with a letter or digit"
        case "date_from_datetime_parsing" | "date_parsing" | "date_type" | "date_from_datetime_inexact":
            return "a day that exists, as YYYY-MM-DD"
        case "union_tag_invalid":
            return f"one of {context['expected_tags']}"
        case _:
            message = str(row["msg"]).removeprefix("Input should be ").removeprefix("Value error, ")
            return message[:1].lower() + message[1:]
