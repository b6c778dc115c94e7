"""How a base wore: looks at it hours after it was put on, each zone seen or not, and what was seen there."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import datetime
from typing import Annotated

from annotated_types import Ge, Le, MaxLen

from nabrel.core.errors import Refused
from nabrel.core.film.spectra import surface
from nabrel.core.plan.sequence import Sequence
from nabrel.core.terms.colour import Lab
from nabrel.core.terms.ids import Light, WearSign, Zone
from nabrel.core.terms.limits import LIMITS, Sentence, one_line
from nabrel.core.terms.places import places
from nabrel.core.terms.signs import SIGN_INFO
from nabrel.core.terms.words import sentence
from nabrel.core.terms.zones import in_order

MOST_LOOKS, LONGEST_DAY_MIN = 60, LIMITS.after_min.high
GRADES = 3
Grade = Annotated[int, Ge(0), Le(GRADES)]
"""How plainly a sign is seen: 0 nothing, 3 plainly."""


@dataclass(frozen=True, slots=True)
class Look:
    """One look at a base, so many minutes after it was put on.

    A zone in ``seen`` and not in ``zones`` showed nothing; a zone in neither was not looked at. ``photo`` names a picture that
    lies beside the record. ``colours`` are what a colour reader read then, L*a*b*, where one was at hand.
    """

    after_min: Annotated[float, Ge(0), Le(LONGEST_DAY_MIN)]
    light: Light = "daylight"
    seen: Annotated[tuple[Zone, ...], MaxLen(100)] = ()
    zones: Mapping[Zone, Mapping[WearSign, Grade]] = field(default_factory=dict)
    note: Sentence = ""
    next_time: Sentence = ""
    photo: Annotated[str, one_line(200)] = ""
    colours: Mapping[Zone, Lab] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class Hours:
    """What was forecast for a zone: hours to shine and hours of colour (None where nothing fades there), crease and cake."""

    shine_hours: float
    colour_hours: float | None = None
    crease: float = 0.0
    cake: float = 0.0


@dataclass(frozen=True)
class WornBase:
    """One base as it was worn: whose, in which school, with what on each zone, what was forecast, and every look at it.

    ``from_`` is the moment at which it was put on, where it is known.
    """

    sitter: str
    sequence: Sequence
    forecast: Mapping[Zone, Hours]
    looks: tuple[Look, ...]
    from_: datetime | None = None


def look_says(look: Look) -> str:
    """What was seen at a look, by sign and grade with the shortest true places: "shine 2 on the T-zone; creases 1 under both eyes"."""
    by_sign: dict[tuple[WearSign, int], list[Zone]] = {}
    for zone, signs in look.zones.items():
        for sign, grade in signs.items():
            if grade:
                by_sign.setdefault((sign, grade), []).append(zone)
    order = list(SIGN_INFO)
    rows = sorted(by_sign.items(), key=lambda row: (order.index(row[0][0]), -row[0][1]))
    said = [f"{SIGN_INFO[sign].words.lower()} {grade} {places(in_order(zones))}" for (sign, grade), zones in rows]
    if said:
        return sentence("; ".join(said)) + "."
    return "Nothing to see." if look.seen else ""


def checked_looks(looks: tuple[Look, ...], sequence: Sequence) -> tuple[Look, ...]:
    """Looks that can be, in the order of time. Refuses two at the same minute, and zones on which the plan does nothing."""
    worked = {zone for step in sequence.steps for zone in step.zones}
    if len(looks) > MOST_LOOKS:
        raise Refused("looks", len(looks), f"at most {MOST_LOOKS}")
    for place, look in enumerate(looks):
        if any(other.after_min == look.after_min for other in looks[:place]):
            raise Refused(f"looks[{place}].after_min", look.after_min, "a minute at which nobody looked yet")
        for zone in (*look.seen, *look.zones):
            if zone not in worked:
                raise Refused(f"looks[{place}].zones", zone, "zones on which the plan does something")
        for zone, lab in look.colours.items():
            surface(lab, f"looks[{place}].colours.{zone}")
    return tuple(sorted(looks, key=lambda look: look.after_min))
