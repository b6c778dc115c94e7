"""Read-through asked backwards."""

from __future__ import annotations

from dataclasses import replace

import pytest

from nabrel.core.ask.reach import reach
from nabrel.core.ask.recommend import plan
from nabrel.core.base.possible import apply_edits
from nabrel.core.errors import Refused
from nabrel.core.house import House
from nabrel.core.judge.evaluate import evaluate
from nabrel.core.judge.figures import visible
from nabrel.core.plan.edits import SetAmount, SetProduct

HOUSE = House()


def evaluated(sequence):
    return evaluate(sequence, HOUSE)


def asked(evaluation, kind="shade", wanted=None):
    step = next(s for s in evaluation.sequence.steps if s.kind == kind)
    return reach(evaluation.sequence, step.id, evaluation.reading, evaluation.products, HOUSE, wanted), step


def with_foundation(evaluation, product):
    edits = [SetProduct(s.id, product) for s in evaluation.sequence.steps if s.kind == "foundation"]
    return evaluated(apply_edits(evaluation.sequence, edits, evaluation.products, HOUSE))


@pytest.fixture(scope="module")
def tamsin(people):
    return evaluated(plan(people["Tamsin"], HOUSE))


@pytest.mark.parametrize("wanted", [2.0, 4.0, 5.0])
def test_the_film_it_names_shows_the_wanted_step(tamsin, wanted):
    found, step = asked(tamsin, wanted=wanted)
    after = evaluated(apply_edits(tamsin.sequence, [SetAmount(step.id, film_um=found.film_um)], tamsin.products, HOUSE))
    assert visible(after, "shade") == pytest.approx(wanted, rel=0.06)
    assert found.shows == pytest.approx(visible(tamsin, "shade"), abs=0.05)


def test_light_is_asked_for_as_a_lift(tamsin):
    found, _ = asked(tamsin, "light", wanted=1.0)
    assert found.film_um is not None
    assert found.shows > 0


def test_under_a_fuller_foundation_a_deeper_shade_of_the_kit_may_do(tamsin):
    fuller = with_foundation(tamsin, "full-matt-3")
    found, _ = asked(fuller)
    assert found.film_um is None
    assert found.product is not None
    assert found.product.lab[0] < tamsin.products["shade-3"].lab[0]
    after = evaluated(apply_edits(fuller.sequence, found.edits, fuller.products, HOUSE))
    assert visible(after, "shade") > visible(fuller, "shade")


def test_where_nothing_does_it_says_so_and_what_foundation_would(tamsin):
    fuller = with_foundation(tamsin, "full-matt-3")
    case = fuller.sequence.case
    alone = replace(case, kit=tuple(i for i in case.kit if i.role != "shade" or i.id == "shade-3"))
    found, _ = asked(evaluated(replace(fuller.sequence, case=alone)))
    assert found.film_um is None
    assert found.product is None
    assert "cannot let it through" in found.says
    assert 0.2 < found.cover_most < 0.86
    assert 0 < found.foundation_um < 6
    assert found.edits == ()


def test_a_wish_beyond_any_foundation_is_a_plain_no(tamsin):
    case = tamsin.sequence.case
    alone = replace(case, kit=tuple(i for i in case.kit if i.role != "shade" or i.id == "shade-3"))
    found, _ = asked(evaluated(replace(tamsin.sequence, case=alone)), wanted=30.0)
    assert found.cover_most is None
    assert "No foundation would" in found.says


def test_other_steps_and_empty_wishes_are_refused(tamsin):
    foundation = next(s for s in tamsin.sequence.steps if s.kind == "foundation")
    with pytest.raises(Refused, match="shade or light"):
        reach(tamsin.sequence, foundation.id, tamsin.reading, tamsin.products, HOUSE)
    with pytest.raises(Refused, match="wanted"):
        asked(tamsin, wanted=0.0)
    with pytest.raises(Refused, match="wanted"):
        asked(tamsin, wanted=float("nan"))
