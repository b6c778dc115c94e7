"""At which grade a rule of placement begins to speak: one below it is silent, and one cause is one finding."""

from __future__ import annotations

import pytest

from nabrel.core.house import House
from nabrel.core.judge.evaluate import evaluate
from tests.core.faults import Fault

HOUSE = House()
BEGINS = [
    ("no-shade-in-hollows", "shade", "cheek_hollow_l", "hollow", 2),
    ("light-off-what-is-raised", "light", "nose_bridge", "raised_texture", 2),
    ("light-off-what-is-raised", "light", "nose_bridge", "active_blemish", 1),
    ("light-off-lines", "light", "forehead_centre", "fine_lines", 2),
    ("light-off-lines", "light", "forehead_centre", "creping", 2),
    ("light-off-lines", "light", "nose_bridge", "puffiness", 2),
]


def found_on(people, kind, zone, condition, grade):
    """The rules that speak of a zone on a step of a kind, where it is read with this grade after planning."""
    fault = Fault("Tamsin", kind, lambda s: [], skin={zone: {condition: grade}})
    seeded = fault.seeded(people)
    steps = {step.id for step in seeded.steps if step.kind == kind and zone in step.zones}
    assert steps, (kind, zone)
    findings = evaluate(seeded, HOUSE, try_fixes=False).findings
    return [each.rule for each in findings if zone in each.zones and steps & {*each.steps}]


@pytest.mark.parametrize(("rule", "kind", "zone", "condition", "grade"), BEGINS)
def test_a_rule_speaks_from_its_grade_on_and_not_below(people, rule, kind, zone, condition, grade):
    assert rule not in found_on(people, kind, zone, condition, grade - 1)
    assert rule in found_on(people, kind, zone, condition, grade)
    assert rule in found_on(people, kind, zone, condition, 3)


@pytest.mark.parametrize(("rule", "kind", "zone", "condition", "grade"), BEGINS)
def test_of_one_cause_one_rule_speaks(people, rule, kind, zone, condition, grade):
    """What has a rule of its own is not told once more as a place that this face does not ask for."""
    spoken = found_on(people, kind, zone, condition, grade)
    assert spoken.count(rule) == 1
    assert "placed-for-this-face" not in spoken
