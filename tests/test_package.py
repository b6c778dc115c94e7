"""The package: a wheel that serves without Node, a source archive that brings what it is built of, and a base without the extras."""

from __future__ import annotations

import json
import os
import re
import subprocess
import sys
import tarfile
import tomllib
import urllib.request
import zipfile
from importlib import metadata
from pathlib import Path

import pytest

from tests.served import free_port

ROOT = Path(__file__).parents[1]
CASE, SEQUENCE = "examples/wren.case.json", "examples/wren.sequence.json"


@pytest.fixture(scope="session")
def built(tmp_path_factory):
    """A source archive, and the wheel that is built from the checkout as it stands."""
    place = tmp_path_factory.mktemp("built")
    ran = subprocess.run(
        [sys.executable, "-m", "build", "--wheel", "--sdist", "--no-isolation", "--outdir", str(place), str(ROOT)],
        capture_output=True,
        text=True,
        check=False,
    )
    assert ran.returncode == 0, ran.stdout[-2000:] + ran.stderr[-2000:]
    return place


def one(place: Path, pattern: str) -> Path:
    [found] = place.glob(pattern)
    return found


def test_the_wheel_brings_all_that_it_serves_and_its_metadata_are_complete(built):
    with zipfile.ZipFile(one(built, "*.whl")) as wheel:
        names = wheel.namelist()
        about = wheel.read(next(name for name in names if name.endswith("METADATA"))).decode()
    for wanted in (
        r"nabrel/web/static/index\.html", r"nabrel/web/static/assets/.*\.js", r"nabrel/web/static/.*\.woff2",
        r"nabrel/web/static/licences\.json", r"nabrel/web/openapi\.json", r"nabrel/store/migrations/versions/0001.*\.py",
        r"nabrel/formats/sheet/fonts/.*\.ttf", r"nabrel/formats/sheet/.*\.typ", r"nabrel/formats/schemas/case\.schema\.json",
        r"nabrel/demo/pictures/.*\.jpg", r"nabrel-.*\.dist-info/licenses/LICENSE",
    ):  # fmt: skip
        assert [name for name in names if re.fullmatch(wanted, name)], wanted
    assert not [name for name in names if name.startswith(("tests/", "frontend/", "docs/"))]
    for field in (
        "Summary:",
        "License-Expression:",
        "Requires-Python: >=3.11",
        "Classifier: Framework :: Flask",
        "# Nabrel",
    ):
        assert field in about
    assert "Project-URL" not in about


def test_the_source_archive_brings_the_front_end_both_ways(built):
    with tarfile.open(one(built, "*.tar.gz")) as archive:
        names = {name.partition("/")[2] for name in archive.getnames()}
    assert names >= {
        "pyproject.toml", "hatch_build.py", "frontend/build.py", "frontend/package-lock.json", "docs/guide.md",
        "nabrel/web/static/index.html", "nabrel/web/static/.built-of", "LICENSE", "README.md",
    }  # fmt: skip
    assert not [name for name in names if "node_modules" in name or name.startswith(".venv")]


def test_the_installed_wheel_serves_the_demo_from_a_fresh_folder(built, tmp_path):
    there = tmp_path / "installed"
    install = ["install", "--quiet", "--no-deps", "--no-index", "--target", str(there), str(one(built, "*.whl"))]
    subprocess.run([sys.executable, "-m", "pip", *install], check=True, capture_output=True)
    port = free_port()
    environment = {
        **os.environ,
        "PYTHONPATH": str(there),
        "NABREL_DATA": str(tmp_path / "data"),
        "PATH": "/usr/bin:/bin",
    }
    served = subprocess.Popen(
        [sys.executable, "-m", "nabrel.cli", "serve", "--demo", "--port", str(port)],
        cwd=tmp_path, env=environment, stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True,
    )  # fmt: skip
    try:
        said = []
        for line in served.stdout:
            said.append(line)
            if "is open at" in line:
                break
        else:
            raise AssertionError("".join(said))
        address = f"http://127.0.0.1:{port}"
        page = urllib.request.urlopen(address).read().decode()
        script = re.search(r'src="(/assets/[^"]+\.js)"', page)
        assert script is not None
        assert len(urllib.request.urlopen(address + script[1]).read()) > 10_000
        sitters = json.load(urllib.request.urlopen(f"{address}/api/sitters"))["sitters"]
        assert len(sitters) > 5
        maps = Path(f"/proc/{served.pid}/environ").read_bytes()
        assert str(there).encode() in maps
    finally:
        served.kill()
        served.communicate()
    where = subprocess.run(
        [sys.executable, "-c", "import nabrel; print(nabrel.__file__)"],
        cwd=tmp_path, env=environment, capture_output=True, text=True, check=True,
    )  # fmt: skip
    assert where.stdout.startswith(str(there))


def beyond_the_base() -> set[str]:
    """The modules of every extra."""
    extras = tomllib.loads((ROOT / "pyproject.toml").read_text(encoding="utf-8"))["project"]["optional-dependencies"]
    wanted = {
        re.split(r"[<>=\[]", each)[0] for name, needs in extras.items() if name != "dev" for each in needs
    } - {"nabrel"}  # fmt: skip
    found = metadata.packages_distributions()
    modules = {
        module for module, brought in found.items() if {each.lower().replace("_", "-") for each in brought} & wanted
    }
    assert {"ortools", "cv2", "typst", "flask", "sqlalchemy"} <= modules
    return modules


WITHOUT = """
import sys
class Without:
    def find_spec(self, name, path=None, target=None):
        if name.partition(".")[0] in {modules!r}:
            raise ModuleNotFoundError(f"No module named {{name!r}}", name=name)
sys.meta_path.insert(0, Without())
from nabrel.cli import main
for words in {commands!r}:
    print(words[0], main(words))
"""


def without_extras(*commands: list[str]) -> subprocess.CompletedProcess[str]:
    program = WITHOUT.format(modules=beyond_the_base(), commands=list(commands))
    return subprocess.run([sys.executable, "-c", program], cwd=ROOT, capture_output=True, text=True, check=False)


def test_the_questions_of_the_command_line_need_no_extra(tmp_path):
    ran = without_extras(
        ["plan", CASE], ["check", SEQUENCE], ["film", SEQUENCE], ["correct", CASE, "--zone", "under_eye_l"],
        ["mix", CASE, "--drops", "4"], ["tell", SEQUENCE], ["schools", CASE], ["drill", "--kind", "wait", "--seed", "7"],
        ["learn", *map(str, sorted(ROOT.glob("examples/samples/*.wear.json")))],
    )  # fmt: skip
    said = re.findall(r"^(\w+) ([012])$", ran.stdout, re.MULTILINE)
    assert [name for name, _ in said] == [
        "plan",
        "check",
        "film",
        "correct",
        "mix",
        "tell",
        "schools",
        "drill",
        "learn",
    ], ran.stderr
    assert {int(code) for _, code in said} <= {0, 1}
    assert ran.stderr == ""


@pytest.mark.parametrize(("words", "extra"), [
    (["pace", SEQUENCE], "timetables"),
    (["class", "examples/samples/evening-course.class.json"], "timetables"),
    (["sheet", SEQUENCE, "-o", "/dev/null"], "sheets"),
    (["read-card", "nabrel/demo/pictures/kit-card.jpg"], "pictures"),
    (["serve"], "all"),
    (["backup"], "all"),
])  # fmt: skip
def test_a_command_that_wants_an_extra_says_which(words, extra):
    ran = without_extras(words)
    assert ran.stdout.endswith(f"{words[0]} 2\n"), ran.stderr
    assert f"pip install 'nabrel[{extra}]'" in ran.stderr
    assert len(ran.stderr.splitlines()) == 1
