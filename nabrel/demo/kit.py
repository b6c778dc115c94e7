"""The course's kit box at Kestrel Quay: house-invented items with plain names, in the order of work."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

from nabrel.core.case.product import Product
from nabrel.core.terms.colour import Lab
from nabrel.core.terms.ids import Base, Condition, Finish, Role, Texture

TONES: tuple[Lab, ...] = (
    (76, 8, 14),
    (71, 9.5, 15.5),
    (66, 10.5, 17),
    (61, 11.5, 18.5),
    (55, 13, 20),
    (48, 14, 19.5),
    (41, 13.5, 17),
    (34, 12, 13),
)
"""Eight tones from very light to dark that the course's ranges share."""


LISTS: Mapping[Base, tuple[str, ...]] = {
    "water": ("Aqua", "Glycerin", "Pentylene Glycol", "Xanthan Gum", "Phenoxyethanol"),
    "silicone": ("Cyclopentasiloxane", "Dimethicone", "Aqua", "Glycerin", "Phenoxyethanol"),
    "oil": ("Caprylic/Capric Triglyceride", "Squalane", "Glyceryl Stearate", "Aqua", "Tocopherol"),
    "anhydrous": ("Candelilla Cera", "Ricinus Communis Seed Oil", "Squalane", "Tocopherol"),
    "powder": ("Mica", "Silica", "Zinc Stearate", "Caprylyl Glycol"),
    "alcohol": ("Alcohol Denat.", "Aqua", "PVP", "Glycerin"),
}
"""What stands on packs of each base; what lays colour has pigments besides."""
PIGMENTS = ("CI 77891", "CI 77491", "CI 77492", "CI 77499")


def kit() -> tuple[Product, ...]:
    """All items of the kit box. Nobody has looked yet at what is in those that were only guessed."""
    return tuple(item if item.source == "guessed" else _listed(item) for item in _items())


def _listed(item: Product) -> Product:
    return replace(item, ingredients=(*LISTS[item.base], *(PIGMENTS if item.tinted else ()), *item.contains))


def _items() -> tuple[Product, ...]:
    return (
        *_care(),
        *_primers(),
        *_correctors(),
        *_cover(),
        *_sculpting(),
        *_colours(),
        *_powder_sculpting(),
        *_powders(),
        *_mists(),
    )


def _care() -> tuple[Product, ...]:
    return (
        _plain("cle-1", "cleanser", "Milk cleanser", "liquid", "water", ml=200, price=9.0),
        _plain("moi-gel", "moisturiser", "Clear gel", "gel", "water", ("oily", "enlarged_pores"), ml=50, price=12.0),
        _plain(
            "moi-rich",
            "moisturiser",
            "Rich cream",
            "cream",
            "oil",
            ("dry", "dehydrated", "fine_lines", "creping", "flaking"),
            ml=50,
            price=16.0,
        ),
        _plain(
            "moi-calm", "moisturiser", "Calm lotion", "liquid", "water", ("sensitive", "redness"), ml=75, price=14.0
        ),
        _plain(
            "eye-1", "eye_care", "Eye balm light", "gel", "water", ("dry", "creping", "fine_lines"), ml=15, price=13
        ),
        _plain("sun-1", "sunscreen", "Clear sunscreen", "liquid", "silicone", ml=50, price=15.0),
        _plain("thin-1", "thinning_balm", "Thinning balm", "balm", "anhydrous", ml=20, price=8.0),
    )


def _primers() -> tuple[Product, ...]:
    return (
        _plain(
            "pri-pore",
            "primer",
            "Pore smoother",
            "gel",
            "silicone",
            ("enlarged_pores", "raised_texture", "pitted_scar"),
            ml=30,
            price=14.0,
        ),
        _plain("pri-matte", "primer", "Matt hold", "gel", "silicone", ("oily",), ml=30, price=14.0),
        _plain(
            "pri-dew",
            "primer",
            "Water primer",
            "gel",
            "water",
            ("dry", "fine_lines", "flaking", "dehydrated"),
            ml=30,
            price=13.0,
        ),
    )


def _correctors() -> tuple[Product, ...]:
    # Paler hues hold more white pigment, so they cover more.
    hues: tuple[tuple[str, str, Lab, float], ...] = (
        ("cor-rose", "Pale rose corrector", (80, 15, 14), 0.7),
        ("cor-peach", "Light peach corrector", (78, 16, 22), 0.75),
        ("cor-apricot", "Apricot corrector", (67, 25, 27), 0.7),
        ("cor-salmon", "Salmon corrector", (61, 30, 25), 0.65),
        ("cor-orange", "Orange corrector", (54, 34, 33), 0.6),
        ("cor-red", "Red-orange corrector", (44, 38, 28), 0.6),
        ("cor-green", "Leaf green corrector", (68, -14, 22), 0.55),
        ("cor-lilac", "Lilac corrector", (74, 11, -8), 0.6),
    )
    return tuple(
        _tinted(key, "corrector", name, "cream", "anhydrous", lab, cover, ml=4, price=11.0)
        for key, name, lab, cover in hues
    )


def _cover() -> tuple[Product, ...]:
    found: list[Product] = []
    for number, tone in enumerate(TONES, start=1):
        pale = (tone[0] + 1.0, tone[1] - 0.5, tone[2])
        found += [
            _tinted(f"silk-veil-{number}", "foundation", f"Silk veil {number}", "liquid", "silicone", tone, 0.28,
                    "dewy", ml=30, price=21.0, dose_ml=0.3),
            _tinted(f"thin-satin-{number}", "foundation", f"Thin satin {number}", "liquid", "silicone", tone, 0.5,
                    "satin", ml=30, price=24.0, dose_ml=0.25),
            _tinted(f"full-matt-{number}", "foundation", f"Full matt {number}", "liquid", "silicone", tone, 0.86,
                    "matte", ml=30, price=26.0, dose_ml=0.2),
            _tinted(f"press-{number}", "concealer", f"Pressed cover {number}", "liquid", "silicone", pale, 0.88,
                    "satin", ml=6, price=14.0),
        ]  # fmt: skip
    found += [
        _tinted(f"water-veil-{number}", "foundation", f"Water veil {number}", "liquid", "water", TONES[number - 1], 0.3,
                "satin", ml=30, price=19.0, dose_ml=0.3)
        for number in (2, 4, 6)
    ]  # fmt: skip
    return tuple(sorted(found, key=lambda item: (item.role, item.name)))


def _sculpting() -> tuple[Product, ...]:
    shades: tuple[Lab, ...] = (
        (62, 6, 12), (55, 7, 12), (48, 8, 13), (41, 9, 13), (34, 9, 11), (26, 8, 9), (18, 6, 6),
    )  # fmt: skip
    found = [
        _tinted(f"shade-{n}", "shade", f"Cool shade {n}", "cream", "silicone", lab, 0.62, "matte", ml=8, price=13.0)
        for n, lab in enumerate(shades, start=1)
    ]
    found += [
        _tinted(
            f"liquid-shade-{n}", "shade", f"Liquid shade {n}", "liquid", "water", lab, 0.5, "matte", ml=10, price=12
        )
        for n, lab in enumerate(shades[::2], start=1)
    ]
    lights: tuple[Lab, ...] = ((84, 6, 13), (78, 8, 16), (72, 10, 18), (66, 12, 20), (59, 14, 22), (50, 15, 21))
    found += [
        _tinted(f"light-{n}", "light", f"Matt light {n}", "liquid", "silicone", lab, 0.6, "satin", ml=8, price=13.0)
        for n, lab in enumerate(lights, start=1)
    ]
    found += [
        _tinted(
            "water-light-1", "light", "Water light 1", "liquid", "water", (80, 7, 15), 0.5, "satin", ml=8, price=12
        ),
        _tinted(
            "water-light-2", "light", "Water light 2", "liquid", "water", (62, 12, 20), 0.5, "satin", ml=8, price=12
        ),
        _tinted("glow-pearl", "glow", "Pearl glow", "cream", "silicone", (86, 3, 9), 0.25, "shimmer", ml=5, price=12.0),
        _tinted("glow-brass", "glow", "Brass glow", "cream", "silicone", (62, 13, 30), 0.3, "shimmer", ml=5, price=12),
    ]
    return tuple(found)


def _colours() -> tuple[Product, ...]:
    return (
        _tinted("col-rose", "colour", "Soft rose colour", "cream", "silicone", (58, 32, 10), 0.3, ml=6, price=10.0),
        _tinted("col-coral", "colour", "Warm coral colour", "cream", "silicone", (57, 38, 24), 0.3, ml=6, price=10.0),
        _tinted("col-brick", "colour", "Brick colour", "cream", "silicone", (42, 36, 22), 0.35, ml=6, price=10.0),
        _tinted("col-berry", "colour", "Deep berry colour", "cream", "silicone", (33, 36, 8), 0.4, ml=6, price=10.0),
        _tinted("col-gel", "colour", "Water rose colour", "gel", "water", (55, 36, 12), 0.2, ml=6, price=10.0),
    )


def _powder_sculpting() -> tuple[Product, ...]:
    shades: tuple[Lab, ...] = ((58, 7, 13), (46, 9, 14), (35, 9, 12), (23, 7, 8))
    bronzers: tuple[Lab, ...] = ((62, 15, 26), (52, 18, 28), (41, 18, 25), (30, 14, 16))
    tones: tuple[Lab, ...] = ((71, 9.5, 15.5), (61, 11.5, 18.5), (48, 14, 19.5), (36, 12.5, 14))
    found = [
        _tinted(f"pan-shade-{n}", "shade", f"Cool pan shade {n}", "pressed_powder", "powder", lab, 0.4, "matte",
                g=4, price=12.0)
        for n, lab in enumerate(shades, start=1)
    ]  # fmt: skip
    found += [
        _tinted(f"pan-bronze-{n}", "bronzer", f"Pan bronze {n}", "pressed_powder", "powder", lab, 0.3, "satin",
                g=6, price=13.0)
        for n, lab in enumerate(bronzers, start=1)
    ]  # fmt: skip
    found += [
        _tinted(f"pan-base-{n}", "powder_foundation", f"Pan base {n}", "pressed_powder", "powder", lab, 0.35, "matte",
                g=9, price=18.0)
        for n, lab in enumerate(tones, start=1)
    ]  # fmt: skip
    found += [
        _guessed(_tinted("bronze-balm-1", "bronzer", "Bronze balm 1", "cream", "silicone", (60, 15, 26), 0.35, g=8, price=14.0)),
        _guessed(_tinted("bronze-balm-2", "bronzer", "Bronze balm 2", "cream", "silicone", (42, 18, 26), 0.35, g=8, price=14.0)),
        _tinted("pan-rose", "colour", "Rose pan colour", "pressed_powder", "powder", (62, 28, 10), 0.25, g=4, price=10),
        _tinted("pan-brick", "colour", "Brick pan colour", "pressed_powder", "powder", (44, 34, 20), 0.3, g=4, price=10),
        _tinted("pan-pearl", "glow", "Pearl pan glow", "pressed_powder", "powder", (86, 3, 10), 0.2, "shimmer",
                g=4, price=12),
        _tinted("pan-brass", "glow", "Brass pan glow", "pressed_powder", "powder", (62, 13, 30), 0.2, "shimmer",
                g=4, price=12),
    ]  # fmt: skip
    return tuple(found)


def _powders() -> tuple[Product, ...]:
    rows: tuple[tuple[str, str, Lab, tuple[Condition, ...]], ...] = (
        ("pow-fine", "Fine veil powder", (86, 2, 7), ("fine_lines", "creping", "dry", "deep_fold")),
        ("pow-silica", "Silica press powder", (88, 1, 4), ("oily", "enlarged_pores", "active_blemish")),
        ("pow-tan", "Tan veil powder", (63, 10, 20), ("fine_lines", "dry", "oily")),
        ("pow-deep", "Deep veil powder", (42, 11, 16), ("fine_lines", "dry", "oily")),
    )
    return tuple(
        _tinted(key, "setting_powder", name, "loose_powder", "powder", lab, 0.12, "matte", suits=suits, g=20, price=15)
        for key, name, lab, suits in rows
    )


def _mists() -> tuple[Product, ...]:
    return (
        _plain("mist-melt", "melting_mist", "Melting mist", "mist", "water", ("dry", "fine_lines"), ml=100, price=11.0),
        Product(
            id="mist-scented",
            role="melting_mist",
            name="Scented dew mist",
            texture="mist",
            base="water",
            ml=100,
            price=13.0,
            contains=("fragrance",),
        ),
        _plain("mist-hold", "setting_mist", "Holding mist", "mist", "alcohol", ("oily",), ml=100, price=13.0),
    )


def _guessed(item: Product) -> Product:
    """An item that nobody has measured yet."""
    return replace(item, lab_sd=4.0, cover_sd=0.12, source="guessed")


def _plain(
    key: str,
    role: Role,
    name: str,
    texture: Texture,
    base: Base,
    suits: tuple[Condition, ...] = (),
    *,
    ml: float,
    price: float,
) -> Product:
    return Product(id=key, role=role, name=name, texture=texture, base=base, suits=suits, ml=ml, price=price)


def _tinted(
    key: str,
    role: Role,
    name: str,
    texture: Texture,
    base: Base,
    lab: Lab,
    cover: float,
    finish: Finish = "satin",
    *,
    ml: float | None = None,
    g: float | None = None,
    price: float,
    dose_ml: float | None = None,
    suits: tuple[Condition, ...] = (),
) -> Product:
    lightness, red, yellow = lab
    return Product(
        id=key,
        role=role,
        name=name,
        texture=texture,
        base=base,
        finish=finish,
        lab=(float(lightness), float(red), float(yellow)),
        cover=cover,
        ml=ml,
        g=g,
        price=price,
        dose_ml=dose_ml,
        suits=suits,
    )
