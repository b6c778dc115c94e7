"""What is practised, what comes next, what a group needs, sets that are made by hand, and what would follow from an answer."""

from __future__ import annotations

import random
from dataclasses import replace
from datetime import UTC, datetime, timedelta

import pytest

from nabrel.core.drill.exercise import Answer
from nabrel.core.drill.group import items, members, needs
from nabrel.core.drill.judgements import JUDGEMENTS, of_kind, to_practise
from nabrel.core.drill.kinds import KINDS
from nabrel.core.drill.making import exercise, looks, mark
from nabrel.core.drill.paper import questions_on_paper
from nabrel.core.drill.practice import (
    APART,
    NEW_IN_A_SESSION,
    Answered,
    Practice,
    coming,
    improved,
    mixed,
    next_asked,
    practised,
    progress_of,
    put_forward,
    remembered,
    weak,
)
from nabrel.core.drill.sets import MOST_IN_A_SET, SetPart, checked_parts, given_words, questions, says, wanted
from nabrel.core.drill.spacing import recall
from nabrel.core.drill.views import concerned, right_in, views
from nabrel.core.errors import Refused
from nabrel.core.house import House
from nabrel.core.judge.evaluate import evaluate
from nabrel.core.terms.steps import STEP_INFO

HOUSE = House()
START = datetime(2026, 9, 1, 18, tzinfo=UTC)


def given(judgement, score=1.0, at=START, **more):
    found = JUDGEMENTS[judgement]
    return Answered(at.isoformat(), "x-1-1", found.kind, judgement, more.pop("level", 2), score, 20.0, **more)


def through(answers, practice=None):
    found = practice or Practice()
    for each in answers:
        found = practised(found, each)
    return found


@pytest.mark.parametrize("judgement", random.Random(4).sample(list(JUDGEMENTS), 24))
def test_an_exercise_is_about_the_judgement_that_is_asked_for(judgement):
    kind = JUDGEMENTS[judgement].kind
    made = exercise(kind, 7, 1, 2, HOUSE, judgement=judgement)
    assert made.judgement == judgement
    assert looks(made) == looks(exercise(kind, 7, 1, 2, HOUSE, judgement=judgement))
    assert mark(made, made.answer, HOUSE).score == 1.0


def test_a_judgement_of_another_kind_is_refused():
    with pytest.raises(Refused) as refused:
        exercise("wait", 7, 1, 2, HOUSE, judgement="read-through")
    assert refused.value.field == "judgement"


def test_whatever_is_made_is_about_a_judgement_that_has_a_card():
    for kind in KINDS:
        for seed in (31, 32):
            assert exercise(kind, seed, 1, 1 + seed % 5, HOUSE).judgement in {each.id for each in of_kind(kind)}


def test_a_session_mixes_kinds_keeps_repeats_apart_and_takes_in_only_so_much_that_is_new():
    assert sorted(mixed()) == sorted(JUDGEMENTS)
    kinds = [JUDGEMENTS[name].kind for name in mixed()][: len(KINDS)]
    assert len(set(kinds)) == len(KINDS)
    found, asked, now = Practice(), [], START
    for turn in range(40):
        name = next_asked(found, asked, (), now).id
        assert name not in asked[-APART:]
        found = practised(found, given(name, float(turn % 3 > 0), now))
        asked.append(name)
        now += timedelta(seconds=30)
    # In a later session what is known comes first, and new ones are few.
    later, names = START + timedelta(days=12), []
    for _ in range(60):
        name = next_asked(found, names, (), later).id
        found = practised(found, given(name, 1.0, later))
        names.append(name)
        later += timedelta(seconds=30)
    new = [name for name in dict.fromkeys(names) if name not in asked]
    assert 0 < len(new) <= NEW_IN_A_SESSION + 1
    assert {JUDGEMENTS[next_asked(found, names, ("wait",), later).id].kind for _ in range(3)} == {"wait"}


def test_what_is_put_forward_is_asked_before_all_else():
    found = through(given(name, at=START + timedelta(minutes=place)) for place, name in enumerate(list(JUDGEMENTS)[:8]))
    now = START + timedelta(hours=2)
    forward = put_forward(found, ["read-through", next(iter(JUDGEMENTS))], now)
    first = next_asked(forward, [], (), now).id
    second = next_asked(forward, [first], (), now).id
    assert {first, second} == {"read-through", next(iter(JUDGEMENTS))}
    assert next_asked(found, [], (), now).id not in (first, second)


def test_the_map_says_what_holds_what_fades_and_how_sure_that_is():
    right = [given("read-through", 1.0, START + timedelta(days=day)) for day in (0, 2, 6)]
    wrong = [given("placement-light", 0.2, START + timedelta(days=day)) for day in (0, 2, 6)]
    found = through(sorted(right + wrong, key=lambda each: each.at))
    now = START + timedelta(days=9)
    rows = {row.judgement.id: row for row in progress_of(found, now)}
    assert rows["read-through"].standing == "holds"
    assert rows["placement-light"].standing == "fades"
    assert rows["placement-shade"].standing == "new"
    assert rows["read-through"].recall == pytest.approx(recall(found.card("read-through"), now))
    for row in rows.values():
        assert 0 <= row.low <= row.right <= row.high <= 1 or not row.answers
    few, many = (
        {row.judgement.id: row for row in progress_of(through(each), now)}["read-through"]
        for each in (right[:1], right)
    )
    assert few.high - few.low > many.high - many.low
    assert [row.judgement.id for row in weak(rows.values(), 5)] == ["placement-light"]
    assert 0 < remembered(rows.values()) < 1
    assert "placement-light" in [each.id for each in coming(found, now)]
    assert len({each.id for each in coming(found, now)}) == 5


def test_what_improved_is_what_went_better_since():
    found = through(
        [given("read-through", 0.2), given("wait-prime", 1.0), given("read-through", 0.9, START + timedelta(days=5)),
         given("wait-prime", 0.5, START + timedelta(days=5)), given("placement-light", 1.0, START + timedelta(days=5))]
    )  # fmt: skip
    told = improved(found, START + timedelta(days=3))
    assert [(each.judgement.id, each.before, each.since) for each in told] == [("read-through", 0.2, 0.9)]


def group_of(**scores):
    """A group in which everybody answered one judgement ten times, after ten of another that says how able they are."""
    return {
        name: through(
            [given("read-through", able, START + timedelta(minutes=m), level=3) for m in range(10)]
            + [given("wait-prime", score, START + timedelta(days=1, minutes=m), level=3, given="a") for m in range(4)]
        )
        for name, (able, score) in scores.items()
    }


def test_a_group_says_who_needs_what_and_how_able_they_are():
    group = group_of(Ada=(1.0, 0.0), Bo=(0.0, 1.0), Cy=(1.0, 1.0))
    now = START + timedelta(days=2)
    at_a_glance = {each.student: each for each in members(group, now)}
    assert at_a_glance["Cy"].able.ability > at_a_glance["Bo"].able.ability
    assert at_a_glance["Ada"].weakest[0].judgement.id == "wait-prime"
    assert at_a_glance["Cy"].weakest == ()
    needed = {each.judgement.id: each.students for each in needs(group, now)}
    assert needed == {"wait-prime": ("Ada",), "read-through": ("Bo",)}
    assert at_a_glance["Ada"].this_week == 14


@pytest.mark.parametrize(("scores", "verdict"), [
    ({"A": (1, 0), "B": (1, 0), "C": (1, 0), "D": (0, 1), "E": (0, 1), "F": (0, 1)}, "disputed"),
    ({"A": (0, 1), "B": (0, 1), "C": (0, 1), "D": (0.3, 1), "E": (0.3, 1), "F": (0.2, 1)}, "too_easy"),
    ({"A": (1, 0), "B": (1, 0), "C": (1, 0), "D": (1, 0), "E": (1, 0.2), "F": (1, 0)}, "too_hard"),
    ({"A": (0.6, 0.6), "B": (0.6, 0.6), "C": (0.5, 0.5), "D": (0.6, 0.6), "E": (0.5, 0.6), "F": (0.6, 0.5)}, None),
    ({"A": (1, 0), "B": (1, 0)}, None),
])  # fmt: skip
def test_exercises_that_are_too_easy_too_hard_or_disputed_are_found_by_the_answers(scores, verdict):
    found = {each.judgement.id: each for each in items(group_of(**scores))}
    assert (found["wait-prime"].verdict if "wait-prime" in found else None) == verdict
    if verdict == "too_hard":
        assert found["wait-prime"].commonest_wrong == "a"
        assert found["wait-prime"].right < found["wait-prime"].expected


def test_a_set_asks_what_is_in_it_no_two_alike_and_the_same_for_a_seed(people):
    parts = (SetPart("base_pair", 2, 6), SetPart("amount", 3, 2, "amount-foundation"), SetPart("placement", 1, 2))
    found = list(questions(checked_parts(parts), 5, HOUSE, [people["Bram"], people["Wren"]]))
    assert [each.kind for each in found] == ["base_pair"] * 6 + ["amount"] * 2 + ["placement"] * 2
    assert {each.judgement for each in found if each.kind == "amount"} == {"amount-foundation"}
    assert {each.sequence.case.sitter.nickname for each in found if each.sequence} == {"Bram", "Wren"}
    assert len({looks(each) for each in found}) == len(found)
    again = questions(parts, 5, HOUSE, [people["Bram"], people["Wren"]])
    assert [looks(each) for each in again] == [looks(each) for each in found]
    assert len(wanted(parts)) == 10
    assert says(parts).startswith("6 “Will they agree” at level 2")


@pytest.mark.parametrize(("parts", "field"), [
    ((SetPart("wait", 2, 3, "read-through"),), "parts[0].judgement"), ((SetPart("wait", 2, 20),) * 4, "parts"), ((), "parts"),
])  # fmt: skip
def test_a_set_that_cannot_be_asked_is_refused(parts, field):
    with pytest.raises(Refused) as refused:
        checked_parts(parts)
    assert refused.value.field == field
    assert MOST_IN_A_SET == 60


def wrong_answer(made):
    found = made.answer
    if made.choices:
        found = replace(found, choice=next(each.id for each in made.choices if each.id != found.choice))
    if found.order is not None:
        found = replace(found, order=found.order[::-1])
    if found.zones is not None:
        found = replace(found, zones=tuple(zone for zone in made.shows.zones if zone not in found.zones))
    return found


LOOKED_AT = tuple(kind for kind in KINDS if kind not in ("base_pair", "depth"))


@pytest.mark.parametrize("kind", LOOKED_AT)
def test_both_plans_can_be_looked_at_after_an_answer_and_differ_where_it_was_wrong(kind):
    made = exercise(kind, 12, 1, 2, HOUSE)
    wrong = views(made, wrong_answer(made), HOUSE)
    right = views(made, made.answer, HOUSE)
    assert right[0].words == "As planned"
    if kind == "explain":
        assert len(wrong) == 1
    else:
        assert len(wrong) == 2
        assert wrong[0].plan.steps != wrong[1].plan.steps
    if kind not in ("fault", "diagnose"):
        assert len(right) == 1
    for view in wrong:
        assert evaluate(view.plan, HOUSE, try_fixes=False).totals.steps
    assert concerned(made) <= {step.id for step in made.sequence.steps}
    assert concerned(made) or kind == "school"


def test_exercises_about_no_plan_show_none():
    assert views(exercise("base_pair", 3, 1, 2, HOUSE), {"choice": "a"}, HOUSE) == ()
    assert views(exercise("depth", 3, 1, 2, HOUSE), {"drop": 3.0}, HOUSE) == ()


def test_an_order_that_is_right_in_another_school_is_said_to_be_right_there():
    said = []
    for seed in range(40):
        made = exercise("order", seed, 1, 3, HOUSE)
        order = list(made.answer.order)
        for place in range(len(order) - 1):
            turned = (*order[:place], order[place + 1], order[place], *order[place + 2 :])
            if mark(made, Answer(order=turned), HOUSE).score < 1.0:
                said += right_in(made, Answer(order=turned), HOUSE)
        assert right_in(made, made.answer, HOUSE) == ()
        if said:
            break
    assert said
    assert said[0].startswith("In the ")
    assert "order this is right" in said[0]


def test_a_fault_can_be_found_in_what_is_shown():
    made = exercise("fault", 3, 1, 2, HOUSE, judgement="let-it-settle")
    rows = {each.id: each.detail for each in made.shows.steps}
    assert "rests not at all" in rows[made.answer.step]
    swiped = exercise("fault", 3, 1, 2, HOUSE, judgement="gentle-on-fragile")
    assert "drag" in {each.id: each.detail for each in swiped.shows.steps}[swiped.answer.step]
    thick = exercise("fault", 3, 1, 2, HOUSE, judgement="thin-corrector")
    assert "µm" in {each.id: each.detail for each in thick.shows.steps}[thick.answer.step]


def test_an_amount_is_any_of_its_four_in_size():
    ranks = set()
    for seed in range(24):
        made = exercise("amount", seed, 1, 1 + seed % 5, HOUSE)
        times = sorted([1.0, *made.marking.times.values()])
        ranks.add(times.index(1.0))
        assert max(times) <= 30
        assert min(times) >= 1 / 30
    assert ranks == {0, 1, 2, 3}


def test_what_was_wrong_in_class_is_what_is_practised():
    for kind, info in STEP_INFO.items():
        if info.roles:
            assert to_practise([kind]), kind
    assert [each.id for each in to_practise(["foundation"])] == ["amount-foundation"]
    assert {each.kind for each in to_practise(["correct", "shade"])} == {"corrector", "depth"} or to_practise(["shade"])


@pytest.mark.parametrize("kind", list(KINDS))
def test_on_paper_stands_all_that_is_needed_to_answer_and_no_answer(kind):
    made = exercise(kind, 8, 1, 2, HOUSE)
    [row] = questions_on_paper([made])
    shown = " ".join([row.asks, *row.says, *(line for _, lines in row.boxes for line in lines)])
    assert all(choice.says in shown for choice in made.choices)
    assert all(each.says in shown for each in made.shows.steps)
    assert row.boxes or row.blank
    assert row.answer == given_words(made, made.answer)
    assert row.answer
    assert all(why not in shown for why in row.why) or kind in ("explain", "fault")
    assert replace(row, number=2).number == 2
