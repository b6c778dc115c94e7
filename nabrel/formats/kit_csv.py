"""The kit as a table: CSV with one row an item, written plainly, and read as common office programs write it.

Every row is judged by itself, so that one bad row does not hide the others; nothing is saved here.
"""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Iterable
from dataclasses import dataclass

from nabrel.core.case.product import Product
from nabrel.core.errors import Refused
from nabrel.formats.checks import check_product
from nabrel.formats.tables import cells_of, number_of, table_of, triple_of, written
from nabrel.formats.values import dumped_value, value_of

COLUMNS: tuple[str, ...] = (
    "id", "role", "name", "texture", "base", "finish", "lab_l", "lab_a", "lab_b", "cover", "ml", "g", "price", "dose_ml",
    "suits", "contains", "ingredients", "half_hour_l", "half_hour_a", "half_hour_b", "opened_on", "keeps_months",
    "left", "lab_sd", "cover_sd", "source", "scatter_exponent", "base_source",
)  # fmt: skip
NEEDED = ("id", "role", "name", "texture", "base")
NUMBERS = frozenset({"cover", "ml", "g", "price", "dose_ml", "left", "lab_sd", "cover_sd", "scatter_exponent"})
LISTS = frozenset({"suits", "contains", "ingredients"})
TRIPLES = {"lab": ("lab_l", "lab_a", "lab_b"), "half_hour": ("half_hour_l", "half_hour_a", "half_hour_b")}
BETWEEN = "|"
"""What stands between the entries of a list in one cell; a backslash before it makes it part of an entry."""
_TO_ESCAPE = re.compile(r"[|\\]")
_ESCAPED = re.compile(r"\\([|\\])")
_ENTRY = re.compile(r"(?:[^|\\]|\\.|\\$)+")


@dataclass(frozen=True, slots=True)
class KitRow:
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
        model = dumped_value(item)
        cells: dict[str, object] = {name: model[name] for name in COLUMNS if name in model and name not in LISTS}
        cells.update({name: BETWEEN.join(_TO_ESCAPE.sub(r"\\\g<0>", part) for part in model[name]) for name in LISTS})
        for name, columns in TRIPLES.items():
            cells.update(dict(zip(columns, model[name] or ("", "", ""), strict=True)))
        table.writerow({name: written(value) for name, value in cells.items()})
    return out.getvalue()


def read_kit(data: bytes) -> tuple[KitRow, ...]:
    """Every row of a table, judged by itself. Refuses what is no table, unknown and missing columns, and too many rows."""
    header, rows = table_of(data, COLUMNS, NEEDED)
    seen: dict[str, int] = {}
    return tuple(_row(line, header, cells, seen) for line, cells in rows)


def _row(line: int, header: list[str], cells: list[str], seen: dict[str, int]) -> KitRow:
    named = dict(zip(header, cells, strict=False))
    name = (named.get("name") or named.get("id") or "").strip() or f"line {line}"
    try:
        given = cells_of(header, cells)
        item = value_of(Product, _values(given))
        check_product(item, "item")
        if item.id in seen:
            raise Refused("id", item.id, f"an id of its own; line {seen[item.id]} has this one")
        seen[item.id] = line
    except Refused as refused:
        return KitRow(line, name, None, refused)
    return KitRow(line, name, item, None)


def _parts(cell: str) -> list[str]:
    """The entries of a list in one cell: what stands between unescaped bars."""
    return [_ESCAPED.sub(r"\1", part).strip() for part in _ENTRY.findall(cell)]


def _values(given: dict[str, str]) -> dict[str, object]:
    values: dict[str, object] = {}
    for name, cell in given.items():
        if name in NUMBERS:
            values[name] = number_of(name, cell)
        elif name == "keeps_months":
            months = number_of(name, cell)
            values[name] = int(months) if months.is_integer() else months
        elif name in LISTS:
            values[name] = [part for part in _parts(cell) if part]
        elif not any(name in columns for columns in TRIPLES.values()):
            values[name] = cell
    for name, columns in TRIPLES.items():
        found = triple_of(given, columns)
        if found is not None:
            values[name] = found
    return values
