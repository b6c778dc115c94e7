"""One block of practice: who works where and when, shared things in turns, every student checked; the shortest there is.

Demonstrations are barriers, so that each block is solved by itself: exact, and proven where the solver says so.
"""

from __future__ import annotations

from collections.abc import Collection, Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any

SEED, WORKERS = 1, 1
MOST_WORK, MOST_SLOTS_WORK = 0.015, 0.6
"""Of the solver's own deterministic seconds, for a block: the same answer every time, on a busy machine too. More of them found no
shorter blocks at half the stations; slots are proven in less.
"""
BUSY = 10**9


@dataclass(frozen=True, slots=True)
class Turn:
    """A use of something shared at the beginning of the practice: what, and how long."""

    item: str
    seconds: int


@dataclass(frozen=True, slots=True)
class StationTask:
    """What one student does in a block: turns, then work, then a check by an educator."""

    name: str
    turns: tuple[Turn, ...]
    work_s: int
    check_s: int
    not_before_s: int = 0
    """When the wait of the block before has ended on the face that is worked."""


@dataclass(frozen=True, slots=True)
class StationTurn:
    """When a student's practice starts, when the work does, when the check does, and when it ends; and at which station."""

    name: str
    start_s: int
    turns_s: tuple[int, ...]
    work_s: int
    check_s: int
    end_s: int
    station: int
    educator: int


@dataclass(frozen=True, slots=True)
class Practised:
    """A block of practice from 0: everybody placed, its length, and whether no shorter one exists."""

    placed: tuple[StationTurn, ...]
    length_s: int
    proven: bool


def practised(
    practices: Sequence[StationTask],
    stations: int,
    educators: int,
    shared: Mapping[str, int],
    pairs: Sequence[tuple[str, str]] = (),
    *,
    search: bool = True,
) -> Practised:
    """The shortest block in which everybody practises at a station and is checked by an educator.

    A student holds the station from the first turn to the end of the check. Of a pair one practises after the other, on each
    other. ``shared`` says how many there are of each shared thing. Without ``search`` only a good order is tried: for what-ifs.
    """
    if not practices:
        return Practised((), 0, True)
    room = _Places(stations, educators, shared, pairs)
    # Who works longest begins: where that is as short as anything can be, nothing needs to be searched.
    best = room.in_turn(sorted(practices, key=lambda each: (-_least(each), each.name)))
    bound = _bound(practices, stations, educators, shared)
    proven = _length(best) == bound
    if not proven and search and _in_slots(practices, stations, pairs):
        turns, proven = _slotted(practices, educators, shared, _length(best), bound)
        best = min((best, room.in_turn(turns)), key=_length)
    elif not proven and search:
        solved, proven = _Stations(practices, stations, educators, shared, pairs, _length(best), bound).solved()
        if solved:
            order = sorted(solved, key=lambda each: (each.start_s, each.check_s, each.name))
            found = room.in_turn([next(each for each in practices if each.name == own.name) for own in order])
            # In the solver's order, and as early as can be; its own times where only they are as short.
            best = min((best, found, _seated(solved, stations, educators)), key=_length)
            proven = proven and _length(best) == _length(solved)
    by_name = {each.name: each for each in best}
    return Practised(tuple(by_name[each.name] for each in practices), _length(best), proven)


def _length(placed: Sequence[StationTurn]) -> int:
    return max(each.end_s for each in placed)


def _bound(practices: Sequence[StationTask], stations: int, educators: int, shared: Mapping[str, int]) -> int:
    """No block is shorter: not than the longest student, nor than the stations, the educators or a shared thing allow in all."""
    begin = min(each.not_before_s for each in practices)
    bounds = [max(each.not_before_s + _least(each) for each in practices)]
    bounds.append(begin + -(-sum(_least(each) for each in practices) // stations))
    checks = sum(each.check_s for each in practices)
    bounds.append(begin + min(_least(each) - each.check_s for each in practices) + -(-checks // educators))
    for item, count in shared.items():
        using = [(each, sum(t.seconds for t in each.turns if t.item == item)) for each in practices]
        using = [(each, seconds) for each, seconds in using if seconds]
        if using:
            after = min(each.work_s + each.check_s for each, _ in using)
            bounds.append(begin + -(-sum(seconds for _, seconds in using) // count) + after)
    return max(bounds)


def _in_slots(practices: Sequence[StationTask], stations: int, pairs: Sequence[tuple[str, str]]) -> bool:
    """Whether everybody has a station and the same turn at one thing: turns and checks are then slots of one length each."""
    alike = {(each.turns, each.check_s, each.not_before_s) for each in practices}
    (turns, check_s, begin), *others = alike
    return not others and not pairs and stations >= len(practices) and len(turns) == 1 and check_s > 0 and begin == 0


def _slotted(
    practices: Sequence[StationTask], educators: int, shared: Mapping[str, int], most: int, least: int
) -> tuple[list[StationTask], bool]:
    """The order of turns that ends soonest, and whether none ends sooner: everybody takes one slot of turns and one of checks.

    Slots of turns count from the beginning, those of checks from the end, so that turn, work and check fit between them.
    """
    from ortools.sat.python import cp_model  # noqa: PLC0415 - 0.4 s, and only for a class

    count, turn = len(practices), practices[0].turns[0]
    begins = [turn.seconds * (slot // shared[turn.item]) for slot in range(count)]
    leaves = [practices[0].check_s * (slot // educators + 1) for slot in range(count)]
    longest = sorted(practices, key=lambda each: (-each.work_s, each.name))
    model: Any = cp_model.CpModel()
    turns, checks = ([model.new_int_var(0, count - 1, f"{what} {each.name}") for each in longest] for what in "tc")
    model.add_all_different(turns)
    model.add_all_different(checks)
    end = model.new_int_var(max(least, _least_in_slots(longest, begins, leaves)), most, "end")
    for place, each in enumerate(longest):
        begin, left = model.new_int_var(0, begins[-1], ""), model.new_int_var(0, leaves[-1], "")
        model.add_element(turns[place], begins, begin)
        model.add_element(checks[place], leaves, left)
        model.add(begin + turn.seconds + each.work_s + left <= end)
        if place and longest[place - 1].work_s == each.work_s:
            # Who works as long may change places: one order of them is enough.
            model.add(turns[place - 1] < turns[place])
    model.minimize(end)
    solver = cp_model.CpSolver()
    solver.parameters.random_seed, solver.parameters.num_workers = SEED, WORKERS
    solver.parameters.max_deterministic_time = MOST_SLOTS_WORK
    status = solver.solve(model)
    if status not in (cp_model.OPTIMAL, cp_model.FEASIBLE):
        return list(longest), False
    order = sorted(range(count), key=lambda place: solver.value(turns[place]))
    return [longest[place] for place in order], status == cp_model.OPTIMAL


def _least_in_slots(longest: Sequence[StationTask], begins: Sequence[int], leaves: Sequence[int]) -> int:
    """No order ends sooner: of any number of the longest, the mean of what they need with the best slots there are."""
    turn = longest[0].turns[0].seconds
    sums = [
        (sum(begins[:k]) + sum(leaves[:k]) + sum(each.work_s + turn for each in longest[:k]), k)
        for k in range(1, len(longest) + 1)
    ]
    return max(-(-total // k) for total, k in sums)


_AtWork = tuple[int, StationTask, int, int, tuple[int, ...]]
"""Somebody at work: ready for the check when, who, at which station, begun when, and when each turn was."""


class _Places:
    """Stations, educators and shared things, given out student by student, each as early as can be."""

    def __init__(
        self, stations: int, educators: int, shared: Mapping[str, int], pairs: Sequence[tuple[str, str]]
    ) -> None:
        self.stations, self.educators, self.shared = stations, educators, shared
        self.partner = {one: other for pair in pairs for one, other in (pair, pair[::-1])}

    def in_turn(self, practices: Sequence[StationTask]) -> list[StationTurn]:
        """Everybody in this order: the first station and the first of each thing that is free, checks in the order of being ready."""
        free = [0] * self.stations
        things = {item: [0] * count for item, count in self.shared.items()}
        waiting: list[_AtWork] = []
        placed: dict[str, StationTurn] = {}
        watch = [0] * self.educators
        queue = list(practices)
        while queue or waiting:
            # A station is known to be free again once whoever holds it was checked: the earliest of both goes first.
            if queue and (not waiting or min(free) <= min(row[0] for row in waiting)) and self._may(queue[0], waiting):
                each = queue.pop(0)
                station = self._station(each, free, placed)
                start = max(free[station], each.not_before_s, self._partner_done(each, placed))
                turns, at = [], start
                for turn in each.turns:
                    own = things[turn.item]
                    place = min(range(len(own)), key=lambda k: (max(own[k], at), k))
                    at = max(at, own[place])
                    turns.append(at)
                    at += turn.seconds
                    own[place] = at
                free[station] = BUSY
                waiting.append((at + each.work_s, each, station, start, tuple(turns)))
                continue
            waiting.sort(key=lambda row: (row[0], row[1].name))
            ready, each, station, start, turns_at = waiting.pop(0)
            educator = min(range(self.educators), key=lambda k: (max(watch[k], ready), k))
            check = max(ready, watch[educator])
            end = check + each.check_s
            watch[educator] = free[station] = end
            placed[each.name] = StationTurn(
                each.name, start, turns_at, ready - each.work_s, check, end, station + 1, educator + 1
            )
        return list(placed.values())

    def _may(self, each: StationTask, waiting: Sequence[_AtWork]) -> bool:
        """Whether somebody may begin: not while the other of a pair is at work."""
        partner = self.partner.get(each.name)
        return partner is None or all(row[1].name != partner for row in waiting)

    def _station(self, each: StationTask, free: Sequence[int], placed: Mapping[str, StationTurn]) -> int:
        own = placed.get(self.partner.get(each.name, ""))
        if own is not None and free[own.station - 1] != BUSY and free[own.station - 1] <= max(min(free), own.end_s):
            return own.station - 1
        return min(range(len(free)), key=lambda place: (free[place], place))

    def _partner_done(self, each: StationTask, placed: Mapping[str, StationTurn]) -> int:
        own = placed.get(self.partner.get(each.name, ""))
        return own.end_s if own is not None else 0


@dataclass(frozen=True, slots=True)
class _Times:
    """When one student's practice, turns, work and check start, and when it is done: the solver's variables."""

    start: Any
    turns: tuple[Any, ...]
    work: Any
    check: Any
    done: Any


class _Stations:
    """The constraints of a block, with variables for everybody's times."""

    def __init__(
        self,
        practices: Sequence[StationTask],
        stations: int,
        educators: int,
        shared: Mapping[str, int],
        pairs: Sequence[tuple[str, str]],
        most: int,
        least: int,
    ) -> None:
        from ortools.sat.python import cp_model  # noqa: PLC0415 - 0.4 s, and only for a class

        self.cp = cp_model
        self.model: Any = cp_model.CpModel()
        self.horizon = most
        self.times: dict[str, _Times] = {}
        self.at_station: dict[str, Any] = {}
        self.checks: list[Any] = []
        self.uses: dict[str, list[Any]] = {item: [] for item in shared}
        for each in practices:
            self._place(each)
        self._within(self.at_station.values(), stations)
        self._within(self.checks, educators)
        for item, own in self.uses.items():
            self._within(own, shared[item])
        for one, other in pairs:
            if one in self.at_station and other in self.at_station:
                self.model.add_no_overlap([self.at_station[one], self.at_station[other]])
        self._in_order(practices, {name for pair in pairs for name in pair})
        self.end = self._time("end", least)
        self.model.add_max_equality(self.end, [own.done for own in self.times.values()])

    def _time(self, name: str, least: int = 0) -> Any:
        return self.model.new_int_var(least, self.horizon, name)

    def _within(self, intervals: Iterable[Any], count: int) -> None:
        own = list(intervals)
        if own:
            self.model.add_cumulative(own, [1] * len(own), count)

    def _place(self, each: StationTask) -> None:
        name, model = each.name, self.model
        before = start = self._time(f"start {name}", each.not_before_s)
        turns = []
        for place, turn in enumerate(each.turns):
            at = self._time(f"turn {place} {name}")
            model.add(at >= before)
            self.uses[turn.item].append(model.new_fixed_size_interval_var(at, turn.seconds, f"use {place} {name}"))
            turns.append(at)
            before = at + turn.seconds
        work, check, done = (self._time(f"{what} {name}") for what in ("work", "check", "done"))
        model.add(work >= before)
        model.add(check >= work + each.work_s)
        model.add(done == check + each.check_s)
        self.at_station[name] = model.new_interval_var(start, self._time(f"span {name}"), done, f"station {name}")
        self.checks.append(model.new_fixed_size_interval_var(check, each.check_s, f"checked {name}"))
        self.times[name] = _Times(start, tuple(turns), work, check, done)

    def _in_order(self, practices: Sequence[StationTask], paired: Collection[str]) -> None:
        """Students who need the same are taken in their order: any other order would be as good, and need not be tried."""
        last: dict[tuple[object, ...], str] = {}
        for each in practices:
            if each.name in paired:
                continue
            alike = (each.turns, each.work_s, each.check_s, each.not_before_s)
            if alike in last:
                one, other = self.times[last[alike]], self.times[each.name]
                self.model.add(one.start <= other.start)
                self.model.add(one.check <= other.check)
            last[alike] = each.name

    def solved(self) -> tuple[list[StationTurn], bool]:
        """Everybody's times, not seated yet, and whether no shorter block exists; nobody's where nothing was found in time."""
        solver = self.cp.CpSolver()
        solver.parameters.random_seed, solver.parameters.num_workers = SEED, WORKERS
        solver.parameters.max_deterministic_time = MOST_WORK
        self.model.minimize(self.end)
        status = solver.solve(self.model)
        if status not in (self.cp.OPTIMAL, self.cp.FEASIBLE):
            return [], False
        value = solver.value
        found = [
            StationTurn(
                name,
                value(own.start),
                tuple(value(at) for at in own.turns),
                value(own.work),
                value(own.check),
                value(own.done),
                0,
                0,
            )
            for name, own in self.times.items()
        ]
        return found, status == self.cp.OPTIMAL


def _seated(placed: Sequence[StationTurn], stations: int, educators: int) -> list[StationTurn]:
    """Everybody at the first station, and with the first educator, that is free at their time."""
    at = _first_free([(each.start_s, each.end_s, each.name) for each in placed], stations)
    by = _first_free([(each.check_s, each.end_s, each.name) for each in placed], educators)
    return [replace(each, station=at[each.name] + 1, educator=by[each.name] + 1) for each in placed]


def _first_free(spans: Sequence[tuple[int, int, str]], places: int) -> dict[str, int]:
    free = [0] * places
    found: dict[str, int] = {}
    for start, end, name in sorted(spans):
        place = next(place for place in range(places) if free[place] <= start)
        found[name], free[place] = place, end
    return found


def _least(practice: StationTask) -> int:
    return sum(turn.seconds for turn in practice.turns) + practice.work_s + practice.check_s
