"""Looks as a table: CSV with one row a zone that was looked at, a column a sign, for spreadsheets and statistics."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable

from nabrel.core.terms.signs import SIGN_INFO
from nabrel.core.terms.zones import ZONE_INFO
from nabrel.formats.tables import written
from nabrel.formats.workspace import KeptWear

COLUMNS: tuple[str, ...] = (
    "record", "sitter", "worn_from", "temperature_c", "humidity_pc", "after_min", "light", "zone", *SIGN_INFO, "note", "next_time",
)  # fmt: skip


def write_looks(records: Iterable[tuple[str, KeptWear]]) -> str:
    """The looks of records, each with its sitter's nickname: commas, decimal points, one header row. 0 is nothing seen."""
    out = io.StringIO()
    table = csv.DictWriter(out, COLUMNS, lineterminator="\n")
    table.writeheader()
    for nickname, kept in records:
        for look in kept.looks:
            for zone in (each for each in ZONE_INFO if each in look.seen or each in look.zones):
                cells: dict[str, object] = {
                    "record": kept.id,
                    "sitter": nickname,
                    "worn_from": kept.worn.from_,
                    "temperature_c": "" if kept.worn.temperature_c is None else kept.worn.temperature_c,
                    "humidity_pc": "" if kept.worn.humidity_pc is None else kept.worn.humidity_pc,
                    "after_min": look.after_min,
                    "light": look.light,
                    "zone": zone,
                    **{sign: look.zones.get(zone, {}).get(sign, 0) for sign in SIGN_INFO},
                    "note": look.note,
                    "next_time": look.next_time,
                }
                table.writerow({name: written(value) for name, value in cells.items()})
    return out.getvalue()
