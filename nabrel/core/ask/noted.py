"""What was noted for next time, as edits of a plan: "Powder the forehead and nose a little more", "less glow", "another primer".

Read are plain English notes that name what is laid, whether more or less of it, none, or another product, and where. What is not
understood is offered nothing: the note itself still stands beside the plan.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from typing import Literal

from nabrel.core.ask.insertion import InsertionPoint, late_places, serving
from nabrel.core.ask.trial import Trial, try_edits
from nabrel.core.errors import Impossible, Refused
from nabrel.core.house import House
from nabrel.core.judge.evaluate import Evaluation
from nabrel.core.plan.edits import Edit, Remove, SetAmount, SetProduct, SetZones, SplitPortion
from nabrel.core.plan.step import Step
from nabrel.core.shelf.ladder import Rung, Unit, nearest_rung, rungs
from nabrel.core.terms.ids import StepKind, Zone
from nabrel.core.terms.places import places
from nabrel.core.terms.steps import POWDER_KINDS, STEP_INFO
from nabrel.core.terms.words import join_words
from nabrel.core.terms.zones import T_ZONE, ZONE_INFO, in_order

Wish = Literal["more", "less", "without", "another"]
MORE = ("more", "darker", "deeper", "stronger", "thicker", "heavier")
LESS = ("less", "lighter", "thinner", "weaker", "fainter", "softer", "not so much")
WITHOUT = ("without", "leave out", "skip", "no")
ANOTHER = ("another", "other", "different")
WISHES: Mapping[Wish, tuple[str, ...]] = {"another": ANOTHER, "without": WITHOUT, "less": LESS, "more": MORE}
"""The words of each wish; one that holds another ("another" holds "other") is looked for whole."""
KINDS: Mapping[str, StepKind] = {
    "powder": "set", "set": "set", "press": "set", "bake": "bake", "shade": "shade", "contour": "shade", "light": "light",
    "highlight": "glow", "glow": "glow", "blush": "colour", "colour": "colour", "bronzer": "bronze", "bronze": "bronze",
    "foundation": "foundation", "concealer": "conceal", "conceal": "conceal", "corrector": "correct", "correct": "correct",
    "primer": "prime", "prime": "prime", "moisturiser": "moisturise", "moisturise": "moisturise", "sunscreen": "sunscreen",
    "mist": "setting_mist",
}  # fmt: skip
"""What is laid, by the words that people have for it."""
PARTS: Mapping[str, Callable[[Zone], bool]] = {
    "t-zone": lambda zone: zone in T_ZONE,
    "forehead": lambda zone: ZONE_INFO[zone].region == "forehead" and ZONE_INFO[zone].stem != "temple",
    "temple": lambda zone: ZONE_INFO[zone].stem == "temple",
    "hairline": lambda zone: zone == "hairline",
    "under-eye": lambda zone: ZONE_INFO[zone].stem == "under_eye",
    "under the eye": lambda zone: ZONE_INFO[zone].stem == "under_eye",
    "eyelid": lambda zone: ZONE_INFO[zone].stem == "eyelid",
    "nose": lambda zone: ZONE_INFO[zone].region == "nose",
    "cheekbone": lambda zone: ZONE_INFO[zone].stem == "cheekbone",
    "hollow": lambda zone: ZONE_INFO[zone].stem == "cheek_hollow",
    "apple": lambda zone: ZONE_INFO[zone].stem == "cheek_apple",
    "cheek": lambda zone: ZONE_INFO[zone].region == "cheeks",
    "smile line": lambda zone: ZONE_INFO[zone].stem == "smile_line",
    "chin": lambda zone: zone == "chin",
    "mouth": lambda zone: ZONE_INFO[zone].region == "mouth",
    "jaw": lambda zone: ZONE_INFO[zone].stem in ("jaw", "under_jaw"),
    "neck": lambda zone: zone == "neck",
}
"""Parts of the face by the words of a note; a narrower one that holds a wider one's word comes first and takes it."""


@dataclass(frozen=True, slots=True)
class Noted:
    """What one part of a note would change: in words, as edits, and what they would do."""

    says: str
    edits: tuple[Edit, ...]
    trial: Trial


def noted_edits(note: str, now: Evaluation, house: House) -> tuple[Noted, ...]:
    """What a note asks for in this plan, each thing that can be done there by itself."""
    return tuple(
        found
        for clause in re.split(r"[.;,!]|\bbut\b", note.lower())
        if (found := _offer(clause, now, house)) is not None
    )


def _offer(clause: str, now: Evaluation, house: House) -> Noted | None:
    kind, wish = _kind(clause), _wish(clause)
    if kind is None or wish is None:
        return None
    zones = _zones(clause)
    says, edits = _edits(kind, wish, zones, now, house)
    if not edits:
        return None
    try:
        return Noted(says, edits, try_edits(now, edits, house))
    except (Refused, Impossible):
        return None


def _word(word: str, clause: str) -> re.Match[str] | None:
    return re.search(rf"\b{re.escape(word)}(?:s|es|ed|d)?\b", clause)


def _kind(clause: str) -> StepKind | None:
    """What is laid: the word that comes first."""
    found = [(match.start(), kind) for word, kind in KINDS.items() if (match := _word(word, clause)) is not None]
    return min(found)[1] if found else None


def _wish(clause: str) -> Wish | None:
    return next((wish for wish, words in WISHES.items() if any(_word(word, clause) for word in words)), None)


def _zones(clause: str) -> frozenset[Zone]:
    """The zones that a clause names; none where it names no place."""
    named: set[Zone] = set()
    for word, holds in PARTS.items():
        match = _word(word, clause)
        if match is not None:
            named |= {zone for zone in ZONE_INFO if holds(zone)}
            clause = clause[: match.start()] + clause[match.end() :]
    return frozenset(named)


def _edits(
    kind: StepKind, wish: Wish, zones: frozenset[Zone], now: Evaluation, house: House
) -> tuple[str, tuple[Edit, ...]]:
    steps = [step for step in now.sequence.steps if step.kind == kind]
    name = STEP_INFO[kind].words
    if wish == "another":
        return _another(kind, steps, now)
    if wish == "without":
        return f"{name}: left out{_where(zones)}", tuple(_without(steps, zones))
    said: list[str] = []
    edits: list[Edit] = []
    for step in steps:
        for words, own in _moved(step, 1 if wish == "more" else -1, zones, house):
            said.append(words)
            edits += own
    if wish == "more":
        laid = {zone for step in now.sequence.steps if _like(step.kind, kind) and step.lays for zone in step.zones}
        bare = in_order(zone for zone in zones if zone not in laid and ZONE_INFO[zone].base)
        place = next((each for each in _late(now, kind, bare, house) if not each.refused), None) if bare else None
        if place is not None:
            said.append(f"also {places(bare)}")
            edits += place.edits
    return f"{name}: {join_words(said)}", tuple(edits)


def _like(other: StepKind, kind: StepKind) -> bool:
    """Whether one kind does on a zone what another would: powder is powder, pressed or baked."""
    return other == kind or (other in POWDER_KINDS and kind in POWDER_KINDS)


def _where(zones: frozenset[Zone]) -> str:
    return f" {places(in_order(zones))}" if zones else ""


def _late(now: Evaluation, kind: StepKind, zones: tuple[Zone, ...], house: House) -> tuple[InsertionPoint, ...]:
    try:
        return late_places(now, kind, zones, house)
    except Refused:
        return ()


def _another(kind: StepKind, steps: list[Step], now: Evaluation) -> tuple[str, tuple[Edit, ...]]:
    """The next best item that serves, in place of the one that is taken most."""
    used = next((step.item for step in steps if step.item is not None), None)
    other = next((item for item in serving(now, kind) if item.id != used), None)
    if used is None or other is None:
        return "", ()
    before = now.products[used].name if used in now.products else used
    edits = tuple(SetProduct(step.id, other.id) for step in steps if step.item == used)
    return f"{STEP_INFO[kind].words}: {other.name} instead of {before}", edits


def _without(steps: list[Step], zones: frozenset[Zone]) -> Iterator[Edit]:
    for step in steps:
        rest = tuple(zone for zone in step.zones if zone not in zones) if zones else ()
        if not rest:
            yield Remove(step.id)
        elif len(rest) < len(step.zones):
            yield SetZones(step.id, rest)


def _moved(step: Step, by: int, zones: frozenset[Zone], house: House) -> Iterator[tuple[str, list[Edit]]]:
    """Each portion on these zones (all, where none are named) a rung up or down; the last portion first, so that places hold."""
    if step.unit is None:
        return
    unit: Unit = step.unit
    ladder = rungs(unit, house)
    for place in reversed(range(len(step.portions))):
        portion = step.portions[place]
        own = tuple(zone for zone in portion.zones if not zones or zone in zones)
        if not own or portion.amount is None or portion.left_over:
            continue
        before = nearest_rung(portion.amount, unit, house)
        after = _next(ladder, before, by)
        if after is None:
            continue
        words = f"{after.words} instead of {before.words} {places(in_order(own))}"
        if len(own) == len(portion.zones):
            yield words, [SetAmount(step.id, after.amount, place)]
        else:
            yield words, [SplitPortion(step.id, own, place), SetAmount(step.id, after.amount, place + 1)]


def _next(ladder: tuple[Rung, ...], rung: Rung, by: int) -> Rung | None:
    place = ladder.index(rung) + by
    return ladder[place] if 0 <= place < len(ladder) else None
