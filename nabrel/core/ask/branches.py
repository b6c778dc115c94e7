"""If your skin is …: what a plan would be on other skin, generated from the planner, as branches of what is demonstrated."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, replace

from nabrel.core.ask.adapt import Adapted, adapt
from nabrel.core.case.case import Case
from nabrel.core.house import House
from nabrel.core.judge.evaluate import Evaluation
from nabrel.core.terms.conditions import CONDITION_INFO
from nabrel.core.terms.ids import Condition, Preset, StepKind
from nabrel.core.terms.looks import PRESET_INFO
from nabrel.core.terms.steps import STEP_INFO
from nabrel.core.terms.words import join_words


@dataclass(frozen=True, slots=True)
class OnSkin:
    """What one kind of step would be on some kinds of skin, ``skin`` in words: what is done there, and why."""

    skins: tuple[Preset, ...]
    skin: str
    says: str
    why: str


@dataclass(frozen=True, slots=True)
class Branch:
    """One kind of step: on which skin (in words, "" for none) it is as demonstrated, and what it would be elsewhere."""

    kind: StepKind
    words: str
    as_shown: str
    otherwise: tuple[OnSkin, ...]


def skins() -> tuple[Preset, ...]:
    """The kinds of skin that are tried."""
    return tuple(PRESET_INFO)


def on_skin(model: Evaluation, skin: Preset, house: House) -> Adapted:
    """The plan as it would be if the same person had this skin."""
    return adapt(model, with_skin(model.sequence.case, skin), house)


def with_skin(case: Case, skin: Preset) -> Case:
    """The same person with this skin: of what was read by zone only colour and what discolours stay."""
    sitter = case.sitter
    zones = {
        zone: replace(here, conditions={each: grade for each, grade in here.conditions.items() if _of_colour(each)})
        for zone, here in sitter.zones.items()
    }
    return Case(replace(sitter, preset=skin, zones=zones), case.intent, case.kit)


def _of_colour(condition: Condition) -> bool:
    return CONDITION_INFO[condition].fills or CONDITION_INFO[condition].marks


def branches(model: Evaluation, house: House) -> tuple[Branch, ...]:
    """Every kind of step that other skin asks for otherwise, in the order of the work, with the skins that ask alike together."""
    tried = {skin: on_skin(model, skin, house) for skin in skins()}
    kinds: dict[StepKind, dict[tuple[str, str], list[Preset]]] = {}
    for skin, adapted in tried.items():
        for kind, says, why in _by_kind(adapted):
            kinds.setdefault(kind, {}).setdefault((says, why), []).append(skin)
    order = {step.kind: place for place, step in reversed(list(enumerate(model.sequence.steps)))}
    found = []
    for kind in sorted(kinds, key=lambda each: order.get(each, len(order))):
        rows = kinds[kind]
        asked = {skin for own in rows.values() for skin in own}
        found.append(
            Branch(
                kind,
                STEP_INFO[kind].words,
                skins_words(skin for skin in tried if skin not in asked),
                tuple(OnSkin(tuple(own), skins_words(own), says, why) for (says, why), own in rows.items()),
            )
        )
    return tuple(found)


def skins_words(found: Iterable[Preset]) -> str:
    """Kinds of skin as they stand after "if your skin is"; "" for none."""
    return join_words((PRESET_INFO[each].words.split(":")[0] for each in found), "or")


def _by_kind(adapted: Adapted) -> Iterator[tuple[StepKind, str, str]]:
    """What changes of each kind in one line, with the first reason."""
    by_kind: dict[StepKind, list[tuple[str, str]]] = {}
    for change in adapted.changes:
        by_kind.setdefault(change.kind, []).append((change.says, change.why))
    for kind, rows in by_kind.items():
        yield kind, " ".join(says for says, _ in rows), rows[0][1]
