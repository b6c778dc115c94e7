"""What an educator decides otherwise is followed by every rule, said on every finding, and held to its range."""

from __future__ import annotations

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nabrel.core.ask.recommend import plan
from nabrel.core.errors import Refused
from nabrel.core.house import PARAMETERS, House, RuleDecision
from nabrel.core.judge.evaluate import evaluate, rule_book
from tests.conftest import in_school
from tests.core.faults import FAULTS

HOUSE = House()


def deciding(*decisions: RuleDecision) -> House:
    return replace(HOUSE, rules=decisions)


def found(sequence, house, rule_id):
    return [f for f in evaluate(sequence, house, try_fixes=False).findings if f.rule == rule_id]


@pytest.mark.parametrize("rule_id", FAULTS)
def test_any_rule_can_be_switched_off_or_made_graver(people, rule_id):
    sequence = FAULTS[rule_id].seeded(people)
    assert found(sequence, HOUSE, rule_id)
    assert not found(sequence, deciding(RuleDecision(rule_id, off=True, note="not here")), rule_id)
    graver = found(sequence, deciding(RuleDecision(rule_id, severity="stop", note="always")), rule_id)
    assert {f.severity for f in graver} == {"stop"}
    assert all("(always)" in f.decided for f in graver)


def test_switching_one_rule_off_leaves_the_others(people):
    sequence = FAULTS["wet-over-powder"].seeded(people)
    before = [f for f in evaluate(sequence, HOUSE, try_fixes=False).findings if f.rule != "wet-over-powder"]
    after = evaluate(sequence, deciding(RuleDecision("wet-over-powder", off=True)), try_fixes=False).findings
    assert [(f.rule, f.says) for f in after] == [(f.rule, f.says) for f in before]


def test_findings_as_the_book_has_them_say_nothing_of_decisions(people):
    for case in people.values():
        assert all(not f.decided for f in evaluate(plan(case, HOUSE), HOUSE).findings)


def test_a_changed_number_is_told_with_its_note_and_the_books_own(people):
    sequence = FAULTS["thin-passes"].seeded(people)
    strict = HOUSE.deciding({"thick_pass_um": 7.0}, {"thick_pass_um": "beginners"})
    (finding,) = found(sequence, strict, "thin-passes")
    assert finding.decided == "Decided here: thick pass is 7, not 9.5 µm (beginners)."


def test_a_lenient_house_allows_a_bake_on_lines(people):
    sequence = FAULTS["no-bake-on-lines"].seeded(people)
    lenient = HOUSE.deciding({"bake_line_limit": 4.0})
    assert all("dryness" in f.says for f in found(sequence, lenient, "no-bake-on-lines"))


def test_a_viewing_does_not_pass_for_a_decision(people):
    staged = in_school(people["Bram"], "doubled", viewing="stage")
    assert all(not f.decided for f in evaluate(plan(staged, HOUSE), HOUSE).findings)


@given(st.sampled_from(sorted(PARAMETERS)), st.floats(-1e6, 1e6))
def test_a_number_is_decided_within_its_range_or_refused(name, value):
    each = PARAMETERS[name]
    if each.low <= value <= each.high:
        house = HOUSE.deciding({name: value}, {name: "why"})
        assert getattr(house, name) == value
        assert [(d.name, d.value, d.note) for d in house.decided] == [(name, value, "why")]
    else:
        with pytest.raises(Refused, match=name):
            HOUSE.deciding({name: value})


def test_the_last_decision_about_a_number_stands():
    house = HOUSE.deciding({"bake_s": 400.0}).deciding({"bake_s": 600.0}, {"bake_s": "longer"})
    assert house.bake_s == 600.0
    assert [(d.value, d.note) for d in house.decided] == [(600.0, "longer")]


def test_every_rule_that_asks_about_a_number_names_it():
    named = {name for rule in rule_book().values() for name in rule.parameters}
    assert len(named) >= 30
    assert named <= set(PARAMETERS)


def test_unknown_numbers_are_refused():
    with pytest.raises(Refused, match="house parameter"):
        HOUSE.deciding({"nothing_of_the_kind": 1.0})


def test_nan_is_no_decision():
    with pytest.raises(Refused):
        HOUSE.deciding({"bake_s": float("nan")})
