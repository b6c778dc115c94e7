"""What lies on the skin is worked out in one place: whoever asks is told the same."""

from __future__ import annotations

import numpy as np
import pytest

from nabrel.core.ask.recommend import plan
from nabrel.core.base.appearance import zones_with
from nabrel.core.base.possible import apply_edits
from nabrel.core.film.difference import delta_e
from nabrel.core.judge.evaluate import evaluate
from nabrel.core.plan.edits import SetWait
from nabrel.core.terms.looks import SCHOOLS
from nabrel.core.terms.zones import ZONES
from tests.conftest import in_school


@pytest.mark.xfail(strict=True, reason="edits work out a take without what the tool still holds")
def test_an_unrelated_edit_changes_no_take(people, house):
    tried = 0
    changed = []
    for case in people.values():
        now = evaluate(plan(in_school(case, "underpainted"), house), house)
        for step in now.sequence.steps:
            if step.take is None:
                continue
            waited = apply_edits(now.sequence, [SetWait(step.id, step.wait_s + 10)], now.products, house)
            tried += 1
            after = waited.step(step.id)
            if after is None or after.take != step.take:
                changed.append((case.sitter.nickname, step.id, step.take, after and after.take))
    assert tried > 50
    assert changed == []


@pytest.mark.xfail(strict=True, reason="the prediction leaves out what steps lift, dust off and carry along")
def test_the_colour_predicted_for_a_zone_is_the_evaluated_plans(people, house):
    worst = 0.0
    for case in people.values():
        for school in SCHOOLS:
            now = evaluate(plan(in_school(case, school), house), house)
            predicted = zones_with(now.sequence, now.reading, now.products, house, [(zone, {}) for zone in ZONES])
            worst = max(worst, float(np.max(delta_e(predicted, now.appearance.lab[-1]))))
    assert worst < 0.01
