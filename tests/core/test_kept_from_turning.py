"""Small turns of a figure, a choice or a condition that no law over many plans would notice: each has its case here."""

from __future__ import annotations

import re
from dataclasses import replace

import numpy as np
import pytest

from nabrel.core.ask import insertion
from nabrel.core.ask.reach import reach
from nabrel.core.ask.recommend import rank
from nabrel.core.base.appearance import zones_with
from nabrel.core.base.possible import apply_edits, newly_impossible
from nabrel.core.case.sitter import ZoneSkin
from nabrel.core.face.reading import read
from nabrel.core.face.strokes import EAR_TOP, SAG, strokes
from nabrel.core.house import House
from nabrel.core.house.viewing import seen
from nabrel.core.judge import evaluate as judging
from nabrel.core.judge.book import Finding, Fix, Judged
from nabrel.core.judge.evaluate import evaluate, products_of
from nabrel.core.judge.figures import mean_film
from nabrel.core.judge.rules import amounts, colour, correcting, hygiene
from nabrel.core.plan.edits import Add, Remove, SetAmount, SetProduct, SetWait, SetZones
from nabrel.core.plan.step import Portion
from nabrel.core.planner import finish_stages
from nabrel.core.planner.draft import Draft
from nabrel.core.planner.planner import plan_in
from nabrel.core.shelf.ladder import film_ladder
from nabrel.core.shelf.shelf import shelf_for
from nabrel.core.terms.zones import EYE_ZONES, both
from tests.making import one_portion

HOUSE = House()


@pytest.fixture(scope="module")
def wren(people):
    return evaluate(plan_in("underpainted", people["Wren"], HOUSE), HOUSE, try_fixes=False)


def judged(sequence) -> Judged:
    here = seen(sequence.case.intent.viewing, HOUSE)
    reading = read(sequence.case, here)
    return Judged(sequence, reading, products_of(sequence, reading), here)


def with_steps(sequence, *steps):
    return replace(sequence, steps=steps)


def skin(case, **zones):
    """The case with conditions on zones, and none elsewhere."""
    found = {zone: ZoneSkin(conditions) for zone, conditions in zones.items()}
    return replace(case, sitter=replace(case.sitter, preset="normal", zones=found))


def test_a_late_step_lays_what_the_plan_lays_in_such_steps(wren):
    step = next(s for s in wren.sequence.steps if s.kind == "foundation" and s.unit == "um")
    thick = film_ladder(HOUSE)[-1]
    assert thick > 1.2 * HOUSE.foundation_film_um
    edits = [SetAmount(step.id, float(thick), place) for place in range(len(step.portions))]
    other = evaluate(apply_edits(wren.sequence, edits, wren.products), HOUSE, former=wren, try_fixes=False)
    assert insertion._amount_for(other, "foundation", wren.products[step.item], HOUSE) == pytest.approx(thick)


def test_of_items_that_reach_it_the_one_laid_most_like_usual_is_offered(wren):
    own = next(s for s in wren.sequence.steps if s.kind == "light")
    base = wren.products[own.item]
    usual, deep = HOUSE.light_film_um, HOUSE.shade_film_um
    assert usual != deep
    steps = tuple(s for s in wren.sequence.steps if s.kind != "foundation")
    weak = replace(base, cover=0.01)
    kit = [
        weak if item.id == base.id else item
        for item in wren.sequence.case.kit
        if item.role != base.role or item.id == base.id
    ]
    lights = [
        replace(base, id=f"light-{number}", name=f"Light {number}", lab=(94.0, 2.0, 8.0), cover=cover)
        for number, cover in enumerate((0.06, 0.12, 0.2, 0.35, 0.6, 0.9))
    ]
    case = replace(wren.sequence.case, kit=(*kit, *lights))
    offered = 0
    for wanted in (1.0, 2.0, 3.0, 5.0, 8.0):
        evaluation = evaluate(replace(wren.sequence, case=case, steps=steps), HOUSE, try_fixes=False)
        found = reach(evaluation, own.id, wanted)
        if found.product is None:
            continue
        films = {light.id: reach_film(evaluation, own, light, wanted) for light in lights}
        fitting = [(abs(film - usual), light) for light, film in films.items() if film is not None]
        if len({row[0] for row in fitting}) > 1:
            offered += 1
            assert found.product.id == min(fitting)[1], wanted
    assert offered


def reach_film(evaluation, step, item, wanted):
    """The least film of an item that shows what is wanted."""
    from nabrel.core.ask.reach import ENOUGH, _Asked

    asked = _Asked(evaluation, step)
    return next((float(um) for um in film_ladder(HOUSE) if asked.shows_at(float(um), item) >= wanted * ENOUGH), None)


def test_the_foundation_that_lets_it_through_is_told_as_it_is_answered(people):
    told = 0
    for case in people.values():
        evaluation = evaluate(plan_in("underpainted", case, HOUSE), HOUSE, try_fixes=False)
        for step in evaluation.sequence.steps:
            if step.kind not in ("shade", "light") or step.unit != "um":
                continue
            for wanted in (3.0, 5.0, 8.0):
                found = reach(evaluation, step.id, wanted)
                said = re.search(r"([\d.]+) µm of [^.]* in place of", found.says)
                if said:
                    told += 1
                    assert f"{found.foundation_um:.1f}" == said[1]
    assert told


def test_the_least_film_speaks_for_a_base_and_never_against(wren, people):
    thick = [
        SetAmount(s.id, float(film_ladder(HOUSE)[-1]), place)
        for s in wren.sequence.steps if s.kind == "foundation" and s.unit == "um"
        for place in range(len(s.portions))
    ]  # fmt: skip
    other = evaluate(apply_edits(wren.sequence, thick, wren.products), HOUSE, former=wren, try_fixes=False)
    assert mean_film(wren) < mean_film(other)
    thin = next(each for each in rank([wren, other]) if each.evaluation is wren)
    assert [said for said in thin.speaks_for if said.startswith("the least film")]
    assert not [said for said in thin.speaks_against if said.startswith("the least film")]


def test_bases_are_held_against_the_one_that_ends_nearest_its_aim(wren):
    bare = [Remove(s.id) for s in wren.sequence.steps if s.kind in ("foundation", "correct", "conceal", "spot_conceal")]
    other = evaluate(apply_edits(wren.sequence, bare, wren.products), HOUSE, former=wren, try_fixes=False)
    ranked = {each.place: each for each in rank([wren, other])}
    assert not [said for said in ranked[0].speaks_against if "off its aim" in said]
    assert [said for said in ranked[1].speaks_against if "off its aim" in said]


def test_a_step_that_becomes_impossible_is_in_the_way_and_a_check_only_where_it_was_placed():
    bake = one_portion("bake", "bake", ("under_eye_l",), "powder", 0.4, unit="mg_cm2")
    dust = one_portion("dust", "dust_off", ("under_eye_l",), tool="fluffy_brush", motion="sweep")
    assert newly_impossible((bake, dust), (dust, bake), ()).step == "dust"
    assert newly_impossible((dust, bake), (dust, bake), ()) is None
    laid = one_portion("base", "foundation", ("chin",), "foundation", 5.0)
    check = one_portion("look", "crease_check", ("chin",))
    found = newly_impossible((laid, check), (check, laid), ("look",))
    assert (found.step, found.check) == ("look", True)
    assert newly_impossible((laid, check), (check, laid), ()) is None


def test_another_amount_may_be_asked_about_where_a_step_lays_nothing(wren):
    step = next(s for s in wren.sequence.steps if s.kind == "shade" and s.unit == "um")
    base = wren.course.after
    zone = next(z for z in both("cheek_apple") if z not in step.zones)
    bare, with_it = zones_with(base, [(zone, {step.id: 0.0}), (zone, {step.id: 8.0})])
    assert np.isfinite(with_it).all()
    assert with_it[0] < bare[0]


def test_only_dusting_off_takes_powder_away(wren):
    powder = next(item.id for item in wren.products.values() if item.role == "setting_powder")
    zones = both("under_eye")
    bake = one_portion("bake", "bake", zones, powder, 1.2, unit="mg_cm2", tool="puff", motion="press")
    press = one_portion("press", "soften_edges", zones, tool="damp_sponge", motion="press")
    dust = one_portion("dust", "dust_off", zones, tool="fluffy_brush", motion="sweep")
    laid = [
        judged(with_steps(wren.sequence, bake, *more)).course.after.powder.sum() for more in ((), (press,), (dust,))
    ]
    assert laid[0] > 0
    assert laid[1] == laid[0]
    assert laid[2] < laid[0]


def test_the_cheek_line_sags_below_the_straight_one(people):
    found = 0
    for stroke in strokes(read(people["Tamsin"], HOUSE).placement, {}, HOUSE):
        if stroke.kind == "shade" and "cheek_hollow" in stroke.id and len(stroke.points) == 3:
            start, middle, end = stroke.points
            found += 1
            assert middle[1] == pytest.approx(start[1] + 0.4 * (end[1] - start[1]) + SAG)
    assert found
    assert EAR_TOP[1] > 0


def test_a_fix_is_offered_untried_only_where_all_of_it_is_harmless(wren, people):
    own = next(s for s in wren.sequence.steps if s.kind == "foundation")
    kit = (
        *wren.sequence.case.kit,
        replace(wren.products[own.item], id="scented", name="Scented", contains=("fragrance",)),
    )
    case = replace(wren.sequence.case, kit=kit, sitter=replace(wren.sequence.case.sitter, avoid=("fragrance",)))
    here = judged(replace(wren.sequence, case=case))
    grave = (SetWait(own.id, 30.0), SetProduct(own.id, "scented"))
    harmless = (SetWait(own.id, 30.0),)
    for edits, stored in ((grave, False), (harmless, True)):
        finding = Finding("thin-passes", "load", "advice", (own.id,), own.zones, "So.", "Why.", Fix("Do it", edits))
        mended = judging._with_safe_fix(finding, (finding,), here)
        assert (mended.fix is not None) == stored


def baked(people, zones, **conditions):
    """A plan that bakes zones, on skin with these conditions on them."""
    case = skin(people["Wren"], **{zone: dict(conditions) for zone in zones})
    sequence = replace(plan_in("underpainted", people["Wren"], HOUSE), case=case)
    powder = next(item.id for item in case.kit if item.role == "setting_powder")
    bake = one_portion("bake", "bake", (*zones, "chin"), powder, 1.0, unit="mg_cm2", tool="puff", motion="press")
    dust = one_portion("dust", "dust_off", (*zones, "chin"), tool="fluffy_brush", motion="sweep")
    return judged(with_steps(sequence, bake, dust))


@pytest.mark.parametrize("conditions", [{"dry": 2}, {"creping": 3}, {"fine_lines": 3, "dry": 3}])
def test_a_bake_on_dry_or_lined_eyes_is_found_for_either(people, conditions):
    [found] = amounts.no_bake_on_lines(baked(people, both("under_eye"), **conditions))
    assert set(found.zones) == set(both("under_eye"))


def test_the_rest_of_a_bake_stays_a_bake(people):
    [found] = amounts.no_bake_on_lines(baked(people, both("under_eye"), dry=2))
    assert [edit for edit in found.fix.edits if isinstance(edit, SetZones) and edit.step == "bake"] == [
        SetZones("bake", ("chin",))
    ]
    assert not [edit for edit in found.fix.edits if isinstance(edit, Remove)]
    [press] = [edit for edit in found.fix.edits if isinstance(edit, Add)]
    assert set(press.zones) == set(both("under_eye"))


def test_edges_are_softened_before_the_first_powder(wren):
    """The step by which the edges must be soft is the first with powder, also where no crease is looked at."""
    shade = next(s for s in wren.sequence.steps if s.kind == "shade" and s.unit == "um")
    hard = replace(shade, portions=tuple(replace(p, amount=30.0, left_over=False) for p in shade.portions))
    powder = next(item.id for item in wren.products.values() if item.role == "setting_powder")
    press = one_portion("press", "set", ("chin",), powder, 0.2, unit="mg_cm2", tool="puff", motion="press")
    after = one_portion("after", "set", ("nose_tip",), powder, 0.2, unit="mg_cm2", tool="puff", motion="press")
    [found] = colour.edges_fade(judged(with_steps(wren.sequence, hard, press, after)))
    [soften] = found.fix.edits
    assert soften.before == "press"


@pytest.mark.parametrize(("cover", "same"), [(0.5, False), (0.5625, True)])
def test_a_foundation_of_another_cover_is_no_nearer_shade_of_the_same(wren, cover, same):
    """Covers that differ by the whole of what the house calls the same are not."""
    own = next(item for item in wren.products.values() if item.role == "foundation" and not item.dry)
    target = tuple(float(part) for part in judged(wren.sequence).appearance.target)
    mine = replace(own, id="mine", lab=(target[0] - 12.0, target[1], target[2]), cover=0.75)
    near = replace(own, id="near", lab=target, cover=cover)
    house = HOUSE.deciding({"same_cover": 0.25})
    step = one_portion("base", "foundation", ("chin",), "mine", 5.0, tool="damp_sponge", motion="press")
    sequence = replace(with_steps(wren.sequence, step), case=replace(wren.sequence.case, kit=(mine, near)))
    here = judged(sequence)
    here.house = seen(sequence.case.intent.viewing, house)
    found = colour._nearer(here, [step], mine)
    assert (found is not None) == same


def test_a_bronzer_too_deep_is_swapped_for_one_near_the_skin_and_not_for_the_next_too_deep(wren):
    target = judged(wren.sequence).appearance.target
    bronzer = next(item for item in wren.products.values() if item.role == "bronzer" and not item.dry)
    most = HOUSE.bronzer_most_steps * HOUSE.shade_step_l
    depths = {"deep": most + 12, "less-deep": most + 9, "near": most - 2}
    items = [
        replace(bronzer, id=name, name=name, lab=(float(target[0]) - depth, *bronzer.lab[1:]))
        for name, depth in depths.items()
    ]
    kit = (*(item for item in wren.sequence.case.kit if item.role != "bronzer"), *items)
    step = one_portion("warm", "bronze", both("cheek_apple"), "deep", 4.0, tool="fluffy_brush", motion="stipple")
    sequence = replace(with_steps(wren.sequence, step), case=replace(wren.sequence.case, kit=kit))
    [found] = colour.bronzer_near_the_skin(judged(sequence))
    assert found.fix.edits == (SetProduct("warm", "near"),)


def test_only_foundation_counts_as_what_goes_over(wren):
    shade = one_portion("shade", "shade", ("jaw_l", "chin"), "x", 5.0)
    over = one_portion("over", "foundation", ("chin",), "y", 5.0)
    elsewhere = one_portion("elsewhere", "foundation", ("forehead_centre",), "y", 5.0)
    blush = one_portion("blush", "colour", ("chin",), "z", 3.0)
    without = one_portion("empty", "foundation", ("chin",), None)
    here = judged(with_steps(wren.sequence, shade, over, elsewhere, blush, without))
    assert [step.id for step in colour._above(here, [shade])] == ["over"]


def test_a_corrector_that_lays_nothing_tints_nothing(wren):
    """Its hue may be that of the bare skin: what is not laid is not to blame."""
    target = judged(wren.sequence).appearance.target
    item = next(item for item in wren.products.values() if item.role == "corrector")
    zone = "under_eye_l"
    step = one_portion("none", "correct", (zone,), "own", 0.0, tool="dense_small_brush", motion="press")
    lab = judged(with_steps(wren.sequence, step)).appearance.last_lab(zone)
    own = replace(
        item, id="own", lab=(50.0, *(float(2 * seen - aim) for seen, aim in zip(lab[1:], target[1:], strict=True)))
    )
    case = replace(wren.sequence.case, kit=(*wren.sequence.case.kit, own))
    bare = judged(replace(with_steps(wren.sequence, step), case=case))
    assert correcting._cast(bare, own, bare.appearance.last_lab(zone)) > HOUSE.corrector_cast
    assert list(correcting.corrector_hidden(bare)) == []
    laid = replace(step, portions=(Portion((zone,), 4.0, "dense_small_brush", "press", 10.0),))
    there = judged(replace(with_steps(wren.sequence, laid), case=case))
    assert [found.steps for found in correcting.corrector_hidden(there)] == [("none",)]


def test_looking_at_a_sore_eye_is_no_work_by_it(people):
    case = skin(people["Wren"], eyelid_l={"active_blemish": 2})
    sequence = replace(plan_in("underpainted", people["Wren"], HOUSE), case=case)
    look = one_portion("look", "light_check", ("eyelid_l", "chin"))
    touch = one_portion("touch", "soften_edges", ("eyelid_l", "chin"), tool="damp_sponge", motion="press")
    found = list(hygiene.no_work_by_inflamed_eyes(judged(with_steps(sequence, look, touch))))
    assert [each.steps for each in found] == [("touch",)]


def test_nothing_is_pressed_flat_where_nothing_is_wet(people):
    case = people["Wren"]
    here = seen(case.intent.viewing, HOUSE)
    reading = read(case, here)
    draft = Draft(case=case, reading=reading, shelf=shelf_for(case, reading), house=here)
    assert draft.setting_powder_for(("chin",)) is not None
    assert finish_stages._creases_to_press(draft) == ()


def test_the_sitter_looks_up_only_for_light_at_the_eyes(people):
    sore = {zone: {"active_blemish": 2} for zone in EYE_ZONES}
    seen_at = {True: 0, False: 0}
    for case in (*people.values(), *(skin(case, **sore) for case in people.values())):
        for step in plan_in("overpainted", case, HOUSE).steps:
            if step.kind == "light" and step.item:
                eyes = bool(set(step.zones) & set(EYE_ZONES))
                seen_at[eyes] += 1
                assert ("look_up" in step.cue) == eyes, step.zones
    assert all(seen_at.values()), seen_at
