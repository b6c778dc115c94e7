"""Tables as common office programs write them: how the text, the cells between delimiters and the numbers are read.

Read are commas, semicolons or tabs between cells, decimal points or commas, UTF-8 with or without a mark, and
Latin-1. Each kind of table judges its own rows.
"""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Collection, Sequence
from difflib import get_close_matches
from math import isfinite

from nabrel.core.errors import Refused
from nabrel.core.terms.limits import MOST_ITEMS, MOST_READINGS

_RUNS = re.compile(r"'*[=+\-@\t\r]")
"""What a spreadsheet takes for a formula, with the apostrophes that hold it back."""
MOST_ROWS = max(MOST_ITEMS, MOST_READINGS)
MOST_BYTES = 4_000_000


def text_of(data: bytes, most_bytes: int = MOST_BYTES) -> str:
    """The text of a file. Refuses what is too large, and spreadsheets and archives, which are no text."""
    if len(data) > most_bytes:
        raise Refused("file", f"{len(data):,} bytes", f"at most {most_bytes:,} bytes")
    if b"\x00" in data or data[:2] in (b"PK", b"\x1f\x8b"):
        raise Refused("file", "a spreadsheet or archive", "plain CSV: save the sheet as CSV first")
    try:
        return data.decode("utf-8-sig")
    except UnicodeDecodeError:
        return data.decode("latin-1")


def table_of(
    data: bytes,
    columns: Sequence[str],
    needed: Collection[str],
    most_rows: int = MOST_ROWS,
    most_bytes: int = MOST_BYTES,
) -> tuple[list[str], list[tuple[int, list[str]]]]:
    """The header's column names, and every row that is not blank with its line. Refuses what is no such table."""
    text = text_of(data, most_bytes)
    rows = csv.reader(io.StringIO(text, newline=""), delimiter=_delimiter(text), strict=True)
    try:
        table = [(rows.line_num, cells) for cells in rows if any(cell.strip() for cell in cells)]
    except csv.Error as error:
        raise Refused("file", f"line {rows.line_num}", f"a table in CSV ({error})") from None
    if not table:
        raise Refused("file", "nothing", "a table with a header row: " + ", ".join(needed) + " …")
    if len(table) - 1 > most_rows:
        raise Refused("file", f"{len(table) - 1} rows", f"at most {most_rows} rows")
    return _header(table[0][1], columns, needed), table[1:]


def written(cell: object) -> object:
    """A cell as it is written: nothing for None, and text that a spreadsheet would run held back by an apostrophe."""
    if cell is None:
        return ""
    return f"'{cell}" if isinstance(cell, str) and _RUNS.match(cell) else cell


def _as_meant(cell: str) -> str:
    """A cell without the apostrophe that :func:`written` put before it."""
    return cell[1:] if cell.startswith("'") and _RUNS.match(cell) else cell


def cells_of(header: Sequence[str], cells: Sequence[str]) -> dict[str, str]:
    """What a row gives, by column. Refuses cells beyond the header's."""
    if any(cell.strip() for cell in cells[len(header) :]):
        raise Refused("cells", len(cells), f"{len(header)} cells, as the header has")
    return {name: _as_meant(cell.strip()) for name, cell in zip(header, cells, strict=False) if cell.strip()}


def triple_of(given: dict[str, str], columns: tuple[str, str, str]) -> tuple[float, float, float] | None:
    """Three numbers that stand in three columns, or None where none of them does. Refuses a part of them."""
    found = [column for column in columns if column in given]
    if not found:
        return None
    if len(found) < len(columns):
        raise Refused(next(c for c in columns if c not in given), None, f"a number, since {found[0]} is given")
    first, second, third = (number_of(column, given[column]) for column in columns)
    return (first, second, third)


def number_of(column: str, cell: str) -> float:
    """A number with a decimal point or a decimal comma; a percent sign divides by a hundred."""
    plain = cell.replace(" ", "").replace("\u00a0", "")
    part = 100.0 if plain.endswith("%") else 1.0
    plain = plain.removesuffix("%")
    if plain.count(",") == 1 and "." not in plain:
        plain = plain.replace(",", ".")
    try:
        found = float(plain) / part
    except ValueError:
        raise Refused(column, cell, "a number") from None
    if not isfinite(found):
        raise Refused(column, cell, "a finite number")
    return found


def _delimiter(text: str) -> str:
    """What stands most often between the cells of the header."""
    header = text.lstrip().split("\n", 1)[0]
    return max(",;\t", key=header.count)


def _header(cells: list[str], columns: Sequence[str], needed: Collection[str]) -> list[str]:
    names = [cell.strip().lower().replace(" ", "_") for cell in cells]
    while names and not names[-1]:
        names.pop()
    for name in names:
        if name not in columns:
            close = get_close_matches(name, columns, 1)
            raise Refused(
                "header", name, "a known column" + (f" (nearest: {close[0]})" if close else f": {', '.join(columns)}")
            )
        if names.count(name) > 1:
            raise Refused("header", name, "each column once")
    for name in needed:
        if name not in names:
            raise Refused("header", ", ".join(names), f"a column {name}")
    return names
