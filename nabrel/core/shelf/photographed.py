"""Items read from a photograph of a card: their colour and cover measured, the rest as it is known or usual, and how far off a guess was."""

from __future__ import annotations

from collections.abc import Collection, Iterable
from dataclasses import dataclass, replace
from math import hypot

from nabrel.core.case.product import Product
from nabrel.core.errors import Impossible, Refused
from nabrel.core.film.difference import delta_e
from nabrel.core.film.direction import direction
from nabrel.core.house import House
from nabrel.core.shelf.guessing import DescribedItem, described_item
from nabrel.core.terms.colour import Lab
from nabrel.core.terms.ids import Role
from nabrel.core.terms.products import ROLE_INFO

KNOWN_SD_DE, KNOWN_SD_COVER = 1.0, 0.02
"""How unsure a colour and a cover are taken to be where nobody said."""
BEYOND = 1.645
"""Of ten that are as sure as they say, nine lie within so many standard deviations."""
LEAST_DE, LEAST_COVER = 2.0, 0.05
"""Nearer than this, nobody would call a guess wrong."""
DE_PER_COVER = 20.0
"""So much ΔE00 counts a whole share of cover when items are told apart: five hundredths are as one ΔE00."""
LIKELY, APART = 6.0, 2.0
"""An item is likely the one on the card within the first, and where the next is further by the second, as a factor."""


@dataclass(frozen=True, slots=True)
class PhotographedFilm:
    """One film as it was read, ΔE00 and share unsure; ``cover`` is None where the film was opaque."""

    lab: Lab
    lab_sd: float
    cover: float | None = None
    cover_sd: float | None = None


@dataclass(frozen=True, slots=True)
class Against:
    """A film against what an item has so far: ΔE00, and with cover counted in (``off``).

    ``far`` tells whether it is further off than both are unsure, ``surer`` whether the film is surer than what the item has.
    """

    item: str
    de: float
    off: float
    far: bool
    surer: bool
    says: str


def measured_item(item: Product, film: PhotographedFilm) -> Product:
    """The item with colour and cover as they were read. Refuses one that has no colour."""
    if item.lab is None:
        raise Impossible("item", item.name, "an item that has a colour")
    coloured = replace(item, lab=film.lab, lab_sd=round(film.lab_sd, 2), source="photo")
    if film.cover is None:
        return coloured
    return replace(
        coloured, cover=round(film.cover, 3), cover_sd=None if film.cover_sd is None else round(film.cover_sd, 3)
    )


def new_item(name: str, role: Role, film: PhotographedFilm, house: House, taken: Collection[str] = ()) -> Product:
    """A new item of this colour and cover; the rest is what is usual for its role. Refuses a role that has no colour."""
    if not ROLE_INFO[role].coloured:
        raise Refused("role", role, "one of " + ", ".join(each for each, info in ROLE_INFO.items() if info.coloured))
    return measured_item(described_item(DescribedItem(name, role, film.lab, film.lab_sd), house, taken), film)


def against(item: Product, film: PhotographedFilm) -> Against:
    """A film against an item with a colour."""
    assert item.lab is not None, "callers ask of coloured items"
    de = float(delta_e(film.lab, item.lab))
    own_sd = KNOWN_SD_DE if item.lab_sd is None else item.lab_sd
    sure, apart = hypot(film.lab_sd, own_sd), 0.0
    far = de > max(LEAST_DE, BEYOND * sure)
    was = "guessed" if item.source in ("guessed", "eye", "stripe") else "kept"
    said = [f"{direction(film.lab, item.lab)}, ΔE00 {de:.1f}"]
    if film.cover is not None and item.cover is not None:
        apart = abs(film.cover - item.cover)
        own = KNOWN_SD_COVER if item.cover_sd is None else item.cover_sd
        far = far or apart > max(LEAST_COVER, BEYOND * hypot(film.cover_sd or 0.0, own))
        said.append(f"cover {film.cover:.0%} instead of {item.cover:.0%}".replace("%", " %"))
    lead = f"Further off what was {was} than both are unsure" if far else f"As {was}, within what is unsure"
    off = hypot(de, DE_PER_COVER * apart)
    return Against(item.id, round(de, 2), round(off, 2), far, film.lab_sd < own_sd, f"{lead}: {'; '.join(said)}.")


def compared(items: Iterable[Product], film: PhotographedFilm) -> tuple[Against, ...]:
    """A film against every item that has a colour, the nearest first."""
    return tuple(sorted((against(each, film) for each in items if each.lab is not None), key=lambda each: each.off))


def likely(items: Iterable[Product], film: PhotographedFilm) -> str | None:
    """The item that is likely the one on the card: near, and no other nearly as near. None where that cannot be said.

    Powders are left aside: no blade draws them.
    """
    nearest = compared((each for each in items if not each.dry), film)
    if not nearest or nearest[0].off > LIKELY:
        return None
    return nearest[0].item if len(nearest) < 2 or nearest[1].off > APART * nearest[0].off else None
