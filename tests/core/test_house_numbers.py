"""Stages and rules hold no number of the trade: each is a house parameter, with unit, range, reason and source."""

from __future__ import annotations

import ast
from collections.abc import Iterator
from pathlib import Path

import pytest

import nabrel.core
from nabrel.core.house import PARAMETERS, House

CORE = Path(nabrel.core.__file__).parent
FREE_FLOATS = (0.0, 0.5, 1.0)
CONVERSIONS = (60, 100)
"""Seconds in a minute, per cent in one."""
MOST_COUNTED = 4
"""Whole numbers up to this count things: two sides, a severity, zones of a fold."""


def loose_numbers(source: str) -> Iterator[tuple[int, float]]:
    for node in ast.walk(ast.parse(source)):
        if not isinstance(node, ast.Constant) or type(node.value) not in (int, float):
            continue
        value = node.value
        if type(value) is float and value not in FREE_FLOATS:
            yield node.lineno, value
        if type(value) is int and abs(value) > MOST_COUNTED and value not in CONVERSIONS:
            yield node.lineno, value


def test_no_stage_and_no_rule_holds_a_number_of_the_trade() -> None:
    files = [*CORE.glob("planner/**/*.py"), *CORE.glob("judge/rules/*.py")]
    assert len(files) > 20
    found = [
        f"{file.relative_to(CORE)}:{line}: {value}" for file in files for line, value in loose_numbers(file.read_text())
    ]
    assert found == []


@pytest.mark.parametrize("source", ["x = 0.62 * y", "x = y > 6", "f(active_s=25)", "x = -0.8"])
def test_a_number_of_the_trade_is_noticed(source: str) -> None:
    assert list(loose_numbers(source))


def test_every_house_parameter_is_asked_somewhere() -> None:
    """A parameter that nothing reads decides nothing: an educator who changes it would be deceived."""
    read = {
        name for file in CORE.glob("**/*.py") for node in ast.walk(ast.parse(file.read_text())) for name in _named(node)
    }
    assert sorted(set(PARAMETERS) - read) == []


def _named(node: ast.AST) -> tuple[str, ...]:
    if isinstance(node, ast.Attribute):
        return (node.attr,)
    if isinstance(node, ast.Constant) and isinstance(node.value, str):
        return (node.value,)
    return ()


def test_every_default_lies_within_its_range_and_says_why() -> None:
    plain = House()
    for name, each in PARAMETERS.items():
        assert each.low <= getattr(plain, name) <= each.high, name
        assert len(each.why) > 20, name
        assert each.unit, name
        assert each.source, name
    assert len(PARAMETERS) > 150
