"""What the section and the face are drawn from agrees with what is told in figures."""

from __future__ import annotations

import re

import pytest

from nabrel.core.house import House
from nabrel.web.app import create_app
from tests.making import zones_of

HOUSE = House()


@pytest.fixture
def client(demo_database):
    return create_app(demo_database).test_client()


@pytest.fixture
def zones(client):
    return [zone["id"] for zone in client.get("/api/vocabulary").json["zones"]]


@pytest.fixture(params=range(8))
def plan(request, client):
    sequence = client.get("/api/sitters").json["sitters"][request.param]["sequence_id"]
    return client.get(f"/api/sequences/{sequence}").json


def drawn(plan, place):
    """Height of a column of the section in µm."""
    film = sum(row[place] for row in plan["film"])
    powder = sum(row[place] for row in plan["powder"])
    return film + powder * plan["powder_um_per_mg"]


def test_every_column_of_the_section_is_as_high_as_the_load_that_is_told(plan, zones):
    for place, zone in enumerate(zones):
        assert drawn(plan, place) == pytest.approx(plan["forecast"][zone]["load_um"], abs=0.06), zone


def test_powder_that_is_dusted_off_lay_higher_before(plan, zones):
    steps = plan["steps"]
    for each in plan["dusted"]:
        assert each["step"] < each["until"] < len(steps)
        assert steps[each["step"]]["kind"] in ("bake", "set")
        laid = next(p for p in steps[each["step"]]["portions"] if each["zone"] in p["zones"])
        assert each["laid_mg_cm2"] == pytest.approx(laid["amount"])
        assert each["laid_mg_cm2"] > plan["powder"][each["step"]][zones.index(each["zone"])]
        assert each["zone"] in zones_of(steps[each["until"]])


def test_a_bake_is_dusted_and_a_press_is_not(client):
    sitters = client.get("/api/sitters").json["sitters"]
    bram = next(each for each in sitters if each["nickname"] == "Bram")
    plan = client.get(f"/api/sequences/{bram['sequence_id']}").json
    kinds = {plan["steps"][each["step"]]["kind"] for each in plan["dusted"]}
    assert kinds == {"bake"}
    bake = next(n for n, step in enumerate(plan["steps"]) if step["kind"] == "bake")
    assert {each["zone"] for each in plan["dusted"] if each["step"] == bake} == set(zones_of(plan["steps"][bake]))


def test_a_file_of_the_look_has_a_bake_high_until_it_is_dusted(client, zones, people):
    from nabrel.core.ask.recommend import plan as planned
    from nabrel.core.judge.evaluate import evaluate
    from nabrel.formats.answers import appearance_to

    one = evaluate(planned(people["Bram"], HOUSE), HOUSE)
    stages = appearance_to(one).steps
    kinds = [step.kind for step in one.sequence.steps]
    baked, dusted = kinds.index("bake"), kinds.index("dust_off")
    zone = one.sequence.steps[baked].zones[0]
    high, low = stages[baked].zones[zone].powder_mg_cm2, stages[dusted].zones[zone].powder_mg_cm2
    assert high >= one.sequence.steps[baked].powder_mg > low > 0
    assert stages[-1].zones[zone].powder_mg_cm2 == pytest.approx(low)


def test_layers_only_lie_where_their_step_goes(plan, zones):
    for step, film, powder in zip(plan["steps"], plan["film"], plan["powder"], strict=True):
        laid = {zones[n] for n, (um, mg) in enumerate(zip(film, powder, strict=True)) if um > 0 or mg > 0}
        assert laid <= set(zones_of(step))


def test_every_stage_has_a_colour_for_each_zone(plan, zones):
    assert len(plan["stages"]) == len(plan["steps"]) + 1
    for row in plan["stages"]:
        assert len(row) == len(zones)
        assert all(re.fullmatch("#[0-9a-f]{6}", colour) for colour in row)


def test_a_zone_changes_colour_only_in_a_step_that_reaches_it_or_lifts_what_lies_there(plan, zones):
    for index, step in enumerate(plan["steps"]):
        before, after = plan["stages"][index], plan["stages"][index + 1]
        changed = {zones[n] for n in range(len(zones)) if before[n] != after[n]}
        assert changed <= set(zones_of(step)), step["kind"]


def test_what_reads_through_is_of_a_step_that_is_there(plan):
    kinds = {step["kind"]: set() for step in plan["steps"]}
    for step in plan["steps"]:
        kinds[step["kind"]] |= set(zones_of(step))
    for row in plan["read_through"]:
        assert row["zone"] in kinds[row["kind"]]
        assert row["percent"] <= 150


def test_worst_figures_are_those_of_a_zone(plan):
    totals = plan["totals"]
    assert totals["worst_cake"] == pytest.approx(plan["forecast"][totals["worst_cake_zone"]]["cake"], abs=0.01)
    assert totals["worst_cake"] == pytest.approx(max(row["cake"] for row in plan["forecast"].values()), abs=0.01)
    assert totals["steps"] == len(plan["steps"])


def test_products_drawn_have_their_swatch(plan):
    for key, item in plan["products"].items():
        if item.get("lab") is not None:
            assert re.fullmatch("#[0-9a-f]{6}", plan["swatches"][key])
    assert {part["item"] for step in plan["steps"] for part in step["mix"]} == set(plan["products"])


def test_the_height_of_powder_in_the_section_is_the_house_s(client, zones):
    client.put("/api/house/parameters/powder_film_um_per_mg", json={"value": 5.0, "note": "drawn flatter here"})
    bram = next(each for each in client.get("/api/sitters").json["sitters"] if each["nickname"] == "Bram")
    plan = client.get(f"/api/sequences/{bram['sequence_id']}").json
    assert plan["powder_um_per_mg"] == 5.0
    for place, zone in enumerate(zones):
        assert drawn(plan, place) == pytest.approx(plan["forecast"][zone]["load_um"], abs=0.06), zone
