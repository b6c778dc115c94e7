"""Underpainted: correct, light and shade in cream, then a thin foundation, mostly in the gaps."""

from __future__ import annotations

from nabrel.core.planner import (
    conceal_stages,
    finish_stages,
    foundation_stages,
    powder_stages,
    sculpt_stages,
    skin_stages,
)
from nabrel.core.planner.accent_stages import colour, glow_at, warm
from nabrel.core.planner.draft import Draft, Share
from nabrel.core.planner.feature_stages import features_at
from nabrel.core.planner.finish_stages import will_bake
from nabrel.core.planner.schools.school import SchoolOfOrder, close_with_checks, open_with_skin, soften_and_set
from nabrel.core.terms.ids import GlowOption, Zone
from nabrel.core.terms.zones import COMPLEXION_ZONES


def plan(draft: Draft) -> None:
    """Draft an underpainted sequence."""
    foundation_stages.choose_foundation(draft, beneath=True)
    placement = draft.reading.placement
    painted = set(placement.shade.zones) | set(placement.light.zones)
    share = _mostly_in_the_gaps(draft, painted)
    glow: GlowOption = "under" if draft.case.intent.finish == "dewy" else "after_colour"
    _say_what_it_costs(draft)
    open_with_skin(draft)
    skin_stages.correct_at(draft, "before_sculpt", share)
    conceal_stages.spot_conceal_at(draft, "before_foundation", share)
    sculpt_stages.both_sculpts(draft, share, beneath=True)
    skin_stages.correct_at(draft, "after_sculpt", share)
    glow_at(draft, "under", glow)
    glow_at(draft, "mixed", glow)
    painted &= {zone for step in draft.steps if step.kind in ("light", "shade", "bronze") for zone in step.zones}
    foundation_stages.foundation(draft, share, over_sculpting=tuple(z for z in COMPLEXION_ZONES if z in painted))
    skin_stages.correct_at(draft, "after_foundation", share)
    foundation_stages.second_pass(draft)
    conceal_stages.conceal(draft)
    conceal_stages.spot_conceal_at(draft, "after_foundation", share)
    sculpt_stages.sculpt_over(draft, share)
    features_at(draft, "before_colour", waits=will_bake(draft))
    warm(draft)
    colour(draft)
    glow_at(draft, "after_colour", glow)
    soften_and_set(draft)
    finish_stages.melt_at(draft, "between_powders")
    powder_stages.in_powder(draft, shade=True)
    powder_stages.veil(draft)
    close_with_checks(draft, glow)


def _mostly_in_the_gaps(draft: Draft, painted: set[Zone]) -> Share:
    def share(zone: Zone) -> float:
        part = foundation_stages.even_share(draft, zone)
        everywhere = draft.case.intent.foundation_on == "all"
        return min(part, draft.house.over_sculpting_share) if zone in painted and not everywhere else part

    return share


def _say_what_it_costs(draft: Draft) -> None:
    oily = draft.reading.where("oily", least=2)
    if len(oily) >= draft.house.many_oily_zones:
        draft.note(
            "On oily skin oil rises through what lies beneath the foundation: press or bake the points that shine, "
            "and expect this order to hold less long here than powder sculpting."
        )
    foundation = draft.foundation
    if foundation is not None and (foundation.cover or 0.0) > draft.house.underpaint_cover_most:
        draft.note(
            f"{foundation.name} covers {100 * (foundation.cover or 0):.0f} %: it hides much of what is painted beneath it. "
            "A sheer or medium foundation lets the sculpting through."
        )


SCHOOL = SchoolOfOrder(
    id="underpainted",
    why="The sculpting glows through as if it were the skin's own, the foundation forgives its edges, and the least "
    "product is used.",
    demands="A sheer to medium foundation, shade placed darker than it should end up, and only pressing over it.",
    plan=plan,
)
