"""Older versions of files, read for ever: one pure function a step, from one version to the next."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

from nabrel.core.errors import Refused
from nabrel.formats.upgrade.case import case_1_as_written
from nabrel.formats.upgrade.sequence import sequence_1_to_2

Json = dict[str, Any]
STEPS: Mapping[tuple[str, int], Callable[[Json], Json]] = {
    ("sequence", 1): sequence_1_to_2,
    # Revisions may now refer to a kit; those that do not hold their own.
    ("plan", 1): lambda plan: {**plan, "version": 2},
}
"""The function that lifts a kind of file from a version to the next."""
NEWEST: Mapping[str, int] = {
    "case": 1, "sequence": 2, "findings": 2, "house": 1, "tools": 1, "kits": 1, "run": 1, "runs": 1, "wear": 1, "wears": 1, "trials": 1, "class": 1, "classes": 1, "exercise": 1, "mark": 1, "practice": 1, "drill_set": 1, "card": 1, "card_reading": 1, "plan": 2, "kit": 1, "workspace": 1,
}  # fmt: skip


def newest(document: Json, kind: str) -> Json:
    """A document in the newest version of its kind. Refuses one that a newer Nabrel wrote; others are left as they are.

    What is not even a document of the kind is left to whoever reads it, to say what is wrong with it.
    """
    version = document.get("version")
    if document.get("nabrel") != kind or not isinstance(version, int) or isinstance(version, bool):
        return document
    if version > NEWEST[kind]:
        raise Refused("version", version, f"{NEWEST[kind]} or older: this {kind} was written by a newer Nabrel")
    while (kind, version) in STEPS:
        document = STEPS[kind, version](document)
        version += 1
    if kind == "case":
        document = case_1_as_written(document)
    elif kind == "sequence" and isinstance(case := document.get("case"), dict):
        as_written = case_1_as_written(case)
        document = document if as_written is case else {**document, "case": as_written}
    return document
