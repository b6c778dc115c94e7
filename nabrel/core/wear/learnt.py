"""What was taken over from wear records, as forecasts use it: which factors count on a zone, by what lies there."""

from __future__ import annotations

from collections.abc import Iterable, Mapping

from nabrel.core.house import House
from nabrel.core.house.factors import Factor
from nabrel.core.plan.step import Step
from nabrel.core.terms.ids import EffectAbout, Zone
from nabrel.core.terms.steps import FADING_KINDS, LAYER_KINDS, POWDER_KINDS

Laid = tuple[str | None, str | None, str | None]
"""On a zone, the last film that is no colour, the last colour, shade or glow, and the last powder: ids of items."""
BARE: Laid = (None, None, None)


def laid_by(steps: Iterable[Step]) -> Mapping[Zone, Laid]:
    """What lies on each zone on which these steps lay something."""
    found: dict[Zone, Laid] = {}
    for step in steps:
        if step.item is None or not step.lays:
            continue
        for zone in step.zones:
            wet, colour, powder = found.get(zone, BARE)
            if step.kind in FADING_KINDS:
                colour = step.item
            elif step.film_um and step.kind in LAYER_KINDS:
                wet = step.item
            if step.powder_mg and step.kind in POWDER_KINDS:
                powder = step.item
            found[zone] = (wet, colour, powder)
    return found


def items_about(about: EffectAbout, laid: Laid) -> tuple[str, ...]:
    """The items that may move a measure: the colour and its powder for hours of colour, film and powder for all else."""
    wet, colour, powder = laid
    first = colour if about == "colour_hours" else wet
    return tuple(dict.fromkeys(each for each in (first, powder) if each))


def factors_on(house: House, about: EffectAbout, sitter: str, laid: Laid) -> tuple[Factor, ...]:
    """What was taken over that counts here: for the house, for this sitter, for what lies there."""
    items = items_about(about, laid)
    return tuple(
        each
        for each in house.factors
        if each.about == about
        and (
            each.of == "house"
            or (each.of == "sitter" and each.id == sitter)
            or (each.of == "item" and each.id in items)
        )
    )
