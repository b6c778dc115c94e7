"""Skin readings in files: CSV with one row a reading, and colour readings as CGATS.17 text.

CGATS.17 (ANSI, also ISO 28178) is the graphic trade's exchange format for colour measurements: keywords, a data
format, and rows of cells. Of it we read tables that hold ``LAB_L LAB_A LAB_B`` and name their place in ``SAMPLE_NAME``
or ``SAMPLE_ID``, and write the same.
"""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from datetime import date, datetime
from difflib import get_close_matches

from nabrel.core.errors import Refused
from nabrel.core.face.measuring import PLACES, SkinReading, place_words
from nabrel.formats.checks import check_skin_reading
from nabrel.formats.tables import MOST_ROWS, cells_of, number_of, table_of, text_of, triple_of, written
from nabrel.formats.values import dumped_value, value_of

COLUMNS: tuple[str, ...] = (
    "day", "place", "what", "lab_l", "lab_a", "lab_b", "value", "takes", "spread", "source",
)  # fmt: skip
LAB = ("lab_l", "lab_a", "lab_b")
CGATS_LAB = ("LAB_L", "LAB_A", "LAB_B")


@dataclass(frozen=True, slots=True)
class ReadingLine:
    """One row: its line in the file, the reading it makes, or what is wrong with it."""

    line: int
    name: str
    reading: SkinReading | None
    refused: Refused | None


def read_readings(data: bytes, today: date) -> tuple[ReadingLine, ...]:
    """Every row of a file of readings, CSV or CGATS.17, judged by itself.

    ``today`` stands in where a file names no day. Refuses what is neither.
    """
    first = text_of(data).lstrip()[:2000]
    if first.upper().startswith("CGATS") or "BEGIN_DATA_FORMAT" in first:
        return _read_cgats(text_of(data), today)
    header, rows = table_of(data, COLUMNS, ("place",))
    return tuple(_row(line, header, cells, today) for line, cells in rows)


def write_readings(readings: Iterable[SkinReading]) -> str:
    """Readings as CSV: commas, decimal points, one header row."""
    out = io.StringIO()
    table = csv.DictWriter(out, COLUMNS, lineterminator="\n")
    table.writeheader()
    for reading in readings:
        cells: dict[str, object] = {
            **{name: value for name, value in dumped_value(reading).items() if name in COLUMNS},
            **dict(zip(LAB, reading.lab or ("", "", ""), strict=True)),
        }
        table.writerow({name: written(value) for name, value in cells.items()})
    return out.getvalue()


def write_cgats(readings: Iterable[SkinReading]) -> str:
    """Colour readings as CGATS.17 text; readings of oil and moisture have no place in it."""
    rows = [reading for reading in readings if reading.lab is not None]
    fields = ("SAMPLE_ID", "SAMPLE_NAME", "READING_DAY", *CGATS_LAB)
    lines = [
        "CGATS.17",
        'ORIGINATOR "Nabrel"',
        'MEASUREMENT_GEOMETRY "unspecified"',
        'WEIGHTING_FUNCTION "ILLUMINANT, D65"',
        'WEIGHTING_FUNCTION "OBSERVER, 2 degree"',
        'KEYWORD "READING_DAY"',
        f"NUMBER_OF_FIELDS {len(fields)}",
        "BEGIN_DATA_FORMAT",
        " ".join(fields),
        "END_DATA_FORMAT",
        f"NUMBER_OF_SETS {len(rows)}",
        "BEGIN_DATA",
    ]
    for number, reading in enumerate(rows, 1):
        assert reading.lab is not None
        lines.append(" ".join([str(number), reading.place, reading.day.isoformat(), *map(repr, reading.lab)]))
    return "\n".join([*lines, "END_DATA", ""])


def _row(line: int, header: list[str], cells: list[str], today: date) -> ReadingLine:
    named = dict(zip(header, cells, strict=False)).get("place", "").strip() or f"line {line}"
    try:
        given = cells_of(header, cells)
        values: dict[str, object] = {
            "day": _day(given.get("day"), today),
            "place": _place(given.get("place", "")),
            "lab": triple_of(given, LAB),
        }
        values.update({name: given[name] for name in ("what", "source") if name in given})
        values.update({name: number_of(name, given[name]) for name in ("value", "spread") if name in given})
        if "takes" in given:
            takes = number_of("takes", given["takes"])
            values["takes"] = int(takes) if takes.is_integer() else takes
        values.setdefault("source", "imported")
        return ReadingLine(line, named, _reading(values), None)
    except Refused as refused:
        return ReadingLine(line, named, None, refused)


def _reading(values: Mapping[str, object]) -> SkinReading:
    return check_skin_reading(value_of(SkinReading, dict(values)))


def _place(text: str) -> str:
    """A place by its id or its words. Refuses anything else."""
    plain = text.strip().casefold()
    for place in PLACES:
        if plain in (place, place.replace("_", " "), place_words(place).casefold()):
            return place
    close = get_close_matches(plain.replace(" ", "_"), PLACES, 1)
    raise Refused("place", text, "face, chest or a zone of the face" + (f" (nearest: {close[0]})" if close else ""))


_DAY_FORMS = ("%Y-%m-%d", "%d.%m.%Y", "%d/%m/%Y")


def _day(text: str | None, today: date) -> str:
    if not text:
        return today.isoformat()
    plain = text.split("T")[0].split(" ")[0]
    for form in _DAY_FORMS:
        try:
            return datetime.strptime(plain, form).date().isoformat()
        except ValueError:
            continue
    raise Refused("day", text, "a day as YYYY-MM-DD")


_WORD = re.compile(r'"((?:[^"]|"")*)"|(\S+)')


def _words(line: str) -> list[str]:
    return [quoted.replace('""', '"') if quoted or not plain else plain for quoted, plain in _WORD.findall(line)]


def _read_cgats(text: str, today: date) -> tuple[ReadingLine, ...]:
    fields: list[str] = []
    rows: list[ReadingLine] = []
    inside = ""
    created: str | None = None
    for number, raw in enumerate(text.splitlines(), 1):
        words = _words(raw.split("#", 1)[0] if '"' not in raw else raw)
        if not words:
            continue
        keyword = words[0].upper()
        if inside == "" and keyword == "CREATED" and len(words) > 1:
            created = _created(words[1])
        elif keyword == "BEGIN_DATA_FORMAT":
            inside, fields = "format", []
        elif keyword == "BEGIN_DATA":
            inside = "data"
            _check_fields(fields)
        elif keyword in ("END_DATA_FORMAT", "END_DATA"):
            inside = ""
        elif inside == "format":
            fields += [word.upper() for word in words]
        elif inside == "data":
            if len(rows) == MOST_ROWS:
                raise Refused("file", f"more than {MOST_ROWS} rows", f"at most {MOST_ROWS} rows")
            rows.append(_cgats_row(number, fields, words, created, today))
    if inside:
        raise Refused("file", f"no END_{'DATA' if inside == 'data' else 'DATA_FORMAT'}", "a whole CGATS.17 file")
    if not rows:
        raise Refused("file", "no rows", "rows between BEGIN_DATA and END_DATA")
    return tuple(rows)


def _check_fields(fields: list[str]) -> None:
    for wanted in CGATS_LAB:
        if wanted not in fields:
            raise Refused("BEGIN_DATA_FORMAT", " ".join(fields) or "nothing", f"a field {wanted}")
    if "SAMPLE_NAME" not in fields and "SAMPLE_ID" not in fields:
        raise Refused("BEGIN_DATA_FORMAT", " ".join(fields), "a field SAMPLE_NAME or SAMPLE_ID that names the place")


def _created(text: str) -> str | None:
    """The day a file was made, where it is written in a way that can be read."""
    found = re.search(r"\d{4}-\d{2}-\d{2}", text)
    return found.group() if found else None


def _cgats_row(line: int, fields: list[str], words: list[str], created: str | None, today: date) -> ReadingLine:
    given = dict(zip(fields, words, strict=False))
    name = given.get("SAMPLE_NAME") or given.get("SAMPLE_ID") or f"line {line}"
    try:
        if len(words) != len(fields):
            raise Refused("cells", len(words), f"{len(fields)} cells, as the data format has")
        lab = tuple(number_of(field, given[field]) for field in CGATS_LAB)
        values = {
            "day": _day(given.get("READING_DAY") or created, today),
            "place": _place(name),
            "lab": lab,
            "source": "imported",
        }
        return ReadingLine(line, name, _reading(values), None)
    except Refused as refused:
        return ReadingLine(line, name, None, refused)
