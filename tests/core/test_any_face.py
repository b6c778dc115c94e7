"""What must hold of any face: its mirror image gets the mirrored plan, and what is said of it reads as sentences."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import replace
from random import Random

import numpy as np
import pytest
from hypothesis import HealthCheck, Phase, assume, given, settings
from hypothesis import strategies as st
from scipy.integrate import solve_ivp

from nabrel.core.ask.recommend import plan
from nabrel.core.ask.trial import try_edits
from nabrel.core.base.possible import apply_edits
from nabrel.core.case.case import Case
from nabrel.core.documents.tell import tell
from nabrel.core.errors import Refused
from nabrel.core.film.films import Film, blended, over
from nabrel.core.house import House
from nabrel.core.judge.evaluate import Evaluation, evaluate
from nabrel.core.judge.misses import missed
from nabrel.core.plan.edits import say
from nabrel.core.terms.ids import Zone
from nabrel.core.terms.zones import ZONES
from tests.core.cases import cases
from tests.core.edits import edits_of
from tests.making import one_portion

HOUSE = House()
SOME = settings(max_examples=25, deadline=None, suppress_health_check=[HealthCheck.data_too_large])


# The mirror


def across(zone: Zone) -> Zone:
    """The zone of the other side; a zone of the middle is its own."""
    return zone[:-1] + {"l": "r", "r": "l"}[zone[-1]] if zone.endswith(("_l", "_r")) else zone


def mirrored(case: Case) -> Case:
    zones = {across(zone): skin for zone, skin in case.sitter.zones.items()}
    return replace(case, sitter=replace(case.sitter, zones=zones))


@pytest.fixture(scope="module")
def columns() -> list[int]:
    return [ZONES.index(across(zone)) for zone in ZONES]


@SOME
@given(case=cases)
def test_the_mirror_image_of_a_face_is_read_as_its_mirror_image(case):
    here, there = (evaluate(plan(each, HOUSE), HOUSE, try_fixes=False).reading for each in (case, mirrored(case)))
    for zone in ZONES:
        mine, twin = here.zones[zone], there.zones[across(zone)]
        assert replace(twin, zone=zone) == mine
    assert (here.depth, here.undertone, here.shape) == (there.depth, there.undertone, there.shape)


@SOME
@given(case=cases)
def test_the_mirror_image_of_a_face_needs_the_same_work(columns, case):
    """Same kinds of steps on as many zones, as long, as much of everything, and the same look on the other side."""
    here, there = (evaluate(plan(each, HOUSE), HOUSE, try_fixes=False) for each in (case, mirrored(case)))

    def work(now: Evaluation) -> list[tuple[object, ...]]:
        return sorted((s.kind, s.item or "", round(s.film_um or 0, 6), len(s.zones)) for s in now.sequence.steps)

    assert work(there) == work(here)
    assert there.totals.minutes == pytest.approx(here.totals.minutes)
    assert there.totals.film_ml == pytest.approx(here.totals.film_ml)
    assert np.allclose(there.appearance.lab[-1], here.appearance.lab[-1][columns], atol=1e-6)
    wear = {row.zone: row for row in here.forecast}
    for row in there.forecast:
        assert row.cake == pytest.approx(wear[across(row.zone)].cake)
        assert row.shine_hours == pytest.approx(wear[across(row.zone)].shine_hours)


@pytest.mark.parametrize("turn", range(3))
@pytest.mark.parametrize("name", ["Wren", "Tamsin", "Bram", "Isolde", "Merrick", "Posy", "Dunstan", "Halcyon"])
def test_the_order_in_which_products_stand_on_the_shelf_does_not_matter(people, name, turn):
    case = people[name]
    items = list(case.kit)
    Random(turn).shuffle(items)
    here, there = (plan(each, HOUSE) for each in (case, replace(case, kit=tuple(items))))
    assert [(step.kind, step.item, step.zones, step.film_um) for step in there.steps] == [
        (step.kind, step.item, step.zones, step.film_um) for step in here.steps
    ]


@settings(max_examples=16, deadline=None, phases=[Phase.generate], suppress_health_check=[HealthCheck.data_too_large])
@given(case=cases, data=st.data())
def test_the_order_of_any_shelf_hardly_moves_the_look(case, data):
    assume(len(case.kit) > 1)
    shuffled = replace(case, kit=tuple(data.draw(st.permutations(case.kit))))
    here, there = (evaluate(plan(each, HOUSE), HOUSE, try_fixes=False) for each in (case, shuffled))
    assert missed(there).mean_de == pytest.approx(missed(here).mean_de, abs=0.5)


# What is said


def said_of(now: Evaluation) -> Iterator[str]:
    for found in now.findings:
        yield found.says
        yield found.why
        if found.fix is not None:
            yield found.fix.says
    for step in now.sequence.steps:
        yield from step.why
        yield step.check
    yield from (done.take.words for done in now.course.done if done.take is not None)
    yield from now.sequence.notes
    yield from (bare.why for bare in now.sequence.left_bare)
    yield from (each.says for each in missed(now).zones)


NOT_WORDS = re.compile(
    r"\bNone\b|\bnan\b|\binf\b|[a-z]+_[a-z]+|  |\(\)|\[\]|\{|\}| ,| \.(?!\d)|\.\.(?!\.)|,,|\b(\w{3,}) \1\b|-0\.0\b|[<>]"
)
"""Traces of values that were not put into words."""


def readable(text: str) -> None:
    wrong = NOT_WORDS.search(text)
    assert wrong is None, (wrong and wrong.group(), text)


@SOME
@given(case=cases, data=st.data())
def test_whatever_is_said_of_a_plan_is_put_into_words(case, data):
    now = evaluate(plan(case, HOUSE), HOUSE)
    for text in said_of(now):
        readable(text)
    assume(now.sequence.steps)
    edit = data.draw(edits_of(now.sequence, sorted(now.products)))
    try:
        trial = try_edits(now, [edit], HOUSE)
    except Refused:
        return
    readable(say(now.sequence, edit, now.products))
    for text in [*said_of(trial.after), *trial.difference.says]:
        readable(text)


@SOME
@given(case=cases)
def test_a_told_plan_names_every_product_once_a_step_and_leaves_no_trace_of_code(case):
    now = evaluate(plan(case, HOUSE), HOUSE)
    told = tell(now)
    for step in now.sequence.steps:
        if step.item:
            assert now.products[step.item].name in told
    assert "_" not in re.sub(r"\*\*|__", "", told)
    assert "None" not in told


@SOME
@given(case=cases, data=st.data())
def test_a_refusal_says_what_would_be_taken(case, data):
    now = evaluate(plan(case, HOUSE), HOUSE, try_fixes=False)
    assume(now.sequence.steps)
    edit = data.draw(edits_of(now.sequence, sorted(now.products)))
    try:
        apply_edits(now.sequence, [edit], now.products)
    except Refused as refused:
        said = str(refused)
        assert len(said) < 700, said
        assert "\n" not in said


# The film, by another road


def integrated(ground: float, k: float, s: float, thickness: float) -> float:
    """Reflectance of a film by integrating the two fluxes through it (Kubelka and Munk 1931), not by their solution.

    dR/dx = S - 2 (K + S) R + S R², from the ground up.
    """
    found = solve_ivp(
        lambda _, r: s - 2 * (k + s) * r + s * r**2, (0, thickness), [ground], rtol=1e-9, atol=1e-11, method="LSODA"
    )
    return float(found.y[0, -1])


@settings(max_examples=30, deadline=None)
@given(
    ground=st.floats(0.01, 0.95),
    k=st.floats(0.001, 0.8),
    s=st.floats(0.01, 0.8),
    thickness=st.floats(0.05, 20),
)
def test_a_film_is_what_integrating_its_fluxes_gives(ground, k, s, thickness):
    shown = over(np.array([ground]), np.array([k / s]), np.array([s * thickness]))
    assert shown[0] == pytest.approx(integrated(ground, k, s, thickness), abs=2e-6)


@settings(max_examples=20, deadline=None)
@given(
    ground=st.floats(0.05, 0.9),
    first=st.tuples(st.floats(0.01, 0.5), st.floats(0.02, 0.5)),
    second=st.tuples(st.floats(0.01, 0.5), st.floats(0.02, 0.5)),
    share=st.floats(0, 0.9),
)
def test_a_blend_is_what_integrating_its_mean_gives(ground, first, second, share):
    own, other = (Film(np.full(31, k), np.full(31, s)) for k, s in (first, second))
    mixed = blended(own, [(other, share)])
    shown = over(np.full(31, ground), mixed.ratio, mixed.s * 5.0)
    k, s = ((1 - share) * a + share * b for a, b in zip(first, second, strict=True))
    assert shown == pytest.approx(integrated(ground, k, s, 5.0), abs=2e-6)


def test_a_step_is_a_value():
    """Edits share steps between revisions: none may be changed in place."""
    step = one_portion("s1", "foundation", ("chin",), "fdn", 3.0)
    with pytest.raises(AttributeError):
        step.kind = "light"  # type: ignore[misc]
    with pytest.raises(AttributeError):
        step.portions[0].amount = 4.0  # type: ignore[misc]
