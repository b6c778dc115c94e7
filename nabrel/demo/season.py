"""Kestrel Quay through its season: dated readings of the guides, the course's tools and kits, and how the packs stand.

Days are told from the day on which the demo is filled, so that the shelf is always in use.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from datetime import date, timedelta

from nabrel.core.case.product import Product
from nabrel.core.case.tool import OwnedTool
from nabrel.core.face.measuring import SkinReading
from nabrel.core.shelf.tools import NamedKit

CONSENTED = 250
"""Days ago on which the guides agreed to the course's records."""


def readings(today: date) -> Mapping[str, tuple[SkinReading, ...]]:
    """Readings by nickname, taken at the start, in the middle and at the end of the season; the last are the records'."""

    def ago(days: int) -> date:
        return today - timedelta(days=days)

    def oil(days: int, value: float) -> SkinReading:
        return SkinReading(ago(days), "forehead_centre", "oil", value=value, source="probe")

    return {
        "Wren": (
            SkinReading(ago(232), "face", "colour", (72.4, 9.1, 13.2), None, 4, 0.5, "reader"),
            SkinReading(ago(118), "face", "colour", (69.6, 10.8, 15.1), None, 5, 0.6, "reader"),
            SkinReading(ago(9), "face", "colour", (71.0, 10.0, 14.0), None, 5, 0.4, "reader"),
            SkinReading(ago(9), "neck", "colour", (73.0, 8.0, 14.0), None, 3, 0.5, "reader"),
        ),
        "Tamsin": (
            SkinReading(ago(230), "face", "colour", (63.5, 10.2, 16.1), None, 4, 0.5, "reader"),
            SkinReading(ago(12), "face", "colour", (62.0, 11.0, 17.0), None, 4, 0.6, "reader"),
            SkinReading(ago(12), "neck", "colour", (64.0, 9.0, 16.0), None, 3, 0.3, "reader"),
        ),
        "Bram": (oil(230, 305), oil(120, 355), oil(8, 385)),
    }


def tools(today: date) -> tuple[OwnedTool, ...]:
    """The course's tools."""
    fresh, old = today - timedelta(days=20), today - timedelta(days=118)
    washed = today - timedelta(days=1)
    return (
        OwnedTool("sponge-a", "damp_sponge", "Damp sponge, pale end", "clean", washed, fresh),
        OwnedTool("sponge-b", "damp_sponge", "Damp sponge, dark end", "used", washed, old),
        OwnedTool("brush-dense", "dense_small_brush", "Dense small brush", "clean", washed),
        OwnedTool("brush-detail", "detail_brush", "Detail brush", "clean", washed),
        OwnedTool("brush-feather", "feathery_brush", "Feathery brush", "washing", today),
        OwnedTool("brush-fluffy", "fluffy_brush", "Fluffy brush", "clean", washed),
        OwnedTool("brush-angled", "angled_brush", "Angled brush", "clean", washed),
        OwnedTool("puff-a", "puff", "Puff", "clean", washed),
        OwnedTool("spatula", "spatula", "Steel spatula", "clean", washed),
        OwnedTool("wands", "disposable_wand", "Disposable wands", "clean"),
    )


def named_kits(items: tuple[Product, ...]) -> tuple[NamedKit, ...]:
    """A student's kit of the middle depths, and what goes to the lighthouse in a case."""
    plain = {"cleanser", "moisturiser", "eye_care", "primer", "setting_powder", "melting_mist", "setting_mist"}
    middle = tuple(i.id for i in items if i.role in plain or (i.lab is not None and 45 <= i.lab[0] <= 68))
    pale = tuple(i.id for i in items if i.role in plain or (i.lab is not None and i.lab[0] > 60))
    return (
        NamedKit(id="students", name="Students' kit", items=middle),
        NamedKit(id="gallery-case", name="Case for the gallery", items=pale[:40]),
    )


def in_use(items: tuple[Product, ...], today: date) -> tuple[Product, ...]:
    """The items of the box that are opened, with their months and what is left of them."""
    opened: Mapping[str, tuple[int, int, float]] = {
        "sun-1": (11 * 30 + 18, 12, 0.4),
        "eye-1": (5 * 30, 6, 0.55),
        "moi-gel": (90, 12, 0.7),
        "thin-1": (60, 24, 0.1),
        "moi-calm": (13 * 31, 12, 0.8),
    }
    changed = []
    for item in items:
        if item.id in opened:
            days, months, left = opened[item.id]
            changed.append(replace(item, opened_on=today - timedelta(days=days), keeps_months=months, left=left))
    return tuple(changed)
