"""Documentation that is generated or checked, never remembered."""

from __future__ import annotations

import importlib
import importlib.util
import re
import subprocess
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[1]
_spec = importlib.util.spec_from_file_location("write_reference", ROOT / "docs" / "write_reference.py")
reference = importlib.util.module_from_spec(_spec)
_spec.loader.exec_module(reference)


@pytest.mark.parametrize("name", reference.PAGES)
def test_reference_pages_are_current(name):
    assert (ROOT / "docs" / name).read_text(encoding="utf-8") == reference.PAGES[name]()


def test_every_link_in_the_readme_and_docs_leads_somewhere():
    for page in [ROOT / "README.md", *(ROOT / "docs").glob("*.md")]:
        for link in re.findall(r"\]\(([^)#]+)\)", page.read_text(encoding="utf-8")):
            assert (page.parent / link).exists(), f"{page.name} links to {link}"


def test_every_screenshot_is_linked_from_the_readme():
    readme = (ROOT / "README.md").read_text(encoding="utf-8")
    shots = list((ROOT / "docs" / "screenshots").glob("*.png"))
    assert 0 < len(shots) < 20
    for shot in shots:
        assert f"docs/screenshots/{shot.name}" in readme


def test_no_lock_or_setting_names_a_host():
    for name in ("requirements.txt", "frontend/package-lock.json", "frontend/.npmrc", "pyproject.toml"):
        text = (ROOT / name).read_text(encoding="utf-8")
        assert '"resolved"' not in text
        assert "index-url" not in text


def test_ci_calls_the_command_of_the_readme():
    assert "make test" in (ROOT / "README.md").read_text(encoding="utf-8")
    assert "make test" in (ROOT / ".ci" / "run").read_text(encoding="utf-8")


SPAN = re.compile(r"(?<!`)`([\w./-]+)`(?!`)")
NO_PLACE = re.compile(r"^/|^api/|^(application|image|text)/|^\.|^\d|^[\d./]+$|^(and|or)/")
ROLE = re.compile(r":(?:mod|func|data|class|meth|attr):`~?([\w.]+)`")


def _files() -> set[str]:
    """Every file of the checkout, from its root, with a slash before it."""
    listed = subprocess.run(["git", "ls-files"], cwd=ROOT, capture_output=True, text=True, check=True).stdout
    return {f"/{name}" for name in listed.splitlines()}


def _is_there(name: str, files: set[str]) -> bool:
    """Whether a name that looks like a place in the checkout is one: a file, a folder, a module, or what a module holds."""
    end = f"/{name.rstrip('/')}"
    if any(f.endswith((end, f"{end}.py", f"{end}.svelte", f"{end}.svelte.ts")) or f"{end}/" in f for f in files):
        return True
    module, dot, held = end.rpartition(".")
    return bool(dot) and any(
        re.search(rf"\b{re.escape(held)}\b", (ROOT / f[1:]).read_text(encoding="utf-8"))
        for f in files
        if f.endswith(f"{module}.py")
    )


def test_every_place_that_the_docs_name_is_there():
    """Files in a zip and in the data folder are named where they are written."""
    files, written = _files(), "".join(f.read_text(encoding="utf-8") for f in (ROOT / "nabrel").rglob("*.py"))
    gone, seen = [], 0
    for page in [ROOT / "README.md", *(ROOT / "docs").glob("*.md")]:
        for name in SPAN.findall(page.read_text(encoding="utf-8")):
            if ("/" in name or re.search(r"\.(py|json|md|ts|svelte)$", name)) and not NO_PLACE.search(name):
                seen += 1
                if not _is_there(name, files) and name.rsplit("/", 1)[-1] not in written:
                    gone.append(f"{page.name}: {name}")
    assert seen > 150
    assert gone == []


def test_every_name_that_a_docstring_cites_is_there():
    gone, seen = [], 0
    for file in [file for folder in ("nabrel", "tests", "bench") for file in (ROOT / folder).rglob("*.py")]:
        text, own = file.read_text(encoding="utf-8"), ".".join(file.relative_to(ROOT).with_suffix("").parts)
        for name in ROLE.findall(text):
            seen += 1
            # What a class of the same module holds is called by its name alone.
            if not (_found(name) or _found(f"{own}.{name}") or re.search(rf"\n    (def )?{name}\b[(:]", text)):
                gone.append(f"{file.relative_to(ROOT)}: {name}")
    assert seen > 20
    assert gone == []


def _found(name: str) -> bool:
    """Whether a module, or what a module holds, is called that."""
    parts = name.split(".")
    for end in range(len(parts), 0, -1):
        try:
            held: object = importlib.import_module(".".join(parts[:end]))
        except ImportError:
            continue
        for part in parts[end:]:
            held = getattr(held, part, getattr(held, "__dataclass_fields__", {}).get(part))
        return held is not None
    return False
