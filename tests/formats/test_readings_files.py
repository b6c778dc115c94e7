"""Readings in files: CSV as office programs write it, CGATS.17 text, typed colours; hostile ones are told by row."""

from __future__ import annotations

from datetime import date

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nabrel.core.errors import Refused
from nabrel.core.face.measuring import PLACES, SkinReading
from nabrel.core.terms.zones import ZONES
from nabrel.formats.colour_text import colour_of
from nabrel.formats.skin_readings import read_readings, write_cgats, write_readings

TODAY = date(2026, 11, 2)


def tenth(low: float, high: float) -> st.SearchStrategy[float]:
    return st.integers(int(low * 10), int(high * 10)).map(lambda n: n / 10)


colours = st.builds(
    SkinReading,
    day=st.dates(date(2000, 1, 1), date(2090, 1, 1)),
    place=st.sampled_from(PLACES),
    what=st.just("colour"),
    lab=st.tuples(tenth(30, 75), tenth(4, 14), tenth(8, 20)),
    takes=st.integers(1, 9),
    spread=st.one_of(st.none(), tenth(0, 3)),
    source=st.sampled_from(["typed", "imported", "reader"]),
)
probes = st.builds(
    SkinReading,
    day=st.dates(date(2000, 1, 1), date(2090, 1, 1)),
    place=st.sampled_from(ZONES),
    what=st.sampled_from(["oil", "moisture"]),
    value=st.floats(0, 130),
    source=st.just("probe"),
)


@given(st.lists(st.one_of(colours, probes), min_size=1, max_size=8))
def test_readings_come_back_from_csv_as_they_went(readings):
    rows = read_readings(write_readings(readings).encode(), TODAY)
    assert [row.reading for row in rows] == readings


@given(st.lists(colours, min_size=1, max_size=8))
def test_colours_come_back_from_cgats_with_day_place_and_colour(readings):
    rows = read_readings(write_cgats(readings).encode(), TODAY)
    assert [(r.reading.day, r.reading.place, r.reading.lab) for r in rows] == [
        (r.day, r.place, r.lab) for r in readings
    ]
    assert {row.reading.source for row in rows} == {"imported"}


def test_an_office_table_with_semicolons_commas_and_words_is_read():
    table = "Day;Place;Lab_L;Lab_A;Lab_B\r\n31.10.2026;Under-eye, left;54,5;7;9,25\r\n;face;62;11;17\r\n"
    one, other = read_readings(table.encode("utf-8-sig"), TODAY)
    assert (one.reading.place, one.reading.lab, one.reading.day) == (
        "under_eye_l",
        (54.5, 7.0, 9.25),
        date(2026, 10, 31),
    )
    assert other.reading.day == TODAY


@pytest.mark.parametrize(
    ("row", "said"),
    [
        ("face,62,11,", "lab_b"),
        ("chinn,62,11,17", "nearest: chin"),
        ("face,162,11,17", "lab"),
        ("face,62,eleven,17", "lab_a"),
        ("face,50,120,-120", "lab"),
        ("face,,,", "lab"),
        ("face,62,11,17,9", "cells"),
    ],
)
def test_a_bad_row_is_told_and_hides_no_other(row, said):
    table = f"place,lab_l,lab_a,lab_b\n{row}\nneck,64,9,16\n"
    bad, good = read_readings(table.encode(), TODAY)
    assert bad.reading is None
    assert said in str(bad.refused)
    assert good.reading.place == "neck"


CGATS = """CGATS.17
CREATED "2026-09-30"
NUMBER_OF_FIELDS 5
BEGIN_DATA_FORMAT
SAMPLE_ID SAMPLE_NAME
LAB_L LAB_A LAB_B
END_DATA_FORMAT
NUMBER_OF_SETS 2
BEGIN_DATA
1 "Under-eye, left" 54.5 7 9 # by the window
2 "face" 62 11 17
END_DATA
"""


def test_a_cgats_file_of_another_hand_is_read():
    one, other = read_readings(CGATS.replace(" # by the window", "").encode(), TODAY)
    assert (one.reading.place, one.reading.day) == ("under_eye_l", date(2026, 9, 30))
    assert other.reading.lab == (62, 11, 17)


@pytest.mark.parametrize(
    ("change", "said"),
    [
        (("LAB_L LAB_A LAB_B", "XYZ_X XYZ_Y XYZ_Z"), "LAB_L"),
        (("END_DATA\n", ""), "END_DATA"),
        (("SAMPLE_ID SAMPLE_NAME", "ROW COLUMN"), "SAMPLE_NAME"),
        (('1 "Under-eye, left" 54.5 7 9 # by the window\n2 "face" 62 11 17\n', ""), "no rows"),
    ],
)
def test_a_cgats_file_that_is_not_whole_is_refused(change, said):
    with pytest.raises(Refused, match=said):
        read_readings(CGATS.replace(*change).encode(), TODAY)


def test_a_cgats_row_of_the_wrong_length_is_told():
    text = CGATS.replace('2 "face" 62 11 17', "2 face 62 11").replace(" # by the window", "")
    good, bad = read_readings(text.encode(), TODAY)
    assert good.reading is not None
    assert "5 cells" in str(bad.refused)


@pytest.mark.parametrize("data", [b"", b"PK\x03\x04", b"\x00\x01", b"colour,lab\n", b"a\n" * 5000])
def test_what_is_no_table_is_refused(data):
    with pytest.raises(Refused):
        read_readings(data, TODAY)


@given(st.binary(max_size=400))
def test_any_bytes_are_rows_or_one_refusal(data):
    try:
        rows = read_readings(data, TODAY)
    except Refused:
        return
    assert all((row.reading is None) != (row.refused is None) for row in rows)


@pytest.mark.parametrize(
    ("text", "lab"),
    [
        ("62 11 17", (62, 11, 17)),
        ("62,5; 11; 17", (62.5, 11, 17)),
        ("62, 11, 17", (62, 11, 17)),
        ("62,11,17", (62, 11, 17)),
        ("L* 62 a* 11 b* 17", (62, 11, 17)),
        ("L=62 a=11 b=-2", (62, 11, -2)),
    ],
)
def test_lab_is_understood_as_people_type_it(text, lab):
    assert colour_of(text) == lab


def test_hex_is_understood_with_and_without_its_mark():
    assert colour_of("#c69a7b") == colour_of("C69A7B") == pytest.approx((66.9, 12.2, 22.6), abs=0.1)
    assert colour_of("#777") == pytest.approx((50.0, 0.0, 0.0), abs=0.5)


@pytest.mark.parametrize("text", ["", "skin", "62 11", "62 11 17 4", "#12345", "162 11 17", "50 127 -127", "nan 1 2"])
def test_what_is_no_colour_is_refused(text):
    with pytest.raises(Refused, match="colour"):
        colour_of(text)
