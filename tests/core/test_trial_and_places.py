"""Edits tried before they are kept, places where a step cannot stand, the palette, and how far a base is from its aim."""

from __future__ import annotations

import re

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from nabrel.core.ask.insertion import late_places, told
from nabrel.core.ask.palette import GROUPS, offered, usual_zones
from nabrel.core.ask.recommend import plan
from nabrel.core.ask.trial import try_edits
from nabrel.core.base.possible import apply_edits, impossible_steps, insertion_points
from nabrel.core.errors import OutOfOrder, Refused
from nabrel.core.face.reading import read
from nabrel.core.house import House
from nabrel.core.judge.evaluate import evaluate, products_of
from nabrel.core.judge.misses import missed
from nabrel.core.plan.edits import Add, Move, Remove, SetAmount, SetProduct, SetZones
from nabrel.core.terms.schools import SCHOOLS
from nabrel.core.terms.steps import STEP_INFO, STEP_KINDS
from nabrel.core.terms.zones import NOT_BASE, ZONES
from tests.conftest import in_school
from tests.core.cases import cases

HOUSE = House()


@pytest.fixture(scope="module")
def wren(people):
    return evaluate(plan(people["Wren"], HOUSE), HOUSE)


@pytest.fixture(scope="module")
def bram(people):
    return evaluate(plan(people["Bram"], HOUSE), HOUSE)


def first(evaluation, kind):
    return next(step for step in evaluation.sequence.steps if step.kind == kind)


# Places


@pytest.mark.parametrize("school", SCHOOLS)
@pytest.mark.parametrize("name", ["Wren", "Tamsin", "Bram", "Posy"])
def test_no_school_plans_what_cannot_be_done(people, name, school):
    assert impossible_steps(plan(in_school(people[name], school), HOUSE).steps) == ()


@settings(max_examples=40, deadline=None)
@given(cases)
def test_no_face_is_planned_what_cannot_be_done(case):
    assert impossible_steps(plan(case, HOUSE).steps) == ()


@pytest.mark.parametrize(
    ("kind", "before", "why"),
    [
        ("soften_edges", "cleanse", "whose edge could be softened"),
        ("crease_check", "cleanse", "could crease"),
        ("melting_mist", "cleanse", "for the mist to melt"),
        ("setting_mist", "cleanse", "for the mist to hold"),
        ("edge_check", "moisturise", "whose edge could be checked"),
        ("light_check", "prime", "nothing is on the face yet"),
    ],
)
def test_work_on_nothing_is_refused_with_its_reason(wren, bram, kind, before, why):
    face = bram if kind == "setting_mist" else wren
    place = first(face, before).id
    planned = [step for step in face.sequence.steps if step.kind == kind]
    edit = Move(planned[0].id, place) if planned else Add(kind, ("cheek_hollow_l", "jaw_l"), place)
    with pytest.raises(OutOfOrder) as no:
        try_edits(face, [edit], HOUSE)
    assert why in no.value.why
    assert no.value.field == "edits[0].before"


def test_cleansing_over_the_base_is_refused(wren):
    with pytest.raises(OutOfOrder, match="take off what lies"):
        try_edits(wren, [Move(first(wren, "cleanse").id, None)], HOUSE)


def test_a_step_may_move_out_of_an_order_that_was_impossible_before(wren):
    steps = list(wren.sequence.steps)
    soften = next(step for step in steps if step.kind == "crease_check")
    stuck = [soften, *(step for step in steps if step is not soften)]
    sequence = apply_edits(wren.sequence, [], wren.products)
    sequence = type(sequence)(sequence.school, sequence.case, tuple(stuck))
    assert [each.step for each in impossible_steps(sequence.steps)] == [soften.id]
    moved = apply_edits(sequence, [Move(steps[0].id, steps[2].id)], wren.products)
    assert moved.steps[0].id == soften.id
    mended = apply_edits(sequence, [Move(soften.id, None)], wren.products)
    assert impossible_steps(mended.steps) == ()


def test_taking_a_bake_out_is_left_to_the_rule_book(bram):
    bare = apply_edits(bram.sequence, [Remove(first(bram, "bake").id)], bram.products)
    assert bare.step(first(bram, "dust_off").id) is not None


def test_gaps_tell_every_place_and_which_are_refused(bram):
    dust = first(bram, "dust_off")
    found = insertion_points(bram.sequence.steps, dust.id)
    order = [step.id for step in bram.sequence.steps]
    assert len(found) == len(order)
    assert [each.here for each in found].index(True) == order.index(dust.id)
    bake = order.index(first(bram, "bake").id)
    assert all(each.refused for each in found[: bake + 1])
    assert not any(each.refused for each in found[bake + 1 :])
    assert found[-1].before is None
    with pytest.raises(Refused, match="the id of a step"):
        insertion_points(bram.sequence.steps, "s999")


@settings(max_examples=15, deadline=None)
@given(cases, st.data())
def test_a_gap_is_refused_exactly_where_the_move_is(case, data):
    sequence = plan(case, HOUSE)
    step = data.draw(st.sampled_from(sequence.steps))
    products = products_of(sequence, read(case, HOUSE))
    for gap in insertion_points(sequence.steps, step.id):
        if gap.refused:
            with pytest.raises(OutOfOrder, match=re.escape(gap.refused)):
                apply_edits(sequence, [Move(step.id, gap.before)], products)
        else:
            assert (apply_edits(sequence, [Move(step.id, gap.before)], products) == sequence) == gap.here


# Trials


def test_a_trial_tells_what_comes_and_goes_and_how_the_look_moves(wren):
    base = next(s for s in wren.sequence.steps if s.kind == "foundation")
    heavier = try_edits(wren, [SetAmount(base.id, 30.0)], HOUSE)
    assert "thick-pass" in {each.rule for each in heavier.come} or heavier.come
    assert heavier.gone == ()
    assert heavier.worst == heavier.come[0].severity
    assert heavier.look_de > 0.5
    assert heavier.look_zone in base.zones
    back = try_edits(heavier.after, [SetAmount(base.id, base.portions[0].amount)], HOUSE)
    assert {each.rule for each in back.gone} == {each.rule for each in heavier.come}
    assert back.come == ()


def test_an_edit_that_changes_nothing_is_told_as_nothing(wren):
    base = first(wren, "foundation")
    same = try_edits(wren, [SetProduct(base.id, base.item)], HOUSE)
    assert (same.come, same.gone, same.look_de) == ((), (), 0.0)
    assert same.worst is None
    assert same.difference.says == same.difference.figures == ()


@settings(max_examples=10, deadline=None)
@given(cases, st.data())
def test_a_trial_is_what_the_edit_then_does(case, data):
    now = evaluate(plan(case, HOUSE), HOUSE)
    step = data.draw(st.sampled_from(now.sequence.steps))
    tried = try_edits(now, [Remove(step.id)], HOUSE)
    done = evaluate(apply_edits(now.sequence, [Remove(step.id)], now.products), HOUSE)
    assert np.array_equal(tried.after.appearance.lab, done.appearance.lab)
    rules = [each.rule for each in done.findings]
    assert [each.rule for each in tried.after.findings] == rules
    assert len(rules) == len(now.findings) + len(tried.come) - len(tried.gone)


# The palette


def test_the_palette_offers_every_kind_once(wren):
    assert sorted(each.kind for each in offered(wren)) == sorted(STEP_KINDS)
    assert {each.group for each in offered(wren)} == set(GROUPS)


def test_the_palette_says_with_what_and_where(wren):
    found = {each.kind: each for each in offered(wren)}
    assert found["foundation"].products[0].id == first(wren, "foundation").item
    assert found["shade"].used == 1
    assert found["glow"].group == "Shape and colour"
    assert found["light_check"].zones == ()
    assert found["bake"].missing == ""
    assert set(found["lips"].zones) == {"lips"}


def test_the_palette_names_what_the_kit_lacks(people):
    case = people["Wren"]
    less = type(case)(case.sitter, case.intent, tuple(i for i in case.kit if i.role != "setting_mist"))
    found = {each.kind: each for each in offered(evaluate(plan(less, HOUSE), HOUSE))}
    assert found["setting_mist"].missing == "the kit has no setting mist"
    assert found["setting_mist"].products == ()


@settings(max_examples=20, deadline=None)
@given(cases)
def test_the_palette_never_asks_for_work_where_none_is_allowed(case):
    evaluation = evaluate(plan(case, HOUSE), HOUSE)
    for kind in STEP_KINDS:
        for zone in usual_zones(evaluation, kind):
            assert not evaluation.reading.zones[zone].left_alone


def test_a_late_step_takes_the_product_that_is_asked_for(wren):
    other = next(each for each in offered(wren) if each.kind == "colour").products[1]
    places = late_places(wren, "colour", ("chin",), HOUSE, other.id)
    (edit,) = places[0].edits
    assert isinstance(edit, Add)
    assert edit.product == other.id
    with pytest.raises(Refused, match="serves to colour"):
        late_places(wren, "colour", ("chin",), HOUSE, "thin-satin-2")


def test_impossible_places_of_a_late_step_come_last_and_say_why(wren):
    places = late_places(wren, "melting_mist", ("chin",), HOUSE)
    assert places[0].refused == ""
    assert "to melt" in places[-1].refused
    assert places[-1].edits == ()
    assert "to melt" in told(places[-1], wren)


# How far from the aim


def test_bare_skin_is_further_from_the_aim_than_the_finished_base(wren):
    assert missed(wren, -1).mean_de > missed(wren).mean_de
    assert missed(wren, len(wren.sequence.steps) - 1) == missed(wren)


def test_shade_and_light_are_aimed_at_and_colour_is_on_purpose(wren):
    found = {each.zone: each for each in missed(wren).zones}
    target = wren.appearance.target
    shaded = next(z for z in first(wren, "shade").zones)
    assert found[shaded].aim[0] == pytest.approx(target[0] - wren.house.wanted_shade_drop)
    assert found["cheek_apple_l"].purpose == STEP_INFO["colour"].purpose
    assert found["cheek_apple_l"].zone != missed(wren).worst.zone
    assert set(found) == set(ZONES) - NOT_BASE


def test_a_zone_is_told_the_way_it_misses(wren):
    base = [s for s in wren.sequence.steps if s.kind == "foundation"]
    deep = apply_edits(wren.sequence, [SetProduct(s.id, "thin-satin-5") for s in base], wren.products)
    worst = missed(evaluate(deep, HOUSE)).worst
    assert worst.de > 2
    assert "deeper" in worst.says


# Who clashes


def test_a_clash_names_the_step_it_is_with(wren):
    base = [s for s in wren.sequence.steps if s.kind == "foundation"]
    water = apply_edits(wren.sequence, [SetProduct(s.id, "water-veil-2") for s in base], wren.products)
    found = [f for f in evaluate(water, HOUSE).findings if f.rule == "bases-agree"]
    order = [s.id for s in water.steps]
    assert found
    for each in found:
        assert each.against
        assert all(order.index(lower) < order.index(each.steps[0]) for lower in each.against)
        assert all(water.step(lower).lays for lower in each.against)


def test_wet_over_powder_clashes_with_the_powder(wren):
    colour, powder = first(wren, "colour"), first(wren, "set")
    zones = (*colour.zones, *powder.zones)
    late = [Move(colour.id, None), SetZones(powder.id, zones)]
    found = evaluate(apply_edits(wren.sequence, late, wren.products), HOUSE).findings
    assert (powder.id,) in {f.against for f in found if f.rule == "wet-over-powder" and f.steps == (colour.id,)}


@settings(max_examples=25, deadline=None)
@given(cases, st.data())
def test_a_clash_is_always_with_another_step_of_the_plan(case, data):
    sequence = plan(case, HOUSE)
    step = data.draw(st.sampled_from(sequence.steps))
    products = products_of(sequence, read(case, HOUSE))
    open_places = [gap for gap in insertion_points(sequence.steps, step.id) if not gap.refused]
    moved = apply_edits(sequence, [Move(step.id, data.draw(st.sampled_from(open_places)).before)], products)
    ids = {s.id for s in moved.steps}
    for each in evaluate(moved, HOUSE, try_fixes=False).findings:
        assert set(each.against) <= ids
        assert not each.against or len({*each.steps, *each.against}) > 1
