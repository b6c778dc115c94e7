"""The kit (bases, doses, what is avoided), placement from measures, and the setting policies."""

from __future__ import annotations

from dataclasses import replace

import pytest

from nabrel.core.ask.recommend import plan
from nabrel.core.case.case import Case
from nabrel.core.case.intent import Intent
from nabrel.core.case.product import Product
from nabrel.core.case.sitter import Colour, Measures, Sitter, ZoneSkin
from nabrel.core.face.reading import read
from nabrel.core.house import PARAMETERS, House
from nabrel.core.house.tables import TABLES
from nabrel.core.shelf.allergens import avoided
from nabrel.core.shelf.bases import beads, why_beads
from nabrel.core.shelf.doses import film_ml, film_words, passed_on, powder_g, powder_words, take
from nabrel.core.shelf.generic import generic_kit
from nabrel.core.shelf.shelf import shelf_for
from nabrel.core.terms.hands import TOOLS
from nabrel.core.terms.looks import SETTING_POLICIES
from nabrel.core.terms.products import BASES
from nabrel.core.terms.zones import T_ZONE, ZONES, area_of, both
from nabrel.demo.kit import kit

HOUSE = House()
BOX = kit()


def sitter(*, measures: Measures | None = None, preset: str = "normal", **zones: dict[str, int]) -> Sitter:
    return Sitter(
        "Someone",
        Colour((62.0, 11.0, 17.0)),
        neck=Colour((63.0, 10.0, 17.0)),
        preset=preset,
        zones={zone: ZoneSkin(conditions) for zone, conditions in zones.items()},
        measures=measures or Measures(),
    )


def placed(person: Sitter, kind: str):
    return read(Case(person), HOUSE).placement.of(kind)


# Bases


@pytest.mark.parametrize("lower", BASES)
@pytest.mark.parametrize("upper", BASES)
def test_only_water_beads_and_only_on_what_repels_it(lower, upper):
    expected = upper == "water" and lower in ("silicone", "oil", "anhydrous")
    assert beads(lower, upper) is expected


def test_like_over_like_never_beads_and_the_reason_names_both():
    assert not any(beads(base, base) for base in BASES)
    said = why_beads("anhydrous", "water")
    assert "water-based" in said
    assert "waxy" in said


# Doses


@pytest.mark.parametrize("tool", [*TOOLS, None])
def test_every_tool_passes_on_part_of_what_it_takes(tool):
    assert 0 < passed_on(tool, HOUSE) <= 1


def test_a_sponge_needs_more_product_than_fingers():
    laid = film_ml(100, 6.0)
    assert laid == pytest.approx(100 * 6e-4)
    sponge, fingers = (take(laid / passed_on(tool, HOUSE), "ml", None) for tool in ("damp_sponge", "fingers"))
    assert sponge.amount > fingers.amount
    assert fingers.amount == pytest.approx(laid / HOUSE.pass_fingers, rel=0.05)


def test_twice_the_area_takes_twice_the_powder():
    one, two = (take(powder_g(area, 0.2), "g", None).amount for area in (50.0, 100.0))
    assert one == pytest.approx(0.01)
    assert two == pytest.approx(2 * one, rel=0.05)


def test_words_grow_with_the_amount():
    words = [film_words(ml, None) for ml in (0.001, 0.005, 0.01, 0.03, 0.05, 0.1, 0.15, 0.3, 0.6, 1.2, 2.0)]
    assert len(set(words)) == len(words)
    assert words[-1] == "2.0 ml, measured"
    assert len({powder_words(g) for g in (0.001, 0.01, 0.03, 0.1, 0.5)}) == 5


# Shelf


@pytest.mark.parametrize("entry", ["fragrance", "Fragrance", " fragrance ", "FRAGRANCE"])
def test_avoid_lists_do_not_mind_case_or_spaces(entry):
    scented = next(i for i in BOX if i.id == "mist-scented")
    assert avoided(scented, (entry,)) == (entry,)


def test_hyphens_and_underscores_are_spaces():
    item = Product("a", "moisturiser", "A", "cream", "oil", contains=("shea-butter",))
    assert avoided(item, ("shea butter",)) == ("shea butter",)
    assert avoided(item, ("shea",)) == ()


def test_the_shelf_leaves_out_what_is_avoided():
    person = replace(sitter(), avoid=("fragrance",))
    case = Case(person, Intent(), BOX)
    shelf = shelf_for(case, read(case, HOUSE))
    assert "mist-scented" not in [item.id for item in shelf.items]
    assert not shelf.generic


@pytest.mark.parametrize("skin", [(77.0, 7.0, 12.0), (55.0, 13.0, 20.0), (30.0, 11.0, 11.0), (93.0, 1.0, 3.0)])
def test_the_generic_kit_fits_any_depth(skin):
    items = generic_kit(skin)
    assert len({item.id for item in items}) == len(items)
    by_role = {item.role: item for item in items if item.tinted}
    assert by_role["shade"].lab[0] < skin[0]
    assert by_role["concealer"].lab == skin
    assert all(3 <= item.lab[0] <= 97 for item in items if item.lab)


# Placement


@pytest.mark.parametrize(
    ("fingers", "shaded"),
    [(1.5, set()), (2.0, set()), (3.0, {"temple_l", "temple_r"}), (4.0, {"temple_l", "temple_r", "hairline"})],
)
def test_the_forehead_is_shaded_by_its_height_in_fingers(fingers, shaded):
    zones = set(placed(sitter(measures=Measures(forehead_fingers=fingers)), "shade").zones)
    assert zones & {"temple_l", "temple_r", "hairline"} == shaded


def test_a_long_face_is_shaded_at_hairline_and_chin_and_not_at_the_sides():
    found = placed(sitter(measures=Measures(210.0, 138.0, 110.0, forehead_fingers=3)), "shade")
    assert {"hairline", "under_jaw"} <= set(found.zones)
    assert not set(found.zones) & {*both("cheek_hollow"), *both("temple")}
    assert any("long face" in left.why for left in found.left_off)


def test_hollow_cheeks_get_no_shade_and_a_full_chin_gets_it_beneath():
    hollow = placed(sitter(cheek_hollow_l={"hollow": 2}, under_jaw={"full_under_chin": 2}), "shade")
    assert "cheek_hollow_l" not in hollow.zones
    assert "cheek_hollow_r" in hollow.zones
    assert "under_jaw" in hollow.zones


@pytest.mark.parametrize(
    ("zone", "condition", "kind"),
    [
        ("under_eye_l", {"puffiness": 2}, "light"),
        ("chin", {"active_blemish": 1}, "light"),
        ("forehead_centre", {"fine_lines": 2}, "light"),
        ("cheekbone_l", {"enlarged_pores": 1}, "glow"),
        ("brow_bone_r", {"fine_lines": 1}, "glow"),
        ("cheek_apple_l", {"active_blemish": 1}, "colour"),
    ],
)
def test_what_a_zone_shows_keeps_sculpting_off_it_with_a_reason(zone, condition, kind):
    found = placed(sitter(**{zone: condition}), kind)
    assert zone not in found.zones
    assert next(left for left in found.left_off if left.zone == zone).why
    assert zone in placed(sitter(), kind).zones


# Setting policies


def powdered(policy: str, preset: str = "normal", **zones: dict[str, int]) -> dict[str, set[str]]:
    case = Case(sitter(preset=preset, **zones), Intent(school="overpainted", setting=policy), BOX)
    steps = plan(case, HOUSE).steps
    return {kind: {z for s in steps if s.kind == kind for z in s.zones} for kind in ("set", "bake", "dust_off")}


@pytest.mark.parametrize("policy", SETTING_POLICIES)
@pytest.mark.parametrize("preset", ["normal", "oily", "mature", "acne_prone"])
def test_every_policy_works_on_every_skin(policy, preset):
    found = powdered(policy, preset)
    assert found["bake"] == found["dust_off"]
    assert not found["set"] & found["bake"]
    if policy == "none":
        assert not found["set"]
        assert not found["bake"]


def test_policies_differ_in_where_they_powder():
    whole, t_zone, spot = (powdered(p)["set"] for p in ("whole_face", "t_zone", "spot"))
    assert set(T_ZONE) <= t_zone < whole
    assert spot < whole
    assert powdered("bake_wide")["bake"] > powdered("bake_points")["bake"]


def test_powder_on_light_follows_the_light():
    lit = powdered("on_light")["set"]
    assert {"under_eye_l", "chin", "nose_bridge"} <= lit
    assert "cheek_hollow_l" not in lit


# House parameters and areas


@pytest.mark.parametrize("name", sorted(PARAMETERS))
def test_every_parameter_has_a_unit_a_reason_a_source_and_lies_in_its_range(name):
    each = PARAMETERS[name]
    assert each.low <= each.default <= each.high
    assert each.unit
    assert each.why.endswith(".")
    assert each.source
    assert getattr(HOUSE.deciding({name: each.high}), name) == each.high


@pytest.mark.parametrize("name", sorted(TABLES))
def test_every_table_has_a_unit_a_reason_a_source_and_values_in_its_range(name):
    table = TABLES[name]
    assert table.unit
    assert table.why.endswith(".")
    assert table.source
    assert table.values
    for value in table.values.values():
        assert all(table.low <= each <= table.high for each in (value if isinstance(value, tuple) else (value,)))


def test_the_face_and_neck_measure_about_450_square_centimetres():
    assert area_of(ZONES) == pytest.approx(450, rel=0.05)
    assert area_of(()) == 0
