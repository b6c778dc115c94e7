"""Looks as a table: CSV with one row a zone that was looked at, a column a sign, for spreadsheets and statistics."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from difflib import get_close_matches
from typing import TypeVar

from nabrel.core.errors import Refused
from nabrel.core.learn.record import GRADES, LONGEST_DAY_MIN
from nabrel.core.terms.ids import Light, WearSign, Zone
from nabrel.core.terms.looks import LIGHT_INFO
from nabrel.core.terms.signs import SIGN_INFO
from nabrel.core.terms.zones import ZONE_INFO
from nabrel.formats.tables import cells_of, number_of, table_of, written
from nabrel.formats.values import value_of
from nabrel.formats.wear import Worn
from nabrel.formats.workspace import StoredWear

COLUMNS: tuple[str, ...] = (
    "record", "sitter", "worn_from", "temperature_c", "humidity_pc", "after_min", "light", "zone", *SIGN_INFO, "note", "next_time",
)  # fmt: skip


MOST_ROWS, MOST_BYTES = 200_000, 32_000_000
NEEDED = ("sitter", "worn_from", "after_min", "zone")


@dataclass(frozen=True, slots=True)
class ZoneSeen:
    """What one row says: on whose base, put on when, so many minutes after, what was seen on one zone."""

    record: str
    sitter: str
    worn: Worn
    after_min: float
    light: Light
    zone: Zone
    signs: Mapping[WearSign, int]
    note: str
    next_time: str

    @property
    def says(self) -> str:
        """It in words: "after 240 min on the tip of the nose: Shine 2"."""
        seen = ", ".join(f"{SIGN_INFO[sign].words} {grade}" for sign, grade in self.signs.items() if grade)
        return f"after {self.after_min:g} min {ZONE_INFO[self.zone].place}: {seen or 'nothing to see'}"


@dataclass(frozen=True, slots=True)
class LookRow:
    """One row: its line in the file, what it says, or what is wrong with it."""

    line: int
    name: str
    seen: ZoneSeen | None
    refused: Refused | None


def read_looks(data: bytes) -> tuple[LookRow, ...]:
    """Every row of a table of looks, judged by itself. Refuses what is no such table."""
    header, rows = table_of(data, COLUMNS, NEEDED, MOST_ROWS, MOST_BYTES)
    return tuple(_row(line, header, cells) for line, cells in rows)


def _row(line: int, header: list[str], cells: list[str]) -> LookRow:
    named = dict(zip(header, cells, strict=False)).get("sitter", "").strip() or f"line {line}"
    try:
        return LookRow(line, named, _seen(cells_of(header, cells)), None)
    except Refused as refused:
        return LookRow(line, named, None, refused)


def _seen(given: dict[str, str]) -> ZoneSeen:
    for column in NEEDED:
        if column not in given:
            raise Refused(column, None, "a value in every row")
    worn: dict[str, object] = {"from": given["worn_from"]}
    worn.update({name: number_of(name, given[name]) for name in ("temperature_c", "humidity_pc") if name in given})
    after = number_of("after_min", given["after_min"])
    if not 0 <= after <= LONGEST_DAY_MIN:
        raise Refused("after_min", given["after_min"], f"0 to {LONGEST_DAY_MIN:g} min")
    return ZoneSeen(
        record=given.get("record", ""),
        sitter=given["sitter"],
        worn=value_of(Worn, worn),
        after_min=after,
        light=_one_of("light", given.get("light", "daylight"), LIGHT_INFO),
        zone=_one_of("zone", given["zone"], ZONE_INFO),
        signs={sign: grade for sign in SIGN_INFO if sign in given and (grade := _grade(sign, given[sign]))},
        note=given.get("note", ""),
        next_time=given.get("next_time", ""),
    )


def _grade(sign: str, text: str) -> int:
    found = number_of(sign, text)
    if found not in range(GRADES + 1):
        raise Refused(sign, text, f"a whole number from 0 to {GRADES}")
    return int(found)


Id = TypeVar("Id", bound=str)


def _one_of(column: str, text: str, table: Mapping[Id, object]) -> Id:
    found = next((each for each in table if text in (each, each.replace("_", " "))), None)
    if found is None:
        close = get_close_matches(text, table, 1)
        raise Refused(column, text, f"the id of a {column}" + (f" (nearest: {close[0]})" if close else ""))
    return found


def write_looks(records: Iterable[tuple[str, StoredWear]]) -> str:
    """The looks of records, each with its sitter's nickname: commas, decimal points, one header row. 0 is nothing seen."""
    out = io.StringIO()
    table = csv.DictWriter(out, COLUMNS, lineterminator="\n")
    table.writeheader()
    for nickname, stored in records:
        for look in stored.looks:
            for zone in (each for each in ZONE_INFO if each in look.seen or each in look.zones):
                cells: dict[str, object] = {
                    "record": stored.id,
                    "sitter": nickname,
                    "worn_from": stored.worn.from_,
                    "temperature_c": "" if stored.worn.temperature_c is None else stored.worn.temperature_c,
                    "humidity_pc": "" if stored.worn.humidity_pc is None else stored.worn.humidity_pc,
                    "after_min": look.after_min,
                    "light": look.light,
                    "zone": zone,
                    **{sign: look.zones.get(zone, {}).get(sign, 0) for sign in SIGN_INFO},
                    "note": look.note,
                    "next_time": look.next_time,
                }
                table.writerow({name: written(value) for name, value in cells.items()})
    return out.getvalue()
