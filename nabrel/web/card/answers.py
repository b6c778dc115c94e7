"""Wire models of the card: what a picture of it says, several pictures as one, and skin seen through its window."""

from __future__ import annotations

from typing import Annotated

from annotated_types import MaxLen, MinLen
from pydantic import Field

from nabrel.core.card.layout import CardSize, CellName
from nabrel.core.face.measuring import Place
from nabrel.core.terms.colour import Lab
from nabrel.core.terms.conditions import DepthClass
from nabrel.core.terms.limits import LIMITS, one_line
from nabrel.formats.sheet import Paper
from nabrel.web.shared.wire import AnswerModel, Body, Query

MOST_PICTURES = 20
Sd = Annotated[float, Field(ge=0.01, le=50)]
Micrometres = Annotated[float, Field(ge=LIMITS.drawdown_um.low, le=LIMITS.drawdown_um.high)]


class CardQuery(Query):
    """Which card, and on which paper it is printed."""

    size: CardSize = "kit"
    paper: Paper = "a4"


class PictureQuery(Query):
    """Which card the picture is of."""

    size: CardSize = "kit"


Reflected = Annotated[float, Field(ge=0.01, le=1)]


class GreyQuery(PictureQuery):
    """What is known: the reflectance of the grey in the window, and those of the printer's white and black."""

    known: Reflected
    white: Reflected
    black: Reflected


class PrinterBody(Body):
    """What a printer's white, black and middle grey give back; None leaves the middle as printed."""

    white: Reflected
    black: Reflected
    middle: Reflected | None = None
    note: Annotated[str, one_line(300)] = ""


class PrinterWire(AnswerModel):
    """A printer by a grey that is known; nothing is kept."""

    white: float
    black: float
    middle: float
    seen: float
    says: str


class SampleWire(AnswerModel):
    """A picture to try it with: where it is, and what is on it."""

    address: str
    size: CardSize
    words: str


class SamplesWire(AnswerModel):
    """Pictures to try it with, how thick the house draws films, µm, and what its printer gives back."""

    samples: list[SampleWire]
    film_um: float
    calibrated: bool
    white: float
    black: float
    middle: float


class SeenColourWire(AnswerModel):
    """A colour that was read, how unsure it is, ΔE00, and how it looks on a screen."""

    lab: Lab
    sd: float
    hex: str


class CellPictureWire(AnswerModel):
    """One cell of a picture; ``crop`` shows it as it was taken."""

    id: str
    filled: bool
    over_white: SeenColourWire | None
    over_black: SeenColourWire | None
    because: str
    crop: str | None


class CardPictureWire(AnswerModel):
    """What one picture of a card says; nothing of it was kept."""

    cells: list[CellPictureWire]
    window: SeenColourWire | None
    window_crop: str | None
    because: list[str]


class SeenBody(Body):
    """A colour that was read in a picture."""

    lab: Lab
    sd: Sd


class CellBody(Body):
    """A cell as one picture showed it."""

    id: CellName
    over_white: SeenBody
    over_black: SeenBody


class CardPictureBody(Body):
    """The cells of one picture that could be read."""

    cells: Annotated[tuple[CellBody, ...], MaxLen(60)]


class PooledBody(Body):
    """Pictures of one card, and how thick its films were drawn, µm; the house's thickness where it is left out."""

    pictures: Annotated[tuple[CardPictureBody, ...], MinLen(1), MaxLen(MOST_PICTURES)]
    film_um: Micrometres | None = None


class AgainstWire(AnswerModel):
    """A film against an item of the shelf: ΔE00, whether that is beyond what both are unsure, and whether the film is the surer."""

    item: str
    de: float
    far: bool
    surer: bool
    says: str


class FilmReadWire(AnswerModel):
    """One film from all pictures: masstone and cover, the items of the shelf by how near they are, and the likely one."""

    cell: str
    lab: Lab
    hex: str
    lab_sd: float
    depth: DepthClass
    cover: float | None
    cover_sd: float | None
    contrast_ratio: float
    because: str
    against: list[AgainstWire]
    likely: str | None


class PooledWire(AnswerModel):
    """Every film on a card."""

    films: list[FilmReadWire]


class SkinTakeBody(Body):
    """The window of one picture, and where it was held."""

    place: Place
    lab: Lab
    sd: Sd


class SkinPicturesBody(Body):
    """Windows of several pictures of one sitter."""

    takes: Annotated[tuple[SkinTakeBody, ...], MinLen(1), MaxLen(MOST_PICTURES)]


class SkinPlaceWire(AnswerModel):
    """One place from its pictures: colour, unsureness, how many pictures count, how far each is off, which to take again.

    ``before`` tells how far it is from the reading that counts so far, ``confirms`` whether it only agrees with an instrument's.
    """

    place: str
    words: str
    lab: Lab
    hex: str
    sd: float
    takes: int
    off: list[float]
    far: list[int]
    depth: DepthClass
    says: str
    before: str
    confirms: bool


class SkinPicturesWire(AnswerModel):
    """Every place that was seen."""

    places: list[SkinPlaceWire]
