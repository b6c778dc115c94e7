"""A sample of the tests on other days, the clock itself among them: what is dated passes whenever it runs. All of them: ``python -m tests.other_days``."""

from __future__ import annotations

import os

import pytest

from tests.other_days import DAYS, PINNED, run_on

SAMPLE = (
    "tests/web/test_two_people.py::test_a_reading_makes_an_older_record_stale_and_is_taken_out_once",
    "tests/web/test_runs.py::test_a_plan_goes_into_a_calendar_on_the_clock_of_whoever_asks",
    "tests/web/test_short_address.py::test_the_short_address_leads_to_the_plan_and_to_what_is_worn_today",
    "tests/store/test_backups.py::test_an_older_database_is_backed_up_before_it_is_migrated",
    "tests/store/test_accounts.py::test_a_sign_in_ends_when_it_is_idle_or_old",
    "tests/other_days/clock.py",
)


@pytest.mark.skipif(PINNED in os.environ, reason="the clock is set already")
@pytest.mark.parametrize("day", DAYS, ids=lambda day: day.words)
def test_what_is_dated_passes_on_another_day(day):
    found = run_on(day, SAMPLE, "-p", "no:xdist")
    assert found.returncode == 0, found.stdout[-4000:] + found.stderr[-2000:]
    assert found.stdout.count(".") > len(SAMPLE)
