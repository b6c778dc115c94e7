"""Values of the trade that differ by zone, condition, motion or viewing: one table each, with unit, range and source.

Beside them stand the few numbers that no plan may decide otherwise, since they say how colour is seen and told.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType
from typing import TypeVar

from nabrel.core.house.parameter import HOUSE
from nabrel.core.terms.colour import Lab
from nabrel.core.terms.conditions import DepthClass
from nabrel.core.terms.ids import Condition, Finish, Motion, StepKind, Viewing

Key = TypeVar("Key", bound=str)
Value = TypeVar("Value")


@dataclass(frozen=True, slots=True)
class Table:
    """The description of one table; ``values`` holds its rows as they are used."""

    name: str
    unit: str
    low: float
    high: float
    why: str
    source: str
    values: Mapping[str, object]


TABLES: dict[str, Table] = {}
"""Every table by name, for the reference page and its test."""


def _table(
    name: str, unit: str, low: float, high: float, why: str, source: str, values: Mapping[Key, Value]
) -> Mapping[Key, Value]:
    frozen = MappingProxyType(dict(values))
    TABLES[name] = Table(name, unit, low, high, why, source, MappingProxyType({str(k): v for k, v in frozen.items()}))
    return frozen


def _fixed(name: str, unit: str, low: float, high: float, why: str, source: str, value: float) -> float:
    _table(name, unit, low, high, why, source, {"all": value})
    return value


LAMP_ADAPTATION = _fixed(
    "lamp adaptation",
    "degree, 0 none to 1 complete",
    0.0,
    1.0,
    "How far the eye adapts to a lamp; below 1 so that a lamp still looks warm.",
    HOUSE,
    0.92,
)

WORTH_A_WORD = _fixed(
    "worth a word",
    "L*, a* or b*",
    0.1,
    2.0,
    "A smaller difference is not told in words: no hand acts on it.",
    HOUSE,
    0.5,
)

SHIFT_PER_SEVERITY: Mapping[Condition, Lab] = _table(
    "condition colour",
    "ΔL*, Δa*, Δb* per severity",
    -8.0,
    8.0,
    "How far a condition moves the colour where it sits on light skin; used only where the zone was not measured.",
    HOUSE,
    {
        "dark_circle_blue": (-3.5, -2.0, -4.0),
        "dark_circle_violet": (-3.5, 1.5, -5.0),
        "dark_circle_brown": (-4.0, 1.0, -0.5),
        "brown_spot": (-3.0, 1.0, 0.5),
        "mouth_darkness": (-3.0, -0.5, -1.0),
        "outer_eye_pigment": (-3.0, 0.5, -0.5),
        "redness": (-1.5, 4.0, 0.5),
        "visible_vessels": (-0.5, 2.5, 0.0),
        "sallow": (-0.5, -1.0, 3.5),
        "post_blemish_mark": (-2.0, 2.0, -0.5),
        "active_blemish": (-1.0, 4.0, 1.0),
        "healing_blemish": (-1.0, 3.0, 0.0),
    },
)

SHOWS_ON_DEEP: Mapping[Condition, float] = _table(
    "darkness on deep skin",
    "share",
    0.3,
    1.3,
    "A severity is graded by eye, so darkness of one severity looks about as strong on the deepest skin as on light skin (the "
    "same ΔE00 needs about this share of the shift); a flush shows less with depth.",
    "published colour around the eye: 5 to 10 L* below the cheek on brown and dark skin, as much as on light skin",
    {
        "dark_circle_blue": 1.1,
        "dark_circle_violet": 1.1,
        "dark_circle_brown": 1.1,
        "brown_spot": 1.1,
        "mouth_darkness": 1.1,
        "outer_eye_pigment": 1.1,
        "post_blemish_mark": 0.9,
    },
)

PATCHY: Mapping[Condition, float] = _table(
    "patch share",
    "share of the zone",
    0.05,
    1.0,
    "Share of a zone that conditions made of spots and marks take up; the others fill theirs.",
    HOUSE,
    {
        "brown_spot": 0.3,
        "post_blemish_mark": 0.35,
        "active_blemish": 0.35,
        "healing_blemish": 0.3,
        "visible_vessels": 0.5,
    },
)

USUAL_HUE: Mapping[DepthClass, float] = _table(
    "usual hue",
    "degrees",
    35.0,
    75.0,
    "Usual hue angle of skin by depth; undertone is the distance from it.",
    "house, from the middle of published skin gamuts",
    {"very light": 56.0, "light": 57.0, "intermediate": 57.0, "tan": 56.0, "brown": 54.0, "dark": 50.0},
)

DEPTH_CUTS: Mapping[DepthClass, float] = _table(
    "depth cut-offs",
    "ITA°",
    -90.0,
    90.0,
    "A skin belongs to the first class whose typology angle it exceeds; to dark where it exceeds none.",
    "published cut-offs of the individual typology angle",
    {"very light": 55.0, "light": 41.0, "intermediate": 28.0, "tan": 10.0, "brown": -30.0},
)

FOLDING: Mapping[str, float] = _table(
    "folding",
    "0 to 1",
    0.0,
    1.0,
    "How much a zone folds when the face moves, by the stem of its id; all others fold 0.15.",
    HOUSE,
    {
        "under_eye": 1.0,
        "eyelid": 1.0,
        "smile_line": 0.9,
        "inner_corner": 0.8,
        "upper_lip": 0.6,
        "forehead_centre": 0.45,
        "chin": 0.4,
        "neck": 0.4,
        "elsewhere": 0.15,
    },
)

EDGE_WIDTH_MM: Mapping[Motion, float] = _table(
    "edge width",
    "mm",
    1.0,
    30.0,
    "Width over which a border fades with each motion.",
    HOUSE,
    {
        "press": 5.0,
        "stipple": 6.0,
        "warm_melt": 8.0,
        "bounce": 8.0,
        "feather": 10.0,
        "sweep": 9.0,
        "buff": 12.0,
        "whisk": 10.0,
        "drag": 6.0,
        "mist": 12.0,
    },
)

MATTE: Mapping[Finish, float] = _table(
    "matt of a finish",
    "0 dewy to 1 matte",
    0.0,
    1.0,
    "How much oil a finish hides before it looks shiny.",
    HOUSE,
    {"matte": 1.0, "satin": 0.5, "dewy": 0.0, "shimmer": 0.0, "glitter": 0.0},
)

FINISH_RANK: Mapping[Finish, float] = _table(
    "finish rank",
    "steps from matte",
    0.0,
    3.0,
    "Finishes in order, so that mixed finishes and misses can be counted in steps.",
    HOUSE,
    {"matte": 0.0, "satin": 1.0, "dewy": 2.0, "shimmer": 3.0, "glitter": 3.0},
)

VIEWING_CONTRAST: Mapping[Viewing, float] = _table(
    "viewing contrast",
    "factor",
    0.5,
    4.0,
    "What multiplies the wanted shade and light: a camera and dim rooms wash out, a stage swallows.",
    HOUSE,
    {"in_person": 1.0, "camera": 1.35, "stage": 2.0, "dim_room": 1.3},
)
VIEWING_LOAD: Mapping[Viewing, float] = _table(
    "viewing load",
    "factor",
    0.5,
    3.0,
    "What multiplies the film a zone carries: nobody sees a stage face from near.",
    HOUSE,
    {"in_person": 1.0, "camera": 1.25, "stage": 1.6, "dim_room": 1.2},
)
VIEWING_EDGE: Mapping[Viewing, float] = _table(
    "viewing edge",
    "ΔE00 per mm",
    0.1,
    5.0,
    "The steepest border that passes unseen.",
    HOUSE,
    {"in_person": 0.6, "camera": 0.9, "stage": 1.6, "dim_room": 1.1},
)

SCHOOL_WEIGHTS: Mapping[str, float] = _table(
    "school weights",
    "points",
    0.0,
    10.0,
    "What a reason for or against a base weighs when schools or candidates are ranked; told in words, never as a number.",
    HOUSE,
    {
        "oil rises": 1.6,
        "oil slides": 2.0,
        "powder lasts": 1.6,
        "powder on lines": 1.6,
        "powder on dry": 1.0,
        "least film": 0.5,
        "no plane": 2.0,
        "deep skin": 1.0,
        "hidden": 2.0,
        "glows through": 0.8,
        "for camera": 1.6,
        "heavy in person": 1.2,
        "sculpting": 3.0,
        "load": 2.0,
        "film": 0.8,
        "crease": 2.0,
        "shine": 1.5,
        "evenness": 0.6,
        "minutes": 0.25,
        "cost": 0.3,
        "finding": 2.0,
        "essential": 6.0,
        "bare": 10.0,
    },
)

USUAL_MEASURES: Mapping[str, float] = _table(
    "usual measures",
    "mm",
    30,
    250,
    "The face that the face map is drawn as before anything is measured.",
    HOUSE,
    {
        "face_length_mm": 183.0,
        "cheekbone_width_mm": 138.0,
        "jaw_width_mm": 110.0,
        "forehead_width_mm": 124.0,
        "nose_length_mm": 50.0,
    },
)

MEASURE_ERRORS: tuple[float, ...] = (-1.4, -0.67, 0.0, 0.67, 1.4)
"""Errors of a measure tried when a shape is read, in multiples of the tape's own: the middles of five equal chances."""
_table(
    "measure errors tried",
    "multiples of the tape's error",
    -2,
    2,
    "The middles of five equally likely parts of a normal error.",
    HOUSE,
    {str(place): error for place, error in enumerate(MEASURE_ERRORS)},
)

USUAL_DEPTH: Mapping[StepKind, float] = _table(
    "usual depth",
    "ΔL* from the complexion",
    -30.0,
    30.0,
    "How much deeper or paler the item is that is offered first for a kind of step; the others near the complexion.",
    HOUSE,
    {"shade": -14.0, "bronze": -8.0, "light": 5.0, "glow": 12.0, "colour": -8.0},
)
