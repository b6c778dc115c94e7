"""An item from a few words: what a name says about role, texture, shade and cover, and what is usual for the rest.

Everything that was not measured is marked as guessed, with how unsure it is, so that it can be measured later.
"""

from __future__ import annotations

import re
from collections.abc import Collection, Iterable, Mapping
from dataclasses import dataclass, replace
from typing import TypeVar

from nabrel.core.case.product import Product
from nabrel.core.errors import Refused
from nabrel.core.face.by_eye import TONES, grid
from nabrel.core.face.skin import Undertone
from nabrel.core.film.spectra import surface
from nabrel.core.house import House
from nabrel.core.shelf.generic import MADE_LIGHTNESS, generic_kit
from nabrel.core.terms.colour import Lab
from nabrel.core.terms.ids import Base, Condition, CoverClass, Finish, Role, Texture
from nabrel.core.terms.limits import MOST_ITEMS
from nabrel.core.terms.products import COVER_INFO, ROLE_INFO, TEXTURE_INFO

HUE_STRENGTHS = (1.0, 0.85, 0.7, 0.55, 0.4, 0.2)
"""Shares of a usual hue, tried one after another until a surface can be that colour."""
MOST_STEM = 40
"""Characters of an id that come from a name."""

T = TypeVar("T")
USUAL_SKIN: Lab = (63.1, 11.1, 17.1)
"""The skin a shade is told from where none is named: the middle of the grid."""
MOST_LINES, MOST_CHARACTERS = 300, 120

_ROLE_WORDS: tuple[tuple[Role, str], ...] = (
    ("setting_mist", r"setting (mist|spray)|fixing (mist|spray)|fixer"), ("melting_mist", r"mist|spray"),
    ("powder_foundation", r"powder foundation|foundation powder|compact foundation"),
    ("corrector", r"correct\w*|colou?r.correct\w*"), ("concealer", r"conceal\w*|cover stick"),
    ("foundation", r"foundation|skin tint|tinted (base|moisturi[sz]er)|base tint"),
    ("setting_powder", r"setting powder|loose powder|translucent|finishing powder|baking powder|veil powder"),
    ("bronzer", r"bronz\w+"), ("shade", r"contour\w*|shade|sculpt\w*"), ("glow", r"highlight\w*|glow|illuminat\w*|strobe|shimmer"),
    ("light", r"brighten\w*|light"), ("colour", r"blush\w*|cheek( tint| colou?r)?|rouge|colou?r|lip\w*"),
    ("lid_base", r"lid base|eyelid base|eye ?shadow base|eye ?shadow primer"), ("primer", r"primer|prime"),
    ("eye_care", r"eye (cream|gel|balm|care|serum)"), ("sunscreen", r"sunscreen|sun ?block|spf ?\d*"),
    ("cleanser", r"cleans\w+|micellar|make.?up remover|face wash"), ("toner", r"toner|tonic"),
    ("thinning_balm", r"thinning balm|balm"), ("mixer", r"mixer|mixing|adjuster"),
    ("moisturiser", r"moisturi[sz]er|day cream|cream|lotion|emulsion"), ("setting_powder", r"powder"),
)  # fmt: skip
"""What names call each role, the more particular first: the first that fits is taken."""
_TEXTURE_WORDS: tuple[tuple[Texture, str], ...] = (
    ("loose_powder", r"loose"), ("pressed_powder", r"pressed|pan|compact|powder"), ("stick", r"stick|crayon"),
    ("mousse", r"mousse|whip\w*"), ("balm", r"balm"), ("gel", r"gel|jelly"), ("cream", r"cream|creamy|pot"),
    ("mist", r"mist|spray"), ("liquid", r"liquid|fluid|serum|lotion|tint"),
)  # fmt: skip
_FINISH_WORDS: tuple[tuple[Finish, str], ...] = (
    ("matte", r"matt|matte|velvet"), ("satin", r"satin|natural|skin.?like"), ("dewy", r"dewy|luminous|radian\w+|glowy"),
    ("shimmer", r"shimmer\w*|pearl\w*"), ("glitter", r"glitter\w*"),
)  # fmt: skip
_COVER_WORDS: tuple[tuple[CoverClass, str], ...] = (
    ("opaque", r"opaque|camouflage"), ("full", r"full|high cover\w*"), ("medium", r"medium cover\w*|buildable"),
    ("light", r"light cover\w*"), ("sheer", r"sheer|veil|tint|translucent"),
)  # fmt: skip
_DEPTH_COLUMNS: tuple[tuple[int, str], ...] = (
    (0, r"porcelain|very (light|fair|pale)"), (10, r"very (deep|dark)|dark|espresso|ebony"), (2, r"ivory|fair|pale|light"),
    (4, r"beige|medium|intermediate"), (6, r"sand|tan"), (9, r"caramel|brown|deep"),
)  # fmt: skip
_TONE_ROWS: tuple[tuple[Undertone, str], ...] = (
    ("cool", r"cool|pink|rosy"), ("neutral", r"neutral"), ("warm", r"warm|golden|yellow|peachy"), ("olive", r"olive"),
)  # fmt: skip
_HUES: Mapping[str, tuple[float, float, float]] = {
    "red-orange": (-6, 30, 22), "pale pink": (3, 8, -4), "peach": (2, 12, 10), "apricot": (1, 16, 13), "salmon": (0, 18, 9),
    "orange": (-2, 22, 22), "yellow": (3, -2, 20), "green": (-2, -27, 3), "lavender": (1, 3, -24), "rose": (-8, 22, 0),
    "coral": (-6, 24, 14), "berry": (-18, 26, -4), "plum": (-22, 20, -10), "brick": (-14, 22, 12), "pink": (-3, 16, -4),
    "red": (-14, 32, 12), "brown": (-14, 6, 6),
}  # fmt: skip
"""How far hues lie from the skin they are made for, as ΔL*, Δa*, Δb*; the more particular names first."""
_SUITS_WORDS: tuple[tuple[tuple[Condition, ...], str], ...] = (
    (("enlarged_pores", "raised_texture", "oily"), r"pore\w*|blur\w*|smooth\w*"), (("oily",), r"matt\w*|oil|shine|gel"),
    (("dry", "dehydrated", "fine_lines"), r"hydrat\w*|water\w*|rich|dry|cream|nourish\w*"),
)  # fmt: skip
HUED: frozenset[Role] = frozenset({"corrector", "colour"})
HUES: tuple[str, ...] = tuple(_HUES)


@dataclass(frozen=True, slots=True)
class DescribedItem:
    """An item in a few words. ``lab`` is its shade as judged, else it follows from ``hue`` and ``skin``.

    ``lab_sd`` is how unsure that shade is (ΔE00); ``hue`` one of ``HUES`` for correctors and colour.
    """

    name: str
    role: Role
    lab: Lab | None = None
    lab_sd: float | None = None
    hue: str | None = None
    cover: CoverClass | None = None
    texture: Texture | None = None
    finish: Finish | None = None
    skin: Lab = USUAL_SKIN
    suits: tuple[Condition, ...] | None = None


def described_item(said: DescribedItem, house: House, taken: Collection[str] = ()) -> Product:
    """The item as far as it can be told: the rest is what is usual for its role, marked as guessed.

    Its id follows from its name and is none of those ``taken``. Refuses a hue that is not known.
    """
    if said.hue is not None and said.hue not in _HUES:
        raise Refused("hue", said.hue, "one of " + ", ".join(HUES))
    usual = _usual(said)
    texture = said.texture or usual.texture
    item = replace(
        usual,
        id=_free_id(said.name, taken),
        name=said.name,
        texture=texture,
        base=_base(texture, usual.base),
        finish=said.finish or usual.finish,
        suits=said.suits or (),
        base_source="guessed",
    )
    if not ROLE_INFO[said.role].coloured:
        return replace(item, source="guessed")
    lab = said.lab or (_hued(said) if said.hue else usual.lab)
    cover = COVER_INFO[said.cover].ratio if said.cover else usual.cover
    return replace(
        item,
        lab=lab,
        cover=cover,
        lab_sd=house.guess_sd_de if said.lab_sd is None else said.lab_sd,
        cover_sd=house.guess_cover_sd,
        source="guessed" if said.lab is None else "eye",
    )


def _usual(said: DescribedItem) -> Product:
    """What is usual for a role on a skin of this colour: the generic item, or the nearest thing to one."""
    kit = generic_kit(said.lab if said.lab is not None and said.role not in HUED else said.skin)
    own = [item for item in kit if item.role == said.role]
    if said.texture is not None:
        dry = TEXTURE_INFO[said.texture].dry
        own = [item for item in own if item.dry == dry] or own
    if own:
        return own[0] if said.role != "foundation" else next(item for item in own if "medium" in item.id)
    stand_in: Mapping[Role, tuple[Texture, Base]] = {
        "toner": ("liquid", "water"), "sunscreen": ("cream", "oil"), "mixer": ("liquid", "silicone"),
        "lid_base": ("cream", "silicone"), "thinning_balm": ("balm", "oil"),
    }  # fmt: skip
    texture, base = stand_in[said.role]
    return Product(id="", role=said.role, name="", texture=texture, base=base)


def _hued(said: DescribedItem) -> Lab:
    """The hue as far from that skin as it usually is, or as far as a surface can be that colour."""
    up, red, yellow = _HUES[said.hue or ""]
    lightness = MADE_LIGHTNESS.clipped(said.skin[0] + up)
    for strength in HUE_STRENGTHS:
        lab = (lightness, said.skin[1] + strength * red, said.skin[2] + strength * yellow)
        try:
            surface(lab)
        except Refused:
            continue
        return lab
    return said.skin


def _base(texture: Texture, usual: Base) -> Base:
    if TEXTURE_INFO[texture].dry:
        return "powder"
    return "anhydrous" if texture in ("stick", "balm") else "silicone" if usual == "powder" else usual


def _free_id(name: str, taken: Collection[str]) -> str:
    stem = re.sub(r"[^a-z0-9]+", "-", name.lower()).strip("-")[:MOST_STEM] or "item"
    free, number = stem, 2
    while free in taken:
        free, number = f"{stem}-{number}", number + 1
    return free


@dataclass(frozen=True, slots=True)
class GuessedLine:
    """One pasted line: the item it was read as with what was understood of it, or why it was not."""

    line: int
    text: str
    item: Product | None
    says: str


def guess_lines(text: str, house: House, skin: Lab = USUAL_SKIN, taken: Iterable[str] = ()) -> tuple[GuessedLine, ...]:
    """A pasted list, an item a line: "Satin fluid foundation, light warm", "peach corrector, pot". Refuses too many lines."""
    lines = [(number, line.strip(" \t-•*;,")) for number, line in enumerate(text.splitlines(), start=1)]
    lines = [(number, line) for number, line in lines if line]
    if len(lines) > min(MOST_LINES, MOST_ITEMS):
        raise Refused("text", len(lines), f"at most {MOST_LINES} lines at a time")
    known, found = set(taken), []
    for number, line in lines:
        guessed = _guess_line(number, line, house, skin, known)
        if guessed.item is not None:
            known.add(guessed.item.id)
        found.append(guessed)
    return tuple(found)


def _guess_line(number: int, line: str, house: House, skin: Lab, taken: Collection[str]) -> GuessedLine:
    if len(line) > MOST_CHARACTERS:
        return GuessedLine(number, line[:MOST_CHARACTERS], None, f"A line has at most {MOST_CHARACTERS} letters.")
    said = line.lower()
    role = _first(_ROLE_WORDS, said)
    if role is None:
        return GuessedLine(number, line, None, "Say what it is, such as foundation, corrector, blush or primer.")
    hue = next((each for each in _HUES if re.search(rf"\b{each.replace('-', '[- ]')}\b", said)), None)
    rest = re.sub(r"\blight cover\w*|\bmedium cover\w*", "", said)
    column = _first(_DEPTH_COLUMNS, "" if role == "light" else rest) if ROLE_INFO[role].coloured else None
    tone = _first(_TONE_ROWS, rest)
    meant = None if column is None else grid()[TONES.index(tone or "neutral")][column]
    described = DescribedItem(
        name=line,
        role=role,
        hue=hue if role in HUED else None,
        cover=_first(_COVER_WORDS, said) if ROLE_INFO[role].coloured else None,
        texture=_first(_TEXTURE_WORDS, said),
        finish=_first(_FINISH_WORDS, said) if ROLE_INFO[role].coloured else None,
        skin=skin if meant is None else meant.lab,
        suits=_first(_SUITS_WORDS, said) if role in ("primer", "moisturiser") else None,
    )
    item = described_item(described, house, taken)
    shade = "".join(f", {each}" for each in (described.hue, meant and f"for {meant.words} skin") if each)
    return GuessedLine(
        number, line, item, f"{ROLE_INFO[role].words}, {item.texture.replace('_', ' ')}{shade}".capitalize()
    )


def _first(table: Iterable[tuple[T, str]], text: str) -> T | None:
    return next((each for each, pattern in table if re.search(rf"\b(?:{pattern})\b", text)), None)
