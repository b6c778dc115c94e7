"""Weigh, versions, accepted findings and recorded runs in the real interface."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import each_screen, serious


@pytest.fixture
def bram(quiet: Page, live: str) -> Page:
    """The Layer room on a plan with one finding, which the planner accepted."""
    quiet.goto(live)
    quiet.get_by_role("link", name=re.compile("Bram")).click()
    expect(quiet.get_by_role("heading", name="Bram")).to_be_visible()
    quiet.get_by_role("button", name="Open the plan").click()
    expect(quiet.get_by_role("group", name="Section through the base")).to_be_visible()
    quiet.mouse.move(2, 2)
    return quiet


@pytest.fixture
def weigh(bram: Page) -> Page:
    bram.keyboard.press("g")
    expect(bram.get_by_role("region", name="Candidate B")).to_be_visible()
    return bram


def test_a_finding_is_accepted_and_speaks_again(bram: Page):
    findings = bram.get_by_role("region", name="Findings")
    expect(findings).to_contain_text("Nothing to fix")
    findings.get_by_text("Accepted (1)").click()
    expect(findings).to_contain_text("a blot is planned after")
    findings.get_by_role("button", name="Let it speak again").click()
    expect(findings).to_contain_text("1 finding, 0 to mend")
    findings.get_by_role("button", name="Accept, because").first.click()
    findings.get_by_label("Because").fill("he blots at three")
    assert serious(bram) == []
    findings.get_by_role("button", name="Accept it").click()
    expect(findings).to_contain_text("Nothing to fix")
    bram.reload()
    findings.get_by_text("Accepted (1)").click()
    expect(findings).to_contain_text("he blots at three")
    findings.get_by_role("button", name="Let it speak again").click()
    expect(findings).to_contain_text("1 finding")


def test_a_version_is_named_compared_and_brought_back(bram: Page):
    bram.keyboard.press("v")
    dialog = bram.get_by_role("dialog", name="Versions of this plan")
    dialog.get_by_label("Name for the current plan").fill("Before the storm")
    dialog.get_by_role("button", name="Name it").click()
    expect(dialog.get_by_role("listitem")).to_contain_text("Before the storm")
    assert serious(bram) == []
    bram.keyboard.press("Escape")
    bram.get_by_role("button", name=re.compile("Foundation")).first.click()
    bram.keyboard.press("Delete")
    expect(bram.get_by_role("button", name="Undo")).to_be_enabled()
    bram.keyboard.press("v")
    dialog.get_by_role("button", name=re.compile("^What changed since.*Before the storm")).click()
    expect(dialog).to_contain_text("Steps")
    dialog.get_by_role("button", name=re.compile("^Bring it back.*Before the storm")).click()
    expect(dialog).to_have_count(0)
    expect(bram.get_by_role("button", name="Undo")).to_have_attribute("title", "Undo: Back to Before the storm")


def test_changes_are_told_between_any_two_versions(bram: Page):
    dialog = bram.get_by_role("dialog", name="Versions of this plan")

    def named(name: str) -> None:
        bram.keyboard.press("v")
        dialog.get_by_label("Name for the current plan").fill(name)
        dialog.get_by_role("button", name="Name it").click()
        expect(dialog.get_by_role("listitem").filter(has_text=name)).to_be_visible()
        bram.keyboard.press("Escape")
        expect(dialog).to_have_count(0)

    named("Before the storm")
    for name in ("Without foundation", "Without colour"):
        bram.get_by_role("button", name=re.compile(name.split()[1].capitalize())).first.click()
        bram.keyboard.press("Delete")
        expect(bram.get_by_role("button", name="Undo")).to_have_attribute("title", re.compile(name.split()[1]))
        named(name)
    bram.keyboard.press("v")
    expect(dialog.get_by_role("button", name=re.compile("^What changed"))).to_have_count(2)
    dialog.get_by_role("combobox", name=re.compile("^Tell changes against: Without colour")).click()
    bram.get_by_role("option", name="Without foundation").click()
    dialog.get_by_role("button", name=re.compile("^What changed until.*Without colour")).click()
    told = dialog.get_by_role("listitem").filter(has_text="From Without foundation to Without colour")
    expect(told).to_contain_text("Steps")
    assert serious(bram) == []
    dialog.get_by_role("button", name=re.compile("^What changed since.*Before the storm")).click()
    expect(dialog).to_contain_text("From Before the storm to Without foundation")
    expect(dialog).not_to_contain_text("From Without foundation to Without colour")


def test_a_run_takes_from_the_shelf_and_uses_tools(bram: Page, live: str):
    bram.keyboard.press("d")
    dialog = bram.get_by_role("dialog", name="Subtract from stock")
    assert serious(bram) == []
    dialog.get_by_role("button", name="Record it").click()
    expect(bram.get_by_text(re.compile("^Recorded: "))).to_be_visible()
    bram.goto(f"{live}/shelf")
    expect(bram.get_by_role("row").filter(has_text="Milk cleanser")).to_be_visible()
    assert bram.get_by_role("row").filter(has_text="% left").count() > 5


def test_the_face_stands_beside_bare_skin_and_the_aim(bram: Page):
    bram.get_by_role("combobox", name="Beside: Nothing").click()
    bram.get_by_role("option", name="Bare skin").click()
    expect(bram.get_by_role("img", name=re.compile("^bare skin, on the viewer's right"))).to_be_visible()
    line = bram.get_by_role("slider", name=re.compile("^Line between"))
    expect(line).to_have_attribute("aria-valuetext", "half faces")
    line.press("ArrowRight")
    expect(line).to_have_attribute("aria-valuetext", re.compile("^51 %"))
    assert serious(bram) == []


def test_two_candidates_stand_side_by_side_with_their_figures(weigh: Page):
    expect(weigh.get_by_role("region", name="Candidate A")).to_contain_text("Current version (this plan)")
    best = weigh.get_by_role("region", name="What is recommended")
    expect(best).to_contain_text(re.compile(r"Of these, [AB]\. [^.]+ suits this face\s+best:"))
    expect(weigh.get_by_text("★ suits best")).to_have_count(1)
    table = weigh.get_by_role("region", name="Figures that differ")
    expect(table.get_by_text("★ best").first).to_be_visible()
    expect(table.get_by_role("rowheader").filter(has_text="Shade that shows")).to_contain_text("is wanted")
    expect(weigh.get_by_role("group", name=re.compile("^Section of"))).to_have_count(2)
    assert serious(weigh) == []


def test_up_to_four_candidates_of_school_foundation_and_light(weigh: Page):
    weigh.keyboard.press("a")
    expect(weigh.get_by_role("region", name="Candidate C")).to_be_visible()
    weigh.get_by_role("button", name="Candidate", exact=True).click()
    expect(weigh.get_by_role("region", name="Candidate D")).to_be_visible()
    expect(weigh.get_by_role("button", name="Candidate", exact=True)).to_be_disabled()
    weigh.get_by_role("combobox", name=re.compile("^Light of D")).click()
    weigh.get_by_role("option", name="Warm lamp").click()
    expect(weigh.get_by_role("region", name="Candidate D")).to_contain_text("warm lamp")
    weigh.get_by_role("combobox", name=re.compile("^Foundation of C")).click()
    weigh.get_by_role("option", name="Full matt 5").click()
    expect(weigh.get_by_role("region", name="Candidate C")).to_contain_text("Full matt 5")
    weigh.get_by_role("button", name="Leave candidate D out").click()
    expect(weigh.get_by_role("region", name="Candidate D")).to_have_count(0)


def test_a_zone_is_read_in_every_candidate(weigh: Page):
    sections = weigh.get_by_role("region", name="Sections")
    expect(sections).to_contain_text("point at a zone")
    sections.get_by_role("group", name="Section of B").locator('[data-zone="nose_tip"]').hover()
    expect(sections).to_contain_text("Nose tip")
    expect(sections.get_by_text(re.compile(r"µm of the \d+\.\d µm it carries; crease"))).to_have_count(2)
    box = [
        sections.get_by_role("group", name=f"Section of {letter}").locator("svg").bounding_box()
        for letter in ("A", "B")
    ]
    assert (box[0]["x"], box[0]["width"]) == (box[1]["x"], box[1]["width"])


def test_what_stands_side_by_side_survives_a_reload_and_can_be_sent(weigh: Page, live: str):
    weigh.get_by_role("combobox", name=re.compile("^School of B")).click()
    weigh.get_by_role("option", name="Doubled").click()
    expect(weigh.get_by_role("region", name="Candidate B")).to_contain_text("Doubled")
    weigh.get_by_role("combobox", name=re.compile("^Light of A")).click()
    weigh.get_by_role("option", name="Flash").click()
    expect(weigh.get_by_role("region", name="Candidate A")).to_contain_text("flash")
    weigh.reload()
    expect(weigh.get_by_role("region", name="Candidate B")).to_contain_text("Doubled")
    expect(weigh.get_by_role("combobox", name="Light of A: Flash")).to_be_visible()
    weigh.goto(re.sub("school:doubled|school%3Adoubled", "school:seventh", weigh.url))
    expect(weigh.get_by_role("alert")).to_contain_text("candidates")
    weigh.get_by_role("button", name="Try again").click()
    expect(weigh.get_by_role("region", name="Candidate B")).to_be_visible()


def test_the_school_that_suits_best_is_offered_where_it_is_not_weighed(weigh: Page):
    for letter, school in (("A", "Light-led"), ("B", "Two-tone")):
        weigh.get_by_role("combobox", name=re.compile(f"^School of {letter}")).click()
        weigh.get_by_role("option", name=school).click()
        expect(weigh.get_by_role("combobox", name=f"School of {letter}: {school}")).to_be_visible()
    best = weigh.get_by_role("region", name="What is recommended")
    expect(best).to_contain_text("Of all six schools")
    best.get_by_role("button", name="Weigh it too").click()
    expect(weigh.get_by_role("region", name="Candidate C")).to_contain_text("★ suits best")
    expect(best).not_to_contain_text("Of all six schools")


def test_a_plan_changed_meanwhile_is_weighed_anew_before_it_is_taken(weigh: Page):
    other = weigh.context.new_page()
    other.goto(weigh.url.replace("/weigh/", "/plans/").split("?")[0])
    other.get_by_role("list", name="Order of steps").get_by_role("button").filter(has_text="Foundation").first.click()
    other.keyboard.press("Delete")
    expect(other.get_by_role("button", name="Undo")).to_be_enabled()
    film = weigh.get_by_role("row").filter(has_text="Film, mean of zones")
    before = film.inner_text()
    weigh.get_by_role("button", name="Take B").click()
    expect(weigh.get_by_role("alert")).to_contain_text("weighed anew")
    expect(film).not_to_have_text(before)
    expect(weigh.get_by_role("region", name="Candidate B")).to_be_visible()
    weigh.get_by_role("button", name="Take B").click()
    expect(weigh.get_by_role("button", name="Undo")).to_have_attribute("title", re.compile("^Undo: Weighed: "))


def test_an_address_that_asks_for_what_is_not_there_is_refused_by_name(weigh: Page):
    for query, says in (
        ("a=&b=version:last", "version 'last'; a whole number"),
        ("a=&b=colour:blue", "asks for 'colour'"),
        ("a=&b=version:999", "version"),
        ("a=&b=foundation:nothing", "nothing"),
        ("a=%25&b=light:moon", "asks for '%'"),
        ("a=&b=light:moon", "light"),
    ):
        weigh.goto(f"{weigh.url.split('?')[0]}?{query}")
        expect(weigh.get_by_role("alert")).to_contain_text(says)
    weigh.get_by_role("button", name="Try again").click()
    expect(weigh.get_by_role("region", name="Candidate B")).to_be_visible()


def test_an_address_of_one_candidate_or_none_gives_the_usual_two(weigh: Page):
    for query in ("", "?a=school:doubled", "?c=school:doubled"):
        weigh.goto(weigh.url.split("?")[0] + query)
        expect(weigh.get_by_role("region", name="Candidate B")).to_be_visible()
        expect(weigh.get_by_role("region", name="Candidate A")).to_contain_text("Current version")
        expect(weigh.get_by_role("region", name="Candidate C")).to_have_count(0)


def test_half_faces_show_two_candidates_on_one_face(weigh: Page):
    halves = weigh.get_by_role("region", name="Half faces")
    expect(halves.get_by_role("img", name=re.compile("^Current version, on the viewer's left"))).to_be_visible()
    expect(halves.get_by_role("img", name=re.compile("on the viewer's right"))).to_be_visible()
    halves.get_by_role("slider").fill("80")
    expect(halves.get_by_role("slider")).to_have_attribute("aria-valuetext", re.compile("^80 %"))


def test_the_candidate_that_is_taken_becomes_the_plan(weigh: Page):
    weigh.get_by_role("button", name="Take B").click()
    expect(weigh.get_by_role("group", name="Section through the base")).to_be_visible()
    expect(weigh.get_by_role("button", name="Undo")).to_have_attribute("title", re.compile("^Undo: Weighed: "))


def test_a_plan_that_is_not_there_cannot_be_weighed(quiet: Page, live: str):
    quiet.goto(f"{live}/weigh/nothing")
    expect(quiet.get_by_role("alert")).to_contain_text("could not be weighed")
    assert serious(quiet) == []


def test_the_weigh_room_never_overflows_sideways(weigh: Page):
    for _ in each_screen(weigh):
        expect(weigh.get_by_role("main")).to_be_visible()
