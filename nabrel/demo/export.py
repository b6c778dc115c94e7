"""Write the demo sitters as case files, and their plans as sequence files: ``python -m nabrel.demo.export FOLDER``."""

from __future__ import annotations

import json
import sys
from pathlib import Path

from pydantic import BaseModel

from nabrel.core.ask.recommend import plan
from nabrel.core.house import House
from nabrel.core.judge.evaluate import course_of
from nabrel.demo.kestrel_quay import sitters
from nabrel.formats.files import CaseFile, SequenceFile


def file_text(model: BaseModel) -> str:
    """A model as its file has it."""
    return json.dumps(model.model_dump(mode="json", exclude_none=True), indent=1, ensure_ascii=False) + "\n"


def examples() -> dict[str, str]:
    """File names and texts: every sitter's case, and the plan of the first."""
    found: dict[str, str] = {}
    for case in sitters():
        name = case.sitter.nickname.lower()
        found[f"{name}.case.json"] = file_text(CaseFile.of(case))
    first = sitters()[0]
    planned = plan(first, House())
    takes = {done.step.id: done.take for done in course_of(planned, House()).done}
    found[f"{first.sitter.nickname.lower()}.sequence.json"] = file_text(SequenceFile.of(planned, takes))
    return found


def main() -> None:
    """Write all examples into the folder named on the command line."""
    folder = Path(sys.argv[1])
    folder.mkdir(parents=True, exist_ok=True)
    for name, text in examples().items():
        (folder / name).write_text(text, encoding="utf-8")


if __name__ == "__main__":
    main()
