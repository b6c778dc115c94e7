"""Notes for next time as edits: what is laid, more or less of it, none, another product, and where."""

from __future__ import annotations

import pytest

from nabrel.core.ask.noted import KINDS, noted_edits
from nabrel.core.ask.recommend import plan
from nabrel.core.base.possible import apply_edits
from nabrel.core.house import House
from nabrel.core.judge.evaluate import evaluate
from nabrel.core.shelf.ladder import rungs
from nabrel.core.terms.zones import T_ZONE, ZONE_INFO

HOUSE = House()


@pytest.fixture(scope="module")
def evaluations(people):
    return {name: evaluate(plan(case, HOUSE), HOUSE) for name, case in people.items()}


def laid(sequence, kind):
    """How much of a kind lies on each zone, all its steps together."""
    found = {}
    for step in sequence.steps:
        if step.kind == kind:
            for zone, amount in step.amounts.items():
                found[zone] = found.get(zone, 0.0) + amount
    return found


def done(note, now):
    """The plan with everything that the note asks for."""
    sequence = now.sequence
    for each in noted_edits(note, now, HOUSE):
        sequence = apply_edits(sequence, each.edits, now.products)
    return sequence


@pytest.mark.parametrize("name", ["Bram", "Isolde", "Merrick", "Tamsin", "Wren"])
@pytest.mark.parametrize(("note", "kind", "by"), [
    ("More shade.", "shade", 1), ("Shade one step darker", "shade", 1), ("Less blush", "colour", -1),
    ("The contour was too much: less contour next time", "shade", -1), ("Thinner foundation", "foundation", -1),
])  # fmt: skip
def test_more_and_less_are_one_rung_on_every_zone_and_nothing_else_moves(evaluations, name, note, kind, by):
    now = evaluations[name]
    after = done(note, now)
    if not laid(now.sequence, kind):
        assert after == now.sequence or kind in [step.kind for step in after.steps]
        return
    ladder = [rung.amount for rung in rungs("um", HOUSE)]
    moved = 0
    for step, other in zip(now.sequence.steps, after.steps, strict=True):
        if step.kind != kind or step.unit != "um":
            assert step == other
            continue
        for portion, changed in zip(step.portions, other.portions, strict=True):
            if portion.left_over or portion.amount is None:
                assert changed == portion
                continue
            place = min(range(len(ladder)), key=lambda at: abs(ladder[at] - portion.amount))
            assert changed.amount == pytest.approx(ladder[min(len(ladder) - 1, max(0, place + by))])
            moved += changed.amount != portion.amount
    assert moved


def test_a_place_that_is_named_is_changed_alone(evaluations):
    now = evaluations["Wren"]
    before, after = (
        laid(now.sequence, "foundation"),
        laid(done("Lighter foundation around the mouth", now), "foundation"),
    )
    changed = {zone for zone in before if after[zone] != before[zone]}
    assert changed
    assert all(ZONE_INFO[zone].region == "mouth" for zone in changed)
    assert all(after[zone] < before[zone] for zone in changed)


def test_more_where_nothing_lies_yet_lays_it_there(evaluations):
    now = evaluations["Tamsin"]
    before, after = laid(now.sequence, "set"), laid(done("Powder the forehead and nose a little more.", now), "set")
    come = set(after) - set(before)
    assert {"forehead_centre", "nose_tip"} <= come
    assert all(ZONE_INFO[zone].region in ("forehead", "nose") for zone in come)


def test_powder_is_not_pressed_over_a_bake(evaluations):
    now = evaluations["Bram"]
    assert set(T_ZONE) <= set(laid(now.sequence, "bake"))
    assert noted_edits("More powder on the nose.", now, HOUSE) == ()


def test_without_leaves_out_the_step_or_its_zones(evaluations):
    now = evaluations["Tamsin"]
    assert "setting_mist" in [step.kind for step in now.sequence.steps]
    assert "setting_mist" not in [step.kind for step in done("Without mist", now).steps]
    glowing = laid(evaluations["Wren"].sequence, "glow")
    rest = laid(done("no glow on the cheekbones", evaluations["Wren"]), "glow")
    assert set(glowing) - set(rest) == {"cheekbone_l", "cheekbone_r"}


def test_another_product_is_the_next_that_serves(evaluations):
    now = evaluations["Wren"]
    (offer,) = noted_edits("another primer", now, HOUSE)
    used = {step.item for step in now.sequence.steps if step.kind == "prime"}
    after = {step.item for step in done("another primer", now).steps if step.kind == "prime"}
    assert after
    assert not used & after
    assert all(now.products[item].role == "primer" for item in after)
    assert all(now.products[item].name in offer.says for item in after)


def test_several_wishes_in_one_note_are_offered_one_by_one(evaluations):
    offers = noted_edits(
        "Less powder under the eyes, more blush; no glow but another primer", evaluations["Wren"], HOUSE
    )
    assert [offer.says.split(":")[0] for offer in offers] == ["Set", "Colour", "Glow", "Prime"]


@pytest.mark.parametrize("note", [
    "", "It was lovely.", "More!", "powder", "The blush was perfect", "a lighter mood", "x" * 600, "nothing", "notes: nose",
])  # fmt: skip
def test_what_is_not_understood_is_offered_nothing(evaluations, note):
    assert noted_edits(note, evaluations["Wren"], HOUSE) == ()


def test_any_words_together_either_do_something_that_can_be_done_or_offer_nothing(evaluations):
    tried, faces = 0, list(evaluations.items())
    for place, word in enumerate(KINDS):
        # Each word on two faces, so that every face is asked with six of them.
        for name, now in (faces[place % len(faces)], faces[(place * 3 + 1) % len(faces)]):
            for wish in ("more {}", "less {}", "no {}", "another {}", "more {} on the chin and neck"):
                for offer in noted_edits(wish.format(word), now, HOUSE):
                    tried += 1
                    assert offer.edits
                    assert offer.trial.after.sequence == apply_edits(now.sequence, offer.edits, now.products), name
    assert tried > 100, tried
