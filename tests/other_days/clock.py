"""Asked of pytest by name alone: that the clock of this process is the one that was set."""

import datetime
import os
import threading
import time

from tests.other_days import DAYS, PINNED


def test_today_is_that_day():
    day = next(each for each in DAYS if each.words == os.environ[PINNED])
    assert datetime.datetime.now().isoformat(" ")[:10] == day.moment[:10]


def test_waiting_takes_as_long_as_ever():
    before = time.monotonic()
    time.sleep(0.2)
    threading.Event().wait(0.2)
    assert 0.3 < time.monotonic() - before < 5
