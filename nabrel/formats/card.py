"""``card`` and ``card_reading``: where everything lies on a printed card, and what a photograph of it says."""

from __future__ import annotations

from typing import Annotated, Literal

from annotated_types import MaxLen, MinLen

from nabrel.core.card.layout import (
    LEAST_GREYS,
    MARKERS,
    MOST_CELLS,
    MOST_GREYS,
    Box,
    Card,
    CardCell,
    Grey,
    Marker,
    PaperMm,
    Reflectance,
)
from nabrel.core.card.reading import CardReading, CellReading, SeenColour
from nabrel.core.errors import Refused
from nabrel.core.terms.colour import Lab
from nabrel.formats.files import Document
from nabrel.formats.loader import read
from nabrel.formats.values import filled


class CardFile(Document):
    """``card``: millimetres from the upper left of the paper; boxes are x, y, width, height. ``calibrated`` where the reflectances are
    those of one printer.
    """

    nabrel: Literal["card"] = "card"
    version: Literal[1] = 1
    size_mm: tuple[PaperMm, PaperMm]
    markers: Annotated[tuple[Marker, ...], MinLen(MARKERS), MaxLen(MARKERS)]
    greys: Annotated[tuple[Grey, ...], MinLen(LEAST_GREYS), MaxLen(MOST_GREYS)]
    cells: Annotated[tuple[CardCell, ...], MaxLen(MOST_CELLS)]
    window: Box
    paper: Reflectance
    ink: Reflectance
    calibrated: bool = False

    @classmethod
    def of(cls, card: Card) -> CardFile:
        """The file of a card."""
        return filled(cls, card, nabrel="card", version=1)

    @property
    def card(self) -> Card:
        """It as pictures of it are read."""
        return filled(Card, self)


class CellReadingModel(Document):
    """What one cell says; figures are null where nothing is on it or it cannot be read, ``because`` says why."""

    id: str
    filled: bool
    over_white: SeenColour | None
    over_black: SeenColour | None
    contrast_ratio: float | None
    masstone: Lab | None
    masstone_sd: float | None
    cover: float | None
    cover_sd: float | None
    because: str


class CardReadingFile(Document):
    """``card_reading``: what a photograph of a card says; not taken well, it says why and gives no figures."""

    nabrel: Literal["card_reading"] = "card_reading"
    version: Literal[1] = 1
    taken_well: bool
    because: list[str]
    cells: list[CellReadingModel]
    window: SeenColour | None

    @classmethod
    def of(cls, found: CardReading) -> CardReadingFile:
        """The file of a reading."""
        return cls(
            taken_well=True,
            because=list(found.because),
            cells=[filled(CellReadingModel, each) for each in found.cells],
            window=found.window,
        )

    @classmethod
    def refused(cls, card: Card, because: str) -> CardReadingFile:
        """The file of a picture that says nothing, and why."""
        cells = [filled(CellReadingModel, CellReading(each.id, False)) for each in card.cells]
        return cls(taken_well=False, because=[because], cells=cells, window=None)


def read_card_file(data: bytes) -> Card:
    """A card from its file. Refuses what is none, markers that are not its own four, and paper that is not paler than ink."""
    file = read(data, CardFile, "card")
    if sorted(each.id for each in file.markers) != list(range(MARKERS)):
        raise Refused("markers", [each.id for each in file.markers], "the markers 0, 1, 2 and 3")
    if file.paper < file.ink + 0.3:
        raise Refused("paper", file.paper, f"paler than the ink by 0.3 and more: at least {file.ink + 0.3:g}")
    width, height = file.size_mm
    boxes = {"window": file.window, **{f"greys[{n}].box": g.box for n, g in enumerate(file.greys)}}
    for number, cell in enumerate(file.cells):
        boxes.update(
            {f"cells[{number}].{name}": getattr(cell, name) for name in ("black", "white", "over_black", "over_white")}
        )
    for name, (x, y, w, h) in boxes.items():
        if x + w > width or y + h > height:
            raise Refused(name, [x, y, w, h], "a box on the paper")
    names = [each.id for each in file.cells]
    if len(set(names)) < len(names):
        raise Refused("cells", "an id twice", "each cell once")
    return file.card
