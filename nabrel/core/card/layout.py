"""The card: markers at its corners, a ladder of greys along two edges, cells half black half white, and a window for skin.

Everything is in millimetres from the upper left corner of the paper; a box is x, y, width and height. The reflectances of paper
and ink are those of ordinary white paper and black toner; a printer that was calibrated has its own.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from functools import lru_cache
from math import log
from typing import Annotated, Literal, get_args

from annotated_types import Ge, Gt, Le, MaxLen, MinLen
from pydantic import StringConstraints

from nabrel.core.errors import Refused
from nabrel.core.house import PARAMETERS, House
from nabrel.core.terms.rounding import Rounded

Mm = Annotated[float, Ge(0.0), Le(500.0), Rounded(2)]
PaperMm = Annotated[float, Ge(60.0), Le(500.0)]
Side = Annotated[float, Gt(0.0), Le(500.0), Rounded(2)]
Box = tuple[Mm, Mm, Side, Side]
MARKERS, LEAST_GREYS, MOST_GREYS, MOST_CELLS = 4, 6, 60, 60
CellName = Annotated[str, StringConstraints(pattern="^[a-z][0-9]{1,2}$")]
CardSize = Literal["kit", "skin"]
CARD_KINDS: tuple[CardSize, ...] = get_args(CardSize)
FAMILY: Literal["aruco_4x4_50"] = "aruco_4x4_50"
MARKER_MM, EDGE_MM = 20.0, 4.0
PAPER, INK, MIDDLE = (PARAMETERS[name].default for name in ("card_white", "card_black", "card_middle"))
LADDER = (INK, 0.09, 0.15, 0.22, MIDDLE, 0.40, 0.50, 0.61, 0.73)
"""Reflectances of the grey steps; white paper is the last one."""
INNER_MM = 2.0
"""So far within a half's edge a drawn film is read: its own edges are thicker or thinner."""
RULER_MM = 50.0
DARKEST_GREY, PALEST_GREY = 1.5, 0.9
"""A known grey lies between so many times the black, and the white: nearer to either it says nothing of the dots between."""
NO_DOTS = 0.02
"""Share of paper (or of ink) below which a grey shows no dots."""
WHITE_SIDE_MM, WHITE_STEP_MM, CLEAR_MM = 3.0, 4.0, 1.2
"""Squares of bare paper: their side and the first one's place, from one to the next, and how far they stay from what is printed."""
Reflectance = Annotated[float, Ge(0.0), Le(1.0)]


@dataclass(frozen=True, slots=True)
class Marker:
    """One marker: its number in the family, its upper left corner and its side."""

    family: Literal["aruco_4x4_50"]
    id: Annotated[int, Ge(0), Le(49)]
    x: Mm
    y: Mm
    size: Annotated[float, Ge(8.0), Le(60.0)]


@dataclass(frozen=True, slots=True)
class Grey:
    """One step of the ladder and how much light it gives back."""

    box: Box
    reflectance: Annotated[float, Gt(0.0), Le(1.0)]


@dataclass(frozen=True, slots=True)
class CardCell:
    """One cell: its black and its white half, and within each the part that is read."""

    id: CellName
    black: Box
    white: Box
    over_black: Box
    over_white: Box

    @property
    def whole(self) -> Box:
        """Both halves: the white one is right of the black one."""
        x, y, width, height = self.black
        return (x, y, width + self.white[2], height)


@dataclass(frozen=True, slots=True)
class Card:
    """A card as it is printed; ``calibrated`` says whether the reflectances are this printer's own."""

    size_mm: tuple[PaperMm, PaperMm]
    markers: Annotated[tuple[Marker, ...], MinLen(MARKERS), MaxLen(MARKERS)]
    greys: Annotated[tuple[Grey, ...], MinLen(LEAST_GREYS), MaxLen(MOST_GREYS)]
    cells: Annotated[tuple[CardCell, ...], MaxLen(MOST_CELLS)]
    window: Box
    paper: Reflectance = PAPER
    ink: Reflectance = INK
    calibrated: bool = False

    @property
    def whites(self) -> tuple[Box, ...]:
        """Places of bare paper, all over the card: the light is told from them."""
        return _whites_of(self)


@dataclass(frozen=True, slots=True)
class Printer:
    """What one printer's white, black and middle grey really give back: read once beside something known."""

    paper: float
    ink: float
    middle: float | None = None
    """The reflectance of the ladder's middle step; None takes it as printed."""


def card(size: CardSize = "kit", printer: Printer | None = None) -> Card:
    """The card for a kit, A5 across, or the one for skin alone, half of that. Refuses a printer whose black is not dark or white not pale."""
    made = _kit() if size == "kit" else _skin()
    return made if printer is None else calibrated(made, printer)


def house_card(size: CardSize, house: House) -> Card:
    """The card as the house prints it: calibrated where its white, black or middle grey was decided. Refuses what no printer gives."""
    decided = {each.name for each in house.decided}
    if not decided & {"card_white", "card_black", "card_middle"}:
        return card(size)
    middle = house.card_middle if "card_middle" in decided else None
    return card(size, Printer(house.card_white, house.card_black, middle))


def calibrated(found: Card, printer: Printer) -> Card:
    """A card as this printer prints it: halftone greys lie between its own black and white, bent as its middle grey is."""
    for name, value in (("card_white", printer.paper), ("card_black", printer.ink)):
        each = PARAMETERS[name]
        if not each.low <= value <= each.high:
            raise Refused(each.words, value, f"a reflectance of {each.low:g} to {each.high:g}")
    bend = 1.0
    if printer.middle is not None:
        if not printer.ink < printer.middle < printer.paper:
            raise Refused("card middle", printer.middle, "a reflectance between those of ink and paper")
        bend = _bend(_share(MIDDLE, PAPER, INK), _share(printer.middle, printer.paper, printer.ink))
    greys = tuple(
        replace(each, reflectance=round(printer.ink + _share(each.reflectance, PAPER, INK) ** bend * (printer.paper - printer.ink), 4))
        for each in found.greys
    )  # fmt: skip
    return replace(found, greys=greys, paper=printer.paper, ink=printer.ink, calibrated=True)


def by_known_grey(seen: float, known: float, white: float, black: float) -> Printer:
    """A printer of this white and black, by a grey whose reflectance is known and what a card that is not calibrated showed of it.

    The known grey looks as one that is printed with some dots: so many dots give back what it does, which tells how far dots
    grow (the share of paper between them to a power). Refuses a grey outside white and black, and what no printer does.
    """
    darkest, palest = DARKEST_GREY * black, PALEST_GREY * white
    if not darkest <= known <= palest:
        raise Refused(
            "known",
            round(known, 3),
            f"a grey of {darkest:.2f} to {palest:.2f}, between the card's black and white",
        )
    share = _share(seen, PAPER, INK)
    if not NO_DOTS < share < 1.0 - NO_DOTS:
        raise Refused("photo", f"a grey of {seen:.2f} in the window", "one between the card's black and white")
    bend = _bend(share, _share(known, white, black))
    middle = round(black + _share(MIDDLE, PAPER, INK) ** bend * (white - black), 3)
    each = PARAMETERS["card_middle"]
    if not each.low <= middle <= each.high:
        raise Refused(
            "known",
            round(known, 3),
            f"one that puts the middle grey between {each.low:g} and {each.high:g}; it would be {middle:g}",
        )
    return Printer(white, black, middle)


def ink_share(grey: Grey) -> float:
    """The share of a grey box that is inked, so that paper and ink average to it, as the dots are drawn (Murray and Davies)."""
    return 1.0 - _share(grey.reflectance, PAPER, INK)


def _share(reflectance: float, paper: float, ink: float) -> float:
    return min(1.0, max(0.0, (reflectance - ink) / (paper - ink)))


def _bend(meant: float, found: float) -> float:
    return log(found) / log(meant)


def _corners(width: float, height: float) -> tuple[Marker, ...]:
    far_x, far_y = width - EDGE_MM - MARKER_MM, height - EDGE_MM - MARKER_MM
    places = ((EDGE_MM, EDGE_MM), (far_x, EDGE_MM), (EDGE_MM, far_y), (far_x, far_y))
    return tuple(Marker(FAMILY, number, x, y, MARKER_MM) for number, (x, y) in enumerate(places))


def _ladder(x: float, y: float, step: float, width: float, height: float, *, turned: bool = False) -> Iterator[Grey]:
    steps = tuple(reversed(LADDER)) if turned else LADDER
    for place, reflectance in enumerate(steps):
        yield Grey((round(x + place * step, 2), y, width, height), reflectance)


def _cell(name: str, x: float, y: float, width: float, height: float) -> CardCell:
    half = width / 2
    black, white = (x, y, half, height), (x + half, y, half, height)
    return CardCell(name, black, white, _within(black), _within(white))


def _within(box: Box) -> Box:
    x, y, width, height = box
    return (x + INNER_MM, y + INNER_MM, width - 2 * INNER_MM, height - 2 * INNER_MM)


def _kit() -> Card:
    width, height = 210.0, 148.0
    greys = (*_ladder(30, 5, 16.7, 14.7, 11), *_ladder(30, 132, 16.7, 14.7, 11, turned=True))
    rows = {"a": 24.0, "b": 60.0, "c": 96.0}
    cells = tuple(
        _cell(f"{row}{place + 1}", 30.0 + 29.0 * place, y, 26.0, 24.0) for row, y in rows.items() for place in range(4)
    )
    return Card((width, height), _corners(width, height), greys, cells, (152.0, 60.0, 28.0, 26.0))


def _skin() -> Card:
    width, height = 148.0, 105.0
    greys = (*_ladder(28, 5, 10.3, 8.8, 11), *_ladder(28, 89, 10.3, 8.8, 11, turned=True))
    return Card((width, height), _corners(width, height), greys, (), (54.0, 38.0, 40.0, 30.0))


@lru_cache(maxsize=8)
def _whites_of(found: Card) -> tuple[Box, ...]:
    return tuple(_whites(found))


def _whites(found: Card) -> Iterator[Box]:
    """Squares of paper that nothing is printed on, on a grid."""
    width, height = found.size_mm
    taken: list[Box] = [(m.x, m.y, m.size, m.size) for m in found.markers]
    taken += [grey.box for grey in found.greys] + [found.window]
    taken += [half for cell in found.cells for half in (cell.black, cell.white)]
    # The how-to beside a cell, and names under it, are printed in grey: their rows are left out.
    side, step = WHITE_SIDE_MM, WHITE_STEP_MM
    for row in range(int((height - 2 * side) / step)):
        for column in range(int((width - 2 * side) / step)):
            box = (side + column * step, side + row * step, side, side)
            if not any(_touches(box, other) for other in (*taken, *WRITTEN[len(found.cells) > 0])):
                yield box


def _touches(one: Box, other: Box) -> bool:
    return (
        one[0] < other[0] + other[2] + CLEAR_MM and other[0] < one[0] + one[2] + CLEAR_MM
        and one[1] < other[1] + other[3] + CLEAR_MM and other[1] < one[1] + one[3] + CLEAR_MM
    )  # fmt: skip


WRITTEN: Mapping[bool, tuple[Box, ...]] = {
    True: ((30.0, 48.4, 113.0, 10.0), (30.0, 84.4, 113.0, 10.0), (30.0, 120.4, 113.0, 10.0), (148.0, 24.0, 58.0, 33.0),
           (148.0, 92.0, 58.0, 38.0), (4.0, 28.0, 23.0, 92.0)),
    False: ((4.0, 28.0, 46.0, 48.0), (98.0, 28.0, 46.0, 48.0)),
}  # fmt: skip
"""Where words, names and the how-to stand, for a card with cells and one without."""
