"""Scattering falls with wavelength: what turns grey on deep skin, and which hue cancels which darkness there."""

from __future__ import annotations

from dataclasses import replace
from itertools import islice, pairwise
from math import atan2, degrees
from random import Random

import numpy as np
import pytest

from nabrel.core.ask.correction import correct_zone
from nabrel.core.ask.recommend import plan
from nabrel.core.base.possible import apply_edits
from nabrel.core.case.case import Case
from nabrel.core.case.intent import Intent
from nabrel.core.case.product import Product
from nabrel.core.case.sitter import Colour, Sitter, ZoneSkin
from nabrel.core.drill.world import drawn
from nabrel.core.film.difference import ashiness
from nabrel.core.film.films import film_of, over
from nabrel.core.film.spectra import lab_of, surface
from nabrel.core.house import House
from nabrel.core.house.tables import WORTH_A_WORD
from nabrel.core.judge.book import Judged
from nabrel.core.judge.evaluate import evaluate
from nabrel.core.judge.rules.colour import _warmer, replace_item
from nabrel.core.judge.ways_out import without
from nabrel.core.plan.sequence import Sequence
from nabrel.core.planner.planner import plan_in
from nabrel.core.shelf.optics import film_for, scatter_exponent, veil_greys
from nabrel.core.terms.zones import ZONE_INDEX, ZONES
from tests.core.made_up import wild
from tests.making import one_portion

HOUSE = House()
DEPTHS = {
    "very light": (74, 9, 14), "light": (68, 10, 16), "medium": (62, 11, 17), "tan": (54, 13, 19), "brown": (46, 14, 19),
}  # fmt: skip
HUES = {
    "pale pink": (80, 16, 6), "light peach": (76, 18, 22), "peach": (72, 24, 28), "salmon": (64, 32, 26), "orange": (60, 38, 44),
    "deep orange": (52, 42, 44), "red-orange": (46, 46, 38), "brick": (38, 34, 26), "yellow": (78, 4, 40), "green": (66, -18, 22),
    "leaf": (50, -12, 24), "lavender": (70, 10, -14),
}  # fmt: skip
DARKNESS = ("dark_circle_blue", "dark_circle_violet", "dark_circle_brown")


def test_a_thin_pale_film_over_deep_skin_is_greyer_the_more_its_scattering_falls():
    deep, meant = surface((34, 12, 13)), np.array((34.0, 12.0, 13.0))
    grey = []
    for exponent in (0.0, 1.0, 2.0, 3.5):
        film = film_of((84, 3, 8), 0.3, scatter_exponent=exponent)
        grey.append(float(ashiness(lab_of(over(deep, film.ratio, film.s * 4.0)), meant)))
    assert grey == sorted(grey)
    assert grey[-1] > grey[0] + 2.0


def test_ashiness_is_warmth_lost_and_nothing_else():
    meant = np.array((50.0, 12.0, 16.0))
    assert float(ashiness(np.array((50.0, 9.0, 12.0)), meant)) == pytest.approx(5.0)
    assert float(ashiness(np.array((40.0, 12.0, 16.0)), meant)) == 0.0, "darker is not greyer"
    assert float(ashiness(np.array((50.0, 20.0, 18.0)), meant)) == 0.0, "a flush is not grey"
    several = ashiness(np.array([[50.0, 12, 16], [50.0, 6, 8]]), meant)
    assert several.shape == (2,)
    assert several[1] == pytest.approx(10.0)


def test_pearl_scatters_all_light_alike():
    plain = Product("x", "foundation", "X", "liquid", "water", lab=(60, 10, 15), cover=0.5)
    assert scatter_exponent(plain, HOUSE) == HOUSE.scatter_exponent == 1.0
    assert scatter_exponent(replace(plain, finish="shimmer"), HOUSE) == 0.0


def answers(people, condition: str, severity: int):
    """What is chosen on every depth from a whole range of hues, with concealers and foundations of the demo."""
    kit = tuple(item for item in people["Wren"].kit if item.role != "corrector") + tuple(
        Product(f"hue-{n}", "corrector", name, "cream", "anhydrous", lab=lab, cover=0.6)
        for n, (name, lab) in enumerate(HUES.items())
    )
    zone = "nose_side_l" if condition == "redness" else "under_eye_l"
    for depth, lab in DEPTHS.items():
        sitter = Sitter("Anon", Colour(lab), zones={zone: ZoneSkin({condition: severity})})
        yield depth, lab, correct_zone(Case(sitter, Intent(), kit), zone, HOUSE).answer.best


def hue(lab) -> float:
    return degrees(atan2(lab[2], lab[1]))


@pytest.mark.parametrize("condition", DARKNESS)
def test_strong_darkness_is_cancelled_by_pink_to_red_orange_and_deeper_as_skin_deepens(people, condition):
    chosen = []
    for depth, skin, best in answers(people, condition, 3):
        assert best.corrector is not None, depth
        lab = best.corrector.lab
        assert 15 <= hue(lab) <= 62, (depth, best.corrector.name)
        assert lab[0] <= skin[0] + HOUSE.corrector_paler_l, (depth, best.corrector.name)
        chosen.append(lab[0])
    assert chosen[-1] < chosen[0] - 15
    assert all(later <= earlier + 8 for earlier, later in pairwise(chosen)), chosen


def test_redness_is_cancelled_by_green_or_left_to_the_foundation(people):
    picked = [(depth, best.corrector) for depth, _, best in answers(people, "redness", 3)]
    assert sum(corrector is not None for _, corrector in picked) >= 3
    for depth, corrector in picked:
        assert corrector is None or corrector.lab[1] < 0, depth


def deep_plan(item: Product, *more: Product) -> Sequence:
    sitter = Sitter("Anon", Colour((34, 12, 13)))
    step = one_portion("f", "foundation", ("cheek_apple_l", "cheek_apple_r", "forehead_centre"), item.id, 3.0,
                       tool="damp_sponge", motion="press")  # fmt: skip
    return Sequence("overpainted", Case(sitter, Intent(), (item, *more)), (step,))


PALE = Product("pale", "foundation", "Pale fluid", "liquid", "silicone", lab=(58, 6, 8), cover=0.5)
WARM = Product("warm", "foundation", "Warm fluid", "liquid", "silicone", lab=(35, 13, 15), cover=0.5)


def test_a_pale_film_that_turns_grey_is_named_with_a_way_out_that_works():
    evaluation = evaluate(deep_plan(PALE, WARM), HOUSE)
    found = [each for each in evaluation.findings if each.rule == "turns-grey"]
    assert [each.steps for each in found] == [("f",)]
    assert "Pale fluid turns grey on this skin" in found[0].says
    assert found[0].fix is not None
    mended = evaluate(apply_edits(evaluation.sequence, found[0].fix.edits, evaluation.products), HOUSE)
    assert [each for each in mended.findings if each.rule == "turns-grey"] == []


def test_a_film_that_matches_does_not_turn_grey():
    assert [each for each in evaluate(deep_plan(WARM), HOUSE).findings if each.rule == "turns-grey"] == []


def test_without_another_item_the_grey_is_told_and_no_way_out_is_invented():
    found = [each for each in evaluate(deep_plan(PALE), HOUSE).findings if each.rule == "turns-grey"]
    assert len(found) == 1
    assert found[0].fix is None


MINERAL = Product("sun-m", "sunscreen", "Mineral veil", "liquid", "silicone", ml=50, contains=("zinc oxide",))
CLEAR = Product("sun-c", "sunscreen", "Clear one", "liquid", "silicone", ml=50)


def under_sunscreen(skin, kit) -> Sequence:
    zones = ("cheek_apple_l", "cheek_apple_r", "forehead_centre")
    step = one_portion("s", "sunscreen", zones, "sun-m", None, tool="fingers", motion="press")
    return Sequence("overpainted", Case(Sitter("Anon", Colour(skin)), Intent(), kit), (step,))


def test_a_mineral_sunscreen_greys_deep_skin_and_not_light_skin():
    greys = [veil_greys(MINERAL, lab, HOUSE) for lab in ((74, 9, 14), (34, 12, 13))]
    assert greys[1] > HOUSE.grey_shows
    assert veil_greys(CLEAR, (34, 12, 13), HOUSE) == 0.0
    tinted = replace(MINERAL, lab=(36, 14, 17), cover=0.06)
    assert veil_greys(tinted, (34, 12, 13), HOUSE) < greys[1] / 3
    assert scatter_exponent(MINERAL, HOUSE) == HOUSE.mineral_scatter_exponent


def test_a_mineral_veil_on_deep_skin_is_named_with_a_way_out_that_works():
    evaluation = evaluate(under_sunscreen((34, 12, 13), (MINERAL, CLEAR)), HOUSE)
    found = [each for each in evaluation.findings if each.rule == "turns-grey"]
    assert [each.steps for each in found] == [("s",)]
    assert "Mineral veil turns grey on this skin" in found[0].says
    mended = evaluate(apply_edits(evaluation.sequence, found[0].fix.edits, evaluation.products), HOUSE)
    assert not [each for each in mended.findings if each.rule == "turns-grey"]
    alone = evaluate(under_sunscreen((34, 12, 13), (MINERAL,)), HOUSE)
    told = [each for each in alone.findings if each.rule == "turns-grey"]
    assert [(each.severity, each.fix) for each in told] == [("advice", None)]


def test_the_planner_takes_the_sunscreen_that_leaves_no_veil(people):
    for kit in ((MINERAL, CLEAR), (CLEAR, MINERAL)):
        rest = tuple(item for item in people["Merrick"].kit if item.role != "sunscreen")
        planned = plan_in("overpainted", replace(people["Merrick"], kit=(*rest, *kit)), HOUSE)
        assert [step.item for step in planned.steps if step.kind == "sunscreen"] == ["sun-c"]


def test_a_corrector_that_would_turn_a_zone_grey_is_left_out_and_said():
    """Strong darkness round the mouth, corrected over the foundation with a kit whose nearest hue is too pale for it."""
    case = next(islice(wild(193, seed=77), 192, None))
    assert case.intent.options.corrector == "after_foundation"
    made = plan(case, HOUSE)
    left = {bare.zone: bare.why for bare in made.left_bare if bare.kind == "correct"}
    assert "turning grey" in left["cheek_hollow_l"]
    assert not any(step.kind == "correct" and "cheek_hollow_l" in step.zones for step in made.steps)
    findings = evaluate(made, HOUSE, try_fixes=False).findings
    assert [finding.rule for finding in findings if finding.severity != "advice"] == []


def test_a_film_that_lies_as_another_does_looks_nearly_as_the_plan_that_takes_its_item():
    """What sorts out the items that are not tried in the whole plan."""
    looked, off = 0, []
    for number in range(4):
        sequence = plan(drawn(Random(f"grey {number}"), HOUSE).case, HOUSE)
        evaluation = evaluate(sequence, HOUSE, try_fixes=False)
        judged = Judged(sequence, evaluation.reading, evaluation.products, evaluation.house, evaluation.course)
        target = np.array(judged.appearance.target)
        for step in sequence.steps:
            product = judged.product(step)
            if not step.lays or product is None or not product.tinted:
                continue
            columns = [ZONE_INDEX[zone] for zone in step.zones]
            for item in judged.products.values():
                if item.role == product.role and item.dry == product.dry and item.tinted:
                    alone = lab_of(judged.course.after.shown_as(columns, step.id, film_for(item, HOUSE)))
                    tried = replace_item(judged, step, item).course.after.lab[columns]
                    off.append(float(np.abs(ashiness(alone, target) - ashiness(tried, target)).max()))
                    looked += 1
    assert looked > 100
    assert max(off) < WORTH_A_WORD
    assert max(off) > 0, "none of them is told by the film alone exactly"


def test_an_item_without_colour_that_bares_grey_has_its_way_out_looked_for_too():
    clear = Product("clear", "powder", "Clear powder", "loose_powder", "powder")
    other = replace(clear, id="other", name="Other clear powder")
    sequence = deep_plan(PALE, clear, other)
    zones = ("cheek_apple_l", "cheek_apple_r")
    step = one_portion("s", "set", zones, "clear", 0.2, unit="mg_cm2", tool="puff", motion="press")
    evaluation = evaluate(replace(sequence, steps=(*sequence.steps, step)), HOUSE, try_fixes=False)
    judged = Judged(evaluation.sequence, evaluation.reading, evaluation.products, evaluation.house, evaluation.course)
    assert not judged.product(step).tinted
    found = _warmer(judged, step, judged.product(step), list(zones))
    # The other one greys as much, for it is the foundation that does.
    assert found is not None
    assert found.says == without(step, zones).says


def test_less_foundation_lies_over_a_corrector_at_the_edge_than_in_the_middle(people):
    """As much as the plan would lay there: its share of the film, on the ladder of amounts."""
    met = 0
    for case in people.values():
        middle, edge = (correct_zone(case, zone, HOUSE).above for zone in ("cheek_apple_l", "jaw_l"))
        if middle and edge:
            met += 1
            assert edge[0][0] == middle[0][0]
            assert edge[0][1] < middle[0][1]
    assert met > 3


def test_how_grey_a_face_is_told_of_the_finished_base(people):
    """Of what shows last, not of any layer on the way."""
    moved = 0
    for case in people.values():
        done = evaluate(plan(case, HOUSE), HOUSE, try_fixes=False)
        shown = done.appearance
        for zone, grey in zip(ZONES, shown.grey, strict=True):
            assert grey == pytest.approx(float(ashiness(shown.last_lab(zone), np.array(shown.target))))
        moved += float(abs(shown.grey - ashiness(shown.lab[1], np.array(shown.target))).max()) > 0.5
    assert moved > 3
