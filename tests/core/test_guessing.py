"""Colours and items without an instrument: by eye, by a stripe, by a few words; and what a plan makes of being unsure."""

from __future__ import annotations

from dataclasses import replace
from datetime import date

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from nabrel.core.ask.recommend import plan
from nabrel.core.ask.unsure import how_sure
from nabrel.core.case.product import Product
from nabrel.core.errors import Refused
from nabrel.core.face.by_eye import TONES, closer, grid
from nabrel.core.face.measuring import SkinReading, newest
from nabrel.core.face.skin import depth_class, undertone
from nabrel.core.film.difference import delta_e
from nabrel.core.film.spectra import surface
from nabrel.core.house import House
from nabrel.core.judge.evaluate import evaluate
from nabrel.core.shelf.guessing import HUED, HUES, DescribedItem, described_item, guess_lines
from nabrel.core.solve.stripe import from_stripe
from nabrel.core.terms.products import ROLE_INFO
from nabrel.formats.checks import check_product

HOUSE = House()


def test_every_cell_of_the_grid_is_called_what_skin_of_that_colour_is_called():
    rows = grid()
    assert len(rows) == len(TONES)
    for tone, row in zip(TONES, rows, strict=True):
        assert {cell.depth for cell in row} == {"very light", "light", "intermediate", "tan", "brown", "dark"}
        for cell in row:
            assert (depth_class(cell.lab), undertone(cell.lab)) == (cell.depth, cell.tone)
            assert cell.tone == tone
            surface(cell.lab)
        assert [cell.lab[0] for cell in row] == sorted((cell.lab[0] for cell in row), reverse=True)


def test_no_skin_is_far_from_the_grid(people):
    cells = np.array([cell.lab for row in grid() for cell in row])
    for case in people.values():
        lab = case.sitter.skin.lab
        assert min(delta_e(cells, np.broadcast_to(lab, cells.shape))) < HOUSE.eye_sd_de, case.sitter.nickname


def test_the_second_tap_offers_near_neighbours_with_the_first_in_the_middle():
    for row in grid():
        for cell in row:
            near = closer(cell.lab)
            assert near[1][1].lab == pytest.approx(cell.lab, abs=0.06)
            assert near[0][1].lab[0] > cell.lab[0] > near[2][1].lab[0]
            off = [float(delta_e(np.array(each.lab), np.array(cell.lab))) for line in near for each in line]
            assert 1.0 < max(off) < 5.0


def item(name: str, lab, **more) -> Product:
    return Product(name.lower(), "foundation", name, "liquid", "silicone", lab=lab, cover=0.5, **more)


PALE, DEEP = item("Pale", (70.0, 9.0, 15.0)), item("Deep", (60.0, 12.0, 18.0))


def test_a_stripe_that_vanishes_is_the_skin():
    judged = from_stripe(PALE, None, (), HOUSE)
    assert judged.lab == PALE.lab
    assert judged.lab_sd == HOUSE.stripe_sd_de
    assert judged.says.startswith("As Pale: light, neutral")


def test_between_two_stripes_lies_their_middle_and_is_less_sure():
    judged = from_stripe(PALE, DEEP, (), HOUSE)
    assert judged.lab == (65.0, 10.5, 16.5)
    assert judged.lab_sd > from_stripe(PALE, None, (), HOUSE).lab_sd
    assert "Between Pale and Deep" in judged.says


def test_a_nudge_moves_that_way_and_only_that_way():
    step = HOUSE.stripe_nudge
    assert from_stripe(PALE, None, ("deeper", "warmer"), HOUSE).lab == (70.0 - step, 9.0, 15.0 + step)
    assert from_stripe(PALE, None, ("lighter", "cooler"), HOUSE).lab == (70.0 + step, 9.0, 15.0 - step)


def test_a_stripe_of_an_unsure_item_is_less_sure():
    assert from_stripe(replace(PALE, lab_sd=4.0), None, (), HOUSE).lab_sd > 4.0


def test_a_stripe_refuses_what_cannot_be():
    with pytest.raises(Refused, match="lighter or deeper, not both"):
        from_stripe(PALE, None, ("lighter", "deeper"), HOUSE)
    with pytest.raises(Refused, match="an item with a colour"):
        from_stripe(replace(PALE, lab=None, cover=None), None, (), HOUSE)


PASTED = {
    "Satin fluid foundation, light warm": ("foundation", "liquid", "satin"),
    "peach corrector, pot": ("corrector", "cream", "satin"),
    "Full cover concealer, tan": ("concealer", "liquid", "satin"),
    "Loose powder, translucent": ("setting_powder", "loose_powder", "matte"),
    "Coral blush pan": ("colour", "pressed_powder", "satin"),
    "Pore primer gel": ("primer", "gel", "satin"),
    "Setting spray": ("setting_mist", "mist", "satin"),
    "Matte contour stick, deep cool": ("shade", "stick", "matte"),
    "Pearl highlighter": ("glow", "cream", "shimmer"),
    "Bronzing powder": ("bronzer", "pressed_powder", "satin"),
    "Eye cream": ("eye_care", "cream", "satin"),
    "SPF 50 lotion": ("sunscreen", "liquid", "satin"),
    "Powder foundation compact, medium": ("powder_foundation", "pressed_powder", "matte"),
    "Hydrating mist": ("melting_mist", "mist", "satin"),
}


def test_a_pasted_list_is_read_line_by_line():
    found = guess_lines("\n".join(PASTED) + "\n\n- something odd\n", HOUSE)
    assert len(found) == len(PASTED) + 1
    for line in found[:-1]:
        assert line.item is not None, line
        assert (line.item.role, line.item.texture, line.item.finish) == PASTED[line.text], line
        assert line.item.source == "guessed"
        check_product(line.item, "item")
    assert found[-1].item is None
    assert "Say what it is" in found[-1].says
    assert len({line.item.id for line in found if line.item}) == len(PASTED)


def test_shades_follow_the_words_of_a_line():
    light, deep = (guess_lines(f"foundation, {word}", HOUSE)[0].item for word in ("very light cool", "very deep warm"))
    assert (depth_class(light.lab), undertone(light.lab)) == ("very light", "cool")
    assert (depth_class(deep.lab), undertone(deep.lab)) == ("dark", "warm")
    assert (
        guess_lines("contour cream, deep", HOUSE)[0].item.lab[0] < guess_lines("foundation, deep", HOUSE)[0].item.lab[0]
    )
    assert guess_lines("hydrating primer", HOUSE)[0].item.suits == ("dry", "dehydrated", "fine_lines")


@given(st.text(max_size=400))
def test_whatever_is_pasted_is_read_or_told(text):
    for line in guess_lines(text, HOUSE):
        assert line.says
        if line.item is not None:
            check_product(line.item, "item")


def test_a_list_too_long_is_refused():
    with pytest.raises(Refused, match="at most 300 lines"):
        guess_lines("primer\n" * 301, HOUSE)


def test_every_role_and_hue_can_be_described_on_every_depth():
    tried = 0
    for cell in grid()[1]:
        for role, info in ROLE_INFO.items():
            for hue in HUES if role in HUED else (None,):
                made = described_item(DescribedItem("It", role, hue=hue, skin=cell.lab), HOUSE)
                check_product(made, "item")
                assert made.source == "guessed"
                assert (made.lab is not None) or not info.coloured
                tried += 1
    assert tried > 500


def test_a_shade_judged_by_eye_is_the_item_s_and_says_so():
    made = described_item(
        DescribedItem("Silk", "foundation", lab=(60.0, 11.0, 18.0), lab_sd=2.5, cover="full"), HOUSE, {"silk"}
    )
    assert (made.id, made.lab, made.lab_sd, made.source) == ("silk-2", (60.0, 11.0, 18.0), 2.5, "eye")
    assert made.cover == pytest.approx(0.8)
    with pytest.raises(Refused, match="hue"):
        described_item(DescribedItem("Odd", "corrector", hue="sparkling"), HOUSE)


def test_of_one_day_a_measured_reading_counts_before_a_judged_one():
    today, before = date(2026, 5, 4), date(2026, 5, 3)
    measured = SkinReading(today, "face", "colour", (60, 10, 15), source="reader")
    judged = SkinReading(today, "face", "colour", (62, 10, 15), spread=2.5, source="eye")
    assert newest([measured, judged])["face", "colour"] == measured
    assert newest([judged, measured])["face", "colour"] == measured
    assert newest([replace(measured, day=before), judged])["face", "colour"] == judged


def unsure(case, sd):
    return replace(case, sitter=replace(case.sitter, skin=replace(case.sitter.skin, lab_sd=sd, source="eye")))


def test_a_plan_from_a_judged_colour_says_what_it_would_take_instead(people):
    moved = 0
    for case in people.values():
        now = evaluate(plan(unsure(case, 2.5), HOUSE), HOUSE, try_fixes=False)
        found = how_sure(now, HOUSE)
        assert "judged by eye" in found.says
        assert [each.if_skin for each in found.otherwise] == ["lighter", "deeper", "warmer", "cooler"]
        moved += any("instead of" in said for each in found.otherwise for said in each.then)
    assert moved >= 6


def test_what_would_be_taken_instead_is_what_the_planner_takes(people):
    case = unsure(people["Tamsin"], 3.0)
    now = evaluate(plan(case, HOUSE), HOUSE, try_fixes=False)
    deeper = next(each for each in how_sure(now, HOUSE).otherwise if each.if_skin == "deeper")
    skin = case.sitter.skin
    off = replace(skin, lab=(skin.lab[0] - 3.0, *skin.lab[1:]))
    neck = replace(case.sitter.neck, lab=(case.sitter.neck.lab[0] - 3.0, *case.sitter.neck.lab[1:]))
    other = plan(replace(case, sitter=replace(case.sitter, skin=off, neck=neck)), HOUSE)
    taken = {now.products[part.item].name for step in other.steps for part in step.mix}
    come = [said.split(" instead of ")[0] for said in deeper.then if " instead of " in said]
    assert come
    for names in come:
        assert all(name in taken for name in names.replace(" and ", ", ").split(", "))


def test_a_measured_colour_is_sure(people):
    found = how_sure(evaluate(plan(people["Wren"], HOUSE), HOUSE, try_fixes=False), HOUSE)
    assert (found.lab_sd, found.otherwise, found.says) == (None, (), "")
