"""Wire models of the Shelf room: the kit, tools, named kits, tables on their way in, and what a film does."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from pydantic import Field

from nabrel.core.case.product import Product
from nabrel.core.case.tool import OwnedTool
from nabrel.core.shelf.age import ItemStanding
from nabrel.core.shelf.facts import Fact
from nabrel.core.shelf.guessing import GuessedLine
from nabrel.core.shelf.tools import NamedKit
from nabrel.core.solve.stripe import Nudge
from nabrel.core.terms.colour import Lab
from nabrel.core.terms.conditions import DepthClass
from nabrel.core.terms.ids import CoverClass, Role, Texture
from nabrel.core.terms.limits import LIMITS, Ident, one_line
from nabrel.web.shared.wire import AnswerModel, Body, Query


class KitWire(AnswerModel):
    """The shelf, in its order."""

    items: list[Product]
    swatches: dict[str, str]
    depths: dict[str, DepthClass]
    standing: dict[str, ItemStanding]
    open_facts: dict[str, list[Fact]]
    twins: list[TwinsWire]
    kits: list[NamedKit]
    versions: dict[str, int]
    kit_versions: dict[str, int]


class TableRowWire(AnswerModel):
    """One row of a table: what taking it in would do, or what is wrong with it."""

    line: int
    name: str
    status: Literal["new", "same", "changed", "problem"]
    says: str
    swatch: str | None


class TableWire(AnswerModel):
    """A table before it is taken in."""

    rows: list[TableRowWire]


class TakenWire(AnswerModel):
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


class DrawdownBody(Body):
    """Two readings of one film, over a black and a white card, and how thick it is when dry, µm."""

    over_black: Lab
    over_white: Lab
    film_um: Annotated[float, Field(ge=LIMITS.drawdown_um.low, le=LIMITS.drawdown_um.high)]


class DrawdownWire(AnswerModel):
    """What the readings say: the masstone, and the contrast ratio at 9 µm."""

    lab: Lab
    cover: float


class FilmPreviewWire(AnswerModel):
    """An item's film at 9 µm: over black, white, light and deep skin, and its contrast ratio; grounds beside them."""

    masstone: str
    over_black: str
    over_white: str
    light_skin: str
    over_light_skin: str
    deep_skin: str
    over_deep_skin: str
    contrast_ratio: float


class TwinsWire(AnswerModel):
    """Two items that may be one."""

    into: str
    other: str
    why: str


class ToolWire(AnswerModel):
    """A tool, and whether it may touch the next sitter."""

    tool: OwnedTool
    words: str
    ready: bool
    says: str
    version: int


class ToolsWire(AnswerModel):
    """Every tool that is owned."""

    tools: list[ToolWire]


class MergeBody(Body):
    """The item that stays, and the one that goes into it."""

    into: Ident
    other: Ident


class DescribedBody(Body):
    """An item in a few words: its shade as judged by eye, or as another item's, or by a hue for a skin."""

    name: Annotated[str, one_line(120, least=1)]
    role: Role
    lab: Lab | None = None
    lab_sd: Annotated[float, Field(ge=0, le=20)] | None = None
    like: Ident | None = None
    nudges: Annotated[tuple[Nudge, ...], Field(max_length=2)] = ()
    hue: str | None = None
    cover: CoverClass | None = None
    texture: Texture | None = None
    skin: Lab | None = None


class GuessedItemWire(AnswerModel):
    """The item as far as it can be told; nothing is saved."""

    item: Product
    swatch: str | None


class PastedBody(Body):
    """A pasted list, an item a line, and the skin that shades are told from."""

    text: Annotated[str, Field(max_length=40_000)]
    skin: Lab | None = None


@dataclass(frozen=True, kw_only=True)
class PastedLineWire(GuessedLine):
    """One line: the item it was read as, or why it was not."""

    swatch: str | None


class PastedWire(AnswerModel):
    """A pasted list as it was understood; nothing is saved."""

    lines: list[PastedLineWire]


class ItemsBody(Body):
    """Items to put on the shelf beside those there."""

    items: Annotated[tuple[Product, ...], Field(min_length=1, max_length=300)]


class GenericBody(Body):
    """The skin that a generic kit is made for."""

    skin: Lab
