"""The licences of all that ships: Nabrel's own, fonts, what the screens are made of, and every Python package beneath the server."""

from __future__ import annotations

import json
import platform
import re
import sysconfig
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from functools import cache
from importlib import metadata
from pathlib import Path

from packaging.requirements import Requirement

from nabrel import __version__

STATIC = Path(__file__).parents[1] / "static"
FONTS = Path(__file__).parents[2] / "formats" / "sheet" / "fonts"
ALL = ("all", "pictures", "sheets", "timetables")
LONGEST_NAME = 80
OWN = "All rights reserved"
_TEXT = re.compile(r"(?i)(licen[cs]e|copying|notice|authors|ofl)[^/]*$")
"""The names of files that hold licences."""


@dataclass(frozen=True, slots=True)
class Shipped:
    """Something that ships: its version, what its licence is called, and the licence's words where it brings them."""

    name: str
    version: str
    licence: str
    text: str = ""


@cache
def shipped() -> tuple[Shipped, ...]:
    """All that ships, Nabrel first, then by name."""
    rest = [*_fonts(), *_screens(), _python(), *_packages()]
    return (_own(), *sorted(rest, key=lambda each: each.name.casefold()))


def _own() -> Shipped:
    return Shipped("Nabrel", __version__, OWN, _words_of("nabrel") or _file(Path(__file__).parents[3] / "LICENSE"))


def _fonts() -> Iterator[Shipped]:
    texts = "\n\n".join(_file(file) for file in sorted(FONTS.glob("*")) if _TEXT.search(file.name))
    yield Shipped("Atkinson Hyperlegible Next", "", "SIL Open Font License 1.1", texts)


def _python() -> Shipped:
    text = _file(Path(sysconfig.get_path("stdlib")) / "LICENSE.txt")
    return Shipped("Python", platform.python_version(), "PSF-2.0", text)


def _screens() -> Iterator[Shipped]:
    """What the build of the screens wrote down; nothing where they are not built."""
    listed = STATIC / "licences.json"
    if listed.is_file():
        for each in json.loads(listed.read_text("utf-8")):
            yield Shipped(each["name"], each["version"], each["licence"], each.get("text", ""))


def _packages() -> Iterator[Shipped]:
    """Every package that the server needs, and what those need in turn."""
    left, seen = ["nabrel"], {"nabrel"}
    while left:
        for name in _needed_by(left.pop()):
            if name in seen:
                continue
            seen.add(name)
            left.append(name)
            about = metadata.metadata(name)
            said = (text for key in ("License-Expression", "License") for text in about.get_all(key) or ())
            # Some put the words of the licence where its name belongs.
            named = next((text for text in said if len(text) <= LONGEST_NAME), "")
            licence = named or _classified(about.get_all("Classifier") or [])
            yield Shipped(name, metadata.version(name), licence, _words_of(name))


def _needed_by(name: str) -> Iterator[str]:
    # Of Nabrel all that the application is made of; of others what they need without being asked for more.
    extras = ("", *ALL) if name == "nabrel" else ("",)
    for wanted in metadata.requires(name) or ():
        needed = Requirement(wanted)
        if needed.marker is not None and not any(needed.marker.evaluate({"extra": extra}) for extra in extras):
            continue
        try:
            yield re.sub(r"[-_.]+", "-", metadata.metadata(needed.name)["Name"]).lower()
        except metadata.PackageNotFoundError:
            continue


def _words_of(name: str) -> str:
    """The words of a package's licences, as it brings them."""
    files: Iterable[metadata.PackagePath] = metadata.files(name) or ()
    held = [file for file in files if ".dist-info" in file.parts[0] and _TEXT.search(str(file))]
    return "\n\n".join(_file(Path(str(file.locate()))) for file in held)


def _file(file: Path) -> str:
    try:
        return file.read_text(encoding="utf-8", errors="replace").strip()
    except OSError:
        return ""


def _classified(classifiers: list[str]) -> str:
    said = [each.rsplit("::", 1)[-1].strip() for each in classifiers if each.startswith("License ::")]
    return ", ".join(said) or "see the package"


def licences_text() -> str:
    """All licences as one text: what ships, then the words of each."""
    parts = shipped()
    listed = "\n".join(f"{each.name} {each.version}".ljust(48) + each.licence for each in parts)
    words = "\n\n".join(
        f"{'=' * 78}\n{each.name} {each.version}: {each.licence}\n{'=' * 78}\n\n{each.text}"
        for each in parts
        if each.text
    )
    return f"What ships with Nabrel, and under which licence.\n\n{listed}\n\n{words}\n"
