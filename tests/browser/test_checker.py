"""The accessibility check that other tests rely on, on pages that have something planted."""

from __future__ import annotations

import pytest
from playwright.sync_api import Page

from tests.browser.conftest import serious

SOUND = "<p>Sound</p>" * 3
FAINT = "<p style='color: #bbb'>Faint</p>"


def filled(page: Page, body: str) -> Page:
    page.set_content(
        f"<!doctype html><html lang=en><title>Planted</title><body style='background: #fff'>{body}</body></html>"
    )
    return page


@pytest.mark.parametrize(
    "planted",
    [
        pytest.param(SOUND + FAINT, id="letters"),
        pytest.param(SOUND + "<div style='background: #222'><p>Sound on white alone</p></div>", id="ground"),
        pytest.param(SOUND + "<div style='opacity: 0.3'><p>Half seen</p></div>", id="opacity"),
        pytest.param(f"<div hidden>{FAINT}</div>{FAINT}", id="twin hidden"),
        pytest.param(f"<div aria-hidden=true>{FAINT}</div>{FAINT}", id="twin not read out"),
        pytest.param("<button disabled style='color: #bbb'>Off</button><button style='color: #bbb'>On</button>", id="twin off"),
        pytest.param(
            "<div style='background: #222; height: 40px'></div>" + SOUND
            + "<div style='position: absolute; top: 10px'><p>Sound</p></div>",
            id="laid over",
        ),
        pytest.param("<label>Name <input value=Faint style='color: #bbb; background: #fff'></label>", id="field"),
    ],
)  # fmt: skip
def test_faint_letters_are_found_among_sound_ones(page: Page, planted: str):
    found = serious(filled(page, planted))
    assert len(found) == 1, found
    assert found[0].startswith("color-contrast")
    assert page.locator("[data-look]").count() == 0


def test_nothing_is_found_where_all_is_sound(page: Page):
    assert serious(filled(page, SOUND)) == []


def test_a_button_without_a_name_is_found(page: Page):
    assert [each.split(":")[0] for each in serious(filled(page, "<button></button>"))] == ["button-name"]


def test_an_open_dialog_is_all_that_is_looked_at(page: Page):
    dialog = "<div role=dialog aria-modal=true aria-label=Open>{}</div>"
    assert serious(filled(page, FAINT + dialog.format(SOUND))) == []
    assert len(serious(filled(page, SOUND + dialog.format(FAINT)))) == 1


def test_one_part_is_looked_at_where_it_is_named(page: Page):
    filled(page, f"<main id=one>{SOUND}</main><footer id=two>{FAINT}</footer>")
    assert serious(page, "#one") == []
    assert len(serious(page, "#two")) == 1
