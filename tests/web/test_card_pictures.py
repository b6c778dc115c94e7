"""Pictures of a card over HTTP: read and thrown away, put together, told what they change, and kept whole or not at all."""

from __future__ import annotations

import io
import subprocess
import sys
from pathlib import Path

import numpy as np
import pytest
from PIL import Image
from pypdf import PdfReader

from nabrel.core.card.layout import Printer, calibrated, card
from nabrel.core.card.tone import lab_of_linear
from nabrel.core.face.measuring import SkinReading
from nabrel.core.film.difference import delta_e
from nabrel.core.house import House
from nabrel.demo.kit import kit
from nabrel.demo.pictures import PICTURES, drawn, taken
from nabrel.devices.camera import photograph
from nabrel.formats.photo import MOST_BYTES, opened_picture
from nabrel.store.repositories import Kit
from nabrel.store.skin_readings import SkinReadings
from nabrel.web.app import create_app

OWNED = {item.id: item for item in kit()}
SAMPLES = {each.name: each for each in PICTURES}
HEIC = Path(__file__).parents[1] / "data" / "card.heic"


def sent(client, data, size="kit", kind="application/octet-stream"):
    return client.post(f"/api/card/picture?size={size}", data=data, content_type=kind)


def sample(client, name):
    return client.get(f"/api/card/samples/{name}").data


def bare(picture):
    return {
        "cells": [
            {"id": cell["id"], **{half: {key: cell[half][key] for key in ("lab", "sd")} for half in ("over_white", "over_black")}}
            for cell in picture["cells"]
            if cell["over_white"]
        ]
    }  # fmt: skip


@pytest.fixture
def client(demo_database):
    return create_app(demo_database).test_client()


@pytest.fixture(scope="module")
def shot():
    """The kit's card as the simulated camera takes it."""
    return taken(SAMPLES["kit-card.jpg"])


@pytest.fixture
def films(client, shot):
    """Every film on the kit's card, as one picture tells it."""
    return client.post("/api/card/pooled", json={"pictures": [bare(sent(client, shot).json)]}).json["films"]


def onto(client, film, item):
    return {
        "item": item, "version": client.get("/api/kit").json["versions"][item], "name": OWNED[item].name, "role": OWNED[item].role,
        **{key: film[key] for key in ("lab", "lab_sd", "cover", "cover_sd")},
    }  # fmt: skip


@pytest.mark.parametrize("name", SAMPLES)
def test_samples_ship_small_and_are_what_the_simulated_camera_takes(client, name):
    data = sample(client, name)
    assert len(data) < 300_000
    shipped, made = (np.asarray(Image.open(io.BytesIO(each)), dtype=float) for each in (data, taken(SAMPLES[name])))
    assert shipped.shape == made.shape
    assert float(np.abs(shipped - made).mean()) < 1.0
    assert client.get("/api/card/samples/other.jpg").status_code == 404
    listed = client.get("/api/card/samples").json
    assert f"/api/card/samples/{name}" in {each["address"] for each in listed["samples"]}
    assert (listed["film_um"], listed["calibrated"]) == (25.0, False)


@pytest.mark.parametrize("size", ["kit", "skin"])
@pytest.mark.parametrize("paper", ["a4", "letter"])
def test_the_card_is_printed(client, size, paper):
    answer = client.get(f"/api/card?size={size}&paper={paper}")
    assert answer.mimetype == "application/pdf"
    assert len(PdfReader(io.BytesIO(answer.data)).pages) == 1


def test_a_picture_is_read_and_shows_what_was_drawn(client, films):
    items = SAMPLES["kit-card.jpg"].items
    assert [film["cell"] for film in films] == [cell.id for cell in card().cells[: len(items)]]
    for film, item in zip(films, items, strict=True):
        assert float(delta_e(film["lab"], drawn(OWNED[item]).lab)) < 3 * film["lab_sd"]
        if film["cover"] is None:
            assert "opaque" in film["because"]
        else:
            assert abs(film["cover"] - OWNED[item].cover) < 0.06
        assert {each["item"] for each in film["against"]} == {each.id for each in kit() if each.lab is not None}
    far = {
        item
        for film, item in zip(films, items, strict=True)
        for each in film["against"]
        if each["item"] == item and each["far"]
    }
    assert far == {"bronze-balm-1"}, "only the guess that was off is called far"


def test_two_pictures_are_surer_than_one_and_thickness_moves_cover_alone(client, shot):
    one = bare(sent(client, shot).json)
    two = bare(sent(client, sample(client, "kit-card-again.jpg")).json)
    alone = client.post("/api/card/pooled", json={"pictures": [one]}).json["films"]
    both = client.post("/api/card/pooled", json={"pictures": [one, two]}).json["films"]
    assert all(b["lab_sd"] < a["lab_sd"] for a, b in zip(alone, both, strict=True))
    thick = client.post("/api/card/pooled", json={"pictures": [one], "film_um": 50}).json["films"]
    told = [(a, t) for a, t in zip(alone, thick, strict=True) if a["cover"] is not None]
    assert told
    for a, t in told:
        assert t["cover"] < a["cover"]
        assert float(delta_e(a["lab"], t["lab"])) < 0.2


def test_crops_are_pictures_and_nothing_is_kept(client, shot, demo_database):
    found = sent(client, shot).json
    filled = [cell for cell in found["cells"] if cell["filled"]]
    assert len(filled) == len(SAMPLES["kit-card.jpg"].items)
    assert all(cell["crop"].startswith("data:image/jpeg;base64,") for cell in filled)
    assert all(cell["crop"] is None for cell in found["cells"] if not cell["filled"])
    with demo_database.session() as session:
        assert {item.id for item in Kit(session).all()} == set(OWNED)


def test_heic_is_read(client):
    found = sent(client, HEIC.read_bytes(), kind="image/heic")
    assert found.status_code == 200
    first = found.json["cells"][0]
    assert float(delta_e(found.json["window"]["lab"], (60, 12, 16))) < 3
    assert first["filled"]
    assert sent(client, HEIC.read_bytes()[:9000]).status_code == 422


@pytest.mark.parametrize("fault", ["none", "blur", "two_cards", "bent"])
def test_a_bad_picture_says_what_to_do(client, fault):
    """Every fault is looked at in the core's own test of cards; here that it is told as a refusal."""
    answer = sent(client, photograph(card(), {"a1": drawn(OWNED["silk-veil-3"])}, None, 3, House(), fault))
    assert answer.status_code == 422
    assert answer.json["field"] == "photo"
    assert len(answer.json["says"].split(". ")) >= 2, "what is so, and what to do"


def image(kind="PNG", size=(800, 600), mode="RGB", **more):
    out = io.BytesIO()
    Image.new(mode, size, 120).save(out, kind, **more)
    return out.getvalue()


def moving():
    frames = [Image.new("RGB", (80, 60), (20 * n, 0, 0)) for n in range(4)]
    out = io.BytesIO()
    frames[0].save(out, "PNG", save_all=True, append_images=frames[1:])
    return out.getvalue()


@pytest.mark.parametrize(("data", "said"), [
    (b"", "photograph"), (b"<svg xmlns='http://www.w3.org/2000/svg'/>", "photograph"), (b"%PDF-1.4", "photograph"),
    (image("GIF"), "photograph"), (image("JPEG", size=(12000, 8400), mode="L"), "50 megapixels"),
    (image(size=(30000, 30000), mode="1"), "50 megapixels"), (image(size=(6000, 5000), mode="L"), "24 megapixels"),
    (moving(), "one picture"), (image("JPEG"), "no card"), (image("WEBP"), "no card"),
])  # fmt: skip
def test_what_is_no_picture_of_a_card_is_refused(client, data, said):
    answer = sent(client, data)
    assert (answer.status_code, answer.json["field"]) == (422, "photo")
    assert said in answer.json["says"]


def test_a_body_that_is_too_large_is_told_its_own_limit(client):
    answer = sent(client, b"\0" * (MOST_BYTES + 1))
    assert answer.status_code == 413
    assert "25 MB" in answer.json["says"]
    assert sent(client, b"x", kind="text/html").status_code == 415


def test_a_large_picture_without_a_card_takes_little_memory(tmp_path):
    file = tmp_path / "large.png"
    file.write_bytes(image(size=(5900, 4060)))
    reading = (
        "import sys; from nabrel.cli import main; print(main(sys.argv[1:])); print(open('/proc/self/status').read())"
    )
    said = subprocess.run(
        [sys.executable, "-c", reading, "read-card", str(file)], capture_output=True, text=True, check=True
    ).stdout
    assert "no card" in said
    most_kb = int(next(line for line in said.splitlines() if line.startswith("VmHWM:")).split()[1])
    assert most_kb < 300_000


def test_nothing_of_pictures_is_loaded_until_one_comes():
    heavy = ("cv2", "PIL", "pi_heif", "scipy.optimize", "scipy.ndimage")
    loading = f"import sys, nabrel.web.app; print([name for name in {heavy!r} if name in sys.modules])"
    said = subprocess.run([sys.executable, "-c", loading], capture_output=True, text=True, check=True).stdout
    assert said.strip() == "[]"


def test_a_large_picture_is_read_upright_at_less_than_its_size():
    turned = Image.new("RGB", (4500, 4000), (10, 20, 30))
    turned.paste((200, 0, 0), (0, 0, 4500, 2000))
    exif = turned.getexif()
    exif[0x0112] = 6
    out = io.BytesIO()
    turned.save(out, "PNG", exif=exif)
    found = opened_picture(out.getvalue())
    assert found.shape == (2250, 2000, 3)
    assert tuple(found[100, 1900]) == (200, 0, 0), "what was up is right"
    assert tuple(found[100, 100]) == (10, 20, 30)


def test_what_colours_change_is_told_before_they_are_kept(client, films):
    by_item = dict(zip(SAMPLES["kit-card.jpg"].items, films, strict=True))
    body = {"films": [onto(client, by_item["thin-satin-3"], "thin-satin-3")]}
    told = client.post("/api/kit/measured/preview", json=body).json
    assert told["looked_at"] == told["all_plans"]
    [plan] = told["plans"]
    assert plan["what"] == ["Thin satin 3"]
    assert plan["look_de"] > 0.5
    assert (
        next(each for each in client.get("/api/kit").json["items"] if each["id"] == "thin-satin-3")["source"] != "photo"
    )
    before = client.get(f"/api/sequences/{plan['id']}").json
    stored = client.post("/api/kit/measured", json={**body, "plans": [{key: plan[key] for key in ("id", "revision")}]})
    item = next(each for each in stored.json["items"] if each["id"] == "thin-satin-3")
    assert (item["lab"], item["source"]) == (by_item["thin-satin-3"]["lab"], "photo")
    after = client.get(f"/api/sequences/{plan['id']}").json
    assert [step["id"] for step in after["steps"]] == [step["id"] for step in before["steps"]]
    assert after["undo_says"] == "Colours as photographed: Thin satin 3"
    undone = client.post(f"/api/sequences/{plan['id']}/undo", json={"revision": after["revision"]}).json
    assert undone["findings"] == before["findings"]


def test_a_film_is_a_new_item_and_all_or_nothing_is_kept(client, films):
    film = {key: films[0][key] for key in ("lab", "lab_sd", "cover", "cover_sd")}
    fresh = {"name": "Fresh bronze", "role": "bronzer", **film}
    good = onto(client, films[1], "bronze-balm-2")
    count = len(client.get("/api/kit").json["items"])
    plan = client.get("/api/plans").json["plans"][0]["id"]
    refused = [
        {"films": [fresh, {**good, "version": 1}]},
        {"films": [fresh, {**good, "item": "no-such-item"}]},
        {"films": [good, good]},
        {"films": [{**fresh, "role": "primer"}]},
        {"films": [{**fresh, "lab": [50, 120, -120]}]},
        {"films": [fresh, good], "plans": [{"id": plan, "revision": 99}]},
        {"films": [fresh, good], "plans": [{"id": "no-such-plan", "revision": 1}]},
        {"films": []},
    ]
    for body in refused:
        answer = client.post("/api/kit/measured", json=body)
        assert answer.status_code in (404, 409, 422), body
        assert len(client.get("/api/kit").json["items"]) == count
        assert client.get("/api/kit").json["versions"]["bronze-balm-2"] == good["version"]
    stored = client.post("/api/kit/measured", json={"films": [fresh, good]}).json
    assert len(stored["items"]) == count + 1
    assert next(each for each in stored["items"] if each["name"] == "Fresh bronze")["source"] == "photo"


def grey(printer, known, seed, size="skin"):
    """A picture of a known grey in the window of a card from this printer."""
    r, g, b = (float(each) for each in lab_of_linear(np.full((1, 3), known))[0])
    return photograph(calibrated(card(size), printer), {}, (r, g, b), seed, House())


@pytest.mark.parametrize(("seed", "known"), [(1, 0.18), (2, 0.4), (3, 0.12)])
def test_a_printer_is_told_by_its_white_its_black_and_a_known_grey(client, seed, known):
    rng = np.random.default_rng(seed)
    printer = Printer(
        round(rng.uniform(0.82, 0.9), 3), round(rng.uniform(0.035, 0.06), 3), round(rng.uniform(0.25, 0.34), 3)
    )
    asked = f"/api/card/grey?size=skin&known={known}&white={printer.paper}&black={printer.ink}"
    found = client.post(asked, data=grey(printer, known, seed), content_type="image/jpeg").json
    assert found["middle"] == pytest.approx(printer.middle, abs=0.012)
    body = {"white": found["white"], "black": found["black"], "middle": found["middle"], "note": "by a grey card"}
    stored = client.put("/api/card/printer", json=body).json
    assert stored["calibrated"]
    decided = {each["name"]: each for each in client.get("/api/house").json["parameters"]}
    assert decided["card_middle"]["value"] == found["middle"]
    assert decided["card_white"]["note"] == "by a grey card"


def test_films_are_surer_and_nearer_once_the_printer_is_known(client):
    printer = Printer(0.82, 0.06, 0.25)
    drawn_on = calibrated(card(), printer)
    films = {
        cell.id: drawn(OWNED[key]) for cell, key in zip(drawn_on.cells, SAMPLES["kit-card.jpg"].items, strict=False)
    }
    data = photograph(drawn_on, films, None, 5, House())

    def off():
        found = client.post("/api/card/pooled", json={"pictures": [bare(sent(client, data).json)]}).json["films"]
        assert len(found) == len(films)
        de = [float(delta_e(each["lab"], films[each["cell"]].lab)) for each in found]
        return float(np.median(de)), float(np.median([each["lab_sd"] for each in found]))

    before = off()
    assert client.put("/api/card/printer", json={"white": 0.82, "black": 0.06, "middle": 0.25}).status_code == 200
    after = off()
    assert after[0] < before[0]
    assert after[1] < before[1]


@pytest.mark.parametrize(("body", "field"), [
    ({"white": 0.5, "black": 0.05}, "card white"), ({"white": 0.86, "black": 0.3}, "card black"),
    ({"white": 0.86, "black": 0.05, "middle": 0.9}, "card middle"), ({"white": 0.86}, "black"), ({"white": 2, "black": 0.05}, "white"),
])  # fmt: skip
def test_what_no_printer_gives_back_is_refused_and_nothing_is_decided(client, body, field):
    answer = client.put("/api/card/printer", json=body)
    assert answer.status_code == 422
    assert answer.json["field"] == field
    assert not client.get("/api/card/samples").json["calibrated"]


def test_a_grey_that_tells_nothing_is_refused(client):
    empty = photograph(card("skin"), {}, None, 2, House())
    asked = "/api/card/grey?size=skin&white=0.86&black=0.045&known="
    assert "window" in client.post(asked + "0.18", data=empty, content_type="image/jpeg").json["says"]
    fine = grey(Printer(0.86, 0.045, 0.3), 0.18, 2)
    for known in (0.05, 0.85):
        refused = client.post(asked + str(known), data=fine, content_type="image/jpeg")
        assert (refused.status_code, refused.json["field"]) == (422, "known")


@pytest.mark.parametrize("change", [
    {"pictures": []}, {"pictures": [{"cells": []}], "film_um": 0}, {"pictures": [{"cells": [{"id": "a1"}]}]},
    {"pictures": [{"cells": [{"id": "z9", "over_white": {"lab": [60, 10, 10], "sd": 1}, "over_black": {"lab": [40, 10, 10], "sd": 1}}]}]},
])  # fmt: skip
def test_what_cannot_be_put_together_is_refused(client, change):
    assert client.post("/api/card/pooled", json=change).status_code in (404, 422)


def test_skin_is_put_together_by_place_beside_what_was_read_before(client, demo_database):
    wren = next(each for each in client.get("/api/sitters").json["sitters"] if each["nickname"] == "Wren")["id"]
    window = sent(client, sample(client, "skin-card.jpg"), size="skin").json["window"]
    seen = {key: window[key] for key in ("lab", "sd")}
    body = {"takes": [{"place": "face", **seen}, {"place": "face", **seen}, {"place": "jaw_l", **seen}]}
    places = client.post(f"/api/sitters/{wren}/skin-pictures", json=body).json["places"]
    assert [each["place"] for each in places] == ["face", "jaw_l"]
    assert [each["takes"] for each in places] == [2, 1]
    assert "from the reading of" in places[0]["before"]
    assert places[0]["confirms"]
    assert "agrees" in places[0]["before"]
    assert (places[1]["before"], places[1]["confirms"]) == ("", False)
    far = {"takes": [{"place": "face", "lab": [62.0, 10.0, 14.0], "sd": 1.5}]}
    [other] = client.post(f"/api/sitters/{wren}/skin-pictures", json=far).json["places"]
    assert not other["confirms"]
    assert client.post("/api/sitters/nobody/skin-pictures", json=body).status_code == 404
    assert client.post(f"/api/sitters/{wren}/skin-pictures", json={"takes": []}).status_code == 422
    sure = {"takes": [{"place": "face", "lab": [62.0, 10.0, 14.0], "sd": 0.0}]}
    assert client.post(f"/api/sitters/{wren}/skin-pictures", json=sure).status_code == 422
    reading = {
        "day": "2026-11-26", "place": "jaw_l", "what": "colour", "lab": places[1]["lab"], "takes": 1, "spread": places[1]["sd"],
        "source": "photo",
    }  # fmt: skip
    told = client.post(
        f"/api/sitters/{wren}/readings/changes", json={"readings": [{**reading, "lab": [60.0, 10.0, 14.0]}]}
    ).json
    assert {plan["nickname"] for plan in told["plans"]} == {"Wren"}
    assert all(plan["says"] for plan in told["plans"])
    face = client.post(f"/api/sitters/{wren}/readings", json={"readings": [reading]}).json
    jaw = next(each for each in face["colours"] if each["place"] == "jaw_l")
    assert jaw["lab"] == places[1]["lab"]
    assert "photograph" in jaw["sure"]
    measured = {**reading, "lab": [70.0, 10.0, 14.0], "source": "reader", "spread": 0.4, "takes": 3}
    judged = {**reading, "lab": [60.0, 10.0, 14.0], "source": "eye", "spread": 2.5}
    for each, counts in ((judged, places[1]["lab"]), (measured, measured["lab"]), (reading, measured["lab"])):
        face = client.post(f"/api/sitters/{wren}/readings", json={"readings": [each]}).json
        assert next(one for one in face["colours"] if one["place"] == "jaw_l")["lab"] == counts
    later = {"readings": [{**reading, "lab": [50.0, 10.0, 14.0]}]}
    assert client.post(f"/api/sitters/{wren}/readings/changes", json=later).json["plans"] == [], "the reader's counts"
    assert client.post("/api/sitters/nobody/readings/changes", json=later).status_code == 404
    with demo_database.session() as session:
        stored = [
            each
            for _, each in SkinReadings(session).of(wren)
            if isinstance(each, SkinReading) and each.place == "jaw_l"
        ]
    assert sorted(each.source for each in stored) == ["eye", "photo", "reader"]
