"""Where and how far the base is from what is intended: the complexion, with shade and light as wanted."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from functools import cache

import numpy as np

from nabrel.core.appearance import Appearance
from nabrel.core.case import Lab
from nabrel.core.evaluate import Evaluation
from nabrel.core.film.difference import delta_e
from nabrel.core.film.spectra import as_lab
from nabrel.core.plan.ledger import ZONE_INDEX
from nabrel.core.plan.step import Step
from nabrel.core.solve.words import direction
from nabrel.core.vocabulary import NOT_BASE, ZONES, StepKind, Zone, area_of

ON_PURPOSE: Mapping[StepKind, str] = {
    "colour": "carries colour on purpose",
    "glow": "glows on purpose",
    "bronze": "is warmer on purpose",
}
"""Kinds whose hue or sheen has no number to aim at: their zones are told, not judged."""
FRAMED = "is framed deeper on purpose"
"""In the two-tone school the zones that others shade bear the deeper foundation."""


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
        purpose = _purpose(evaluation, steps[:row], zone)
        found.append(Miss(zone, shown, aim, float(far[place]), direction(shown, aim), purpose))
    judged = [each for each in found if not each.purpose] or found
    areas = [_area(each.zone) for each in judged]
    mean = float(np.average([each.de for each in judged], weights=areas))
    return Missed(tuple(found), mean, max(judged, key=lambda each: each.de))


def _purpose(evaluation: Evaluation, done: Iterable[Step], zone: Zone) -> str:
    """Why a zone differs on purpose once some steps are done; empty where it is to meet its aim."""
    kinds = [step.kind for step in done if zone in step.zones]
    found = next((ON_PURPOSE[kind] for kind in kinds if kind in ON_PURPOSE), "")
    if found or evaluation.sequence.school != "two_tone" or "foundation" not in kinds:
        return found
    return FRAMED if zone in evaluation.reading.placement.shade.zones else ""


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
