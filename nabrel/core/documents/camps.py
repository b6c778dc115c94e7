"""Where schools disagree and this plan had to decide: two camps, often with one reason."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from nabrel.core.case.intent import OPTIONS
from nabrel.core.plan.sequence import Sequence
from nabrel.core.terms.ids import StepKind


@dataclass(frozen=True, slots=True)
class Camp:
    """One side: what it does, and why."""

    words: str
    why: str


@dataclass(frozen=True, slots=True)
class CampCard:
    """One disagreement that this plan decides: the question, the side it takes, the other sides, and what all of them want."""

    question: str
    here: Camp
    others: tuple[Camp, ...]
    one_reason: str


@dataclass(frozen=True, slots=True)
class _About:
    kinds: frozenset[StepKind]
    one_reason: str


def _about(reason: str, *kinds: StepKind) -> _About:
    return _About(frozenset(kinds), reason)


ABOUT: Mapping[str, _About] = {
    "order": _about("Both want to keep dark out of light.", "light", "shade"),
    "blend": _about("Both want no edge that has to be forced.", "light", "shade"),
    "corrector": _about("All want to use less of everything above it.", "correct"),
    "spot": _about("Both want to use less concealer.", "spot_conceal", "conceal"),
    "shade_edge": _about("Both want a shadow that one believes.", "shade"),
    "laid_from": _about("Both want it spread before it dries.", "foundation"),
    "powder_sculpt": _about("Both want an edge that cannot be seen.", "set", "shade"),
    "glow": _about("All want it to look like the skin's own.", "glow"),
    "melting_mist": _about("All want powder that does not show.", "melting_mist"),
    "brows": _about("All want nothing smudged by the hand that rests on the cheek.", "brows"),
    "eyes": _about("All want no dark fallout on the base.", "eyes"),
    "evenness": _about("Both want skin that looks like skin in the end.", "foundation"),
}
"""What each disagreement is about: it is put where a plan has all these kinds of step."""
SETTING: tuple[tuple[frozenset[str], Camp], ...] = (
    (frozenset({"bake_points", "bake_wide"}), Camp("Bake", "So that it lasts: powder takes up oil while it sits.")),
    (frozenset({"spot", "t_zone", "on_light", "whole_face"}), Camp("Press", "So that it does not crack: no more powder than creases or shines.")),
    (frozenset({"none"}), Camp("Leave it unset", "So that it looks like skin: a crease is accepted.")),
)  # fmt: skip


def camps(plan: Sequence) -> tuple[CampCard, ...]:
    """The disagreements that a plan decides, in the order of the work; of setting always."""
    kinds = {step.kind for step in plan.steps}
    intent = plan.case.intent
    found = []
    for option in OPTIONS:
        about = ABOUT.get(option.name)
        if about is None or not about.kinds <= kinds:
            continue
        value = getattr(intent, option.name, None)
        if value is None:
            value = getattr(intent.options, option.name)
        value = str(value).lower() if isinstance(value, bool) else value
        sides = {way.value: Camp(way.words, way.why) for way in option.ways}
        others = tuple(camp for name, camp in sides.items() if name not in (value, "school", "none", "helps"))
        found.append(CampCard(option.words, sides[value], others, about.one_reason))
    policy = next(camp for ids, camp in SETTING if intent.setting in ids)
    rest = tuple(camp for _, camp in SETTING if camp is not policy)
    found.append(CampCard("Setting", policy, rest, "All want the base to hold together until the evening."))
    return tuple(found)
