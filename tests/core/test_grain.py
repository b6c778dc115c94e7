"""Plans come in the grain of a hand: few steps, amounts on the ladder, places said shortly, one take a step."""

from __future__ import annotations

import ast
import re
from itertools import pairwise
from pathlib import Path
from statistics import median

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

import nabrel
from nabrel.core.ask.correction import correct_in_plan, edits_for
from nabrel.core.ask.recommend import plan
from nabrel.core.base.possible import apply_edits
from nabrel.core.documents.tell import tell
from nabrel.core.film.difference import delta_e
from nabrel.core.house import House
from nabrel.core.judge.evaluate import evaluate
from nabrel.core.shelf.doses import take, take_words
from nabrel.core.shelf.ladder import film_ladder, powder_ladder
from nabrel.core.terms.places import REGIONS, describe, places
from nabrel.core.terms.steps import FEATURES, STEP_INFO, STEP_KINDS
from nabrel.core.terms.zones import ZONES
from nabrel.formats.ids_build import OUT, text
from tests.conftest import in_school
from tests.core.cases import cases

HOUSE = House()
LOOKS = {*FEATURES, "light_check", "edge_check"}
CORE = Path(nabrel.__file__).parent / "core"


@pytest.fixture(scope="module")
def plans(people):
    return [
        plan(in_school(case, school), HOUSE) for case in people.values() for school in ("underpainted", "overpainted")
    ]


def test_a_base_is_a_dozen_steps_or_so(plans):
    lengths = [sum(step.kind not in LOOKS for step in each.steps) for each in plans]
    assert len(lengths) == 16
    assert median(lengths) <= 16
    assert max(lengths) <= 18


def test_a_base_is_told_in_a_thousand_words_or_so(plans):
    lengths = []
    for each in plans:
        told = tell(evaluate(each, HOUSE, try_fixes=False)).split("## Hygiene")[0]
        lengths.append(len([word for word in told.split() if re.search(r"\w", word)]))
    assert len(lengths) == 16
    # Mature skin takes the most layers, and a cue in most of them.
    assert min(lengths) > 400
    assert median(lengths) <= 1050
    assert max(lengths) <= 1250


def test_no_line_names_more_than_seven_places(plans):
    lines = 0
    for each in plans:
        for line in tell(evaluate(each, HOUSE, try_fixes=False)).splitlines():
            lines += 1
            named = re.findall(r"\b(?:on|under|in|beside|along|above|below|at) (?:the|both) ", line)
            assert len(named) <= 8, line
    assert lines > 500


@settings(max_examples=40, deadline=None)
@given(cases)
def test_planned_amounts_are_rungs_and_no_take_is_repeated(case):
    sequence = plan(case, HOUSE)
    rungs = {"um": film_ladder(HOUSE), "mg_cm2": (*powder_ladder(HOUSE), HOUSE.bake_mg)}
    for step in sequence.steps:
        for portion in step.portions:
            if portion.amount is not None and not portion.left_over:
                assert any(portion.amount == pytest.approx(rung) for rung in rungs[step.unit]), (step.kind, portion)
        zones = [zone for portion in step.portions for zone in portion.zones]
        assert len(zones) == len(set(zones))
    if case.intent.options.second_pass:
        return
    laying = [step for step in sequence.steps if step.mix]
    assert not [(a.kind, a.mix) for a, b in pairwise(laying) if (a.kind, a.mix) == (b.kind, b.mix)]


# Places


@settings(max_examples=300, deadline=None)
@given(st.sets(st.sampled_from(ZONES), min_size=1))
def test_a_description_names_exactly_its_zones(zones):
    said = describe(frozenset(zones))
    assert said.zones == zones
    assert said.words == places(zones)


def test_a_region_is_said_by_its_name():
    assert REGIONS
    for phrase, zones in REGIONS.items():
        assert describe(frozenset(zones)).places == 1, phrase


# One declaration


def test_ids_are_those_of_the_vocabulary():
    assert OUT.read_text(encoding="utf-8").replace(" ", "").replace("\n", "") == text().replace(" ", "").replace(
        "\n", ""
    )


def test_kinds_of_step_are_listed_in_their_table_only():
    """A tuple, list or set of five or more kinds of step is a second table of them."""
    lists = 0
    for path in sorted(CORE.rglob("*.py")):
        if path.parent.name == "terms" or "schools" in path.parts:
            continue
        for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
            if isinstance(node, ast.Tuple | ast.List | ast.Set):
                kinds = [each.value for each in node.elts if isinstance(each, ast.Constant) and each.value in STEP_INFO]
                lists += bool(kinds)
                assert len(kinds) < 5, (path.name, node.lineno, kinds)
    assert lists > 10
    assert len(STEP_KINDS) == len(STEP_INFO)


# The corrector in its plan


def test_a_covering_taken_into_the_plan_looks_as_it_was_said_to(people):
    """The corrector question is answered under all that the plan lays over the zone."""
    asked, off = 0, []
    for case in people.values():
        now = evaluate(plan(case, HOUSE), HOUSE, try_fixes=False)
        for step in now.sequence.steps:
            if step.kind != "correct":
                continue
            for zone in step.zones[:2]:
                covering = correct_in_plan(now, zone).answer.best
                taken = apply_edits(now.sequence, edits_for(now.sequence, zone, covering), now.products)
                then = evaluate(taken, HOUSE, try_fixes=False)
                asked += 1
                off.append(float(delta_e(then.appearance.lab[-1][ZONES.index(zone)], covering.lab)))
    assert asked > 6
    assert median(off) < 0.3
    assert max(off) < 1.0


def test_millilitres_are_told_only_where_a_person_would_weigh(house):
    assert take_words(None, house) == ""
    assert take_words(take(0.0053, "ml", None), house) == "a pinhead"
    assert take_words(take(0.713, "ml", None), house) == "a hazelnut (0.71 ml)"
    assert take_words(take(0.71, "ml", None), house.deciding({"weighed_from": 1.0})) == "a hazelnut"
