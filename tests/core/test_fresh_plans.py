"""A fresh plan breaks no rule: no problem, and advice only where the plan says why it goes against it, truly."""

from __future__ import annotations

import re
from collections import Counter
from dataclasses import replace

import numpy as np
import pytest

from nabrel.core.ask.accepting import why_accepted, with_reasons
from nabrel.core.ask.recommend import plan
from nabrel.core.base.appearance import zones_with
from nabrel.core.film.difference import delta_e
from nabrel.core.house import House
from nabrel.core.judge.evaluate import evaluate
from nabrel.core.terms.schools import SCHOOLS
from tests.conftest import in_school
from tests.core.made_up import wild

HOUSE = House()
MADE = 150


@pytest.fixture(scope="module")
def made():
    """Plans for anything read anywhere and any wish, evaluated."""
    return [evaluate(plan(case, HOUSE), HOUSE, try_fixes=False) for case in wild(MADE, seed=3)]


@pytest.fixture(scope="module")
def demo(people):
    """The demo's people in all six schools, planned and evaluated."""
    return [
        evaluate(plan(in_school(case, school), HOUSE), HOUSE, try_fixes=False)
        for case in people.values()
        for school in SCHOOLS
    ]


def open_findings(evaluations):
    return [
        (each.sequence.school, each.reading.sitter.preset, finding.severity, finding.rule, finding.says)
        for each in evaluations
        for finding in each.findings
        if finding.severity != "advice" or not finding.accepted
    ]


def test_no_plan_for_made_up_cases_breaks_a_rule_without_a_reason(made):
    assert open_findings(made) == []
    assert Counter(f.rule for each in made for f in each.findings if f.accepted).total() > 50


def test_no_plan_of_the_demo_does(demo):
    assert len(demo) == 48
    assert open_findings(demo) == []


def test_a_reason_for_going_against_advice_is_true(made, demo):
    """Each reason's claim, checked again from the state rather than from what gave the reason."""
    met: Counter[str] = Counter()
    for each in (*made, *demo):
        for finding in each.findings:
            if finding.accepted:
                met[finding.rule] += bool(CLAIMS[finding.rule](finding, each))
                assert CLAIMS[finding.rule](finding, each), (finding.says, finding.accepted)
    assert {rule for rule, count in met.items() if count} >= {
        "edges-fade", "bases-agree", "shine-before-time", "what-creases-is-set", "sculpted-beneath", "shade-is-believable",
    }  # fmt: skip


def test_what_was_accepted_is_on_file_once_and_a_stop_or_a_problem_never_is(made):
    for each in made:
        keys = [(own.rule, own.zones) for own in each.sequence.accepted]
        assert len(keys) == len(set(keys))
        assert with_reasons(each.sequence, HOUSE).accepted == each.sequence.accepted
    some = next(finding for each in made for finding in each.findings if finding.rule == "bases-agree")
    assert why_accepted(replace(some, rule="clean-first"), made[0]) == ""


def _softened(finding, done):
    """Some tool without product goes over the border, or a pan ends there."""
    laid = [s for s in done.sequence.steps if s.id in finding.steps]
    free = [s for s in done.sequence.steps if s.kind in ("soften_edges", "crease_check")]
    over = any(set(s.zones) & set(finding.zones) for s in free)
    return over if "Softened" in finding.accepted else any(s.powder_mg for s in laid)


def _thin(finding, done):
    step = next(s for s in done.sequence.steps if s.id in finding.steps)
    index = done.sequence.steps.index(step)
    return all(done.course.states[index][zone].top_um < done.house.thin_underlayer_um for zone in finding.zones)


def _blotted(finding, done):
    hour = re.search(r"after ([\d.]+) h", finding.accepted)
    if hour is None:
        return done.sequence.case.intent.finish == "dewy"
    return any(
        each.hour == float(hour[1]) and "Blot" in each.does and set(each.zones) & set(finding.zones)
        for each in done.touch_ups
    )


def _unset(_, done):
    powders = [item for item in done.products.values() if item.role == "setting_powder" and item.dry]
    return not powders or done.sequence.case.intent.setting == "none"


def _told(finding, done):
    return finding.accepted in done.sequence.notes


def _believable(finding, done):
    step = next(s for s in done.sequence.steps if s.id in finding.steps)
    own = done.products[step.item]
    chroma = own.lab[1] ** 2 + own.lab[2] ** 2
    most = done.appearance.target[0] - done.house.shade_step_l
    cooler = [
        item for item in done.products.values()
        if item.role in ("shade", "bronzer") and not item.shimmers and item.lab[0] < most
        and item.lab[1] ** 2 + item.lab[2] ** 2 < chroma
    ]  # fmt: skip
    return all(item.dry != own.dry for item in cooler) and (not cooler) == ("Nothing" in finding.accepted)


def _off_neck(finding, done):
    neck = np.array(done.reading.sitter.neck.lab)
    bare = float(delta_e(np.array(done.reading.sitter.skin.lab), neck))
    return f"ΔE00 {bare:.1f} apart" in finding.accepted


def _nearer(finding, done):
    if "Without it" not in finding.accepted:
        return "shines" in finding.accepted or "keeps the warmth" in finding.accepted
    target, step = np.array(done.appearance.target), finding.steps[0]
    without = delta_e(zones_with(done.course.after, [(zone, {step: 0.0}) for zone in finding.zones]), target)
    now = delta_e(np.stack([done.appearance.last_lab(zone) for zone in finding.zones]), target)
    return bool((now < without).all())


def _at_most(finding, done):
    if "more would cake" in finding.accepted:
        return any(row.cake >= done.house.full_cake for row in done.forecast if row.zone in finding.zones)
    step = next(s for s in done.sequence.steps if s.id in finding.steps)
    own = done.products[step.item]
    levels = [i.lab[0] for i in done.products.values() if i.role == own.role and i.lab and i.dry == own.dry]
    return own.lab[0] == (min(levels) if step.kind == "shade" else max(levels))


CLAIMS = {
    "edges-fade": _softened,
    "bases-agree": _thin,
    "shine-before-time": _blotted,
    "what-creases-is-set": _unset,
    "sculpted-beneath": _told,
    "light-or-shade-as-asked": _told,
    "shade-is-believable": _believable,
    "face-meets-neck": _off_neck,
    "turns-grey": _nearer,
    "corrector-hidden": _nearer,
    "sculpt-reads-through": _at_most,
    "brows-before-blush": lambda _, done: done.sequence.case.intent.options.brows == "last",
}
