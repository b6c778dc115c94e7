"""What somebody has waiting or worked on: how many are before it, since when, and cancelling it."""

from __future__ import annotations

import time

from nabrel.formats.values import filled
from nabrel.store.versions import Missing
from nabrel.web.shared import wire as w
from nabrel.web.shared.endpoints import Endpoints
from nabrel.web.shared.heavy import WORDS, What
from nabrel.web.shared.requests import owner, workers

waiting = Endpoints("waiting", __name__, url_prefix="/api/waiting", tag="home")


class JobWire(w.AnswerModel):
    """One piece of work: what it is in words, how many are worked on or wait before it, and since when."""

    id: str
    what: What
    words: str
    before: int
    working: bool
    seconds: int


class JobList(w.AnswerModel):
    """Work of whoever asks, the oldest first."""

    jobs: list[JobWire]


@waiting.get("", "waiting")
def get_waiting() -> JobList:
    """What is worked on for whoever asks."""
    return _jobs()


@waiting.delete("/<id>", "cancel_waiting")
def delete_waiting(path: w.IdPath) -> JobList:
    """Cancel one: its own request is then refused, and nothing is changed."""
    if not workers().cancel(owner(), path.id):
        raise Missing("id", path.id, "the id of something that is worked on for you")
    return _jobs()


def _jobs() -> JobList:
    now = time.monotonic()
    return JobList(
        jobs=[
            filled(
                JobWire, job, words=WORDS[job.what], before=0 if job.working else place, seconds=int(now - job.since)
            )
            for job, place in workers().jobs(owner())
        ]
    )
