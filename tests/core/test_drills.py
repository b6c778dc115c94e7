"""Exercises of every kind: the answer confirmed by other means, unique, the same for a seed, and given away by nothing in their form."""

from __future__ import annotations

import os
from dataclasses import replace
from functools import cache
from itertools import combinations
from random import Random

import numpy as np
import pytest

from nabrel.core.ask.recommend import rank_schools
from nabrel.core.drill.exercise import MOST_CHOICES, Answer, Exercise
from nabrel.core.drill.judgements import PRACTISED_BY, of_kind, practised_by
from nabrel.core.drill.kinds import KINDS
from nabrel.core.drill.making import LEVELS, exercise, exercises, looks, mark
from nabrel.core.drill.step_kinds import bound
from nabrel.core.drill.world import drawn
from nabrel.core.errors import Impossible, Refused
from nabrel.core.film.difference import delta_e
from nabrel.core.film.films import over
from nabrel.core.film.spectra import lab_of, surface, to_hex
from nabrel.core.house import House
from nabrel.core.judge.book import BOOK
from nabrel.core.judge.evaluate import course_of, evaluate
from nabrel.core.shelf.doses import film_words, powder_words
from nabrel.core.shelf.optics import film_for
from nabrel.core.terms.schools import SCHOOL_INFO
from nabrel.core.terms.steps import STEP_INFO
from nabrel.core.terms.zones import ZONES
from nabrel.formats.drills import answer_of

HOUSE = House()
COUNT = int(os.environ.get("NABREL_DRILLS", "10"))
"""Exercises of every kind; ``make drills`` asks for two hundred."""
CHOSEN = [kind for kind in KINDS if kind not in ("order", "depth", "leave_bare", "placement", "powder_where")]


@cache
def made(kind: str) -> tuple[Exercise, ...]:
    """A session of one kind, over all levels."""
    return tuple(exercise(kind, 40, number, LEVELS[number % 5], HOUSE) for number in range(COUNT))


@pytest.mark.parametrize("kind", list(KINDS))
def test_every_answer_scores_all_and_no_other_choice_does(kind):
    for each in made(kind):
        assert each.kind == kind
        assert each.asks
        assert each.why
        assert all(each.why)
        assert len(set(each.why)) == len(each.why)
        assert mark(each, each.answer, HOUSE).score == 1.0
        if each.choices and kind != "fault":
            assert each.answer.named == ("choice",)
        said = [choice.says for choice in each.choices]
        assert len(set(said)) == len(said) <= MOST_CHOICES
        for choice in each.choices:
            if choice.id != each.answer.choice:
                wrong = mark(each, replace(each.answer, choice=choice.id), HOUSE)
                assert wrong.score < 1.0
                assert wrong.right == each.answer
                assert wrong.follows
        assert mark(each, Answer(), HOUSE).score < 1.0, "an answer that lacks a key"


@pytest.mark.parametrize("kind", list(KINDS))
def test_the_same_seed_gives_the_same_and_no_two_of_a_session_are_alike(kind):
    few = exercises(kind, 3, 5, 2, HOUSE)
    assert few == exercises(kind, 3, 5, 2, HOUSE)
    for one, other in combinations(few, 2):
        assert looks(one) != looks(other)
    assert few[0] != exercise(kind, 4, 1, 2, HOUSE)


def test_orders_that_keep_every_layer_are_as_good_and_each_broken_pair_costs():
    for each in made("order"):
        pairs = [(one, other) for one, other, _ in each.marking.before]
        assert pairs
        reach = bound(each.sequence, HOUSE)
        zones = {step.id: set(step.zones) for step in each.sequence.steps}
        assert any(zones[one] & zones[other] for one, other in pairs)
        assert all(pair in reach for pair in pairs)
        order = each.answer.order
        # Neighbours that are not bound may change places; those that are lose exactly their pair.
        for at in range(len(order) - 1):
            swapped = [*order[:at], order[at + 1], order[at], *order[at + 2 :]]
            score = mark(each, Answer(order=swapped), HOUSE).score
            if (order[at], order[at + 1]) in pairs:
                assert score == pytest.approx(1 - 1 / len(pairs))
            else:
                assert score == 1.0
        assert mark(each, Answer(order=order[::-1]), HOUSE).score == 0.0


def test_a_fault_is_what_the_rule_book_finds_and_the_other_reasons_are_not():
    for each in made("fault"):
        found = evaluate(each.sequence, HOUSE, try_fixes=False).findings
        rule = each.marking.rule
        own = [finding for finding in found if finding.rule == rule]
        assert own
        assert any(each.answer.step in (*f.steps, *f.against) for f in own)
        said = {choice.id: choice.says for choice in each.choices}
        assert said[each.answer.choice] == BOOK[rule].statement
        broken = {BOOK[finding.rule].statement for finding in found}
        for letter, says in said.items():
            assert letter == each.answer.choice or says not in broken
        innocent = next(s.id for s in each.sequence.steps if not any(s.id in (*f.steps, *f.against) for f in own))
        assert mark(each, Answer(step=innocent, choice=each.answer.choice), HOUSE).score == 0.5


@pytest.mark.parametrize("kind", list(KINDS))
def test_every_judgement_comes_up_on_faces_enough(kind):
    """Sixty faces are drawn at most: a judgement that one face in twenty gives fails one time in twenty."""
    for asked in of_kind(kind):
        rng = Random(f"enough {asked.id}")
        drawn_faces = (drawn(rng, HOUSE, asked) for _ in range(20))
        assert any(KINDS[kind].make(world, 3, rng, asked) is not None for world in drawn_faces), asked.id


def test_the_right_corrector_leaves_less_or_needs_less_than_any_other_choice():
    for each in made("corrector"):
        leaves = each.marking.leaves
        right = leaves[each.answer.choice]
        for letter, other in leaves.items():
            assert other.hex.startswith("#")
            if letter != each.answer.choice:
                assert right.de <= other.de - 0.59, each.id
        right_item = next(i for i in each.sequence.case.kit if i.id == each.marking.items[each.answer.choice])
        assert each.judgement == "hue-redness" or right_item.lab[1] > 0, each.id
        assert ("lacks red" in each.why[0] or "light, red" in each.why[0]) <= (right_item.lab[1] > 0), each.why
    by_hue = {each.judgement for each in made("corrector")}
    assert len(by_hue) >= 3


def test_a_depth_is_found_by_trying_every_drop():
    for each in made("depth"):
        item = next(i for i in each.sequence.case.kit if i.id == each.shows.foundation)
        cover, skin = film_for(item, HOUSE), np.array(each.shows.skin)
        plain = lab_of(over(surface(tuple(skin)), cover.ratio, cover.s * each.shows.film_um))[0]
        drops = np.arange(0.0, min(40.0, skin[0] - 6), 0.1)
        shown = [
            plain - lab_of(over(surface(tuple(skin * (1 - d / skin[0]))), cover.ratio, cover.s * each.shows.film_um))[0]
            for d in drops
        ]
        nearest = drops[int(np.argmin(np.abs(np.array(shown) - 4.0)))]
        assert each.answer.drop == pytest.approx(nearest, abs=0.2)
        assert mark(each, Answer(drop=0), HOUSE).score == 0.0
        scores = [mark(each, Answer(drop=float(d)), HOUSE).score for d in drops[::20]]
        peak = int(np.argmax(scores))
        assert scores[: peak + 1] == sorted(scores[: peak + 1])
        assert scores[peak:] == sorted(scores[peak:], reverse=True)


@pytest.mark.parametrize("kind", ["leave_bare", "powder_where", "placement"])
def test_places_are_those_of_the_plan_and_painting_all_or_nothing_is_worth_nothing(kind):
    for each in made(kind):
        right, asked = set(each.answer.zones), each.shows.zones
        assert right < set(asked)
        assert set(each.marking.reasons) == set(asked)
        assert all(each.marking.reasons.values())
        if kind == "placement":
            sculpt = each.judgement.removeprefix("placement-")
            placed = set(getattr(evaluate(each.sequence, HOUSE, try_fixes=False).reading.placement, sculpt).zones)
        else:
            step_kind = "set" if kind == "powder_where" else each.judgement.removeprefix("bare-")
            placed = {zone for step in each.sequence.steps if step.kind == step_kind for zone in step.zones}
        assert {zone for zone in asked if zone in placed} == right
        more = {"value": each.answer.value} if kind == "powder_where" else {}
        least = 0.5 if more else 0.0
        assert mark(each, Answer(zones=tuple(asked), **more), HOUSE).score == least
        assert mark(each, Answer(zones=(), **more), HOUSE).score == least
        assert least < mark(each, Answer(zones=tuple(sorted(right)[1:]), **more), HOUSE).score < 1.0


def test_bases_agree_as_the_trade_has_it():
    for each in made("base_pair"):
        upper, lower = each.judgement.removeprefix("base-").split("-over-")
        separates = upper == "water" and lower != "water"
        said = next(choice.says for choice in each.choices if choice.id == each.answer.choice)
        assert said.startswith("No:" if separates else "Yes:")
        assert len(each.shows.lower) == len(each.shows.upper) == 5


def test_a_school_is_the_one_that_the_ranking_puts_first():
    for each in made("school")[:6]:
        ranked = rank_schools(each.sequence.case, HOUSE)
        weights = {SCHOOL_INFO[row.evaluation.sequence.school].words: row.weight for row in ranked}
        said = {choice.id: choice.says for choice in each.choices}
        right = weights[said[each.answer.choice]]
        assert all(right < weights[says] for letter, says in said.items() if letter != each.answer.choice)


def test_amounts_are_what_the_course_takes_and_the_others_are_not():
    for each in made("amount"):
        done = next(row for row in course_of(each.sequence, HOUSE).done if row.step.id == each.shows.step)
        words = film_words(done.take.amount, None) if done.take.unit == "ml" else powder_words(done.take.amount)
        said = {choice.id: choice.says for choice in each.choices}
        assert said[each.answer.choice] == words


def test_what_may_follow_touches_nothing_that_rests_there():
    for each in made("wait"):
        reach = bound(each.sequence, HOUSE)
        free = [step for step in each.sequence.steps if (each.shows.step, step.id) not in reach]
        assert free
        assert set(each.marking.held) == {c.id for c in each.choices} - {each.answer.choice}
        assert all(each.marking.held.values())


def test_a_face_is_drawn_with_the_mistake_that_is_asked_for():
    for each in made("diagnose"):
        seen = evaluate(each.sequence, HOUSE, try_fixes=False).appearance
        assert list(each.shows.face.values()) == list(seen.hexes[-1])
        assert set(each.shows.face) == set(ZONES)
        planned = np.array([each.marking.as_planned[zone] for zone in ZONES])
        assert (planned != np.array(seen.hexes[-1])).any()
        assert float(delta_e(seen.lab[-1], seen.lab[-1]).max()) == 0.0
        assert tuple(to_hex(seen.lab[-1])) == tuple(seen.hexes[-1])


def test_a_reason_is_one_of_this_step_and_the_others_are_not():
    for each in made("explain"):
        step = each.sequence.step(each.shows.step)
        own = {*step.why, *(why for portion in step.portions for why in portion.why)}
        said = {choice.id: choice.says for choice in each.choices}
        assert said[each.answer.choice] in own
        assert not {says for letter, says in said.items() if letter != each.answer.choice} & own


def test_who_knows_only_the_form_guesses_at_chance():
    by = {
        "first": lambda choices: choices[0],
        "last": lambda choices: choices[-1],
        "longest": lambda choices: max(choices, key=lambda each: len(each.says)),
        "shortest": lambda choices: min(choices, key=lambda each: len(each.says)),
        "most words": lambda choices: max(choices, key=lambda each: len(each.says.split())),
    }
    asked = [each for kind in CHOSEN for each in made(kind)]
    assert len(asked) >= 9 * COUNT
    chance = sum(1 / len(each.choices) for each in asked)
    # Three standard deviations of a guesser at chance, and a little for kinds whose words cannot be of one length.
    most = chance + 3 * (0.19 * len(asked)) ** 0.5 + 0.03 * len(asked)
    hits = {name: sum(guess(each.choices).id == each.answer.choice for each in asked) for name, guess in by.items()}
    assert {name: count for name, count in hits.items() if count > most} == {}


@pytest.mark.parametrize(("kind", "answer", "field"), [
    ("corrector", {"choice": "z"}, "choice"),
    ("corrector", {"choice": "a", "more": 1}, "more"),
    ("corrector", {"choice": None, "zones": []}, "zones"),
    ("depth", {"drop": "deep"}, "drop"),
    ("depth", {"drop": 900}, "drop"),
    ("depth", {"drop": True}, "drop"),
    ("order", {"order": ["s1"]}, "order"),
    ("order", {"order": "s1"}, "order"),
    ("placement", {"zones": ["knee"]}, "zones[0]"),
    ("placement", {"zones": "chin"}, "zones"),
    ("fault", {"step": "s99"}, "step"),
    ("powder_where", {"value": "z"}, "value"),
])  # fmt: skip
def test_an_answer_that_the_exercise_does_not_ask_for_is_refused(kind, answer, field):
    with pytest.raises(Refused) as refused:
        mark(made(kind)[0], answer_of(answer), HOUSE)
    assert refused.value.field == field


def test_a_case_that_is_given_is_the_face_that_is_asked_about(people):
    found = exercises("placement", 2, 1, 2, HOUSE, people["Bram"])
    assert found[0].sequence.case.sitter.nickname == "Bram"
    even = replace(people["Bram"], sitter=replace(people["Bram"].sitter, preset="normal", zones={}))
    with pytest.raises(Impossible) as impossible:
        exercises("corrector", 2, 1, 1, HOUSE, even)
    assert impossible.value.field == "kind"


def test_whatever_a_step_lays_is_practised_by_some_kind():
    assert {kind for kind, info in STEP_INFO.items() if info.roles} <= set(PRACTISED_BY)
    assert set(PRACTISED_BY.values()) <= set(KINDS)
    assert practised_by(["correct", "conceal", "correct"]) == ("corrector", "leave_bare")
