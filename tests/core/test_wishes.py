"""What is asked of a face: effects by region, colour, glow points, foundation where needed, what is done, what is wanted anyway."""

from __future__ import annotations

from dataclasses import replace

import pytest

from nabrel.core.ask.recommend import plan
from nabrel.core.face.effects import EFFECT_CHANGES
from nabrel.core.face.reading import read
from nabrel.core.house import House
from nabrel.core.judge.evaluate import evaluate
from nabrel.core.planner.planner import SCHOOLS, plan_in
from nabrel.core.terms.places import places
from nabrel.core.terms.wishes import COLOUR_EFFECT_INFO, DONE_BEFORE, EFFECTS, GLOW_POINT_INFO
from nabrel.core.terms.zones import both
from tests.conftest import in_school

HOUSE = House()


def wished(case, **wish):
    return replace(case, intent=replace(case.intent, **wish))


def planned(case, school="overpainted", **wish):
    return plan_in(school, wished(case, **wish), HOUSE)


def zones_of(sequence, kind):
    return {zone for step in sequence.steps if step.kind == kind for zone in step.zones}


def test_every_effect_of_every_region_has_something_done_for_it():
    asked = {(region, effect) for region, possible in EFFECTS.items() for effect in possible}
    assert set(EFFECT_CHANGES) == asked
    assert all(changes for changes in EFFECT_CHANGES.values())


@pytest.mark.parametrize(("region", "effect"), sorted(EFFECT_CHANGES))
def test_an_effect_is_laid_with_its_reason_or_said_why_not(people, region, effect):
    met = 0
    for case in people.values():
        plan = planned(case, effects={region: (effect,)})
        for change in EFFECT_CHANGES[region, effect]:
            said = " ".join(why for step in plan.steps for why in step.why)
            left = {(each.zone, each.kind) for each in plan.left_bare}
            for zone in change.zones:
                laid = zone in zones_of(plan, change.layer)
                met += 1
                if change.off:
                    assert not laid, (case.sitter.nickname, zone)
                elif laid:
                    assert change.why in said, (case.sitter.nickname, zone)
                else:
                    assert (zone, change.layer) in left, (case.sitter.nickname, zone, change.layer)
    assert met >= len(people)


def test_nothing_is_shaded_on_a_nose_lip_or_chin_that_nobody_asked_for(people):
    seen = 0
    for case in people.values():
        if case.sitter.measures.nose_leans is not None:
            continue
        for school in SCHOOLS:
            shaded = zones_of(plan_in(school, case, HOUSE), "shade")
            seen += bool(shaded)
            assert not shaded & {"nose_tip", *both("nose_side"), "below_lip", "chin"}
    assert seen > 10


def test_the_nose_gets_a_lighter_shade_than_the_cheek(people):
    plan = planned(people["Tamsin"], effects={"nose": ("narrower",)})
    shade = next(step for step in plan.steps if step.kind == "shade")
    assert shade.amounts["nose_side_l"] < shade.amounts["cheek_hollow_l"]


@pytest.mark.parametrize(
    ("effect", "zones"),
    [("full", both("cheek_apple")), ("slim", both("cheekbone")), ("lift", (*both("cheek_apple"), *both("cheekbone")))],
)
def test_colour_goes_where_its_effect_wants_it_and_says_so(people, effect, zones):
    plan = planned(people["Wren"], colour_effect=effect)
    colour = next(step for step in plan.steps if step.kind == "colour")
    assert set(colour.zones) == set(zones)
    assert COLOUR_EFFECT_INFO[effect].why in colour.why


@pytest.mark.parametrize("point", list(GLOW_POINT_INFO))
def test_glow_lies_on_the_points_asked_for_in_their_size_or_is_left_off_with_a_reason(people, point):
    info, laid = GLOW_POINT_INFO[point], 0
    for case in people.values():
        plan = planned(case, glow_points=(point,), finish="satin")
        assert zones_of(plan, "glow") <= set(info.zones)
        for step in (each for each in plan.steps if each.kind == "glow"):
            laid += 1
            assert {portion.patch for portion in step.portions} == {info.patch}
        left = {each.zone for each in plan.left_bare if each.kind == "glow"}
        assert zones_of(plan, "glow") | left >= set(info.zones), case.sitter.nickname
    assert laid


def test_what_is_done_already_is_not_planned_and_is_said(people):
    for kind in DONE_BEFORE:
        plan = planned(people["Wren"], already_done=(kind,))
        usual = planned(people["Wren"])
        assert kind not in {step.kind for step in plan.steps}
        if kind in {step.kind for step in usual.steps}:
            assert any("done already" in note for note in plan.notes), kind


def test_a_zone_is_corrected_anyway_where_somebody_insists(people):
    usual = planned(people["Isolde"], "underpainted")
    assert "upper_lip" not in zones_of(usual, "correct")
    plan = planned(people["Isolde"], "underpainted", correct_anyway=("upper_lip",))
    step = next(each for each in plan.steps if each.kind == "correct" and "upper_lip" in each.zones)
    assert any(f"Asked for {places(['upper_lip'])}" in why for why in step.why)


def test_zones_asked_for_are_baked_and_lined_ones_are_pressed_with_the_reason(people):
    assert zones_of(planned(people["Dunstan"], bake_zones=both("under_eye")), "bake") == set(both("under_eye"))
    lined = planned(people["Wren"], bake_zones=both("under_eye"))
    assert zones_of(lined, "bake") == set()
    assert set(both("under_eye")) <= {each.zone for each in lined.left_bare if each.kind == "bake"}


def test_foundation_only_where_it_is_needed_leaves_even_zones_bare_with_the_reason(people):
    plan = planned(people["Tamsin"], foundation_on="where_needed")
    bare = {each.zone: each.why for each in plan.left_bare if each.kind == "foundation"}
    assert bare
    assert not set(bare) & zones_of(plan, "foundation")
    reading = read(plan.case, HOUSE)
    assert all(not reading.zones[zone].discolorations for zone in bare)
    assert zones_of(plan, "foundation") & {zone for zone, here in reading.zones.items() if here.discolorations}


def test_foundation_in_the_gaps_where_nothing_is_painted_beneath_is_said_to_have_no_place(people):
    told = [any("in the gaps" in note for note in planned(people["Tamsin"], school, foundation_on="gaps").notes)
            for school in ("overpainted", "underpainted")]  # fmt: skip
    assert told == [True, False]


def test_zones_are_baked_as_asked_even_where_no_powder_was_asked_for(people):
    baked = planned(people["Dunstan"], bake_zones=both("under_eye"), setting="none")
    assert zones_of(baked, "bake") == set(both("under_eye"))
    lined = planned(people["Wren"], bake_zones=both("under_eye"), setting="none")
    assert set(both("under_eye")) <= {each.zone for each in lined.left_bare if each.kind == "bake"}


def test_foundation_everywhere_is_as_thick_over_the_sculpting_as_beside_it(people):
    def films(plan):
        return {p.amount for s in plan.steps if s.kind == "foundation" for p in s.portions if not p.left_over}

    gaps, everywhere = (planned(people["Tamsin"], "underpainted", foundation_on=on) for on in ("gaps", "all"))
    assert len(films(gaps)) > len(films(everywhere)) == 1


@pytest.mark.parametrize(
    ("thing", "zone", "kind"),
    [("fringe", "forehead_centre", "light"), ("beard", "chin", "foundation"), ("glasses", "nose_bridge", "light"),
     ("mask", "upper_lip", "light")],
)  # fmt: skip
def test_what_covers_a_face_gets_less_or_nothing_and_it_is_said(people, thing, zone, kind):
    case = people["Halcyon"]
    plan = planned(replace(case, sitter=replace(case.sitter, covered=(thing,))))
    assert zone not in zones_of(plan, kind)
    assert any(each.zone == zone and thing in each.why.lower() for each in plan.left_bare), thing


def test_redness_that_was_corrected_does_not_forbid_colour_and_redness_that_shows_does(people):
    red = {zone: replace(people["Posy"].sitter.zones.get(zone) or people["Posy"].sitter.zones["nose_side_l"],
                         conditions={"redness": 3}, lab=None) for zone in both("cheek_apple")}  # fmt: skip
    case = people["Posy"]
    case = replace(case, sitter=replace(case.sitter, zones={**case.sitter.zones, **red}))
    bare = replace(case, kit=tuple(i for i in case.kit if i.role not in ("corrector", "concealer")))
    covered = planned(case, "overpainted", cover="full")
    showing = planned(bare, "overpainted", cover="sheer")
    assert set(both("cheek_apple")) <= zones_of(covered, "colour")
    assert not set(both("cheek_apple")) & zones_of(showing, "colour")
    assert any("still shows" in each.why for each in showing.left_bare if each.kind == "colour")


def test_wishes_break_no_rule(people):
    everything = {"effects": {region: possible[:1] for region, possible in EFFECTS.items()},
                  "glow_points": tuple(GLOW_POINT_INFO), "colour_effect": "lift"}  # fmt: skip
    for case in people.values():
        for school in SCHOOLS:
            found = evaluate(planned(case, school, **everything), HOUSE, try_fixes=False).findings
            graver = [each.says for each in found if each.severity != "advice"]
            assert not graver, (case.sitter.nickname, school, graver)


@pytest.mark.parametrize("school", SCHOOLS)
def test_an_effect_or_a_place_of_glow_that_is_not_laid_is_named_with_the_reason(people, school):
    case = in_school(people["Bram"], school)
    wish = {
        "effects": {"forehead": ("lower",), "jaw": ("slimmer",), "lips": ("fuller",)},
        "glow_points": ("bridge", "chin"), "finish": "dewy",
    }  # fmt: skip
    covered = replace(case.sitter, covered=("fringe", "beard"))
    for sitter in (case.sitter, covered):
        found = plan(replace(case, sitter=sitter, intent=replace(case.intent, **wish)), HOUSE)
        laid = {(step.kind, zone) for step in found.steps for zone in step.zones}
        said = " ".join(note for note in found.notes if note.startswith("Asked for, and left out"))
        for name, kind, zones in (
            ("the shade of “forehead lower”", "shade", ("hairline",)), ("the shade of “jaw slimmer”", "shade", both("jaw")),
            ("the shade of “lips fuller”", "shade", ("below_lip",)), ("the light of “lips fuller”", "light", ("upper_lip",)),
            ("glow, nose bridge", "glow", ("nose_bridge",)), ("glow, chin", "glow", ("chin",)),
        ):  # fmt: skip
            assert (name in said) != any((kind, zone) in laid for zone in zones), (name, said)
        assert ("a fringe covers it" in said) == (sitter is covered and any(kind == "shade" for kind, _ in laid))
