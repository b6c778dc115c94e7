"""Mists are no film, each need gets its primer, and a school is ranked down for what it is made of and lacks."""

from __future__ import annotations

from dataclasses import replace

import pytest

from nabrel.core.ask.recommend import rank_schools
from nabrel.core.case.product import Product
from nabrel.core.case.sitter import ZoneSkin
from nabrel.core.documents.tell import tell
from nabrel.core.face.reading import read
from nabrel.core.house import House
from nabrel.core.judge.evaluate import evaluate
from nabrel.core.plan.step import Portion
from nabrel.core.planner.planner import plan_in
from nabrel.core.terms.zones import both

HOUSE = House()


@pytest.mark.parametrize("kind", ["setting_mist", "melting_mist"])
@pytest.mark.parametrize("amount", [None, 5.0, 20.0])
def test_a_mist_is_never_wet_over_powder_nor_against_a_base_whatever_amount_is_written(people, kind, amount):
    met = 0
    for case in people.values():
        plan = plan_in("powder_sculpted", replace(case, intent=replace(case.intent, setting="whole_face")), HOUSE)
        mist = next((item for item in case.kit if item.role == kind), None)
        if mist is None:
            continue
        powdered = next(step for step in plan.steps if step.kind == "set")
        portion = Portion(powdered.zones, amount, None, "mist")
        step = replace(powdered, id="mist", kind=kind, portions=(portion,), mix=(replace(powdered.mix[0], item=mist.id),),
                       unit="um" if amount else None, why=("To join it.",))  # fmt: skip
        place = [each.id for each in plan.steps].index(powdered.id) + 1
        found = evaluate(replace(plan, steps=(*plan.steps[:place], step, *plan.steps[place:])), HOUSE, try_fixes=False)
        met += 1
        assert not [f for f in found.findings if f.steps == ("mist",) and f.rule in ("wet-over-powder", "bases-agree")]
    assert met > 4


def primed(plan) -> dict[str, set[str]]:
    return {step.item: set(step.zones) for step in plan.steps if step.kind == "prime"}


def test_three_needs_get_three_primers_and_a_mattifier_goes_over_a_pore_filler(people):
    read = {
        **{zone: ZoneSkin({"enlarged_pores": 2, "oily": 2}) for zone in both("nose_side")},
        "forehead_centre": ZoneSkin({"oily": 3}),
        **{zone: ZoneSkin({"dry": 2}) for zone in both("cheek_hollow")},
    }
    case = people["Halcyon"]
    plan = plan_in("overpainted", replace(case, sitter=replace(case.sitter, preset="normal", zones=read)), HOUSE)
    found = primed(plan)
    assert set(found) == {"pri-pore", "pri-matte", "pri-dew"}
    assert found["pri-pore"] == set(both("nose_side"))
    assert found["pri-matte"] == {*both("nose_side"), "forehead_centre"}
    assert found["pri-dew"] == set(both("cheek_hollow"))
    assert next(step.item for step in plan.steps if step.kind == "prime") == "pri-pore"


def test_of_two_primers_that_answer_alike_the_one_that_agrees_with_the_foundation_is_taken(people):
    case = people["Posy"]
    twin = next(item for item in case.kit if item.id == "pri-dew")
    other = replace(twin, id="pri-other", name="Another primer", base="silicone" if twin.base == "water" else "water")
    for base in ("water", "silicone"):
        kit = (*(item for item in case.kit if item.role != "primer"), twin, other)
        kit = tuple(replace(item, base=base) if item.role == "foundation" else item for item in kit)
        plan = plan_in("overpainted", replace(case, kit=kit), HOUSE)
        bases = {plan.case.product(item).base for item in primed(plan)}
        assert bases
        if base == "water":
            assert bases == {"water"}


def lacking(ranked) -> dict[str, str]:
    return {each.evaluation.sequence.school: said for each in ranked for said in each.speaks_against if "lacks" in said}


def test_a_school_that_lacks_its_essentials_is_ranked_down_and_says_what(people):
    case = people["Bram"]
    one = next(item for item in case.kit if item.role == "foundation")
    kit = (*(item for item in case.kit if item.role not in ("foundation", "shade", "bronzer")), one)
    deep = tuple(item for item in kit if item.role != "concealer" or (item.lab and item.lab[0] > 60))
    ranked = rank_schools(replace(case, kit=deep), HOUSE)
    assert "deeper foundation" in lacking(ranked)["two_tone"]
    assert "shade in powder" in lacking(ranked)["powder_sculpted"]
    order = [each.evaluation.sequence.school for each in ranked]
    assert order.index("two_tone") > 0
    assert not lacking(rank_schools(case, HOUSE)), "a whole kit lacks nothing"


def test_without_a_foundation_every_school_says_so(people):
    case = people["Wren"]
    ranked = rank_schools(replace(case, kit=tuple(i for i in case.kit if i.role != "foundation")), HOUSE)
    assert len(ranked) == 6
    notes = {each.evaluation.sequence.school: each.evaluation.sequence.notes for each in ranked}
    assert all(any("foundation" in note for note in told) for told in notes.values())


TONER = Product("ton-1", "toner", "Rose water", "liquid", "water", ml=100, suits=("oily", "dehydrated"))
LID_BASE = Product("lid-1", "lid_base", "Lid base", "cream", "silicone", lab=(66, 10, 16), cover=0.4, ml=5)


def test_a_toner_comes_before_the_cream_where_skin_is_oily_or_thirsty(people):
    for name, wanted in (("Bram", True), ("Halcyon", False)):
        case = people[name]
        steps = plan_in("overpainted", replace(case, kit=(*case.kit, TONER)), HOUSE).steps
        items = [step.item for step in steps if step.kind == "moisturise"]
        assert ("ton-1" in items) == wanted, name
        assert not wanted or items[0] == "ton-1"


def test_a_lid_base_evens_the_lids_before_eyes_that_are_done_in_the_same_sitting(people):
    case = people["Tamsin"]
    kit = (*case.kit, LID_BASE)
    steps = plan_in("overpainted", replace(case, kit=kit), HOUSE).steps
    kinds = [(step.kind, step.item) for step in steps if step.kind != "set"]
    assert kinds.index(("prime", "lid-1")) + 1 == kinds.index(("eyes", None))
    none = replace(case, kit=kit, intent=replace(case.intent, features=("brows",)))
    assert "lid-1" not in [step.item for step in plan_in("overpainted", none, HOUSE).steps]


def test_after_a_mist_on_dry_or_lined_skin_the_used_sponge_presses_once(people):
    pressed = 0
    for case in people.values():
        plan = plan_in("overpainted", case, HOUSE)
        reading = read(case, HOUSE)
        for step in (each for each in plan.steps if each.kind == "melting_mist" and each.then is not None):
            pressed += 1
            assert step.then.tool == "damp_sponge"
            assert all(reading.zones[zone].dry or reading.zones[zone].lined for zone in step.then.zones)
    assert pressed


def test_what_is_asked_for_and_not_laid_is_told_however_many_notes_there_are(people):
    case = people["Merrick"]
    kit = tuple(item for item in case.kit if item.role not in ("colour", "glow", "light"))
    evaluation = evaluate(plan_in("underpainted", replace(case, kit=kit), HOUSE), HOUSE, try_fixes=False)
    missing = [note for note in evaluation.sequence.notes if note.startswith("Nothing in the kit")]
    assert len(missing) >= 2
    told = tell(evaluation)
    assert all(note in told for note in missing)
