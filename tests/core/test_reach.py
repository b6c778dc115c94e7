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
from nabrel.core.shelf.ladder import film_ladder, nearest_rung

HOUSE = House()


def evaluated(sequence):
    return evaluate(sequence, HOUSE)


def asked(evaluation, kind="shade", wanted=None):
    step = next(s for s in evaluation.sequence.steps if s.kind == kind)
    return reach(evaluation, step.id, wanted), step


def only(kit, shade):
    """The kit with no other shade than this."""
    return tuple(item for item in kit if item.role != "shade" or item.id == shade)


def with_foundation(evaluation, product):
    edits = [SetProduct(s.id, product) for s in evaluation.sequence.steps if s.kind == "foundation"]
    return evaluated(apply_edits(evaluation.sequence, edits, evaluation.products))


@pytest.fixture(scope="module")
def tamsin(people):
    return evaluated(plan(people["Tamsin"], HOUSE))


@pytest.mark.parametrize("wanted", [2.0, 4.0, 5.0])
def test_the_film_it_names_shows_the_wanted_step(tamsin, wanted):
    found, step = asked(tamsin, wanted=wanted)
    after = evaluated(apply_edits(tamsin.sequence, found.edits, tamsin.products))
    # The ladder has no rung between: what is named is the first that shows at least the wanted step.
    assert visible(after, "shade") >= wanted * 0.95
    thinner = [rung for rung in film_ladder(HOUSE) if rung < found.film_um]
    if thinner:
        part = thinner[-1] / max(portion.amount for portion in step.portions)
        edits = [
            SetAmount(step.id, nearest_rung(portion.amount * part, "um", HOUSE).amount, place)
            for place, portion in enumerate(step.portions)
        ]
        less = evaluated(apply_edits(tamsin.sequence, edits, tamsin.products))
        assert visible(less, "shade") < wanted
    assert found.shows == pytest.approx(visible(tamsin, "shade"), abs=0.05)


def test_light_is_asked_for_as_a_lift(tamsin):
    found, _ = asked(tamsin, "light", wanted=1.0)
    assert found.film_um is not None
    assert found.shows > 0


def test_under_a_fuller_foundation_a_deeper_shade_of_the_kit_may_do(tamsin):
    fuller = with_foundation(tamsin, "full-matt-3")
    own = next(s.item for s in fuller.sequence.steps if s.kind == "shade")
    deepest = asked(fuller)[0].at_most
    found, _ = asked(fuller, wanted=deepest * 1.1)
    assert found.film_um is None
    assert found.product is not None
    assert found.product.lab[0] < tamsin.products[own].lab[0]
    after = evaluated(apply_edits(fuller.sequence, found.edits, fuller.products))
    assert visible(after, "shade") > visible(fuller, "shade")


def test_where_nothing_does_it_says_so_and_what_foundation_would(tamsin):
    fuller = with_foundation(tamsin, "full-matt-3")
    case = fuller.sequence.case
    own = next(s.item for s in fuller.sequence.steps if s.kind == "shade")
    shade = next(s.id for s in fuller.sequence.steps if s.kind == "shade")
    laid = apply_edits(fuller.sequence, [SetAmount(shade, 9.5)], fuller.products)
    alone = evaluated(replace(laid, case=replace(case, kit=only(case.kit, own))))
    found, _ = asked(alone, wanted=asked(alone)[0].at_most * 1.1)
    assert found.film_um is None
    assert found.product is None
    assert "cannot let it through" in found.says
    assert 0.2 < found.cover_most < 0.86
    assert 0 < found.foundation_um < 7
    assert found.edits == ()


def test_a_wish_beyond_any_foundation_is_a_plain_no(tamsin):
    case = tamsin.sequence.case
    own = next(s.item for s in tamsin.sequence.steps if s.kind == "shade")
    alone = replace(case, kit=only(case.kit, own))
    found, _ = asked(evaluated(replace(tamsin.sequence, case=alone)), wanted=30.0)
    assert found.cover_most is None
    assert "No foundation would" in found.says


def test_other_steps_and_empty_wishes_are_refused(tamsin):
    foundation = next(s for s in tamsin.sequence.steps if s.kind == "foundation")
    with pytest.raises(Refused, match="shade or light"):
        reach(tamsin, foundation.id)
    with pytest.raises(Refused, match="wanted"):
        asked(tamsin, wanted=0.0)
    with pytest.raises(Refused, match="wanted"):
        asked(tamsin, wanted=float("nan"))
