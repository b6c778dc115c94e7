"""Overpainted: correct, foundation, conceal and light, then shade and colour on top."""

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


def plan(draft: Draft) -> None:
    """Draft an overpainted sequence."""
    foundation_stages.choose_foundation(draft, beneath=False)
    share = partial(even_share, draft)
    if draft.reading.where("fine_lines", "creping", least=2):
        draft.note("This order lays the most films on one zone: on lined skin each is kept thin. Watch the load.")
    open_with_skin(draft)
    lay_an_even_ground(draft, share, "after_colour")
    sculpt_stages.both_sculpts(draft, share, beneath=False)
    skin_stages.correct_at(draft, "after_sculpt", share)
    warm(draft)
    colour(draft)
    glow_at(draft, "after_colour", "after_colour")
    soften_and_set(draft)
    finish_stages.melt_at(draft, "between_powders")
    powder_stages.in_powder(draft, shade=True)
    powder_stages.veil(draft)
    close_with_checks(draft, "after_colour")


SCHOOL = SchoolOfOrder(
    id="overpainted",
    why="The final value is under full control, and it works with full cover.",
    demands="Everything on top must be blended and set: edges show, and it lays the most layers on one zone.",
    plan=plan,
)
