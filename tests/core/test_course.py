"""The course of a sequence: what tools carry along, what lies wet or set, and how each stage looks at its time."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from nabrel.core.base.state import ZoneState
from nabrel.core.case.case import Case
from nabrel.core.case.intent import Intent
from nabrel.core.case.sitter import Colour, Sitter
from nabrel.core.film.films import blended, film_of
from nabrel.core.film.spectra import lab_of
from nabrel.core.house import House
from nabrel.core.judge.evaluate import evaluate
from nabrel.core.plan.sequence import Sequence
from nabrel.core.terms.zones import ZONE_INDEX
from nabrel.demo.kit import kit
from tests.making import course, one_portion

HOUSE = House()
BOX = {item.id: item for item in kit()}
SITTER = Sitter("Someone", Colour((62.0, 11.0, 17.0)), neck=Colour((64.0, 9.0, 16.0)))
CHEEK = ("cheek_hollow_l",)


def laid(step_id, kind, product, um, tool, motion="press", zones=CHEEK, **more):
    return one_portion(step_id, kind, zones, product, um, tool=tool, motion=motion, **more)


def with_hand(step, **hand):
    return replace(step, portions=tuple(replace(portion, **hand) for portion in step.portions))


def sequence(*steps):
    return Sequence("overpainted", Case(SITTER, Intent(), kit()), tuple(steps))


def shade_id():
    return next(item.id for item in BOX.values() if item.role == "shade" and not item.dry and item.lab[0] < 50)


def light_id():
    return next(item.id for item in BOX.values() if item.role == "light" and not item.dry and item.lab[0] > 64)


def test_a_tool_that_laid_shade_brings_it_into_the_light_and_darkens_it():
    shade = laid("s1", "shade", shade_id(), 6.0, "damp_sponge")
    light = laid("s2", "light", light_id(), 3.0, "damp_sponge", zones=("chin",))
    dirty = evaluate(sequence(shade, light), HOUSE)
    clean = evaluate(sequence(shade, with_hand(light, tool="puff")), HOUSE)
    (came,) = dirty.course.done[1].carried
    assert came.product == shade_id()
    assert 0.005 < came.share < 0.5
    assert clean.course.done[1].carried == ()
    assert dirty.appearance.last_lab("chin")[0] < clean.appearance.last_lab("chin")[0] - 0.2


def test_the_same_product_in_its_own_tool_brings_nothing_foreign():
    first = laid("s1", "foundation", "thin-satin-4", 6.0, "damp_sponge")
    edge = laid("s2", "foundation", "thin-satin-4", 2.0, "damp_sponge", zones=("jaw_l",))
    assert [done.carried for done in course(sequence(first, edge)).done] == [(), ()]


def test_tools_are_known_before_every_step():
    steps = (laid("s1", "shade", shade_id(), 6.0, "damp_sponge"), laid("s2", "light", light_id(), 3.0, "fingers"))
    states = course(sequence(*steps)).states
    assert states[0].held == {}
    assert states[1].held["damp_sponge"][shade_id()] > 0


@given(st.lists(st.floats(0.5, 9.0), min_size=2, max_size=6))
@settings(max_examples=30, deadline=None)
def test_what_comes_along_grows_with_what_was_taken_and_never_fills_the_film(films):
    items = [shade_id() if index % 2 else light_id() for index in range(len(films))]
    steps = [
        laid(f"s{n}", "shade", item, um, "damp_sponge") for n, (item, um) in enumerate(zip(items, films, strict=True))
    ]
    came_along = [done.carried for done in course(sequence(*steps)).done]
    assert len(came_along) == len(films)
    for came in came_along:
        assert sum(each.share for each in came) < 1
        assert all(each.share > 0 for each in came)


def test_a_cleaner_house_carries_less():
    steps = sequence(
        laid("s1", "shade", shade_id(), 6.0, "damp_sponge"), laid("s2", "light", light_id(), 3.0, "damp_sponge")
    )
    spotless = HOUSE.deciding({"wiped_share": 0.0})
    assert course(steps, spotless).done[1].carried == ()


def test_a_blend_lies_between_its_films():
    pale, deep = film_of((75.0, 8.0, 15.0), 0.6), film_of((40.0, 10.0, 12.0), 0.6)
    shown = [
        float(lab_of(np.asarray(1 + f.ratio - np.sqrt(f.ratio * (f.ratio + 2))))[0])
        for f in (pale, blended(pale, [(deep, 0.3)]), deep)
    ]
    assert shown[0] > shown[1] > shown[2]
    assert np.allclose(blended(pale, []).s, pale.s)


def test_a_stage_shows_the_film_as_it_lay_then_and_the_lift_afterwards():
    shade = laid("s1", "shade", shade_id(), 6.0, "angled_brush")
    drag = laid("s2", "foundation", "thin-satin-4", 0.5, "buffing_brush", "drag")
    evaluation = evaluate(sequence(shade, drag), HOUSE)
    alone = evaluate(sequence(shade), HOUSE)
    column = ZONE_INDEX["cheek_hollow_l"]
    assert np.allclose(evaluation.appearance.lab[1, column], alone.appearance.lab[1, column])
    assert evaluation.course.after.film[0, column] < 6.0
    pressed = evaluate(sequence(shade, with_hand(drag, motion="press")), HOUSE)
    assert evaluation.appearance.lab[2, column, 0] > pressed.appearance.lab[2, column, 0]


def test_the_last_stage_is_the_stack_of_what_is_left(people):
    from nabrel.core.ask.recommend import plan

    evaluation = evaluate(plan(people["Bram"], HOUSE), HOUSE)
    dusted = next(i for i, s in enumerate(evaluation.sequence.steps) if s.kind == "dust_off")
    bake = next(i for i, s in enumerate(evaluation.sequence.steps) if s.kind == "bake")
    column = ZONE_INDEX[evaluation.sequence.steps[bake].zones[0]]
    before, after = evaluation.appearance.lab[dusted, column], evaluation.appearance.lab[dusted + 1, column]
    assert not np.allclose(before, after)
    assert evaluation.course.done[bake].powder[column] > evaluation.course.after.powder[bake, column]


@pytest.mark.parametrize(
    ("lying", "at_s", "state"),
    [
        (ZoneState(), 0, "bare"),
        (ZoneState(wet_um=4.0, top_base="silicone", ready_at=60, done_at=40), 50, "wet"),
        (ZoneState(wet_um=4.0, top_base="silicone", ready_at=60, done_at=40), 70, "tacky"),
        (ZoneState(wet_um=4.0, top_base="silicone", ready_at=60, done_at=40), 4000, "set"),
        (ZoneState(wet_um=4.0, top_base="oil", ready_at=60, done_at=40), 4000, "tacky"),
        (ZoneState(powder_mg=0.1, film_um=5.0), 0, "powdered"),
    ],
)
def test_a_zone_is_bare_wet_tacky_set_or_powdered(lying, at_s, state):
    assert lying.lies(at_s, HOUSE) == state
