"""Cases made up at random: any depth, preset, school, wish and kit, with each layer in cream, as a pan, both or missing."""

from __future__ import annotations

import random
from collections.abc import Iterator, Mapping
from dataclasses import replace

from nabrel.core.case.case import Case
from nabrel.core.case.intent import Climate, Intent, Options
from nabrel.core.case.product import Product
from nabrel.core.case.sitter import Colour, Sitter, ZoneSkin
from nabrel.core.planner.planner import SCHOOLS
from nabrel.core.terms.colour import Lab
from nabrel.core.terms.conditions import CONDITION_INFO
from nabrel.core.terms.zones import COMPLEXION_ZONES
from nabrel.demo.kit import kit

SKINS: tuple[Lab, ...] = ((74, 9, 14), (62, 11, 17), (54, 13, 19), (46, 14, 19), (35, 12, 13))
LAYERS = {"shade": (-14, -2, -3), "bronzer": (-10, 2, 4), "colour": (-8, 18, 2), "glow": (10, 0, 4)}
"""How far each of these lies from the complexion, by role."""
CARE = ("cleanser", "moisturiser", "eye_care", "sunscreen", "primer", "corrector", "melting_mist", "setting_mist")
PRESETS = ("normal", "dry", "oily", "combination", "mature", "textured", "acne_prone", "sensitive")
SETTINGS = ("none", "spot", "t_zone", "on_light", "whole_face", "bake_points", "bake_wide")


def cases(count: int, seed: int) -> Iterator[tuple[Case, Mapping[str, str]]]:
    """So many cases with the textures that their kit has of each layer; the same for the same seed."""
    rng = random.Random(seed)
    for _ in range(count):
        skin = rng.choice(SKINS)
        textures = {role: rng.choice(["cream", "pan", "both", "none"]) for role in LAYERS}
        options = Options(
            bronzer=rng.choice(["none", "bridge", "last"]),
            glow=rng.choice(["school", "under", "after_colour", "last", "mixed"]),
            shade_edge=rng.choice(["faded", "crisp"]),
            powder_sculpt=rng.choice(["after_setting", "before_setting"]),
        )
        intent = Intent(
            school=rng.choice(list(SCHOOLS)),
            finish=rng.choice(["matte", "satin", "dewy"]),
            setting=rng.choice(SETTINGS),
            wear_hours=rng.choice([4.0, 8.0, 12.0]),
            cover=rng.choice(["sheer", "medium", "full"]),
            viewing=rng.choice(["in_person", "camera"]),
            features=rng.choice([(), ("brows", "eyes", "lips")]),
            options=options,
        )
        sitter = Sitter("Anon", Colour(skin), preset=rng.choice(PRESETS))
        yield Case(sitter, intent, tuple(_kit(skin, textures, rng))), textures


def wild(count: int, seed: int) -> Iterator[Case]:
    """The same with anything read anywhere, any light, viewing and climate, and the ways of working asked for at random."""
    rng = random.Random(seed)
    conditions = [each for each in CONDITION_INFO if each != "broken_skin"]
    for case, _ in cases(count, seed):
        zones = {
            rng.choice(COMPLEXION_ZONES): ZoneSkin({rng.choice(conditions): rng.randint(1, 3)})
            for _ in range(rng.randint(0, 8))
        }
        intent = replace(
            case.intent,
            lights=rng.choice([("daylight",), ("flash",), ("daylight", "flash"), ("warm_lamp",)]),
            viewing=rng.choice(["in_person", "camera", "stage"]),
            colour_effect=rng.choice([None, "lift", "full", "slim"]),
            foundation_on=rng.choice([None, "all", "gaps", "where_needed"]),
            climate=Climate(rng.choice([5, 22, 34]), rng.choice([20, 50, 85])),
            order=rng.choice(["light_first", "shade_first"]),
            blend=rng.choice(["one_at_a_time", "place_all"]),
            options=replace(
                case.intent.options,
                spot=rng.choice(["before_foundation", "after_foundation"]),
                corrector=rng.choice(["before_sculpt", "after_foundation"]),
                melting_mist=rng.choice(["school", "none", "last", "between_powders"]),
                laid_from=rng.choice(["hand", "face"]),
                second_pass=rng.choice([True, False]),
            ),
        )
        skin = case.sitter.skin.lab
        neck = Colour((skin[0] + rng.choice([0, 3, 5]), skin[1] - 2, skin[2]))
        yield Case(replace(case.sitter, zones=zones, neck=neck), intent, case.kit)


def _kit(skin: Lab, textures: Mapping[str, str], rng: random.Random) -> Iterator[Product]:
    def off(by: tuple[float, float, float]) -> Lab:
        return (skin[0] + by[0], skin[1] + by[1], skin[2] + by[2])

    yield from (item for item in kit() if item.role in CARE)
    yield Product("f1", "foundation", "Foundation", "liquid", rng.choice(["water", "silicone"]), lab=off((0, 0, 1)),
                  cover=rng.choice([0.3, 0.5, 0.75]), ml=30)  # fmt: skip
    yield Product("con", "concealer", "Concealer", "liquid", "silicone", lab=off((1, 0, 1)), cover=0.85, ml=6)
    yield Product("lit", "light", "Light", "cream", "anhydrous", finish="matte", lab=off((8, 0, 2)), cover=0.6, ml=6)
    if rng.random() > 0.12:
        yield Product("pow", "setting_powder", "Loose powder", "loose_powder", "powder", finish="matte",
                      lab=off((6, -3, -4)), cover=0.15, g=10)  # fmt: skip
    for role, by in LAYERS.items():
        finish = "shimmer" if role == "glow" else "matte"
        if textures[role] in ("cream", "both"):
            yield Product(
                f"{role}-c", role, f"{role} cream", "cream", "anhydrous", finish=finish, lab=off(by), cover=0.5, g=5
            )
        if textures[role] in ("pan", "both"):
            yield Product(f"{role}-p", role, f"{role} pan", "pressed_powder", "powder", finish=finish, lab=off(by),
                          cover=0.4, g=5)  # fmt: skip
