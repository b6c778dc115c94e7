"""Asked of pytest by name alone: that the clock of this process is the one that was set."""

import datetime
import os
import threading
import time

from tests.other_days import DAYS, PINNED


def test_it_is_that_moment():
    day = next(each for each in DAYS if each.words == os.environ[PINNED])
    # Midnight, or an hour of summer time, may have come since.
    since = datetime.datetime.now() - datetime.datetime.fromisoformat(day.moment)
    assert datetime.timedelta(0) <= since + datetime.timedelta(hours=1) < datetime.timedelta(hours=4)


def test_waiting_takes_as_long_as_ever():
    before = time.monotonic()
    time.sleep(0.2)
    threading.Event().wait(0.2)
    assert 0.3 < time.monotonic() - before < 5
