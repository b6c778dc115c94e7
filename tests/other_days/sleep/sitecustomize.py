"""Python's sleep names a moment of a clock that faketime moves, and is refused; waiting for nothing takes as long."""

import select
import time


def _sleep(seconds: float) -> None:
    select.select([], [], [], seconds)


time.sleep = _sleep
