"""Edits as values, and the ledger that order is judged on."""

from __future__ import annotations

from dataclasses import replace

import pytest

from nabrel.core.ask.recommend import plan
from nabrel.core.base.ledger import keep
from nabrel.core.base.possible import apply_edits
from nabrel.core.errors import Impossible, Refused
from nabrel.core.face.reading import read
from nabrel.core.house import House
from nabrel.core.judge.evaluate import evaluate, products_of
from nabrel.core.plan.edits import (
    MOST_ACCEPTED,
    MOST_REASONS,
    Accept,
    Add,
    Merge,
    Move,
    Remove,
    SetAmount,
    SetHand,
    SetProduct,
    SetWait,
    SetZones,
    Split,
    say,
)
from nabrel.core.plan.sequence import Accepted
from nabrel.formats.convert import sequence_from, sequence_to

HOUSE = House()


@pytest.fixture
def wren(people):
    return plan(people["Wren"], HOUSE)


@pytest.fixture
def bram(people):
    return plan(people["Bram"], HOUSE)


def products(sequence):
    return products_of(sequence, read(sequence.case, HOUSE))


def edited(sequence, *edits):
    return apply_edits(sequence, edits, products(sequence), HOUSE)


def first(sequence, kind):
    return next(step for step in sequence.steps if step.kind == kind)


def test_an_amount_changes_what_to_take(wren):
    step = first(wren, "foundation")
    more = edited(wren, SetAmount(step.id, film_um=step.film_um * 2)).step(step.id)
    assert more.take.amount == pytest.approx(step.take.amount * 2, rel=0.05)
    assert more.why[-1].startswith("By hand: Foundation: 6 to 12 µm")


def test_the_reason_by_hand_stands_once(wren):
    step = first(wren, "foundation")
    twice = edited(wren, SetAmount(step.id, film_um=5.0), SetAmount(step.id, film_um=4.0)).step(step.id)
    assert [s for s in twice.why if s.startswith("By hand")] == ["By hand: Foundation: 5 to 4 µm."]


def test_a_swap_to_powder_changes_the_unit(wren):
    step = first(wren, "colour")
    powder = next(item for item in products(wren).values() if item.dry)
    swapped = edited(wren, SetProduct(step.id, powder.id)).step(step.id)
    assert swapped.film_um is None
    assert swapped.powder_mg_cm2 == pytest.approx(step.film_um / 10)


def test_moving_keeps_every_step(wren):
    shade, foundation = first(wren, "shade"), first(wren, "foundation")
    moved = edited(wren, Move(foundation.id, shade.id))
    order = [step.id for step in moved.steps]
    assert order.index(foundation.id) == order.index(shade.id) - 1
    assert sorted(order) == sorted(step.id for step in wren.steps)


def test_move_to_the_end_and_before_itself(wren):
    fed = first(wren, "moisturise").id
    assert edited(wren, Move(fed, None)).steps[-1].id == fed
    assert edited(wren, Move("s3", "s3")) == wren


def test_added_steps_get_a_new_id_and_an_amount_to_take(wren):
    grown = edited(wren, Add("conceal", ("chin",), "s5", "press-2", film_um=3.0, tool="fingers", motion="press"))
    new = next(step for step in grown.steps if step.why == ("Added by hand.",))
    assert new.take is not None
    assert len(grown.steps) == len(wren.steps) + 1
    assert len({step.id for step in grown.steps}) == len(grown.steps)


def test_dusting_before_the_bake_is_impossible(bram):
    with pytest.raises(Impossible, match="dusting off only after"):
        edited(bram, Move(first(bram, "dust_off").id, first(bram, "bake").id))


@pytest.mark.parametrize(
    ("edit", "field"),
    [
        (SetAmount("s99", film_um=3.0), "edits[0].step"),
        (SetAmount("s1", film_um=3.0), "edits[0].film_um"),
        (SetAmount("s14", film_um=-1.0), "edits[0].film_um"),
        (SetAmount("s14", film_um=400.0), "edits[0].film_um"),
        (SetAmount("s14"), "edits[0]"),
        (SetAmount("s14", film_um=1.0, powder_mg_cm2=0.1), "edits[0]"),
        (SetProduct("s14", "nothing"), "edits[0].product"),
        (SetProduct("s14", "cle-1"), "edits[0].product"),
        (SetZones("s14", ()), "edits[0].zones"),
        (SetWait("s14", -1.0), "edits[0].wait_s"),
        (SetWait("s14", 60.0, 30.0), "edits[0].wait_at_most_s"),
        (SetWait("s14", 60.0, 14401.0), "edits[0].wait_at_most_s"),
        (SetHand("s14"), "edits[0]"),
        (Move("s14", "s99"), "edits[0].before"),
        (Add("foundation", ("chin",), film_um=3.0), "edits[0].product"),
        (Add("foundation", ("chin",), product="nothing"), "edits[0].product"),
        (Add("set", ("chin",), product="pow-fine", film_um=3.0), "edits[0].film_um"),
        (Add("set", ("chin",), product="pow-fine", powder_mg_cm2=9.0), "edits[0].powder_mg_cm2"),
        (Add("foundation", ("chin",), product="thin-satin-2", powder_mg_cm2=0.2), "edits[0].powder_mg_cm2"),
        (Add("set", ("chin",), product="thin-satin-2", film_um=3.0), "edits[0].product"),
        (Add("setting_mist", ("chin",), product="thin-satin-2"), "edits[0].product"),
        (Add("foundation", ("chin",), product="cle-1", film_um=3.0), "edits[0].product"),
        (Add("cleanse", (), active_s=7201.0), "edits[0].active_s"),
        (Add("cleanse", (), wait_s=-1.0), "edits[0].wait_s"),
    ],
)
def test_edits_that_cannot_be_are_refused_by_field(wren, edit, field):
    with pytest.raises(Refused) as refused:
        edited(wren, edit)
    assert refused.value.field == field


def test_a_set_takes_only_powder(wren):
    with pytest.raises(Impossible, match="a powder"):
        edited(wren, SetProduct(first(wren, "set").id, "thin-satin-2"))


def test_reasons_stay_as_many_as_a_file_may_hold(wren):
    """Merging a step that was split twenty times keeps it writable."""
    step = first(wren, "foundation")
    many = replace(step, why=tuple(f"Reason {number}." for number in range(MOST_REASONS)))
    crowded = replace(wren, steps=tuple(many if each.id == step.id else each for each in wren.steps))
    thinner = edited(crowded, SetAmount(step.id, film_um=2.0))
    said = thinner.step(step.id).why
    assert len(said) == MOST_REASONS
    assert said[-1].startswith("By hand: Foundation")
    apart = edited(thinner, Split(step.id, ("nose_tip",)))
    twin = next(each.id for each in apart.steps if apart.step(each.id) and wren.step(each.id) is None)
    other = edited(apart, SetAmount(twin, film_um=1.0))
    merged = edited(other, Merge(step.id, twin))
    assert len(merged.step(step.id).why) == MOST_REASONS
    assert sequence_from(sequence_to(merged)) == merged


def test_no_more_is_lived_with_than_a_file_may_hold(wren):
    lived = tuple(Accepted(f"rule-{number}", (), "Because") for number in range(MOST_ACCEPTED))
    full = replace(wren, accepted=lived)
    with pytest.raises(Impossible, match="at most 200 findings"):
        edited(full, Accept("one-more", (), "And this"))
    assert len(edited(full, Accept("rule-7", (), "Because of the heat")).accepted) == MOST_ACCEPTED
    assert len(edited(full, Accept("rule-7", ())).accepted) == MOST_ACCEPTED - 1


def test_every_edit_says_what_it_does(wren):
    known = products(wren)
    step = first(wren, "foundation")
    said = {
        say(wren, SetAmount(step.id, film_um=4.0), known): "Foundation: 6 to 4 µm",
        say(wren, SetHand(step.id, motion="press"), known): "Foundation: press",
        say(wren, SetProduct(step.id, "full-matt-2"), known): "Foundation: Full matt 2",
        say(wren, SetZones(step.id, ("chin",)), known): "Foundation: on the chin",
        say(wren, SetWait(step.id, 90.0), known): "Foundation: wait 90 s",
        say(wren, Move(step.id, None), known): "Moved foundation",
        say(wren, Remove(step.id), known): "Took out foundation",
        say(wren, Add("glow", ("chin",)), known): "Added glow on the chin",
    }
    assert all(one == other for one, other in said.items())


def test_the_ledger_knows_each_zone_by_itself(bram):
    ledger = keep(bram, products(bram), HOUSE)
    last = len(bram.steps) - 1
    assert ledger.before[last]["forehead_centre"].powder_mg > 0
    assert ledger.before[last]["neck"].powder_mg == 0
    assert ledger.before[last]["neck"].wet_um > 0
    assert ledger.before[last]["forehead_centre"].wet_um == 0


def test_a_bake_leaves_its_remainder_once_dusted(bram):
    ledger = keep(bram, products(bram), HOUSE)
    baked = first(bram, "bake").zones[0]
    assert ledger.after[baked].powder_mg == pytest.approx(HOUSE.bake_left_mg)
    seen = evaluate(bram, HOUSE).appearance
    bake_at = [step.kind for step in bram.steps].index("bake")
    assert seen.powder[bake_at].max() == pytest.approx(HOUSE.bake_mg)
    assert ledger.powder[bake_at].max() == pytest.approx(HOUSE.bake_left_mg)


def test_waits_hold_back_only_their_own_zones(wren):
    ledger = keep(wren, products(wren), HOUSE)
    assert ledger.minutes * 60 >= HOUSE.moisturiser_wait_s
    assert list(ledger.starts) == sorted(ledger.starts)
    serial = sum(step.active_s + step.wait_s for step in wren.steps)
    assert ledger.minutes * 60 < serial
