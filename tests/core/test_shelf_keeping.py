"""Keeping a shelf: months, what is left, twins and tools."""

from __future__ import annotations

from dataclasses import replace
from datetime import date

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nabrel.core.base.spending import after_taking, taken
from nabrel.core.case.case import Case
from nabrel.core.case.intent import Intent
from nabrel.core.case.product import Product
from nabrel.core.case.sitter import Colour, Sitter
from nabrel.core.case.tool import OwnedTool
from nabrel.core.errors import Refused
from nabrel.core.house import House
from nabrel.core.plan.sequence import Sequence
from nabrel.core.shelf.age import ends_on, past_its_months, standing
from nabrel.core.shelf.tools import tool_standing, tool_words
from nabrel.core.shelf.twins import merged, twins
from tests.making import course, one_portion, takes

HOUSE = House()
FOUNDATION = Product("fdn", "foundation", "Thin satin 4", "liquid", "silicone", "satin", (62, 11, 17), 0.45, ml=30)


def opened(day: date, months: int) -> Product:
    return replace(FOUNDATION, opened_on=day, keeps_months=months)


@pytest.mark.parametrize(
    ("day", "months", "end"),
    [
        (date(2026, 1, 15), 6, date(2026, 7, 15)),
        (date(2025, 8, 31), 6, date(2026, 2, 28)),
        (date(2026, 12, 1), 1, date(2027, 1, 1)),
        (date(2024, 2, 29), 12, date(2025, 2, 28)),
    ],
)
def test_months_end_on_the_day_they_were_opened_or_the_months_last(day, months, end):
    assert ends_on(opened(day, months)) == end


@given(st.dates(date(2020, 1, 1), date(2026, 1, 1)), st.integers(1, 48), st.integers(0, 2500))
def test_the_end_and_the_count_of_months_agree(day, months, later):
    item = opened(day, months)
    now = date.fromordinal(day.toordinal() + later)
    over = past_its_months(item, now) is not None
    state = standing(item, now, HOUSE).state
    # The last day of a short month is the one day on which they may differ.
    if abs((ends_on(item) - now).days) > 3:
        assert over == (state == "over")


def test_an_item_is_named_before_its_months_end():
    item = opened(date(2026, 1, 10), 6)
    assert standing(item, date(2026, 5, 1), HOUSE).state == "good"
    assert standing(item, date(2026, 6, 20), HOUSE).state == "soon"
    assert "in 20 days" in standing(item, date(2026, 6, 20), HOUSE).says
    assert standing(item, date(2026, 7, 10), HOUSE).state == "over"


def test_an_item_that_runs_low_is_named():
    assert standing(replace(FOUNDATION, left=0.1), date(2026, 1, 1), HOUSE).low
    assert standing(replace(FOUNDATION, left=0.0), date(2026, 1, 1), HOUSE).says == "Empty."
    assert not standing(replace(FOUNDATION, left=0.5), date(2026, 1, 1), HOUSE).low
    assert not standing(FOUNDATION, date(2026, 1, 1), HOUSE).low


def test_a_run_takes_what_its_steps_take_for_every_face():
    steps = [one_portion(f"s{n}", "foundation", (zone,), "fdn", 6.5) for n, zone in enumerate(("chin", "nose_tip"))]
    sequence = Sequence(
        "underpainted", Case(Sitter("Someone", Colour((62.0, 11.0, 17.0))), Intent(), (FOUNDATION,)), tuple(steps)
    )
    alone = [take.amount for take in takes(sequence).values()]
    amounts = taken(course(sequence), sitters=10)
    assert amounts == {"fdn": (pytest.approx(10 * sum(alone)), "ml")}
    (after,) = after_taking([FOUNDATION], {"fdn": (3.0, "ml")})
    assert after.left == pytest.approx(0.9)


def test_a_pack_never_holds_less_than_nothing():
    (after,) = after_taking([replace(FOUNDATION, left=0.01)], {"fdn": (5.0, "ml")})
    assert after.left == 0.0


def test_what_has_no_known_content_is_not_counted():
    assert after_taking([replace(FOUNDATION, ml=None)], {"fdn": (1.0, "ml")}) == ()


def test_one_name_twice_seems_one_item():
    (pair,) = twins([FOUNDATION, replace(FOUNDATION, id="fdn-2", name="thin  SATIN 4")], HOUSE)
    assert (pair.into.id, pair.other.id) == ("fdn", "fdn-2")


def test_a_slip_in_the_name_with_one_colour_seems_one_item():
    assert twins([FOUNDATION, replace(FOUNDATION, id="x", name="Thin sattin 4", lab=(62.2, 11, 17))], HOUSE)


@pytest.mark.parametrize(
    "other",
    [
        replace(FOUNDATION, id="x", name="Thin satin 5"),
        replace(FOUNDATION, id="x", name="Thin satim 4", lab=(70, 11, 17)),
        replace(FOUNDATION, id="x", name="Quay veil"),
        replace(FOUNDATION, id="x", base="water"),
        replace(FOUNDATION, id="x", role="concealer"),
    ],
)
def test_neighbours_of_a_range_are_no_twins(other):
    assert twins([FOUNDATION, other], HOUSE) == ()


def test_the_demo_shelf_has_no_twins():
    from nabrel.demo.kit import kit

    assert twins(kit(), HOUSE) == ()


def test_one_item_of_two_knows_what_both_knew():
    into = replace(FOUNDATION, left=0.9, price=None, opened_on=date(2026, 3, 1))
    other = replace(FOUNDATION, id="x", price=24.0, left=0.8, opened_on=date(2026, 2, 1), contains=("fragrance",))
    one = merged(into, other)
    assert (one.id, one.price, one.opened_on, one.contains) == ("fdn", 24.0, date(2026, 2, 1), ("fragrance",))
    assert one.left == pytest.approx(0.7)


def test_items_of_different_kinds_cannot_be_one():
    with pytest.raises(Refused, match="same role"):
        merged(FOUNDATION, replace(FOUNDATION, id="x", role="concealer"))


TODAY = date(2026, 6, 1)


@pytest.mark.parametrize(
    ("tool", "said"),
    [
        (OwnedTool("a", "damp_sponge", state="used"), "wash it"),
        (OwnedTool("a", "damp_sponge", state="washing"), "not dry"),
        (OwnedTool("a", "damp_sponge", since=date(2026, 2, 1)), "replace it"),
        (OwnedTool("a", "disposable_wand", state="used"), "throw it away"),
    ],
)
def test_a_tool_that_is_not_ready_says_why(tool, said):
    found = tool_standing(tool, TODAY, HOUSE)
    assert not found.ready
    assert said in found.says


@pytest.mark.parametrize(
    "tool",
    [
        OwnedTool("a", "damp_sponge", since=date(2026, 4, 1)),
        OwnedTool("a", "fluffy_brush", since=date(2020, 4, 1)),
        OwnedTool("a", "puff"),
    ],
)
def test_a_clean_tool_is_ready(tool):
    assert tool_standing(tool, TODAY, HOUSE).ready


def test_a_tool_is_called_by_its_name_or_its_kind():
    assert tool_words(OwnedTool("a", "puff", "Pale puff")) == "Pale puff"
    assert tool_words(OwnedTool("a", "puff")).lower() == "puff"
