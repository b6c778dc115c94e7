"""``card`` and ``card_reading``: printed, read from pictures, and refused where a file is none or a picture too much."""

from __future__ import annotations

import io
import json

import numpy as np
import pytest
from PIL import Image
from pypdf import PdfReader
from scipy.ndimage import gaussian_filter

from nabrel.core.card.layout import card
from nabrel.core.errors import Refused
from nabrel.core.house import House
from nabrel.devices.camera import Drawn, photograph
from nabrel.formats.card import CardFile, CardReadingFile, read_card_file
from nabrel.formats.photo import opened_picture
from nabrel.formats.sheet.card import card_pdf, card_png
from tests.commands import run


def written(**changes):
    return json.dumps({**CardFile.of(card()).model_dump(mode="json"), **changes}).encode()


@pytest.fixture(scope="module")
def photo(tmp_path_factory):
    file = tmp_path_factory.mktemp("photo") / "card.jpg"
    films = {"a1": Drawn((55, 12, 18), 0.4), "b2": Drawn((40, 14, 16), 0.7)}
    file.write_bytes(photograph(card(), films, (62, 11, 17), 6, House()))
    return file


def test_a_card_is_printed_in_black_on_one_page(tmp_path):
    for arguments in (("--paper", "a4"), ("--paper", "letter"), ("--skin",)):
        file = tmp_path / "card.pdf"
        said = run("card", "-o", str(file), *arguments)
        assert said.returncode == 0, said.stderr
        [page] = PdfReader(file).pages
        assert page.mediabox.width > page.mediabox.height
        assert "50 mm" in page.extract_text()
        assert "Clean tools" in page.extract_text()


def test_what_is_printed_is_read_where_the_layout_says(tmp_path):
    del tmp_path
    for kind in ("kit", "skin"):
        found = card(kind)
        drawn = np.asarray(Image.open(io.BytesIO(card_png(found, "a4", 200))).convert("L"), dtype=float) / 255
        # As paper and toner look, written as a camera would.
        light = gaussian_filter(found.ink + (found.paper - found.ink) * drawn, 2.0)
        seen = np.where(light > 0.0031308, 1.055 * light ** (1 / 2.4) - 0.055, 12.92 * light)
        from nabrel.core.card.reading import read_card

        read = read_card(np.repeat(np.round(seen * 250).astype(np.uint8)[..., None], 3, axis=2), found, House())
        assert [cell.filled for cell in read.cells] == [False] * len(found.cells)
        assert read.window is None
    assert card_pdf(card(), "a4")[:5] == b"%PDF-"


def test_the_layout_is_a_file_that_is_read_back():
    said = run("card", "--layout", "--white", "0.88", "--black", "0.05", "--middle", "0.28")
    found = read_card_file(said.out)
    assert found.calibrated
    assert (found.paper, found.ink) == (0.88, 0.05)
    assert read_card_file(written()) == card()
    assert read_card_file(CardFile.of(card("skin")).model_dump_json().encode()) == card("skin")


def test_a_picture_is_read_and_one_that_cannot_be_says_why(photo, tmp_path):
    said = run("read-card", str(photo), "--thickness-um", "25")
    assert said.returncode == 0, said.stderr
    found = CardReadingFile.model_validate_json(said.stdout)
    assert found.taken_well
    by_id = {cell.id: cell for cell in found.cells}
    assert by_id["a1"].filled
    assert by_id["a1"].cover == pytest.approx(0.4, abs=0.1)
    assert not by_id["c4"].filled
    assert found.window.lab[0] == pytest.approx(62, abs=2.5)
    again = run("read-card", "-", text=photo.read_bytes())
    assert again.stdout == said.stdout
    bad = tmp_path / "bad.jpg"
    bad.write_bytes(photograph(card(), {}, None, 2, House(), "hand"))
    refused = run("read-card", str(bad))
    assert refused.returncode == 1
    told = CardReadingFile.model_validate_json(refused.stdout)
    assert not told.taken_well
    assert "not seen" in told.because[0]
    assert all(cell.over_white is None and cell.cover is None for cell in told.cells)
    thick = json.loads(run("read-card", str(photo), str(photo)).stdout)
    assert thick["taken_well"]


@pytest.mark.parametrize("arguments", [
    ("card",), ("card", "-o", "x.pdf", "--paper", "a3"), ("card", "--layout", "--white", "0.3", "--black", "0.05"),
    ("card", "--layout", "--middle", "0.3"), ("read-card", "no-such.jpg"), ("read-card", "README.md"),
    ("read-card", "README.md", "--card", "README.md"),
])  # fmt: skip
def test_what_cannot_be_done_is_one_line_and_2(arguments):
    said = run(*arguments)
    assert said.returncode == 2
    assert said.stdout == ""
    assert len(said.stderr.strip().splitlines()) == 1


@pytest.mark.parametrize(("changes", "field"), [
    ({"paper": 0.2}, "paper"), ({"cells": [], "markers": []}, "markers"), ({"size_mm": [10, 10]}, "size_mm[0]"), ({"window": [200, 100, 90, 90]}, "window"),
    ({"greys": []}, "greys"), ({"more": 1}, "more"), ({"version": 9}, "version"),
])  # fmt: skip
def test_what_is_no_card_is_refused_with_its_field(changes, field):
    with pytest.raises(Refused) as refused:
        read_card_file(written(**changes))
    assert refused.value.field == field


def _image(kind, size=(300, 200), **more):
    out = io.BytesIO()
    Image.new("RGB", size, (200, 180, 160)).save(out, kind, **more)
    return out.getvalue()


def test_a_picture_is_opened_upright_and_small_enough():
    turned = Image.new("RGB", (300, 200))
    exif = turned.getexif()
    exif[0x0112] = 6
    out = io.BytesIO()
    turned.save(out, "JPEG", exif=exif)
    assert opened_picture(out.getvalue()).shape == (300, 200, 3)
    assert max(opened_picture(_image("JPEG", (7000, 5000))).shape) <= 5000


@pytest.mark.parametrize("data", [
    b"", b"\xff\xd8\xff\xe0 nothing", b"PK\x03\x04", _image("PNG", (9000, 8000)), _image("PNG", (6500, 5000)), _image("JPEG", (10000, 10000)),
    _image("WEBP", save_all=True, append_images=[Image.new("RGB", (300, 200), (1, 2, 3))], duration=100), _image("GIF"), _image("JPEG")[:400],
    b"x" * 25_000_001,
], ids=["nothing", "a header", "a zip", "72 MP", "32 MP", "100 MP", "one that moves", "a GIF", "half of one", "25 MB"])  # fmt: skip
def test_what_is_too_much_or_no_picture_is_refused(data):
    with pytest.raises(Refused) as refused:
        opened_picture(data)
    assert refused.value.field == "photo"
