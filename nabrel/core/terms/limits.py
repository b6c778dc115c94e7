"""What a value may be, where more than one kind of value asks for it: read by the files, the API and the schemas alike."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from annotated_types import Ge, Gt, Le
from pydantic import StringConstraints


@dataclass(frozen=True, slots=True)
class Range:
    """The least and the most that a number may be, both allowed."""

    low: float
    high: float

    def clipped(self, value: float) -> float:
        """The value, or the end of the range that it is beyond."""
        return min(max(value, self.low), self.high)


@dataclass(frozen=True, slots=True)
class Limits:
    """Every number that a person may set on a screen, with its range; screens read it from the served vocabulary.

    Named as the field is, with the unit: um and mg_cm2 are what a portion lays, drawdown_um the film drawn over black and
    white, opponent a* and b*, faces how many are mixed for or were done,
    card_percent what paper, ink or a grey gives back.
    """

    um: Range = Range(0.0, 40.0)
    mg_cm2: Range = Range(0.0, 2.0)
    wait_s: Range = Range(0.0, 7200.0)
    wear_hours: Range = Range(0.25, 24.0)
    temperature_c: Range = Range(-30.0, 50.0)
    humidity_percent: Range = Range(0.0, 100.0)
    lightness: Range = Range(0.0, 100.0)
    opponent: Range = Range(-128.0, 128.0)
    cover: Range = Range(0.01, 0.995)
    scatter_exponent: Range = Range(0.0, 4.0)
    left: Range = Range(0.0, 1.0)
    ml: Range = Range(0.001, 100_000.0)
    g: Range = Range(0.001, 100_000.0)
    price: Range = Range(0.0, 100_000.0)
    dose_ml: Range = Range(0.001, 20.0)
    keeps_months: Range = Range(1, 120)
    drawdown_um: Range = Range(1.0, 400.0)
    faces: Range = Range(1, 60)
    measure_mm: Range = Range(20.0, 400.0)
    forehead_fingers: Range = Range(0.5, 8.0)
    after_min: Range = Range(0.0, 2880.0)
    factor: Range = Range(0.1, 10.0)
    stations: Range = Range(1, 60)
    educators: Range = Range(1, 12)
    check_s: Range = Range(0.0, 1800.0)
    break_after_min: Range = Range(5.0, 600.0)
    spare: Range = Range(0.0, 2.0)
    drop_l: Range = Range(0.0, 40.0)
    drill_count: Range = Range(1, 20)
    drill_minutes: Range = Range(1, 180)
    card_percent: Range = Range(2.0, 95.0)


LIMITS = Limits()
MOST_FILM_UM = LIMITS.um.high
MOST_POWDER_MG = LIMITS.mg_cm2.high
MOST_SECONDS = LIMITS.wait_s.high
MOST_WAIT_S = 2 * MOST_SECONDS
MOST_STEPS = 80
MOST_HOURS = LIMITS.wear_hours.high
MOST_PORTIONS = 12
MOST_MIXED = 6
MOST_REASONS = 20
MOST_ACCEPTED = 200
MOST_ITEMS = 2000
"""Items of a shelf, and so of a kit, a table, and what a plan is made from."""
MOST_TOOLS = 1000
MOST_CLASSES = 2000
MOST_KITS = 500
MOST_READINGS = 5000
"""Readings of one sitter."""
MOST_SITTERS = 5000

PLAIN = r"^[^\x00-\x1f\x7f-\x9f\u2028\u2029\u202a-\u202e\u2066-\u2069\ufeff]*$"
"""One line that shows as it reads: no control characters, line breaks, byte order marks or changes of direction."""
PLAIN_LINES = PLAIN.replace(r"\x00-\x1f", r"\x00-\x09\x0b-\x1f")
"""The same over several lines."""


UNSEEN = (
    r"\s\x00-\x20\x7f-\xa0\xad\u034f\u061c\u115f\u1160\u17b4\u17b5\u180b-\u180e\u2000-\u200f\u2028-\u202f\u205f-\u206f"
    r"\u2800\u3000\u3164\ufe00-\ufe0f\ufeff\uffa0\ufff9-\ufffb"
)
"""Characters that leave nothing to see: spaces, joiners, fillers, changes of direction."""
PLAIN_SEEN = PLAIN.removesuffix("*$") + f"*[^{UNSEEN}]" + PLAIN.removeprefix("^")
"""One line of which something can be seen."""


def one_line(most: int, least: int = 0) -> StringConstraints:
    """One line of plain text, so many characters long; where some are needed, one of them at least can be seen."""
    return StringConstraints(min_length=least, max_length=most, pattern=PLAIN_SEEN if least else PLAIN)


def some_lines(most: int) -> StringConstraints:
    """Plain text that may run over several lines."""
    return StringConstraints(max_length=most, pattern=PLAIN_LINES)


Ident = Annotated[str, StringConstraints(min_length=1, max_length=60, pattern=r"^[A-Za-z0-9][A-Za-z0-9._-]*$")]
MOST_NAME = 120
"""Characters of a name or title."""
Text = Annotated[str, one_line(MOST_NAME, least=1)]
SENTENCE_MOST = 600
Sentence = Annotated[str, one_line(SENTENCE_MOST)]
Share = Annotated[float, Ge(0), Le(1)]
Seconds = Annotated[float, Ge(0), Le(MOST_SECONDS)]
LongWait = Annotated[float, Ge(0), Le(MOST_WAIT_S)]
Amount = Annotated[float, Ge(0), Le(MOST_FILM_UM)]
"""µm of dry film, or mg/cm² of powder, of which a step takes at most :data:`MOST_POWDER_MG`."""
Contrast = Annotated[float, Ge(LIMITS.cover.low), Le(LIMITS.cover.high)]
Content = Annotated[float, Gt(0), Le(LIMITS.ml.high)]
Faces = Annotated[int, Ge(int(LIMITS.faces.low)), Le(int(LIMITS.faces.high))]
Severity3 = Annotated[int, Ge(0), Le(3)]
Source = Literal["measured", "photo", "stripe", "eye", "guessed"]
BaseSource = Literal["pack", "guessed"]
"""Whether a base was read from the pack, or is what is usual."""
"""Where a colour comes from."""
