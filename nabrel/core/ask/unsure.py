"""What a plan would be if the skin were not quite the colour that was judged by eye, and which items were only guessed."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace

from nabrel.core.ask.recommend import plan
from nabrel.core.case.sitter import Colour, Sitter
from nabrel.core.house import House
from nabrel.core.judge.evaluate import Evaluation
from nabrel.core.plan.sequence import Sequence
from nabrel.core.terms.colour import Lab
from nabrel.core.terms.ids import StepKind
from nabrel.core.terms.limits import Range, Source
from nabrel.core.terms.steps import STEP_INFO
from nabrel.core.terms.words import join_words

MOVED_LIGHTNESS = Range(4.0, 98.0)
"""L* that a skin may be taken for."""

SOURCE_WORDS: dict[Source, str] = {
    "measured": "measured", "photo": "read from a photograph", "stripe": "judged by a stripe of foundation",
    "eye": "judged by eye", "guessed": "guessed",
}  # fmt: skip
GUESSED: frozenset[Source | None] = frozenset({"guessed", "eye", "stripe"})
"""An item whose colour comes from one of these was judged or guessed, not measured."""
SURE_ENOUGH_DE = 1.0
"""A colour less unsure than this moves no choice that a person would see."""
_WAYS: tuple[tuple[str, Lab], ...] = (
    ("lighter", (1.0, 0.0, 0.0)), ("deeper", (-1.0, 0.0, 0.0)), ("warmer", (0.0, 0.0, 1.0)), ("cooler", (0.0, 0.0, -1.0)),
)  # fmt: skip


@dataclass(frozen=True, slots=True)
class Otherwise:
    """One way in which the skin may be off, and what the plan would take then instead; empty where nothing changes."""

    if_skin: str
    then: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Unsure:
    """How sure the colours behind a plan are. ``lab_sd`` is the skin's, ΔE00; None where it was measured or not said."""

    says: str
    lab_sd: float | None
    otherwise: tuple[Otherwise, ...]
    guessed: tuple[str, ...]


def how_sure(now: Evaluation, house: House) -> Unsure:
    """What would change within what is unsure: the case is planned anew with the skin off by its spread, each way."""
    case, skin = now.sequence.case, now.sequence.case.sitter.skin
    used = {part.item for step in now.sequence.steps for part in step.mix}
    guessed = tuple(item.name for item in now.products.values() if item.id in used and item.source in GUESSED)
    sd = skin.lab_sd
    if sd is None or sd < SURE_ENOUGH_DE:
        return Unsure(_says(skin, ()) if sd is not None else "", sd, (), guessed)
    asked = replace(case, intent=replace(case.intent, school=now.sequence.school))
    base = plan(asked, house)
    otherwise = tuple(
        Otherwise(
            words, tuple(takes_other(base, plan(replace(asked, sitter=_moved(case.sitter, way, sd)), house), now))
        )
        for words, way in _WAYS
    )
    return Unsure(_says(skin, otherwise), sd, otherwise, guessed)


def _says(skin: Colour, otherwise: tuple[Otherwise, ...]) -> str:
    how = SOURCE_WORDS[skin.source] if skin.source else "not measured"
    lead = f"The skin's colour was {how}: it may be off by about ΔE00 {skin.lab_sd:.1f}."
    if not any(each.then for each in otherwise):
        return f"{lead} The plan would be the same."
    return f"{lead} A measured reading would settle which of these it is."


def _moved(sitter: Sitter, way: Lab, by: float) -> Sitter:
    """The sitter with every colour that was read off by so much, that way."""

    def moved(lab: Lab) -> Lab:
        return (MOVED_LIGHTNESS.clipped(lab[0] + way[0] * by), lab[1] + way[1] * by, lab[2] + way[2] * by)

    def colour(each: Colour | None) -> Colour | None:
        return None if each is None else replace(each, lab=moved(each.lab))

    zones = {
        zone: skin if skin.lab is None else replace(skin, lab=moved(skin.lab)) for zone, skin in sitter.zones.items()
    }
    return replace(
        sitter,
        skin=replace(sitter.skin, lab=moved(sitter.skin.lab)),
        neck=colour(sitter.neck),
        chest=colour(sitter.chest),
        zones=zones,
    )


def takes_other(base: Sequence, other: Sequence, now: Evaluation) -> Iterator[str]:
    """What is taken instead, kind by kind: "Thin satin 2 instead of Thin satin 3 for the foundation"."""
    names = {item.id: item.name for item in now.products.values()}
    before, after = _taken(base), _taken(other)
    for kind in dict.fromkeys([*before, *after]):
        old, new = before.get(kind, ()), after.get(kind, ())
        if set(old) == set(new):
            continue
        come = [names.get(item, item) for item in new if item not in old]
        gone = [names.get(item, item) for item in old if item not in new]
        laid = STEP_INFO[kind].laid
        if come and gone:
            yield f"{join_words(come)} instead of {join_words(gone)} ({laid})"
        elif come:
            yield f"{join_words(come)} as well ({laid})"
        else:
            yield f"without {join_words(gone)} ({laid})"


def _taken(sequence: Sequence) -> dict[StepKind, tuple[str, ...]]:
    found: dict[StepKind, tuple[str, ...]] = {}
    for step in sequence.steps:
        if step.lays:
            items = (*found.get(step.kind, ()), *(part.item for part in step.mix))
            found[step.kind] = tuple(dict.fromkeys(items))
    return found
