"""The numbers that screens let a person set have one range: declared once, served, and held by every door."""

from __future__ import annotations

import re
from dataclasses import fields
from pathlib import Path

import pytest

import nabrel
from nabrel.core.terms.limits import LIMITS, Range

SCREENS = Path(nabrel.__file__).parents[1] / "frontend" / "src"
WITHIN_A_STEP = {"FaceSlider.svelte", "FacePanel.svelte"}
"""Sliders over a share of a width and over the steps of a plan: they set nothing that is kept."""


@pytest.fixture
def client(demo_database):
    from nabrel.web.app import create_app

    return create_app(demo_database).test_client()


def test_every_range_is_served_as_it_is_declared(client):
    served = client.get("/api/vocabulary").json["limits"]
    assert served == {
        each.name: {"low": own.low, "high": own.high} for each in fields(LIMITS) if (own := getattr(LIMITS, each.name))
    }
    assert all(isinstance(getattr(LIMITS, each.name), Range) for each in fields(LIMITS))


def test_no_screen_has_a_range_of_its_own():
    written = re.compile(r"""\b(?:min|max|low|high|most|least)=(?:\{-?[\d.]+\}|"-?[\d.]+")""")
    sources = [file for file in SCREENS.rglob("*.svelte") if file.name not in WITHIN_A_STEP]
    assert len(sources) > 50
    found = [f"{file.name}: {each}" for file in sources for each in written.findall(file.read_text(encoding="utf-8"))]
    assert found == []


ITEM = {"id": "probe", "role": "foundation", "name": "Probe", "texture": "liquid", "base": "water",
        "lab": [60.0, 10.0, 15.0], "cover": 0.5}  # fmt: skip


@pytest.mark.parametrize("name", ["cover", "left", "price", "dose_ml", "keeps_months", "ml", "g"])
def test_an_item_takes_a_number_at_its_limits_and_none_beyond(client, name):
    own = getattr(LIMITS, name)
    whole = int if name == "keeps_months" else float
    for value, status in ((own.low, 200), (own.high, 200), (own.high + 1, 422), (-1.0, 422)):
        answer = client.put("/api/kit/items/probe", json={**ITEM, name: whole(value)})
        assert answer.status_code in ({200, 201} if status == 200 else {422}), (name, value, answer.json)
        if status == 422:
            assert name in str(answer.json)
