"""What was worked out of stored revisions, remembered: a revision never changes, nor does what follows from it on one day."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable, Hashable, Iterable
from dataclasses import dataclass, replace
from datetime import date
from hashlib import sha256
from threading import Lock
from typing import Any, Generic, TypeVar

from pydantic_core import to_json

from nabrel.core.ask.adapt import Adapted, adapt
from nabrel.core.case.case import Case
from nabrel.core.case.product import Product
from nabrel.core.case.tool import OwnedTool
from nabrel.core.house import House
from nabrel.core.judge.evaluate import Evaluation, evaluate
from nabrel.core.learn.learnt import Learnt
from nabrel.core.learn.season import Short
from nabrel.core.lesson.lesson import Lesson, lesson
from nabrel.core.lesson.room import ClassLog, Room
from nabrel.core.pace.tasks import Work, work_of
from nabrel.core.pace.timetable import Timetable, timetable
from nabrel.core.plan.sequence import Sequence, Timing
from nabrel.core.shelf.packs import with_packs
from nabrel.core.terms.ids import Light, Tool
from nabrel.formats.classes import ClassFile
from nabrel.formats.files import SequenceFile
from nabrel.formats.values import text_of
from nabrel.store.repositories import StoredSequence

MOST_EVALUATIONS, MOST_TIMETABLES = 48, 64
MOST_ADAPTED, MOST_LESSONS = 240, 8
LEARNT, CLASSES = "learnt", "classes"


T = TypeVar("T")
Key = tuple[str, *tuple[Hashable, ...]]
"""A question about a sequence: its id, then what else the answer hangs on."""


class _Newest(Generic[T]):
    """The newest answers to questions about sequences."""

    def __init__(self, most: int) -> None:
        self._most = most
        self._held: OrderedDict[Key, T] = OrderedDict()
        self._lock = Lock()

    def forget(self, sequence_ids: set[str]) -> None:
        with self._lock:
            for key in [key for key in self._held if key[0] in sequence_ids]:
                del self._held[key]

    def answer(self, key: Key, work_out: Callable[[], T]) -> T:
        with self._lock:
            if key in self._held:
                self._held.move_to_end(key)
                return self._held[key]
        found = work_out()
        with self._lock:
            self._held[key] = found
            while len(self._held) > self._most:
                self._held.popitem(last=False)
        return found


def at_once(_what: str, function: Callable[..., T], *arguments: object) -> T:
    """Heavy work done where it is asked for."""
    return function(*arguments)


_adapted = _Newest[Adapted](MOST_ADAPTED)
"""Plans on other faces, remembered where lessons are worked out: most of a class is the same when one student changes."""


def worked_lesson(model: Room, house: House) -> Lesson:
    """The lesson of a class."""

    def adapting(shown: Evaluation, case: Case, own: House) -> Adapted:
        wanted = sha256(to_json([text_of(case), SequenceFile.of(shown.sequence)])).hexdigest()
        return _adapted.answer((CLASSES, wanted, own), lambda: adapt(shown, case, own))

    return lesson(model, house, adapting=adapting)


class Remembered:
    """The newest evaluations and timetables of one application, and what its wear records teach."""

    def __init__(self, heavy: Callable[..., Any] = at_once) -> None:
        self._heavy = heavy
        self._evaluations = _Newest[Evaluation](MOST_EVALUATIONS)
        self._timetables = _Newest[Timetable](MOST_TIMETABLES)
        self._learnt = _Newest[Learnt](1)
        self._short = _Newest[tuple[Short, ...]](1)
        self._lessons = _Newest[Lesson](MOST_LESSONS)

    def forget(self, sequence_ids: Iterable[str]) -> None:
        """Drop what is remembered of some sequences: they were erased, or others come in their place."""
        gone = set(sequence_ids)
        self._evaluations.forget(gone)
        self._timetables.forget(gone)
        self._learnt.forget({LEARNT})
        self._short.forget({LEARNT})
        _adapted.forget({CLASSES})
        self._lessons.forget({CLASSES})

    def lesson(self, room: Room, house: House, shelf: Standing) -> Lesson:
        """The lesson of a class, worked out once while it, the faces, the kits and the house are the same; how it goes is no part of it."""
        announced = replace(room, log=ClassLog(absent=room.log.absent), held=False)
        today = date.today()
        model = replace(announced, sequence=as_of(announced.sequence, today, shelf))
        key = sha256(to_json(ClassFile.of(model))).hexdigest()
        found: Lesson = self._lessons.answer(
            (CLASSES, key, house), lambda: self._heavy("class", worked_lesson, model, house)
        )
        return found

    def wears_short(self, records: Hashable, work_out: Callable[[], tuple[Short, ...]]) -> tuple[Short, ...]:
        """Where all bases wear short, worked out once while their records are the same."""
        return self._short.answer((LEARNT, records), work_out)

    def learnt(self, records: Hashable, work_out: Callable[[], Learnt]) -> Learnt:
        """What all records teach, worked out once while they, the house and the names in it are the same."""
        return self._learnt.answer((LEARNT, records), work_out)

    def evaluate(
        self,
        stored: StoredSequence,
        house: House,
        shelf: Standing,
        light: Light = "daylight",
        former: Evaluation | None = None,
    ) -> Evaluation:
        """The evaluation of a stored revision, worked out at most once while it is remembered.

        ``former`` is an evaluation made under the same house: its case is not read again, nor what the plans share worked out.
        """
        today = date.today()
        return self._evaluations.answer(
            (stored.id, stored.revision, light, house, today, shelf),
            lambda: evaluate(as_of(stored.sequence, today, shelf), house, light, former),
        )

    def timetable(
        self,
        sequence_id: str,
        revision: int,
        plan: Sequence,
        house: House,
        *,
        pace: float = 1.0,
        hands: int = 1,
        spare: tuple[Tool, ...] = (),
        timing: Timing | None = None,
    ) -> tuple[Work, Timetable]:
        """The work of a revision and its shortest timetable, for these hands, tools and moments (its own where none are given)."""
        wanted = plan if timing is None else replace(plan, timing=timing)
        work = work_of(wanted, house, pace=pace, hands=hands, spare=spare)
        moments = "" if wanted.timing is None else text_of(wanted.timing)
        key = (sequence_id, revision, pace, hands, tuple(sorted(spare)), moments, house)
        return work, self._timetables.answer(key, lambda: self._heavy("timetable", timetable, work))


@dataclass(frozen=True, slots=True)
class Standing:
    """What stands on the shelf by now: the items, and the tools."""

    items: tuple[Product, ...] = ()
    tools: tuple[OwnedTool, ...] = ()


def as_of(sequence: Sequence, day: date, shelf: Standing) -> Sequence:
    """The sequence as done on a day, where it names none, with the packs and tools on the shelf by now."""
    return replace(sequence, case=replace(with_packs(sequence.case.on(day), shelf.items), tools=shelf.tools))
