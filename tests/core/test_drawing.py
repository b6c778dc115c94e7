"""The face map as the core draws it: what the screens draw is held against the same file (frontend/tests/face.test.ts)."""

from __future__ import annotations

import json
import re
import xml.etree.ElementTree as ET
from dataclasses import asdict, replace
from pathlib import Path

import pytest

from nabrel.core.face.drawing import WORKED, drawn, face_svg, place_svg, shapes, sheet
from nabrel.core.face.proportions import Proportions
from nabrel.core.terms.looks import COVERED_INFO, HAIR_INFO
from nabrel.core.terms.zones import ZONES

DRAWN = Path(__file__).parent.parent / "data" / "face_drawing.json"
FACES = (
    Proportions(),
    Proportions(1.12, 0.9, 1.05, 1.1, 1.1, eye_down=True, nose_leans=1, hair="curly", covered=("glasses", "beard")),
    Proportions(jaw=1.1, nose_leans=-1, hair="none", covered=("fringe", "hairpiece", "mask")),
)
GREY = dict.fromkeys(ZONES, "#c0a090")


def paths(svg: str) -> list[str]:
    """Every path below the definitions, in drawing order."""
    return re.findall(r' d="([^"]+)"', svg.split("</defs>")[1])


def drawn_now() -> str:
    """The faces as they are drawn now, for the file that both languages are held to."""
    faces = [{"of": asdict(face), "paths": paths(face_svg(GREY, face))} for face in FACES]
    return json.dumps(faces, indent=1) + "\n"


def test_a_small_face_draws_neck_and_ears_beneath_the_face_in_every_order():
    """Whatever is asked for first: what lies behind comes first, each zone once, and nothing else is filled."""
    behind = {shape.zone for shape in shapes(Proportions()) if shape.behind}
    front = {shape.zone for shape in shapes(Proportions()) if not shape.behind}
    assert {"neck", "ear_l"} <= behind
    assert {"chin", "under_jaw"} & front
    for where in (("neck", "ear_l", "chin", "jaw_l"), ("jaw_l", "chin", "ear_l", "neck")):
        colours = {zone: f"#0000{place:02x}" for place, zone in enumerate(where)}
        small = place_svg(colours, Proportions())
        at = {zone: small.index(f'fill="{colour}"') for zone, colour in colours.items()}
        assert max(at["neck"], at["ear_l"]) < min(at["chin"], at["jaw_l"])
        assert all(small.count(f'fill="{colour}"') == 1 for colour in colours.values())
    worked = place_svg({}, Proportions(), also=("neck", "chin"))
    places = [
        worked.index(f'd="{shape.path}" fill="{WORKED}"')
        for shape in shapes(Proportions())
        if shape.zone in ("neck", "chin")
    ]
    assert len(places) == 2


def test_the_drawing_is_the_one_that_the_screens_are_held_to():
    assert DRAWN.read_text(encoding="utf-8") == drawn_now(), "python -m tests.core.test_drawing writes it anew"


@pytest.mark.parametrize("hair", HAIR_INFO)
def test_every_hair_with_everything_over_the_face_is_a_drawing(hair):
    found = ET.fromstring(face_svg(GREY, replace(Proportions(), hair=hair, covered=tuple(COVERED_INFO))))
    assert found.tag.endswith("svg")
    assert len(list(found.iter())) > 80


def test_each_zone_is_drawn_once_in_its_own_colour():
    colours = {zone: f"#1000{number:02x}" for number, zone in enumerate(ZONES)}
    svg = face_svg(colours, Proportions())
    assert {shape.zone for shape in shapes(Proportions())} == set(ZONES)
    for zone, colour in colours.items():
        assert f'fill="{colour}"' in svg, zone


def test_what_is_not_there_is_not_drawn():
    bald = replace(Proportions(), hair="none")
    plain, worn = (len(paths(face_svg(GREY, each))) for each in (bald, replace(bald, covered=("glasses",))))
    assert worn == plain + 5
    assert len(paths(face_svg(GREY, Proportions()))) == plain + 2, "the hair behind the face, and its edge in front"


def test_a_small_face_fills_the_zones_of_a_step_and_edges_them_for_grey_print():
    small = place_svg({"chin": "#aa7755", "neck": "#aa7750"}, Proportions(), also=("lips",))
    ET.fromstring(small)
    assert small.count('fill="#aa7755" stroke="#222222"') == 1
    assert small.count('fill="#aa7750" stroke="#222222"') == 1
    assert small.count(f'fill="{WORKED}"') == 1


def test_a_path_moves_with_the_face_and_mirrors_across_its_middle():
    assert drawn("M160 46 L77 244 Z", Proportions()) == "M160.0 46.0 L77.0 244.0 Z"
    assert drawn("M100 200 L160 210", Proportions(), mirrored=True) == "M220.0 200.0 L160.0 210.0"
    assert drawn("M80 290", Proportions(jaw=0.9)) == "M88.0 290.0"
    assert sheet()["middle"] == 160


if __name__ == "__main__":
    DRAWN.write_text(drawn_now(), encoding="utf-8")
