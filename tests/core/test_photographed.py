"""Films read from a photograph: what they make of items, how far off a guess was, and what they change in plans that stand."""

from __future__ import annotations

from dataclasses import replace
from datetime import date
from math import hypot

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from nabrel.core.ask.measured import SEEN_DE, changed_by, changed_by_skin, laid_items, with_colours
from nabrel.core.ask.recommend import plan
from nabrel.core.card.layout import LADDER, house_card
from nabrel.core.card.reading import SeenColour
from nabrel.core.card.skin import skin_seen
from nabrel.core.errors import Impossible, Refused
from nabrel.core.face.measuring import SkinReading
from nabrel.core.film.difference import delta_e
from nabrel.core.house import House
from nabrel.core.judge.evaluate import evaluate
from nabrel.core.shelf.photographed import (
    BEYOND,
    LEAST_DE,
    PhotographedFilm,
    against,
    compared,
    likely,
    measured_item,
    new_item,
)
from nabrel.demo.kestrel_quay import sitters
from nabrel.demo.kit import kit
from nabrel.formats.checks import check_product

HOUSE = House()
OWNED = {item.id: item for item in kit()}
COLOURED = [item for item in kit() if item.lab is not None and item.cover is not None]
GUESS = OWNED["bronze-balm-1"]


def film_of_item(item, sd=1.5):
    return PhotographedFilm(item.lab, sd, item.cover, 0.02)


def test_an_item_takes_over_what_was_read_and_keeps_the_rest():
    film = PhotographedFilm((50.0, 18.0, 30.0), 1.44, 0.4218, 0.0166)
    found = measured_item(GUESS, film)
    assert (found.lab, found.lab_sd, found.cover, found.cover_sd, found.source) == (
        film.lab,
        1.44,
        0.422,
        0.017,
        "photo",
    )
    assert replace(found, lab=GUESS.lab, lab_sd=4.0, cover=GUESS.cover, cover_sd=0.12, source="guessed") == GUESS
    opaque = measured_item(GUESS, PhotographedFilm((50.0, 18.0, 30.0), 1.4))
    assert (opaque.cover, opaque.cover_sd, opaque.source) == (GUESS.cover, GUESS.cover_sd, "photo")
    with pytest.raises(Impossible):
        measured_item(OWNED["cle-1"], film)


@pytest.mark.parametrize("role", ["foundation", "corrector", "light", "colour", "concealer", "setting_powder"])
def test_a_new_item_has_the_colour_that_was_read_and_what_its_role_usually_has(role):
    film = PhotographedFilm((60.0, 12.0, 18.0), 1.2, 0.5, 0.03)
    found = new_item("Fresh tube", role, film, HOUSE, OWNED)
    check_product(found, "item")
    assert (found.lab, found.cover, found.source, found.role) == (film.lab, 0.5, "photo", role)
    assert found.id not in OWNED
    with pytest.raises(Refused, match="role"):
        new_item("Fresh tube", "primer", film, HOUSE)


@settings(max_examples=60, deadline=None)
@given(st.sampled_from(COLOURED), st.floats(0.5, 4.0), st.floats(-14.0, 14.0), st.floats(0.5, 6.0))
def test_a_guess_is_called_far_off_only_beyond_what_both_are_unsure(item, sd, off, own_sd):
    guessed = replace(item, lab_sd=own_sd, cover_sd=0.1, source="guessed")
    film = PhotographedFilm((min(97.0, max(5.0, item.lab[0] + off)), *item.lab[1:]), sd, item.cover, 0.02)
    found = against(guessed, film)
    assert found.de == pytest.approx(float(delta_e(film.lab, item.lab)), abs=0.01)
    limit = max(LEAST_DE, BEYOND * hypot(sd, own_sd))
    if abs(found.de - limit) > 0.02:
        assert found.far == (found.de > limit)
    assert found.surer == (sd < own_sd)
    assert ("Further off what was guessed" in found.says) == found.far


def test_cover_alone_can_be_far_off():
    guessed = replace(GUESS, cover_sd=0.05)
    assert not against(guessed, PhotographedFilm(GUESS.lab, 1.0, GUESS.cover + 0.04, 0.02)).far
    found = against(guessed, PhotographedFilm(GUESS.lab, 1.0, GUESS.cover + 0.3, 0.02))
    assert found.far
    assert "cover 65 % instead of 35 %" in found.says


def test_an_item_is_likely_only_where_no_other_is_nearly_as_near():
    told = [item for item in COLOURED if likely(COLOURED, film_of_item(item)) is not None]
    assert told
    wrong = [item.name for item in told if likely(COLOURED, film_of_item(item)) != item.id and not item.dry]
    assert wrong == []
    twin = replace(OWNED["thin-satin-3"], id="twin", cover=OWNED["thin-satin-3"].cover + 0.02)
    assert likely([*COLOURED, twin], PhotographedFilm(OWNED["thin-satin-3"].lab, 1.5, 0.51, 0.02)) is None
    assert likely([], film_of_item(GUESS)) is None
    assert likely(COLOURED, PhotographedFilm((20.0, -40.0, 30.0), 1.0, 0.5, 0.02)) is None
    nearest = compared(kit(), film_of_item(GUESS))
    assert nearest[0].item == GUESS.id
    assert [each.off for each in nearest] == sorted(each.off for each in nearest)
    assert {each.item for each in nearest} == {item.id for item in kit() if item.lab is not None}


@pytest.fixture(scope="module")
def evaluations():
    return [evaluate(plan(case, HOUSE), HOUSE) for case in sitters()]


def test_a_plan_is_told_what_its_own_items_change_and_no_other(evaluations):
    changed = same = 0
    for now in evaluations:
        used = sorted(key for key in laid_items(now.sequence) if OWNED[key].lab is not None)
        unused = next(item for item in COLOURED if item.id not in laid_items(now.sequence))
        assert changed_by(now, {unused.id: replace(unused, lab=(40.0, 10.0, 10.0))}, HOUSE) is None
        assert changed_by(now, {key: OWNED[key] for key in used}, HOUSE) is None
        base = next((key for key in used if OWNED[key].role == "foundation"), None)
        if base is None:
            continue
        item = OWNED[base]
        far = changed_by(now, {base: replace(item, lab=(item.lab[0] - 12.0, item.lab[1], item.lab[2]))}, HOUSE)
        assert far is not None
        assert far.what == (item.name,)
        assert far.trial.look_de > SEEN_DE
        assert far.replacements, "a foundation that is twelve deeper is not the one that is chosen"
        assert f"ΔE00 {far.trial.look_de:.1f}" in far.says[0]
        assert far.trial.after.sequence.steps == now.sequence.steps
        near = changed_by(now, {base: replace(item, lab_sd=1.2, source="photo")}, HOUSE)
        assert near is not None
        assert near.says[0] == "Worked as it stands, it would look the same."
        changed, same = changed + 1, same + 1
    assert changed >= 4
    assert same >= 4


def test_a_plan_is_told_what_a_reading_of_its_skin_changes(evaluations):
    told = 0
    for now in evaluations:
        skin = now.sequence.case.sitter.skin
        same = SkinReading(date(2026, 11, 27), "face", lab=skin.lab, spread=1.4, source="photo")
        assert changed_by_skin(now, [same], HOUSE) is None
        deeper = replace(same, lab=(skin.lab[0] - 6.0, skin.lab[1], skin.lab[2]))
        found = changed_by_skin(now, [deeper], HOUSE)
        assert found is not None
        assert found.what == ("Face",)
        assert found.trial.after.sequence.case.sitter.skin.lab == deeper.lab
        assert found.trial.after.sequence.steps == now.sequence.steps
        told += bool(found.replacements)
    assert told >= 4, "skin that is six deeper asks for other products"


def test_a_plan_takes_over_the_colour_of_its_items_and_nothing_else(evaluations):
    sequence = evaluations[0].sequence
    fresh = replace(GUESS, lab=(50.0, 18.0, 30.0))
    dearer = replace(fresh, price=99.0, name="Renamed since")
    found = with_colours(sequence, {GUESS.id: dearer, "unknown": dearer})
    assert found.steps == sequence.steps
    assert [item.id for item in found.case.kit] == [item.id for item in sequence.case.kit]
    assert [item for item in found.case.kit if item not in sequence.case.kit] == [fresh]


def test_pictures_of_one_place_are_put_together_and_a_stray_one_is_left_out():
    near = [
        SeenColour((62.0, 11.0, 17.0), 1.2),
        SeenColour((62.6, 11.2, 17.1), 1.2),
        SeenColour((61.8, 10.9, 17.3), 1.3),
    ]
    one, two = skin_seen(near[:1], HOUSE), skin_seen(near[:2], HOUSE)
    assert "second" in one.says
    assert one.seen == replace(near[0], sd=one.seen.sd)
    assert "agree" in two.says
    assert two.seen.sd < near[0].sd
    stray = skin_seen([*near, SeenColour((72.0, 18.0, 17.0), 1.2)], HOUSE)
    assert stray.far == (3,)
    assert "1 of 4" in stray.says
    assert float(delta_e(stray.seen.lab, skin_seen(near, HOUSE).seen.lab)) < 0.01
    apart = skin_seen([near[0], SeenColour((72.0, 18.0, 17.0), 1.2)], HOUSE)
    assert apart.far == ()
    assert "take a third" in apart.says
    with pytest.raises(Refused, match="takes"):
        skin_seen([], HOUSE)


def test_the_house_decides_what_its_printer_gives_back():
    assert not house_card("kit", HOUSE).calibrated
    assert not house_card("kit", HOUSE.deciding({"card_film_um": 30.0})).calibrated
    own = house_card("skin", HOUSE.deciding({"card_white": 0.82, "card_black": 0.06}))
    assert own.calibrated
    assert (own.paper, own.ink) == (0.82, 0.06)
    assert own.greys[4].reflectance == pytest.approx(
        0.06 + (LADDER[4] - LADDER[0]) / (0.86 - LADDER[0]) * 0.76, abs=1e-3
    )
    grown = house_card("kit", HOUSE.deciding({"card_middle": 0.26}))
    assert grown.greys[4].reflectance == pytest.approx(0.26, abs=1e-3)
    assert grown.paper == house_card("kit", HOUSE).paper
