"""Evaluations of stored revisions, remembered: a revision never changes, so neither does what follows from it."""

from __future__ import annotations

from collections import OrderedDict
from threading import Lock

from nabrel.core.evaluate import Evaluation, evaluate
from nabrel.core.house import House
from nabrel.core.vocabulary import Light
from nabrel.store.repositories import KeptSequence

MOST_KEPT = 48
Key = tuple[str, int, Light]


class Remembered:
    """The newest evaluations by sequence, revision and light."""

    def __init__(self, house: House) -> None:
        self._house = house
        self._kept: OrderedDict[Key, Evaluation] = OrderedDict()
        self._lock = Lock()

    def evaluate(self, stored: KeptSequence, light: Light = "daylight") -> Evaluation:
        """The evaluation of a stored revision, worked out at most once while it is remembered."""
        key: Key = (stored.id, stored.revision, light)
        with self._lock:
            found = self._kept.get(key)
            if found is not None:
                self._kept.move_to_end(key)
                return found
        found = evaluate(stored.sequence, self._house, light)
        with self._lock:
            self._kept[key] = found
            while len(self._kept) > MOST_KEPT:
                self._kept.popitem(last=False)
        return found
