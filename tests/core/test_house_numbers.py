"""Stages and rules hold no number of the trade: each is a house parameter, with unit, range, reason and source."""

from __future__ import annotations

import ast
from collections.abc import Iterator, Mapping
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


WHOLE = tuple(float(number) for number in range(MOST_COUNTED + 1))
UNITS = (24, 60, 100, 1000, 3600)
"""Hours of a day, seconds of a minute and an hour, and what per cent and thousandths are of."""
NOTHING = 1e-5
"""Smaller numbers keep a division, or a logarithm, from nothing."""


def loose_in_functions(source: str) -> Iterator[tuple[str, int, float]]:
    """Numbers in the functions of a module (the function, the line, the number) that are neither counted, nor of a unit.

    Such a number stands by a name, with its reason.
    """
    for function in ast.walk(ast.parse(source)):
        if not isinstance(function, ast.FunctionDef):
            continue
        for node in (each for line in function.body for each in ast.walk(line)):
            if isinstance(node, ast.Constant) and type(node.value) in (int, float):
                value = abs(node.value)
                if value not in (*FREE_FLOATS, *WHOLE, *UNITS) and value >= NOTHING:
                    yield function.name, node.lineno, node.value


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


WRITTEN_OUT: Mapping[str, str] = {
    "card/layout.py _kit": "where things stand on a printed card, mm",
    "card/layout.py _skin": "where things stand on a printed card, mm",
    "face/drawing.py *": "coordinates of a drawing, beside the file that holds the rest of them",
    "film/cie_build.py tables": "the band of wavelengths, as spectra.py names it",
    "film/difference.py *": "CIEDE2000 as the CIE publishes it",
    "film/spectra.py lab_of_hex": "sRGB as IEC 61966-2-1 has it",
    "film/spectra.py lab_of_ratio": "L*a*b* as CIE 15 has it",
    "film/spectra.py ratio_of_lab": "L*a*b* as CIE 15 has it",
    "film/spectra.py to_hex": "sRGB as IEC 61966-2-1 has it",
    "pace/run.py _t90": "coefficients of an expansion, as Abramowitz and Stegun have them",
    "pace/timetable.py _out_of_order": "primes that tell orders apart",
    "shelf/generic.py generic_kit": "a table of products: colour from the skin's, cover",
}
"""Functions that hold numbers as somebody else published them, or as a table: ``*`` for a whole module."""


def test_what_the_core_computes_rests_on_named_numbers() -> None:
    files = [file for file in CORE.glob("**/*.py") if "planner" not in file.parts]
    assert len(files) > 150
    found, met = [], set()
    for file in files:
        name = file.relative_to(CORE).as_posix()
        for function, line, value in loose_in_functions(file.read_text()):
            excused = {f"{name} {function}", f"{name} *"} & set(WRITTEN_OUT)
            met |= excused
            if not excused:
                found.append(f"{name}:{line}: {value} in {function}")
    assert found == []
    assert sorted(set(WRITTEN_OUT) - met) == [], "excused without a need"


def test_a_named_number_of_those_rooms_says_why() -> None:
    """Each group of constants is followed by its sentence, or a comment."""
    silent, named = [], 0
    for room in ("wear", "drill", "learn", "lesson"):
        for file in CORE.glob(f"{room}/**/*.py"):
            text = file.read_text()
            body = ast.parse(text).body
            for node, after in zip(body, [*body[1:], None], strict=True):
                if _is_number(node) and not _is_number(after):
                    named += 1
                    said = isinstance(after, ast.Expr) and isinstance(after.value, ast.Constant)
                    line = text.splitlines()[node.lineno - 1]
                    if not said and "#" not in line and "#" not in text.splitlines()[node.lineno - 2]:
                        silent.append(f"{file.relative_to(CORE)}:{node.lineno}: {line}")
    assert named > 20
    assert silent == []


def _is_number(node: ast.stmt | None) -> bool:
    if not isinstance(node, ast.Assign):
        return False
    values = node.value.elts if isinstance(node.value, ast.Tuple) else [node.value]
    return all(isinstance(each, ast.Constant) and type(each.value) is float for each in values)


@pytest.mark.parametrize(
    "source", ["def f(y): return 0.62 * y", "def f(y): return y > 6", "def f(y):\n    return g(y, s=25.0)"]
)
def test_a_number_in_a_function_is_noticed(source: str) -> None:
    assert list(loose_in_functions(source))
    assert not list(loose_in_functions(source.replace("0.62", "0.5").replace("6", "4").replace("25.0", "60.0")))


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
