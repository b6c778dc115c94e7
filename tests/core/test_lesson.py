"""A class in time, held against an independent checker: nobody in two places, stations, educators and shared things single."""

from __future__ import annotations

import random
from dataclasses import replace
from datetime import date
from itertools import pairwise, permutations

import pytest

from nabrel.core.ask.recommend import plan
from nabrel.core.base.spending import taken
from nabrel.core.errors import Refused
from nabrel.core.house import House
from nabrel.core.judge.evaluate import course_of
from nabrel.core.lesson.blocks import blocks_of, part_of
from nabrel.core.lesson.lesson import lesson
from nabrel.core.lesson.room import Room, Shared, Student, checked_room
from nabrel.core.lesson.stations import StationTask, Turn, practised
from nabrel.core.pace.tasks import work_of
from nabrel.core.pace.timetable import as_listed_s

HOUSE = House()


@pytest.fixture(scope="module")
def taught(people):
    return plan(people["Tamsin"], HOUSE)


def room_of(taught, count=6, stations=6, **more):
    students = tuple(Student(f"Student {n}", 1.5 + 0.25 * (n % 3)) for n in range(count))
    return Room(
        title="Evening",
        date=date(2026, 11, 20),
        start="18:30",
        sequence=taught,
        students=students,
        stations=stations,
        **more,
    )


def busy_at_once(spans):
    """The most spans that hold one moment, ends excluded."""
    edges = sorted(edge for start, end in spans if end > start for edge in ((start, 1), (end, -1)))
    now = most = 0
    for _, by in edges:
        now += by
        most = max(most, now)
    return most


def hold_block(found, practices, stations, educators, shared, pairs=()):
    """Everything that must be true of a block of practice."""
    by_name = {each.name: each for each in practices}
    assert {each.name for each in found.placed} == set(by_name)
    for each in found.placed:
        own = by_name[each.name]
        at = max(each.start_s, own.not_before_s)
        assert each.start_s >= own.not_before_s
        for turn, start in zip(own.turns, each.turns_s, strict=True):
            assert start >= at
            at = start + turn.seconds
        assert each.work_s >= at
        assert each.check_s >= each.work_s + own.work_s
        assert each.end_s == each.check_s + own.check_s
        assert each.end_s <= found.length_s
    for station in range(1, stations + 1):
        assert busy_at_once([(e.start_s, e.end_s) for e in found.placed if e.station == station]) <= 1
    assert {e.station for e in found.placed} <= set(range(1, stations + 1))
    for educator in range(1, educators + 1):
        assert busy_at_once([(e.check_s, e.end_s) for e in found.placed if e.educator == educator]) <= 1
    for item, count in shared.items():
        turns = [
            (start, start + turn.seconds)
            for e in found.placed
            for turn, start in zip(by_name[e.name].turns, e.turns_s, strict=True)
            if turn.item == item
        ]
        assert busy_at_once(turns) <= count
    spans = {e.name: (e.start_s, e.end_s) for e in found.placed}
    for one, other in pairs:
        assert busy_at_once([spans[one], spans[other]]) <= 1


def drawn(rng, count):
    shared = {"palette": rng.randint(1, 3), "sink": 1}
    practices = [
        StationTask(
            f"S{n:02d}",
            tuple(Turn(item, rng.randint(10, 60)) for item in shared if rng.random() < 0.7),
            rng.randint(60, 400),
            rng.choice((0, 30, 45)),
            rng.choice((0, 0, 50)),
        )
        for n in range(count)
    ]
    pairs = [(f"S{n:02d}", f"S{n + 1:02d}") for n in range(0, count - 1, 2)] if rng.random() < 0.4 else []
    return practices, rng.randint(1, count), rng.randint(1, 3), shared, pairs


@pytest.mark.parametrize("seed", range(12))
def test_nobody_and_nothing_is_in_two_places_in_any_room(seed):
    rng = random.Random(seed)
    practices, stations, educators, shared, pairs = drawn(rng, rng.randint(2, 9))
    found = practised(practices, stations, educators, shared, pairs, search=seed % 2 == 0)
    hold_block(found, practices, stations, educators, shared, pairs)


@pytest.mark.parametrize("seed", range(6))
def test_what_is_proven_is_no_longer_than_any_order_worked_through(seed):
    """Against every order of four students, each begun as early as can be, at one or two stations with one educator."""
    rng = random.Random(100 + seed)
    practices = [StationTask(f"S{n}", (), rng.randint(50, 200), rng.choice((20, 40))) for n in range(4)]
    found = practised(practices, 1 + seed % 2, 1, {})
    assert found.proven
    best = min(_by_hand(order, 1 + seed % 2) for order in permutations(practices))
    assert found.length_s <= best


def _by_hand(order, stations):
    free, educator = [0] * stations, 0
    for each in order:
        place = free.index(min(free))
        check = max(free[place] + each.work_s, educator)
        free[place] = educator = check + each.check_s
    return max(free)


@pytest.mark.parametrize("count", [6, 12, 24])
def test_with_a_station_each_a_block_is_proven(count):
    practices = [StationTask(f"S{n:02d}", (), 200 + 40 * (n % 4), 45) for n in range(count)]
    found = practised(practices, count, 1, {})
    assert found.proven
    hold_block(found, practices, count, 1, {})
    assert found == practised(practices, count, 1, {})


@pytest.mark.parametrize("name", ["Bram", "Dunstan", "Halcyon", "Isolde", "Merrick", "Posy", "Tamsin", "Wren"])
def test_a_plan_is_cut_into_blocks_whole_and_never_where_something_must_follow_soon(people, name):
    sequence = plan(people[name], HOUSE)
    blocks = blocks_of(sequence, HOUSE)
    assert [step for block in blocks for step in block.steps] == [step.id for step in sequence.steps]
    assert len(blocks) >= 2
    of = {step: number for number, block in enumerate(blocks) for step in block.steps}
    work = work_of(sequence, HOUSE)
    windows = [lag for lag in work.lags if lag.most is not None]
    for lag in windows:
        assert of[work.tasks[lag.before].step] == of[work.tasks[lag.after].step]


def test_a_lesson_holds_together_from_the_first_minute_to_the_last(taught):
    room = room_of(taught, 9, 5, shared=(Shared("sink", 1, 60.0),), educators=2)
    found = lesson(room, HOUSE)
    assert [phase.start_s for phase in found.blocks] == sorted(phase.start_s for phase in found.blocks)
    for one, other in pairwise(found.blocks):
        assert other.start_s >= one.end_s
    shown = [phase for phase in found.blocks if phase.phase == "demonstrate"]
    blocks = blocks_of(taught, HOUSE)
    assert [phase.steps for phase in shown] == [block.steps for block in blocks]
    for phase, block in zip(shown, blocks, strict=True):
        assert phase.end_s - phase.start_s == as_listed_s(work_of(part_of(taught, block), HOUSE))
    assert len(found.students) == 9
    for student in room.students:
        own = found.students[student.name]
        for one, other in pairwise(own):
            assert other.start_s >= one.end_s
        assert all((each.station is None) == (each.doing in ("watch", "break")) for each in own)
        worked = [each.end_s - each.start_s for each in own if each.doing == "practise"]
        wanted = [as_listed_s(work_of(part_of(taught, block), HOUSE, pace=student.pace)) for block in blocks]
        assert worked == wanted
        assert [each.doing for each in own].count("check") == len(blocks)
    stationed = [(e.station, e.start_s, e.end_s) for own in found.students.values() for e in own if e.station]
    for station in range(1, 6):
        assert busy_at_once([(start, end) for at, start, end in stationed if at == station]) <= 1
    assert {at for at, _, _ in stationed} <= set(range(1, 6))
    turns = [(e.start_s, e.end_s) for own in found.students.values() for e in own if e.doing == "turn"]
    assert turns
    assert busy_at_once(turns) == 1
    assert any(phase.phase == "break" for phase in found.blocks)


def test_the_weigh_out_is_the_takes_for_everybody_and_the_spare(taught):
    room = room_of(taught, 9, 9, spare=0.2)
    found = {each.item: each for each in lesson(room, HOUSE).weigh_out}
    own = taken(course_of(taught, HOUSE))
    assert set(found) == set(own)
    for item, (amount, unit) in own.items():
        assert found[item].amount == pytest.approx(amount * 9 * 1.2)
        assert found[item].unit == unit
        assert "for 9 students: " in found[item].words
    priced = [each.cost for each in found.values() if each.cost is not None]
    assert lesson(room, HOUSE).cost == pytest.approx(sum(priced))


def test_what_somebody_must_not_have_is_said_by_name_and_item_and_only_then(taught, people):
    used = {part.item for step in taught.steps for part in step.mix}
    item = next(each for each in taught.case.kit if each.id in used)
    scented = replace(item, contains=(*item.contains, "fragrance"))
    kit = tuple(
        scented if each.id == item.id else replace(each, contains=(), ingredients=("Aqua",)) for each in taught.case.kit
    )
    sequence = replace(taught, case=replace(taught.case, kit=kit))
    case = replace(people["Wren"], kit=())
    allergic = Student("Oda", case=replace(case, sitter=replace(case.sitter, avoid=("fragrance",))))
    calm = Student("Pim", case=replace(case, sitter=replace(case.sitter, avoid=())))
    room = replace(room_of(sequence), students=(allergic, calm, Student("Quill")))
    found = lesson(room, HOUSE)
    (barred,) = found.allergies
    assert (barred.student, barred.items) == ("Oda", (item.id,))
    assert barred.says == f"Oda must not have {item.name} (fragrance)"
    assert any(duty.says.startswith(barred.says) for duty in found.before_class)
    # What Oda gets instead is of the same kinds of step, and has none of it.
    offered = {part.item for step in found.faces["Oda"].plan.steps for part in step.mix}
    assert item.id not in offered
    # What nobody looked into is to be looked into first.
    blank = tuple(replace(each, ingredients=()) if each.id in used - {item.id} else each for each in kit)
    unread = replace(room, sequence=replace(taught, case=replace(taught.case, kit=blank)))
    _, unknown = lesson(unread, HOUSE).allergies
    assert unknown.student == "Oda"
    assert set(unknown.items) == used - {item.id}
    assert unknown.says.startswith("Oda avoids fragrance, and nobody recorded what is in ")
    assert unknown.uses == "read the labels first"


def test_tools_are_counted_by_who_works_at_once_and_cleaned_for_the_rest(taught):
    each = {tool.tool: tool for tool in lesson(room_of(taught, 8, 8), HOUSE).tools}
    half = {tool.tool: tool for tool in lesson(room_of(taught, 8, 4), HOUSE).tools}
    assert each
    assert "fingers" not in each
    assert all((tool.count, tool.cleaned) == (8, 0) for tool in each.values())
    assert all((tool.count, tool.cleaned) == (4, 4) for tool in half.values())


def test_what_is_too_long_says_by_how_much_and_what_would_shorten_it(taught):
    found = lesson(room_of(taught, 8, 4, until="19:30"), HOUSE)
    assert found.too_long_s == found.length_s - 3600
    assert 1 <= len(found.shorter) <= 3
    assert [each.saves_s for each in found.shorter] == sorted((each.saves_s for each in found.shorter), reverse=True)
    assert all(each.saves_s > 0 for each in found.shorter)
    roomy = lesson(room_of(taught, 8, 4, until="18:00"), HOUSE)
    assert (roomy.too_long_s, roomy.shorter) == (0, ())


@pytest.mark.parametrize(("change", "field"), [
    ({"students": (Student("A"), Student("A"))}, "students"),
    ({"pairs": (("Student 0", "Nobody"),)}, "pairs[0]"),
    ({"pairs": (("Student 0", "Student 1"), ("Student 1", "Student 2"))}, "pairs"),
    ({"pairs": (("Student 0", "Student 0"),)}, "pairs"),
    ({"shared": (Shared("nothing"),)}, "shared[0].item"),
    ({"shared": (Shared("sink"), Shared("sink"))}, "shared[1].item"),
    ({"start": "25:00"}, "start"),
    ({"until": "soon"}, "until"),
])  # fmt: skip
def test_a_class_that_cannot_be_held_is_refused_by_its_field(taught, change, field):
    with pytest.raises(Refused) as refused:
        checked_room(replace(room_of(taught), **change))
    assert refused.value.field == field


def test_a_room_across_midnight_has_its_hours(taught):
    assert room_of(taught, until="00:30").length_s == 6 * 3600
    assert room_of(taught, until="18:30").length_s == 24 * 3600
    assert room_of(taught).length_s is None
