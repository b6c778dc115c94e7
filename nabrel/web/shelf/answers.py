"""Wire models of the Shelf room: the kit, tools, named kits, tables on their way in, and what a film does."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from nabrel.core.case.product import Product
from nabrel.core.shelf.tools import NamedKit, OwnedTool
from nabrel.core.terms.colour import Lab
from nabrel.core.terms.conditions import DepthClass
from nabrel.core.terms.ids import Base
from nabrel.core.terms.limits import LIMITS, Ident
from nabrel.web.shared.wire import Answer, Body, Query


class KitWire(Answer):
    """The shelf, in its order."""

    items: list[Product]
    swatches: dict[str, str]
    depths: dict[str, DepthClass]
    standing: dict[str, StandingWire]
    twins: list[TwinsWire]
    kits: list[NamedKit]
    versions: dict[str, int]
    kit_versions: dict[str, int]


class TableRowWire(Answer):
    """One row of a table: what taking it in would do, or what is wrong with it."""

    line: int
    name: str
    status: Literal["new", "same", "changed", "problem"]
    says: str
    swatch: str | None


class TableWire(Answer):
    """A table before it is taken in."""

    rows: list[TableRowWire]


class TakenWire(Answer):
    """What taking a table in did."""

    added: int
    changed: int
    left_out: int


class TakeQuery(Query):
    """Whether rows with problems may be left out; else one of them refuses the whole table."""

    leave_out: bool = False


class IngredientsBody(Body):
    """A pasted ingredient list."""

    text: Annotated[str, Field(max_length=8000)]


class IngredientsWire(Answer):
    """What a list says."""

    ingredients: list[str]
    base: Base | None
    evidence: list[str]
    says: str
    allergens: list[str]


class DrawdownBody(Body):
    """Two readings of one film, over a black and a white card, and how thick it is when dry, µm."""

    over_black: Lab
    over_white: Lab
    film_um: Annotated[float, Field(ge=LIMITS.drawdown_um.low, le=LIMITS.drawdown_um.high)]


class DrawdownWire(Answer):
    """What the readings say: the masstone, and the contrast ratio at 9 µm."""

    lab: Lab
    cover: float


class FilmPreviewWire(Answer):
    """An item's film at 9 µm: over black, white, light and deep skin, and its contrast ratio; grounds beside them."""

    masstone: str
    over_black: str
    over_white: str
    light_skin: str
    over_light_skin: str
    deep_skin: str
    over_deep_skin: str
    contrast_ratio: float


class StandingWire(Answer):
    """How an item stands today: about its months, and about what is left."""

    state: Literal["good", "soon", "over"]
    low: bool
    says: str


class TwinsWire(Answer):
    """Two items that may be one."""

    keep: str
    other: str
    why: str


class ToolWire(Answer):
    """A tool, and whether it may touch the next sitter."""

    tool: OwnedTool
    words: str
    ready: bool
    says: str
    version: int


class ToolsWire(Answer):
    """Every tool that is owned."""

    tools: list[ToolWire]


class MergeBody(Body):
    """The item that stays, and the one that goes into it."""

    keep: Ident
    other: Ident
