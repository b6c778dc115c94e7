"""Looking at a plan: how far from the aim, half faces of two versions, findings by cause, showing and printing."""

from __future__ import annotations

import re
from pathlib import Path

from playwright.sync_api import Locator, Page, expect

from tests.browser.conftest import SCREENS, each_screen, serious
from tests.browser.test_layer import AMOUNT, LESS, MORE, choose, chosen, order

PROJECTOR = (1920, 1080)


def beside(page: Page, words: str) -> None:
    page.get_by_role("combobox", name=re.compile("^Beside")).click()
    page.get_by_role("option", name=words).click()


def amount(page: Page, film: str) -> None:
    page.get_by_label(AMOUNT).fill(film)
    page.get_by_label(AMOUNT).press("Enter")
    expect(page.get_by_label(AMOUNT)).to_have_value(film)
    expect(page.get_by_role("main")).to_have_attribute("aria-busy", "false")


def full_matt(page: Page) -> None:
    choose(page, "Foundation")
    page.get_by_role("button", name="Swap the product").click()
    page.get_by_role("button", name="Full matt 2").click()
    expect(page.get_by_role("region", name="Findings")).to_contain_text("The light is lost")


def findings(page: Page) -> Locator:
    return page.get_by_role("region", name="Findings", exact=True)


def row_of(page: Page, kind: str) -> Locator:
    return order(page).get_by_role("button").filter(has_text=kind).first


# The face


def test_how_far_the_base_is_from_its_aim_is_mapped_and_told(bench: Page):
    beside(bench, "How far from the aim")
    face = bench.get_by_role("region", name="The face")
    told = face.get_by_role("status")
    expect(told).to_contain_text("ΔE00 from what is intended; furthest")
    done = told.inner_text()
    expect(face.get_by_role("img", name=re.compile("How far Wren is from the aim, after light check"))).to_be_visible()
    expect(face).to_contain_text("on purpose")
    assert serious(bench) == []
    bench.get_by_role("slider", name="Layer shown").press("Home")
    expect(told).not_to_have_text(done)
    expect(face.get_by_role("img", name=re.compile("bare skin"))).to_be_visible()
    bench.get_by_role("group", name="Section through the base").locator('[data-zone="under_eye_l"]').hover()
    expect(told).to_contain_text(re.compile(r"Under-eye, left:\s+\d+\.\d ΔE00, "))


def test_two_versions_are_held_as_half_faces(bench: Page):
    choose(bench, "Foundation")
    amount(bench, "14")
    bench.get_by_role("slider", name="Layer shown").press("End")
    beside(bench, "Before the last change")
    line = bench.get_by_role("slider", name=re.compile("^Line between after light check and Revision"))
    expect(line).to_have_attribute("aria-valuetext", "half faces")
    assert serious(bench) == []
    bench.get_by_role("button", name="Versions").click()
    versions = bench.get_by_role("dialog", name="Versions of this plan")
    versions.get_by_role("textbox").fill("The heavy one")
    versions.get_by_role("button", name="Name it").click()
    expect(versions).to_contain_text("The heavy one")
    bench.keyboard.press("Escape")
    choose(bench, "Foundation")
    amount(bench, "4.5")
    beside(bench, "The heavy one")
    expect(bench.get_by_role("slider", name=re.compile("and The heavy one$"))).to_be_visible()


def test_the_base_is_built_by_itself_and_stops_at_the_end(bench: Page):
    layer = bench.get_by_role("slider", name="Layer shown")
    layer.fill("16")
    bench.get_by_role("button", name="Build the base layer by layer").click()
    expect(bench.get_by_role("button", name="Stop building")).to_be_visible()
    expect(layer).to_have_attribute("aria-valuetext", "after light check")
    expect(bench.get_by_role("button", name="Build the base layer by layer")).to_be_visible()
    bench.keyboard.press("b")
    expect(layer).to_have_attribute("aria-valuetext", "bare skin")
    expect(layer).to_have_attribute("aria-valuetext", "after cleanse")
    bench.keyboard.press("b")
    expect(bench.get_by_role("button", name="Build the base layer by layer")).to_be_visible()
    assert serious(bench) == []


def test_choosing_a_layer_takes_over_from_the_building(bench: Page):
    bench.keyboard.press("b")
    expect(bench.get_by_role("button", name="Stop building")).to_be_visible()
    choose(bench, "Colour")
    expect(bench.get_by_role("button", name="Build the base layer by layer")).to_be_visible()
    expect(chosen(bench).get_by_role("heading", level=2)).to_contain_text("Colour")


# The section's scale


def scale(page: Page, words: str) -> None:
    page.get_by_role("combobox", name=re.compile("^Scale")).click()
    page.get_by_role("option", name=words).click()


def test_the_section_is_scaled_and_tells_what_goes_beyond(bench: Page):
    section = bench.get_by_role("group", name="Section through the base")
    expect(bench.get_by_text(re.compile(r"^\d+\.\d px a µm$"))).to_be_visible()
    usual = bench.get_by_text(re.compile(r"^\d+\.\d px a µm$")).inner_text()
    scale(bench, "10 µm high")
    expect(bench.get_by_text(usual, exact=True)).to_have_count(0)
    expect(section.get_by_text(re.compile(r"^↑\d+$")).first).to_be_visible()
    expect(section.get_by_text(re.compile(r"^1\d\.\d µm$")).first).to_be_visible()
    assert serious(bench) == []
    scale(bench, "80 µm high")
    expect(section.get_by_text(re.compile(r"^↑\d+$"))).to_have_count(0)
    expect(section.get_by_text(re.compile(r"^1\d\.\d µm$"))).to_have_count(0)
    scale(bench, "To the films")
    choose(bench, "Foundation")
    amount(bench, "24")
    expect(section.locator("text", has_text=re.compile("^20$"))).to_be_visible()


def test_nothing_of_the_section_is_drawn_over_its_top_whatever_the_scale(bench: Page):
    section = bench.get_by_role("group", name="Section through the base")
    for words in ("10 µm high", "20 µm high", "To the films", "To the ceilings"):
        scale(bench, words)
        top = section.locator("svg").bounding_box()["y"]
        told = section.locator("text").evaluate_all(
            "texts => texts.map(each => [each.textContent, each.getBoundingClientRect().y])"
        )
        assert len(told) > 20
        assert [text for text, y in told if y < top - 1] == [], words


def test_what_the_section_tells_moves_nothing_below_it(bench: Page):
    section = bench.get_by_role("group", name="Section through the base")
    below = bench.get_by_role("button", name="Mix a shade")
    at = below.bounding_box()
    section.focus()
    for key in ("ArrowRight", "ArrowUp", "ArrowUp", "ArrowRight", "ArrowRight", "ArrowUp"):
        section.press(key)
        assert below.bounding_box() == at


# The swap


def test_candidates_are_looked_at_on_a_zone_of_choice(bench: Page):
    choose(bench, "Foundation")
    bench.get_by_role("button", name="Swap the product").click()
    bench.get_by_role("combobox", name=re.compile("^Looked at on")).click()
    bench.get_by_role("option", name="Brow bone, left").click()
    table = bench.get_by_role("table", name="Products tried on Brow bone, left")
    expect(table).to_be_visible()
    bench.get_by_role("button", name=re.compile(r"\d+ more: another depth")).click()
    water = table.get_by_role("row").filter(has_text="Water veil 2")
    expect(water).to_contain_text("beads on")
    expect(water.get_by_role("img", name=re.compile("^From #[0-9a-f]{6} to #[0-9a-f]{6}, finished"))).to_be_visible()
    expect(table.get_by_role("row").filter(has_text="in use")).to_contain_text("agrees with")
    assert serious(bench) == []


# Findings


def test_findings_are_grouped_by_cause_gravity_and_subject(bench: Page):
    full_matt(bench)
    amount(bench, "30")
    base = findings(bench).get_by_role("region", name="10. Foundation, Full matt 2")
    expect(base).to_contain_text("The light is lost")
    expect(base).to_contain_text("30 µm of foundation in one pass")
    expect(row_of(bench, "Matt light")).to_contain_text("clashes with 10")
    assert serious(bench) == []
    base.get_by_role("button", name="10. Foundation, Full matt 2").click()
    expect(chosen(bench).get_by_role("heading", level=2)).to_have_text("10. Foundation")
    bench.get_by_role("combobox", name=re.compile("^Grouped by")).click()
    bench.get_by_role("option", name="How grave they are").click()
    groups = findings(bench).get_by_role("heading", level=3)
    expect(groups.first).to_contain_text("Problems")
    expect(groups.last).to_contain_text("Advice")
    bench.get_by_role("combobox", name=re.compile("^Grouped by")).click()
    bench.get_by_role("option", name="What they are about").click()
    expect(findings(bench).get_by_role("region", name="Colour")).to_contain_text("The light is lost")


def test_a_fix_is_seen_before_it_is_taken(bench: Page):
    full_matt(bench)
    shade = findings(bench).get_by_role("article").filter(has_text="The light is lost")
    shade.get_by_role("button", name=re.compile("^See what that changes")).click()
    expect(shade).to_contain_text("Mended: The light is lost")
    expect(shade).to_contain_text("Full matt 2 becomes Thin satin 2")
    expect(shade.get_by_role("row").filter(has_text="Shade that shows")).to_be_visible()
    assert serious(bench) == []
    expect(bench.get_by_role("button", name="Undo")).to_have_attribute("title", "Undo: Foundation: Full matt 2")
    shade.get_by_role("button", name=re.compile("^Enough seen")).click()
    expect(shade).not_to_contain_text("Mended")
    shade.get_by_role("button", name=re.compile("^Thin satin 2 instead, cover")).click()
    expect(findings(bench)).not_to_contain_text("The light is lost")


# Drafts and other tabs


def test_a_note_half_written_survives_a_reload(bench: Page):
    full_matt(bench)
    shade = findings(bench).get_by_role("article").filter(has_text="The light is lost")
    shade.get_by_role("button", name="Accept, because…").click()
    shade.get_by_role("textbox", name="Because").fill("she wants it")
    bench.reload()
    shade = findings(bench).get_by_role("article").filter(has_text="The light is lost")
    expect(shade.get_by_role("textbox", name="Because")).to_have_value("she wants it")
    shade.get_by_role("textbox", name="Because").fill("she wants it hidden")
    shade.get_by_role("button", name="Accept it").click()
    bench.get_by_text("Accepted (1)").click()
    expect(findings(bench)).to_contain_text("because she wants it hidden")
    bench.reload()
    expect(findings(bench)).to_contain_text("Accepted (1)")
    expect(findings(bench).get_by_role("textbox")).to_have_count(0)


def test_other_words_half_written_survive_a_reload_too(bench: Page, live: str):
    bench.keyboard.press("v")
    bench.get_by_role("textbox", name="Name for the current plan").fill("Dress reh")
    bench.reload()
    expect(bench.get_by_role("textbox", name="Name for the current plan")).to_have_value("Dress reh")
    bench.goto(f"{live}/shelf")
    expect(bench.get_by_role("searchbox", name="Search the shelf")).to_be_visible()
    bench.keyboard.press("n")
    bench.get_by_role("region", name="Item").get_by_label("Name").fill("Half a foundat")
    bench.reload()
    expect(bench.get_by_role("region", name="Item").get_by_label("Name")).to_have_value("Half a foundat")
    bench.get_by_role("region", name="Item").get_by_role("button", name="Close").click()
    bench.reload()
    expect(bench.get_by_role("searchbox", name="Search the shelf")).to_be_visible()
    expect(bench.get_by_role("region", name="Item")).to_have_count(0)


def other_tab(page: Page, film: str) -> Page:
    other = page.context.new_page()
    other.goto(page.url)
    choose(other, "Foundation")
    amount(other, film)
    return other


def test_a_tab_left_open_hears_of_a_change_by_itself(bench: Page):
    other_tab(bench, "5")
    told = bench.get_by_role("alert")
    expect(told).to_contain_text("changed in another tab")
    told.get_by_text("What changed there").click()
    expect(told).to_contain_text("Film, mean of zones")
    assert serious(bench) == []
    told.get_by_role("button", name="Show the newest").click()
    expect(told).to_have_count(0)
    choose(bench, "Foundation")
    expect(bench.get_by_label(AMOUNT)).to_have_value("5")


def test_an_edit_in_a_stale_tab_is_put_on_top(bench: Page):
    other_tab(bench, "5")
    choose(bench, "Colour")
    bench.get_by_role("button", name="Take this step out").click()
    told = bench.get_by_role("alert")
    expect(told).to_contain_text("Your last edit was not applied")
    told.get_by_role("button", name="Put my edit on top of theirs").click()
    expect(told).to_have_count(0)
    expect(order(bench).get_by_role("button").filter(has_text="Soft rose colour")).to_have_count(0)
    choose(bench, "Foundation")
    expect(bench.get_by_label(AMOUNT)).to_have_value("5")


def test_quick_presses_are_all_counted(bench: Page):
    choose(bench, "Foundation")
    less = bench.get_by_role("button", name=LESS, exact=True)
    for _ in range(4):
        less.click()
    expect(bench.get_by_label(AMOUNT)).to_have_value("0.5")
    expect(bench.get_by_role("main")).to_have_attribute("aria-busy", "false")
    expect(bench.get_by_role("alert")).to_have_count(0)
    bench.reload()
    choose(bench, "Foundation")
    expect(bench.get_by_label(AMOUNT)).to_have_value("0.5")


def test_no_answer_moves_a_button_from_under_the_finger(bench: Page):
    for kind, name in (("Foundation", MORE), ("Colour", "More"), ("Foundation", "Wait: more")):
        choose(bench, kind)
        more = bench.get_by_role("button", name=name, exact=True)
        more.scroll_into_view_if_needed()
        at = more.bounding_box()
        for _ in range(8):
            more.click()
            expect(bench.get_by_role("main")).to_have_attribute("aria-busy", "false")
            assert more.bounding_box() == at, (kind, name)


# Showing and printing


def test_the_plan_is_shown_to_a_class(bench: Page):
    """On a projector the names of the regions stand at least 15 px high."""
    shown = bench.get_by_role("main", name="Shown to a class")
    step = shown.get_by_role("region", name="The step shown")
    for width, _ in each_screen(bench, (PROJECTOR, *SCREENS)):
        choose(bench, "Shade")
        bench.keyboard.press("p")
        expect(step).to_contain_text("9. Shade")
        expect(step).to_contain_text("Look for:")
        bench.keyboard.press("ArrowRight")
        expect(step).to_contain_text("10. Foundation")
        expect(step.get_by_text(re.compile("^Press what is left on the edges and neck"))).to_be_visible()
        step.get_by_role("button", name="Layer before").click()
        expect(step).to_contain_text("9. Shade")
        assert serious(bench) == []
        assert bench.evaluate("document.documentElement.scrollWidth") <= width
        if width == PROJECTOR[0]:
            box = shown.locator("text", has_text="Forehead").bounding_box()
            assert box
            assert box["height"] >= 15
        step.get_by_role("button", name="Stop showing").click()
        expect(order(bench)).to_be_visible()


def test_a_sheet_is_laid_out_and_printed(bench: Page, tmp_path: Path):
    bench.get_by_role("link", name="Sheet", exact=True).click()
    page = bench.get_by_role("img", name="Wren for the season · underpainted: page 1 of 1")
    expect(page).to_be_visible()
    assert page.evaluate("picture => picture.decode().then(() => picture.naturalWidth)") > 500
    bench.get_by_text("The plan in words").click()
    expect(bench.get_by_role("heading", level=1)).to_have_text("Wren for the season: a base, underpainted")
    expect(bench.locator("main ol > li")).to_have_count(21)
    expect(bench.locator("main ol em, main ol i").first).to_be_visible()
    assert "*" not in bench.get_by_role("main").inner_text()
    expect(bench.get_by_role("heading", name="Hygiene and safety")).to_be_visible()
    assert serious(bench) == []
    bench.get_by_role("button", name="Large type").click()
    expect(bench.get_by_role("img", name="page 4 of 4")).to_be_visible()
    expect(bench).to_have_url(re.compile("large=1"))
    bench.get_by_role("button", name="Large type").click()
    bench.get_by_role("combobox", name="Paper: A4").click()
    bench.get_by_role("option", name="Letter").click()
    bench.get_by_role("button", name="Left-handed").click()
    expect(page).to_be_visible()
    with bench.expect_download() as saved:
        bench.get_by_role("link", name="Save as PDF").click()
    assert Path(saved.value.path()).read_bytes().startswith(b"%PDF")
    bench.pdf(path=tmp_path / "sheet.pdf", format="A4")
    assert (tmp_path / "sheet.pdf").read_bytes().startswith(b"%PDF")
    bench.emulate_media(media="print")
    expect(bench.get_by_role("button", name="Print")).to_be_hidden()
    bench.emulate_media(media="screen")
    bench.get_by_role("link", name="To the plan").click()
    expect(order(bench)).to_be_visible()


def test_a_sheet_of_an_unknown_plan_says_so(quiet: Page, live: str):
    quiet.goto(f"{live}/sheet/nothing")
    expect(quiet.get_by_role("alert").first).to_contain_text("sequence: found 'nothing'")


def test_the_room_on_paper_is_one_column(bench: Page):
    bench.emulate_media(media="print")
    expect(bench.get_by_role("button", name="Mix a shade")).to_be_hidden()
    tall = bench.evaluate("document.documentElement.scrollHeight")
    assert tall > 1500


# A bake, high and dusted


def test_a_bake_lies_high_until_it_is_dusted_off(quiet: Page, live: str):
    sitters = quiet.request.get(f"{live}/api/sitters").json()["sitters"]
    bram = next(each for each in sitters if each["nickname"] == "Bram")
    quiet.goto(f"{live}/plans/{bram['sequence_id']}")
    section = quiet.get_by_role("group", name="Section through the base")
    expect(section).to_be_visible()

    def powder() -> str:
        section.focus()
        for key in ("ArrowRight", *["ArrowUp"] * 9):
            section.press(key)
        told = quiet.get_by_text(re.compile(r"^Forehead centre · Bake.* mg/cm² of powder"))
        return re.search(r"(\d\.\d\d) mg/cm²", told.inner_text()).group(1)

    choose(quiet, "Bake")
    assert powder() == "0.80"
    choose(quiet, "Dust off")
    assert powder() == "0.30"
    expect(section).to_contain_text("what is left of 0.80")
