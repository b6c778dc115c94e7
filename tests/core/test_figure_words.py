"""Every figure that a screen explains is explained, in two sentences; figures by which plans are compared all are."""

from __future__ import annotations

import re
from pathlib import Path

from nabrel.core.judge.figures import MEASURES
from nabrel.core.terms.figures import FIGURE_INFO

SCREENS = Path(__file__).parents[2] / "frontend" / "src"


def test_figures_that_tell_plans_apart_are_explained():
    assert len(MEASURES) > 10
    assert {each.figure for each in MEASURES} <= set(FIGURE_INFO)


def test_what_screens_ask_about_is_explained_and_nothing_is_explained_for_nobody():
    asked = {
        name
        for file in SCREENS.rglob("*.svelte")
        for name in re.findall(r'<Help of="(\w+)"', file.read_text(encoding="utf-8"))
    }
    assert len(asked) > 10
    assert asked <= set(FIGURE_INFO)
    assert set(FIGURE_INFO) - asked - {each.figure for each in MEASURES} == set()


def test_each_is_told_in_two_sentences():
    for each in FIGURE_INFO.values():
        assert each.what.endswith("."), each.id
        assert each.how.endswith("."), each.id
        assert each.words[0].isupper() or each.words.startswith("ΔE"), each.id
