"""The timetable of a plan: the shortest order of the hands that keeps every rule, proven, and the same every time.

Solved with CP-SAT in phases, each fixing what the one before found: the length; fewest tools cleaned; fewest changes of the
tool in the hand; nearness to the order as listed; the earliest starts. One worker, a fixed seed and a deterministic limit instead
of a clock: a loaded machine gives the same answer as an idle one. A phase that is cut short keeps what the one before it had, and
says so.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any, Literal

from nabrel.core.pace.tasks import Lag, LagReason, Task, Work
from nabrel.core.terms.hands import TOOL_INFO
from nabrel.core.terms.ids import Tool, Zone
from nabrel.core.terms.limits import Ident
from nabrel.core.terms.zones import in_order

SEED = 7
"""Any will do: it is the same always, so that one plan has one timetable."""

LENGTH_LIMIT, ORDER_LIMIT, WHY_LIMIT = 4.0, 0.3, 0.5
"""Deterministic seconds for the length, for each later phase and for each try to leave a reason out: about as long on a quiet machine."""


@dataclass(frozen=True, slots=True)
class TimedTask:
    """One task with its time, in seconds from the start; ``of`` names the individual tool ("damp_sponge 1")."""

    step: str
    portion: int | None
    what: Literal["lay", "then", "work", "clean", "feature"]
    start_s: int
    end_s: int
    tool: Tool | None
    of: str
    zones: tuple[Zone, ...] = ()
    task: int | None = None


@dataclass(frozen=True, slots=True)
class Wait:
    """A layer at rest: which step's, on which zones, from when to when, and the steps that are worked meanwhile."""

    step: Ident
    zones: tuple[Zone, ...]
    from_s: int
    to_s: int
    filled_by: tuple[Ident, ...]


@dataclass(frozen=True, slots=True)
class Timetable:
    """When each thing is done. ``length_s`` to the end of the last task, ``as_listed_s`` with each step waited out in turn,
    ``greedy_s`` with whatever may be done next done next (None where that runs into a dead end). ``proven``: nothing shorter keeps
    the rules. Where there is none, ``because`` holds a smallest set of reasons and ``frees`` what would free it.
    """

    possible: bool
    length_s: int | None
    proven: bool
    as_listed_s: int
    greedy_s: int | None = None
    tasks: tuple[TimedTask, ...] = ()
    waits: tuple[Wait, ...] = ()
    longest_chain: tuple[str, ...] = ()
    because: tuple[str, ...] = ()
    frees: tuple[str, ...] = ()


UNDECIDED = (
    "No timetable was found in the time that is allowed, and none was ruled out: shorten the plan, or take pins out."
)

TOO_LITTLE = "What is pinned and what must follow soon leave the hands too little time."


def as_listed_s(work: Work) -> int:
    """How long it takes with the steps worked one after the other as listed, each waited out."""
    clock = 0
    for place, step in enumerate(work.plan.steps):
        own = [work.tasks[index] for index in work.of(step.id)]
        if own and own[0].done_at is not None:
            clock = max(clock, own[0].done_at + round(step.wait_s))
            continue
        clock += sum(task.seconds for task in own)
        if place + 1 < len(work.plan.steps):
            clock += round(step.wait_s)
    return clock


def timetable(work: Work) -> Timetable:
    """The shortest timetable of this work, or why there is none."""
    listed = as_listed_s(work)
    if not work.tasks:
        return Timetable(True, 0, True, listed, 0)
    model = _Model(work)
    found = model.solve()
    if found is None and not model.impossible:
        return Timetable(False, None, False, listed, because=(UNDECIDED,))
    if found is None:
        because = _smallest(work)
        return Timetable(
            False,
            None,
            True,
            listed,
            because=tuple(each.says for each in because) or (TOO_LITTLE,),
            frees=tuple(_frees(because)),
        )
    placed = _placed(work, found)
    return Timetable(
        possible=True,
        length_s=max(each.end_s for each in placed),
        proven=found.proven,
        as_listed_s=listed,
        greedy_s=greedy_s(work),
        tasks=placed,
        waits=tuple(_waits(work, placed)),
        longest_chain=_longest_chain(work, placed),
    )


def shortest_s(work: Work) -> int | None:
    """The length of the shortest timetable of this work, without its order; None where there is none. Much sooner than the whole."""
    if not work.tasks:
        return 0
    found = _Model(work).shortest()
    return None if found is None else found.length


def greedy_s(work: Work) -> int | None:
    """How long it takes to do, whenever the hands are free, what may be started first; None where that ends in a dead end."""
    ends: dict[int, int] = {}
    starts: dict[int, int] = {}
    dirty: dict[Tool, list[int]] = {}
    clashing = {(clash.one, clash.other) for clash in work.clashes}
    for index, task in enumerate(work.tasks):
        if task.done_at is not None:
            starts[index] = ends[index] = task.done_at
    clock = 0
    pins = {index: at for index, at, _ in work.pins}
    into: dict[int, list[Lag]] = {}
    for lag in work.lags:
        into.setdefault(lag.after, []).append(lag)
    while len(ends) < len(work.tasks):
        ready: list[tuple[int, int]] = []
        for index in range(len(work.tasks)):
            if index in ends or any(lag.before not in ends for lag in into.get(index, ())):
                continue
            at = max([clock, *(ends[lag.before] + lag.least for lag in into.get(index, ()) if lag.least is not None)])
            at = max(at, pins.get(index, 0))
            for apart in work.aparts:
                if (apart.task == index and any(other in starts for other in apart.before)) or (
                    apart.task == index and not apart.before
                ):
                    if any(other not in ends for other in apart.after):
                        at = -1
                        break
                    at = max([at, *(ends[other] + apart.least for other in apart.after)])
            if at >= 0:
                ready.append((at, index))
        if not ready:
            return None
        at, index = min(ready)
        tool = work.tasks[index].tool
        if tool is not None:
            if work.tools.get(tool, 1) == 1 and any((used, index) in clashing for used in dirty.get(tool, ())):
                at, dirty[tool] = max(at, clock + work.clean_s), []
            dirty.setdefault(tool, []).append(index)
        late = [lag for lag in into.get(index, ()) if lag.most is not None and at > ends[lag.before] + lag.most]
        if late or (index in pins and at != pins[index]):
            return None
        starts[index], ends[index] = at, at + work.tasks[index].seconds
        clock = ends[index]
    length = max(ends.values())
    return None if work.ready is not None and length > work.ready[0] else length


@dataclass(frozen=True, slots=True)
class _Found:
    starts: tuple[int, ...]
    cleans: tuple[tuple[int, int, Tool, str], ...]
    units: Mapping[int, int]
    length: int
    proven: bool


class _Model:
    """The constraints of a work, with a variable for the start of each task; built anew for every question."""

    def __init__(self, work: Work, *, named: bool = False, without: Iterable[str] = ()) -> None:
        from ortools.sat.python import cp_model  # noqa: PLC0415 - 0.4 s, and only for a timetable

        self.cp = cp_model
        self.work = work
        self.model: Any = cp_model.CpModel()
        self.named = named
        self.without = set(without)
        self.literals: dict[str, tuple[Any, LagReason]] = {}
        # Nothing needs to be later than this: all worked in turn, each waited out twice, a tool cleaned before every task.
        waits = sum(round(step.wait_s) for step in work.plan.steps)
        self.horizon = as_listed_s(work) + waits + work.clean_s * len(work.tasks)
        if work.ready is not None:
            self.horizon = max(self.horizon, work.ready[0])
        for _, at, _ in work.pins:
            self.horizon = max(self.horizon, at + as_listed_s(work))
        earliest = min([0, *(task.done_at for task in work.tasks if task.done_at is not None)])
        self.starts: list[Any] = []
        self.intervals: list[Any] = []
        self.turned: dict[tuple[int, int], Any] = {}
        self.impossible = False
        for index, task in enumerate(work.tasks):
            if task.done_at is not None:
                start = self.model.new_int_var(task.done_at, task.done_at, f"s{index}")
            else:
                start = self.model.new_int_var(max(0, earliest), self.horizon, f"s{index}")
                self.intervals.append(self.model.new_fixed_size_interval_var(start, task.seconds, f"i{index}"))
            self.starts.append(start)
        self.units: dict[int, Any] = {}
        self.cleans: list[tuple[Any, Any, int, Tool]] = []
        self._rules()
        self._tools()
        self._hands()
        self.end = self.model.new_int_var(0, self.horizon, "end")
        for index, task in enumerate(work.tasks):
            if task.done_at is None:
                self.model.add(self.end >= self.starts[index] + task.seconds)

    def _only_if(self, constraint: Any, reason: LagReason) -> None:
        """Name a constraint, where it is asked which of them contradict each other."""
        if not self.named:
            return
        if reason.name not in self.literals:
            self.literals[reason.name] = (self.model.new_bool_var(reason.name), reason)
        constraint.only_enforce_if(self.literals[reason.name][0])

    def _binds(self, reason: LagReason) -> bool:
        return reason.name not in self.without

    def _rules(self) -> None:
        work, model = self.work, self.model
        ends = [start + task.seconds for start, task in zip(self.starts, work.tasks, strict=True)]
        for lag in work.lags:
            if not self._binds(lag.reason):
                continue
            if lag.least is not None:
                self._only_if(model.add(self.starts[lag.after] >= ends[lag.before] + lag.least), lag.reason)
            if lag.most is not None:
                self._only_if(model.add(self.starts[lag.after] <= ends[lag.before] + lag.most), lag.reason)
        for place, apart in enumerate(work.aparts):
            if not self._binds(apart.reason):
                continue
            early = model.new_bool_var(f"early{place}") if apart.before else None
            named = self._literal(apart.reason)
            for other in apart.before:
                model.add(ends[apart.task] <= self.starts[other]).only_enforce_if([early, *named])
            for other in apart.after:
                late = [*([early.negated()] if early is not None else []), *named]
                constraint = model.add(self.starts[apart.task] >= ends[other] + apart.least)
                if late:
                    constraint.only_enforce_if(late)
        for index, at, reason in work.pins:
            if self._binds(reason):
                self._only_if(model.add(self.starts[index] == at), reason)
        if work.ready is not None and self._binds(work.ready[1]):
            for start, task in zip(self.starts, work.tasks, strict=True):
                self._only_if(model.add(start + task.seconds <= work.ready[0]), work.ready[1])

    def _literal(self, reason: LagReason) -> list[Any]:
        if not self.named:
            return []
        if reason.name not in self.literals:
            self.literals[reason.name] = (self.model.new_bool_var(reason.name), reason)
        return [self.literals[reason.name][0]]

    def _tools(self) -> None:
        """Which individual tool each use takes where there are more, and cleaning between uses that clash on the same one."""
        work, model = self.work, self.model
        clashing = {index for clash in work.clashes for index in (clash.one, clash.other)}
        for tool in dict.fromkeys(clash.tool for clash in work.clashes):
            uses = [i for i, task in enumerate(work.tasks) if task.tool == tool and i in clashing]
            count = work.tools.get(tool, 1)
            for index in uses:
                self.units[index] = model.new_int_var(0, count - 1, f"u{index}")
            cleaned: dict[int, tuple[Any, Any]] = {}
            for index in uses:
                present = model.new_bool_var(f"c{index}")
                start = model.new_int_var(0, self.horizon, f"cs{index}")
                interval = model.new_optional_fixed_size_interval_var(start, work.clean_s, present, f"ci{index}")
                self.intervals.append(interval)
                model.add(start + work.clean_s <= self.starts[index]).only_enforce_if(present)
                model.add(start == 0).only_enforce_if(present.negated())
                cleaned[index] = (present, start)
                self.cleans.append((present, start, index, tool))
            for clash in work.clashes:
                if clash.tool != tool or not self._binds(_cleaning(tool)):
                    continue
                self._between(clash.one, clash.other, count, uses, cleaned, _cleaning(tool))

    def _between(
        self,
        one: int,
        other: int,
        count: int,
        uses: Sequence[int],
        cleaned: Mapping[int, tuple[Any, Any]],
        reason: LagReason,
    ) -> None:
        """Either the clashing use comes first, or another tool of the kind is taken, or the tool is cleaned in between."""
        work, model = self.work, self.model
        ends = {index: self.starts[index] + work.tasks[index].seconds for index in uses}
        first = model.new_bool_var(f"f{one}_{other}")
        model.add(self.starts[other] + work.tasks[other].seconds <= self.starts[one]).only_enforce_if(first)
        ways = [first]
        if count > 1:
            unlike = model.new_bool_var(f"d{one}_{other}")
            model.add(self.units[one] != self.units[other]).only_enforce_if(unlike)
            ways.append(unlike)
        for index in uses:
            present, start = cleaned[index]
            way = model.new_bool_var(f"w{one}_{other}_{index}")
            model.add_implication(way, present)
            model.add(start >= ends[one]).only_enforce_if(way)
            if index != other:
                model.add(self.starts[index] + work.tasks[index].seconds <= self.starts[other]).only_enforce_if(way)
                model.add(self.units[index] == self.units[other]).only_enforce_if(way)
            ways.append(way)
        self._only_if(model.add_bool_or(ways), reason)

    def _hands(self) -> None:
        if self.work.hands == 1:
            self._one_thing_at_a_time()
            return
        self.model.add_cumulative(self.intervals, [1] * len(self.intervals), self.work.hands)
        # Two pairs of hands never work with one tool, nor on one place.
        todo = [i for i, task in enumerate(self.work.tasks) if task.done_at is None]
        mine = dict(zip(todo, self.intervals, strict=False))
        for one in todo:
            for other in todo:
                if other <= one:
                    continue
                a, b = self.work.tasks[one], self.work.tasks[other]
                alone = (
                    a.tool is not None
                    and a.tool == b.tool
                    and a.tool != "fingers"
                    and self.work.tools.get(a.tool, 1) < 2
                )
                if alone or set(a.zones) & set(b.zones):
                    self.model.add_no_overlap([mine[one], mine[other]])

    def _one_thing_at_a_time(self) -> None:
        """One pair of hands: a step is not left for another one before it is done, and a tool is cleaned between two of them."""
        work, model = self.work, self.model
        spans = []
        blocks = work.blocks
        for place, block in enumerate(blocks):
            start, last = self.starts[block[0]], block[-1]
            end = self.starts[last] + work.tasks[last].seconds
            size = model.new_int_var(1, self.horizon, f"z{place}")
            spans.append(model.new_interval_var(start, size, end, f"b{place}"))
        todo = [index for index, task in enumerate(work.tasks) if task.done_at is None]
        cleans = self.intervals[len(todo) :]
        model.add_no_overlap([*spans, *cleans])
        if not self.named:
            self._pairs(blocks)

    def _pairs(self, blocks: list[list[int]]) -> None:
        """A literal for each pair of steps: whether they changed places. It guides the search for the length, too."""
        work, model = self.work, self.model
        for one in range(len(blocks)):
            for other in range(one + 1, len(blocks)):
                turned = model.new_bool_var(f"t{one}_{other}")
                a, b = blocks[one], blocks[other]
                end_a = self.starts[a[-1]] + work.tasks[a[-1]].seconds
                end_b = self.starts[b[-1]] + work.tasks[b[-1]].seconds
                model.add(end_b <= self.starts[a[0]]).only_enforce_if(turned)
                model.add(end_a <= self.starts[b[0]]).only_enforce_if(turned.negated())
                self.turned[one, other] = turned

    def solver(self, limit: float, *, cores: bool = False) -> Any:
        """One worker, one seed, and a limit that no clock moves.

        ``cores``: the bound is raised from below, core by core. It proves a length up to fifty times sooner, but has nothing to
        show where it is cut short.
        """
        solver: Any = self.cp.CpSolver()
        solver.parameters.num_workers = 1
        solver.parameters.random_seed = SEED
        solver.parameters.linearization_level = 0
        solver.parameters.max_deterministic_time = limit
        solver.parameters.optimize_with_core = cores
        return solver

    def shortest(self) -> _Found | None:
        """The shortest order of all, as the search leaves it. None where nothing keeps the rules, or nothing was found."""
        self.model.minimize(self.end)
        for cores in (True, False):
            solver = self.solver(LENGTH_LIMIT, cores=cores)
            status = solver.solve(self.model)
            self.impossible = status == self.cp.INFEASIBLE
            if status in (self.cp.OPTIMAL, self.cp.INFEASIBLE):
                break
        if status not in (self.cp.OPTIMAL, self.cp.FEASIBLE):
            return None
        return self._read(solver, proven=status == self.cp.OPTIMAL)

    def solve(self) -> _Found | None:
        """Shortest first; then, at that length, with few tools in turn, near the listed order and as early as may be.

        None where nothing keeps the rules.
        """
        best = self.shortest()
        if best is None:
            return None
        proven = best.proven
        self.model.add(self.end <= best.length)
        for phase in (self._cleanings, self._changes, self._out_of_order, self._late):
            objective = phase()
            if objective is None:
                continue
            self.model.clear_hints()
            for variable, value in zip(self.starts, best.starts, strict=True):
                self.model.add_hint(variable, value)
            self.model.minimize(objective)
            solver = self.solver(ORDER_LIMIT)
            status = solver.solve(self.model)
            if status not in (self.cp.OPTIMAL, self.cp.FEASIBLE):
                break
            best = self._read(solver, proven=proven)
            self.model.add(objective <= round(solver.objective_value))
        return best

    def _cleanings(self) -> Any | None:
        return sum(present for present, *_ in self.cleans) if self.cleans else None

    def _changes(self) -> Any | None:
        """Less one for each step that goes on with the tool that the hand holds from the step just before it."""
        blocks, tasks = self.work.blocks, self.work.tasks
        sustained = []
        for one in range(len(blocks)):
            for other in range(len(blocks)):
                held = tasks[blocks[one][-1]].tool
                if one == other or held is None or tasks[blocks[other][0]].tool != held or not self.turned:
                    continue
                next_to = self.model.new_bool_var(f"n{one}_{other}")
                self.model.add_implication(next_to, self._comes_before(one, other))
                for between in range(len(blocks)):
                    if between not in (one, other):
                        outside = [self._comes_before(between, one), self._comes_before(other, between)]
                        self.model.add_bool_or([next_to.negated(), *outside])
                sustained.append(next_to)
        return -sum(sustained) if sustained else None

    def _comes_before(self, one: int, other: int) -> Any:
        """The literal that says that one step is done before the other."""
        return self.turned[one, other].negated() if one < other else self.turned[other, one]

    def _out_of_order(self) -> Any | None:
        """How far the order is from the one listed: steps that changed places, by how far apart they are listed.

        The last three figures tell orders apart that would tie otherwise.
        """
        if not self.turned:
            return None
        weights = {pair: (pair[1] - pair[0]) * 1000 + (pair[0] * 31 + pair[1] * 17) % 1000 for pair in self.turned}
        return sum(turned * weights[pair] for pair, turned in self.turned.items())

    def _late(self) -> Any | None:
        """The sum of all starts."""
        return sum(self.starts) + sum(start for _, start, *_ in self.cleans)

    def _read(self, solver: Any, *, proven: bool) -> _Found:
        cleans = []
        for present, start, index, tool in self.cleans:
            if solver.value(present):
                cleans.append((int(solver.value(start)), index, tool, str(index)))
        return _Found(
            starts=tuple(int(solver.value(each)) for each in self.starts),
            cleans=tuple(sorted(cleans)),
            units={index: int(solver.value(unit)) for index, unit in self.units.items()},
            length=int(solver.value(self.end)),
            proven=proven,
        )

    def contradicting(self) -> list[LagReason] | None:
        """Named reasons that together allow nothing, though not yet the fewest; None where something is allowed."""
        self.model.add_assumptions([literal for literal, _ in self.literals.values()])
        solver = self.solver(LENGTH_LIMIT)
        if solver.solve(self.model) != self.cp.INFEASIBLE:
            return None
        indices = set(solver.sufficient_assumptions_for_infeasibility())
        return [reason for literal, reason in self.literals.values() if literal.index in indices]

    def feasible(self) -> bool:
        """Whether anything keeps what this model holds."""
        return self.solver(WHY_LIMIT).solve(self.model) in (self.cp.OPTIMAL, self.cp.FEASIBLE)


def _cleaning(tool: Tool) -> LagReason:
    return LagReason(
        f"cleaning of {tool}", f"The {TOOL_INFO[tool].words} must be cleaned between dark and pale, and wet and powder."
    )


def _smallest(work: Work) -> list[LagReason]:
    """A smallest set of reasons that together allow no timetable: each of them, left out, would free it."""
    found = _Model(work, named=True).contradicting() or []
    every = {reason.name for reason in _reasons(work)}
    needed = list(found)
    for reason in found:
        fewer = [each for each in needed if each is not reason]
        if not _Model(work, without=every - {each.name for each in fewer}).feasible():
            needed = fewer
    return needed


def _reasons(work: Work) -> list[LagReason]:
    found = [lag.reason for lag in work.lags] + [apart.reason for apart in work.aparts] + [r for *_, r in work.pins]
    found += [work.ready[1]] if work.ready is not None else []
    return found + [_cleaning(clash.tool) for clash in work.clashes]


def _frees(because: Sequence[LagReason]) -> list[str]:
    """What would free an impossible plan, for each reason that a person can give way on."""
    said = []
    for reason in because:
        name = reason.name
        if name.startswith("pin of"):
            said.append("Take the pin out.")
        elif name == "ready":
            said.append("Start earlier, or be ready later.")
        elif name.startswith("longest wait of"):
            said.append("Lay it later, or allow a longer wait.")
        elif name.startswith("wait of"):
            said.append("Shorten the wait, or do that step before the start.")
        elif name.startswith("cleaning of"):
            said.append("Have a second tool of the kind.")
        elif " before " in name:
            said.append("Change the order of the two.")
    return list(dict.fromkeys(said))


def _tool_name(tool: Tool | None, unit: int) -> str:
    return "" if tool is None else f"{tool} {unit + 1}"


def _placed(work: Work, found: _Found) -> tuple[TimedTask, ...]:
    rows = []
    for index, (task, start) in enumerate(zip(work.tasks, found.starts, strict=True)):
        rows.append(_as_placed(index, task, start, found.units.get(index, 0)))
    for start, index, tool, _ in found.cleans:
        task = work.tasks[index]
        rows.append(
            TimedTask(
                task.step, None, "clean", start, start + work.clean_s, tool, _tool_name(tool, found.units.get(index, 0))
            )
        )
    return tuple(sorted(rows, key=lambda row: (row.start_s, row.end_s, row.task if row.task is not None else -1)))


def _as_placed(index: int, task: Task, start: int, unit: int) -> TimedTask:
    return TimedTask(
        task.step,
        task.portion,
        task.what,
        start,
        start + task.seconds,
        task.tool,
        _tool_name(task.tool, unit),
        task.zones,
        index,
    )


def _waits(work: Work, placed: Sequence[TimedTask]) -> list[Wait]:
    """Every rest that something follows, by step and by the zones that rest alike, with what is worked meanwhile."""
    found: dict[tuple[str, int, int], list[Zone]] = {}
    for step in work.plan.steps:
        if not step.wait_s:
            continue
        for zone in step.zones:
            own = [row.end_s for row in placed if row.step == step.id and zone in row.zones]
            if not own:
                continue
            later = [
                row.start_s for row in placed if row.step != step.id and zone in row.zones and row.start_s >= max(own)
            ]
            if later:
                found.setdefault((step.id, max(own), max(own) + round(step.wait_s)), []).append(zone)
    rows = []
    for (step_id, start, end), zones in found.items():
        filled = [row.step for row in placed if row.step != step_id and row.start_s < end and row.end_s > start]
        rows.append(Wait(step_id, in_order(zones), start, end, tuple(dict.fromkeys(filled))))
    return sorted(rows, key=lambda row: (row.from_s, row.step))


def _longest_chain(work: Work, placed: Sequence[TimedTask]) -> tuple[str, ...]:
    """The steps that bind the length: from the end back, each starting just when the one before lets it."""
    at = {row.task: row for row in placed if row.task is not None}
    by_end = sorted(placed, key=lambda row: row.end_s)
    chain: list[str] = []
    row = by_end[-1]
    while row.start_s > 0:
        chain.append(row.step)
        earlier = None
        for lag in work.lags:
            if lag.least and at.get(lag.after) is row and at[lag.before].end_s + lag.least == row.start_s:
                earlier = at[lag.before]
                break
        if earlier is None:
            earlier = next((each for each in by_end if each.end_s == row.start_s and each is not row), None)
        if earlier is None or earlier.start_s >= row.start_s:
            break
        row = earlier
    else:
        chain.append(row.step)
    return tuple(dict.fromkeys(reversed(chain)))


def with_hands(work: Work, hands: int) -> Work:
    """The same work for another number of pairs of hands."""
    return replace(work, hands=hands)


def with_one_more(work: Work, tool: Tool) -> Work:
    """The same work with one more tool of a kind."""
    return replace(work, tools={**work.tools, tool: work.tools.get(tool, 1) + 1})
