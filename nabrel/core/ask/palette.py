"""The palette of steps that could be added to a plan: for each kind where this face asks for it, and with what."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass

from nabrel.core.ask.insertion import serving
from nabrel.core.case.product import Product
from nabrel.core.face.placement import Sculpt
from nabrel.core.face.reading import Reading
from nabrel.core.judge.evaluate import Evaluation
from nabrel.core.terms.conditions import DISCOLORATIONS, MARKS
from nabrel.core.terms.ids import StepKind, Zone
from nabrel.core.terms.steps import GROUPS, STEP_INFO
from nabrel.core.terms.zones import COMPLEXION_ZONES, EDGE_ZONES, NOT_BASE, T_ZONE, ZONES, both, in_order


@dataclass(frozen=True, slots=True)
class Offered:
    """A kind of step as it could be added: items that serve, the one to take first, and the zones that ask for it.

    missing is what the kit lacks for it, "" where it lacks nothing; used how many steps of the kind the plan has.
    """

    kind: StepKind
    group: str
    products: tuple[Product, ...]
    missing: str
    zones: tuple[Zone, ...]
    used: int


Asks = Callable[[Reading], Iterable[Zone]]


def _placed(kind: Sculpt) -> Asks:
    return lambda reading: reading.placement.of(kind).zones


def _middle(_: Reading) -> Iterable[Zone]:
    return COMPLEXION_ZONES


_ASKS: Mapping[StepKind, Asks] = {
    "eye_care": lambda _: both("under_eye", "inner_corner"),
    "prime": lambda reading: reading.where("enlarged_pores", "oily", least=2) or T_ZONE,
    "correct": lambda reading: reading.where(*DISCOLORATIONS, least=2) or reading.where(*DISCOLORATIONS),
    "conceal": lambda reading: reading.where(*DISCOLORATIONS, least=2) or both("under_eye"),
    "spot_conceal": lambda reading: reading.where(*MARKS),
    "light": _placed("light"),
    "shade": _placed("shade"),
    "glow": _placed("glow"),
    "colour": _placed("colour"),
    "bronze": lambda _: ("hairline", *both("temple", "cheekbone"), "nose_bridge"),
    "clean_edge": lambda _: both("cheek_hollow"),
    "crease_check": lambda _: both("under_eye", "smile_line"),
    "set": lambda reading: (*reading.where("oily", least=2), *both("under_eye")),
    "bake": lambda reading: [z for z in T_ZONE if reading.zones[z].lined < 2 and reading.zones[z].dry < 2],
    "mute_shine": lambda reading: reading.where("oily") or T_ZONE,
    "soften_edges": lambda reading: (*reading.placement.shade.zones, *reading.placement.light.zones),
    "edge_check": lambda _: EDGE_ZONES,
    "light_check": lambda _: (),
    "brows": lambda _: both("brow"),
    "eyes": lambda _: both("eyelid"),
    "lashes": lambda _: both("lash"),
    "lips": lambda _: ("lips",),
}
"""Where a face asks for a kind of step; the middle of the face for the kinds that are not here."""
_BY_PLAN: Mapping[StepKind, StepKind] = {"dust_off": "bake"}
"""Kinds that go where the plan has another kind."""


def offered(evaluation: Evaluation) -> tuple[Offered, ...]:
    """Every kind of step as it could be added to this plan, in the order of ``GROUPS``."""
    steps = evaluation.sequence.steps
    found: list[Offered] = []
    for group in GROUPS:
        for kind in (each.id for each in STEP_INFO.values() if each.group == group):
            products = serving(evaluation, kind)
            roles = STEP_INFO[kind].roles
            missing = f"the kit has no {roles[0].replace('_', ' ')}" if roles and not products else ""
            used = sum(step.kind == kind for step in steps)
            found.append(Offered(kind, group, products, missing, usual_zones(evaluation, kind), used))
    return tuple(found)


def usual_zones(evaluation: Evaluation, kind: StepKind) -> tuple[Zone, ...]:
    """Zones on which this face asks for a kind of step and work is allowed, first those that have none of it yet."""
    reading, steps = evaluation.reading, evaluation.sequence.steps
    if kind in _BY_PLAN:
        asked: Iterable[Zone] = [z for step in steps if step.kind == _BY_PLAN[kind] for z in step.zones]
    elif STEP_INFO[kind].over_all:
        asked = [zone for zone in ZONES if zone not in NOT_BASE]
    else:
        asked = _ASKS.get(kind, _middle)(reading)
    zones = in_order(reading.workable(asked))
    have = {zone for step in steps if step.kind == kind for zone in step.zones}
    return tuple(zone for zone in zones if zone not in have) or zones
