"""The rule book: one seeded fault a rule, found on the right step, and mended by its fix where it has one."""

from __future__ import annotations

from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from nabrel.core.ask.recommend import plan
from nabrel.core.base.possible import apply_edits
from nabrel.core.case.sitter import ZoneSkin
from nabrel.core.errors import Refused
from nabrel.core.face.reading import read
from nabrel.core.house import PARAMETERS, House
from nabrel.core.judge.evaluate import evaluate, products_of, rule_book
from nabrel.core.plan.edits import Add, Move, SetAmount, SetHand, SetProduct
from nabrel.core.plan.sequence import Sequence
from nabrel.core.terms.hands import MOTIONS
from nabrel.core.terms.schools import SCHOOLS
from tests.conftest import in_school
from tests.core.cases import cases
from tests.core.faults import FAULTS, step_id

HOUSE = House()


def planned(people, name: str) -> Sequence:
    return plan(people[name], HOUSE)


def faulty(sequence: Sequence, fault) -> Sequence:
    return apply_edits(sequence, fault(sequence), products_of(sequence, read(sequence.case, HOUSE)))


@pytest.mark.parametrize("rule_id", FAULTS)
def test_a_seeded_fault_is_found_on_the_right_step(people, rule_id):
    fault = FAULTS[rule_id]
    before = [f.says for f in evaluate(fault.sound(people), HOUSE).findings if f.rule == rule_id]
    sequence = fault.seeded(people)
    found = [f for f in evaluate(sequence, HOUSE).findings if f.rule == rule_id and f.says not in before]
    assert found
    kinds = {sequence.step(s).kind for f in found for s in f.steps}
    assert fault.kind in kinds or not kinds


WITHOUT_A_SINGLE_WAY_OUT = {
    "clean-first", "fed-first", "set-in-time", "face-meets-neck", "flash-flare", "sunscreen-by-day", "few-films-on-a-zone",
    "both-sides-alike", "lavender-judged-by-eye", "shade-is-believable", "light-lifts", "new-to-sensitive-skin",
    "clean-tool-after-blemishes", "contents-are-known", "tools-are-clean",
}  # fmt: skip


@pytest.mark.parametrize("rule_id", [rule_id for rule_id in FAULTS if rule_id not in WITHOUT_A_SINGLE_WAY_OUT])
def test_a_fix_mends_its_finding_and_raises_nothing_graver(people, rule_id):
    sequence = FAULTS[rule_id].seeded(people)
    evaluation = evaluate(sequence, HOUSE)
    before = [f.says for f in evaluate(FAULTS[rule_id].sound(people), HOUSE).findings if f.rule == rule_id]
    finding = next(f for f in evaluation.findings if f.rule == rule_id and f.says not in before)
    assert finding.fix is not None
    mended = evaluate(apply_edits(sequence, finding.fix.edits, evaluation.products), HOUSE)
    same = [f for f in mended.findings if f.rule == rule_id and f.says == finding.says]
    assert not same
    rank = {"stop": 0, "problem": 1, "advice": 2}
    known = {(f.rule, f.steps) for f in evaluation.findings}
    worse = [f for f in mended.findings if (f.rule, f.steps) not in known and rank[f.severity] < rank[finding.severity]]
    assert not worse, [(f.rule, f.says) for f in worse]


def test_broken_skin_stops_the_work(people):
    sequence = planned(people, "Wren")
    sitter = sequence.case.sitter
    hurt = replace(sitter, zones={**sitter.zones, "chin": ZoneSkin({"broken_skin": 1})})
    sequence = replace(sequence, case=replace(sequence.case, sitter=hurt))
    evaluation = evaluate(sequence, HOUSE)
    stops = [f for f in evaluation.findings if f.severity == "stop"]
    assert {f.rule for f in stops} == {"no-work-on-broken-skin"}
    edits = [edit for f in stops for edit in f.fix.edits]
    mended = evaluate(apply_edits(sequence, edits, evaluation.products), HOUSE)
    assert not [f for f in mended.findings if f.severity == "stop"]
    assert "clinician" in stops[0].why


def test_what_a_sitter_avoids_stops_the_work_and_says_what_to_use(people):
    sequence = planned(people, "Wren")
    melt = step_id(sequence, "melting_mist")
    sequence = faulty(sequence, lambda s: [SetProduct(melt, "mist-scented")])
    wary = replace(sequence.case.sitter, avoid=("Fragrance",))
    evaluation = evaluate(replace(sequence, case=replace(sequence.case, sitter=wary)), HOUSE)
    finding = next(f for f in evaluation.findings if f.rule == "nothing-avoided")
    assert finding.severity == "stop"
    assert finding.steps == (melt,)
    assert finding.fix.edits == (SetProduct(melt, "mist-melt"),)


def test_a_late_thin_glow_on_smooth_lightly_set_skin_is_only_advice(people):
    sequence = planned(people, "Halcyon")
    late = faulty(sequence, lambda s: [
        Add("set", ("cheekbone_l",), None, "pow-tan", amount=0.1, tool="puff", motion="press"),
        Add("glow", ("cheekbone_l",), None, "glow-pearl", amount=1.0, tool="fingers", motion="press"),
    ])  # fmt: skip
    found = [f for f in evaluate(late, HOUSE).findings if f.rule == "wet-over-powder"]
    assert [f.severity for f in found] == ["advice"]


def test_powder_elsewhere_does_not_matter(people):
    """A partly powdered face: the nose is set, the cheek is not, and cream goes on the cheek."""
    sequence = planned(people, "Halcyon")
    partly = faulty(sequence, lambda s: [
        Add("set", ("nose_tip",), step_id(s, "colour"), "pow-tan", amount=0.1, tool="puff", motion="press")])  # fmt: skip
    assert "wet-over-powder" not in [f.rule for f in evaluate(partly, HOUSE).findings]


@pytest.mark.parametrize("school", SCHOOLS)
@pytest.mark.parametrize("name", ["Wren", "Tamsin", "Bram", "Isolde", "Posy", "Dunstan", "Halcyon"])
def test_the_planners_own_plans_raise_no_stop_or_problem(people, name, school):
    evaluation = evaluate(plan(in_school(people[name], school), HOUSE), HOUSE)
    assert not [f for f in evaluation.findings if f.severity != "advice"]


@settings(max_examples=15, deadline=None)
@given(cases)
def test_every_fix_can_be_applied(case):
    evaluation = evaluate(plan(case, HOUSE), HOUSE)
    for finding in evaluation.findings:
        if finding.fix is not None:
            apply_edits(evaluation.sequence, finding.fix.edits, evaluation.products)


@settings(max_examples=25, deadline=None)
@given(cases, st.data())
def test_no_fix_raises_a_graver_finding_than_the_one_it_mends(case, data):
    """Plans that a careless hand has been at: any amount, hand or place may be wrong."""
    evaluation = evaluate(disturbed(plan(case, HOUSE), data), HOUSE)
    rank = {"stop": 0, "problem": 1, "advice": 2}
    known = {(f.rule, z) for f in evaluation.findings for z in (f.zones or ("face",))}
    for finding in evaluation.findings[:4]:
        if finding.fix is None:
            continue
        mended = evaluate(apply_edits(evaluation.sequence, finding.fix.edits, evaluation.products), HOUSE)
        graver = [
            (f.severity, f.rule, f.says)
            for f in mended.findings
            if rank[f.severity] < rank[finding.severity]
            and any((f.rule, z) not in known for z in (f.zones or ("face",)))
        ]
        assert not graver, (finding.rule, finding.fix, graver)


def disturbed(sequence: Sequence, data: st.DataObject) -> Sequence:
    """The sequence with one or two things done otherwise."""
    products = products_of(sequence, read(sequence.case, HOUSE))
    for _ in range(data.draw(st.integers(1, 2))):
        step = data.draw(st.sampled_from(sequence.steps))
        edits = [Move(step.id, data.draw(st.sampled_from([None, *(s.id for s in sequence.steps)])))]
        place = data.draw(st.integers(0, len(step.portions) - 1))
        if step.unit == "um":
            edits = data.draw(st.sampled_from([edits, [SetAmount(step.id, data.draw(st.floats(0.1, 20.0)), place)]]))
        if step.portions[place].motion:
            motion = data.draw(st.sampled_from(MOTIONS))
            edits = data.draw(st.sampled_from([edits, [SetHand(step.id, motion=motion, portion=place)]]))
        try:
            sequence = apply_edits(sequence, edits, products)
        except Refused:
            continue
    return sequence


def test_every_rule_is_told_in_sentences_and_tried_here():
    book = rule_book()
    assert len(book) >= 60
    for rule in book.values():
        assert set(rule.parameters) <= set(PARAMETERS)
        assert rule.statement.endswith(".")
        assert len(rule.reason) > 30
    assert set(FAULTS) | {"no-work-on-broken-skin", "nothing-avoided"} == set(book)


def test_rules_named_on_steps_stand_in_the_book(people):
    named = {r for name in people for s in planned(people, name).steps for r in s.rules}
    assert named <= set(rule_book())
