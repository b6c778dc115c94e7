"""The rule book: one seeded fault a rule, found on the right step, and mended by its fix where it has one."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

import pytest
from hypothesis import given, settings

from nabrel.core.case import ZoneSkin
from nabrel.core.evaluate import evaluate, products_of, rule_book
from nabrel.core.face.reading import read
from nabrel.core.house import House
from nabrel.core.plan.edits import Add, Edit, Move, Remove, SetAmount, SetHand, SetProduct, SetWait, SetZones, apply
from nabrel.core.plan.planner import plan
from nabrel.core.plan.step import Sequence
from tests.conftest import in_school
from tests.core.cases import cases

HOUSE = House()
Fault = Callable[[Sequence], list[Edit]]


def step_id(sequence: Sequence, kind: str, zone: str | None = None) -> str:
    return next(s.id for s in sequence.steps if s.kind == kind and (zone is None or zone in s.zones))


def last_id(sequence: Sequence, kind: str) -> str:
    return [s.id for s in sequence.steps if s.kind == kind][-1]


def all_of(sequence: Sequence, kind: str) -> list[str]:
    return [s.id for s in sequence.steps if s.kind == kind]


FAULTS: dict[str, tuple[str, str, Fault]] = {
    "wet-over-powder": ("Wren", "colour", lambda s: [
        Add("set", ("cheek_apple_l",), step_id(s, "colour"), "pow-fine", powder_mg_cm2=0.2, tool="puff", motion="press")]),
    "correct-before-cover": ("Wren", "correct", lambda s: [Move(step_id(s, "correct", "under_eye_r"), step_id(s, "colour"))]),
    "clean-first": ("Wren", "light", lambda s: [Remove("s1"), *(Remove(i) for i in all_of(s, "correct"))]),
    "fed-first": ("Wren", "light", lambda s: [
        Remove(step_id(s, "moisturise")), Remove(step_id(s, "eye_care")), Remove(step_id(s, "sunscreen")),
        *(Remove(i) for i in all_of(s, "correct"))]),
    "prime-on-bare-skin": ("Wren", "prime", lambda s: [Move(step_id(s, "prime"), step_id(s, "colour"))]),
    "crease-check-before-powder": ("Wren", "set", lambda s: [Remove(step_id(s, "crease_check"))]),
    "bake-then-dust": ("Bram", "bake", lambda s: [Remove(step_id(s, "dust_off"))]),
    "bases-agree": ("Wren", "foundation", lambda s: [SetProduct(i, "water-veil-2") for i in all_of(s, "foundation")]),
    "no-shimmer-on-texture": ("Tamsin", "glow", lambda s: [SetZones(step_id(s, "glow"), ("cheek_apple_l",))]),
    "no-oil-on-blemishes": ("Isolde", "moisturise", lambda s: [SetProduct(step_id(s, "moisturise"), "moi-rich")]),
    "gentle-on-fragile": ("Wren", "foundation", lambda s: [
        SetHand(step_id(s, "foundation", "under_eye_l"), motion="sweep")]),
    "press-over-wet": ("Bram", "colour", lambda s: [SetHand(step_id(s, "colour"), tool="buffing_brush", motion="buff")]),
    "shade-and-light-apart": ("Tamsin", "shade", lambda s: [
        SetHand(step_id(s, "shade"), tool="damp_sponge"), SetHand(step_id(s, "light"), tool="damp_sponge")]),
    "clean-brush-for-powder": ("Bram", "set", lambda s: [
        SetHand(step_id(s, "colour"), tool="stippling_brush"), SetHand(step_id(s, "set"), tool="stippling_brush")]),
    "single-use-wand": ("Wren", "lashes", lambda s: [Add("lashes", ("eyelid_l",), tool="detail_brush", motion="feather")]),
    "within-what-it-carries": ("Wren", "foundation", lambda s: [
        SetAmount(step_id(s, "foundation", "under_eye_l"), film_um=14.0)]),
    "thin-passes": ("Tamsin", "foundation", lambda s: [SetAmount(step_id(s, "foundation"), film_um=12.0)]),
    "let-it-settle": ("Wren", "moisturise", lambda s: [SetWait(step_id(s, "moisturise"), 60.0)]),
    "set-in-time": ("Wren", "crease_check", lambda s: [Move(step_id(s, "crease_check"), step_id(s, "colour"))]),
    "no-bake-on-lines": ("Wren", "bake", lambda s: [
        Add("bake", ("under_eye_l", "under_eye_r"), step_id(s, "set"), "pow-fine", powder_mg_cm2=0.8, tool="puff",
            motion="press", wait_s=480.0)]),
    "shine-before-time": ("Bram", "bake", lambda s: [
        *(Remove(i) for i in all_of(s, "set")), SetZones(step_id(s, "bake"), ("chin",)),
        SetZones(step_id(s, "dust_off"), ("chin",))]),
    "placed-for-this-face": ("Posy", "shade", lambda s: [
        SetZones(step_id(s, "shade"), ("cheek_hollow_l", "cheek_hollow_r", "temple_l"))]),
    "colour-off-blemishes": ("Isolde", "colour", lambda s: [
        Add("colour", ("cheek_apple_l",), step_id(s, "set"), "col-brick", film_um=2.5, tool="fingers", motion="press")]),
    "corrector-within-patch": ("Dunstan", "correct", lambda s: [
        SetZones(step_id(s, "correct"), ("nose_tip", "temple_l"))]),
    "corrector-hidden": ("Wren", "correct", lambda s: [
        SetProduct(step_id(s, "correct", "nose_side_l"), "cor-orange"),
        SetAmount(step_id(s, "correct", "nose_side_l"), film_um=9.0)]),
    "spot-not-lighter": ("Isolde", "spot_conceal", lambda s: [
        SetProduct(step_id(s, "spot_conceal"), "press-3"), SetAmount(step_id(s, "spot_conceal"), film_um=7.0)]),
    "sculpt-reads-through": ("Tamsin", "shade", lambda s: [
        SetProduct(i, "full-matt-3") for i in all_of(s, "foundation")]),
    "no-stripes": ("Dunstan", "shade", lambda s: [
        SetProduct(step_id(s, "shade"), "shade-6"), SetAmount(step_id(s, "shade"), film_um=8.0)]),
    "face-meets-neck": ("Tamsin", "foundation", lambda s: [
        SetProduct(i, "full-matt-1") for i in all_of(s, "foundation")[:-1]] + [
        SetZones(last_id(s, "foundation"), ("jaw_l", "jaw_r")), SetProduct(last_id(s, "foundation"), "full-matt-1"),
        SetAmount(last_id(s, "foundation"), film_um=8.0)]),
    "edges-fade": ("Dunstan", "shade", lambda s: [
        Remove(step_id(s, "soften_edges")), SetHand(step_id(s, "shade"), motion="press"),
        SetProduct(step_id(s, "shade"), "shade-3"), SetAmount(step_id(s, "shade"), film_um=6.0)]),
    "flash-flare": ("Merrick", "set", lambda s: [
        SetProduct(last_id(s, "set"), "pow-silica"), SetAmount(last_id(s, "set"), powder_mg_cm2=0.5)]),
}  # fmt: skip


def planned(people, name: str) -> Sequence:
    return plan(people[name], HOUSE)


def faulty(sequence: Sequence, fault: Fault) -> Sequence:
    return apply(sequence, fault(sequence), products_of(sequence, read(sequence.case, HOUSE)), HOUSE)


@pytest.mark.parametrize("rule_id", FAULTS)
def test_a_seeded_fault_is_found_on_the_right_step(people, rule_id):
    name, kind, fault = FAULTS[rule_id]
    whole = planned(people, name)
    before = [f for f in evaluate(whole, HOUSE).findings if f.rule == rule_id]
    sequence = faulty(whole, fault)
    found = [f for f in evaluate(sequence, HOUSE).findings if f.rule == rule_id]
    assert len(found) > len(before) or (rule_id == "shine-before-time" and found)
    kinds = {sequence.step(s).kind for f in found for s in f.steps}
    assert kind in kinds or not kinds


WITHOUT_A_SINGLE_WAY_OUT = {"clean-first", "fed-first", "set-in-time", "face-meets-neck", "flash-flare"}


@pytest.mark.parametrize("rule_id", [rule_id for rule_id in FAULTS if rule_id not in WITHOUT_A_SINGLE_WAY_OUT])
def test_a_fix_mends_its_finding_and_raises_nothing_graver(people, rule_id):
    name, _, fault = FAULTS[rule_id]
    sequence = faulty(planned(people, name), fault)
    evaluation = evaluate(sequence, HOUSE)
    finding = next(f for f in evaluation.findings if f.rule == rule_id)
    assert finding.fix is not None
    mended = evaluate(apply(sequence, finding.fix.edits, evaluation.products, HOUSE), HOUSE)
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
    mended = evaluate(apply(sequence, edits, evaluation.products, HOUSE), HOUSE)
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
        Add("set", ("cheekbone_l",), None, "pow-tan", powder_mg_cm2=0.1, tool="puff", motion="press"),
        Add("glow", ("cheekbone_l",), None, "glow-pearl", film_um=1.0, tool="fingers", motion="press"),
    ])  # fmt: skip
    found = [f for f in evaluate(late, HOUSE).findings if f.rule == "wet-over-powder"]
    assert [f.severity for f in found] == ["advice"]


def test_powder_elsewhere_does_not_matter(people):
    """A partly powdered face: the nose is set, the cheek is not, and cream goes on the cheek."""
    sequence = planned(people, "Halcyon")
    partly = faulty(sequence, lambda s: [
        Add("set", ("nose_tip",), step_id(s, "colour"), "pow-tan", powder_mg_cm2=0.1, tool="puff", motion="press")])  # fmt: skip
    assert "wet-over-powder" not in [f.rule for f in evaluate(partly, HOUSE).findings]


@pytest.mark.parametrize("school", ["underpainted", "overpainted"])
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
            apply(evaluation.sequence, finding.fix.edits, evaluation.products, HOUSE)


def test_every_rule_is_told_in_sentences_and_tried_here():
    book = rule_book()
    assert len(book) >= 30
    for rule in book.values():
        assert rule.statement.endswith(".")
        assert len(rule.reason) > 30
    assert set(FAULTS) | {"no-work-on-broken-skin", "nothing-avoided"} == set(book)


def test_rules_named_on_steps_stand_in_the_book(people):
    named = {r for name in people for s in planned(people, name).steps for r in s.rules}
    assert named <= set(rule_book())
