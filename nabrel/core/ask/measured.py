"""What colours that were measured anew, of items or of skin, change in a plan that already stands."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace

from nabrel.core.ask.recommend import plan
from nabrel.core.ask.trial import Trial, against
from nabrel.core.ask.unsure import takes_other
from nabrel.core.case.product import Product
from nabrel.core.case.sitter import Sitter
from nabrel.core.face.measuring import SkinReading, place_words, read_into
from nabrel.core.house import House
from nabrel.core.judge.evaluate import Evaluation, evaluate
from nabrel.core.plan.sequence import Sequence
from nabrel.core.terms.zones import ZONE_INFO

SEEN_DE = 0.5
"""A finished face that moves by less than this looks the same."""
MOST_FINDINGS = 3


@dataclass(frozen=True, slots=True)
class Changed:
    """What measured colours change in one plan: which of its items or places, the plan as it stands with them, what planning anew
    would take.
    """

    what: tuple[str, ...]
    trial: Trial
    replacements: tuple[str, ...]

    @property
    def says(self) -> tuple[str, ...]:
        """It in sentences, what is seen first."""
        trial = self.trial
        if trial.look_de < SEEN_DE:
            said = ["Worked as it stands, it would look the same."]
        else:
            where = ZONE_INFO[trial.look_zone].words.lower()
            said = [
                f"Worked as it stands, the face would end up to ΔE00 {trial.look_de:.1f} off what is shown ({where})."
            ]
        said += [f"New in its findings: {each.says}" for each in trial.come[:MOST_FINDINGS]]
        if len(trial.come) > MOST_FINDINGS:
            said.append(f"And {len(trial.come) - MOST_FINDINGS} more of them.")
        said += [f"No longer in its findings: {each.says}" for each in trial.gone[:MOST_FINDINGS]]
        if self.replacements:
            said.append(f"Planned anew: {'; '.join(self.replacements)}.")
        return tuple(said)


def laid_items(sequence: Sequence) -> frozenset[str]:
    """The ids of the items that a plan lays."""
    return frozenset(part.item for step in sequence.steps for part in step.mix)


def with_colours(sequence: Sequence, items: Mapping[str, Product]) -> Sequence:
    """A plan whose own items have the colour and cover of those of the same id; all else of them stays, and so do its steps."""
    kit = tuple(_recoloured(item, items.get(item.id, item)) for item in sequence.case.kit)
    return replace(sequence, case=replace(sequence.case, kit=kit))


def _recoloured(own: Product, fresh: Product) -> Product:
    return replace(
        own, lab=fresh.lab, lab_sd=fresh.lab_sd, cover=fresh.cover, cover_sd=fresh.cover_sd, source=fresh.source
    )


def changed_by(now: Evaluation, items: Mapping[str, Product], house: House) -> Changed | None:
    """What these items, measured anew, change in an evaluated plan. None where it lays none of them, or they are as it has them."""
    new = with_colours(now.sequence, items)
    laid = laid_items(new)
    pairs = zip(now.sequence.case.kit, new.case.kit, strict=True)
    moved = tuple(own.name for own, fresh in pairs if own != fresh and own.id in laid)
    return _changed(now, new, moved, house) if moved else None


def changed_by_skin(now: Evaluation, readings: Iterable[SkinReading], house: House) -> Changed | None:
    """What readings of the sitter's skin change in an evaluated plan of theirs. None where it has them so already."""
    old, sitter = now.sequence, now.sequence.case.sitter
    places: list[str] = []
    for reading in readings:
        then = read_into(sitter, reading, house)
        if _looks_other(sitter, then):
            places.append(place_words(reading.place))
        sitter = then
    if not places:
        return None
    return _changed(now, replace(old, case=replace(old.case, sitter=sitter)), tuple(places), house)


def _looks_other(one: Sitter, other: Sitter) -> bool:
    """Whether two records differ in more than how sure they are."""
    bare = (
        [
            each.skin.lab, each.neck and each.neck.lab, each.chest and each.chest.lab,
            {zone: (skin.lab, skin.conditions) for zone, skin in each.zones.items()},
        ]
        for each in (one, other)
    )  # fmt: skip
    return next(bare) != next(bare)


def _changed(now: Evaluation, new: Sequence, names: tuple[str, ...], house: House) -> Changed:
    trial = against(now, evaluate(new, house, now.appearance.light, try_fixes=False))
    wished = replace(new.case.intent, school=new.school)
    before, after = (plan(replace(each.case, intent=wished), house) for each in (now.sequence, new))
    return Changed(names, trial, tuple(takes_other(before, after, now)))
