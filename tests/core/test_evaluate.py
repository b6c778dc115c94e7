"""Appearance, forecast, totals and comparison of whole plans."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from nabrel.core.ask.compare import compare
from nabrel.core.ask.recommend import plan
from nabrel.core.base.possible import apply_edits
from nabrel.core.base.state import ZoneState
from nabrel.core.face.reading import ZoneReading, read
from nabrel.core.face.shape import shape_of
from nabrel.core.face.skin import depth_class, typology_angle, undertone, zone_colour
from nabrel.core.film.difference import delta_e
from nabrel.core.house import House
from nabrel.core.judge.evaluate import evaluate
from nabrel.core.judge.figures import visible
from nabrel.core.plan.edits import SetAmount, SetProduct
from nabrel.core.shelf.doses import film_words, powder_words
from nabrel.core.terms.places import places
from nabrel.core.terms.zones import ZONE_INDEX, ZONES, both
from nabrel.core.wear.forecast import crease_index, crease_strains, shine_hours
from tests.conftest import in_school

HOUSE = House()


@pytest.fixture(scope="module")
def tamsin(people):
    return evaluate(plan(people["Tamsin"], HOUSE), HOUSE)


def swapped(evaluation, product_id):
    sequence = evaluation.sequence
    edits = [SetProduct(s.id, product_id) for s in sequence.steps if s.kind == "foundation"]
    return evaluate(apply_edits(sequence, edits, evaluation.products), HOUSE)


def test_the_shade_fades_as_the_foundation_gets_fuller(tamsin):
    shown = [visible(swapped(tamsin, key), "shade") for key in ("silk-veil-3", "thin-satin-3", "full-matt-3")]
    assert shown == sorted(shown, reverse=True)
    assert shown[0] > 1.7 * shown[2]


def test_the_plan_comes_near_the_complexion(tamsin):
    plain = [z for z in ("chin", "upper_lip", "nose_side_l") if z not in {b.zone for b in tamsin.sequence.left_bare}]
    for zone in plain or ["nose_side_l"]:
        assert tamsin.appearance.de[-1, ZONE_INDEX[zone]] < 4


def test_bare_skin_is_the_first_stage_and_untouched_zones_never_change(tamsin):
    seen = tamsin.appearance
    assert seen.lab.shape == (len(tamsin.sequence.steps) + 1, len(ZONES), 3)
    lips = ZONE_INDEX["lips"]
    assert seen.hexes[0][lips] == seen.hexes[-1][lips]


def test_read_through_is_whole_where_nothing_lies_over_it(people):
    above = evaluate(plan(in_school(people["Tamsin"], "overpainted"), HOUSE), HOUSE)
    rows = [r for r in above.appearance.read_through if r.kind == "shade" and r.zone in both("temple")]
    assert rows
    assert all(row.share == pytest.approx(1.0, abs=0.02) for row in rows)


def test_another_light_changes_the_look_and_not_the_findings(tamsin):
    lamp = evaluate(tamsin.sequence, HOUSE, "warm_lamp")
    assert lamp.appearance.hexes[-1] != tamsin.appearance.hexes[-1]
    assert lamp.findings == tamsin.findings


def test_more_film_is_more_load_and_past_the_ceiling_a_problem(tamsin):
    step = next(s for s in tamsin.sequence.steps if s.kind == "foundation")
    heavy = evaluate(apply_edits(tamsin.sequence, [SetAmount(step.id, 30.0)], tamsin.products), HOUSE)
    assert heavy.totals.worst_cake > max(1.0, tamsin.totals.worst_cake)
    assert "within-what-it-carries" in [finding.rule for finding in heavy.findings]


def test_a_comparison_tells_school_order_and_figures(tamsin, people):
    above = evaluate(plan(in_school(people["Tamsin"], "overpainted"), HOUSE), HOUSE)
    found = compare(tamsin, above)
    assert "Underpainted becomes Overpainted." in found.says
    assert "Shade goes over the foundation." in found.says
    assert any(figure.name == "Shade that shows" for figure in found.figures) or found.figures
    assert compare(tamsin, tamsin).says == ()
    assert compare(tamsin, tamsin).figures == ()


def test_cost_follows_price_and_content(people):
    evaluation = evaluate(plan(people["Wren"], HOUSE), HOUSE)
    dear = replace(people["Wren"], kit=tuple(replace(i, price=(i.price or 0) * 3) for i in people["Wren"].kit))
    assert evaluate(plan(dear, HOUSE), HOUSE).totals.cost == pytest.approx(3 * evaluation.totals.cost)
    free = replace(people["Wren"], kit=tuple(replace(i, price=None) for i in people["Wren"].kit))
    assert evaluate(plan(free, HOUSE), HOUSE).totals.cost is None


amounts = st.floats(0, 12)


@given(amounts, amounts, st.integers(0, 3), st.integers(0, 3), st.sampled_from(ZONES))
def test_the_crease_index_rises_with_every_driver(film, wet, lines, dry, zone):
    def index(film=film, wet=wet, lines=lines, dry=dry, fed=True, powdered=True):
        here = ZoneReading(zone, {"fine_lines": lines, "dry": dry}, (62, 11, 17), (62, 11, 17), False, 1.0, 2.0, 20.0)
        strains = crease_strains(here, ZoneState(wet_um=wet, care=fed), film, HOUSE)
        return crease_index(zone, strains, powdered=powdered, house=HOUSE)

    base = index()
    assert 0 <= base <= 1
    for more in ({"film": film + 1}, {"wet": wet + 1}, {"lines": lines + 1}, {"dry": dry + 1}):
        assert index(**more) > base
    assert index(powdered=False) > base or base == 0
    assert index(fed=False) > base or dry == 0


@given(st.floats(0.2, 2.5), st.floats(0, 1), st.floats(0, 1))
def test_shine_comes_sooner_with_oil_and_later_with_powder(oil, powder, matte):
    base = shine_hours(oil, powder, matte, HOUSE)
    assert shine_hours(oil * 1.2, powder, matte, HOUSE) <= base
    assert shine_hours(oil, powder + 0.1, matte, HOUSE) >= base
    assert shine_hours(oil, powder, min(1.0, matte + 0.1), HOUSE) >= base


@pytest.mark.parametrize(
    ("lab", "depth"),
    [
        ((77, 7, 12), "very light"),
        ((68, 10, 17), "light"),
        ((62, 11, 17), "intermediate"),
        ((55, 13, 20), "tan"),
        ((47, 14, 19), "brown"),
        ((34, 12, 13), "dark"),
    ],
)
def test_depth_follows_the_typology_angle(lab, depth):
    assert depth_class(lab) == depth


def test_the_typology_angle_is_the_published_one():
    assert typology_angle((62, 11, 17)) == pytest.approx(35.2, abs=0.1)


@pytest.mark.parametrize(
    ("lab", "tone"), [((66, 14, 15), "cool"), ((66, 10, 17), "neutral"), ((62, 9, 20), "warm"), ((57, 6, 20), "olive")]
)
def test_undertone_follows_the_hue(lab, tone):
    assert undertone(lab) == tone


def test_severity_deepens_and_on_deep_skin_a_flush_shows_less_and_darkness_as_much():
    light, deep = (70.0, 9.0, 15.0), (36.0, 12.0, 13.0)
    one, two = (zone_colour(light, {"dark_circle_blue": s}) for s in (1, 2))
    assert two[0] < one[0] < light[0]
    red = [zone_colour(skin, {"redness": 2})[1] - skin[1] for skin in (light, deep)]
    assert 0 < red[1] < 0.7 * red[0]
    dark = [delta_e(np.array(zone_colour(skin, {"dark_circle_brown": 2})), np.array(skin)) for skin in (light, deep)]
    assert float(dark[1]) == pytest.approx(float(dark[0]), rel=0.2), "a severity is graded by eye"


@pytest.mark.parametrize(
    ("length", "width", "jaw", "shape"),
    [(205, 138, 110, "long"), (174, 145, 130, "square"), (168, 145, 112, "round"), (182, 138, 98, "heart"),
     (182, 138, 112, "oval"), (160, 145, 130, "round")],
)  # fmt: skip
def test_shape_follows_from_ratios(people, length, width, jaw, shape):
    measures = replace(
        people["Wren"].sitter.measures, face_length_mm=length, cheekbone_width_mm=width, jaw_width_mm=jaw
    )
    assert shape_of(measures, House()) == shape


def test_shape_is_unknown_without_measures():
    assert shape_of(replace(read_measures(), jaw_width_mm=None), House()) is None


def read_measures():
    from nabrel.core.case.sitter import Measures

    return Measures(182.0, 138.0, 112.0)


def test_presets_are_overridden_zone_by_zone(people):
    wren = people["Wren"]
    reading = read(wren, HOUSE)
    assert reading.zones["under_eye_l"].severity("creping") == 2
    assert reading.zones["under_eye_l"].severity("dark_circle_blue") == 2
    assert reading.zones["under_eye_l"].film_limit_um < reading.zones["nose_tip"].film_limit_um
    assert "creping 2 on both eyelids, under both eyes and on the neck" in reading.cite(ZONES, "creping")


def test_places_join_pairs():
    assert places(("under_eye_l", "under_eye_r", "chin")) == "under both eyes and on the chin"
    assert places(("under_eye_l",)) == "under the left eye"


def test_hands_words():
    assert film_words(0.004, None) == "a pinhead"
    assert film_words(0.02, None) == "a rice grain"
    assert film_words(0.25, 0.25) == "one pump"
    assert film_words(0.31, 0.25) == "1 and a quarter pumps"
    assert film_words(0.02, 0.25) == "a rice grain"
    assert powder_words(0.002) == "the brush tip, tapped off"
