"""Load: how much is laid, in how many films, and whether a hand can lay it."""

from __future__ import annotations

from collections.abc import Iterator

from nabrel.core.judge.book import Breach, Fix, Judged, rule
from nabrel.core.judge.ways_out import no_more_than
from nabrel.core.plan.edits import Remove, SetAmount
from nabrel.core.plan.step import Step
from nabrel.core.terms.ids import Zone
from nabrel.core.terms.places import places
from nabrel.core.terms.steps import LAYER_KINDS, POWDER_KINDS, STEP_INFO, step_words
from nabrel.core.terms.zones import in_order


@rule(
    "what-a-hand-can-lay",
    "amounts",
    "advice",
    "No film is thinner than a hand can lay.",
    "Thinner than this comes out in patches: leave it out, or thin it with balm.",
    parameters=("least_film_um",),
)
def what_a_hand_can_lay(judged: Judged) -> Iterator[Breach]:
    least = judged.house.least_film_um
    for _, step in judged.steps():
        thin = [p.amount for p in step.portions if p.amount and p.amount < least and not p.left_over]
        if step.kind in LAYER_KINDS and step.unit == "um" and thin:
            yield Breach((step.id,), step.zones, f"{min(thin):g} µm of {step_words(step.kind)}.",
                        Fix(f"{least:g} µm", _raised(step, least)))  # fmt: skip


@rule(
    "nothing-laid-by-nothing",
    "amounts",
    "advice",
    "A step that lays product lays some.",
    "Nothing taken is time spent and nothing seen.",
)
def nothing_laid_by_nothing(judged: Judged) -> Iterator[Breach]:
    for _, step in judged.steps():
        if step.kind in LAYER_KINDS | POWDER_KINDS and step.item and step.lays and not any(step.amounts.values()):
            yield Breach((step.id,), step.zones, f"{STEP_INFO[step.kind].words} with an amount of 0.",
                        Fix("Leave it out", (Remove(step.id),)) if step.kind != "bake" else None)  # fmt: skip


@rule(
    "thin-glow",
    "amounts",
    "advice",
    "Glow is thin.",
    "More of it is a stripe that shows from across the room.",
    parameters=("most_glow_um",),
)
def thin_glow(judged: Judged) -> Iterator[Breach]:
    for _, step in judged.steps():
        if step.kind == "glow" and (step.film_um or 0.0) > judged.house.most_glow_um:
            yield Breach((step.id,), step.zones, f"{step.film_um:g} µm of glow.",
                        Fix(f"{judged.house.glow_film_um:g} µm", no_more_than(step, judged.house.glow_film_um)))  # fmt: skip


@rule(
    "few-films-on-a-zone",
    "amounts",
    "advice",
    "Few films lie on one zone.",
    "Each layer hides a little more of the skin, however thin it is.",
    parameters=("most_films",),
)
def few_films_on_a_zone(judged: Judged) -> Iterator[Breach]:
    laid: dict[Zone, list[str]] = {}
    for _, step in judged.steps():
        if step.kind in LAYER_KINDS and step.film_um:
            for zone in step.zones:
                laid.setdefault(zone, []).append(step.id)
    full = {zone: steps for zone, steps in laid.items() if len(steps) > judged.house.most_films}
    if full:
        worst = max(full, key=lambda zone: len(full[zone]))
        yield Breach(tuple(full[worst]), in_order(full), f"{len(full[worst])} films lie {places([worst])}.")


@rule(
    "set-is-not-a-bake",
    "amounts",
    "advice",
    "Setting is pressed thin; more is a bake, with its wait and dusting.",
    "A thick press that is never dusted stays as a veil of its own.",
    parameters=("most_set_mg",),
)
def set_is_not_a_bake(judged: Judged) -> Iterator[Breach]:
    for _, step in judged.steps():
        if step.kind == "set" and (step.powder_mg or 0.0) > judged.house.most_set_mg:
            yield Breach((step.id,), step.zones, f"{step.powder_mg:g} mg/cm² pressed and left.",
                        Fix(f"{judged.house.set_mg:g} mg/cm²", no_more_than(step, judged.house.set_mg)))  # fmt: skip


def _raised(step: Step, least: float) -> tuple[SetAmount, ...]:
    """Every portion that lays less than a hand can, raised to it."""
    thin = (n for n, p in enumerate(step.portions) if p.amount and p.amount < least and not p.left_over)
    return tuple(SetAmount(step.id, least, place) for place in thin)
