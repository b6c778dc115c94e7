"""Whatever the face, the kit and the wish: a layer is laid or named, in the texture that the kit has, and no rule is broken."""

from __future__ import annotations

from collections import Counter
from dataclasses import replace

import pytest

from nabrel.core.case.intent import Options
from nabrel.core.house import House
from nabrel.core.judge.evaluate import evaluate
from nabrel.core.planner.planner import plan_in
from tests.core.made_up import cases

HOUSE = House()
MADE = 160


@pytest.fixture(scope="module")
def made():
    """Made-up cases with their textures, each planned and evaluated in its school."""
    found = []
    for case, textures in cases(MADE, seed=11):
        sequence = plan_in(case.intent.school, case, HOUSE)
        found.append((case, textures, evaluate(sequence, HOUSE, try_fixes=False)))
    return found


def wanted(case) -> set[str]:
    """The layers that a school and the wishes ask for."""
    school, finish = case.intent.school, case.intent.finish
    layers = {"colour"}
    if school != "light_led":
        layers.add("light")
    if school not in ("light_led", "two_tone"):
        layers.add("shade")
    if finish != "matte":
        layers.add("glow")
    if case.intent.options.bronzer != "none":
        layers.add("bronze")
    return layers


def test_a_layer_asked_for_is_laid_or_named_with_the_reason(made):
    laid = left_out = 0
    for case, textures, evaluation in made:
        plan = evaluation.sequence
        kinds = {step.kind for step in plan.steps}
        said = " ".join(plan.notes).lower()
        left = {each.kind for each in plan.left_bare}
        for layer in wanted(case):
            if layer in kinds:
                laid += 1
                continue
            left_out += 1
            word = "warmth" if layer == "bronze" else layer
            assert word in said or layer in left, (case.intent.school, layer, textures, plan.notes)
    assert laid > 300
    assert left_out > 50


def test_the_texture_that_the_kit_has_is_the_one_that_is_laid(made):
    met = Counter()
    for _, textures, evaluation in made:
        for step in evaluation.sequence.steps:
            role = {"bronze": "bronzer"}.get(step.kind, step.kind)
            item = evaluation.products.get(step.item or "")
            if role in textures and item is not None and item.role == role and textures[role] != "both":
                met[role, textures[role]] += 1
                assert item.dry == (textures[role] == "pan"), (step.kind, textures)
    assert all(met[role, texture] > 5 for role in ("shade", "colour", "glow") for texture in ("cream", "pan")), met


def test_a_pan_lies_over_powder_or_on_bare_skin(made):
    pans = 0
    for _, _, evaluation in made:
        before = evaluation.course.states
        for place, step in enumerate(evaluation.sequence.steps):
            if step.kind in ("shade", "bronze", "colour", "glow") and step.powder_mg:
                for zone in step.zones:
                    pans += 1
                    lying = before[place][zone]
                    assert lying.powder_mg > 0 or lying.wet_um <= 0, (step.kind, zone)
    assert pans > 200


def test_a_fresh_plan_breaks_no_rule_of_its_own(made):
    graver = Counter(
        f"{each.rule}: {each.says}" for _, _, e in made for each in e.findings if each.severity != "advice"
    )
    assert not graver
    assert any(e.findings for _, _, e in made)


def test_only_loose_translucent_powder_is_baked_with(made):
    bakes = 0
    for _, _, evaluation in made:
        for step in evaluation.sequence.steps:
            if step.kind == "bake":
                bakes += 1
                powder = evaluation.products[step.item]
                assert powder.role == "setting_powder"
                assert powder.texture == "loose_powder"
    assert bakes > 5


def test_what_will_crease_is_set_or_said_to_stay_wet(made):
    met = 0
    for case, _, evaluation in made:
        powder = any(item.role == "setting_powder" for item in case.kit)
        for row in evaluation.forecast:
            if row.crease > HOUSE.crease_limit and row.powder_mg <= 0 and row.film_um > 0:
                met += 1
                told = " ".join(evaluation.sequence.notes)
                assert not powder or "Left wet" in told, (case.intent.setting, row.zone, row.crease, told)
    assert met > 20


@pytest.mark.parametrize(("cover", "most"), [("sheer", 2.0), ("light", 3.0), ("medium", 4.5), ("full", 6.5)])
def test_the_film_of_foundation_follows_the_cover_wanted(people, cover, most):
    for case in people.values():
        planned = plan_in("overpainted", replace(case, intent=replace(case.intent, cover=cover)), HOUSE)
        films = [p.amount for s in planned.steps if s.kind == "foundation" for p in s.portions if p.amount]
        assert max(films) == most


def test_whole_face_powder_goes_to_the_edges_where_foundation_lies(people):
    case = people["Tamsin"]
    planned = evaluate(
        plan_in("overpainted", replace(case, intent=replace(case.intent, setting="whole_face")), HOUSE), HOUSE
    )
    powdered = {row.zone for row in planned.forecast if row.powder_mg > 0}
    assert {"hairline", "jaw_l", "jaw_r", "under_jaw", "neck"} <= powdered


def test_an_asked_glow_that_is_only_a_pan_comes_last(people):
    case = people["Dunstan"]
    kit = tuple(item for item in case.kit if item.role != "glow" or item.dry)
    assert any(item.role == "glow" for item in kit)
    asked = replace(case, kit=kit, intent=replace(case.intent, finish="satin", options=Options(glow="last")))
    planned = plan_in("overpainted", asked, HOUSE)
    place = [step.kind for step in planned.steps].index("glow")
    assert planned.steps[place].powder_mg
    assert not any(step.kind in ("foundation", "colour", "set") for step in planned.steps[place:])
