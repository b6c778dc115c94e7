"""How much the tests would notice: ``make mutants`` changes one operator of the core at a time and runs the tests on it.

A hundred places are drawn with a fixed seed from all comparisons, sums, products, connectives, negations and bounds of
``nabrel/core``. Each mutant stands in a copy of its own, and only the tests that run its line are asked; what
lies at the top of a module is asked of all. A mutant that no test notices is printed with its line: docs/testing.md says of each
whether it is equivalent or why it is left.
"""

from __future__ import annotations

import argparse
import ast
import os
import random
import shutil
import sqlite3
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from itertools import count
from pathlib import Path
from threading import local

from coverage.numbits import numbits_to_nums

ROOT = Path(__file__).parents[1]
ASKED = ("tests/core", "tests/golden", "tests/formats")
COPIED = ("nabrel", "tests", "pyproject.toml", "examples", "docs", "README.md")
LONGEST_S = 400
"""A mutant whose tests run longer has hung, and was noticed."""

SWAPS: dict[type[ast.AST], tuple[str, str]] = {
    ast.Lt: ("<", "<="), ast.LtE: ("<=", "<"), ast.Gt: (">", ">="), ast.GtE: (">=", ">"),
    ast.Eq: ("==", "!="), ast.NotEq: ("!=", "=="), ast.In: ("in", "not in"), ast.NotIn: ("not in", "in"),
    ast.Is: ("is", "is not"), ast.IsNot: ("is not", "is"),
    ast.Add: ("+", "-"), ast.Sub: ("-", "+"), ast.Mult: ("*", "/"), ast.Div: ("/", "*"),
    ast.And: ("and", "or"), ast.Or: ("or", "and"), ast.Not: ("not ", ""), ast.USub: ("-", ""),
}  # fmt: skip
BOUNDS = {"min": "max", "max": "min", "any": "all", "all": "any"}


@dataclass(frozen=True, order=True)
class Mutant:
    """One changed operator: where, what stands there, and what stands there instead."""

    file: str
    line: int
    column: int
    was: str
    now: str
    at: int

    @property
    def says(self) -> str:
        """The place and the change in a line."""
        return f"{self.file}:{self.line}:{self.column}: {self.was.strip()} became {self.now.strip() or 'nothing'}"


def mutants_of(file: Path) -> Iterator[Mutant]:
    """Every operator of a file that can be swapped."""
    source = file.read_text(encoding="utf-8")
    starts = [0]
    for line in source.splitlines(keepends=True):
        starts.append(starts[-1] + len(line.encode()))
    text = source.encode()
    name = file.relative_to(ROOT).as_posix()

    def at(node: ast.AST, *, end: bool = False) -> int:
        line = getattr(node, "end_lineno" if end else "lineno")
        return starts[line - 1] + getattr(node, "end_col_offset" if end else "col_offset")

    def between(kind: type[ast.AST], low: int, high: int) -> Iterator[Mutant]:
        was, now = SWAPS[kind]
        found = text.find(was.encode(), low, high)
        if found >= 0 and b"#" not in text[low:found]:
            line = text[:found].count(b"\n") + 1
            yield Mutant(name, line, found - starts[line - 1] + 1, was, now, found)

    for node in ast.walk(ast.parse(source)):
        if isinstance(node, ast.Compare):
            sides = [node.left, *node.comparators]
            for place, operator in enumerate(node.ops):
                yield from between(type(operator), at(sides[place], end=True), at(sides[place + 1]))
        elif isinstance(node, ast.BinOp) and type(node.op) in SWAPS:
            yield from between(type(node.op), at(node.left, end=True), at(node.right))
        elif isinstance(node, ast.BoolOp):
            for one, other in zip(node.values, node.values[1:], strict=False):
                yield from between(type(node.op), at(one, end=True), at(other))
        elif isinstance(node, ast.UnaryOp) and type(node.op) in SWAPS:
            yield from between(type(node.op), at(node), at(node.operand))
        elif isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.func.id in BOUNDS:
            start = at(node.func)
            yield Mutant(name, node.lineno, node.col_offset + 1, node.func.id, BOUNDS[node.func.id], start)


def drawn(sample: int, seed: int) -> list[Mutant]:
    """The mutants of a run: the same for the same source, size and seed. Types and tables of words are left alone."""
    files = sorted((ROOT / "nabrel" / "core").rglob("*.py"))
    found = sorted({mutant for file in files for mutant in mutants_of(file) if not _in_a_type(mutant)})
    print(f"{len(found)} operators in {len(files)} files; {sample} drawn with seed {seed}")
    return sorted(random.Random(seed).sample(found, sample))


def _in_a_type(mutant: Mutant) -> bool:
    """Whether it would only change an annotation, or how text is joined for a type checker."""
    line = (ROOT / mutant.file).read_text(encoding="utf-8").splitlines()[mutant.line - 1].strip()
    return line.startswith(("assert ", "raise ValueError")) or "TYPE_CHECKING" in line


@dataclass
class Tests:
    """Which tests run which line, and how long each takes."""

    by_line: dict[tuple[str, int], set[str]]
    seconds: dict[str, float]

    def of(self, mutant: Mutant) -> list[str]:
        """The tests to ask; all where none is known to run the line. The golden plans first, then the fastest."""
        found = self.by_line.get((mutant.file, mutant.line)) or set(self.seconds)
        return sorted(found, key=lambda test: ("golden" not in test, self.seconds.get(test, 0.0), test))


CONFTEST = """
import pytest, time, os
@pytest.hookimpl(hookwrapper=True)
def pytest_runtest_call(item):
    start = time.perf_counter(); yield
    with open(os.environ["MUTANT_TIMES"], "a") as kept: kept.write(f"{time.perf_counter() - start:.4f} {item.nodeid}\\n")
"""


def measured(folder: Path) -> Tests:
    """Run all tests once on the source as it stands, and keep what each runs and takes."""
    (folder / "conftest.py").write_text(CONFTEST, encoding="utf-8")
    (folder / ".coveragerc").write_text("[run]\nsource = nabrel/core\n", encoding="utf-8")
    times = folder / "times.txt"
    command = [sys.executable, "-m", "coverage", "run", "--context=none", "-m", "pytest", "-q", "-x",
               "-p", "tests.told_contexts", *ASKED]  # fmt: skip
    (folder / "tests" / "told_contexts.py").write_text(CONTEXTS, encoding="utf-8")
    start = time.perf_counter()
    done = subprocess.run(
        command, cwd=folder, env=_environment(folder, times), capture_output=True, text=True, check=False
    )
    if done.returncode:
        raise SystemExit(
            "The tests must pass before mutants mean anything:\n" + done.stdout[-2000:] + done.stderr[-500:]
        )
    print(f"the tests ran in {time.perf_counter() - start:.0f} s with their lines counted")
    seconds = {}
    for row in times.read_text(encoding="utf-8").splitlines():
        taken, _, test = row.partition(" ")
        seconds[test] = float(taken)
    by_line: dict[tuple[str, int], set[str]] = {}
    with sqlite3.connect(folder / ".coverage") as kept:
        rows = kept.execute("select path, context, numbits from line_bits join file on file.id = file_id "
                            "join context on context.id = context_id")  # fmt: skip
        for path, test, bits in rows:
            if test in seconds:
                name = Path(path).relative_to(folder.resolve()).as_posix()
                for line in numbits_to_nums(bits):
                    by_line.setdefault((name, line), set()).add(test)
    (folder / "conftest.py").unlink()
    return Tests(by_line, seconds)


CONTEXTS = """
import coverage, pytest
@pytest.hookimpl(hookwrapper=True)
def pytest_runtest_protocol(item):
    running = coverage.Coverage.current(); running.switch_context(item.nodeid); yield; running.switch_context("none")
"""


def _environment(folder: Path, times: Path | None = None) -> dict[str, str]:
    extra = {"MUTANT_TIMES": str(times)} if times else {}
    return {**os.environ, "PYTHONPATH": str(folder), "PYTHONDONTWRITEBYTECODE": "1", **extra}


def copy_to(folder: Path, top: Path = ROOT) -> Path:
    """A copy of what the tests need, from this tree or from another copy, so that the tree may change meanwhile."""
    folder.mkdir(parents=True)
    for name in COPIED:
        source = top / name
        if source.is_dir():
            shutil.copytree(
                source, folder / name, ignore=shutil.ignore_patterns("__pycache__", "static", "screenshots")
            )
        else:
            shutil.copy(source, folder / name)
    return folder


def noticed(mutant: Mutant, tests: list[str], folder: Path) -> bool:
    """Whether some test fails on the mutant."""
    file = folder / mutant.file
    kept = file.read_bytes()
    changed = kept[: mutant.at] + mutant.now.encode() + kept[mutant.at + len(mutant.was.encode()) :]
    asked = [test for test in tests if test.split("::")[0].removesuffix(".py")]
    command = [sys.executable, "-m", "pytest", "-q", "-x", "--no-header", "-p", "no:cacheprovider",
               "-p", "no:randomly", "-n", "0", *asked]  # fmt: skip
    try:
        file.write_bytes(changed)
        done = subprocess.run(
            command, cwd=folder, env=_environment(folder), capture_output=True, check=False, timeout=LONGEST_S
        )
        return done.returncode != 0
    except subprocess.TimeoutExpired:
        return True
    finally:
        file.write_bytes(kept)


def main() -> int:
    """Draw mutants, ask the tests, and say which lived. Fails where fewer than 85 of a hundred are noticed."""
    parser = argparse.ArgumentParser(description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter)
    parser.add_argument("--sample", type=int, default=100)
    parser.add_argument("--seed", type=int, default=12)
    parser.add_argument("--workers", type=int, default=os.cpu_count() or 1)
    given = parser.parse_args()
    mutants = drawn(given.sample, given.seed)
    with tempfile.TemporaryDirectory() as name:
        top = Path(name).resolve()
        whole = copy_to(top / "whole")
        tests = measured(whole)
        own, places = local(), count()

        def tried(mutant: Mutant) -> bool:
            if not hasattr(own, "folder"):
                own.folder = copy_to(top / f"copy{next(places)}", whole)
            start = time.perf_counter()
            found = noticed(mutant, tests.of(mutant), own.folder)
            word = "noticed" if found else "LIVED"
            print(f"{word} in {time.perf_counter() - start:.0f} s: {mutant.says}", flush=True)
            return found

        with ThreadPoolExecutor(given.workers) as workers:
            killed = list(workers.map(tried, mutants))
    lived = [mutant.says for mutant, found in zip(mutants, killed, strict=True) if not found]
    print(f"\n{sum(killed)} of {len(mutants)} mutants were noticed; {len(lived)} lived:")
    print("\n".join(lived))
    return 0 if sum(killed) >= 0.85 * len(mutants) else 1


if __name__ == "__main__":
    sys.exit(main())
