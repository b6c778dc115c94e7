"""Evaluations of stored revisions, remembered: a revision never changes, nor does what follows from it on one day."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Iterable
from dataclasses import replace
from datetime import date
from threading import Lock

from nabrel.core.house import House
from nabrel.core.judge.evaluate import Evaluation, evaluate
from nabrel.core.plan.sequence import Sequence
from nabrel.core.terms.ids import Light
from nabrel.store.repositories import KeptSequence

MOST_KEPT = 48
Key = tuple[str, int, Light, House, date]


class Remembered:
    """The newest evaluations by sequence, revision and light."""

    def __init__(self) -> None:
        self._kept: OrderedDict[Key, Evaluation] = OrderedDict()
        self._lock = Lock()

    def forget(self, sequence_ids: Iterable[str]) -> None:
        """Drop what is remembered of some sequences: they were erased."""
        gone = set(sequence_ids)
        with self._lock:
            for key in [key for key in self._kept if key[0] in gone]:
                del self._kept[key]

    def evaluate(
        self, stored: KeptSequence, house: House, light: Light = "daylight", former: Evaluation | None = None
    ) -> Evaluation:
        """The evaluation of a stored revision, worked out at most once while it is remembered.

        ``former`` is an evaluation made under the same house: its case is not read again, nor what the plans share worked out.
        """
        today = date.today()
        key: Key = (stored.id, stored.revision, light, house, today)
        with self._lock:
            found = self._kept.get(key)
            if found is not None:
                self._kept.move_to_end(key)
                return found
        sequence = on_day(stored.sequence, today)
        found = evaluate(sequence, house, light, former)
        with self._lock:
            self._kept[key] = found
            while len(self._kept) > MOST_KEPT:
                self._kept.popitem(last=False)
        return found


def on_day(sequence: Sequence, day: date) -> Sequence:
    """The sequence as done on a day, where it names none: products are judged too old by it."""
    intent = sequence.case.intent
    if intent.day is not None:
        return sequence
    return replace(sequence, case=replace(sequence.case, intent=replace(intent, day=day)))
