"""Evaluations stay as they were, within what rounding explains."""

from __future__ import annotations

import json

import pytest

from tests.golden import wire
from tests.golden.write import FILE, SIDES, evaluations, pairwise

COLOUR, FILM, INDEX, HOURS = 0.02, 0.02, 0.002, 0.02
"""Tolerances: L*a*b*, µm, crease index, hours."""
SECONDS, SHARE_OF_TAKE = 0.2, 1e-6


def test_evaluations_are_as_they_were():
    stored = json.loads(FILE.read_text(encoding="utf-8"))
    now = dict(evaluations())
    assert list(now) == list(stored)
    assert len(now) > 80
    changed = {name: wrong for name in now if (wrong := _differences(stored[name], now[name]))}
    told = "\n".join(f"{name}: {'; '.join(wrong[:4])}" for name, wrong in list(changed.items())[:10])
    assert not changed, f"{len(changed)} of {len(now)} evaluations changed\n{told}"


def test_the_answers_of_the_api_look_as_they_did():
    """Fields, kinds and digits: what a page, or somebody's script, reads."""
    stored, now = (each.splitlines() for each in (wire.FILE.read_text(encoding="utf-8"), wire.text()))
    assert len(stored) > 1500
    assert sorted(set(stored) - set(now)) == [], "gone"
    assert sorted(set(now) - set(stored)) == [], "new"


def _differences(was: dict, now: dict) -> list[str]:
    found = []
    old, new = [row[:4] for row in was["steps"]], [row[:4] for row in now["steps"]]
    if old != new:
        return [f"steps {[row for row in new if row not in old]} in place of {[row for row in old if row not in new]}"]
    for before, after in zip(was["steps"], now["steps"], strict=True):
        if (before[4] or 0) != pytest.approx(after[4] or 0, rel=SHARE_OF_TAKE):
            found.append(f"{before[0]} takes {after[4]} in place of {before[4]}")
        if after[5:] != pytest.approx(before[5:], abs=SECONDS):
            found.append(f"{before[0]} at {after[5:]} in place of {before[5:]}")
    for what, tolerance in (("course", COLOUR), ("lab", COLOUR), ("load", FILM), ("crease", INDEX), ("shine", HOURS)):
        far = _furthest(was[what], now[what])
        if far > tolerance:
            found.append(f"{what} off by {far:.3f}")
    if was["findings"] != now["findings"]:
        come = set(now["findings"]) - set(was["findings"])
        gone = set(was["findings"]) - set(now["findings"])
        found.append(f"findings come {sorted(come)[:3]}, gone {sorted(gone)[:3]}")
    return found


def _furthest(was: list, now: list) -> float:
    if not isinstance(was, list):
        return abs(was - now)
    assert len(was) == len(now)
    return max((_furthest(a, b) for a, b in zip(was, now, strict=True)), default=0.0)


def test_any_two_ways_of_working_meet_in_a_golden_plan():
    rows = pairwise(SIDES)
    met = {((a, row[a]), (b, row[b])) for row in rows for a in row for b in row if a < b}
    names = sorted(SIDES)
    wanted = [((a, x), (b, y)) for i, a in enumerate(names) for b in names[i + 1 :] for x in SIDES[a] for y in SIDES[b]]
    assert len(wanted) > 1000
    assert all(pair in met for pair in wanted)
