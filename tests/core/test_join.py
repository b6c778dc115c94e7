"""Matching face to body, what half an hour does, left-overs in the tool, and the tested dose."""

from __future__ import annotations

from dataclasses import replace

import pytest

from nabrel.core.ask.recommend import plan
from nabrel.core.case.sitter import Colour, Sitter
from nabrel.core.house import House
from nabrel.core.judge.evaluate import evaluate
from nabrel.core.solve.join import join_face_and_body, settled_product
from nabrel.core.wear.protection import share_of_tested_dose
from nabrel.demo.kit import kit
from tests.making import takes

HOUSE = House()
SATIN = [item for item in kit() if item.id.startswith("thin-satin")]
SITTER = Sitter("Someone", Colour((62.0, 12.0, 17.0)), neck=Colour((65.0, 9.0, 16.0)), chest=Colour((63.0, 10.0, 17.0)))


def test_the_shade_between_face_and_neck_joins_them():
    ranked = join_face_and_body(SITTER, SATIN, 6.0, HOUSE)
    assert ranked[0].product.id in ("thin-satin-3", "thin-satin-4")
    assert [each.worst for each in ranked] == sorted(each.worst for each in ranked)
    assert ranked[-1].product.id in ("thin-satin-8", "thin-satin-1")


def test_a_miss_is_said_in_words():
    palest = next(j for j in join_face_and_body(SITTER, SATIN, 6.0, HOUSE) if j.product.id == "thin-satin-1")
    assert "lighter" in palest.says
    assert "neck" in palest.says


def test_what_was_not_read_is_not_judged():
    alone = replace(SITTER, neck=None, chest=None)
    first = join_face_and_body(alone, SATIN, 6.0, HOUSE)[0]
    assert first.neck_de is None
    assert first.chest_de is None
    assert "neck" not in first.says


def test_a_darkening_foundation_is_judged_as_it_will_be():
    plain = SATIN[3]
    darkens = replace(plain, half_hour=(-4.0, 1.0, 2.0))
    fresh, turned = (join_face_and_body(SITTER, [item], 6.0, HOUSE)[0] for item in (plain, darkens))
    assert turned.face == fresh.face
    assert turned.settled[0] < fresh.settled[0] - 1
    assert "after half an hour it is" in turned.says
    assert settled_product(plain) == plain


def test_a_shift_never_leaves_what_a_surface_can_have():
    assert settled_product(replace(SATIN[7], lab=(5.0, 3.0, 3.0), half_hour=(-20.0, 0.0, 0.0))).lab[0] == 3.0


def test_nothing_to_match_is_an_empty_answer():
    assert join_face_and_body(SITTER, [], 6.0, HOUSE) == ()


def test_edges_get_what_is_left_on_the_tool(people):
    sequence = plan(people["Tamsin"], HOUSE)
    base = next(s for s in sequence.steps if s.kind == "foundation")
    edge = base.portions[-1]
    assert "neck" in edge.zones
    assert edge.left_over
    assert edge.tool == "damp_sponge"
    fresh = replace(base, portions=(*base.portions[:-1], replace(edge, left_over=False)))
    laid = replace(sequence, steps=tuple(fresh if s is base else s for s in sequence.steps))
    assert takes(sequence)[base.id].amount < takes(laid)[base.id].amount
    dry = plan(people["Tamsin"], HOUSE.deciding({"carry_share": 0.0}))
    assert not any(p.left_over for s in dry.steps for p in s.portions)


@pytest.mark.parametrize(("film", "share"), [(0.0, 0.0), (6.0, 0.3), (20.0, 1.0), (-3.0, 0.0)])
def test_a_base_is_a_fraction_of_the_tested_dose(film, share):
    assert share_of_tested_dose(film, House()) == pytest.approx(share)


def test_the_whole_plan_tells_its_fraction(people):
    assert evaluate(plan(people["Tamsin"], HOUSE), HOUSE).totals.tested_dose_share == pytest.approx(0.225)
