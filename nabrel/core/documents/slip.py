"""The slip that a sitter takes along: when to look, at what, and how plainly it is seen; typed in afterwards."""

from __future__ import annotations

from dataclasses import dataclass

from nabrel.core.judge.evaluate import Evaluation
from nabrel.core.terms.signs import SIGN_INFO
from nabrel.core.terms.zones import REGION_INFO, ZONE_INFO

SECOND_LOOK = "After 20 to 30 minutes"
ASKS = (
    "Look in daylight, at arm's length. Write how plainly you see it, from 0 to 3, for each part of your face; leave empty what you did "
    "not look at."
)
CARE = "If it stings, swells or a rash comes: take it off, and ask a pharmacist or doctor. Give the slip back, or type it in yourself."


@dataclass(frozen=True, slots=True)
class SlipSign:
    """One thing that may be seen: its word and what is looked for."""

    words: str
    looks: str


@dataclass(frozen=True, slots=True)
class Slip:
    """The slip: its head, what may be seen, the parts of the face on which something lies, and the looks asked for."""

    title: str
    asks: str
    nothing: str
    grades: str
    signs: tuple[SlipSign, ...]
    regions: tuple[str, ...]
    looks: tuple[str, ...]
    care: str


def slip_of(evaluation: Evaluation) -> Slip:
    """The slip for a plan: its second look, the hour at which shine is forecast first, and the end of the hours wanted."""
    case = evaluation.sequence.case
    first, wanted = evaluation.totals.least_shine_hours, case.intent.wear_hours
    hours = sorted({round(first) or 1, round((first + wanted) / 2) or 1, round(wanted) or 1} - {0})
    worked = {zone for step in evaluation.sequence.steps for zone in step.zones}
    return Slip(
        title=f"{case.sitter.nickname}: how it wears",
        asks=ASKS,
        nothing="nothing to see",
        grades="just seen, plain, very plain",
        signs=tuple(SlipSign(row.words, row.looks) for row in SIGN_INFO.values()),
        regions=tuple(
            region.words
            for region in REGION_INFO.values()
            if any(ZONE_INFO[zone].region == region.id for zone in worked)
        ),
        looks=(SECOND_LOOK, *(f"After about {hour} h" for hour in hours if hour <= wanted)),
        care=CARE,
    )
