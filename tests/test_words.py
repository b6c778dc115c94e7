"""The words of the screens, messages and documents are plain and current ones: what was replaced does not come back."""

from __future__ import annotations

import ast
import re
from collections.abc import Iterator
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
    "documents": [*(ROOT / "docs").glob("*.md"), ROOT / "README.md", ROOT / "CHANGELOG.md"],
}


@pytest.mark.parametrize("where", FOLDERS)
def test_what_was_replaced_does_not_come_back(where):
    files = [file for file in FOLDERS[where] if file.name != "schema.d.ts"]
    assert len(files) > 10 or where == "documents"
    found = [
        f"{file.relative_to(ROOT)}:{text.count(chr(10), 0, hit.start()) + 1}: {hit[0]!r}; say: {better}"
        for file in files
        for text in [file.read_text(encoding="utf-8")]
        for pattern, better in REPLACED.items()
        for hit in re.finditer(pattern, text, re.IGNORECASE)
    ]
    assert found == []


NOT_NAMES = re.compile(r"(^|_)(keep|kept|instead|stands)(_|$)")


def test_names_in_code_are_plain_and_current_ones():
    """What a thing does is its name: it stores, saves, replaces, is current."""
    seen, found = 0, []
    for file in [each for folder in ("nabrel", "tests", "bench", "docs") for each in (ROOT / folder).rglob("*.py")]:
        text = file.read_text(encoding="utf-8")
        # Most files hold none of these words at all.
        if not re.search("keep|kept|instead|stands", text, re.IGNORECASE):
            continue
        for node in ast.walk(ast.parse(text)):
            for name in _named_by(node):
                seen += 1
                if NOT_NAMES.search(re.sub(r"(?<=[a-z])(?=[A-Z])", "_", name).lower()) and not name.startswith("test_"):
                    found.append(f"{file.relative_to(ROOT)}:{node.lineno}: {name}")
    assert seen > 5_000
    assert found == []


def _named_by(node: ast.AST) -> Iterator[str]:
    if isinstance(node, ast.FunctionDef | ast.ClassDef | ast.AsyncFunctionDef):
        yield node.name
    elif isinstance(node, ast.arg):
        yield node.arg
    elif isinstance(node, ast.Name) and isinstance(node.ctx, ast.Store):
        yield node.id
