"""Two products mixed for hue, a second tool that works a layer in, tools dampened with mist, and lids that are set."""

from __future__ import annotations

from dataclasses import replace

import pytest

from nabrel.core.ask.recommend import plan
from nabrel.core.case.case import Case
from nabrel.core.case.intent import Intent
from nabrel.core.case.product import Product
from nabrel.core.case.sitter import Colour, Sitter, ZoneSkin
from nabrel.core.house import House
from nabrel.core.judge.evaluate import evaluate
from nabrel.core.shelf.doses import passed_on
from nabrel.demo.kit import kit

HOUSE = House()
SKIN = (62.0, 11.0, 17.0)


def colour(item, lab, texture="cream"):
    base = "powder" if texture == "pressed_powder" else "anhydrous"
    return Product(item, "colour", item.title(), texture, base, finish="matte", lab=lab, cover=0.5, g=5)


def planned(*items, zones=None, **wishes):
    intent = Intent(**{"school": "overpainted", "cover": "medium", "finish": "satin", "wear_hours": 6.0, **wishes})
    others = [item for item in kit() if item.role != "colour"]
    sitter = Sitter("Anon", Colour(SKIN), zones=zones or {})
    return plan(Case(sitter, intent, (*others, *items)), HOUSE)


def of(made, kind):
    return [step for step in made.steps if step.kind == kind]


PALE, DEEP = colour("pale", (74, 18, 6)), colour("deep", (38, 24, 14))


@pytest.mark.parametrize("texture", ["cream", "pressed_powder"])
def test_two_colours_are_mixed_where_one_alone_is_too_pale_and_the_other_too_deep(texture):
    pale, deep = colour("pale", PALE.lab, texture), colour("deep", DEEP.lab, texture)
    made = planned(pale, deep)
    (step,) = of(made, "colour")
    assert {part.item for part in step.mix} == {"pale", "deep"}
    assert sum(part.share for part in step.mix) == pytest.approx(1.0)
    (said,) = [note for note in made.notes if note.startswith("The colour is mixed")]
    assert "Pale" in said
    assert "Deep" in said
    assert "too pale" in said or "too deep" in said
    assert not [f for f in evaluate(made, HOUSE, try_fixes=False).findings if f.severity != "advice"]


def test_no_mix_where_one_colour_suits_alone_or_bases_differ():
    near = colour("near", (56, 20, 10))
    assert [part.item for part in of(planned(near, PALE, DEEP), "colour")[0].mix] == ["near"]
    other = replace(DEEP, base="silicone")
    assert len(of(planned(PALE, other), "colour")[0].mix) == 1


def test_a_light_that_a_brush_lays_thick_is_pressed_with_a_damp_sponge_and_a_thin_one_is_not():
    thick = of(planned(finish="satin"), "light")
    made = [step for step in thick if step.then is not None]
    for step in thick:
        brushed = [p for p in step.portions if p.tool == "dense_small_brush"]
        high = [p for p in brushed if (p.amount or 0) >= HOUSE.pressed_in_from_um]
        assert (step.then is not None) == bool(high)
        if step.then is not None:
            assert (step.then.tool, step.then.motion) == ("damp_sponge", "press")
            assert set(step.worked_in) == {zone for p in high for zone in p.zones}
    assert made or not thick
    unpressed = replace(HOUSE, pressed_in_from_um=9.5)
    case = planned().case
    assert all(step.then is None for step in of(plan(case, unpressed), "light"))


def test_a_base_worn_long_is_laid_with_a_misted_tool_and_says_so():
    long, short = of(planned(wear_hours=12.0), "foundation"), of(planned(wear_hours=6.0), "foundation")
    assert any(p.tool_dampened for step in long for p in step.portions)
    assert all(p.tool != "fingers" for step in long for p in step.portions if p.tool_dampened)
    assert any("Worn for 12 h" in why for step in long for why in step.why)
    assert not any(p.tool_dampened for step in short for p in step.portions)
    no_mist = tuple(item for item in kit() if item.role != "setting_mist")
    bare = plan(replace(planned(wear_hours=12.0).case, kit=no_mist), HOUSE)
    assert not any(p.tool_dampened for step in of(bare, "foundation") for p in step.portions)


def test_a_misted_brush_leaves_more_of_a_pan_on_the_skin_and_never_more_than_it_took():
    dry, misted = passed_on("fan_brush", HOUSE), passed_on("fan_brush", HOUSE, gripping=True)
    assert misted == pytest.approx(dry * HOUSE.dampened_gain)
    assert passed_on("fingers", HOUSE, gripping=True) == 1.0


def test_lids_are_set_over_their_base_where_they_shine_or_the_day_is_long():
    base = Product("lid", "lid_base", "Lid base", "cream", "silicone", finish="matte", lab=(64, 9, 16), cover=0.4, ml=5)
    oily = {zone: ZoneSkin({"oily": 2}) for zone in ("eyelid_l", "eyelid_r")}

    def lids(**kwargs):
        made = planned(base, features=("eyes",), **kwargs)
        kinds = [step.kind for step in made.steps if {"eyelid_l", "eyelid_r"} == set(step.zones)]
        return kinds, made

    kinds, made = lids(zones=oily)
    assert kinds == ["prime", "set", "eyes"]
    (powder,) = [step for step in of(made, "set") if "eyelid_l" in step.zones]
    assert "oil" in powder.why[0].lower() or "shin" in powder.why[0].lower()
    assert lids(wear_hours=9.0)[0] == ["prime", "set", "eyes"]
    assert lids(wear_hours=4.0)[0] == ["prime", "eyes"]


@pytest.mark.parametrize("school", ["overpainted", "underpainted"])
def test_a_lip_colour_corrects_where_the_kit_has_no_corrector_and_does_not_where_it_has_one(school):
    dark = {zone: ZoneSkin({"dark_circle_blue": 3}) for zone in ("under_eye_l", "under_eye_r")}
    salmon = Product(
        "salmon", "colour", "Salmon", "cream", "silicone", finish="matte", lab=(60, 27, 31), cover=0.5, g=5
    )
    others = tuple(item for item in kit() if item.role not in ("corrector", "colour"))
    intent = Intent(school=school, setting="whole_face")
    case = Case(Sitter("Anon", Colour(SKIN), zones=dark), intent, (*others, salmon))
    (step,) = of(plan(case, HOUSE), "correct")
    assert step.item == "salmon"
    assert "Salmon is sold as colour; it corrects here, since its hue cancels what was read." in step.why
    made_for_it = Product(
        "cor", "corrector", "Apricot", "cream", "silicone", finish="matte", lab=(62, 26, 30), cover=0.5, g=5
    )
    (step,) = of(plan(replace(case, kit=(*case.kit, made_for_it)), HOUSE), "correct")
    assert step.item == "cor"
    dull = replace(salmon, lab=(60, 12, 18))
    assert not of(plan(replace(case, kit=(*others, dull)), HOUSE), "correct")
