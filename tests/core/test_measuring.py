"""Measures, shapes, strokes and instruments: what is read, how sure it is, and what moves with the hand."""

from __future__ import annotations

from dataclasses import replace
from datetime import date, timedelta

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from nabrel.core.case.case import Case
from nabrel.core.case.sitter import Colour, Measures, Sitter, ZoneSkin
from nabrel.core.errors import Refused
from nabrel.core.face.measuring import (
    PLACES,
    SkinReading,
    check_reading,
    colour_taking,
    courses,
    moisture_band,
    newest,
    oil_band,
)
from nabrel.core.face.proportions import LEAST, MOST, Proportions, proportions_of
from nabrel.core.face.reading import read
from nabrel.core.face.shape import read_shape
from nabrel.core.face.strokes import ANCHORS, strokes, zone_at, zones_under
from nabrel.core.face.tone import beside, tone_says
from nabrel.core.film.difference import delta_e
from nabrel.core.house import House
from nabrel.core.terms.zones import ZONE_INFO, ZONES
from nabrel.devices import colour_reader, probe

HOUSE = House()
SKIN = (62.0, 11.0, 17.0)
CLEAR_OVAL = Measures(face_length_mm=182, cheekbone_width_mm=138, jaw_width_mm=110)
DAY = date(2026, 5, 1)


def sitting(**fields: object) -> Case:
    return Case(Sitter(nickname="Tern", skin=Colour(SKIN), measures=CLEAR_OVAL, **fields))


def test_a_clear_shape_is_sure_and_names_no_other():
    shape = read_shape(CLEAR_OVAL, HOUSE)
    assert (shape.shape, shape.sure, shape.runner_up) == ("oval", 1.0, None)
    assert shape.says == "Oval: 1.32 long for its width, jaw 0.80 of the cheekbones."


def test_a_shape_at_a_border_says_what_else_it_could_be():
    shape = read_shape(replace(CLEAR_OVAL, face_length_mm=199), HOUSE)
    assert (shape.shape, shape.runner_up) == ("oval", "long")
    assert 0.4 < shape.sure < 0.8
    assert "else long" in shape.says


def test_a_better_tape_makes_a_shape_surer():
    near = replace(CLEAR_OVAL, face_length_mm=197)
    fine = HOUSE.deciding({"measure_error_mm": 0.5})
    assert read_shape(near, fine).sure > read_shape(near, HOUSE).sure


@given(
    st.floats(120, 240),
    st.floats(100, 180),
    st.floats(70, 170),
    st.one_of(st.none(), st.floats(80, 170)),
)
def test_every_measured_face_has_a_shape_as_sure_as_its_share(length, width, jaw, forehead):
    shape = read_shape(Measures(length, width, jaw, forehead), HOUSE)
    assert 0 < shape.sure <= 1
    assert (shape.runner_up is None) == (shape.sure == 1)
    assert shape.runner_up != shape.shape


@pytest.mark.parametrize("missing", ["face_length_mm", "cheekbone_width_mm", "jaw_width_mm"])
def test_without_a_needed_measure_there_is_no_shape(missing):
    assert read_shape(replace(CLEAR_OVAL, **{missing: None}), HOUSE) is None


def drawn_as(measures: Measures) -> Proportions:
    return proportions_of(Sitter("Ottoline", Colour((62, 11, 17)), measures=measures))


def test_the_map_is_drawn_usual_until_something_is_measured():
    assert drawn_as(Measures()) == Proportions()


def test_the_map_follows_the_measures_and_stays_a_face():
    long = drawn_as(Measures(face_length_mm=230, cheekbone_width_mm=138, jaw_width_mm=60))
    assert long.length == MOST
    assert long.jaw == LEAST
    assert drawn_as(Measures(nose_leans="left", outer_eye_down=True)).nose_leans == 1


def test_every_anchor_lies_in_its_own_zone():
    for zone, points in ANCHORS.items():
        for point in points:
            assert zone_at(point) == zone


def test_strokes_lie_on_the_zones_they_are_for(people):
    for case in people.values():
        for stroke in strokes(read(case, HOUSE).placement, {}, HOUSE):
            assert stroke.id.split(".")[1] in zones_under(stroke.points)
            assert stroke.why


def test_left_strokes_mirror_right_ones():
    by = {stroke.id: stroke for stroke in strokes(read(sitting(), HOUSE).placement, {}, HOUSE)}
    right, left = by["shade.cheek_hollow_r"].points, by["shade.cheek_hollow_l"].points
    assert np.array([(320 - x, y) for x, y in right]) == pytest.approx(np.array(left))


def test_the_cheek_line_stops_short_of_the_mouth_as_far_as_the_house_says():
    near, far = (HOUSE.deciding({"shade_short_of_mouth_mm": mm}) for mm in (25.0, 40.0))
    ends = [
        next(s for s in strokes(read(sitting(), h).placement, {}, h) if s.id == "shade.cheek_hollow_r").points[-1]
        for h in (near, far)
    ]
    assert ends[0][1] > ends[1][1] + 8


def test_a_stroke_that_was_moved_moves_the_placement_and_says_so():
    moved = read(sitting(moved={"glow.brow_bone_l": (10.0, -28.0)}), HOUSE)
    still = read(sitting(), HOUSE)
    assert moved.suggested == still.placement
    assert "brow_bone_l" in still.placement.glow.zones
    assert "brow_bone_l" not in moved.placement.glow.zones
    assert "Moved by hand" in moved.placement.glow.why[-1]
    assert moved.placement.shade == still.placement.shade


def test_a_small_nudge_keeps_the_zones():
    assert (
        read(sitting(moved={"shade.cheek_hollow_l": (1.0, 1.0)}), HOUSE).placement.shade.zones
        == read(sitting(), HOUSE).placement.shade.zones
    )


@given(st.floats(-60, 60), st.floats(-60, 60))
def test_wherever_a_stroke_is_dragged_it_lies_on_known_zones(right, down):
    case = sitting(moved={"colour.cheek_apple_r": (right, down)})
    reading = read(case, HOUSE)
    assert set(reading.placement.colour.zones) <= set(ZONES)
    assert reading.placement.colour.zones


def test_a_bridge_that_leans_gets_its_shade_on_the_side_that_stands_out():
    case = sitting()
    case = replace(case, sitter=replace(case.sitter, measures=replace(CLEAR_OVAL, nose_leans="left")))
    assert "nose_side_l" in read(case, HOUSE).placement.shade.zones
    assert "nose_side_r" not in read(case, HOUSE).placement.shade.zones


def test_neck_and_chest_are_told_beside_the_face():
    said = tone_says(
        Sitter(nickname="Tern", skin=Colour(SKIN), neck=Colour((65.0, 9.0, 17.0)), chest=Colour((62.2, 11.0, 17.0)))
    )
    assert any("neck is 3.0 L* lighter, 2.0 less red" in line for line in said)
    assert any("chest matches the face" in line for line in said)
    assert "not read" in tone_says(Sitter(nickname="Tern", skin=Colour(SKIN)))[-1]


def test_nearness_is_told_both_ways():
    assert "deeper" in beside(SKIN, (58.0, 11.0, 17.0), "neck")
    assert "yellower" in beside(SKIN, (62.0, 11.0, 21.0), "neck")


# Instruments


def test_a_take_gone_wrong_is_named_and_left_out():
    good = [(62.0, 11.0, 17.0), (62.3, 10.8, 17.1), (61.8, 11.2, 16.8)]
    found = colour_taking([*good, (56.0, 12.0, 15.0)], HOUSE)
    assert found.far == (3,)
    assert found.mean == pytest.approx(np.mean(good, axis=0))
    assert found.spread < 0.5


def test_two_takes_alone_cannot_say_which_is_wrong():
    assert colour_taking([SKIN, (50.0, 11.0, 17.0)], HOUSE).far == ()


def test_one_take_is_its_own_mean():
    found = colour_taking([SKIN], HOUSE)
    assert (found.mean, found.spread, found.far) == (SKIN, 0.0, ())


def test_no_takes_are_refused():
    with pytest.raises(Refused, match="takes"):
        colour_taking([], HOUSE)


def test_the_mean_of_careful_readings_is_near_the_skin_and_nearer_than_with_wrong_takes():
    near = plain = 0
    for start in range(0, 1400, 7):
        takes = [colour_reader.take(SKIN, start + n) for n in range(7)]
        means = np.array([colour_taking(takes, HOUSE).mean, np.mean(takes, axis=0)])
        stored, all_takes = delta_e(means, np.broadcast_to(np.array(SKIN), means.shape))
        near += bool(stored < 1.0)
        plain += bool(all_takes < 1.0)
    assert near >= 190
    assert near > plain


def test_the_reader_scatters_and_now_and_then_goes_wrong():
    takes = np.array([colour_reader.take(SKIN, seed) for seed in range(600)])
    off = delta_e(takes, np.broadcast_to(np.array(SKIN), takes.shape))
    assert 0.2 < float(np.median(off)) < 1.0
    assert 0.05 < float(np.mean(off > 2.0)) < 0.2
    assert colour_reader.take(SKIN, 7) == colour_reader.take(SKIN, 7)


@pytest.mark.parametrize("severity", [0, 1, 2, 3])
@pytest.mark.parametrize("zone", ["nose_tip", "cheek_apple_l"])
def test_the_probe_finds_the_oil_that_was_read(zone, severity):
    bands = [oil_band(probe.oil(zone, {"oily": severity}, seed, HOUSE), zone, HOUSE) for seed in range(60)]
    right = [band for band in bands if (band.condition, band.severity) == ("oily", severity)]
    assert len(right) >= 50


@pytest.mark.parametrize("severity", [0, 1, 2, 3])
def test_the_probe_finds_the_dehydration_that_was_read(severity):
    bands = [moisture_band(probe.moisture({"dehydrated": severity}, seed, HOUSE), HOUSE) for seed in range(60)]
    assert sum(band.severity == severity for band in bands) >= 50


def test_the_bands_differ_between_middle_and_edges():
    assert oil_band(200, "nose_tip", HOUSE).severity == 0
    assert oil_band(200, "cheek_apple_l", HOUSE).severity == 1
    assert oil_band(85, "nose_tip", HOUSE).condition == "dry"


@given(st.floats(0, 500), st.sampled_from(ZONES))
def test_more_oil_never_reads_as_less(value, zone):
    def signed(band):
        return band.severity if band.condition == "oily" else -band.severity

    assert signed(oil_band(min(500, value + 25), zone, HOUSE)) >= signed(oil_band(value, zone, HOUSE))


def reading(days: int, lightness: float, place: str = "face") -> SkinReading:
    return SkinReading(DAY + timedelta(days=days), place, "colour", (lightness, 11.0, 17.0))


def test_the_newest_reading_counts_whatever_order_they_come_in():
    found = newest([reading(40, 60), reading(0, 64), reading(20, 62)])
    assert found[("face", "colour")].lab[0] == 60


def test_a_course_is_told_from_first_to_last():
    one, other = courses([reading(40, 60), reading(0, 64), reading(0, 65, "neck")])
    assert "4.0 L* deeper" in one.says
    assert one.readings[0].day < one.readings[1].day
    assert "Read once" in other.says


@pytest.mark.parametrize(
    "wrong",
    [
        SkinReading(DAY, "face", "colour"),
        SkinReading(DAY, "face", "colour", SKIN, 12.0),
        SkinReading(DAY, "nose_tip", "oil"),
        SkinReading(DAY, "nose_tip", "oil", value=900.0),
        SkinReading(DAY, "nose_tip", "moisture", value=131.0),
        SkinReading(DAY, "chest", "oil", value=100.0),
        SkinReading(DAY, "nose_tip", "moisture", SKIN, 20.0),
    ],
)
def test_a_reading_of_the_wrong_kind_is_refused(wrong):
    with pytest.raises(Refused, match="reading"):
        check_reading(wrong, "reading")


def test_every_place_has_words_of_its_own():
    from nabrel.core.face.measuring import place_words

    assert len({place_words(place) for place in PLACES}) == len(PLACES) == len(ZONE_INFO) + 2


def test_presets_stay_under_what_was_painted():
    painted = sitting(preset="oily", zones={"nose_tip": ZoneSkin({"oily": 0})})
    assert read(painted, HOUSE).zones["nose_tip"].oily == 0
