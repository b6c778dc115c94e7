"""Long work that is under way: how far it has come, and that it may be cancelled."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from threading import Lock
from typing import Literal, Protocol, TypeVar

from nabrel.core.errors import Told
from nabrel.store.folder import Unusable

Work = Literal["export", "preview", "import", "handouts"]
Each = TypeVar("Each")


class Cancelled(Told):
    """Somebody cancelled what was under way."""

    def __init__(self) -> None:
        super().__init__("request", "It was cancelled.", "Nothing was changed.")


@dataclass(frozen=True, slots=True)
class WorkProgress:
    """What is under way (None: nothing), and how many of how many people it is done with."""

    what: Work | None = None
    done: int = 0
    of: int = 0


class ProgressReport(Protocol):
    """How work tells how far it has come: one more, or that ``of`` more will go by."""

    def __call__(self, of: int = 0) -> None:
        """Tell it."""


def follow(people: Iterable[Each], step: ProgressReport) -> Iterator[Each]:
    """The same people, counted as they go by."""
    for each in people:
        yield each
        step()


class UnderWay:
    """One such work at a time: its progress, and a way to cancel it from another request. ``busy`` is what a second one is told."""

    def __init__(self, busy: str = "Another export or import is under way.") -> None:
        self._busy = busy
        self._alone = Lock()
        self._progress = WorkProgress()
        self._cancelled = False

    @property
    def progress(self) -> WorkProgress:
        """How far it has come."""
        return self._progress

    @contextmanager
    def begin(self, what: Work) -> Iterator[None]:
        """Do one thing; a second at the same time is refused, and may be tried again."""
        if not self._alone.acquire(blocking=False):
            raise Unusable(self._busy, "Wait until it has ended, then try again.")
        try:
            self._cancelled, self._progress = False, WorkProgress(what)
            yield
        finally:
            self._progress = WorkProgress()
            self._alone.release()

    def expect(self, more: int) -> None:
        """So many people more will go by."""
        now = self._progress
        self._progress = WorkProgress(now.what, now.done, now.of + more)

    def step(self, of: int = 0) -> None:
        """One of the people went by; with ``of`` none did yet, and so many more will. Refuses to go on once it is cancelled."""
        if of:
            self.expect(of)
        else:
            self.count()
        self.go_on()

    @property
    def cancelled(self) -> bool:
        """Whether somebody cancelled it."""
        return self._cancelled

    def come_to(self, done: int, of: int = 0) -> None:
        """So many are done by now, of so many where that is told."""
        now = self._progress
        self._progress = WorkProgress(now.what, done, of or now.of)

    def count(self) -> None:
        """One more is done."""
        now = self._progress
        self._progress = WorkProgress(now.what, now.done + 1, now.of)

    def go_on(self) -> None:
        """Refuse to go on once it is cancelled."""
        if self._cancelled:
            raise Cancelled

    def cancel(self) -> None:
        """Stop at the next of them. What has come to its end is not undone."""
        self._cancelled = True
