"""What the sitter is asked to do follows from what is done where, and is told."""

from __future__ import annotations

import pytest

from nabrel.core.ask.recommend import plan
from nabrel.core.house import House
from nabrel.core.planner.cues import cues_for
from nabrel.core.terms.steps import MIST_KINDS
from nabrel.core.terms.zones import COMPLEXION_ZONES, both
from tests.conftest import in_school

HOUSE = House()


@pytest.mark.parametrize(
    ("kind", "portions", "cues"),
    [
        ("setting_mist", [COMPLEXION_ZONES], ("eyes_closed", "shield_eyes")),
        ("shade", [(*both("temple"), *both("cheek_hollow")), ("under_jaw",)], ("suck_cheeks", "tilt_head")),
        ("colour", [both("cheek_apple")], ("smile_relax",)),
        ("colour", [both("cheekbone")], ()),
        ("conceal", [both("under_eye")], ("look_up",)),
        ("light", [("forehead_centre", *both("under_eye"))], ("look_up",)),
        ("foundation", [COMPLEXION_ZONES], ()),
        ("prime", [both("eyelid")], ("look_down",)),
        ("set", [("upper_lip",)], ("lips_together",)),
        ("light_check", [both("jaw")], ()),
        ("foundation", [()], ()),
    ],
)
def test_a_cue_goes_with_the_place(kind, portions, cues):
    assert cues_for(kind, portions) == cues


def test_every_mist_shields_the_eyes_and_every_under_eye_is_worked_looking_up(people):
    met = {"mist": 0, "eye": 0}
    for case in people.values():
        for step in plan(in_school(case, "overpainted"), HOUSE).steps:
            if step.kind in MIST_KINDS:
                met["mist"] += 1
                assert {"eyes_closed", "shield_eyes"} <= set(step.cue)
            if step.kind == "crease_check":
                met["eye"] += 1
                assert "look_up" in step.cue
    assert met["mist"] > 2
    assert met["eye"] > 2
