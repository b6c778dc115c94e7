"""The kit as a table: CSV with one row an item, written plainly, and read as common office programs write it.

Read are commas, semicolons or tabs between cells, decimal points or commas, UTF-8 with or without a mark, and
Latin-1. Every row is judged by itself, so that one bad row does not hide the others; nothing is saved here.
"""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable
from dataclasses import dataclass
from difflib import get_close_matches
from math import isfinite

from pydantic import ValidationError

from nabrel.core.case import Product
from nabrel.core.errors import Refused
from nabrel.formats import convert
from nabrel.formats.models import ProductModel
from nabrel.formats.reading import refusal

COLUMNS: tuple[str, ...] = (
    "id", "role", "name", "texture", "base", "finish", "lab_l", "lab_a", "lab_b", "cover", "ml", "g", "price", "dose_ml",
    "suits", "contains", "ingredients", "half_hour_l", "half_hour_a", "half_hour_b", "opened_on", "keeps_months",
)  # fmt: skip
NEEDED = ("id", "role", "name", "texture", "base")
NUMBERS = frozenset({"cover", "ml", "g", "price", "dose_ml"})
LISTS = frozenset({"suits", "contains", "ingredients"})
TRIPLES = {"lab": ("lab_l", "lab_a", "lab_b"), "half_hour": ("half_hour_l", "half_hour_a", "half_hour_b")}
BETWEEN = "|"
"""What stands between the entries of a list in one cell."""
MOST_ROWS = 2000
MOST_BYTES = 4_000_000


@dataclass(frozen=True, slots=True)
class Row:
    """One row of a table: its line in the file, the item it makes, or what is wrong with it."""

    line: int
    name: str
    item: Product | None
    refused: Refused | None


def write_kit(items: Iterable[Product]) -> str:
    """The items as CSV: commas, decimal points, one header row."""
    out = io.StringIO()
    table = csv.DictWriter(out, COLUMNS, lineterminator="\n")
    table.writeheader()
    for item in items:
        model = convert.product_to(item).model_dump()
        cells: dict[str, object] = {name: model[name] for name in COLUMNS if name in model and name not in LISTS}
        cells.update({name: BETWEEN.join(model[name]) for name in LISTS})
        for name, columns in TRIPLES.items():
            cells.update(dict(zip(columns, model[name] or ("", "", ""), strict=True)))
        table.writerow({name: "" if value is None else value for name, value in cells.items()})
    return out.getvalue()


def read_kit(data: bytes) -> tuple[Row, ...]:
    """Every row of a table, judged by itself. Refuses what is no table, unknown and missing columns, and too many rows."""
    text = _text(data)
    rows = csv.reader(io.StringIO(text, newline=""), delimiter=_delimiter(text), strict=True)
    try:
        table = [(rows.line_num, cells) for cells in rows if any(cell.strip() for cell in cells)]
    except csv.Error as error:
        raise Refused("file", f"line {rows.line_num}", f"a table in CSV ({error})") from None
    if not table:
        raise Refused("file", "nothing", "a table with a header row: " + ", ".join(NEEDED) + " …")
    header = _header(table[0][1])
    if len(table) - 1 > MOST_ROWS:
        raise Refused("file", f"{len(table) - 1} rows", f"at most {MOST_ROWS} rows")
    seen: dict[str, int] = {}
    return tuple(_row(line, header, cells, seen) for line, cells in table[1:])


def _text(data: bytes) -> str:
    if len(data) > MOST_BYTES:
        raise Refused("file", f"{len(data):,} bytes", f"at most {MOST_BYTES:,} bytes")
    if b"\x00" in data or data[:2] in (b"PK", b"\x1f\x8b"):
        raise Refused("file", "a spreadsheet or archive", "plain CSV: save the sheet as CSV first")
    try:
        return data.decode("utf-8-sig")
    except UnicodeDecodeError:
        return data.decode("latin-1")


def _delimiter(text: str) -> str:
    """What stands most often between the cells of the header."""
    header = text.lstrip().split("\n", 1)[0]
    return max(",;\t", key=header.count)


def _header(cells: list[str]) -> list[str]:
    names = [cell.strip().lower().replace(" ", "_") for cell in cells]
    while names and not names[-1]:
        names.pop()
    for name in names:
        if name not in COLUMNS:
            close = get_close_matches(name, COLUMNS, 1)
            raise Refused(
                "header", name, "a known column" + (f" (nearest: {close[0]})" if close else f": {', '.join(COLUMNS)}")
            )
        if names.count(name) > 1:
            raise Refused("header", name, "each column once")
    for name in NEEDED:
        if name not in names:
            raise Refused("header", ", ".join(names), f"a column {name}")
    return names


def _row(line: int, header: list[str], cells: list[str], seen: dict[str, int]) -> Row:
    given = {name: cell.strip() for name, cell in zip(header, cells, strict=False) if cell.strip()}
    name = given.get("name") or given.get("id") or f"line {line}"
    try:
        if any(cell.strip() for cell in cells[len(header) :]):
            raise Refused("cells", len(cells), f"{len(header)} cells, as the header has")
        item = convert.product_from(ProductModel.model_validate(_values(given)))
        convert.check_product(item, "item")
        if item.id in seen:
            raise Refused("id", item.id, f"an id of its own; line {seen[item.id]} has this one")
        seen[item.id] = line
    except ValidationError as error:
        return Row(line, name, None, refusal(error, "row"))
    except Refused as refused:
        return Row(line, name, None, refused)
    return Row(line, name, item, None)


def _values(given: dict[str, str]) -> dict[str, object]:
    values: dict[str, object] = {}
    for name, cell in given.items():
        if name in NUMBERS:
            values[name] = _number(name, cell)
        elif name == "keeps_months":
            values[name] = int(_number(name, cell))
        elif name in LISTS:
            values[name] = [part.strip() for part in cell.split(BETWEEN) if part.strip()]
        elif not any(name in columns for columns in TRIPLES.values()):
            values[name] = cell
    for name, columns in TRIPLES.items():
        found = [column for column in columns if column in given]
        if found and len(found) < len(columns):
            raise Refused(next(c for c in columns if c not in given), None, f"a number, since {found[0]} is given")
        if found:
            values[name] = tuple(_number(column, given[column]) for column in columns)
    return values


def _number(column: str, cell: str) -> float:
    """A number with a decimal point or a decimal comma; a percent sign divides by a hundred."""
    plain = cell.replace(" ", "").replace(" ", "")
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
