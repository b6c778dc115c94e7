"""Heavy work in processes of its own, so that reading goes on beside it: a few at a time, a short queue, a share for everybody.

What is worked out is a function of the core or the formats with values in and out; the application's own process waits for it in a
thread. A full queue is answered 503 with when to try again; whoever asked can cancel, and who has gone is not worked for.
"""

from __future__ import annotations

import contextlib
import multiprocessing
import os
import secrets
import signal
import sys
import time
from collections.abc import Callable, Iterator
from concurrent.futures import Future, ThreadPoolExecutor
from concurrent.futures import TimeoutError as NotYet
from dataclasses import dataclass, field
from multiprocessing.connection import wait
from pathlib import Path
from tempfile import TemporaryDirectory
from threading import Event, Lock, Thread
from typing import Any, Literal, Protocol, TypeVar, get_args

from pebble import ProcessExpired, ProcessPool

from nabrel.core.errors import Told
from nabrel.store.folder import Unusable
from nabrel.web.shared.under_way import Cancelled, UnderWay

Answer = TypeVar("Answer")
What = Literal[
    "paper", "handouts", "schools", "timetable", "class", "exercise", "export", "preview", "import", "how sure", "picture", "learning",
    "candidates", "shortening", "other skins",
]  # fmt: skip
WORDS: dict[What, str] = {
    "paper": "exercises on paper", "handouts": "handouts", "schools": "all schools on this face", "timetable": "a timetable",
    "class": "a class", "exercise": "an exercise", "export": "an export", "preview": "a look into a file", "import": "an import",
    "how sure": "how sure this is", "picture": "a picture", "learning": "what wear teaches", "candidates": "candidates side by side",
    "shortening": "what would shorten it", "other skins": "a plan on other skins",
}  # fmt: skip
WORKERS = 2
MOST_QUEUED = 10
"""What is worked on and what waits, of everybody."""
MOST_OF_ONE = 4
"""Of one account or address, where others could be waiting too."""
MOST_S = 900.0
"""Nothing takes longer."""
MOST_TASKS = 60
"""A process that has done so much makes room for a new one: papers and pictures leave memory behind."""
RETRY_S = 3
NICE = 10
LOOK_S = 0.1


class Busy(Told):
    """As much is being worked on as there is room for."""

    retry_s = RETRY_S

    def __init__(self) -> None:
        super().__init__("request", "Nabrel is busy with other work.", "It is tried again in a moment.")


@dataclass
class Job:
    """One piece of work: what it is, whose, since when, and whether it has begun."""

    what: What
    owner: str
    id: str = field(default_factory=lambda: secrets.token_hex(8))
    since: float = field(default_factory=time.monotonic)
    working: bool = False
    cancelled: bool = False


class Heavy(Protocol):
    """Where heavy work is done."""

    def run(
        self,
        what: What,
        owner: str,
        gone: Event | None,
        function: Callable[..., Answer],
        *arguments: object,
        way: UnderWay | None = None,
    ) -> Answer:
        """The answer of a function. With ``way`` the function is also given ``step``, to call as it comes along."""

    def ahead(self, function: Callable[..., Answer], *arguments: object) -> Future[Answer]:
        """Have something worked out that will be asked for soon, where there is nothing else to do."""

    def jobs(self, owner: str) -> list[tuple[Job, int]]:
        """What somebody has waiting or worked on, with how many are before each."""

    def cancel(self, owner: str, job_id: str) -> bool:
        """Cancel one of somebody's; whether it was there."""

    def forget(self) -> None:
        """Keep nothing in memory of what was worked on: somebody was erased."""


class Here:
    """Heavy work done at once in the thread that asks: for tests, and wherever nobody else waits."""

    def run(
        self,
        what: What,  # noqa: ARG002
        owner: str,  # noqa: ARG002
        gone: Event | None,  # noqa: ARG002
        function: Callable[..., Answer],
        *arguments: object,
        way: UnderWay | None = None,
    ) -> Answer:
        """The answer of a function."""
        return function(*arguments) if way is None else function(*arguments, step=way.step)

    def ahead(self, function: Callable[..., Answer], *arguments: object) -> Future[Answer]:
        """It is begun in a thread."""
        return _thread().submit(function, *arguments)

    def jobs(self, owner: str) -> list[tuple[Job, int]]:  # noqa: ARG002
        """Nothing ever waits."""
        return []

    def cancel(self, owner: str, job_id: str) -> bool:  # noqa: ARG002
        """Nothing can be cancelled."""
        return False

    def forget(self) -> None:
        """Nothing is kept."""


_threads: list[ThreadPoolExecutor] = []


def _thread() -> ThreadPoolExecutor:
    if not _threads:
        _threads.append(ThreadPoolExecutor(1, "ahead"))
    return _threads[0]


class Processes:
    """Heavy work in a few processes, which give way to the server itself."""

    def __init__(self, workers: int = WORKERS) -> None:
        self._workers = workers
        self._jobs: dict[str, Job] = {}
        self._lock = Lock()
        self._pool: Any = None
        self._closing = Event()
        self._told = TemporaryDirectory(prefix="nabrel-")

    def run(
        self,
        what: What,
        owner: str,
        gone: Event | None,
        function: Callable[..., Answer],
        *arguments: object,
        way: UnderWay | None = None,
    ) -> Answer:
        """The answer of a function, worked out in another process. Refuses more than there is room for, and what was cancelled."""
        with self._admitted(what, owner) as job:
            told = Path(self._told.name) / job.id if way is not None else None
            future = self._scheduled(_worked, function, arguments, told)
            try:
                answer: Answer = self._awaited(job, future, gone, way, told)
                return answer
            finally:
                if told is not None:
                    told.unlink(missing_ok=True)

    def _awaited(self, job: Job, future: Any, gone: Event | None, way: UnderWay | None, told: Path | None) -> Any:
        while True:
            try:
                answer = future.result(LOOK_S)
                if way is not None and told is not None:
                    way.come_to(*_steps(told))
                return answer
            except NotYet:
                if future.done():
                    raise Unusable("This took too long, and was ended.", "Ask for less at once.") from None
            except ProcessExpired:
                raise Unusable("What worked on it came to an end.", "Try again.") from None
            job.working = future.running()
            if way is not None and told is not None:
                way.come_to(*_steps(told))
            if job.cancelled or (gone is not None and gone.is_set()) or (way is not None and way.cancelled):
                future.cancel()
                raise Cancelled
            if self._closing.is_set():
                future.cancel()
                raise Unusable("Nabrel is being closed.", "Ask again once it is open.")

    def ahead(self, function: Callable[..., Answer], *arguments: object) -> Future[Answer]:
        """Have something worked out that will be asked for soon; where others wait it is not begun."""
        with self._lock:
            if len(self._jobs) >= self._workers:
                nothing: Future[Answer] = Future()
                nothing.cancel()
                return nothing
        made: Future[Answer] = self._scheduled(_worked, function, arguments, None)
        return made

    @contextlib.contextmanager
    def _admitted(self, what: What, owner: str) -> Iterator[Job]:
        job = Job(what, owner)
        with self._lock:
            own = sum(each.owner == owner for each in self._jobs.values())
            if len(self._jobs) >= MOST_QUEUED or own >= MOST_OF_ONE:
                raise Busy
            self._jobs[job.id] = job
        try:
            yield job
        finally:
            with self._lock:
                del self._jobs[job.id]

    def _scheduled(self, work: Callable[..., object], *arguments: object) -> Any:
        with self._lock:
            if self._pool is None:
                self._pool = ProcessPool(
                    max_workers=self._workers, max_tasks=MOST_TASKS, initializer=_settle_in, context=_context()
                )
            return self._pool.schedule(work, args=arguments, timeout=MOST_S)

    def warm_up(self) -> None:
        """Have the processes ready before anybody asks."""
        for _ in range(self._workers):
            self._scheduled(_worked, time.sleep, (0.2,), None)

    def jobs(self, owner: str) -> list[tuple[Job, int]]:
        """What somebody has waiting or worked on, oldest first."""
        with self._lock:
            ordered = sorted(self._jobs.values(), key=lambda job: (not job.working, job.since))
        return [(job, place) for place, job in enumerate(ordered) if job.owner == owner]

    def cancel(self, owner: str, job_id: str) -> bool:
        """Cancel one of somebody's: its own request is refused, and its process ended."""
        with self._lock:
            job = self._jobs.get(job_id)
            if job is None or job.owner != owner:
                return False
            job.cancelled = True
            return True

    def forget(self) -> None:
        """Have processes end once they have done what they are at; new ones know of nothing."""
        with self._lock:
            old, self._pool = self._pool, None
        if old is not None:
            old.close()

    def refuse(self) -> None:
        """Refuse whatever is not worked out by now: there is no time left for it."""
        self._closing.set()

    def close(self) -> None:
        """End the processes, and what they are at."""
        self.refuse()
        with self._lock:
            old, self._pool = self._pool, None
        if old is not None:
            old.stop()
            old.join()
        self._told.cleanup()


def _context() -> multiprocessing.context.BaseContext:
    """New processes come from one that never had a thread or a database open."""
    if sys.platform == "win32":
        return multiprocessing.get_context("spawn")
    found = multiprocessing.get_context("forkserver")
    found.set_forkserver_preload(["nabrel.web.app"])
    return found


def _settle_in() -> None:
    """In a new process: give way to the server, leave signals to it, and end where it ends."""
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    signal.signal(signal.SIGTERM, signal.SIG_DFL)
    if hasattr(os, "nice"):
        os.nice(NICE)
    _end_with_the_server()


def _end_with_the_server() -> None:
    """End at once where the server ends, however it does: what nobody waits for any more must change nothing, least of all once another
    server has begun on the same folder.
    """
    server = multiprocessing.parent_process()
    assert server is not None

    def watch() -> None:
        wait([server.sentinel])
        os._exit(1)

    Thread(target=watch, name="watch", daemon=True).start()


def _worked(function: Callable[..., Answer], arguments: tuple[object, ...], told: Path | None) -> Answer:
    if told is None:
        return function(*arguments)
    done = expected = 0

    def step(of: int = 0) -> None:
        nonlocal done, expected
        done, expected = (done, expected + of) if of else (done + 1, expected)
        told.write_text(f"{done} {expected}", encoding="ascii")

    return function(*arguments, step=step)


def _steps(told: Path) -> tuple[int, int]:
    """How many steps were told, of how many."""
    try:
        said = told.read_text(encoding="ascii").split()
    except OSError:
        said = []
    return (int(said[0]), int(said[1])) if len(said) == 2 else (0, 0)


assert set(WORDS) == set(get_args(What))
