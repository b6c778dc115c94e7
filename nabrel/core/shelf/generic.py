"""A generic kit, for a case without one: plainly named items whose colours follow from the sitter's own."""

from __future__ import annotations

from nabrel.core.case.product import Product
from nabrel.core.terms.colour import Lab
from nabrel.core.terms.ids import Base, Condition, Finish, Role, Texture
from nabrel.core.terms.limits import Range

MADE_LIGHTNESS = Range(8.0, 93.0)
"""L* of items that are made up for a skin: no product is darker or lighter."""


def generic_kit(complexion: Lab) -> tuple[Product, ...]:
    """One suitable item of each role for a complexion; ids start with ``generic-``."""
    lightness, red, yellow = complexion

    def tone(up: float, redder: float = 0.0, yellower: float = 0.0) -> Lab:
        level = MADE_LIGHTNESS.clipped(lightness + up)
        fade = min(1.0, level / max(lightness, 1.0))
        return (level, red * fade + redder, yellow * fade + yellower)

    warm = 0.25 + 0.75 * (1.0 - min(max((lightness - 30.0) / 45.0, 0.0), 1.0))
    return (
        _care("cleanser", "Generic cleanser", "gel", "water"),
        _care("moisturiser", "Generic gel moisturiser", "gel", "water", ("oily",)),
        _care("moisturiser", "Generic cream moisturiser", "cream", "oil", ("dry", "dehydrated", "fine_lines")),
        _care("eye_care", "Generic eye cream", "cream", "water", ("dry", "creping", "fine_lines")),
        _care("primer", "Generic pore primer", "gel", "silicone", ("enlarged_pores", "raised_texture", "oily")),
        _care("primer", "Generic hydrating primer", "gel", "water", ("dry", "fine_lines", "flaking")),
        _tint("corrector", "Generic warm corrector", "cream", tone(2, 8 + 18 * warm, 6 + 14 * warm), 0.5),
        _tint("corrector", "Generic green corrector", "cream", (max(lightness - 2, 20), -16, 20), 0.45),
        _tint("concealer", "Generic concealer", "liquid", complexion, 0.85),
        _tint("foundation", "Generic sheer foundation", "liquid", complexion, 0.35),
        _tint("foundation", "Generic medium foundation", "liquid", complexion, 0.55),
        _tint("foundation", "Generic full foundation", "liquid", complexion, 0.85, "matte"),
        _tint("light", "Generic light", "liquid", tone(7, 0, 1), 0.6),
        _tint("shade", "Generic shade", "cream", tone(-16, -1, -2), 0.6, "matte"),
        _tint("colour", "Generic colour", "cream", tone(-8, 22, 4), 0.35),
        _tint("glow", "Generic glow", "cream", tone(14, 0, 2), 0.3, "shimmer"),
        _tint("shade", "Generic powder shade", "pressed_powder", tone(-14, -1, -2), 0.4, "matte", "powder"),
        _tint("bronzer", "Generic powder bronzer", "pressed_powder", tone(-10, 5, 8), 0.3, "satin", "powder"),
        _tint("colour", "Generic powder colour", "pressed_powder", tone(-4, 18, 2), 0.25, "satin", "powder"),
        _tint("glow", "Generic powder glow", "pressed_powder", tone(14, 0, 2), 0.2, "shimmer", "powder"),
        _tint("powder_foundation", "Generic powder foundation", "pressed_powder", complexion, 0.35, "matte", "powder"),
        _tint("foundation", "Generic deeper foundation", "liquid", tone(-6, 0, 0), 0.55),
        _tint("setting_powder", "Generic setting powder", "loose_powder", tone(8, -3, -2), 0.15, "matte", "powder"),
        _care("melting_mist", "Generic melting mist", "mist", "water"),
        _care("setting_mist", "Generic setting mist", "mist", "alcohol"),
    )


def _care(role: Role, name: str, texture: Texture, base: Base, suits: tuple[Condition, ...] = ()) -> Product:
    return Product(id=_id(name), role=role, name=name, texture=texture, base=base, suits=suits)


def _tint(
    role: Role,
    name: str,
    texture: Texture,
    lab: Lab,
    cover: float,
    finish: Finish = "satin",
    base: Base = "silicone",
) -> Product:
    return Product(id=_id(name), role=role, name=name, texture=texture, base=base, finish=finish, lab=lab, cover=cover)


def _id(name: str) -> str:
    return name.lower().replace(" ", "-")
