"""The line that tells how long the tests took at the speed of the machine."""

from __future__ import annotations

import pytest

from tests.pace import EVERY, Pace, told


def test_the_time_of_a_run_is_told_in_yardsticks():
    assert told(480.0, [0.0004, 0.0005, 0.0021]).startswith("480 s are 960 thousand yardsticks of 0.50 ms")


@pytest.mark.parametrize("tests", [EVERY - 1, EVERY, 3 * EVERY])
def test_a_yardstick_is_taken_after_every_tenth_test(tests: int):
    pace = Pace()
    for _ in range(tests):
        pace.pytest_runtest_teardown()
    assert len(pace.taken) == tests // EVERY
    assert all(taken > 0 for taken in pace.taken)
