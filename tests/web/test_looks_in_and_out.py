"""Wear records come and go as files: tables of looks with a preview, wear files, photographs; and the day can be set right."""

from __future__ import annotations

import io
import json

import numpy as np
import pytest
from PIL import Image

from nabrel.core.film.difference import delta_e
from nabrel.core.film.spectra import to_hex
from nabrel.core.house import House
from nabrel.core.learn.settled import settled_colours
from nabrel.core.terms.zones import ZONES
from nabrel.formats.workspace import read_workspace
from nabrel.store.database import Database
from nabrel.store.repositories import Sequences
from nabrel.web.app import create_app
from tests.making import zones_of
from tests.store.test_erasing import found_in

WORN = "2026-11-03T09:50:00+00:00"
HEADER = "sitter,worn_from,after_min,zone,shine,crease,note\n"


@pytest.fixture
def client(demo_database):
    return create_app(demo_database).test_client()


@pytest.fixture
def posy(client):
    return next(each for each in client.get("/api/sitters").json["sitters"] if each["nickname"] == "Posy")


@pytest.fixture
def worn(client, posy):
    record = client.post(f"/api/sequences/{posy['sequence_id']}/wears", json={"worn_from": WORN}).json
    look = {"after_min": 240, "seen": ["nose_tip"], "zones": {"nose_tip": {"shine": 2}}}
    return client.put(f"/api/wears/{record['wear_id']}/look", json={"look": look}).json


def sent(client, address, text, kind="text/csv"):
    return client.post(address, data=text if isinstance(text, bytes) else text.encode(), content_type=kind)


def picture(size=(400, 300), kind="JPEG", mode="RGB", **more):
    out = io.BytesIO()
    Image.effect_noise(size, 60).convert(mode).save(out, kind, **more)
    return out.getvalue()


def attached(client, worn, data, kind="image/jpeg", minute=240):
    return client.put(f"/api/wears/{worn['wear_id']}/photo?after_min={minute}", data=data, content_type=kind)


def photo_of(client, record):
    (name,) = [look["photo"] for look in record["looks"] if look["photo"]]
    return client.get(f"/api/wears/{record['wear_id']}/photo/{name}")


# Tables


def test_what_goes_out_comes_back_the_same_and_changes_nothing(client):
    out = client.get("/api/wears/table").text
    before = client.get("/api/learnt").json
    preview = sent(client, "/api/wears/preview", out).json
    assert (preview["problems"], preview["good"]) == (0, out.count("\n") - 1)
    assert sent(client, "/api/wears/table", out).json == {"rows": preview["good"], "records": 60}
    assert client.get("/api/wears/table").text == out
    after = client.get("/api/learnt").json
    assert [each["parameter"] for each in after["learnt"]["proposals"]] == [
        each["parameter"] for each in before["learnt"]["proposals"]
    ]
    for mine, was in zip(after["effects"], before["effects"], strict=True):
        assert mine == {**was, **{name: pytest.approx(was[name], abs=2e-3) for name in ("factor", "low", "high")}}


def test_rows_of_a_base_that_is_not_kept_begin_a_record_on_the_sitters_plan(client, posy):
    table = HEADER + f"Posy,{WORN},25,nose_tip,0,0,\nPosy,{WORN},25,chin,1,0,quiet\nPosy,{WORN},300,chin,3,0,\n"
    assert sent(client, "/api/wears/preview", table).json["good"] == 3
    assert client.get(f"/api/wears?sitter={posy['id']}").json["wears"] == []
    assert sent(client, "/api/wears/table", table).json == {"rows": 3, "records": 1}
    (row,) = client.get(f"/api/wears?sitter={posy['id']}").json["wears"]
    record = client.get(f"/api/wears/{row['wear_id']}").json
    assert record["plan_id"] == posy["sequence_id"]
    assert [(look["after_min"], look["seen"], look["zones"], look["note"]) for look in record["looks"]] == [
        (25.0, ["nose_tip", "chin"], {"chin": {"shine": 1}}, "quiet"), (300.0, ["chin"], {"chin": {"shine": 3}}, ""),
    ]  # fmt: skip
    assert record["looks_say"] == ["Shine 1 on the chin.", "Shine 3 on the chin."]


@pytest.mark.parametrize(("row", "says"), [
    (f"Nobody,{WORN},25,chin,1,0,", "the nickname of a sitter who is here"),
    ("Posy,yesterday,25,chin,1,0,", "from"),
    (f"Posy,{WORN},later,chin,1,0,", "a number"),
    (f"Posy,{WORN},-5,chin,1,0,", "0 to 2880 min"),
    (f"Posy,{WORN},25,chn,1,0,", "nearest: chin"),
    (f"Posy,{WORN},25,chin,7,0,", "a whole number from 0 to 3"),
    (f"Posy,{WORN},25,chin,0.5,0,", "a whole number from 0 to 3"),
    (f"Posy,{WORN},25,BARE,1,0,", "a zone on which the plan does something"),
    (f"Posy,{WORN},25,chin,1,0,{'x' * 700}", "at most 600 characters"),
    (f"Posy,{WORN},,chin,1,0,", "a value in every row"),
    (f"Posy,{WORN},25,chin,1,0,fine,too many", "7 cells"),
])  # fmt: skip
def test_a_row_that_cannot_be_is_said_and_refuses_the_table_unless_it_is_left_out(client, posy, row, says):
    steps = client.get(f"/api/sequences/{posy['sequence_id']}").json["steps"]
    bare = next(zone for zone in ZONES if all(zone not in zones_of(step) for step in steps))
    table = HEADER + row.replace("BARE", bare) + f"\nPosy,{WORN},60,chin,1,0,\n"
    preview = sent(client, "/api/wears/preview", table).json
    assert (preview["good"], preview["problems"]) == (1, 1)
    (wrong,) = [each for each in preview["rows"] if each["status"] == "problem"]
    assert says in wrong["says"]
    refused = sent(client, "/api/wears/table", table)
    assert refused.status_code == 422
    assert refused.json["field"].startswith("line 2")
    assert client.get(f"/api/wears?sitter={posy['id']}").json["wears"] == []
    assert sent(client, "/api/wears/table?leave_out=true", table).json == {"rows": 1, "records": 1}


@pytest.mark.parametrize(
    "data", [b"", b"PK\x03\x04", b"a,b\n1,2\n", b"sitter,zone\nPosy,chin\n", b'sitter,worn_from,after_min,zone\n"Posy']
)
def test_what_is_no_table_of_looks_is_refused(client, data):
    for address in ("/api/wears/preview", "/api/wears/table"):
        assert sent(client, address, data).status_code == 422


def test_a_table_with_more_looks_than_a_base_can_have_is_refused_and_nothing_is_kept(client, posy):
    table = HEADER + "".join(f"Posy,{WORN},{minute},chin,1,0,\n" for minute in range(70))
    assert sent(client, "/api/wears/table", table).status_code == 422
    assert client.get(f"/api/wears?sitter={posy['id']}").json["wears"] == []


# Wear files


def test_a_wear_file_goes_out_and_comes_back_to_the_same_plan(client, posy, worn):
    file = client.get(f"/api/wears/{worn['wear_id']}/file").data
    again = sent(client, "/api/wears/file", file, "application/json")
    assert (again.status_code, again.json["field"]) == (422, "worn.from")
    client.delete(f"/api/wears/{worn['wear_id']}")
    back = sent(client, "/api/wears/file", file, "application/json")
    assert back.status_code == 201
    assert back.json["plan_id"] == posy["sequence_id"]
    assert (back.json["looks"], back.json["spans"]) == (worn["looks"], worn["spans"])


def test_a_wear_file_of_somebody_who_is_not_here_brings_sitter_and_plan(client, worn, tmp_path):
    file = client.get(f"/api/wears/{worn['wear_id']}/file").data
    other = Database(tmp_path / "other")
    there = create_app(other).test_client()
    back = sent(there, "/api/wears/file", file, "application/json").json
    assert [each["nickname"] for each in there.get("/api/sitters").json["sitters"]] == ["Posy"]
    assert there.get(f"/api/sequences/{back['plan_id']}").status_code == 200
    assert back["looks"] == worn["looks"]
    other.close()


def test_a_wear_file_that_cannot_be_is_refused_and_nothing_is_kept(client, worn):
    file = json.loads(client.get(f"/api/wears/{worn['wear_id']}/file").data)
    before = len(client.get("/api/wears").json["wears"])
    file["looks"].append(file["looks"][0])
    file["worn"]["from"] = "2026-11-04T09:50:00+00:00"
    refused = sent(client, "/api/wears/file", json.dumps(file), "application/json")
    assert (refused.status_code, refused.json["field"]) == (422, "looks[1].after_min")
    assert sent(client, "/api/wears/file", "{}", "application/json").status_code == 422
    assert sent(client, "/api/wears/file", json.dumps(file), "text/plain").status_code == 415
    assert len(client.get("/api/wears").json["wears"]) == before


# Photographs


def test_a_photograph_is_kept_small_upright_and_without_metadata(client, worn, demo_database):
    told = Image.Exif()
    told[0x010F], told[0x0112], told[0x8298] = "Camera of Zenobia", 6, "Zenobia"
    told.get_ifd(0x8825)[1] = "N"
    data = picture((2000, 1000), exif=told, comment=b"Zenobia was here", dpi=(300, 300))
    assert b"Zenobia" in data
    record = attached(client, worn, data).json
    stored = photo_of(client, record)
    assert (stored.status_code, stored.mimetype) == (200, "image/jpeg")
    assert stored.headers["Cache-Control"] == "no-store"
    found = Image.open(io.BytesIO(stored.data))
    assert found.size == (640, 1280)
    assert not found.getexif()
    assert b"Zenobia" not in stored.data
    assert found_in(demo_database.folder, "Zenobia") == []


@pytest.mark.parametrize(("kind", "mode", "mimetype"), [
    ("PNG", "RGB", "image/png"), ("PNG", "RGBA", "image/png"), ("PNG", "P", "image/png"), ("WEBP", "RGB", "image/webp"),
    ("JPEG", "L", "image/jpeg"), ("JPEG", "CMYK", "image/jpeg"),
])  # fmt: skip
def test_photographs_of_other_kinds_are_kept_as_plain_jpeg(client, worn, kind, mode, mimetype):
    stored = photo_of(client, attached(client, worn, picture(kind=kind, mode=mode), mimetype).json)
    found = Image.open(io.BytesIO(stored.data))
    assert (found.format, found.mode, found.size) == ("JPEG", "RGB", (400, 300))


@pytest.mark.parametrize("data", [
    b"", b"not a picture", picture()[:300], b"GIF89a" + b"\0" * 50, b"\x89PNG\r\n\x1a\n" + b"\0" * 100,
    b"<svg xmlns='http://www.w3.org/2000/svg'/>", b"%PDF-1.4",
])  # fmt: skip
def test_what_is_no_photograph_is_refused(client, worn, data):
    refused = attached(client, worn, data)
    assert (refused.status_code, refused.json["field"]) == (422, "photo")
    assert "photograph" in refused.json["allowed"]


def test_a_picture_that_would_unpack_to_too_much_is_refused_before_it_does(client, worn):
    huge = io.BytesIO()
    Image.new("1", (30000, 30000)).save(huge, "PNG")
    refused = attached(client, worn, huge.getvalue(), "image/png")
    assert refused.status_code == 422
    assert "50 megapixels" in refused.json["allowed"]
    assert attached(client, worn, picture(), "image/gif").status_code == 415


def test_a_photograph_belongs_to_a_look_and_can_be_replaced_and_forgotten(client, worn, demo_database):
    assert attached(client, worn, picture(), minute=99).status_code == 422
    first = attached(client, worn, picture()).json["looks"][0]["photo"]
    record = attached(client, worn, picture()).json
    assert record["looks"][0]["photo"] != first
    assert client.get(f"/api/wears/{worn['wear_id']}/photo/{first}").status_code == 404
    noted_again = client.put(
        f"/api/wears/{worn['wear_id']}/look", json={"look": {"after_min": 240, "note": "again"}}
    ).json
    assert noted_again["looks"][0]["photo"] == record["looks"][0]["photo"]
    bare = client.delete(f"/api/wears/{worn['wear_id']}/photo?after_min=240").json
    assert bare["looks"][0]["photo"] == ""
    assert client.get(f"/api/wears/{worn['wear_id']}/photo/{record['looks'][0]['photo']}").status_code == 404
    assert client.delete(f"/api/wears/{worn['wear_id']}/photo?after_min=240").status_code == 422
    with demo_database.session() as session:
        assert session.connection().exec_driver_sql("select count(*) from photo").scalar() == 0


def test_a_photograph_of_another_record_is_not_shown(client, worn):
    name = attached(client, worn, picture()).json["looks"][0]["photo"]
    other = client.get("/api/wears").json["wears"][0]["wear_id"]
    assert other != worn["wear_id"]
    assert client.get(f"/api/wears/{other}/photo/{name}").status_code == 404
    assert client.get(f"/api/wears/{worn['wear_id']}/photo/..%2F..%2Fnabrel.sqlite").status_code in (404, 422)


def seen_apart(one: bytes, other: bytes) -> float:
    """How far two pictures are apart, in values of 255, on average."""
    first, second = (np.asarray(Image.open(io.BytesIO(each)).convert("RGB"), float) for each in (one, other))
    return float(np.abs(first - second).mean())


def test_photographs_go_out_with_the_sitter_come_back_the_same_to_the_eye_and_are_erased_with_them(
    client, posy, worn, demo_database, tmp_path
):
    shown = photo_of(client, attached(client, worn, picture((900, 700))).json).data
    demo_database.back_up("daily")
    out = client.get(f"/api/sitters/{posy['id']}/everything").data
    (person,) = read_workspace(out).people
    [read] = person.photos.values()
    # What comes in is encoded anew, whoever sent it.
    assert seen_apart(read, shown) < 3
    other = Database(tmp_path / "other")
    there = create_app(other).test_client()
    assert there.post("/api/workspace/people", data=out, content_type="application/zip").status_code == 200
    assert seen_apart(photo_of(there, there.get(f"/api/wears/{worn['wear_id']}").json).data, shown) < 3
    other.close()
    part = shown[5000:5032]
    held = [file for file in demo_database.folder.rglob("*") if file.is_file() and part in file.read_bytes()]
    assert len(held) >= 2
    assert client.delete(f"/api/sitters/{posy['id']}").json["finished"]
    assert [file for file in demo_database.folder.rglob("*") if file.is_file() and part in file.read_bytes()] == []


# The day, and colours


def test_another_kind_of_day_is_another_forecast(client, worn):
    hot = client.put(f"/api/wears/{worn['wear_id']}/day", json={"worn": {"from": WORN, "temperature_c": 35}}).json
    assert (hot["temperature_c"], hot["worn"]["from"]) == (35.0, WORN)
    by_region = {(each["region"], each["sign"]): each["forecast_h"] for each in worn["spans"]}
    sooner = [each["forecast_h"] < by_region[each["region"], each["sign"]] for each in hot["spans"]]
    assert sooner
    assert all(sooner)
    later = "2026-11-01T08:00:00+00:00"
    assert client.put(f"/api/wears/{worn['wear_id']}/day", json={"worn": {"from": later}}).json["worn"]["from"] == later
    assert (
        client.put(f"/api/wears/{worn['wear_id']}/day", json={"worn": {"from": later, "temperature_c": 99}}).status_code
        == 422
    )


def test_a_colour_that_is_read_stands_beside_the_colour_forecast_for_that_minute(client, worn, demo_database):
    with demo_database.session() as session:
        sequence = Sequences(session).get(worn["plan_id"]).sequence
    forecast = settled_colours(sequence, House(), 25.0)["cheek_apple_l"]
    read = (forecast[0] - 6.0, forecast[1], forecast[2])
    look = {"after_min": 25, "colours": {"cheek_apple_l": list(read)}}
    (found,) = client.put(f"/api/wears/{worn['wear_id']}/look", json={"look": look}).json["colours"]
    assert (found["zone"], found["after_min"], found["says"]) == ("cheek_apple_l", 25.0, "deeper than forecast")
    assert found["de"] == round(float(delta_e(read, forecast)), 1)
    assert [found["forecast_hex"], found["read_hex"]] == to_hex([forecast, read])


def test_a_colour_that_no_surface_has_is_refused(client, worn):
    look = {"after_min": 25, "colours": {"cheek_apple_l": [50, 120, -120]}}
    refused = client.put(f"/api/wears/{worn['wear_id']}/look", json={"look": look})
    assert (refused.status_code, refused.json["field"].endswith("colours.cheek_apple_l")) == (422, True)


def test_the_reader_reads_the_base_where_a_record_is_named(client, posy, worn, demo_database):
    with demo_database.session() as session:
        sequence = Sequences(session).get(worn["plan_id"]).sequence
    body = {"place": "cheek_apple_l", "wear": worn["wear_id"], "more": 9, "seed": 3}
    mean = client.post(f"/api/sitters/{posy['id']}/reader", json=body).json["mean"]
    assert float(delta_e(mean, settled_colours(sequence, House())["cheek_apple_l"])) < 1.5
    assert client.post(f"/api/sitters/{posy['id']}/reader", json={**body, "place": "chest"}).status_code == 422
    assert client.post(f"/api/sitters/{posy['id']}/reader", json={**body, "wear": "none"}).status_code == 404
