"""``card`` and ``card_reading``: where everything lies on a printed card, and what a photograph of it says."""

from __future__ import annotations

from typing import Annotated, Literal

from annotated_types import MaxLen, MinLen
from pydantic import Field

from nabrel.core.card.layout import Box, Card, CardCell, Grey, Marker
from nabrel.core.card.reading import CardReading, CellReading, SeenColour
from nabrel.core.errors import Refused
from nabrel.core.terms.colour import Lab
from nabrel.formats.files import Document
from nabrel.formats.loader import read
from nabrel.formats.values import filled

Share = Annotated[float, Field(ge=0.0, le=1.0)]
Mm = Annotated[float, Field(ge=0.0, le=500.0)]
BoxMm = tuple[Mm, Mm, Annotated[float, Field(gt=0.0, le=500.0)], Annotated[float, Field(gt=0.0, le=500.0)]]
CellName = Annotated[str, Field(pattern="^[a-z][0-9]{1,2}$")]
MARKERS = 4


class MarkerModel(Document):
    """One marker of the card."""

    family: Literal["aruco_4x4_50"]
    id: Annotated[int, Field(ge=0, le=49)]
    x: Mm
    y: Mm
    size: Annotated[float, Field(ge=8.0, le=60.0)]


class GreyModel(Document):
    """One step of the ladder."""

    box: BoxMm
    reflectance: Annotated[float, Field(gt=0.0, le=1.0)]


class CellModel(Document):
    """One cell, half black half white, and what of it is read."""

    id: CellName
    black: BoxMm
    white: BoxMm
    over_black: BoxMm
    over_white: BoxMm


class CardFile(Document):
    """``card``: millimetres from the upper left of the paper; boxes are x, y, width, height. ``calibrated`` where the reflectances are
    those of one printer.
    """

    nabrel: Literal["card"] = "card"
    version: Literal[1] = 1
    size_mm: tuple[Annotated[float, Field(ge=60, le=500)], Annotated[float, Field(ge=60, le=500)]]
    markers: Annotated[tuple[MarkerModel, ...], MinLen(MARKERS), MaxLen(MARKERS)]
    greys: Annotated[tuple[GreyModel, ...], MinLen(6), MaxLen(60)]
    cells: Annotated[tuple[CellModel, ...], MaxLen(60)]
    window: BoxMm
    paper: Share
    ink: Share
    calibrated: bool = False

    @classmethod
    def of(cls, card: Card) -> CardFile:
        """The file of a card."""
        return cls(
            size_mm=card.size_mm,
            markers=tuple(filled(MarkerModel, m) for m in card.markers),
            greys=tuple(GreyModel(box=_box(each.box), reflectance=each.reflectance) for each in card.greys),
            cells=tuple(
                CellModel(
                    id=each.id, black=_box(each.black), white=_box(each.white), over_black=_box(each.over_black),
                    over_white=_box(each.over_white),
                )
                for each in card.cells
            ),
            window=_box(card.window), paper=card.paper, ink=card.ink, calibrated=card.calibrated,
        )  # fmt: skip

    @property
    def card(self) -> Card:
        """It as pictures of it are read."""
        return Card(
            self.size_mm,
            tuple(Marker(m.id, m.x, m.y, m.size) for m in self.markers),
            tuple(Grey(each.box, each.reflectance) for each in self.greys),
            tuple(CardCell(c.id, c.black, c.white, c.over_black, c.over_white) for c in self.cells),
            self.window, self.paper, self.ink, self.calibrated,
        )  # fmt: skip


class SeenModel(Document):
    """A colour that was read, L*a*b* (D65, 2°, a perfect diffuser 100), and its standard deviation, ΔE00."""

    lab: Lab
    sd: float


class CellReadingModel(Document):
    """What one cell says; figures are null where nothing is on it or it cannot be read, ``because`` says why."""

    id: str
    filled: bool
    over_white: SeenModel | None
    over_black: SeenModel | None
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
    window: SeenModel | None

    @classmethod
    def of(cls, found: CardReading) -> CardReadingFile:
        """The file of a reading."""
        return cls(
            taken_well=True,
            because=list(found.because),
            cells=[_cell(each) for each in found.cells],
            window=_seen(found.window),
        )

    @classmethod
    def refused(cls, card: Card, because: str) -> CardReadingFile:
        """The file of a picture that says nothing, and why."""
        cells = [_cell(CellReading(each.id, False)) for each in card.cells]
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


def _box(box: Box) -> BoxMm:
    x, y, width, height = (round(each, 2) for each in box)
    return (x, y, width, height)


def _seen(found: SeenColour | None) -> SeenModel | None:
    return None if found is None else SeenModel(lab=found.lab, sd=found.sd)


def _cell(each: CellReading) -> CellReadingModel:
    return filled(CellReadingModel, each, over_white=_seen(each.over_white), over_black=_seen(each.over_black))  # fmt: skip
