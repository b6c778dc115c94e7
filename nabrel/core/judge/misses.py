"""Where and how far the base is from what is intended: the complexion, with shade and light as wanted."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from nabrel.core.film.difference import delta_e
from nabrel.core.film.direction import direction
from nabrel.core.film.spectra import Floats, as_lab
from nabrel.core.judge.evaluate import Evaluation
from nabrel.core.terms.colour import Lab
from nabrel.core.terms.ids import Zone
from nabrel.core.terms.schools import SCHOOL_INFO
from nabrel.core.terms.steps import STEP_INFO
from nabrel.core.terms.zones import NOT_BASE, ZONE_INDEX, ZONE_INFO, ZONES

FRAMED = "is framed deeper on purpose"
"""In the two-tone school the zones that others shade bear the deeper foundation."""
BASE: tuple[Zone, ...] = tuple(zone for zone in ZONES if zone not in NOT_BASE)


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
    row = len(evaluation.sequence.steps) if after is None else after + 1
    aims, far = _far(evaluation, row)
    purposes = _purposes(evaluation, row)
    shown = evaluation.appearance.lab[row]
    found: list[Miss] = []
    for zone in BASE:
        place = ZONE_INDEX[zone]
        seen, aim = as_lab(shown[place]), as_lab(aims[place])
        found.append(Miss(zone, seen, aim, float(far[place]), direction(seen, aim), purposes.get(zone, "")))
    judged = [each for each in found if not each.purpose] or found
    return Missed(tuple(found), _mean(far, [each.zone for each in judged]), max(judged, key=lambda each: each.de))


def mean_miss(evaluation: Evaluation) -> float:
    """How far the finished base is from its aim, ΔE00, mean by area over the zones that are judged."""
    row = len(evaluation.sequence.steps)
    _, far = _far(evaluation, row)
    purposes = _purposes(evaluation, row)
    return _mean(far, [zone for zone in BASE if zone not in purposes] or BASE)


def _far(evaluation: Evaluation, row: int) -> tuple[Floats, Floats]:
    """The aim of every zone in L*a*b*, (zones, 3), and how far a stage is from it, ΔE00, (zones,)."""
    seen, house = evaluation.appearance, evaluation.house
    aims = np.tile(np.array(seen.target), (len(ZONES), 1))
    for kind, lift in (("shade", -house.wanted_shade_drop), ("light", house.wanted_light_lift)):
        zones = {zone for step in evaluation.sequence.steps if step.kind == kind for zone in step.zones}
        aims[[ZONE_INDEX[zone] for zone in zones], 0] += lift
    return aims, delta_e(seen.lab[row], aims)


def _purposes(evaluation: Evaluation, done: int) -> Mapping[Zone, str]:
    """Zones that differ on purpose once so many steps are done, and why; the first purpose counts."""
    found: dict[Zone, str] = {}
    founded: set[Zone] = set()
    for step in evaluation.sequence.steps[:done]:
        purpose = STEP_INFO[step.kind].purpose
        if purpose:
            for zone in step.zones:
                found.setdefault(zone, purpose)
        elif step.kind == "foundation":
            founded.update(step.zones)
    if SCHOOL_INFO[evaluation.sequence.school].frames:
        for zone in founded.intersection(evaluation.reading.placement.shade.zones):
            found.setdefault(zone, FRAMED)
    return found


def _mean(far: Floats, zones: Sequence[Zone]) -> float:
    areas = [ZONE_INFO[zone].area_cm2 for zone in zones]
    return float(np.average(far[[ZONE_INDEX[zone] for zone in zones]], weights=areas))
