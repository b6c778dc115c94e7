"""Figures and choices that a law over many plans would not pin down: each here to the number, or to the item."""

from __future__ import annotations

from dataclasses import replace
from math import dist

import pytest

from nabrel.core.ask.compare import compare
from nabrel.core.ask.correction import correct_in_plan
from nabrel.core.ask.substitute import substitutes
from nabrel.core.base.possible import apply_edits
from nabrel.core.case.case import Case
from nabrel.core.case.intent import Intent
from nabrel.core.case.sitter import Colour, Sitter, ZoneSkin
from nabrel.core.documents.tell import tell
from nabrel.core.errors import Refused
from nabrel.core.face.reading import read
from nabrel.core.face.strokes import LIP_CORNER, MM_A_UNIT, strokes
from nabrel.core.house import House
from nabrel.core.judge.evaluate import evaluate
from nabrel.core.plan.edits import SetProduct
from nabrel.core.plan.sequence import Sequence
from nabrel.core.plan.step import Portion, Step, Then
from nabrel.core.planner.planner import plan_in
from nabrel.core.solve.mix import RecipePart, batch, pour
from nabrel.core.terms.words import waited
from nabrel.core.wear.forecast import ZoneForecast
from nabrel.core.wear.touch_up import BLOT, touch_ups

HOUSE = House()


@pytest.fixture(scope="module")
def wren(people):
    return evaluate(plan_in("underpainted", people["Wren"], HOUSE), HOUSE, try_fixes=False)


def test_seconds_of_a_step_are_those_of_its_portions_and_of_the_second_tool():
    portions = (Portion(("chin",), 3.0, active_s=20.0), Portion(("neck",), 1.0, active_s=30.0))
    step = Step("s1", "foundation", portions, (), "um")
    assert step.active_s == 50.0
    assert replace(step, then=Then("damp_sponge", "bounce", active_s=10.0)).active_s == 60.0


def test_a_batch_keeps_the_recipe_for_every_face(people):
    one, other = [item for item in people["Wren"].kit if item.role == "foundation" and not item.dry][:2]
    recipe, _ = pour([RecipePart(one, 3), RecipePart(other, 1)], (62.0, 11.0, 17.0), HOUSE)
    assert [(item.id, ml) for item, ml in batch(recipe, 0.4, 10)] == [
        (one.id, pytest.approx(3.0)),
        (other.id, pytest.approx(1.0)),
    ]


def test_the_shade_stops_short_of_the_mouth_by_what_the_house_says(people):
    for mm in (25.0, 35.0):
        house = HOUSE.deciding({"shade_short_of_mouth_mm": mm})
        drawn = strokes(read(people["Tamsin"], house).placement, {}, house)
        ends = [
            min(dist(point, LIP_CORNER) for point in stroke.points)
            for stroke in drawn
            if stroke.kind == "shade" and stroke.id.endswith("cheek_hollow_r")
        ]
        assert ends
        assert ends[0] * MM_A_UNIT == pytest.approx(mm, abs=0.5)


def test_touch_ups_are_told_on_the_half_hour_before_they_are_due():
    case = Case(Sitter("Anon", Colour((62, 11, 17)), zones={"nose_tip": ZoneSkin({"oily": 2})}), Intent(wear_hours=8.0))
    row = ZoneForecast(
        zone="nose_tip", film_um=5.0, powder_mg=0.0, load_um=5.0, limit_um=10.0, cake=0.5, crease=0.0, crease_drivers=(), shine_hours=3.7,
    )  # fmt: skip
    found = touch_ups([row], Sequence("overpainted", case, ()), read(case, HOUSE), HOUSE)
    assert [(each.hour, each.does) for each in found] == [(3.5, BLOT), (7.0, BLOT)]


def test_another_item_in_a_step_is_told_and_nothing_else_is(wren):
    own = next(step for step in wren.sequence.steps if step.kind == "foundation")
    other = next(
        item
        for item in wren.products.values()
        if item.role == "foundation"
        and item.id != own.item
        and item.base == wren.products[own.item].base
        and not item.dry
    )
    edits = [SetProduct(step.id, other.id) for step in wren.sequence.steps if step.item == own.item]
    swapped = evaluate(apply_edits(wren.sequence, edits, wren.products), HOUSE, former=wren, try_fixes=False)
    told = [said for said in compare(wren, swapped).says if " becomes " in said]
    assert told == [f"Foundation: {wren.products[own.item].name} becomes {other.name}."]


def test_a_corrector_is_asked_about_where_the_plan_has_it(wren):
    at, step = next((n, s) for n, s in enumerate(wren.sequence.steps) if s.kind == "correct")
    zone = step.zones[0]
    found = correct_in_plan(wren, zone)
    over = [
        done.mixed.product.id
        for n, done in enumerate(wren.course.done)
        if n > at and done.mixed and done.mixed.film is not None and zone in done.step.zones
        and done.step.kind not in ("correct", "conceal") and done.step.lays
    ]  # fmt: skip
    assert over
    assert [product.id for product, _ in found.above] == over


def test_what_a_corrector_saves_is_told_as_the_share_of_film(people):
    told = 0
    for name, case in people.items():
        evaluation = evaluate(plan_in("underpainted", case, HOUSE), HOUSE, try_fixes=False)
        for step in evaluation.sequence.steps:
            if step.kind != "correct":
                continue
            for zone in step.zones:
                found = correct_in_plan(evaluation, zone)
                if "saves" in found.says:
                    told += 1
                    assert f" saves {100 * found.answer.saving:.0f} % of the film" in found.says, name
                    assert 0 < found.answer.saving < 1, (name, zone, found.says)
    assert told


def test_only_a_step_with_a_product_has_others_in_its_place(wren):
    check = next(step for step in wren.sequence.steps if step.item is None)
    for step in (check.id, "nothing"):
        with pytest.raises(Refused, match="uses a product"):
            substitutes(wren, step, HOUSE)


def test_a_name_is_told_as_it_is_whatever_markdown_would_make_of_it(wren):
    name = "<b>*Satin*</b> [3](x) `_1_`"
    own = next(step.item for step in wren.sequence.steps if step.kind == "foundation")
    kit = tuple(replace(item, name=name) if item.id == own else item for item in wren.sequence.case.kit)
    case = replace(wren.sequence.case, kit=kit, sitter=replace(wren.sequence.case.sitter, nickname="# *Wren*"))
    told = tell(evaluate(replace(wren.sequence, case=case, title=""), HOUSE, try_fixes=False))
    shown = r"\<b\>\*Satin\*\</b\> \[3\](x) \`\_1\_\`"
    assert told.count(shown) >= 2
    assert name not in told
    assert told.startswith(r"# # \*Wren\*: a base")
    assert told.replace(shown, "").count("**") % 2 == 0


@pytest.mark.parametrize(
    ("asked", "told"),
    [(0.0, 0.0), (0.4, 5.0), (41.0, 45.0), (60.0, 60.0), (61.0, 75.0), (300.0, 300.0), (1090.0, 1140.0)],
)
def test_a_wait_is_told_in_steps_of_a_person_and_is_never_cut(asked, told):
    assert waited(asked) == told
