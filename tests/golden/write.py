"""Write the golden evaluations: ``python -m tests.golden.write``. Only when they are meant to change; say why in the commit.

``evaluations.json`` holds one line a plan: the 48 demo plans, and plans of the demo sitters in a set of ways of working
in which every two sides of two options meet at least once (pairwise).
"""

from __future__ import annotations

import json
from collections.abc import Iterator
from dataclasses import replace
from itertools import combinations
from pathlib import Path
from random import Random
from typing import Any

from nabrel.core.ask.recommend import plan
from nabrel.core.case.case import Case
from nabrel.core.case.intent import OPTIONS, Options
from nabrel.core.house import House
from nabrel.core.judge.evaluate import Evaluation, evaluate
from nabrel.core.terms.looks import SETTING_POLICIES
from nabrel.core.terms.schools import SCHOOLS
from nabrel.core.terms.zones import ZONES
from nabrel.demo.kestrel_quay import sitters

FILE = Path(__file__).parent / "evaluations.json"
SIDES: dict[str, list[Any]] = {
    **{info.name: [way.value for way in info.ways] for info in OPTIONS},
    "setting": list(SETTING_POLICIES),
    "viewing": ["in_person", "camera", "stage", "dim_room"],
}
"""Every disputed way of working with its sides, as words."""


def pairwise(sides: dict[str, list[Any]], seed: int = 12) -> list[dict[str, Any]]:
    """Choices of one side of everything, so that any two sides of two things stand together in at least one of them."""
    draw = Random(seed)
    names = list(sides)
    open_pairs = {((a, x), (b, y)) for a, b in combinations(names, 2) for x in sides[a] for y in sides[b]}
    rows: list[dict[str, Any]] = []
    while open_pairs:
        best: tuple[int, dict[str, Any]] = (-1, {})
        for _ in range(30):
            row = {name: draw.choice(sides[name]) for name in names}
            (a, x), (b, y) = draw.choice(sorted(open_pairs))
            row[a], row[b] = x, y
            closes = sum(pair in open_pairs for pair in _pairs(row, names))
            best = max(best, (closes, row), key=lambda each: each[0])
        rows.append(best[1])
        open_pairs -= set(_pairs(best[1], names))
    return rows


def _pairs(row: dict[str, Any], names: list[str]) -> list[tuple[tuple[str, Any], tuple[str, Any]]]:
    return [((a, row[a]), (b, row[b])) for a, b in combinations(names, 2)]


def cases() -> Iterator[tuple[str, Case]]:
    """Every case of the golden evaluations by a name."""
    people = sitters()
    for case in people:
        for school in SCHOOLS:
            yield f"{case.sitter.nickname} {school}", replace(case, intent=replace(case.intent, school=school))
    for number, row in enumerate(pairwise(SIDES)):
        case = people[number % len(people)]
        options = Options(
            **{
                info.name: row[info.name] == "true" if info.ways[0].value in ("true", "false") else row[info.name]
                for info in OPTIONS
                if info.name not in ("order", "blend")
            }
        )
        wishes = {name: row[name] for name in ("order", "blend", "setting", "viewing")}
        intent = replace(case.intent, school=SCHOOLS[number % len(SCHOOLS)], options=options, **wishes)
        yield f"ways {number} {case.sitter.nickname} {intent.school}", replace(case, intent=intent)


def golden(evaluation: Evaluation) -> dict[str, Any]:
    """What is kept of an evaluation. Zones in the vocabulary's order."""
    e = evaluation
    course = e.appearance.lab.mean(axis=1)
    return {
        "steps": [
            [
                done.step.id,
                done.step.kind,
                done.step.item,
                [[list(p.zones), p.amount, p.tool, p.motion] for p in done.step.portions],
                done.take.amount if done.take else None,
                round(done.start, 1),
                round(done.step.active_s, 1),
            ]
            for done in e.course.done
        ],
        "course": [[round(float(x), 2) for x in row] for row in course],
        "lab": [[round(float(x), 2) for x in row] for row in e.appearance.lab[-1]],
        "load": [round(row.load_um, 2) for row in e.forecast],
        "crease": [round(row.crease, 3) for row in e.forecast],
        "shine": [round(row.shine_hours, 2) for row in e.forecast],
        "findings": sorted(f"{f.rule} {f.severity} {','.join(f.steps)} {','.join(f.zones)}" for f in e.findings),
    }


def evaluations() -> Iterator[tuple[str, dict[str, Any]]]:
    """Every golden evaluation by name, as this code computes it."""
    house = House()
    assert len(ZONES) > 0
    for name, case in cases():
        yield name, golden(evaluate(plan(case, house), house))


def main() -> None:
    """Write the file, one line a plan."""
    lines = [f"{json.dumps(name)}: {json.dumps(found, separators=(',', ':'))}" for name, found in evaluations()]
    FILE.write_text("{\n" + ",\n".join(lines) + "\n}\n", encoding="utf-8")


if __name__ == "__main__":
    main()
