"""The second look: the colour forecast once the base has settled, against what was read."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass, replace

import numpy as np

from nabrel.core.base.appearance import appear
from nabrel.core.case.product import Product
from nabrel.core.face.reading import read
from nabrel.core.film.difference import delta_e
from nabrel.core.film.direction import direction
from nabrel.core.film.spectra import as_lab
from nabrel.core.house import House
from nabrel.core.house.viewing import seen
from nabrel.core.judge.evaluate import course_of
from nabrel.core.learn.record import Look
from nabrel.core.plan.sequence import Sequence
from nabrel.core.solve.join import settled_product
from nabrel.core.terms.colour import Lab
from nabrel.core.terms.ids import Zone

SETTLES_MIN = 30.0
"""A product's own shift is stated for half an hour; before that a share of it."""
SAME_DE = 1.5
"""Nearer than this, a reading on living skin and a forecast are the same."""


@dataclass(frozen=True, slots=True)
class ColourSeen:
    """One colour that was read at a look, against the forecast for that minute: their ΔE00, and how the one read differs."""

    after_min: float
    zone: Zone
    forecast: Lab
    read: Lab
    de: float
    says: str


def settled_colours(sequence: Sequence, house: House, after_min: float = SETTLES_MIN) -> Mapping[Zone, Lab]:
    """The colour of every zone so many minutes after the last layer: products that darken have done so by their stated shift.

    Nothing is forecast of what powder loses by taking up oil.
    """
    here = seen(sequence.case.intent.viewing, house)
    reading = read(sequence.case, here)
    share = min(1.0, after_min / SETTLES_MIN)
    kit = tuple(_after(item, share) for item in sequence.case.kit)
    settled = replace(sequence, case=replace(sequence.case, kit=kit))
    shown = appear(settled, reading, course_of(settled, house))
    return {zone: as_lab(shown.last_lab(zone)) for zone in reading.zones}


def _after(item: Product, share: float) -> Product:
    if item.half_hour is None:
        return item
    lightness, red, yellow = item.half_hour
    return settled_product(replace(item, half_hour=(lightness * share, red * share, yellow * share)))


def colours_seen(sequence: Sequence, house: House, looks: Iterable[Look]) -> Iterator[ColourSeen]:
    """Every colour that was read, against its forecast."""
    for look in looks:
        if not look.colours:
            continue
        forecast = settled_colours(sequence, house, look.after_min)
        for zone, lab in look.colours.items():
            de = float(delta_e(np.array(lab), np.array(forecast[zone])))
            says = "as forecast" if de < SAME_DE else f"{direction(lab, forecast[zone])} than forecast"
            yield ColourSeen(look.after_min, zone, forecast[zone], lab, de, says)
