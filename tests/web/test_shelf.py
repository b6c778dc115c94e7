"""The shelf over the API: items by hand and as a table, what a film and a list of ingredients say, nothing half-saved."""

from __future__ import annotations

import pytest

from nabrel.web.app import create_app
from tests.making import item_of

ITEM = {
    "id": "new-1", "role": "foundation", "name": "New satin", "texture": "liquid", "base": "silicone", "finish": "satin",
    "lab": [64, 10.5, 17], "cover": 0.55, "ml": 30, "price": 22, "ingredients": ["Aqua", "Dimethicone"],
    "opened_on": "2026-10-01", "keeps_months": 12,
}  # fmt: skip
HEADER = "id,role,name,texture,base,lab_l,lab_a,lab_b,cover"


@pytest.fixture
def client(demo_database):
    return create_app(demo_database).test_client()


def ids(client):
    return [item["id"] for item in client.get("/api/kit").json["items"]]


def test_an_item_is_kept_changed_and_taken_off(client):
    stored = client.put("/api/kit/items/new-1", json=ITEM).json
    assert stored["items"][-1]["name"] == "New satin"
    assert stored["swatches"]["new-1"].startswith("#")
    changed = client.put("/api/kit/items/new-1", json={**ITEM, "name": "Newer satin"}).json
    assert [i["name"] for i in changed["items"] if i["id"] == "new-1"] == ["Newer satin"]
    assert "new-1" not in [i["id"] for i in client.delete("/api/kit/items/new-1").json["items"]]


def test_plans_use_what_is_on_the_shelf(client):
    sitter = next(s for s in client.get("/api/sitters").json["sitters"] if s["nickname"] == "Tamsin")["id"]
    for item in ids(client):
        if item.startswith(("thin-satin", "full-matt", "silk-veil", "water-veil")):
            client.delete(f"/api/kit/items/{item}")
    client.put("/api/kit/items/new-1", json={**ITEM, "lab": [62, 11, 17]})
    planned = client.post(f"/api/sitters/{sitter}/sequences", json={}).json
    assert {item_of(s) for s in planned["steps"] if s["kind"] == "foundation"} == {"new-1"}


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"id": "other"}, "id"),
        ({"role": "paint"}, "role"),
        ({"lab": None}, "lab"),
        ({"lab": [62, 120, 17]}, "lab"),
        ({"cover": 1.2}, "cover"),
        ({"name": ""}, "name"),
        ({"opened_on": "2026-13-01"}, "opened_on"),
        ({"colour": "red"}, "colour"),
    ],
)
def test_an_impossible_item_is_refused_and_the_shelf_stands(client, change, field):
    before = ids(client)
    answer = client.put("/api/kit/items/new-1", json={**ITEM, **change})
    assert answer.status_code == 422
    assert field in answer.json["field"]
    assert ids(client) == before


def test_the_shelf_goes_out_and_comes_in_as_a_table(client):
    out = client.get("/api/kit/table")
    assert out.mimetype == "text/csv"
    preview = client.post("/api/kit/preview", data=out.data, content_type="text/csv").json["rows"]
    assert {row["status"] for row in preview} == {"same"}
    before = client.get("/api/kit").json["items"]
    for item in ids(client):
        client.delete(f"/api/kit/items/{item}")
    assert client.get("/api/kit").json["items"] == []
    taken = client.post("/api/kit/table", data=out.data, content_type="text/csv").json
    assert taken == {"added": len(before), "changed": 0, "left_out": 0}
    assert client.get("/api/kit").json["items"] == before


def test_each_row_of_a_table_is_told_before_anything_is_saved(client):
    rows = [
        "thin-satin-3,foundation,Thin satin 3,liquid,silicone,60,11,17,0.5",
        "n-1,foundation,Pressed cover 1,liquid,silicone,64,10,17,0.5",
        "n-2,foundation,Bad,liquid,silicone,64,10,17,5",
    ]
    before = client.get("/api/kit").json
    data = "\n".join([HEADER, *rows]).encode()
    told = client.post("/api/kit/preview", data=data, content_type="text/csv").json["rows"]
    assert [row["status"] for row in told] == ["changed", "new", "problem"]
    assert "lab" in told[0]["says"]
    assert "Another item is called" in told[1]["says"]
    assert "cover" in told[2]["says"]
    assert client.get("/api/kit").json == before
    refused = client.post("/api/kit/table", data=data, content_type="text/csv")
    assert refused.status_code == 422
    assert client.get("/api/kit").json == before
    taken = client.post("/api/kit/table?leave_out=true", data=data, content_type="text/csv").json
    assert taken == {"added": 1, "changed": 1, "left_out": 1}


@pytest.mark.parametrize("kind", ["preview", "table"])
@pytest.mark.parametrize(
    ("data", "mimetype", "status"),
    [(b"", "text/csv", 422), (b"PK\x03\x04", "text/csv", 422), (b"a,b\n1,2", "text/csv", 422),
     (b"{}", "application/json", 415)],
)  # fmt: skip
def test_what_is_no_table_is_refused(client, kind, data, mimetype, status):
    answer = client.post(f"/api/kit/{kind}", data=data, content_type=mimetype)
    assert answer.status_code == status
    assert answer.json["says"]


def test_a_film_is_shown_before_the_item_is_kept(client):
    film = client.post("/api/kit/film", json=ITEM).json
    assert film["contrast_ratio"] == pytest.approx(0.55, abs=0.003)
    assert film["over_black"] != film["over_white"]
    opaque = client.post("/api/kit/film", json={**ITEM, "cover": 0.99}).json
    assert opaque["contrast_ratio"] == pytest.approx(0.99, abs=0.005)
    assert client.post("/api/kit/film", json={**ITEM, "lab": None, "cover": None}).status_code == 422


def test_an_ingredient_list_tells_base_and_allergens(client):
    told = client.post("/api/kit/ingredients", json={"text": "Aqua, Cyclopentasiloxane, Parfum"}).json
    assert told["base"] == "silicone"
    assert told["evidence"] == ["Cyclopentasiloxane"]
    assert told["allergens"] == ["fragrance"]
    assert client.post("/api/kit/ingredients", json={"text": "x" * 8001}).status_code == 422
    assert client.post("/api/kit/ingredients", json={"text": ""}).json["base"] is None


def test_an_item_that_is_not_there_cannot_be_taken_off(client):
    answer = client.delete("/api/kit/items/nothing")
    assert answer.status_code == 404


def test_a_body_that_is_not_json_is_refused_on_every_method(client):
    for method, path in (
        ("put", "/api/kit/items/x"),
        ("put", "/api/house/rules/thin-passes"),
        ("post", "/api/kit/film"),
    ):
        answer = getattr(client, method)(path, data=b"{not json", content_type="application/json")
        assert answer.status_code == 422, path
        assert "JSON" in answer.json["allowed"]


def test_colour_and_cover_are_measured_from_two_readings(client):
    film = client.post("/api/kit/film", json=ITEM).json
    assert film["contrast_ratio"] == pytest.approx(0.55, abs=0.003)
    readings = {"over_black": [54.0, 5.5, 8.0], "over_white": [72.6, 10.2, 21.0], "film_um": 9.0}
    found = client.post("/api/kit/drawdown", json=readings).json
    assert 0.3 < found["cover"] < 0.7
    shown = client.post("/api/kit/film", json={**ITEM, "lab": found["lab"], "cover": found["cover"]}).json
    assert shown["contrast_ratio"] == pytest.approx(found["cover"], abs=0.003)


@pytest.mark.parametrize(
    "change", [{"film_um": 0}, {"over_black": [80, 5, 8]}, {"over_white": [1, 2]}, {"film_um": None}]
)
def test_readings_that_cannot_be_are_refused(client, change):
    readings = {"over_black": [54.0, 5.5, 8.0], "over_white": [72.6, 10.2, 21.0], "film_um": 9.0, **change}
    assert client.post("/api/kit/drawdown", json=readings).status_code == 422
