"""The forecast that wear is held against: of a plan as it was worked, on the day it was worn, without anything learnt.

Learning asks what a forecast is to be multiplied by in all; were a factor in it already, the records from before and after it
was taken over could not be learnt from together.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

from nabrel.core.case.intent import Climate
from nabrel.core.house import House
from nabrel.core.judge.evaluate import evaluate
from nabrel.core.learn.record import Hours
from nabrel.core.plan.sequence import Sequence
from nabrel.core.terms.ids import Zone


def forecast_hours(sequence: Sequence, house: House, climate: Climate | None = None) -> Mapping[Zone, Hours]:
    """What is forecast for each zone on which the plan does something, on a day of this climate (the plan's own if left out)."""
    if climate is not None:
        intent = replace(sequence.case.intent, climate=climate)
        sequence = replace(sequence, case=replace(sequence.case, intent=intent))
    worked = {zone for step in sequence.steps for zone in step.zones}
    found = evaluate(sequence, replace(house, factors=()), try_fixes=False).forecast
    return {
        each.zone: Hours(each.shine_hours, each.colour_hours, each.crease, each.cake)
        for each in found
        if each.zone in worked
    }
