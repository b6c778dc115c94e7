"""What is not known of the kit, or has run out, speaks: contents, guessed bases and colours, expired and emptied packs."""

from __future__ import annotations

from dataclasses import replace
from datetime import date

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from nabrel.core.ask.recommend import plan, plan_on
from nabrel.core.base.spending import taken
from nabrel.core.case.product import Product
from nabrel.core.case.tool import OwnedTool
from nabrel.core.documents.avoiding import caution_of
from nabrel.core.documents.sheet import sheet_of
from nabrel.core.documents.tell import tell, telling
from nabrel.core.house import House, RuleDecision
from nabrel.core.judge.book import Unsettled
from nabrel.core.judge.evaluate import evaluate
from nabrel.core.planner.planner import plan_in
from nabrel.core.shelf.age import past_its_months
from nabrel.core.shelf.allergens import avoid_notice
from nabrel.core.shelf.guessing import DescribedItem, described_item
from nabrel.core.terms.hands import TOOL_INFO
from tests.core.cases import cases
from tests.core.faults import FAULTS

HOUSE = House()
TODAY = date(2026, 12, 2)


def avoiding(case, *entries):
    return replace(case, sitter=replace(case.sitter, avoid=entries))


def of_rule(evaluation, rule):
    return [each for each in evaluation.findings if each.rule == rule]


def with_items(case, change):
    return replace(case, kit=tuple(change(item) for item in case.kit))


def used(sequence):
    return {part.item for step in sequence.steps for part in step.mix}


def test_what_nobody_looked_at_is_named_where_something_is_avoided(people):
    case = avoiding(people["Wren"], "lanolin", "nuts")
    bare = with_items(case, lambda item: replace(item, ingredients=(), contains=()))
    planned = plan(bare, HOUSE)
    (finding,) = of_rule(evaluate(planned, HOUSE), "contents-are-known")
    assert finding.severity == "problem"
    assert finding.says.startswith(f"Contents of {len(used(planned))} items unknown (")
    assert finding.says.endswith("read their labels for lanolin or nuts.")
    assert {each.item for each in finding.unsettled} == used(planned)
    assert {each.fact for each in finding.unsettled} == {"contents"}
    assert not of_rule(evaluate(plan(case, HOUSE), HOUSE), "contents-are-known")
    assert not of_rule(evaluate(plan(avoiding(bare), HOUSE), HOUSE), "contents-are-known")


def test_a_generic_kit_has_no_labels_yet(people):
    planned = plan(replace(avoiding(people["Wren"], "lanolin"), kit=()), HOUSE)
    assert not of_rule(evaluate(planned, HOUSE), "contents-are-known")
    notice = avoid_notice(("lanolin",), (), chosen=False)
    assert notice is not None
    assert notice.says == "Choose products without lanolin: read their labels."


def test_a_notice_says_which_items_hold_it_and_which_may():
    item = Product("a", "primer", "Matt hold", "gel", "silicone", ingredients=("Aqua",))
    wool = replace(item, id="b", name="Rich cream", ingredients=("Aqua", "Lanolin"))
    blank = replace(item, id="c", name="Water primer", ingredients=())
    assert avoid_notice((), (item, wool, blank)) is None
    notice = avoid_notice(("lanolin",), (item, wool, blank))
    assert notice is not None
    assert notice.lead == "Avoid lanolin."
    assert (notice.barred, notice.unknown) == ((wool,), (blank,))
    assert notice.says == (
        "Not to be used: Rich cream. Contents of 1 item unknown (Water primer): read its label for lanolin."
    )
    clear = avoid_notice(("lanolin",), (item,))
    assert clear is not None
    assert clear.says == "By what is recorded of them, no item in use contains that."


def test_what_is_avoided_stands_first_where_a_plan_is_worked_from(people):
    case = avoiding(people["Wren"], "lanolin")
    bare = with_items(case, lambda item: replace(item, ingredients=(), contains=()))
    done = evaluate(plan(bare, HOUSE), HOUSE, try_fixes=False)
    caution = caution_of(done)
    assert caution is not None
    assert caution.lead == "Avoid lanolin."
    assert caution.says.startswith(f"Contents of {len(used(done.sequence))} items unknown")
    assert telling(done).caution == sheet_of(done).caution == caution
    assert tell(done).index("**Avoid lanolin.** Contents of") < tell(done).index("\n1. ")
    plain = evaluate(plan(avoiding(people["Wren"]), HOUSE), HOUSE, try_fixes=False)
    assert caution_of(plain) is None
    assert "Avoid" not in tell(plain).split("## ")[0]


def test_a_part_of_a_mix_is_looked_at_too(people):
    """What a mix contains is what its parts contain."""
    planned = next(
        found for found in (plan(case, HOUSE) for case in people.values()) if any(len(s.mix) > 1 for s in found.steps)
    )
    part = next(step.mix[1].item for step in planned.steps if len(step.mix) > 1)
    case = with_items(
        avoiding(planned.case, "nuts"),
        lambda item: replace(item, ingredients=("Walnut Oil",)) if item.id == part else item,
    )
    found = of_rule(evaluate(replace(planned, case=case), HOUSE), "nothing-avoided")
    name = planned.case.product(part).name
    assert [each.severity for each in found if each.says.startswith(name)] == ["stop"]


def guessed_base(case):
    """The case with every item's base only guessed."""
    return with_items(case, lambda item: replace(item, base_source="guessed"))


@pytest.mark.parametrize("rule", ["bases-agree", "no-oil-on-blemishes"])
def test_what_rests_on_a_guessed_base_says_so_and_is_no_more_than_advice(people, rule):
    known = FAULTS[rule].seeded(people)
    unsure = replace(known, case=guessed_base(known.case))
    sure, guess = (of_rule(evaluate(each, HOUSE), rule) for each in (known, unsure))
    assert sure
    assert [each.zones for each in sure] == [each.zones for each in guess]
    for before, after in zip(sure, guess, strict=True):
        assert after.says.startswith(before.says)
        assert "only guessed" in after.says
        assert "only guessed" not in before.says
        assert after.severity == "advice"
        assert {each.fact for each in after.unsettled} == {"base"}
        assert not before.unsettled


def test_a_guessed_colour_weighs_less_than_a_measured_one(people):
    """The same fault, of a shade that was measured and of one that was only described."""
    case = people["Merrick"]
    planned = plan(case, HOUSE)
    step = next(each for each in planned.steps if each.kind == "foundation" and len(each.mix) == 1)
    pale = with_items(
        planned.case, lambda item: replace(item, lab=(80.0, 4.0, 8.0)) if item.id == step.mix[0].item else item
    )
    guessed = with_items(pale, lambda item: replace(item, source="guessed"))
    sure = [f for f in evaluate(replace(planned, case=pale), HOUSE).findings if f.rule == "complexion-is-met"]
    unsure = [f for f in evaluate(replace(planned, case=guessed), HOUSE).findings if f.rule == "complexion-is-met"]
    assert {each.severity for each in sure} == {"problem"}
    assert {each.severity for each in unsure} == {"advice"}
    assert Unsettled(step.mix[0].item, "colour") in unsure[0].unsettled


def test_an_educator_decides_how_grave_a_guess_is(people):
    """A decision of the house is the house's, guess or not."""
    known = FAULTS["bases-agree"].seeded(people)
    house = House(rules=(RuleDecision("bases-agree", severity="problem", note=""),))
    found = of_rule(evaluate(replace(known, case=guessed_base(known.case)), house), "bases-agree")
    assert {each.severity for each in found} == {"problem"}


def test_a_powder_is_seen_to_be_one():
    item = described_item(DescribedItem("Loose powder", "setting_powder"), HOUSE)
    assert not item.base_guessed
    assert described_item(DescribedItem("Sun cream", "sunscreen"), HOUSE).base_guessed


@pytest.mark.parametrize("source", [None, "measured", "photo"])
def test_a_base_from_the_pack_is_no_guess(source):
    item = Product("a", "primer", "Matt hold", "gel", "silicone", source=source, base_source="pack")
    assert not item.base_guessed
    assert replace(item, base_source=None, source="guessed").base_guessed


def aged(case, old):
    """The case with some items opened long ago, and all others this month."""
    return with_items(
        case,
        lambda item: replace(
            item, opened_on=date(2024, 1, 1) if item.id in old else date(2026, 11, 20), keeps_months=12
        ),
    )


def test_what_has_expired_is_passed_over_for_what_is_in_date(people):
    case = people["Tamsin"]
    first = plan(case, HOUSE)
    foundation = next(step.mix[0].item for step in first.steps if step.kind == "foundation")
    later = plan_on(TODAY, aged(case, {foundation}), HOUSE)
    assert foundation not in used(later)
    assert any(note == f"Left out since expired: {case.product(foundation).name}." for note in later.notes)
    assert later.case.intent.day is None
    undated = plan(aged(case, {foundation}), HOUSE)
    assert foundation in used(undated)


def test_the_only_one_of_its_kind_is_used_and_the_book_says_so(people):
    case = people["Tamsin"]
    kind = {item.id for item in case.kit if item.role == "foundation"}
    later = plan(aged(case, kind).on(TODAY), HOUSE)
    found = of_rule(evaluate(later, HOUSE), "not-past-its-months")
    assert kind & used(later)
    assert found
    assert all("has expired: it keeps 12 months once opened, which ended on 2025-01-01" in f.says for f in found)


def test_what_is_empty_is_not_planned_and_what_runs_low_is_named(people):
    case = people["Tamsin"]
    first = plan(case, HOUSE)
    foundation = next(step.mix[0].item for step in first.steps if step.kind == "foundation")
    name = case.product(foundation).name
    a_face = taken(evaluate(first, HOUSE).course)[foundation][0] / case.product(foundation).ml
    left = lambda share: with_items(case, lambda i: replace(i, left=share) if i.id == foundation else i)  # noqa: E731
    assert foundation not in used(plan(left(0.0), HOUSE))
    for share, severity, says in (
        (0.0, "problem", f"{name} is empty."),
        (0.002, "problem", f"About 0.1 ml of {name} is left, and this face takes "),
        (2.5 * a_face, "advice", f"About {75 * a_face:.1f} ml of {name} is left: enough for 2 faces like this one."),
    ):
        (finding,) = of_rule(evaluate(replace(first, case=left(share)), HOUSE), "enough-is-left")
        assert (finding.severity, finding.says.startswith(says)) == (severity, True), finding.says
    for share in (0.1, 0.9):
        assert not of_rule(evaluate(replace(first, case=left(share)), HOUSE), "enough-is-left")


def test_a_tool_that_is_not_clean_is_named_where_no_other_is(people):
    planned = plan(people["Wren"], HOUSE)
    (kind, *_) = [tool for step in planned.steps for tool in step.tools if tool != "fingers"]
    words = TOOL_INFO[kind].words
    used_up = OwnedTool("a", kind, state="used")

    def said(*tools, day=TODAY):
        case = replace(planned.case.on(day), tools=tools)
        return [f.says for f in of_rule(evaluate(replace(planned, case=case), HOUSE), "tools-are-clean")]

    assert said(used_up) == [f"The only {words} is not ready. Used: wash it before the next sitter."]
    assert said(used_up, replace(used_up, id="b")) == [f"No {words} is ready. Used: wash it before the next sitter."]
    assert said(used_up, OwnedTool("b", kind)) == []
    assert said() == []
    assert said(used_up, day=None) == []


@settings(max_examples=25)
@given(
    cases,
    st.sampled_from(["underpainted", "overpainted", "doubled"]),
    st.lists(st.sampled_from(["old", "empty", "fresh"]), min_size=40, max_size=40),
)
def test_no_plan_takes_what_is_empty_or_has_expired_beside_one_in_date(case, school, fates):
    fate = {item.id: fates[place % len(fates)] for place, item in enumerate(case.kit)}
    kit = tuple(
        replace(
            item,
            opened_on=date(2024, 1, 1) if fate[item.id] == "old" else date(2026, 11, 20),
            keeps_months=12,
            left=0.0 if fate[item.id] == "empty" else None,
        )
        for item in case.kit
    )
    planned = plan_in(school, replace(case, kit=kit).on(TODAY), HOUSE)
    in_date = {(item.role, item.dry) for item in kit if fate[item.id] == "fresh"}
    for item in (each for each in kit if each.id in used(planned)):
        assert item.left != 0
        assert past_its_months(item, TODAY) is None or (item.role, item.dry) not in in_date
