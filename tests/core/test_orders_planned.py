"""The planner against orders of work as practitioners lay them: every layer there, in its texture, in its place."""

from __future__ import annotations

import pytest

from nabrel.core.ask.recommend import plan
from nabrel.core.house import House
from nabrel.core.judge.evaluate import evaluate
from nabrel.core.terms.schools import SCHOOLS
from tests.core.orders import ORDERS, TAN, Order, in_order_count, laid, there

HOUSE = House()


def test_every_school_is_among_them():
    assert {order.school for order in ORDERS.values()} == set(SCHOOLS)
    assert len(ORDERS) >= 20


@pytest.mark.parametrize("name", ORDERS)
def test_every_layer_is_there_and_in_order(name):
    order = ORDERS[name]
    found = laid(plan(order.case(), HOUSE))
    missing = [layer for layer in order.layers if not any(there(layer, each) for each in found)]
    assert not missing, found
    assert in_order_count(order.layers, found) == len(order.layers), found


@pytest.mark.parametrize("name", ORDERS)
def test_none_of_them_breaks_a_rule_without_a_reason(name):
    findings = evaluate(plan(ORDERS[name].case(), HOUSE), HOUSE, try_fixes=False).findings
    assert [(each.rule, each.says) for each in findings if not each.accepted] == []


def test_a_missing_layer_or_a_wrong_place_would_be_seen():
    order = next(iter(ORDERS.values()))
    found = laid(plan(order.case(), HOUSE))
    assert in_order_count(order.layers, found[::-1]) < len(order.layers)
    assert in_order_count(order.layers, [each for each in found if each != order.layers[-1]]) <= len(order.layers)
    assert not there("shade pan", "shade cream")
    assert there("shade", "shade cream")


@pytest.mark.parametrize(("powder", "sets"), [("palepowder", "palepowder"), ("chalk", "powderfdn")])
def test_a_powder_foundation_sets_where_the_only_powder_is_far_too_pale(powder, sets):
    order = Order(
        "overpainted", TAN, f"{powder} powderfdn blush", "set", wish={"setting": "whole_face", "finish": "matte"}
    )
    assert {step.item for step in plan(order.case(), HOUSE).steps if step.kind == "set"} == {sets}
