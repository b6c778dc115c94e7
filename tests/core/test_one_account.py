"""What lies on the skin is worked out in one place: whoever asks is told the same."""

from __future__ import annotations

import numpy as np

from nabrel.core.ask.recommend import plan
from nabrel.core.base.appearance import zones_with
from nabrel.core.base.possible import apply_edits
from nabrel.core.film.difference import delta_e
from nabrel.core.judge.evaluate import evaluate
from nabrel.core.plan.edits import SetAmount, SetWait
from nabrel.core.terms.schools import SCHOOLS
from nabrel.core.terms.zones import ZONES
from tests.conftest import in_school
from tests.making import takes


def test_an_unrelated_edit_changes_no_take(people, house):
    tried = 0
    changed = []
    for case in people.values():
        now = evaluate(plan(in_school(case, "underpainted"), house), house, try_fixes=False)
        before = takes(now.sequence, house)
        for step in now.sequence.steps:
            if before[step.id] is None:
                continue
            waited = apply_edits(now.sequence, [SetWait(step.id, step.wait_s + 10)], now.products)
            tried += 1
            if takes(waited, house) != before:
                changed.append((case.sitter.nickname, step.id))
    assert tried > 50
    assert changed == []


def test_the_colour_predicted_for_a_zone_is_the_evaluated_plans(people, house):
    """Of the plan as it is, and of the plan with one portion laid at another amount."""
    for case in people.values():
        for school in SCHOOLS:
            now = evaluate(plan(in_school(case, school), house), house, try_fixes=False)
            asked = [(zone, {}) for zone in ZONES]
            assert np.max(delta_e(zones_with(now.course.after, asked), now.appearance.lab[-1])) < 1e-6
            step = next(s for s in now.sequence.steps if s.kind == "foundation")
            fresh = [(n, p) for n, p in enumerate(step.portions) if not p.left_over]
            place, portion = fresh[0]
            more = apply_edits(now.sequence, [SetAmount(step.id, 9.5, place)], now.products)
            after = evaluate(more, house, try_fixes=False)
            zone = portion.zones[0]
            predicted = zones_with(now.course.after, [(zone, {step.id: 9.5})])
            assert delta_e(predicted[0], after.appearance.lab[-1][ZONES.index(zone)]) < 0.05, (
                case.sitter.nickname,
                school,
            )


def test_evaluating_after_an_edit_is_evaluating_anew(people, house):
    """States taken over from the plan before the edit are those that following from bare skin gives."""
    tried = 0
    for case in people.values():
        now = evaluate(plan(case, house), house, try_fixes=False)
        for step in now.sequence.steps:
            if step.unit is None:
                continue
            edited = apply_edits(now.sequence, [SetAmount(step.id, (step.portions[0].amount or 0) / 2)], now.products)
            reused = evaluate(edited, house, former=now, try_fixes=False)
            anew = evaluate(edited, house, try_fixes=False)
            tried += 1
            assert np.array_equal(reused.appearance.lab, anew.appearance.lab)
            assert reused.totals == anew.totals
            assert [f.says for f in reused.findings] == [f.says for f in anew.findings]
    assert tried > 50
