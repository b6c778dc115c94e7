"""Exercises about where: what to leave bare, what to powder, where shade and light go on this face."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from random import Random
from typing import Any

from nabrel.core.drill.exercise import Answer, Exercise, Line, Mark, Marking, Shown, knows_only, lettered, zones_given
from nabrel.core.drill.judgements import PAINTED, SPARED, Judgement, about
from nabrel.core.drill.step_kinds import reads
from nabrel.core.drill.world import World
from nabrel.core.errors import Refused
from nabrel.core.face.placement import SCULPTS
from nabrel.core.house import House
from nabrel.core.terms.ids import StepKind, Zone
from nabrel.core.terms.places import places
from nabrel.core.terms.steps import STEP_INFO
from nabrel.core.terms.zones import COMPLEXION_ZONES, ZONE_INFO, ZONES, in_order

OF_ANOTHER_VALUE_L = 5
"""From so many L* off the complexion on a powder is pale, or deep: less is not told apart once it is pressed."""
MOST_SAID = 5
"""So many zones that were wrong are spoken of."""

LEAST_ZONES = 2
VALUES = ("a pale one", "a face-coloured one", "a deeper one")


@dataclass(frozen=True, slots=True)
class Reasoned(Marking):
    """Why each zone that is asked about needs it, or does not."""

    reasons: Mapping[Zone, str]


def leave_bare(world: World, level: int, rng: Random, asked: Judgement | None = None) -> Exercise | None:
    """Paint where a layer is needed, and leave the rest bare."""
    kinds: list[StepKind] = [
        kind
        for kind in (*PAINTED, *SPARED)
        if about(asked, f"bare-{kind}") and any(step.kind == kind and step.lays for step in world.plan.steps)
    ]
    rng.shuffle(kinds)
    for kind in kinds:
        needed = {zone for step in world.plan.steps if step.kind == kind for zone in step.zones}
        why = {each.zone: each.why for each in world.plan.left_bare if each.kind == kind}
        among = _among(needed, [zone for zone in why if zone not in needed], level, rng)
        if among is None:
            continue
        named = STEP_INFO[kind].laid
        reasons = {zone: why.get(zone, "Nothing here asks for it.") for zone in among if zone not in needed}
        reasons.update({zone: _reason(world, kind, zone) for zone in among if zone in needed})
        return _exercise(
            world, "leave_bare", f"bare-{kind}", level, f"Where does this face need {named}? Paint it there, and leave the rest bare.",
            [zone for zone in among if zone in needed], among, reasons,
        )  # fmt: skip
    return None


def powder_where(world: World, level: int, rng: Random, asked: Judgement | None = None) -> Exercise | None:  # noqa: ARG001 - as all
    """What to press with powder, and of which value."""
    steps = [step for step in world.plan.steps if step.kind == "set" and step.lays]
    if not steps:
        return None
    needed = {zone for step in steps for zone in step.zones}
    why = {each.zone: each.why for each in world.plan.left_bare if each.kind == "set"}
    among = _among(needed, [zone for zone in why if zone not in needed], level, rng)
    item = world.now.products.get(steps[0].item or "")
    if among is None or item is None or item.lab is None:
        return None
    from_skin = item.lab[0] - world.reading.complexion[0]
    pale, plain, deep = VALUES
    right = pale if from_skin > OF_ANOTHER_VALUE_L else deep if from_skin < -OF_ANOTHER_VALUE_L else plain
    values, letter = lettered(rng, right, [each for each in VALUES if each != right])
    reasons = {zone: why.get(zone, "Neither creases nor shines here.") for zone in among if zone not in needed}
    reasons.update({zone: _reason(world, "set", zone) for zone in among if zone in needed})
    made = _exercise(
        world, "powder_where", "powder-where", level, "What is pressed with powder here? Paint it, and say of which value the first powder is.",
        [zone for zone in among if zone in needed], among, reasons,
    )  # fmt: skip
    return replace(
        made,
        answer=replace(made.answer, value=letter),
        why=(*steps[0].why, *made.why)[:3],
        shows=replace(made.shows, values=tuple(Line(each.id, each.says) for each in values)),
    )


def placement(world: World, level: int, rng: Random, asked: Judgement | None = None) -> Exercise | None:
    """Where shade or light goes for these measures."""
    kinds = [
        kind
        for kind in SCULPTS
        if about(asked, f"placement-{kind}") and len(getattr(world.reading.placement, kind).zones) >= LEAST_ZONES
    ]
    if not kinds:
        return None
    kind = rng.choice(kinds)
    placed = getattr(world.reading.placement, kind)
    off = {each.zone: each.why for each in placed.left_off}
    among = _among(set(placed.zones), [zone for zone in off if zone not in placed.zones], level, rng)
    if among is None:
        return None
    reasons = {
        zone: placed.reason(zone) if zone in placed.zones else off.get(zone, "Not for these measures.")
        for zone in among
    }
    shape = world.reading.shape
    measures = world.case.sitter.measures
    made = _exercise(
        world, "placement", f"placement-{kind}", level, f"Where does {kind} go on this face?",
        [zone for zone in among if zone in placed.zones], among, reasons,
    )  # fmt: skip
    asked_of: Mapping[str, str | int | float | None] = {
        "shape": shape or "", "forehead_fingers": measures.forehead_fingers, "face_length_mm": measures.face_length_mm,
        "cheekbone_width_mm": measures.cheekbone_width_mm, "jaw_width_mm": measures.jaw_width_mm,
    }  # fmt: skip
    return replace(made, shows=replace(made.shows, measures=asked_of))


def mark_places(exercise: Exercise, answer: Answer, house: House) -> Mark:  # noqa: ARG001 - as all marks
    """Zone by zone: each that is right counts, painted or left bare; half of it all for the value where one is asked for."""
    marking = exercise.marking
    assert isinstance(marking, Reasoned)
    values = [each.id for each in exercise.shows.values]
    knows_only(answer, "zones", *(("value",) if values else ()))
    given = zones_given(exercise, answer)
    right = frozenset(exercise.answer.zones or ())
    among, reasons = exercise.shows.zones, marking.reasons
    wrong = [zone for zone in among if (zone in given) != (zone in right)]
    # Who paints all, or nothing, knows nothing: both halves count alike.
    hit = len(given & right) / len(right) if right else 1.0
    rest = [zone for zone in among if zone not in right]
    spared = sum(zone not in given for zone in rest) / len(rest) if rest else 1.0
    score = max(0.0, hit + spared - 1.0) if rest and right else min(hit, spared)
    if answer.zones is None:
        score = 0.0
    follows = [
        f"{ZONE_INFO[zone].words}: {'needed' if zone in right else 'bare'}. {reasons[zone]}"
        for zone in wrong[:MOST_SAID]
    ]
    if values:
        value = answer.value
        if value is not None and value not in values:
            raise Refused("value", value, "one of " + ", ".join(values))
        score = 0.5 * score + 0.5 * (value == exercise.answer.value)
    return Mark(round(score, 3), exercise.answer, tuple(follows) or ("Every place is right.",), exercise.why)


def check_places(exercise: Exercise) -> None:
    """Refuse an exercise that lacks a reason for a zone, and one with a single value to choose."""
    marking, shows = exercise.marking, exercise.shows
    if isinstance(marking, Reasoned) and not set(marking.reasons) >= set(shows.zones):
        raise Refused("marking.reasons", "too few", "a reason for every zone that is asked about")
    if len(shows.values) == 1:
        raise Refused("shows.values", 1, "two and more")


def _among(needed: set[Zone], bare: list[Zone], level: int, rng: Random) -> list[Zone] | None:
    """The zones that are asked about: those that need it, and as many that do not, the ones left bare for a reason first."""
    own = [zone for zone in in_order(needed) if zone in COMPLEXION_ZONES]
    if len(own) < LEAST_ZONES:
        return None
    own = own if len(own) <= 4 + level else list(in_order(rng.sample(own, 4 + level)))
    others = [zone for zone in bare if zone in COMPLEXION_ZONES]
    rest = [zone for zone in COMPLEXION_ZONES if zone not in needed and zone not in others]
    rng.shuffle(rest)
    count = max(LEAST_ZONES, min(len(own), 3 + level))
    picked = (others + rest)[:count]
    return list(in_order([*own, *picked])) if len(picked) >= LEAST_ZONES else None


def _reason(world: World, kind: StepKind, zone: Zone) -> str:
    for step in world.plan.steps:
        if step.kind == kind and zone in step.zones:
            portion = step.portion_on(zone)
            return portion.why[0] if portion is not None and portion.why else step.why[0]
    return ""


def bare_face(world: World) -> Mapping[Zone, str]:
    """The colours of the bare face by zone, sRGB hex."""
    return dict(zip(ZONES, world.now.appearance.hexes[0], strict=True))


def _exercise(
    world: World,
    kind: Any,
    judgement: str,
    level: int,
    asks: str,
    right: list[Zone],
    among: list[Zone],
    reasons: Mapping[Zone, str],
) -> Exercise:
    bare = [zone for zone in among if zone not in right]
    why = (
        f"Needed {places(right)}: {reasons[right[0]]}",
        *([f"Bare {places(bare)}: {reasons[bare[0]]}"] if bare else []),
    )
    return Exercise(
        "", kind, judgement, level, 0, asks, Answer(zones=tuple(right)), why,
        shows=Shown(zones=tuple(among), reads=reads(world), face=bare_face(world)), marking=Reasoned(dict(reasons)), sequence=world.plan,
    )  # fmt: skip
