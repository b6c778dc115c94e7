"""The judgements that are practised: what each is about, in words. A card a judgement is what a student knows or forgets."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass

from nabrel.core.ask.mistakes import MISTAKES
from nabrel.core.judge.evaluate import rule_book
from nabrel.core.terms.asked import FoundationOn
from nabrel.core.terms.conditions import CONDITION_INFO
from nabrel.core.terms.ids import Base, Condition, DrillKind, Preset, School, StepKind
from nabrel.core.terms.looks import PRESET_INFO
from nabrel.core.terms.schools import SCHOOL_INFO
from nabrel.core.terms.steps import STEP_INFO
from nabrel.core.terms.table import table

BASE_WORDS: Mapping[Base, str] = {
    "water": "a water-based layer", "silicone": "a silicone-rich layer", "oil": "an oil-rich layer", "anhydrous": "a waxy layer",
}  # fmt: skip
FAULTS: Mapping[str, tuple[str, ...]] = {
    "let-it-settle": ("no_waits",), "gentle-on-fragile": ("swiped",), "no-dry-sponge-for-cream": ("dry_sponge",),
    "spot-not-lighter": ("pale_on_a_spot",), "thin-corrector": ("corrector_too_thick",), "within-what-it-carries": ("too_much",),
    "no-shimmer-on-texture": ("glow_on_texture",), "shade-short-of-the-mouth": ("shade_to_the_mouth",),
    "shade-and-light-apart": ("one_sponge",), "crease-check-before-powder": ("over_creases",),
    "no-shade-on-the-jowl": ("shade_on_the_jowl",),
    "wet-over-powder": ("powder_too_early", "powder_everywhere"),
}  # fmt: skip
"""Rules that are found broken, and the mistakes that break them."""
PAINTED: tuple[StepKind, ...] = ("glow", "correct", "light", "colour")
"""Layers that most faces need in some places only; foundation is one where it is wished to lie only where it is needed."""
SPARED: Mapping[StepKind, FoundationOn] = {"foundation": "where_needed"}
WORKED: tuple[StepKind, ...] = ("colour", "shade", "glow", "foundation")
"""Layers that are sold as cream and as powder."""
PLACED: tuple[StepKind, ...] = ("shade", "light")
"""Layers that are placed by the measures of a face."""
DISCOLOURED: tuple[Condition, ...] = (
    "dark_circle_blue", "dark_circle_violet", "dark_circle_brown", "redness", "mouth_darkness",
)  # fmt: skip
"""What a corrector is chosen for."""
SHOWN: tuple[str, ...] = (
    "whole_under_eye", "shade_to_the_mouth", "corrector_too_thick", "glow_on_texture", "pale_on_a_spot", "too_much",
    "powder_everywhere",
)  # fmt: skip
"""Mistakes that a finished face shows plainly enough to be told from it."""


_NEEDS: Mapping[str, Condition] = {
    "no-shimmer-on-texture": "raised_texture", "glow_on_texture": "raised_texture", "no-shade-on-the-jowl": "jowl",
    "spot-not-lighter": "post_blemish_mark", "pale_on_a_spot": "post_blemish_mark", "spot_conceal": "post_blemish_mark",
}  # fmt: skip
"""What a face must have for a rule, a mistake or a step to come up."""


@dataclass(frozen=True, slots=True)
class Judgement:
    """One judgement: the kind of exercise that practises it, what it is about there, and its words.

    An exercise of it is made from a face with this condition or skin, planned in this school, where they are named.
    """

    id: str
    kind: DrillKind
    about: str
    words: str
    condition: Condition | None = None
    preset: Preset | None = None
    school: School | None = None
    foundation_on: FoundationOn | None = None


def _laid(nature: str) -> Iterator[StepKind]:
    yield from (kind for kind, info in STEP_INFO.items() if info.nature == nature)


def _steps(*more: StepKind, without: Iterable[StepKind] = ()) -> Iterator[StepKind]:
    """What every plan may lay as a film, and what goes with it."""
    rare = {"clean_edge", "bronze", *without}
    yield from (kind for kind in (*_laid("prime"), *_laid("layer"), *more) if kind not in rare)


def _all() -> Iterator[Judgement]:
    for school, school_info in SCHOOL_INFO.items():
        yield Judgement(
            f"order-{school}", "order", school, f"The order of work, {school_info.words.lower()}", school=school
        )
    for rule in FAULTS:
        yield Judgement(rule, "fault", rule, rule_book()[rule].statement.rstrip("."), _NEEDS.get(rule))
    for condition in DISCOLOURED:
        yield Judgement(
            f"hue-{condition}", "corrector", condition, f"A corrector for {CONDITION_INFO[condition].words}", condition
        )
    yield Judgement("read-through", "depth", "", "How dark beneath a foundation")
    for kind in (*PAINTED, *SPARED):
        says, on = f"Where {STEP_INFO[kind].laid} goes, and where not", SPARED.get(kind)
        yield Judgement(f"bare-{kind}", "leave_bare", kind, says, foundation_on=on)
    for lower in BASE_WORDS:
        for upper in BASE_WORDS:
            says = f"{BASE_WORDS[upper].capitalize()} over {BASE_WORDS[lower].replace('layer', 'one')}"
            yield Judgement(f"base-{upper}-over-{lower}", "base_pair", f"{upper} {lower}", says)
    yield Judgement("powder-where", "powder_where", "", "What to powder, and with which value")
    for preset, preset_info in PRESET_INFO.items():
        says = f"Which order suits {preset_info.words.split(':')[0]} skin"
        yield Judgement(f"school-{preset}", "school", preset, says, preset=preset)
    for kind in WORKED:
        yield Judgement(
            f"texture-{kind}", "texture", kind, f"Cream or powder, and by which hand: {STEP_INFO[kind].laid}"
        )
    for kind in _steps("set"):
        yield Judgement(f"amount-{kind}", "amount", kind, f"How much {STEP_INFO[kind].laid}", _NEEDS.get(kind))
    for kind in _steps("moisturise", "eye_care", without=("glow",)):
        yield Judgement(
            f"wait-{kind}", "wait", kind, f"What may follow {STEP_INFO[kind].laid} at once", _NEEDS.get(kind)
        )
    for mistake in SHOWN:
        says = f"Seen on the face: {MISTAKES[mistake].words.lower()}"
        yield Judgement(f"diagnose-{mistake}", "diagnose", mistake, says, _NEEDS.get(mistake))
    for kind in PLACED:
        yield Judgement(f"placement-{kind}", "placement", kind, f"Where {STEP_INFO[kind].laid} goes for these measures")
    for kind in _steps("set"):
        yield Judgement(f"explain-{kind}", "explain", kind, f"Why there is {STEP_INFO[kind].laid}", _NEEDS.get(kind))


JUDGEMENTS: Mapping[str, Judgement] = table(_all())
"""Every judgement that is practised, in the order of their kinds."""


def about(asked: Judgement | None, judgement: str) -> bool:
    """Whether an exercise of this judgement is one that is asked for: it is practised, and the one that is named, if one is."""
    return judgement in JUDGEMENTS and (asked is None or asked.id == judgement)


def of_kind(kind: DrillKind) -> tuple[Judgement, ...]:
    """The judgements that a kind of exercise practises."""
    return tuple(each for each in JUDGEMENTS.values() if each.kind == kind)


PRACTISED_BY: Mapping[StepKind, DrillKind] = {
    "cleanse": "order", "moisturise": "texture", "eye_care": "texture", "sunscreen": "order", "prime": "base_pair", "correct": "corrector",
    "conceal": "leave_bare", "spot_conceal": "diagnose", "light": "placement", "shade": "depth", "bronze": "placement", "glow": "leave_bare",
    "foundation": "amount", "colour": "leave_bare", "set": "powder_where", "bake": "wait", "clean_edge": "diagnose", "mute_shine": "powder_where",
    "melting_mist": "wait", "setting_mist": "wait", "crease_check": "wait", "dust_off": "wait",
}  # fmt: skip
"""Which kind of exercise practises what a step asks for: what somebody was late at, or should do again."""


def practised_by(kinds: Iterable[StepKind]) -> tuple[DrillKind, ...]:
    """The kinds of exercise that practise these kinds of step, each once."""
    return tuple(dict.fromkeys(PRACTISED_BY[kind] for kind in kinds if kind in PRACTISED_BY))


MOST_OF_A_KIND = 6
"""So many judgements of a kind are practised for a step, where none is about that step alone."""


def to_practise(kinds: Iterable[StepKind]) -> tuple[Judgement, ...]:
    """What somebody practises who was late at steps of these kinds, or should do them again: each once."""
    found: dict[str, Judgement] = {}
    for kind in kinds:
        if kind not in PRACTISED_BY:
            continue
        all_of = of_kind(PRACTISED_BY[kind])
        own = [each for each in all_of if each.about == kind] or [
            each for each in JUDGEMENTS.values() if each.about == kind
        ]
        found.update((each.id, each) for each in own or all_of[:MOST_OF_A_KIND])
    return tuple(found.values())
