"""Documentation that is generated or checked, never remembered."""

from __future__ import annotations

import importlib.util
import re
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
