"""Where and how far the base is from what is intended: the complexion, with shade and light as wanted."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache

import numpy as np

from nabrel.core.appearance import Appearance
from nabrel.core.case import Lab
from nabrel.core.evaluate import Evaluation
from nabrel.core.film.difference import delta_e
from nabrel.core.film.spectra import as_lab
from nabrel.core.plan.ledger import ZONE_INDEX
from nabrel.core.solve.words import direction
from nabrel.core.vocabulary import NOT_BASE, ZONES, StepKind, Zone, area_of

ON_PURPOSE: Mapping[StepKind, str] = {
    "colour": "carries colour on purpose",
    "glow": "glows on purpose",
    "bronze": "is warmer on purpose",
}
"""Kinds whose hue or sheen has no number to aim at: their zones are told, not judged."""


@dataclass(frozen=True, slots=True)
class Miss:
    """One zone against its aim, L*a*b* under the light looked in: CIEDE2000 and the way it misses, in words.

    purpose says why the zone differs on purpose; such a zone counts as no miss.
    """

    zone: Zone
    shown: Lab
    aim: Lab
    de: float
    says: str
    purpose: str = ""


@dataclass(frozen=True, slots=True)
class Missed:
    """All zones of the base, forehead to neck; mean_de by area over the zones that are judged, worst the furthest."""

    zones: tuple[Miss, ...]
    mean_de: float
    worst: Miss


def missed(evaluation: Evaluation, after: int | None = None) -> Missed:
    """How far every zone is from its aim once a step (by index) is done; -1 is bare skin, None the finished base.

    The aim is the complexion; where the plan shades or lights, it is deeper or lighter by the step that is wanted.
    """
    seen, steps = evaluation.appearance, evaluation.sequence.steps
    row = len(steps) if after is None else after + 1
    aims = np.array([_aim(evaluation, seen, zone) for zone in ZONES])
    far = delta_e(seen.lab[row], aims)
    found: list[Miss] = []
    for zone in (each for each in ZONES if each not in NOT_BASE):
        place = ZONE_INDEX[zone]
        shown, aim = as_lab(seen.lab[row, place]), as_lab(aims[place])
        purpose = next((ON_PURPOSE[s.kind] for s in steps[:row] if zone in s.zones and s.kind in ON_PURPOSE), "")
        found.append(Miss(zone, shown, aim, float(far[place]), direction(shown, aim), purpose))
    judged = [each for each in found if not each.purpose] or found
    areas = [_area(each.zone) for each in judged]
    mean = float(np.average([each.de for each in judged], weights=areas))
    return Missed(tuple(found), mean, max(judged, key=lambda each: each.de))


def _aim(evaluation: Evaluation, seen: Appearance, zone: Zone) -> Lab:
    kinds = {step.kind for step in evaluation.sequence.steps if zone in step.zones}
    light, red, yellow = seen.target
    if "shade" in kinds:
        light -= evaluation.house.wanted_shade_drop
    if "light" in kinds:
        light += evaluation.house.wanted_light_lift
    return light, red, yellow


@cache
def _area(zone: Zone) -> float:
    return area_of((zone,))
