"""How much the tests would notice: ``make mutants`` changes one operator of the core at a time and runs the tests on it.

A hundred places are drawn with a fixed seed from all comparisons, sums, products, connectives, negations and bounds in the
functions of ``nabrel/core``. First every test is run once with its lines counted; then, in one process that has collected the
tests, a child is forked for each mutant, puts the changed code in the place of the function's, forgets what was remembered, and
runs the tests that reach the line until one fails. Nothing is written to the sources. A mutant that no test notices is printed:
docs/testing.md says of each whether it is equivalent or why it is left.
"""

from __future__ import annotations

import argparse
import ast
import functools
import gc
import importlib
import os
import pickle
import random
import shutil
import signal
import sqlite3
import subprocess
import sys
import tempfile
import time
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from types import CodeType, FunctionType
from typing import Any

import pytest
from _pytest.runner import runtestprotocol
from coverage.numbits import numbits_to_nums

ROOT = Path(__file__).parents[1]
ASKED = ("tests/core", "tests/golden", "tests/formats")
BROKEN = 3
LONGEST_S = 3600
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
    """Every operator in the functions of a file that can be swapped."""
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

    functions = (node for node in ast.walk(ast.parse(source)) if isinstance(node, ast.FunctionDef))
    inside = {id(node): node for function in functions for line in function.body for node in ast.walk(line)}
    for node in inside.values():
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
    """The mutants of a run: the same for the same source, size and seed. Assertions are left alone."""
    files = sorted((ROOT / "nabrel" / "core").rglob("*.py"))
    lines = {file.relative_to(ROOT).as_posix(): file.read_text(encoding="utf-8").splitlines() for file in files}
    found = sorted({mutant for file in files for mutant in mutants_of(file)})
    found = [each for each in found if not lines[each.file][each.line - 1].strip().startswith("assert ")]
    print(f"{len(found)} operators in {len(files)} files; {sample} drawn with seed {seed}", flush=True)
    return sorted(random.Random(seed).sample(found, sample))


@dataclass
class Reach:
    """Which tests run which line, and how long each takes."""

    by_line: dict[tuple[str, int], set[str]]
    seconds: dict[str, float]

    @functools.cached_property
    def breadth(self) -> Counter[str]:
        """How many lines each test runs."""
        return Counter(test for tests in self.by_line.values() for test in tests)

    def of(self, mutant: Mutant, longest_s: float) -> list[str]:
        """The tests to ask, first those that run little else and so are about it; all where none is known to run the line.

        Long ones are not asked, but for the golden evaluations: what they alone would notice counts as lived.
        """
        found = self.by_line.get((mutant.file, mutant.line)) or set(self.seconds)
        asked = [test for test in found if self.seconds.get(test, 0.0) <= longest_s or "golden" in test]
        return sorted(asked, key=lambda test: (self.breadth[test], self.seconds.get(test, 0.0), test))


class Counting:
    """Counts the lines and seconds of every test, in a run of its own under coverage."""

    def __init__(self, times: Path) -> None:
        self._times = times

    @pytest.hookimpl(hookwrapper=True)
    def pytest_runtest_protocol(self, item: pytest.Item) -> Iterator[None]:
        """Tell coverage whose lines these are."""
        import coverage

        running = coverage.Coverage.current()
        start = time.perf_counter()
        running.switch_context(item.nodeid)
        yield
        running.switch_context("none")
        with self._times.open("a", encoding="utf-8") as stored:
            stored.write(f"{time.perf_counter() - start:.4f} {item.nodeid}\n")


def counted(folder: Path) -> Reach:
    """Run all tests once on the source as it stands, and keep what each runs and takes."""
    times, lines = folder / "times.txt", folder / "lines"
    (folder / "settings").write_text(f"[run]\nsource = nabrel/core\ndata_file = {lines}\n", encoding="utf-8")
    command = [sys.executable, "-m", "coverage", "run", f"--rcfile={folder / 'settings'}", "--context=none",
               str(Path(__file__)), "--count", str(times)]  # fmt: skip
    start = time.perf_counter()
    done = subprocess.run(
        command, cwd=ROOT, env={**os.environ, "PYTHONPATH": str(ROOT)}, capture_output=True, text=True, check=False
    )
    if done.returncode:
        raise SystemExit(
            "The tests must pass before mutants mean anything:\n" + done.stdout[-2000:] + done.stderr[-500:]
        )
    print(f"the tests ran in {time.perf_counter() - start:.0f} s with their lines counted", flush=True)
    seconds = {}
    for row in times.read_text(encoding="utf-8").splitlines():
        taken, _, test = row.partition(" ")
        seconds[test] = float(taken)
    by_line: dict[tuple[str, int], set[str]] = {}
    with sqlite3.connect(lines) as stored:
        rows = stored.execute("select path, context, numbits from line_bits join file on file.id = file_id "
                            "join context on context.id = context_id")  # fmt: skip
        for path, test, bits in rows:
            if test in seconds:
                name = Path(path).relative_to(ROOT).as_posix()
                for line in numbits_to_nums(bits):
                    by_line.setdefault((name, line), set()).add(test)
    return Reach(by_line, seconds)


def codes_of(code: CodeType) -> Iterator[CodeType]:
    """The code of every function and method of a module that is no other function's own."""
    for each in code.co_consts:
        if isinstance(each, CodeType) and "<" not in each.co_qualname:
            yield each
            yield from codes_of(each)


def functions_of(found: Any) -> Iterator[FunctionType]:
    """The plain functions behind a property, a class method, or what a decorator made of them."""
    if isinstance(found, FunctionType):
        yield found
    for name in ("fget", "func", "__func__", "__wrapped__"):
        inner = getattr(found, name, None)
        if inner is not None and inner is not found:
            yield from functions_of(inner)


def put_in(mutant: Mutant) -> bool:
    """Put a mutant's code in the place of what was imported. Whether any function took it."""
    file = ROOT / mutant.file
    text = file.read_bytes()
    changed = text[: mutant.at] + mutant.now.encode() + text[mutant.at + len(mutant.was.encode()) :]
    module = importlib.import_module(mutant.file.removesuffix(".py").replace("/", "."))
    own = {each.co_qualname: each for each in codes_of(compile(text, str(file), "exec", dont_inherit=True))}
    taken = False
    for code in codes_of(compile(changed, str(file), "exec", dont_inherit=True)):
        if own.get(code.co_qualname) == code:
            continue
        found: Any = module
        for name in code.co_qualname.split("."):
            found = found.__dict__.get(name) if hasattr(found, "__dict__") else None
        for function in functions_of(found):
            if function.__code__.co_qualname == code.co_qualname and function.__code__.co_freevars == code.co_freevars:
                function.__code__ = code
                taken = True
    for each in gc.get_objects():
        if isinstance(each, functools._lru_cache_wrapper):
            each.cache_clear()
    return taken


class Asking:
    """Runs the collected tests on each mutant in a child of its own, some at once."""

    def __init__(self, mutants: list[Mutant], reach: Reach, workers: int, longest_s: float) -> None:
        self._mutants, self._reach, self._workers, self._longest_s = mutants, reach, workers, longest_s
        self.lived: list[Mutant] = []
        self.noticed = 0

    def pytest_runtestloop(self, session: pytest.Session) -> bool:
        """Fork a child a mutant; an exit of 0 says that every test passed."""
        items = {item.nodeid: item for item in session.items}
        running: dict[int, tuple[Mutant, float]] = {}
        for mutant in self._mutants:
            if len(running) >= self._workers:
                self._reap(running)
            pid = os.fork()
            if pid == 0:
                self._try(mutant, [items[test] for test in self._reach.of(mutant, self._longest_s) if test in items])
            running[pid] = (mutant, time.perf_counter())
        while running:
            self._reap(running)
        return True

    def _reap(self, running: dict[int, tuple[Mutant, float]]) -> None:
        pid, status = os.wait()
        mutant, start = running.pop(pid)
        if os.WIFEXITED(status) and os.WEXITSTATUS(status) == BROKEN:
            raise SystemExit(f"{mutant.says}: the mutant could not be put in, or its tests not run")
        word = "noticed" if status else "LIVED"
        if status:
            self.noticed += 1
        else:
            self.lived.append(mutant)
        print(f"{word} in {time.perf_counter() - start:.0f} s: {mutant.says}", flush=True)

    def _try(self, mutant: Mutant, items: list[pytest.Item]) -> None:
        signal.alarm(LONGEST_S)
        silent = os.open(os.devnull, os.O_WRONLY)
        os.dup2(silent, 1)
        os.dup2(silent, 2)
        code = BROKEN
        try:
            if put_in(mutant):
                following = [*items[1:], None]
                failed = any(
                    report.failed
                    for item, after in zip(items, following, strict=True)
                    for report in runtestprotocol(item, nextitem=after, log=False)
                )
                code = 1 if failed else 0
        finally:
            os._exit(code)


def in_a_copy() -> int:
    """The same run in a copy of the tree, so that the tree may be worked on meanwhile; its exit code."""
    with tempfile.TemporaryDirectory() as name:
        top = Path(name).resolve() / "tree"
        passed = shutil.ignore_patterns(".*", "node_modules", "static", "screenshots", "__pycache__")
        shutil.copytree(ROOT, top, ignore=passed)
        command = [sys.executable, str(top / "tests" / "mutants.py"), *sys.argv[1:], "--inside"]
        return subprocess.run(command, cwd=top, env={**os.environ, "PYTHONPATH": str(top)}, check=False).returncode


def main() -> int:
    """Draw mutants, ask the tests, and say which lived. Fails where fewer than 85 of a hundred are noticed."""
    parser = argparse.ArgumentParser(description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter)
    parser.add_argument("--sample", type=int, default=100)
    parser.add_argument("--seed", type=int, default=12)
    parser.add_argument("--workers", type=int, default=os.cpu_count() or 1)
    parser.add_argument(
        "--reach", type=Path, help="where the counted lines are kept for another run on the same source"
    )
    parser.add_argument("--longest", type=float, default=1.5, help="seconds, lines counted, of the longest test to ask")
    parser.add_argument("--after", type=int, default=0, help="leave out so many of the sample, for a run in parts")
    parser.add_argument("--count", type=Path, help=argparse.SUPPRESS)
    parser.add_argument("--inside", action="store_true", help=argparse.SUPPRESS)
    given = parser.parse_args()
    os.chdir(ROOT)
    if given.count is None and not given.inside:
        return in_a_copy()
    if given.count is not None:
        return pytest.main(["-q", "-x", "-p", "no:cacheprovider", *ASKED], plugins=[Counting(given.count)])
    mutants = drawn(given.sample, given.seed)[given.after :]
    if given.reach is not None and given.reach.exists():
        reach: Reach = pickle.loads(given.reach.read_bytes())
    else:
        with tempfile.TemporaryDirectory() as name:
            reach = counted(Path(name).resolve())
        if given.reach is not None:
            given.reach.write_bytes(pickle.dumps(reach))
    asking = Asking(mutants, reach, given.workers, given.longest)
    pytest.main(["-q", "-p", "no:cacheprovider", *ASKED], plugins=[asking])
    print(f"\n{asking.noticed} of {len(mutants)} mutants were noticed; {len(asking.lived)} lived:")
    print("\n".join(sorted(mutant.says for mutant in asking.lived)))
    return 0 if asking.noticed >= 0.85 * len(mutants) else 1


if __name__ == "__main__":
    sys.exit(main())
