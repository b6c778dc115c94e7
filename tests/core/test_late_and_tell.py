"""Splitting and merging steps, placing a forgotten one, and telling a sequence as text."""

from __future__ import annotations

from dataclasses import replace
from datetime import date

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from nabrel.core.ask.insertion import late_places, told
from nabrel.core.ask.recommend import plan
from nabrel.core.base.possible import apply_edits
from nabrel.core.case.product import Product
from nabrel.core.documents.phrases import HYGIENE
from nabrel.core.documents.sheet import sheet_of
from nabrel.core.documents.tell import tell
from nabrel.core.errors import Impossible, Refused
from nabrel.core.face.reading import read
from nabrel.core.house import House
from nabrel.core.judge.evaluate import evaluate, products_of
from nabrel.core.plan.edits import Merge, Split, say
from nabrel.core.shelf.age import months_open, past_its_months
from nabrel.core.shelf.allergens import SYNONYMS, avoided, contains, plain
from nabrel.core.terms.steps import STEP_INFO
from nabrel.core.terms.zones import ZONE_INDEX, ZONES
from tests.core.cases import cases
from tests.making import takes

HOUSE = House()


@pytest.fixture(scope="module")
def tamsin(people):
    return plan(people["Tamsin"], HOUSE)


@pytest.fixture(scope="module")
def evaluation(tamsin):
    return evaluate(tamsin, HOUSE)


def edited(sequence, *edits):
    return apply_edits(sequence, edits, products_of(sequence, read(sequence.case, HOUSE)))


def first(sequence, kind):
    return next(step for step in sequence.steps if step.kind == kind)


def test_a_step_is_split_by_zones_and_merged_back(tamsin):
    shade = first(tamsin, "shade")
    split = edited(tamsin, Split(shade.id, shade.zones[:2]))
    parts = [s for s in split.steps if s.kind == "shade"]
    assert [len(p.zones) for p in parts] == [len(shade.zones) - 2, 2]
    assert [p.amount for p in parts[1].portions] == [p.amount for p in shade.portions]
    apart = takes(split)
    assert sum(apart[p.id].amount for p in parts) == pytest.approx(takes(tamsin)[shade.id].amount, rel=0.1)
    whole = edited(split, Merge(parts[0].id, parts[1].id))
    assert first(whole, "shade").zones == shade.zones
    assert len(whole.steps) == len(tamsin.steps)


def test_splitting_and_merging_are_said_in_words(tamsin):
    shade = first(tamsin, "shade")
    assert say(tamsin, Split(shade.id, shade.zones[:1]), {}).startswith("Split shade")
    assert say(tamsin, Merge(shade.id, "s1"), {}) == "Combined two steps of shade"


def test_what_cannot_be_split_or_merged_is_refused_with_the_reason(tamsin):
    shade, light = first(tamsin, "shade"), first(tamsin, "light")
    with pytest.raises(Impossible, match="some, but not all"):
        edited(tamsin, Split(shade.id, shade.zones))
    with pytest.raises(Refused, match="zones of step"):
        edited(tamsin, Split(shade.id, ("lips",)))
    with pytest.raises(Refused, match="zones of step"):
        edited(tamsin, Split(shade.id, ()))
    with pytest.raises(Impossible, match="a step of shade"):
        edited(tamsin, Merge(shade.id, light.id))
    with pytest.raises(Refused, match="another step"):
        edited(tamsin, Merge(shade.id, shade.id))


@settings(max_examples=15, deadline=None)
@given(cases, st.data())
def test_a_split_changes_nothing_that_is_seen(case, data):
    sequence = plan(case, HOUSE)
    wide = [s for s in sequence.steps if len(s.zones) > 1 and s.kind in ("foundation", "set", "light")]
    if not wide:
        return
    step = data.draw(st.sampled_from(wide))
    split = edited(sequence, Split(step.id, step.zones[:1]))
    before, after = evaluate(sequence, HOUSE), evaluate(split, HOUSE)
    apart = abs(before.appearance.lab[-1] - after.appearance.lab[-1]).max(axis=1)
    # Two takes leave less on the tool for what is laid with the rest of it.
    rest = {zone for each in sequence.steps for portion in each.portions if portion.left_over for zone in portion.zones}
    assert all(apart[ZONE_INDEX[zone]] < (1.6 if zone in rest else 0.8) for zone in ZONES)


# A forgotten step


def test_a_forgotten_press_of_powder_is_cheapest_before_nothing_wet_follows(evaluation):
    places = late_places(evaluation, "set", ("under_eye_l", "under_eye_r"), HOUSE)
    assert places[0].worst is None or places[0].worst == "advice"
    assert any(place.worst == "problem" for place in places)
    costly = next(place for place in places if place.worst == "problem")
    assert any("wet over powder" in cost for cost in costly.costs)
    assert told(costly, evaluation).startswith("Before ")


def test_every_place_can_be_taken_and_brings_just_the_cost_that_was_told(evaluation):
    known = {(f.rule, f.says) for f in evaluation.findings}
    for place in late_places(evaluation, "prime", ("cheek_apple_l", "cheek_apple_r"), HOUSE):
        after = evaluate(apply_edits(evaluation.sequence, place.edits, evaluation.products), HOUSE)
        assert tuple(f.says for f in after.findings if (f.rule, f.says) not in known) == place.costs


def test_one_place_is_the_usual_one(evaluation):
    places = late_places(evaluation, "melting_mist", ("chin", "nose_tip"), HOUSE)
    assert sum(place.usual for place in places) == 1


def test_nothing_is_placed_nowhere_or_from_an_empty_shelf(evaluation, people):
    with pytest.raises(Refused, match="at least one zone"):
        late_places(evaluation, "set", (), HOUSE)
    case = people["Tamsin"]
    bare = replace(case, kit=tuple(i for i in case.kit if i.role not in ("bronzer",)))
    with pytest.raises(Impossible, match="a kit with a bronzer"):
        late_places(evaluate(plan(bare, HOUSE), HOUSE), "bronze", ("temple_l",), HOUSE)


@pytest.mark.parametrize("kind", sorted(STEP_INFO))
def test_every_kind_of_step_can_be_added_late(evaluation, kind):
    if kind == "dust_off":
        assert all(place.refused for place in late_places(evaluation, kind, ("chin",), HOUSE))
        evaluation = evaluate(edited_with_bake(evaluation), HOUSE)
    assert not late_places(evaluation, kind, ("chin",), HOUSE)[0].refused


def edited_with_bake(evaluation):
    (place, *_) = late_places(evaluation, "bake", ("chin",), HOUSE)
    return apply_edits(evaluation.sequence, place.edits, evaluation.products)


# Told


def test_a_told_sequence_numbers_every_step_with_its_reason_and_check(evaluation):
    text = tell(evaluation)
    for number, step in enumerate(evaluation.sequence.steps, start=1):
        assert f"\n{number}. **{STEP_INFO[step.kind].words}**" in text
        assert step.why[0] in text
        assert f"→ {step.check}" in text or not step.check
    assert "a light layer" in text


def test_hygiene_and_local_codes_stand_in_every_told_sequence(people):
    for case in people.values():
        text = tell(evaluate(plan(case, HOUSE), HOUSE))
        assert all(line in text for line in HYGIENE)
        assert "Local hygiene codes" in text


@settings(max_examples=10, deadline=None)
@given(cases)
def test_any_plan_can_be_told(case):
    text = tell(evaluate(plan(case, HOUSE), HOUSE))
    assert text.startswith("# ")
    assert "None" not in text.replace("None needed", "")
    assert "  \n" not in text


# Allergens and age


def item(**more):
    return Product("x", "foundation", "X", "liquid", "silicone", **more)


@pytest.mark.parametrize(
    ("avoid", "ingredient", "found"),
    [
        ("fragrance", "Parfum", True), ("Perfume", "LINALOOL", True), ("parfum", "fragrance", True),
        ("lanolin", "Wool Wax", True), ("nuts", "Prunus Amygdalus Dulcis Oil", True), ("latex", "Natural-Rubber", True),
        ("carmine", "CI 75470", True), ("nickel", "Mica", False), ("almond oil", "macadamia oil", True),
        ("shea", "Shea", True), ("shea", "Sheabutter", False), ("", "Aqua", False),
    ],
)  # fmt: skip
def test_an_avoid_list_knows_the_names_on_packs(avoid, ingredient, found):
    assert contains(item(ingredients=("Aqua", ingredient)), avoid) == found
    assert bool(avoided(item(contains=(ingredient,)), (avoid,))) == found


def test_every_group_of_names_holds_its_own_name_in_plain_form():
    for name, words in SYNONYMS.items():
        assert name in words
        assert all(plain(word) == word for word in words)


@pytest.mark.parametrize(
    ("opened", "day", "months"),
    [
        (date(2026, 1, 15), date(2026, 1, 15), 0), (date(2026, 1, 15), date(2026, 2, 14), 0),
        (date(2026, 1, 15), date(2026, 2, 15), 1), (date(2025, 12, 31), date(2026, 12, 31), 12),
        (date(2026, 5, 1), date(2026, 1, 1), 0),
    ],
)  # fmt: skip
def test_months_open_are_whole_months(opened, day, months):
    assert months_open(opened, day) == months


def test_a_product_is_past_its_months_from_the_day_they_are_over():
    opened = item(opened_on=date(2026, 1, 10), keeps_months=6)
    assert past_its_months(opened, date(2026, 7, 9)) is None
    assert past_its_months(opened, date(2026, 7, 10)) == 1
    assert past_its_months(item(), date(2026, 7, 10)) is None


def test_an_old_product_at_the_eyes_stops_the_work_and_elsewhere_is_a_problem(people):
    case = people["Tamsin"]
    kit = tuple(
        replace(i, opened_on=date(2024, 1, 1), keeps_months=12) if i.id in ("light-3", "col-rose") else i
        for i in case.kit
    )
    sequence = plan(case, HOUSE)
    old = replace(sequence.case, kit=kit, intent=replace(case.intent, day=date(2026, 11, 23)))
    found = {f.says.split(" has ")[0]: f for f in evaluate(replace(sequence, case=old), HOUSE).findings
             if f.rule == "not-past-its-months"}  # fmt: skip
    assert found["Matt light 3"].severity == "stop"
    assert found["Soft rose colour"].severity == "problem"
    undated = replace(old, intent=replace(case.intent, day=None))
    assert "not-past-its-months" not in [f.rule for f in evaluate(replace(sequence, case=undated), HOUSE).findings]


def test_told_for_a_student_the_work_takes_longer_and_the_waits_do_not(people):
    done = evaluate(plan(people["Wren"], House()), House(), try_fixes=False)
    hand, student = tell(done), tell(done, 2.0)
    t = done.totals
    assert f"{t.minutes:.0f} min, of which {t.active_minutes:.0f} are work;" in hand
    assert f"{t.minutes + t.active_minutes:.0f} min, of which {2 * t.active_minutes:.0f} are work" in student
    assert "takes 2 times as long" in student
    assert "takes 2 times as long" in sheet_of(done, 2.0).figures
    for pace in (0.0, -1.0, 5.1, float("nan")):
        with pytest.raises(Refused, match="pace"):
            tell(done, pace)
