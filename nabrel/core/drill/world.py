"""What exercises are made from: seeded faces with a teaching kit, or a case that was given, planned and evaluated."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import cached_property
from random import Random

from nabrel.core.ask.recommend import plan
from nabrel.core.case.case import Case
from nabrel.core.case.intent import Intent
from nabrel.core.case.product import Product
from nabrel.core.case.sitter import Colour, Measures, Sitter, ZoneSkin
from nabrel.core.drill.judgements import Judgement
from nabrel.core.face.reading import Reading, read
from nabrel.core.house import House
from nabrel.core.house.viewing import seen
from nabrel.core.judge.evaluate import Evaluation, evaluate, products_of
from nabrel.core.plan.sequence import Sequence
from nabrel.core.shelf.generic import generic_kit
from nabrel.core.terms.colour import Lab
from nabrel.core.terms.ids import Condition, Preset, School, SettingPolicy, Zone
from nabrel.core.terms.looks import PRESETS
from nabrel.core.terms.schools import SCHOOL_INFO
from nabrel.core.terms.zones import both

FACE_MM = (170, 192)
"""How long drawn faces are, in mm: from the fifth to the ninety-fifth of a hundred adults."""
CHEEKBONES, JAW = (0.7, 0.84), (0.54, 0.72)
"""Their widths at cheekbones and jaw, as shares of the length: narrow to wide, so that every shape is met."""
VARIES_RED = 1.5
"""How far a* of a drawn skin lies from its tone."""
EVENINGS_H = (4, 6, 8)
"""For how long a drawn sitter wants to wear it."""
LEAST_L, MOST_L = 24.0, 88.0
"""Between these a corrector of any hue can be made."""
PAN_ML = 4.0
"""A corrector as it is sold."""

SKINS: tuple[Lab, ...] = ((76, 8, 13), (68, 10, 15), (60, 12, 18), (52, 13, 20), (45, 14, 19), (37, 12, 14))
"""One of every depth class, as they are read; each face is drawn around one of them."""
HUES: tuple[tuple[str, float, float, float], ...] = (
    ("Pink", 10, 18, 6), ("Peach", 4, 20, 20), ("Salmon", 0, 26, 22), ("Orange", -2, 30, 34), ("Red-orange", -6, 36, 30),
    ("Yellow", 8, 4, 34), ("Leaf green", 0, -16, 20), ("Lavender", 8, 10, -10),
)  # fmt: skip
"""Correctors of a teaching kit: name, L* from the complexion's, a*, b*."""
DARK: tuple[Condition, ...] = ("dark_circle_blue", "dark_circle_violet", "dark_circle_brown")
ALSO: tuple[tuple[Condition, tuple[Zone, ...]], ...] = (
    ("redness", both("nose_side")), ("brown_spot", ("cheek_apple_l",)), ("post_blemish_mark", ("chin",)),
    ("enlarged_pores", ("nose_tip", *both("nose_side"))), ("fine_lines", both("under_eye")), ("mouth_darkness", ("upper_lip",)),
    ("raised_texture", both("cheek_apple")), ("active_blemish", ("chin",)), ("jowl", both("jaw")),
)  # fmt: skip
POLICIES: tuple[SettingPolicy, ...] = ("spot", "t_zone", "on_light", "whole_face")


@dataclass(frozen=True)
class World:
    """A face with its kit; the plan for it is made when it is first asked for."""

    case: Case
    house: House

    @cached_property
    def plan(self) -> Sequence:
        """The plan for this face."""
        return plan(self.case, self.house)

    @cached_property
    def now(self) -> Evaluation:
        """The plan, evaluated."""
        return evaluate(self.plan, self.house, try_fixes=False)

    @cached_property
    def reading(self) -> Reading:
        """The face as read."""
        return read(self.case, seen(self.case.intent.viewing, self.house))

    @property
    def sound(self) -> bool:
        """Whether the rule book has nothing grave to say of the plan."""
        return all(each.severity == "advice" for each in self.now.findings)

    def names(self) -> Mapping[str, str]:
        """What the items are called, by id."""
        return {item.id: item.name for item in products_of(self.plan, self.reading).values()}


def drawn(rng: Random, house: House, asked: Judgement | None = None) -> World:
    """A face of any depth and skin with a teaching kit, in any school; the same for the same draws.

    Where a judgement is ``asked`` the face has what it needs.
    """
    lightness, red, yellow = rng.choice(SKINS)
    skin: Lab = (
        lightness + rng.uniform(-3, 3),
        red + rng.uniform(-VARIES_RED, VARIES_RED),
        yellow + rng.uniform(-2, 2),
    )
    zones: dict[Zone, dict[Condition, int]] = {}
    needed = asked.condition if asked is not None else None
    dark = needed if needed in DARK else rng.choice(DARK)
    for zone in (*both("under_eye"), *both("inner_corner")):
        zones.setdefault(zone, {})[dark] = rng.randint(2, 3)
    also = rng.sample(ALSO, rng.randint(1, 3))
    also += [each for each in ALSO if each[0] == needed and each not in also]
    for condition, where in also:
        for zone in where:
            zones.setdefault(zone, {})[condition] = rng.randint(1, 2) + (condition == needed)
    preset: Preset = rng.choice(PRESETS)
    school: School = rng.choice(list(SCHOOL_INFO))
    if asked is not None:
        preset, school = asked.preset or preset, asked.school or school
    length = rng.uniform(*FACE_MM)
    sitter = Sitter(
        "The sitter",
        Colour(tuple(round(each, 1) for each in skin)),  # type: ignore[arg-type]
        preset=preset,
        zones={zone: ZoneSkin(found) for zone, found in zones.items()},
        measures=Measures(
            face_length_mm=round(length), cheekbone_width_mm=round(length * rng.uniform(*CHEEKBONES)),
            jaw_width_mm=round(length * rng.uniform(*JAW)), forehead_fingers=float(rng.randint(2, 4)),
        ),
    )  # fmt: skip
    intent = Intent(
        school=school, cover=rng.choice(["light", "medium", "full"]), finish=rng.choice(["satin", "matte", "dewy"]),
        setting=rng.choice(POLICIES), wear_hours=float(rng.choice(EVENINGS_H)), features=rng.choice([("brows",), ("brows", "lips")]),
        foundation_on=asked.foundation_on if asked is not None else None,
    )  # fmt: skip
    return World(Case(sitter, intent, teaching_kit(sitter, intent, house)), house)


def given(case: Case, house: House) -> World:
    """A case that was given, with a teaching kit where it has none."""
    return World(case if case.kit else replace(case, kit=teaching_kit(case.sitter, case.intent, house)), house)


def teaching_kit(sitter: Sitter, intent: Intent, house: House) -> tuple[Product, ...]:
    """The generic kit for a face, with a corrector of every hue in place of its two."""
    complexion = read(Case(sitter, intent), seen(intent.viewing, house)).complexion
    kit = [item for item in generic_kit(complexion) if item.role != "corrector"]
    for name, lighter, red, yellow in HUES:
        lab: Lab = (min(MOST_L, max(LEAST_L, complexion[0] + lighter)), float(red), float(yellow))
        kit.append(
            Product(
                id=f"cor-{name.lower().replace(' ', '-')}", role="corrector", name=f"{name} corrector", texture="cream",
                base="silicone", lab=lab, cover=0.5, ml=PAN_ML,
            )
        )  # fmt: skip
    return tuple(kit)
