"""What a forecast of hours counts on at a zone: said where it was wrong, so that one knows what to doubt."""

from __future__ import annotations

from collections.abc import Iterator

from nabrel.core.case.intent import Climate
from nabrel.core.judge.evaluate import Evaluation
from nabrel.core.terms.conditions import CONDITION_INFO
from nabrel.core.terms.ids import WearSign, Zone
from nabrel.core.wear.climate import climate_oil

A_TENTH = 0.1
"""A day that moves oil by less is a usual day."""


def drivers(evaluation: Evaluation, zone: Zone, sign: WearSign, climate: Climate) -> tuple[str, ...]:
    """What the hours until shine, or of colour, are worked out from: oil as read, powder or none, mist, thickness, the day."""
    return tuple(_drivers(evaluation, zone, sign, climate))


def _drivers(evaluation: Evaluation, zone: Zone, sign: WearSign, climate: Climate) -> Iterator[str]:
    house, here = evaluation.house, evaluation.reading.zones[zone]
    row = next(each for each in evaluation.forecast if each.zone == zone)
    oil, dryness = CONDITION_INFO["oily"].words, CONDITION_INFO["dry"].words
    if here.oily:
        yield f"{oil} {here.oily}"
    elif here.dry:
        yield f"{dryness} {here.dry}"
    else:
        yield f"neither {oil} nor {dryness} read there"
    yield f"{row.powder_mg:.2g} mg/cm² of powder" if row.powder_mg else "nothing set there"
    if sign == "fade" and any(step.kind == "setting_mist" for step in evaluation.sequence.steps):
        yield "a setting mist"
    if row.film_um > house.thick_pass_um:
        yield "a thick film"
    if abs(climate_oil(climate, house) - 1.0) > A_TENTH:
        yield f"{climate.temperature_c:.0f} °C"
