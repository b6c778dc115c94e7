"""How grave a finding is follows what the breach does on this face; what it says carries the figure it rests on."""

from __future__ import annotations

import ast
import inspect
import re
from dataclasses import replace

import pytest

from nabrel.core.ask.recommend import plan
from nabrel.core.base.possible import apply_edits
from nabrel.core.case.sitter import Measures
from nabrel.core.face.reading import read
from nabrel.core.house import House
from nabrel.core.judge.evaluate import evaluate, products_of, rule_book
from nabrel.core.plan.edits import Add, Remove, SetAmount, SetHand, SetProduct, SetWait, SetZones
from nabrel.core.terms.looks import SEVERITY_INFO
from tests.conftest import in_school

HOUSE = House()


def first(sequence, kind, zone=None):
    return next(s.id for s in sequence.steps if s.kind == kind and (zone is None or zone in s.zones))


def planned(people, who, school=None, sitter=None, **wish):
    case = people[who]
    case = replace(case, intent=replace(case.intent, **wish), sitter=replace(case.sitter, **(sitter or {})))
    return plan(case if school is None else in_school(case, school), HOUSE)


def edited(sequence, *edits):
    return apply_edits(sequence, list(edits), products_of(sequence, read(sequence.case, HOUSE)))


def found(sequence, rule):
    return [each for each in evaluate(sequence, HOUSE, try_fixes=False).findings if each.rule == rule]


def worst(sequence, rule):
    """The gravest finding of a rule, None where it says nothing."""
    return max(found(sequence, rule), key=lambda each: SEVERITY_INFO[each.severity].rank, default=None)


def test_a_rule_never_finds_more_than_its_gravest():
    """Fixes are tried against what is graver only: a rule must say how far it goes."""
    checked = 0
    for rule in rule_book().values():
        most = SEVERITY_INFO[rule.at_worst or rule.severity].rank
        for node in ast.walk(ast.parse(inspect.getsource(rule.check))):
            if isinstance(node, ast.Constant) and node.value in SEVERITY_INFO:
                checked += 1
                assert SEVERITY_INFO[node.value].rank <= most, rule.id
    assert checked > 10


@pytest.mark.parametrize(("wait", "severity"), [(0.0, "problem"), (20.0, "advice")])
def test_no_wait_at_all_after_a_primer_is_a_problem_and_a_short_one_advice(people, wait, severity):
    sequence = planned(people, "Wren")
    primer = first(sequence, "prime")
    finding = worst(edited(sequence, SetWait(primer, wait)), "let-it-settle")
    assert finding.severity == severity
    assert "it wants about 45 s" in finding.says


def test_work_elsewhere_counts_as_a_wait(people):
    """Fifteen minutes of other care between cream and base are fifteen minutes, whatever the step itself says."""
    sequence = planned(people, "Wren")
    cream, eye = first(sequence, "moisturise"), first(sequence, "eye_care")
    assert found(edited(sequence, SetWait(cream, 0.0), SetWait(eye, 900.0)), "let-it-settle") == []


def test_powder_pressed_into_a_wet_mist_is_a_problem(people):
    sequence = planned(people, "Bram")
    at = first(sequence, "set")
    zones = sequence.step(at).portions[0].zones[:2]
    misted = edited(sequence, Add("melting_mist", zones, at, "mist-melt", tool="fingers", motion="mist", wait_s=0.0))
    finding = worst(misted, "let-it-settle")
    assert finding.severity == "problem"
    assert "melting mist" in finding.says.lower()


@pytest.mark.parametrize(("lines", "severity"), [(2, "problem"), (1, "advice")])
def test_powder_over_an_unsmoothed_crease_follows_the_line(people, lines, severity):
    wren = people["Wren"]
    zones = {
        zone: replace(skin, conditions={**skin.conditions, "fine_lines": lines, "creping": 0, "deep_fold": lines})
        for zone, skin in wren.sitter.zones.items()
    }
    sequence = planned(people, "Wren", sitter={"zones": zones, "preset": "normal"})
    finding = worst(edited(sequence, Remove(first(sequence, "crease_check"))), "crease-check-before-powder")
    assert finding.severity == severity
    assert re.search(r"\d\.\d µm lies in a line of severity", finding.says)


def test_a_hue_where_nothing_was_read_is_a_problem_where_it_shows(people):
    sequence = planned(people, "Dunstan")
    at = first(sequence, "foundation")
    bare = next(z for z in ("nose_tip", "temple_l", "forehead_centre")
                if not read(sequence.case, HOUSE).zones[z].discolorations)  # fmt: skip

    def laid(film):
        green = Add("correct", (bare,), at, "cor-green", amount=film, tool="fingers", motion="press")
        return worst(edited(sequence, green), "corrector-within-patch")

    assert laid(6.5).severity == "problem"
    assert re.search(r"ΔE00 \d+\.\d further off", laid(6.5).says)
    assert laid(0.5).severity == "advice"


@pytest.mark.parametrize(("amount", "severity"), [(0.8, "problem"), (0.05, None)])
def test_flare_under_a_flash_that_will_fire_grows_with_the_powder(people, amount, severity):
    sequence = planned(people, "Merrick", lights=("flash",))
    at = [s.id for s in sequence.steps if s.kind == "set"][-1]
    whole = edited(sequence, SetProduct(at, "pow-silica"),
                   *(SetAmount(at, amount, place) for place in range(len(sequence.step(at).portions))))  # fmt: skip
    finding = worst(whole, "flash-flare")
    assert (finding.severity if finding else None) == severity
    by_day = replace(whole, case=replace(whole.case, intent=replace(whole.case.intent, lights=("daylight",))))
    assert found(by_day, "flash-flare") == []


def test_shade_along_the_hairline_of_a_low_forehead_is_a_problem_where_it_shows(people):
    low = replace(people["Tamsin"].sitter.measures or Measures(), forehead_fingers=2.0)
    sequence = planned(people, "Tamsin", "overpainted", sitter={"measures": low})
    at = first(sequence, "shade")
    zones = sequence.step(at).zones
    assert not {"temple_l", "temple_r"} & set(zones)
    copied = edited(sequence, SetZones(at, (*zones, "temple_l", "temple_r")))
    finding = worst(copied, "placed-for-this-face")
    assert finding.severity == "problem"
    assert re.search(r"where \d\.\d L\* of it shows", finding.says)
    trace = edited(copied, *(SetAmount(at, 0.5, place) for place in range(len(copied.step(at).portions))))
    assert worst(trace, "placed-for-this-face").severity == "advice"


def test_one_sponge_for_dark_then_light_without_cleaning_is_judged_by_the_lift_it_takes(people):
    sequence = planned(people, "Tamsin", order="shade_first")
    shade, light = first(sequence, "shade"), first(sequence, "light")
    one = [
        SetHand(step, "damp_sponge", "press", portion=place)
        for step in (shade, light)
        for place in range(len(sequence.step(step).portions))
    ]
    heavy = edited(sequence, *one, SetAmount(shade, 9.5, 0), SetAmount(light, 1.0, 0))
    finding = worst(heavy, "values-stay-apart")
    assert finding.severity == "problem"
    lost = float(re.search(r"(\d+\.\d) L\* of the lift is lost", finding.says)[1])
    assert lost > HOUSE.lift_lost_l
    assert found(sequence, "values-stay-apart") == []


@pytest.mark.parametrize(("hours", "severity"), [(12.0, "problem"), (4.0, "advice")])
def test_an_under_eye_left_wet_is_graver_the_longer_the_day(people, hours, severity):
    sequence = planned(people, "Wren", wear_hours=hours)
    under = both_eyes = ("under_eye_l", "under_eye_r")
    setting = [s for s in sequence.steps if s.kind in ("set", "crease_check") and set(s.zones) & set(under)]
    assert setting
    edits = [
        SetZones(s.id, tuple(z for z in s.zones if z not in both_eyes)) for s in setting if set(s.zones) - set(under)
    ]
    edits += [Remove(s.id) for s in setting if not set(s.zones) - set(under)]
    wet = edited(
        sequence, *edits, Add("conceal", under, setting[0].id, "press-2", amount=6.5, tool="fingers", motion="press")
    )
    finding = worst(wet, "what-creases-is-set")
    assert finding.severity == severity
    assert "forecast crease is" in finding.says
