"""Placements drawn: where on the face map each stroke of shade, light, glow and colour lies, and which zones it meets.

The map's sheet is 320 by 400 units, frontal, the sitter's right on the viewer's left, of a face of usual measures: one
unit is ``MM_A_UNIT`` mm. A stroke that was moved takes the zones it now lies on into the placement, so that a plan
follows the hand that moved it; what speaks against a place is then for the rule book to say.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass, replace
from itertools import pairwise
from math import dist, hypot
from typing import Annotated, TypeAlias

from nabrel.core.face.placement import SCULPTS, Placement, Sculpt
from nabrel.core.house import House
from nabrel.core.terms.ids import Zone
from nabrel.core.terms.rounding import Rounded
from nabrel.core.terms.zones import SKIN_ZONES, ZONE_INFO, in_order

LEAST_RUN = 0.3
"""A cheek line runs at least so much of the way from ear to mouth, however short of it the house stops."""
BEND = 0.4
"""Where along it a cheek line sags most."""

Point = tuple[float, float]
OnSheet: TypeAlias = Annotated[float, Rounded(1)]
"""Units of the map's sheet, to a tenth of which a stroke is told."""
MM_A_UNIT = 138.0 / 178.0
WIDTH = 320.0
MOST_MOVED_MM = 60.0

_RIGHT_OR_MIDDLE: Mapping[str, tuple[Point, ...]] = {
    "hairline": ((100, 82), (130, 62), (160, 58), (84, 104)),
    "forehead_centre": ((130, 110), (160, 100), (160, 130)),
    "temple": ((98, 116), (86, 146)),
    "brow_bone": ((104, 152), (130, 152)),
    "eyelid": ((118, 168),),
    "under_eye": ((104, 190), (124, 197)),
    "inner_corner": ((143, 177),),
    "nose_bridge": ((160, 160), (160, 185), (160, 208)),
    "nose_side": ((143, 216), (144, 232)),
    "nose_tip": ((160, 230),),
    "cheek_apple": ((112, 226), (126, 226), (122, 244), (102, 216)),
    "cheekbone": ((82, 188), (84, 208)),
    "cheek_hollow": ((74, 214), (80, 224), (94, 242), (106, 258)),
    "smile_line": ((130, 252), (124, 268)),
    "upper_lip": ((148, 248), (172, 248)),
    "lips": ((146, 268), (174, 268)),
    "below_lip": ((160, 291),),
    "chin": ((148, 314), (172, 314)),
    "jaw": ((88, 264), (106, 288), (122, 308)),
    "under_jaw": ((120, 330), (160, 345)),
    "ear": ((62, 192),),
    "neck": ((120, 372), (160, 380)),
}

_DRAWN: Mapping[tuple[Sculpt, str], tuple[Point, ...]] = {
    ("shade", "temple"): ((82, 152), (86, 132), (98, 110)),
    ("shade", "hairline"): ((92, 94), (114, 72), (160, 60), (206, 72), (228, 94)),
    ("shade", "jaw"): ((80, 250), (92, 272), (108, 292)),
    ("shade", "under_jaw"): ((116, 326), (160, 344), (204, 326)),
    ("shade", "nose_side"): ((148, 196), (145, 214), (144, 230)),
    ("light", "forehead_centre"): ((160, 134), (136, 106), (160, 98), (184, 106), (160, 134)),
    ("light", "under_eye"): ((140, 186), (122, 204), (98, 190), (140, 186)),
    ("light", "nose_bridge"): ((160, 158), (160, 210)),
    ("light", "upper_lip"): ((146, 248), (174, 248)),
    ("light", "chin"): ((148, 314), (172, 314)),
    ("glow", "brow_bone"): ((100, 153), (130, 151)),
    ("glow", "cheekbone"): ((76, 186), (88, 192)),
    ("colour", "cheek_apple"): ((120, 232), (110, 224), (100, 215)),
}

EAR_TOP: Point = (72.0, 206.0)
SAG = 6.0
"""Units by which the cheek line sags into the hollow."""
LIP_CORNER: Point = (129.0, 265.0)


@dataclass(frozen=True, slots=True)
class Stroke:
    """One stroke on the map. ``points`` as it lies now, ``moved_mm`` how far it was moved right and down."""

    id: str
    kind: Sculpt
    zones: tuple[Zone, ...]
    points: tuple[tuple[OnSheet, OnSheet], ...]
    moved_mm: Point
    why: str


def _mirrored(points: tuple[Point, ...]) -> tuple[Point, ...]:
    return tuple((WIDTH - x, y) for x, y in points)


def _anchors() -> dict[Zone, tuple[Point, ...]]:
    found: dict[Zone, tuple[Point, ...]] = {}
    for zone in SKIN_ZONES:
        info = ZONE_INFO[zone]
        points = _RIGHT_OR_MIDDLE[_stem(zone)]
        if info.side == "":
            points = (*points, *_mirrored(points))
        found[zone] = _mirrored(points) if info.side == "l" else points
    return found


def _stem(zone: Zone) -> str:
    return zone[:-2] if ZONE_INFO[zone].side else zone


ANCHORS: Mapping[Zone, tuple[Point, ...]] = _anchors()
"""Points that stand for each zone on the map's sheet."""


def zone_at(point: Point) -> Zone:
    """The zone a point of the sheet belongs to: the one with the nearest anchor."""
    return min(ANCHORS, key=lambda zone: min(dist(point, anchor) for anchor in ANCHORS[zone]))


def zones_under(points: tuple[Point, ...]) -> tuple[Zone, ...]:
    """The zones on which at least a quarter of a stroke's length lies."""
    found: Counter[Zone] = Counter()
    for start, end in pairwise(points):
        steps = max(2, int(dist(start, end) // 2))
        for step in range(steps):
            share = (step + 0.5) / steps
            found[zone_at((start[0] + share * (end[0] - start[0]), start[1] + share * (end[1] - start[1])))] += 1
    least = found.total() / 4
    return in_order([zone for zone, count in found.items() if count >= least])


def _cheek_line(house: House) -> tuple[Point, ...]:
    """From the upper ear in the direction of the lip corner, ending well short of the mouth."""
    whole = dist(EAR_TOP, LIP_CORNER)
    run = max(LEAST_RUN, 1.0 - house.shade_short_of_mouth_mm / (whole * MM_A_UNIT))
    across, down = run * (LIP_CORNER[0] - EAR_TOP[0]), run * (LIP_CORNER[1] - EAR_TOP[1])
    middle = (EAR_TOP[0] + BEND * across - SAG / 2, EAR_TOP[1] + BEND * down + SAG)
    return (EAR_TOP, middle, (EAR_TOP[0] + across, EAR_TOP[1] + down))


def _points(kind: Sculpt, zone: Zone, house: House) -> tuple[Point, ...]:
    stem = _stem(zone)
    drawn = _cheek_line(house) if (kind, stem) == ("shade", "cheek_hollow") else _DRAWN.get((kind, stem), ANCHORS[zone])
    # Anchors of a paired zone lie on its own side already.
    return _mirrored(drawn) if ZONE_INFO[zone].side == "l" and drawn is not ANCHORS[zone] else drawn


def strokes(placement: Placement, moved: Mapping[str, Point], house: House) -> tuple[Stroke, ...]:
    """Every stroke of a placement as it follows from the measures, moved where somebody moved it."""
    found: list[Stroke] = []
    for kind in SCULPTS:
        placed = placement.of(kind)
        for zone in placed.zones:
            name = f"{kind}.{zone}"
            by = moved.get(name, (0.0, 0.0))
            points = _points(kind, zone, house)
            lies: tuple[Zone, ...] = (zone,)
            if hypot(*by) > 0:
                points = tuple((x + by[0] / MM_A_UNIT, y + by[1] / MM_A_UNIT) for x, y in points)
                lies = zones_under(points) or (zone,)
            found.append(Stroke(name, kind, lies, points, by, placed.reason(zone)))
    return tuple(found)


def moved_placement(placement: Placement, moved: Mapping[str, Point], house: House) -> Placement:
    """The placement with each moved stroke's zones as it lies now."""
    if not moved:
        return placement
    lying = strokes(placement, moved, house)
    changed = placement
    for kind in SCULPTS:
        of_kind = [stroke for stroke in lying if stroke.kind == kind]
        zones = in_order({zone for stroke in of_kind for zone in stroke.zones})
        placed = placement.of(kind)
        if zones != placed.zones:
            left = tuple(each for each in placed.left_off if each.zone not in zones)
            by_hand = replace(placed, zones=zones, why=(*placed.why, "Moved by hand on the face map."), left_off=left)
            changed = replace(changed, **{kind: by_hand})
    return changed
