"""What items of a kit are: roles, textures, bases, finishes and classes of cover."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from nabrel.core.terms.ids import Base, CoverClass, Finish, Role, Texture
from nabrel.core.terms.table import Term, table


@dataclass(frozen=True, slots=True)
class RoleInfo(Term):
    """What an item is sold for: its words, and whether it means nothing without a colour and a cover."""

    id: Role
    coloured: bool = False


@dataclass(frozen=True, slots=True)
class TextureInfo:
    """What an item feels like, and whether it is a powder."""

    id: Texture
    words: str
    dry: bool = False


@dataclass(frozen=True, slots=True)
class BaseInfo:
    """What carries the pigment. ``sets_itself`` once its volatiles are gone; oil and wax stay tacky until powdered."""

    id: Base
    words: str
    sets_itself: bool = False


@dataclass(frozen=True, slots=True)
class FinishInfo:
    """How a film shines. ``sparkles`` shows up any texture; ``wanted`` says that a whole base may be asked for in it."""

    id: Finish
    words: str
    sparkles: bool = False
    wanted: bool = False


@dataclass(frozen=True, slots=True)
class CoverInfo(Term):
    """A class of cover with its contrast ratio over black and white at the standard film of 9 µm."""

    id: CoverClass
    ratio: float


ROLE_INFO: Mapping[Role, RoleInfo] = table(
    (
        RoleInfo("cleanser", "cleanser"),
        RoleInfo("toner", "toner"),
        RoleInfo("moisturiser", "moisturiser"),
        RoleInfo("eye_care", "eye care"),
        RoleInfo("sunscreen", "sunscreen"),
        RoleInfo("primer", "primer"),
        RoleInfo("corrector", "corrector", coloured=True),
        RoleInfo("concealer", "concealer", coloured=True),
        RoleInfo("foundation", "foundation", coloured=True),
        RoleInfo("powder_foundation", "powder foundation", coloured=True),
        RoleInfo("mixer", "mixer"),
        RoleInfo("lid_base", "lid base"),
        RoleInfo("shade", "shade", coloured=True),
        RoleInfo("bronzer", "bronzer", coloured=True),
        RoleInfo("light", "light", coloured=True),
        RoleInfo("glow", "glow", coloured=True),
        RoleInfo("colour", "colour", coloured=True),
        RoleInfo("setting_powder", "setting powder", coloured=True),
        RoleInfo("melting_mist", "melting mist"),
        RoleInfo("setting_mist", "setting mist"),
        RoleInfo("thinning_balm", "thinning balm"),
    )
)
TEXTURE_INFO: Mapping[Texture, TextureInfo] = table(
    (
        TextureInfo("liquid", "liquid"),
        TextureInfo("cream", "cream"),
        TextureInfo("balm", "balm"),
        TextureInfo("gel", "gel"),
        TextureInfo("mousse", "mousse"),
        TextureInfo("stick", "stick"),
        TextureInfo("mist", "mist"),
        TextureInfo("loose_powder", "loose powder", dry=True),
        TextureInfo("pressed_powder", "pressed powder", dry=True),
    )
)
BASE_INFO: Mapping[Base, BaseInfo] = table(
    (
        BaseInfo("water", "water", sets_itself=True),
        BaseInfo("silicone", "silicone", sets_itself=True),
        BaseInfo("oil", "oil"),
        BaseInfo("anhydrous", "anhydrous"),
        BaseInfo("powder", "powder"),
        BaseInfo("alcohol", "alcohol", sets_itself=True),
    )
)
FINISH_INFO: Mapping[Finish, FinishInfo] = table(
    (
        FinishInfo("matte", "matte", wanted=True),
        FinishInfo("satin", "satin", wanted=True),
        FinishInfo("dewy", "dewy", wanted=True),
        FinishInfo("shimmer", "shimmer", sparkles=True),
        FinishInfo("glitter", "glitter", sparkles=True),
    )
)
COVER_INFO: Mapping[CoverClass, CoverInfo] = table(
    (
        CoverInfo("sheer", "sheer", 0.2),
        CoverInfo("light", "light", 0.35),
        CoverInfo("medium", "medium", 0.55),
        CoverInfo("full", "full", 0.8),
        CoverInfo("opaque", "opaque", 0.92),
    )
)
ROLES: tuple[Role, ...] = tuple(ROLE_INFO)
TEXTURES: tuple[Texture, ...] = tuple(TEXTURE_INFO)
BASES: tuple[Base, ...] = tuple(BASE_INFO)
FINISHES: tuple[Finish, ...] = tuple(FINISH_INFO)
WANTED_FINISHES: tuple[Finish, ...] = tuple(each.id for each in FINISH_INFO.values() if each.wanted)
