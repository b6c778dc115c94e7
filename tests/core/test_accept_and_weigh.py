"""Findings that are accepted, and candidates weighed against each other."""

from __future__ import annotations

from dataclasses import replace

import pytest

from nabrel.core.ask.compare import compare
from nabrel.core.ask.recommend import plan
from nabrel.core.ask.weigh import weigh
from nabrel.core.base.possible import apply_edits
from nabrel.core.errors import Refused
from nabrel.core.house import House
from nabrel.core.judge.evaluate import evaluate
from nabrel.core.plan.edits import Accept, SetAmount, say
from nabrel.core.terms.schools import SCHOOLS
from tests.conftest import in_school

HOUSE = House()


@pytest.fixture(scope="module")
def shiny(people):
    """Bram's plan, which shines before its hours are over, with nothing accepted in it."""
    return replace(plan(people["Bram"], HOUSE), accepted=())


def accepted(sequence, finding, note="he blots at three"):
    return apply_edits(sequence, [Accept(finding.rule, finding.zones, note)], {})


def test_an_accepted_finding_is_quiet_and_says_why(shiny):
    finding = evaluate(shiny, HOUSE).findings[0]
    now = next(f for f in evaluate(accepted(shiny, finding), HOUSE).findings if f.rule == finding.rule)
    assert now.accepted == "he blots at three"
    assert replace(now, accepted="") == finding


def test_an_accepted_finding_counts_no_more(shiny):
    before = evaluate(shiny, HOUSE)
    after = evaluate(accepted(shiny, before.findings[0]), HOUSE)
    (figure,) = compare(before, after).figures
    assert (figure.name, figure.before, figure.after) == (
        "Findings",
        float(len(before.findings)),
        float(len(before.findings) - 1),
    )


def test_without_a_note_it_speaks_again(shiny):
    finding = evaluate(shiny, HOUSE).findings[0]
    quiet = accepted(shiny, finding)
    assert accepted(quiet, finding, "  ") == shiny
    assert accepted(quiet, finding, "other").accepted[0].note == "other"
    assert len(accepted(quiet, finding, "other").accepted) == 1


def test_the_same_rule_elsewhere_still_speaks(shiny):
    finding = evaluate(shiny, HOUSE).findings[0]
    elsewhere = apply_edits(shiny, [Accept(finding.rule, finding.zones[:1], "only there")], {})
    assert evaluate(elsewhere, HOUSE).findings[0].accepted == ""


def test_a_stop_is_never_kept_quiet(people):
    case = people["Tamsin"]
    sequence = plan(case, HOUSE)
    broken = replace(case.sitter.zones["chin"], conditions={"broken_skin": 1})
    hurt = replace(
        sequence,
        case=replace(case, sitter=replace(case.sitter, zones={**case.sitter.zones, "chin": broken})),
    )
    stop = next(f for f in evaluate(hurt, HOUSE).findings if f.severity == "stop")
    still = next(f for f in evaluate(accepted(hurt, stop), HOUSE).findings if f.severity == "stop")
    assert still.accepted == ""


def test_accepting_is_told_in_the_history(shiny):
    edit = Accept("shine-before-time", (), "he blots")
    assert say(shiny, edit, {}) == "Accepted: shine before time. he blots"
    assert say(shiny, replace(edit, note=""), {}) == "No longer accepted: shine before time"


@pytest.fixture(scope="module")
def schools(people):
    return [evaluate(plan(in_school(people["Tamsin"], school), HOUSE), HOUSE) for school in SCHOOLS[:4]]


def test_only_what_differs_is_weighed_and_the_best_is_marked(schools):
    rows = weigh(schools)
    assert rows
    for row in rows:
        assert len(set(row.values)) > 1
        best = {row.values[place] for place in row.best}
        if row.wish == "lower is better":
            assert best == {min(row.values)}
        elif row.wish == "higher is better":
            assert best == {max(row.values)}
        elif not row.wish:
            assert best == set()
        else:
            aim = float(row.wish.removesuffix(" is wanted"))
            off = [abs(value - aim) for value in row.values]
            nearest = max(min(off), HOUSE.wanted_within)
            assert row.best in (tuple(place for place, each in enumerate(off) if each <= nearest + 1e-9), ())


def test_figures_that_tie_share_the_mark(schools):
    rows = weigh([schools[0], schools[1], schools[0]])
    for row in rows:
        assert (0 in row.best) == (2 in row.best)


def test_the_same_base_twice_differs_in_nothing(schools):
    assert weigh([schools[0], schools[0]]) == ()


def test_a_thicker_foundation_shows_in_film_and_load(people):
    sequence = plan(people["Tamsin"], HOUSE)
    step = next(s for s in sequence.steps if s.kind == "foundation")
    products = {item.id: item for item in people["Tamsin"].kit}
    thick = apply_edits(sequence, [SetAmount(step.id, 14.0)], products)
    rows = {row.name: row for row in weigh([evaluate(sequence, HOUSE), evaluate(thick, HOUSE)])}
    assert rows["Film, mean of zones"].best == (0,)
    assert rows["Cost of a face"].best == (0,)


@pytest.mark.parametrize("count", [0, 1, 5])
def test_two_to_four_are_weighed(schools, count):
    with pytest.raises(Refused, match="candidates"):
        weigh((schools * 2)[:count])
