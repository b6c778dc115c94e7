"""Substitutes, viewing and edges."""

from __future__ import annotations

from dataclasses import replace

import pytest

from nabrel.core.ask.recommend import plan
from nabrel.core.ask.substitute import mix_for, substitutes
from nabrel.core.base.possible import apply_edits
from nabrel.core.errors import Impossible, Refused
from nabrel.core.house import House
from nabrel.core.house.tables import VIEWING_EDGE
from nabrel.core.house.viewing import seen
from nabrel.core.judge.evaluate import evaluate
from nabrel.core.judge.figures import visible
from nabrel.core.plan.edits import SetAmount, SetHand
from nabrel.core.terms.looks import VIEWINGS

HOUSE = House()


@pytest.fixture(scope="module")
def tamsin(people):
    return evaluate(plan(people["Tamsin"], HOUSE), HOUSE)


def first(evaluation, kind):
    return next(s for s in evaluation.sequence.steps if s.kind == kind)


def test_the_one_in_use_comes_first_and_changes_nothing(tamsin):
    found = substitutes(tamsin, first(tamsin, "foundation").id, HOUSE)
    assert found[0].current
    assert (found[0].look_de, found[0].cover_change, found[0].edits) == (0, 0, ())
    rest = [each.look_de for each in found[1:]]
    assert rest == sorted(rest)


def test_the_figures_are_those_of_the_swap_itself(tamsin):
    each = next(s for s in substitutes(tamsin, first(tamsin, "foundation").id, HOUSE) if s.product.id == "full-matt-3")
    after = evaluate(apply_edits(tamsin.sequence, each.edits, tamsin.products), HOUSE)
    assert each.shade_shows == pytest.approx(visible(after, "shade"))
    assert each.worst_cake == after.totals.worst_cake
    assert each.cost_change == pytest.approx(after.totals.cost - tamsin.totals.cost)
    assert each.cover_change == pytest.approx(0.36)


def test_a_shade_may_be_replaced_by_a_deep_foundation(tamsin):
    roles = {each.product.role for each in substitutes(tamsin, first(tamsin, "shade").id, HOUSE)}
    assert roles & {"foundation", "concealer"}


def test_what_beads_is_marked_and_what_is_avoided_is_not_offered(tamsin, people):
    found = {each.product.id: each for each in substitutes(tamsin, first(tamsin, "foundation").id, HOUSE)}
    assert found["water-veil-4"].beads
    assert not found["silk-veil-3"].beads
    wren = people["Wren"]
    wary = replace(wren, sitter=replace(wren.sitter, avoid=("fragrance",)))
    evaluation = evaluate(plan(wary, HOUSE), HOUSE)
    offered = {each.product.id for each in substitutes(evaluation, first(evaluation, "melting_mist").id, HOUSE)}
    assert "mist-scented" not in offered


def test_a_missing_foundation_is_mixed_from_the_others(tamsin):
    answer = mix_for(tamsin, "thin-satin-3", HOUSE)
    assert answer.near_enough
    assert all(part.product.id != "thin-satin-3" for part in answer.best.parts)
    with pytest.raises(Impossible):
        mix_for(tamsin, "cor-green", HOUSE)


def test_a_step_without_a_product_has_no_substitutes(tamsin):
    with pytest.raises(Refused):
        substitutes(tamsin, first(tamsin, "crease_check").id, HOUSE)


@pytest.mark.parametrize("viewing", [v for v in VIEWINGS if v != "in_person"])
def test_other_viewings_want_more_contrast_and_say_it_looks_heavy(people, viewing):
    case = people["Tamsin"]
    case = replace(case, intent=replace(case.intent, viewing=viewing))
    sequence = plan(case, HOUSE)
    assert visible(evaluate(sequence, HOUSE), "shade") > visible(
        evaluate(plan(people["Tamsin"], HOUSE), HOUSE), "shade"
    )
    assert any("heavy in person" in note for note in sequence.notes)
    assert seen(viewing, HOUSE).film_limit_um > HOUSE.film_limit_um
    assert VIEWING_EDGE[viewing] > VIEWING_EDGE["in_person"]


def test_a_stack_made_for_the_stage_is_judged_too_strong_in_person(people):
    case = people["Tamsin"]
    staged = plan(replace(case, intent=replace(case.intent, viewing="stage")), HOUSE)
    near = evaluate(replace(staged, case=case), HOUSE)
    far = evaluate(staged, HOUSE)
    assert near.totals.worst_cake > far.totals.worst_cake
    assert len(near.findings) > len(far.findings)


def test_a_shade_paler_than_the_skin_shows_as_less_than_nothing(people):
    bram = evaluate(plan(people["Bram"], HOUSE), HOUSE)
    pale = next(s for s in substitutes(bram, first(bram, "shade").id, HOUSE) if s.product.id == "shade-1")
    assert pale.shade_shows < 0


def test_a_softer_motion_makes_a_softer_edge(tamsin):
    shade = first(tamsin, "shade").id
    pressed = evaluate(apply_edits(tamsin.sequence, [SetHand(shade, motion="press")], tamsin.products), HOUSE)

    def steepness(evaluation):
        return max(edge.steepness for edge in evaluation.edges if edge.kind == "shade")

    assert steepness(pressed) >= steepness(tamsin)


def test_a_shade_far_too_thick_makes_a_steeper_border(tamsin):
    deep = apply_edits(tamsin.sequence, [SetAmount(first(tamsin, "shade").id, 9.5)], tamsin.products)
    worst = max(e.steepness for e in evaluate(deep, HOUSE).edges)
    assert worst > max(e.steepness for e in tamsin.edges)


def test_one_that_a_practitioner_would_reach_for_is_of_the_role_near_in_depth_and_agrees(tamsin):
    """All three, and nothing else: each by itself turns items away."""
    turned: dict[str, int] = {"role": 0, "depth": 0, "base": 0, "none": 0}
    for kind in ("foundation", "light", "shade", "colour", "conceal"):
        step = next((each for each in tamsin.sequence.steps if each.kind == kind and len(each.mix) == 1), None)
        if step is None:
            continue
        own = tamsin.products[step.item]
        for each in substitutes(tamsin, step.id, HOUSE):
            far = abs(each.product.lab[0] - own.lab[0]) > HOUSE.near_shades * HOUSE.shade_step_l
            against = [
                name
                for name, so in (("role", each.product.role != own.role), ("depth", far), ("base", bool(each.beads)))
                if so
            ]
            assert each.considered == (not against), (kind, each.product.name, against)
            turned[against[0] if len(against) == 1 else "none" if not against else "role"] += 1
    assert turned["none"] > 5
    assert turned["depth"] > 0
    assert turned["role"] > 0
