"""Write the JSON Schemas that ship with the application; run as ``python -m nabrel.formats.schemas_build``."""

from __future__ import annotations

import json
from collections.abc import Mapping
from pathlib import Path
from typing import cast

from nabrel.formats.answers import ANSWERS
from nabrel.formats.card import CardFile, CardReadingFile
from nabrel.formats.classes import ClassFile, LessonModel
from nabrel.formats.drills import ExerciseFile, MarkFile
from nabrel.formats.files import FILES, Document
from nabrel.formats.practice import DrillSetFile, PracticeFile
from nabrel.formats.upgrade import NEWEST
from nabrel.formats.wear import LearntModel, WearFile

KINDS: Mapping[str, type[Document]] = {
    **FILES,
    **ANSWERS,
    "wear": WearFile,
    "learnt": LearntModel,
    "class": ClassFile,
    "lesson": LessonModel,
    "exercise": ExerciseFile,
    "mark": MarkFile,
    "practice": PracticeFile,
    "drill_set": DrillSetFile,
    "card": CardFile,
    "card_reading": CardReadingFile,
}
"""Every kind of file that has a schema."""
SCHEMAS = Path(__file__).parent / "schemas"


def whole(value: object) -> object:
    """A schema with its whole numbers written without a point.

    ``Annotated[float, Field(ge=0)]`` and ``Field(ge=0.0)`` are one type to Python, so which of them a schema shows would
    follow the order of imports.
    """
    if isinstance(value, dict):
        return {key: whole(each) for key, each in value.items()}
    if isinstance(value, list):
        return [whole(each) for each in value]
    return int(value) if isinstance(value, float) and value.is_integer() else value


def schema_text(kind: str) -> str:
    """The JSON Schema of one kind of file, as it stands in ``schemas/``."""
    schema = cast("dict[str, object]", whole(KINDS[kind].model_json_schema()))
    schema["$schema"] = "https://json-schema.org/draft/2020-12/schema"
    schema["title"] = f"Nabrel {kind}, version {NEWEST.get(kind, 1)}"
    return json.dumps(schema, indent=2, sort_keys=True, ensure_ascii=False) + "\n"


def main() -> None:
    """Write every schema."""
    SCHEMAS.mkdir(exist_ok=True)
    for kind in KINDS:
        (SCHEMAS / f"{kind}.schema.json").write_text(schema_text(kind), encoding="utf-8")


if __name__ == "__main__":
    main()
