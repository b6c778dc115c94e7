"""What is under way with the whole workspace: how far it has come, and that it may be cancelled."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from threading import Lock
from typing import Literal, TypeVar

from nabrel.core.errors import Told
from nabrel.store.folder import Unusable

Work = Literal["export", "preview", "import"]
Each = TypeVar("Each")


class Cancelled(Told):
    """Somebody cancelled what was under way."""

    def __init__(self) -> None:
        super().__init__("request", "It was cancelled.", "Nothing was changed.")


@dataclass(frozen=True, slots=True)
class Progress:
    """What is under way (None: nothing), and how many of how many sitters it is done with."""

    what: Work | None = None
    done: int = 0
    of: int = 0


class UnderWay:
    """One export or import at a time: its progress, and a way to cancel it from another request."""

    def __init__(self) -> None:
        self._alone = Lock()
        self._progress = Progress()
        self._cancelled = False

    @property
    def progress(self) -> Progress:
        """How far it has come."""
        return self._progress

    @contextmanager
    def begin(self, what: Work) -> Iterator[None]:
        """Do one thing; a second at the same time is refused, and may be tried again."""
        if not self._alone.acquire(blocking=False):
            raise Unusable("Another export or import is under way.", "Wait until it has ended, then try again.")
        try:
            self._cancelled, self._progress = False, Progress(what)
            yield
        finally:
            self._progress = Progress()
            self._alone.release()

    def expect(self, more: int) -> None:
        """So many sitters more will go by."""
        now = self._progress
        self._progress = Progress(now.what, now.done, now.of + more)

    def follow(self, people: Iterable[Each]) -> Iterator[Each]:
        """The same people, counted as they go by. Refuses to go on once it is cancelled."""
        for each in people:
            if self._cancelled:
                raise Cancelled
            yield each
            now = self._progress
            self._progress = Progress(now.what, now.done + 1, now.of)

    def cancel(self) -> None:
        """Stop at the next sitter. What has come to its end is not undone."""
        self._cancelled = True
