"""Pictures and zips that somebody means ill with: nothing hides in what is kept, and nothing swells in memory or time."""

from __future__ import annotations

import io
import struct
import subprocess
import sys
import zipfile

import numpy as np
import pytest
from PIL import Image

from nabrel.core.errors import Refused
from nabrel.formats import workspace as module
from nabrel.formats.photo import re_encoded
from nabrel.formats.workspace import MOST_FILES, open_workspace

SECRET = b"the uncropped face of somebody"
MOST_MB = 300


def jpeg(size=(200, 150)) -> bytes:
    out = io.BytesIO()
    Image.fromarray(np.full((size[1], size[0], 3), 140, np.uint8)).save(out, "JPEG", quality=88)
    return out.getvalue()


def segment(marker: int, data: bytes) -> bytes:
    return bytes([0xFF, marker]) + struct.pack(">H", len(data) + 2) + data


@pytest.mark.parametrize(
    "hidden",
    [
        lambda plain: plain + SECRET + b"\xff\xd9",
        lambda plain: (
            plain[:2] + segment(0xE0, b"JFIF\0\1\2\0\0\1\0\1\0\0") + segment(0xE0, b"JFXX\0" + SECRET) + plain[20:]
        ),
        lambda plain: plain[:20] + segment(0xE0, SECRET) + plain[20:],
        lambda plain: plain[:20] + segment(0xFE, SECRET) + plain[20:],
        lambda plain: plain[:-2] + SECRET + plain[-2:],
        lambda plain: plain[:-2] + b"\xff\xd9" + jpeg() + SECRET + b"\xff\xd9",
    ],
    ids=["behind the end", "thumbnail", "second APP0", "comment", "after the last row", "a second picture"],
)
def test_nothing_but_the_picture_is_kept_of_a_small_plain_jpeg(hidden):
    data = hidden(jpeg())
    assert SECRET in data
    made = re_encoded(data)
    assert SECRET not in made
    assert len(made) < len(data) + 400
    with Image.open(io.BytesIO(made)) as made_small:
        assert (made_small.size, made_small.format) == ((200, 150), "JPEG")
        assert set(made_small.info) <= {"jfif", "jfif_version", "jfif_unit", "jfif_density"}


def test_a_picture_of_49_megapixels_is_made_small_within_the_memory_it_may_take(tmp_path):
    file = tmp_path / "large.jpg"
    Image.new("RGB", (7000, 7000), (150, 120, 100)).save(file, "JPEG", quality=85)
    code = (
        "import sys; from pathlib import Path; from nabrel.formats.photo import re_encoded;"
        "made = re_encoded(Path(sys.argv[1]).read_bytes());"
        "peak = next(row for row in open('/proc/self/status') if row.startswith('VmHWM'));"
        "print(len(made), int(peak.split()[1]) // 1024)"
    )
    found = subprocess.run([sys.executable, "-c", code, str(file)], capture_output=True, text=True, check=True)
    size, megabytes = (int(each) for each in found.stdout.split())
    assert size > 1000
    assert megabytes < MOST_MB


def test_a_png_that_cannot_be_opened_small_is_refused_by_its_size():
    out = io.BytesIO()
    Image.new("L", (6000, 6000)).save(out, "PNG")
    with pytest.raises(Refused, match="at most 24 megapixels"):
        re_encoded(out.getvalue())


@pytest.mark.parametrize("kind", [zipfile.ZIP_BZIP2, zipfile.ZIP_LZMA])
def test_only_stored_and_deflated_files_are_unpacked(kind):
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", kind) as made:
        made.writestr("workspace.json", b"\0" * 50_000_000)
    with pytest.raises(Refused, match="stored or deflated"):
        open_workspace(out.getvalue())


def test_what_comes_out_is_counted_not_what_is_declared(monkeypatch):
    monkeypatch.setattr(module, "MOST_UNPACKED_BYTES", 3_000_000)
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as made:
        for name in ("workspace.json", "house.json", "kit.csv"):
            made.writestr(name, b" " * 2_000_000)
    data = out.getvalue().replace(struct.pack("<I", 2_000_000), struct.pack("<I", 10))
    with pytest.raises(Refused):
        open_workspace(data)
    folder = module._Folder.__new__(module._Folder)
    folder._zip, folder._names, folder._unpacked = (
        zipfile.ZipFile(io.BytesIO(out.getvalue())),
        {"a", "workspace.json", "kit.csv"},
        0,
    )
    folder.read("workspace.json")
    with pytest.raises(Refused, match="more when unpacked"):
        folder.read("kit.csv")


def test_as_many_files_as_there_may_be_are_looked_through_and_one_more_is_refused():
    def zipped(count: int) -> bytes:
        out = io.BytesIO()
        with zipfile.ZipFile(out, "w") as made:
            for number in range(count):
                made.writestr(f"sitters/a/plans/{number}/plan.json", b"")
        return out.getvalue()

    folder = module._Folder(zipped(MOST_FILES))
    assert len(folder.plans_of("a")) == MOST_FILES
    with pytest.raises(Refused, match=f"at most {MOST_FILES} files"):
        open_workspace(zipped(MOST_FILES + 1))
