"""Light-led: foundation, spot concealing, cream glow on the high planes, no shade; shine muted in the recesses."""

from __future__ import annotations

from functools import partial

from nabrel.core.planner import finish_stages, foundation_stages, powder_stages, skin_stages
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
    """Draft a light-led sequence."""
    foundation_stages.choose_foundation(draft, beneath=False)
    share = partial(even_share, draft)
    _say_what_it_costs(draft)
    for zone in draft.reading.placement.shade.zones:
        draft.leave(zone, "shade", "Light-led: the recesses are muted, not shaded; real light does the sculpting.")
    open_with_skin(draft)
    skin_stages.correct_at(draft, "after_sculpt", share)
    lay_an_even_ground(draft, share, "after_colour")
    warm(draft)
    colour(draft)
    glow_at(draft, "after_colour", "after_colour")
    soften_and_set(draft, shade=False)
    powder_stages.mute_shine(draft)
    finish_stages.melt_at(draft, "between_powders")
    powder_stages.in_powder(draft, shade=False)
    powder_stages.veil(draft)
    close_with_checks(draft, "after_colour")


def _say_what_it_costs(draft: Draft) -> None:
    oily = draft.reading.where("oily", least=2)
    if len(oily) >= draft.house.many_oily_zones:
        draft.note(
            f"Oil is clear or strong on {len(oily)} zones: glow in cream slides there. It is left off them; a setting "
            "mist between layers and a powder glow pressed on top hold longer."
        )
    if not draft.reading.workable(draft.reading.placement.glow.zones):
        draft.note(
            "No plane of this face bears glow: texture or lines speak against each. Another school suits better."
        )


SCHOOL = SchoolOfOrder(
    id="light_led",
    why="It moves with real light, and works on deep skin where shade does little.",
    demands="Dry to normal skin, or setting mist between layers and a powder glow pressed on top when oily.",
    plan=plan,
)
