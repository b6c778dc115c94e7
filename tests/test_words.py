"""The words of screens and messages are plain and current ones: what was replaced does not come back. And no two classes share a name."""

from __future__ import annotations

import ast
import re
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[1]
REPLACED = {
    r"nobody sits": "No sitters yet",
    r"(?-i:Workspace) (out|in)\b": "Export workspace, Import workspace",
    r"\bCSV (in|out)\b": "Import CSV, Export CSV",
    r"take the sitters in": "Add to the sitters already here",
    r"feed the under-?eye|drinks the film": "Apply eye cream; dry skin grabs product",
    r"load of ceiling|fullest, of": "Load, % of limit; Fullest zone",
    r"what reaches the step": "How to reach this contrast",
    r"show what stands|keep mine over": "Load the latest, Overwrite with mine",
    r"li(ves|ved) with": "Accepted",
    r"take the kit apart|is taken apart": "Delete kit",
    r"is called so": "No matching command",
    r"\b(light|two|thin) laps\b": "passes",
    r"its months end|past (its|their) months": "use within {n} months of opening; expired",
    r"skin still shows|sits on the surface": "You can still see skin",
    r"tacky comes off": "Touch lightly: it should feel dry, not tacky",
    r"keep it on the shelf|keep the mean": "Save",
    r"as it stands'|>stands<|which stands[`'<]": "current",
}
FOLDERS = {
    "screens": [*(ROOT / "frontend" / "src").rglob("*.svelte"), *(ROOT / "frontend" / "src").rglob("*.ts")],
    "messages": [*(ROOT / "nabrel").rglob("*.py")],
}


@pytest.mark.parametrize("where", FOLDERS)
def test_what_was_replaced_does_not_come_back(where):
    files = [file for file in FOLDERS[where] if file.name != "schema.d.ts"]
    assert len(files) > 10
    found = [
        f"{file.relative_to(ROOT)}:{text.count(chr(10), 0, hit.start()) + 1}: {hit[0]!r}; say: {better}"
        for file in files
        for text in [file.read_text(encoding="utf-8")]
        for pattern, better in REPLACED.items()
        for hit in re.finditer(pattern, text, re.IGNORECASE)
    ]
    assert found == []


def test_every_class_has_a_name_of_its_own():
    """One name, one kind: a reader who meets it knows which is meant. What is private to a module is its own."""
    homes: dict[str, list[str]] = {}
    for file in (ROOT / "nabrel").rglob("*.py"):
        for node in ast.walk(ast.parse(file.read_text(encoding="utf-8"))):
            if isinstance(node, ast.ClassDef) and not node.name.startswith("_"):
                homes.setdefault(node.name, []).append(f"{file.relative_to(ROOT)}:{node.lineno}")
    assert len(homes) > 600
    assert {name: places for name, places in homes.items() if len(places) > 1} == {}
