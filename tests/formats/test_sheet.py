"""The one-page sheet: what it says is the plan's, and it is one page."""

from __future__ import annotations

import xml.etree.ElementTree as ET
from dataclasses import replace
from pathlib import Path

import pytest

from nabrel.core.ask.recommend import plan
from nabrel.core.documents.sheet import sheet_of
from nabrel.core.judge.evaluate import evaluate
from nabrel.core.terms.hands import MOTION_INFO, TOOL_INFO
from nabrel.core.terms.schools import SCHOOL_INFO
from nabrel.core.terms.steps import STEP_INFO
from nabrel.core.terms.zones import ZONE_INDEX
from nabrel.formats.sheet import Print, hand_svg, sheet_pages, sheet_pdf
from tests.commands import run

EXAMPLE = Path(__file__).parents[2] / "examples" / "wren.sequence.json"


@pytest.fixture(scope="module")
def evaluations(people, house):
    """Every demo sitter in every school."""
    found = []
    for case in people.values():
        for school in SCHOOL_INFO:
            wished = replace(case, intent=replace(case.intent, school=school))
            found.append(evaluate(plan(wished, house), house, try_fixes=False))
    return found


def test_a_demo_plan_is_one_page_of_either_paper(evaluations):
    assert len(evaluations) == 48
    longest = sorted(evaluations, key=lambda each: -len(each.sequence.steps))
    assert len(longest[0].sequence.steps) >= 20
    # Every face and every school on one of the two papers, the fullest plans on both.
    papers, schools = [Print(), Print("letter")], len(SCHOOL_INFO)
    places = [divmod(place, schools) for place in range(len(evaluations))]
    asked = [(evaluations[face * schools + one], papers[face % 2]) for face, one in places if (face + one) % 3 == 0]
    asked += [(each, paper) for each in longest[:4] for paper in papers]
    assert {each.sequence.school for each, _ in asked} == set(SCHOOL_INFO)
    more = [each.sequence.title for each, paper in asked if len(sheet_pages(sheet_of(each), paper)) != 1]
    assert more == []


def test_twenty_four_steps_are_one_page_too(evaluations, house):
    longest = max(evaluations, key=lambda each: len(each.sequence.steps)).sequence
    steps = list(longest.steps)
    while len(steps) < 24:
        steps.append(replace(steps[-2], id=f"again-{len(steps)}"))
    sheet = sheet_of(evaluate(replace(longest, steps=tuple(steps)), house, try_fixes=False))
    assert len(sheet.steps) == 24
    for paper in ("a4", "letter"):
        assert len(sheet_pages(sheet, Print(paper))) == 1, paper


def test_the_sheet_says_what_the_plan_says(evaluations):
    looked = 0
    for each in evaluations:
        sheet = sheet_of(each)
        assert [step.number for step in sheet.steps] == list(range(1, len(each.sequence.steps) + 1))
        for shown, step, done in zip(sheet.steps, each.sequence.steps, each.course.done, strict=True):
            assert shown.title == STEP_INFO[step.kind].words
            assert shown.why
            assert shown.take == (done.take.words if done.take and done.mixed else "")
            used = [item.name for item, _ in done.mixed.items] if done.mixed else []
            assert [swatch.name for swatch in shown.products] == used
            assert {hand.tool for hand in shown.hands} <= {*step.tools, None}
            after = each.appearance.hexes[shown.number]
            for zone, colour in shown.colours.items():
                assert colour == after[ZONE_INDEX[zone]]
                looked += 1
    assert looked > 2500


def test_every_tool_and_motion_has_its_own_drawing():
    drawn = [hand_svg("tools", each) for each in TOOL_INFO] + [hand_svg("motions", each) for each in MOTION_INFO]
    assert len(set(drawn)) == len(TOOL_INFO) + len(MOTION_INFO)
    for svg in drawn:
        assert len(list(ET.fromstring(svg).iter())) >= 3


def test_left_handed_turns_the_tools_and_never_the_face(evaluations):
    sheet = sheet_of(evaluations[0])
    right, left = (sheet_pages(sheet, Print(left_handed=turned)) for turned in (False, True))
    assert len(left) == len(right) == 1
    assert left != right
    assert "matrix(-1" in hand_svg("tools", "angled_brush", mirrored=True)
    assert hand_svg("tools", "angled_brush", mirrored=True) != hand_svg("tools", "angled_brush")


def test_large_type_takes_the_pages_it_needs(evaluations):
    assert len(sheet_pages(sheet_of(evaluations[0]), Print(large=True))) > 1


def test_the_pdf_is_tagged_and_whatever_a_name_is_written_in_is_printed(evaluations, house):
    plain = sheet_pdf(sheet_of(evaluations[0]), Print())
    assert plain.startswith(b"%PDF")
    assert b"StructTreeRoot" in plain
    for name in ("Ōtomo Ж Ω", "紅", "<b>*Wren*</b> #set \\u{1} $x$ @you", "W" * 60):
        sheet = replace(sheet_of(evaluations[0]), title=name)
        made = sheet_pdf(sheet, Print())
        assert made.startswith(b"%PDF"), name
        assert len(sheet_pages(sheet, Print())) == 1, name


def test_clean_ends_are_asked_for_where_one_tool_lays_dark_and_pale_or_wet_and_powder(evaluations, house):
    said = {sheet_of(each).clean_ends for each in evaluations}
    assert "" in said
    assert any("dry angled brush for powder" in each for each in said)
    plain = next(each.sequence for each in evaluations if {"light", "shade"} <= {s.kind for s in each.sequence.steps})
    light = next(step for step in plain.steps if step.kind == "light")
    steps = tuple(
        replace(step, portions=tuple(replace(each, tool=light.portions[0].tool) for each in step.portions))
        if step.kind == "shade"
        else step
        for step in plain.steps
    )
    ends = sheet_of(evaluate(replace(plain, steps=steps), house, try_fixes=False)).clean_ends
    assert ends == f"Two clean ends of the {TOOL_INFO[light.portions[0].tool].words}, pale and dark."


def test_the_command_writes_a_file_or_standard_output(tmp_path):
    target = tmp_path / "sheet.pdf"
    assert run("sheet", str(EXAMPLE), "-o", str(target)).returncode == 0
    assert target.read_bytes().startswith(b"%PDF")
    piped = run("sheet", "-", "-o", "-", "--paper", "letter", "--large", text=EXAMPLE.read_bytes())
    assert piped.returncode == 0
    assert piped.out.startswith(b"%PDF")


@pytest.mark.parametrize(
    ("arguments", "said"),
    [
        (["--paper", "a3"], b"--paper: found 'a3'; allowed: one of a4, letter"),
        (["-o", "/nowhere/at/all.pdf"], b"--output: found '/nowhere/at/all.pdf'"),
    ],
)
def test_the_command_refuses_in_one_line(arguments, said, tmp_path):
    given = arguments if "-o" in arguments else [*arguments, "-o", str(tmp_path / "x.pdf")]
    refused = run("sheet", str(EXAMPLE), *given)
    assert refused.returncode == 2
    assert said in refused.err
    assert refused.err.count(b"\n") == 1
    assert list(tmp_path.iterdir()) == []
