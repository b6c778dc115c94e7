"""Words put together as in speech."""

from __future__ import annotations

from collections.abc import Iterable
from math import ceil


def join_words(words: Iterable[str], by: str = "and") -> str:
    """Words joined as in speech: "a, b and c", or ``by`` another word."""
    listed = list(words)
    if len(listed) <= 1:
        return "".join(listed)
    return ", ".join(listed[:-1]) + f" {by} {listed[-1]}"


def sentence(text: str) -> str:
    """The text with a capital first letter; the rest untouched."""
    return text[:1].upper() + text[1:]


def lead(evidence: str) -> str:
    """Evidence as the start of a sentence, "Creping 2 under both eyes: ", or nothing."""
    return f"{sentence(evidence)}: " if evidence else ""


SHARES: tuple[tuple[float, str], ...] = (
    (0.1, "a tenth"), (0.2, "a fifth"), (0.25, "a quarter"), (1 / 3, "a third"), (0.4, "two fifths"), (0.5, "half"),
    (0.6, "three fifths"), (2 / 3, "two thirds"), (0.75, "three quarters"),
)  # fmt: skip


def counted(count: int, what: str) -> str:
    """ "1 look", "12 looks"."""
    return f"{count} {what}" if count == 1 else f"{count} {what}s"


def share_words(share: float) -> str:
    """A share as a person says it: "a third"."""
    return min(SHARES, key=lambda row: abs(row[0] - share))[1]


_APART: tuple[tuple[float, str], ...] = ((1.0, "not visibly"), (2.0, "hardly"), (4.0, "a little"), (8.0, "plainly"))
"""Up to these ΔE00 two colours are apart by so much to an eye: 1 is what it can just tell."""


def apart(de: float) -> str:
    """How far a colour is off another to an eye, as an adverb: "hardly", "plainly"; ``de`` in ΔE00."""
    return next((words for most, words in _APART if de < most), "strongly")


def apart_then(before: float, after: float) -> str:
    """How far off it is and how far with it: "plainly off the complexion, with it hardly"; "less so" for the same word."""
    then = apart(after) if apart(after) != apart(before) else "less so"
    return f"{'a trace' if apart(before) == 'hardly' else apart(before)} off the complexion, with it {then}"


SECONDS_A_MINUTE, TOLD_GRAIN_S = 60, 5
SECOND_DIGITS = 6
"""Digits of a second within which two waits are the same."""
WAIT_GRAINS = ((60, 5), (300, 15))
"""Up to so many seconds, a wait is told in steps of so many; beyond, in whole minutes."""


def spoken(seconds: float) -> str:
    """A time as it is spoken: "a minute", "45 s", "2 min 30 s"."""
    minutes, rest = divmod(TOLD_GRAIN_S * round(seconds / TOLD_GRAIN_S), SECONDS_A_MINUTE)
    if not minutes:
        return f"{rest} s"
    if not rest:
        return "a minute" if minutes == 1 else f"{minutes} min"
    return f"{minutes} min {rest} s"


def waited(seconds: float) -> float:
    """A wait as a person keeps it, never less than asked for: to 5 s within a minute, to 15 s within five, then to the minute."""
    grain = next((grain for most, grain in WAIT_GRAINS if seconds <= most), SECONDS_A_MINUTE)
    return float(grain * ceil(round(seconds, SECOND_DIGITS) / grain))
