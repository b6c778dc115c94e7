"""Doubled: a cream sculpt, set, then the same sculpt again lightly in powder."""

from __future__ import annotations

from functools import partial

from nabrel.core.planner import finish_stages, foundation_stages, powder_stages, sculpt_stages, skin_stages
from nabrel.core.planner.accent_stages import colour, glow_at, warm
from nabrel.core.planner.draft import Draft
from nabrel.core.planner.foundation_stages import even_share
from nabrel.core.planner.schools.school import (
    SchoolOfOrder,
    close_with_checks,
    lay_an_even_ground,
    open_with_skin,
    soften_and_set,
)
from nabrel.core.planner.texture import is_even, laid, pans


def plan(draft: Draft) -> None:
    """Draft a doubled sequence."""
    foundation_stages.choose_foundation(draft, beneath=False)
    share = partial(even_share, draft)
    # With nothing to double it, the cream carries the whole step.
    shaded = draft.reading.placement.shade.zones
    doubles = bool(pans(draft, "shade")) and draft.setting_powder_for(shaded) is not None
    doubles = doubles and all(is_even(draft, zone) for zone in shaded)
    part = draft.house.doubled_share if doubles else 1.0
    if draft.case.intent.viewing == "in_person":
        draft.note("Two films lie on every sculpted zone: longest wear, and it shows at arm's length.")
    open_with_skin(draft)
    lay_an_even_ground(draft, share, "last")
    sculpt_stages.both_sculpts(draft, share, beneath=False, part_wanted=part)
    skin_stages.correct_at(draft, "after_sculpt", share)
    warm(draft)
    colour(draft)
    glow_at(draft, "after_colour", "last")
    soften_and_set(draft, again=True)
    powder_stages.shade_in_powder(draft, part_wanted=1.0 - part if laid(draft, "shade") else 1.0)
    finish_stages.melt_at(draft, "between_powders")
    powder_stages.bronze_in_powder(draft)
    powder_stages.colour_in_powder(draft, lightly=laid(draft, "colour"))
    powder_stages.veil(draft)
    close_with_checks(draft, "last")


SCHOOL = SchoolOfOrder(
    id="doubled",
    why="The longest wear; for camera and stage.",
    demands="Two films per zone; shade one to two steps only in the cream.",
    plan=plan,
)
