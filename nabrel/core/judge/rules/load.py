"""Load: how much is laid, in how many films, and whether a hand can lay it."""

from __future__ import annotations

from collections.abc import Iterator

from nabrel.core.judge.book import Fix, Found, Judged, rule
from nabrel.core.plan.edits import Remove, SetAmount
from nabrel.core.terms.ids import Zone
from nabrel.core.terms.places import places
from nabrel.core.terms.steps import LAYER_KINDS, POWDER_KINDS
from nabrel.core.terms.zones import in_order


@rule(
    "what-a-hand-can-lay",
    "amounts",
    "advice",
    "No film is thinner than a hand can lay.",
    "Thinner than this comes out in patches: leave it out, or thin it with balm.",
    parameters=("least_film_um",),
)
def what_a_hand_can_lay(judged: Judged) -> Iterator[Found]:
    least = judged.house.least_film_um
    for _, step in judged.steps():
        if step.kind in LAYER_KINDS and step.film_um is not None and 0 < step.film_um < least:
            yield Found((step.id,), step.zones, f"{step.film_um:g} µm of {step.kind.replace('_', ' ')}.",
                        Fix(f"{least:g} µm", (SetAmount(step.id, film_um=least),)))  # fmt: skip


@rule(
    "nothing-laid-by-nothing",
    "amounts",
    "advice",
    "A step that lays product lays some.",
    "Nothing taken is time spent and nothing seen.",
)
def nothing_laid_by_nothing(judged: Judged) -> Iterator[Found]:
    for _, step in judged.steps():
        if (
            step.kind in LAYER_KINDS | POWDER_KINDS
            and step.product
            and (step.film_um or step.powder_mg_cm2 or 0.0) == 0.0
        ):
            yield Found((step.id,), step.zones, f"{step.kind.replace('_', ' ').capitalize()} with an amount of 0.",
                        Fix("Leave it out", (Remove(step.id),)) if step.kind != "bake" else None)  # fmt: skip


@rule(
    "thin-glow",
    "amounts",
    "advice",
    "Glow is thin.",
    "More of it is a stripe that shows from across the room.",
    parameters=("most_glow_um",),
)
def thin_glow(judged: Judged) -> Iterator[Found]:
    for _, step in judged.steps():
        if step.kind == "glow" and (step.film_um or 0.0) > judged.house.most_glow_um:
            yield Found((step.id,), step.zones, f"{step.film_um:g} µm of glow.",
                        Fix(f"{judged.house.glow_film_um:g} µm", (SetAmount(step.id, film_um=judged.house.glow_film_um),)))  # fmt: skip


@rule(
    "few-films-on-a-zone",
    "amounts",
    "advice",
    "Few films lie on one zone.",
    "Each layer hides a little more of the skin, however thin it is.",
    parameters=("most_films",),
)
def few_films_on_a_zone(judged: Judged) -> Iterator[Found]:
    laid: dict[Zone, list[str]] = {}
    for _, step in judged.steps():
        if step.kind in LAYER_KINDS and step.film_um:
            for zone in step.zones:
                laid.setdefault(zone, []).append(step.id)
    full = {zone: steps for zone, steps in laid.items() if len(steps) > judged.house.most_films}
    if full:
        worst = max(full, key=lambda zone: len(full[zone]))
        yield Found(tuple(full[worst]), in_order(full), f"{len(full[worst])} films lie {places([worst])}.")


@rule(
    "set-is-not-a-bake",
    "amounts",
    "advice",
    "Setting is pressed thin; more is a bake, with its wait and dusting.",
    "A thick press that is never dusted stays as a veil of its own.",
    parameters=("most_set_mg",),
)
def set_is_not_a_bake(judged: Judged) -> Iterator[Found]:
    for _, step in judged.steps():
        if step.kind == "set" and (step.powder_mg_cm2 or 0.0) > judged.house.most_set_mg:
            yield Found((step.id,), step.zones, f"{step.powder_mg_cm2:g} mg/cm² pressed and left.",
                        Fix(f"{judged.house.set_mg:g} mg/cm²", (SetAmount(step.id, powder_mg_cm2=judged.house.set_mg),)))  # fmt: skip
