"""Why the zones without powder have none: said of the finished plan, by its forecast."""

from __future__ import annotations

from collections.abc import Iterator

from nabrel.core.plan.sequence import LeftBare, Sequence
from nabrel.core.planner.draft import Draft
from nabrel.core.planner.texture import under_glow
from nabrel.core.terms.ids import Zone
from nabrel.core.terms.places import places
from nabrel.core.terms.zones import COMPLEXION_ZONES
from nabrel.core.wear.forecast import ZoneForecast, forecast
from nabrel.core.wear.touch_up import BLOT, BLOT_ONLY, touch_ups


def say_what_is_left_unset(draft: Draft, sequence: Sequence) -> None:
    """Why each zone got no powder, and a note where it will crease for that. Nothing where the kit has none that sets."""
    no_powder = sequence.case.intent.setting == "none"
    if not no_powder and draft.setting_powder_for(COMPLEXION_ZONES) is None:
        return
    rows = forecast(sequence, draft.reading, draft.base.course, draft.house)
    visits = touch_ups(rows, sequence, draft.reading, draft.house)
    blotted = {zone: each.hour for each in reversed(visits) if each.does in (BLOT, BLOT_ONLY) for zone in each.zones}
    by_zone = {row.zone: row for row in rows}
    creases: list[Zone] = []
    for zone in COMPLEXION_ZONES:
        if draft.powdered(zone) or draft.reading.zones[zone].left_alone or zone in draft.hidden:
            continue
        row = by_zone[zone]
        if row.film_um > 0 and row.crease > draft.house.crease_limit:
            creases.append(zone)
        why = _why(draft, row, blotted.get(zone), no_powder=no_powder, creases=zone in creases)
        draft.leave(zone, "set", why)
    if creases:
        draft.note(
            f"Left wet {places(creases)}, as asked: it is likely to crease there within hours, and looks freshest until then."
        )


def _why(draft: Draft, row: ZoneForecast, blot_h: float | None, *, no_powder: bool, creases: bool) -> str:
    comes = [
        *(["is likely to crease"] if creases else []),
        *([f"shines after about {blot_h:g} h and is blotted then"] if blot_h is not None else []),
    ]
    if no_powder:
        return "No powder was asked for." + (f" It {' and '.join(comes)}." if comes else "")
    if row.film_um <= 0:
        return "Nothing lies here that could crease."
    if under_glow(draft, row.zone):
        return "Glow lies here: powder would only dull it."
    if comes:
        return f"Left without powder under this way of setting: it {' and '.join(comes)}."
    return "Neither creases nor shines here."


def not_laid_after_all(left: list[LeftBare], sequence: Sequence) -> Iterator[LeftBare]:
    """What was left bare and stayed so: what a later step laid there after all was not left out."""
    laid = {(step.kind, zone) for step in sequence.steps for zone in step.zones}
    powdered = {zone for kind, zone in laid if kind in ("set", "bake", "mute_shine")}
    for each in left:
        if (each.kind, each.zone) not in laid and not (each.kind == "set" and each.zone in powdered):
            yield each
