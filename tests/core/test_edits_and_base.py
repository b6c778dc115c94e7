"""Edits as values, and the state of the base that order is judged on."""

from __future__ import annotations

from dataclasses import replace

import pytest

from nabrel.core.ask.recommend import plan
from nabrel.core.base.possible import apply_edits
from nabrel.core.base.spending import taken
from nabrel.core.errors import Impossible, Refused
from nabrel.core.face.reading import read
from nabrel.core.house import House
from nabrel.core.judge.evaluate import products_of
from nabrel.core.plan.edits import (
    Accept,
    Add,
    Merge,
    MergePortions,
    Move,
    Remove,
    SetAmount,
    SetHand,
    SetMix,
    SetProduct,
    SetThen,
    SetTiming,
    SetWait,
    SetZones,
    Split,
    SplitPortion,
    apply,
    say,
)
from nabrel.core.plan.sequence import Accepted, Pin, Timing
from nabrel.core.plan.step import MixPart
from nabrel.core.terms.limits import MOST_ACCEPTED, MOST_REASONS
from nabrel.core.terms.zones import ZONE_INDEX
from nabrel.formats.files import SequenceFile
from tests.making import course, takes

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
    return apply_edits(sequence, edits, products(sequence))


def first(sequence, kind):
    return next(step for step in sequence.steps if step.kind == kind)


def test_an_amount_changes_what_to_take(wren):
    step = first(wren, "foundation")
    heavier = [SetAmount(step.id, portion.amount * 2, n) for n, portion in enumerate(step.portions)]
    more = edited(wren, *heavier)
    assert takes(more)[step.id].amount == pytest.approx(takes(wren)[step.id].amount * 2, rel=0.1)
    assert more.step(step.id).why[-1].startswith("By hand: Foundation")


def test_the_reason_by_hand_stands_once(wren):
    step = first(wren, "foundation")
    twice = edited(wren, SetAmount(step.id, 5.0), SetAmount(step.id, 4.0)).step(step.id)
    assert [s for s in twice.why if s.startswith("By hand")] == [
        f"By hand: {say(edited(wren, SetAmount(step.id, 5.0)), SetAmount(step.id, 4.0), products(wren))}."
    ]


def test_a_swap_to_powder_changes_the_unit(wren):
    step = first(wren, "colour")
    powder = next(item for item in products(wren).values() if item.dry)
    swapped = edited(wren, SetProduct(step.id, powder.id)).step(step.id)
    assert swapped.film_um is None
    assert swapped.powder_mg == pytest.approx(step.film_um / 10)


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
    grown = edited(wren, Add("conceal", ("chin",), "s5", "press-2", amount=3.0, tool="fingers", motion="press"))
    new = next(step for step in grown.steps if step.why == ("Added by hand.",))
    assert takes(grown)[new.id] is not None
    assert len(grown.steps) == len(wren.steps) + 1
    assert len({step.id for step in grown.steps}) == len(grown.steps)


def test_dusting_before_the_bake_is_impossible(bram):
    with pytest.raises(Impossible, match="dusting off only after"):
        edited(bram, Move(first(bram, "dust_off").id, first(bram, "bake").id))


@pytest.mark.parametrize(
    ("edit", "field"),
    [
        (SetAmount("s99", 3.0), "edits[0].step"),
        (SetAmount("s1", 3.0), "edits[0].amount"),
        (SetAmount("s14", -1.0), "edits[0].amount"),
        (SetAmount("s14", 400.0), "edits[0].amount"),
        (SetAmount("s14", 3.0, 7), "edits[0].portion"),
        (SetProduct("s14", "nothing"), "edits[0].product"),
        (SetProduct("s14", "cle-1"), "edits[0].product"),
        (SetZones("s14", ()), "edits[0].zones"),
        (SetWait("s14", -1.0), "edits[0].wait_s"),
        (SetWait("s14", 60.0, 30.0), "edits[0].wait_at_most_s"),
        (SetWait("s14", 60.0, 14401.0), "edits[0].wait_at_most_s"),
        (SetHand("s14"), "edits[0]"),
        (Move("s14", "s99"), "edits[0].before"),
        (Add("foundation", ("chin",), amount=3.0), "edits[0].product"),
        (Add("foundation", ("chin",), product="nothing"), "edits[0].product"),
        (Add("set", ("chin",), product="pow-fine", amount=3.0), "edits[0].amount"),
        (Add("set", ("chin",), product="pow-fine", amount=9.0), "edits[0].amount"),
        (Add("foundation", ("chin",), product="thin-satin-2", amount=41.0), "edits[0].amount"),
        (Add("set", ("chin",), product="thin-satin-2", amount=3.0), "edits[0].product"),
        (Add("setting_mist", ("chin",), product="thin-satin-2"), "edits[0].product"),
        (Add("foundation", ("chin",), product="cle-1", amount=3.0), "edits[0].product"),
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
    thinner = edited(crowded, SetAmount(step.id, 2.0))
    said = thinner.step(step.id).why
    assert len(said) == MOST_REASONS
    assert said[-1].startswith("By hand: Foundation")
    apart = edited(thinner, Split(step.id, ("nose_tip",)))
    twin = next(each.id for each in apart.steps if apart.step(each.id) and wren.step(each.id) is None)
    other = edited(apart, SetAmount(twin, 1.0))
    merged = edited(other, Merge(step.id, twin))
    assert len(merged.step(step.id).why) == MOST_REASONS
    assert SequenceFile.of(merged).sequence == merged


def test_no_more_is_accepted_than_a_file_may_hold(wren):
    lived = tuple(Accepted(f"rule-{number}", (), "Because") for number in range(MOST_ACCEPTED))
    full = replace(wren, accepted=lived)
    with pytest.raises(Impossible, match="at most 200 accepted findings"):
        edited(full, Accept("one-more", (), "And this"))
    assert len(edited(full, Accept("rule-7", (), "Because of the heat")).accepted) == MOST_ACCEPTED
    assert len(edited(full, Accept("rule-7", ())).accepted) == MOST_ACCEPTED - 1


def test_every_edit_says_what_it_does(wren):
    known = products(wren)
    step, light = first(wren, "foundation"), first(wren, "melting_mist")
    said = {
        say(wren, SetHand(step.id, motion="press"), known): "Foundation: press",
        say(wren, SetProduct(step.id, "full-matt-2"), known): "Foundation: Full matt 2",
        say(wren, SetMix(step.id, (MixPart("thin-satin-2", 0.5), MixPart("full-matt-2", 0.5))), known): (
            "Foundation: Thin satin 2 and Full matt 2"
        ),
        say(wren, SetZones(step.id, ("chin",)), known): "Foundation: on the chin",
        say(wren, SetThen(step.id, "damp_sponge", "bounce"), known): "Foundation: then damp sponge",
        say(wren, SetWait(step.id, 90.0), known): "Foundation: wait 90 s",
        say(wren, Move(step.id, None), known): "Moved foundation",
        say(wren, Remove(step.id), known): "Took out foundation",
        say(wren, Split(step.id, ("chin",)), known): "Split foundation on the chin",
        say(wren, SplitPortion(step.id, ("chin",)), known): "Split foundation on the chin",
        say(wren, Merge(step.id, light.id), known): "Combined two steps of foundation",
        say(wren, MergePortions(step.id, 1), known): "Combined two portions of foundation",
        say(wren, Add("glow", ("chin",)), known): "Added glow on the chin",
        say(wren, Accept("thin-passes", (), "as agreed"), known): "Accepted: thin passes. as agreed",
    }
    assert all(one == other for one, other in said.items())
    assert say(wren, SetAmount(step.id, 4.5, 1), known).endswith("to 4.5 µm")


def test_the_base_knows_each_zone_by_itself(bram):
    last = course(bram).states[len(bram.steps) - 1]
    assert last["forehead_centre"].powder_mg > 0
    assert last["neck"].powder_mg == 0
    assert last["neck"].wet_um > 0
    assert last["forehead_centre"].wet_um == 0


def test_a_bake_leaves_its_remainder_once_dusted(bram):
    worked = course(bram)
    baked = first(bram, "bake").zones[0]
    bake_at = [step.kind for step in bram.steps].index("bake")
    assert worked.after[baked].powder_mg == pytest.approx(HOUSE.bake_left_mg)
    assert worked.done[bake_at].powder.max() == pytest.approx(HOUSE.bake_mg)
    assert worked.after.powder[bake_at].max() == pytest.approx(HOUSE.bake_left_mg)


def test_waits_hold_back_only_their_own_zones(wren):
    worked = course(wren)
    assert worked.minutes * 60 >= HOUSE.moisturiser_wait_s
    assert list(worked.starts) == sorted(worked.starts)
    serial = sum(step.active_s + step.wait_s for step in wren.steps)
    assert worked.minutes * 60 < serial


# Portions


def laid(sequence):
    return first(sequence, "foundation")


def test_a_portion_is_split_and_combined_again(wren):
    step = laid(wren)
    zone = step.portions[0].zones[0]
    apart = edited(wren, SplitPortion(step.id, (zone,)))
    assert len(laid(apart).portions) == len(step.portions) + 1
    assert laid(apart).portions[1].zones == (zone,)
    assert laid(apart).amounts == step.amounts
    again = edited(apart, MergePortions(step.id, 1))
    assert laid(again).portions[0].zones == step.portions[0].zones
    assert takes(again)[step.id].amount == pytest.approx(takes(wren)[step.id].amount, rel=0.02)


def test_one_portion_is_changed_and_no_other(wren):
    step = laid(wren)
    changed = laid(edited(wren, SetAmount(step.id, 1.0, 1), SetHand(step.id, "fingers", "press", portion=1)))
    assert changed.portions[1].amount == 1.0
    assert (changed.portions[1].tool, changed.portions[1].motion) == ("fingers", "press")
    assert [p for n, p in enumerate(changed.portions) if n != 1] == [p for n, p in enumerate(step.portions) if n != 1]


def test_steps_of_one_mix_are_combined_and_each_zone_stays_once(wren):
    step = laid(wren)
    apart = edited(wren, Split(step.id, step.portions[0].zones[:2]))
    two = [each for each in apart.steps if each.kind == "foundation"]
    assert len(two) == 2
    together = laid(edited(apart, Merge(two[0].id, two[1].id)))
    assert together.zones == step.zones
    assert sum(len(portion.zones) for portion in together.portions) == len(step.zones)
    assert dict(together.amounts) == dict(step.amounts)


def test_a_mix_takes_each_item_by_its_share(wren):
    step = laid(wren)
    mixed = edited(wren, SetMix(step.id, (MixPart("thin-satin-2", 0.75), MixPart("thin-satin-3", 0.25))))
    used = taken(course(mixed))
    alone = taken(course(wren))
    assert used["thin-satin-2"][0] == pytest.approx(3 * used["thin-satin-3"][0])
    assert used["thin-satin-2"][0] + used["thin-satin-3"][0] == pytest.approx(alone["thin-satin-2"][0], rel=0.05)


@pytest.mark.parametrize(
    ("edit", "field"),
    [
        (SetMix("its foundation", ()), "edits[0].mix"),
        (SetMix("its foundation", (MixPart("thin-satin-2", 0.5), MixPart("thin-satin-3", 0.6))), "edits[0].mix"),
        (SetMix("its foundation", (MixPart("thin-satin-2", 0.5), MixPart("pow-fine", 0.5))), "edits[0].mix"),
        (SetMix("its foundation", (MixPart("thin-satin-2", 0.5), MixPart("thin-satin-2", 0.5))), "edits[0].mix"),
        (SplitPortion("its foundation", ("lips",)), "edits[0].zones"),
        (SplitPortion("its foundation", ("chin",), 9), "edits[0].portion"),
        (MergePortions("its foundation", 0, 0), "edits[0].other"),
        (SetHand("its foundation", "fingers", portion=9), "edits[0].portion"),
        (SetZones("its foundation", ("chin",), 9), "edits[0].portion"),
        (Merge("its foundation", "s1"), "edits[0].other"),
    ],
)
def test_edits_of_portions_that_cannot_be_are_refused_by_field(wren, edit, field):
    there = replace(edit, step=first(wren, "foundation").id)
    with pytest.raises(Refused) as refused:
        edited(wren, there)
    assert refused.value.field == field


def test_what_is_left_over_takes_nothing_and_is_no_more_than_the_tool_holds(wren):
    step = laid(wren)
    rest = next(n for n, portion in enumerate(step.portions) if portion.left_over)
    greedy = edited(wren, SetAmount(step.id, 30.0, rest))
    assert takes(greedy)[step.id] == takes(wren)[step.id]
    place = [each.id for each in greedy.steps].index(step.id)
    column = ZONE_INDEX[step.portions[rest].zones[0]]
    lying = course(greedy).done[place].film[column]
    assert 0 < lying < 30.0


def test_fixed_times_are_an_edit_of_their_own_and_go_with_the_steps_they_name(people):
    sequence = plan(people["Wren"], House())
    first, second = sequence.steps[0].id, sequence.steps[1].id
    timing = Timing(start="09:00", ready="10:00", already={first: "08:40"}, pins=(Pin(second, 60.0),))
    products = products_of(sequence, read(sequence.case, House()))
    timed = apply(sequence, [SetTiming(timing)], products)
    assert timed.timing == timing
    assert (
        say(sequence, SetTiming(timing), products) == "Starts at 09:00, ready at 10:00, 1 done already, 1 step pinned"
    )
    assert say(sequence, SetTiming(), products) == "No fixed times"
    less = apply(timed, [Remove(second)], products)
    assert less.timing == replace(timing, pins=())
    assert apply(timed, [SetTiming()], products).timing is None
    with pytest.raises(Refused, match="timing"):
        apply(sequence, [SetTiming(Timing(pins=(Pin("s99", 5.0),)))], products)
