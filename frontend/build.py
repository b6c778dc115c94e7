"""Build what browsers load: ``python frontend/build.py``. Nothing is done where it is built already, of just these sources.

It needs nothing but Python and Node, so that setting up, a wheel and a source archive build it the same way. Where Node is not here,
what was built before of the same sources is taken, as a source archive brings it.
"""

from __future__ import annotations

import hashlib
import shutil
import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
FRONT = ROOT / "frontend"
BUILT = ROOT / "nabrel" / "web" / "static"
STAMP = BUILT / ".built-of"
SOURCES = (
    "frontend/src/**/*", "frontend/public/**/*", "frontend/index.html", "frontend/*.config.ts", "frontend/*.config.js",
    "frontend/tsconfig.json", "frontend/package-lock.json", "docs/guide.md", "docs/screenshots/*.png",
    "nabrel/core/face/drawing.json",
)  # fmt: skip
"""All that a build reads: the guide and the drawing of the face lie elsewhere."""


def sources() -> Iterator[Path]:
    """Every file that a build reads, in order."""
    yield from sorted({file for pattern in SOURCES for file in ROOT.glob(pattern) if file.is_file()})


def digest() -> str:
    """What stands for the sources as they are now."""
    found = hashlib.sha256()
    for file in sources():
        found.update(file.relative_to(ROOT).as_posix().encode() + b"\0" + file.read_bytes() + b"\0")
    return found.hexdigest()


def build() -> str:
    """Build it where it is not built of these sources. What was wrong, empty where nothing was."""
    wanted = digest()
    if STAMP.is_file() and (BUILT / "index.html").is_file() and STAMP.read_text(encoding="ascii") == wanted:
        return ""
    npm = shutil.which("npm")
    if npm is None:
        return (
            "The front end is not built of these sources, and npm is not here to build it: install Node 20 with npm, "
            "or install Nabrel from a wheel, which brings it built."
        )
    lock, installed = FRONT / "package-lock.json", FRONT / "node_modules" / ".package-lock.json"
    if not installed.is_file() or installed.stat().st_mtime < lock.stat().st_mtime:
        subprocess.run([npm, "ci", "--no-audit", "--no-fund", "--loglevel=error"], cwd=FRONT, check=True)
        installed.touch()
    subprocess.run([npm, "run", "--silent", "build"], cwd=FRONT, check=True)
    STAMP.write_text(wanted, encoding="ascii")
    return ""


if __name__ == "__main__":
    sys.exit(build() or 0)
