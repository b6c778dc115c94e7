"""The planner: what must hold for every face, and what the trade expects of particular ones."""

from __future__ import annotations

from dataclasses import replace
from itertools import combinations

import pytest
from hypothesis import given, settings

from nabrel.core.ask.recommend import plan
from nabrel.core.base.possible import apply_edits
from nabrel.core.case.case import Case
from nabrel.core.case.intent import Intent
from nabrel.core.case.sitter import Colour, Sitter, ZoneSkin
from nabrel.core.face.reading import read
from nabrel.core.house import House
from nabrel.core.house.viewing import seen
from nabrel.core.judge.evaluate import evaluate, products_of
from nabrel.core.plan.edits import Remove
from nabrel.core.planner.draft import Draft
from nabrel.core.planner.finish_stages import creasing, setting_zones
from nabrel.core.shelf.shelf import shelf_for
from nabrel.core.terms.hands import MOTION_INFO
from nabrel.core.terms.steps import LAYER_KINDS
from nabrel.core.terms.zones import ZONE_INDEX, ZONES, both
from tests.conftest import in_school
from tests.core.cases import cases
from tests.making import course

HOUSE = House()


def kinds(sequence):
    return [step.kind for step in sequence.steps]


@settings(max_examples=60, deadline=None)
@given(cases)
def test_every_plan_is_sound(case):
    """Laws of every plan: known products, sane amounts, no broken skin, gentle hands, wet before dry."""
    sequence = plan(case, HOUSE)
    reading = read(case, HOUSE)
    products = products_of(sequence, reading)
    worked = course(sequence)
    assert len({step.id for step in sequence.steps}) == len(sequence.steps)
    for index, step in enumerate(sequence.steps):
        assert step.why, f"{step.kind} has no reason"
        assert step.item is None or step.item in products
        assert step.film_um is None or 0 < step.film_um <= 12
        assert step.powder_mg is None or 0 < step.powder_mg <= HOUSE.bake_mg
        assert not (step.film_um is not None and step.powder_mg is not None)
        for _, motion, zones in step.hands if step.lays else ():
            for zone in zones:
                assert motion is None or MOTION_INFO[motion].shear <= reading.zones[zone].shear_limit
        for zone in step.zones:
            assert not reading.zones[zone].broken
            if step.film_um and step.kind != "prime":
                assert worked.states[index][zone].powder_mg == 0


@settings(max_examples=25, deadline=None)
@given(cases)
def test_the_same_case_always_gives_the_same_plan(case):
    assert plan(case, HOUSE) == plan(case, HOUSE)


@settings(max_examples=25, deadline=None)
@given(cases)
def test_a_plan_never_earns_a_stop(case):
    evaluation = evaluate(plan(case, HOUSE), HOUSE)
    assert not [finding for finding in evaluation.findings if finding.severity == "stop"]


@settings(max_examples=25, deadline=None)
@given(cases)
def test_nothing_avoided_is_used(case):
    case = replace(case, sitter=replace(case.sitter, avoid=("Fragrance",)))
    sequence = plan(case, HOUSE)
    products = products_of(sequence, read(case, HOUSE))
    assert all("fragrance" not in products[s.item].contains for s in sequence.steps if s.item)


def test_underpainted_sculpts_beneath_and_overpainted_above(people):
    under = kinds(plan(in_school(people["Tamsin"], "underpainted"), HOUSE))
    above = kinds(plan(in_school(people["Tamsin"], "overpainted"), HOUSE))
    assert under.index("shade") < under.index("foundation")
    assert above.index("shade") > above.index("foundation")
    assert under.index("light") < under.index("foundation") < above.index("light")


@pytest.mark.parametrize("school", ["underpainted", "overpainted"])
def test_light_or_shade_comes_first_as_wished(people, school):
    light = kinds(plan(in_school(people["Tamsin"], school, order="light_first"), HOUSE))
    shade = kinds(plan(in_school(people["Tamsin"], school, order="shade_first"), HOUSE))
    assert light.index("light") < light.index("shade")
    assert shade.index("shade") < shade.index("light")


def person(preset: str, **wishes: object) -> Case:
    sitter = Sitter("Someone", Colour((62.0, 11.0, 17.0)), preset=preset)
    return Case(sitter, Intent(school="underpainted", **wishes))


def test_four_skins_give_clearly_different_sequences(people):
    box = people["Wren"].kit
    sequences = {
        preset: plan(replace(person(preset), kit=box), HOUSE) for preset in ("mature", "textured", "acne_prone", "oily")
    }
    signatures = {
        preset: tuple((s.kind, s.item, s.portions) for s in sequence.steps) for preset, sequence in sequences.items()
    }
    assert len(set(signatures.values())) == 4
    for (one, first), (other, second) in combinations(signatures.items(), 2):
        assert len(set(first) ^ set(second)) >= 6, (one, other)


def test_lined_skin_gets_less_film_fed_first_and_only_pressed(people):
    sequence = plan(people["Wren"], HOUSE)
    base = next(s for s in sequence.steps if s.kind == "foundation")
    amounts = {zone: portion.amount for portion in base.portions for zone in portion.zones}
    assert amounts["under_eye_l"] < amounts["cheek_apple_l"]
    assert "eye_care" in kinds(sequence)
    hands = [p.motion for s in sequence.steps for p in s.portions if "under_eye_l" in p.zones and p.motion]
    assert hands
    assert all(MOTION_INFO[motion].shear <= 0.5 for motion in hands)


def test_reasons_cite_this_sitter(people):
    sequence = plan(people["Wren"], HOUSE)
    eye_care = next(s for s in sequence.steps if s.kind == "eye_care")
    assert "Creping 2 and fine lines 2 under both eyes" in eye_care.why[0]


def test_oily_skin_gets_gel_a_matt_primer_and_powder_where_it_shines(people):
    sequence = plan(people["Bram"], HOUSE)
    products = {s.kind: s.item for s in sequence.steps}
    assert products["moisturise"] == "moi-gel"
    assert products["prime"] == "pri-matte"
    powdered = {z for s in sequence.steps if s.kind in ("set", "bake") for z in s.zones}
    assert {"forehead_centre", "nose_tip", "chin"} <= powdered
    assert kinds(sequence).index("dust_off") > kinds(sequence).index("bake")


def test_no_bake_under_lined_eyes_but_it_says_what_others_do(people):
    wren = in_school(people["Wren"], "overpainted", setting="bake_wide")
    sequence = plan(wren, HOUSE)
    baked = {z for s in sequence.steps if s.kind == "bake" for z in s.zones}
    assert baked
    assert not baked & set(both("under_eye"))
    left = next(b for b in sequence.left_bare if b.zone == "under_eye_l" and b.kind == "bake")
    assert "crease" in left.why


def test_no_glow_or_colour_on_texture_and_blemishes(people):
    sequence = plan(people["Isolde"], HOUSE)
    assert not any(s.kind == "colour" for s in sequence.steps)
    assert any(b.kind == "colour" and "blemish" in b.why for b in sequence.left_bare)
    textured = plan(people["Tamsin"], HOUSE)
    glow = {z for s in textured.steps if s.kind == "glow" for z in s.zones}
    assert not glow & set(both("cheekbone"))


def test_a_low_forehead_gets_no_shade(people):
    sequence = plan(people["Posy"], HOUSE)
    shaded = {z for s in sequence.steps if s.kind == "shade" for z in s.zones}
    assert not shaded & {"temple_l", "temple_r", "hairline"}
    assert any(b.zone == "temple_l" and "finger-widths" in b.why for b in sequence.left_bare)


def test_a_softening_jaw_is_not_shaded(people):
    assert any(b.zone == "jaw_l" and "jowl" in b.why for b in plan(people["Wren"], HOUSE).left_bare)


def test_broken_skin_is_left_alone_and_said_so(people):
    wren = people["Wren"]
    zones = {**wren.sitter.zones, "chin": ZoneSkin({"broken_skin": 1})}
    sequence = plan(replace(wren, sitter=replace(wren.sitter, zones=zones)), HOUSE)
    assert all("chin" not in s.zones for s in sequence.steps)
    assert any(b.zone == "chin" and "broken" in b.why for b in sequence.left_bare)
    assert any("clinician" in note for note in sequence.notes)


def test_no_kit_means_a_generic_kit_said_plainly():
    sequence = plan(person("normal"), HOUSE)
    assert any("generic kit" in note for note in sequence.notes)
    assert all(s.item is None or s.item.startswith("generic-") for s in sequence.steps)


def test_an_empty_role_says_what_to_buy(people):
    wren = people["Wren"]
    sequence = plan(replace(wren, kit=tuple(i for i in wren.kit if i.role in ("cleanser", "foundation"))), HOUSE)
    assert any("look for" in note and "corrector" in note for note in sequence.notes)
    assert any("setting powder" in note for note in sequence.notes)


def test_a_deep_foundation_may_serve_as_shade(people):
    tamsin = people["Tamsin"]
    sequence = plan(replace(tamsin, kit=tuple(i for i in tamsin.kit if i.role != "shade")), HOUSE)
    shade = next(s for s in sequence.steps if s.kind == "shade")
    assert tamsin.product(shade.item).role in ("foundation", "concealer")
    assert any("serves as shade" in sentence for sentence in shade.why)


def test_an_educator_may_insist_and_is_told_the_cost(people):
    merrick = in_school(people["Merrick"], "underpainted")
    sequence = plan(merrick, HOUSE)
    assert sequence.school == "underpainted"
    assert any("hides much" in note for note in sequence.notes)


def test_with_no_school_one_is_recommended_with_its_reason(people):
    assert plan(people["Halcyon"], HOUSE).school == "underpainted"
    assert plan(people["Merrick"], HOUSE).school == "overpainted"
    assert plan(in_school(people["Bram"], None), HOUSE).school == "powder_sculpted"
    assert "No school was asked for. Underpainted suits best" in plan(people["Halcyon"], HOUSE).notes[0]


def test_features_asked_for_are_in_and_others_not(people):
    wren = kinds(plan(people["Wren"], HOUSE))
    assert "brows" in wren
    assert "lips" in wren
    assert "lashes" not in wren


def test_eyes_are_done_while_a_bake_sits_and_brows_before_the_colour(people):
    bram = kinds(plan(in_school(people["Bram"], None, features=("brows", "eyes")), HOUSE))
    assert bram.index("bake") < bram.index("eyes") < bram.index("dust_off")
    assert bram.index("brows") < bram.index("colour") if "colour" in bram else True


@settings(max_examples=20, deadline=None)
@given(cases)
def test_what_is_left_out_says_why(case):
    for bare in plan(case, HOUSE).left_bare:
        assert len(bare.why) > 10
        assert bare.kind in LAYER_KINDS | {"set", "bake"}


def test_a_waxy_corrector_is_kept_thin_under_a_water_based_foundation(people):
    """The smallest kit there is: one foundation and one corrector whose bases quarrel."""
    wren = people["Wren"]
    water = next(item for item in wren.kit if item.id == "water-veil-2")
    apricot = next(item for item in wren.kit if item.id == "cor-apricot")
    sequence = plan(replace(in_school(wren, "underpainted"), kit=(water, apricot)), HOUSE)
    films = [step.film_um for step in sequence.steps if step.kind == "correct"]
    assert all(film < HOUSE.thin_underlayer_um for film in films)
    assert not [f for f in evaluate(sequence, HOUSE).findings if f.rule == "bases-agree" and f.severity != "advice"]


def test_plain_steps_cite_this_sitter_too(people):
    bram = {step.kind: " ".join(step.why) for step in plan(people["Bram"], HOUSE).steps}
    assert bram["cleanse"].startswith("Oil 3 all over the face")
    assert "off the complexion" in bram["foundation"]
    assert "undertone on tan skin" in bram["colour"]
    assert "Face and neck are near" in bram["light_check"]


def test_every_reason_is_a_sentence(people):
    for name in people:
        for step in plan(people[name], HOUSE).steps:
            assert all(why[0].isupper() or not why[0].isalpha() for why in step.why)
            assert all(why.rstrip().endswith((".", ":")) for why in step.why)


@settings(max_examples=40, deadline=None)
@given(cases)
def test_concealer_is_only_laid_where_it_helps(case):
    """Without the step some zone that it covers whole ends further off, by nearly what the house asks of it."""
    planned = evaluate(plan(case, HOUSE), HOUSE, try_fixes=False)
    for step in planned.sequence.steps:
        whole = [zone for portion in step.portions for zone in portion.zones if portion.patch == 1.0]
        if step.kind not in ("conceal", "spot_conceal") or not whole:
            continue
        without = apply_edits(planned.sequence, (Remove(step.id),), planned.products)
        bare = evaluate(without, HOUSE, try_fixes=False)
        columns = [ZONE_INDEX[zone] for zone in whole]
        gain = bare.appearance.de[-1, columns] - planned.appearance.de[-1, columns]
        assert max(gain) >= 0.5 * HOUSE.conceal_helps_de, step.why


def test_what_is_worked_out_once_a_state_is_what_it_would_be_by_now(people):
    """Asked before and after every step of a plan: memory of an earlier state would show as a difference."""
    changes = 0
    for case in people.values():
        reading, house = read(case, seen(case.intent.viewing, HOUSE)), seen(case.intent.viewing, HOUSE)
        draft = Draft(case, reading, shelf_for(case, reading), house)
        was = creasing(draft), setting_zones(draft)
        for state in course(plan(case, HOUSE)).states:
            draft.base = state
            now = creasing(draft), setting_zones(draft)
            assert now == (creasing.__wrapped__(draft), setting_zones.__wrapped__(draft))
            changes += now != was
            was = now
    assert changes > len(people)


def test_severities_are_summed_over_zones(people):
    reading = read(people["Wren"], HOUSE)
    summed = reading.severities(ZONES)
    assert set(summed) == {condition for here in reading.zones.values() for condition in here.conditions}
    for condition, severity in summed.items():
        assert severity == sum(here.severity(condition) for here in reading.zones.values()) > 0
    assert reading.severities([]) == {}
