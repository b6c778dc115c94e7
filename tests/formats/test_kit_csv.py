"""The kit as CSV: out and in without loss, as office programs write it, and every bad row told by itself."""

from __future__ import annotations

import re
from dataclasses import replace
from datetime import date

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from nabrel.core.case.product import Product
from nabrel.core.errors import Refused
from nabrel.core.shelf.ingredients import base_of, read_list, split_list
from nabrel.core.terms.limits import UNSEEN
from nabrel.core.terms.products import BASES, FINISHES
from nabrel.demo.kit import kit
from nabrel.formats.kit_csv import COLUMNS, read_kit, write_kit

HEADER = "id,role,name,texture,base,finish,lab_l,lab_a,lab_b,cover,ml,price"
GOOD = "f-1,foundation,Thin satin,liquid,silicone,satin,62,11,17,0.5,30,24"


def table(*rows: str) -> bytes:
    return "\n".join([HEADER, *rows]).encode()


def items(data: bytes):
    rows = read_kit(data)
    assert all(row.refused is None for row in rows), [str(row.refused) for row in rows if row.refused]
    return tuple(row.item for row in rows)


def test_the_demo_kit_goes_out_and_comes_back_without_loss():
    assert items(write_kit(kit()).encode()) == kit()


words = st.text(
    st.characters(codec="utf-8", exclude_characters="|", exclude_categories=("Cc", "Cs")), min_size=1, max_size=20
)
plain_words = words.map(str.strip).filter(lambda text: re.search(f"[^{UNSEEN}]", text) is not None)
products = st.builds(
    Product,
    id=st.from_regex(r"[A-Za-z0-9][A-Za-z0-9._-]{0,20}", fullmatch=True),
    role=st.just("foundation"),
    name=plain_words,
    texture=st.sampled_from(["liquid", "cream", "stick"]),
    base=st.sampled_from(BASES),
    finish=st.sampled_from(FINISHES),
    lab=st.sampled_from([(62.0, 11.0, 17.0), (45.5, 13.25, 18.0), (70.1, 9.9, 15.05)]),
    cover=st.floats(0.05, 0.95),
    ml=st.none() | st.floats(0.5, 500),
    price=st.none() | st.floats(0, 500),
    contains=st.lists(plain_words, max_size=3).map(tuple),
    ingredients=st.lists(plain_words, max_size=4).map(tuple),
    opened_on=st.none() | st.dates(date(2000, 1, 1), date(2099, 12, 31)),
    keeps_months=st.none() | st.integers(1, 120),
)


@settings(max_examples=40, deadline=None)
@given(st.lists(products, unique_by=lambda item: item.id, max_size=6))
def test_any_kit_comes_back_as_it_went(found):
    assert items(write_kit(found).encode()) == tuple(found) if found else True


@pytest.mark.parametrize(
    "data",
    [
        table(GOOD),
        b"\xef\xbb\xbf" + table(GOOD),
        table(GOOD).replace(b",", b";"),
        table(GOOD).replace(b",", b"\t"),
        table(GOOD).replace(b",", b";").replace(b"0.5", b"0,5"),
        table(GOOD).replace(b"0.5", b"50%"),
        table(GOOD).replace(b"\n", b"\r\n") + b"\r\n\r\n",
        table(GOOD.replace("Thin satin", '"Thin satin"')),
        HEADER.upper().encode() + b"\n" + GOOD.encode(),
        (HEADER + ",").encode() + b"\n" + GOOD.encode() + b",",
    ],
)
def test_tables_of_common_office_programs_are_read(data):
    (item,) = items(data)
    assert (item.id, item.cover, item.lab, item.price) == ("f-1", 0.5, (62.0, 11.0, 17.0), 24.0)


def test_latin_1_names_are_read():
    (item,) = items(table(GOOD.replace("Thin satin", "Crème légère")).decode().encode("latin-1"))
    assert item.name == "Crème légère"


@pytest.mark.parametrize(
    ("row", "field", "allowed"),
    [
        (GOOD.replace("foundation", "foundatoin"), "role", "nearest: foundation"),
        (GOOD.replace("0.5", "1.5"), "cover", "0.995 or less"),
        (GOOD.replace("0.5", "half"), "cover", "a number"),
        (GOOD.replace("0.5", "nan"), "cover", "finite"),
        (GOOD.replace(",0.5,", ",,"), "cover", "contrast ratio"),
        (GOOD.replace(",62,11,17,", ",62,,17,"), "lab_a", "a number"),
        (GOOD.replace(",62,11,17,", ",62,120,17,"), "lab", "real surface"),
        (GOOD + ",and more", "cells", "12 cells"),
        (GOOD.replace("f-1", ""), "id", "this field is needed"),
        (GOOD.replace("f-1", "no spaces here"), "id", "letters, digits"),
    ],
)
def test_a_bad_row_says_what_is_wrong_and_the_good_ones_stand(row, field, allowed):
    good, bad = read_kit(table(GOOD.replace("f-1", "f-0"), row))
    assert good.item is not None
    assert bad.item is None
    assert bad.line == 3
    assert field in bad.refused.field
    assert allowed in bad.refused.allowed


def test_an_id_that_stands_twice_is_told_with_the_line_of_the_first():
    _, twin = read_kit(table(GOOD, GOOD))
    assert "line 2 has this one" in twin.refused.allowed


@pytest.mark.parametrize(
    ("data", "field", "allowed"),
    [
        (b"", "file", "header row"),
        (b"\n \n", "file", "header row"),
        (b"PK\x03\x04rest", "file", "save the sheet as CSV"),
        (b"a\x00b", "file", "save the sheet as CSV"),
        (b"id,role,name,texture\nx,foundation,X,liquid", "header", "a column base"),
        (b"id,role,name,texture,base,colour\n", "header", "a known column"),
        (b"id,role,name,texture,base,ml,ml\n", "header", "each column once"),
        (b'id,role,name,texture,base\n"x,foundation', "file", "a table in CSV"),
        (b"id,role,name,texture,base\n" + b"x,,,,\n" * 5001, "file", "at most 5000 rows"),
        (b"x" * 4_000_001, "file", "at most 4,000,000 bytes"),
    ],
)
def test_what_is_no_table_is_refused_whole(data, field, allowed):
    with pytest.raises(Refused) as refused:
        read_kit(data)
    assert refused.value.field == field
    assert allowed in refused.value.allowed


def test_every_field_of_an_item_has_its_column():
    singles = {name for name in Product.__dataclass_fields__ if name not in ("lab", "half_hour")}
    assert singles <= set(COLUMNS)


# Ingredient lists


@pytest.mark.parametrize(
    ("text", "base", "evidence"),
    [
        ("Aqua, Glycerin, Niacinamide", "water", ("Aqua",)),
        ("Ingredients: Aqua, Cyclopentasiloxane, Dimethicone, Talc", "silicone", ("Cyclopentasiloxane", "Dimethicone")),
        ("Dimethicone; Trimethylsiloxysilicate; Silica", "silicone", ("Dimethicone",)),
        ("Ricinus Communis Seed Oil, Squalane, Tocopherol", "oil", ("Ricinus Communis Seed Oil", "Squalane")),
        ("Ricinus Communis Seed Oil, Cera Alba, Copernicia Cerifera Cera", "anhydrous",
         ("Cera Alba", "Copernicia Cerifera Cera")),
        ("Talc, Mica, Zinc Stearate", "powder", ("Talc", "Mica")),
        ("Alcohol Denat., Aqua, PVP", "alcohol", ("Alcohol Denat",)),
        ("Titanium Dioxide, Iron Oxides", None, ()),
        ("", None, ()),
        ("Glycerin, A, B, C, D, Dimethicone", None, ()),
    ],
)  # fmt: skip
def test_the_base_is_read_from_the_first_five_ingredients(text, base, evidence):
    found = read_list(text)
    assert (found.base, found.evidence) == (base, evidence)
    assert found.says.endswith(".")
    assert base_of(found.ingredients) == (base, evidence)


def test_a_pasted_list_is_split_however_it_was_set():
    wanted = ("Aqua (Water)", "Glycerin", "CI 77491")
    for text in (
        "Aqua (Water), Glycerin, CI 77491.",
        "Aqua (Water)\nGlycerin\nCI 77491",
        "INCI: Aqua (Water) • Glycerin • CI 77491",
    ):
        assert split_list(text) == wanted


def test_allergens_are_named_by_their_group():
    assert read_list("Aqua, Parfum, Linalool, Lanolin Alcohol").allergens == ("fragrance", "lanolin")
    assert read_list("Aqua, Glycerin").allergens == ()


def test_what_was_read_serves_an_avoid_list():
    listed = read_list("Aqua, Glycerin, Linalool").ingredients
    item = replace(kit()[0], ingredients=listed)
    from nabrel.core.shelf.allergens import avoided

    assert avoided(item, ("perfume",)) == ("perfume",)
