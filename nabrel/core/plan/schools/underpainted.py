"""Underpainted: correct, light and shade in cream, then a thin foundation, mostly in the gaps."""

from __future__ import annotations

from nabrel.core.plan import conceal_stages, finish_stages, foundation_stages, sculpt_stages, skin_stages
from nabrel.core.plan.draft import Draft, Share, fragile
from nabrel.core.plan.schools.school import SchoolOfOrder
from nabrel.core.vocabulary import COMPLEXION_ZONES, EDGE_ZONES, Zone


def plan(draft: Draft) -> None:
    """Draft an underpainted sequence."""
    foundation_stages.choose_foundation(draft, beneath=True)
    placement = draft.reading.placement
    painted = set(placement.shade.zones) | set(placement.light.zones)

    def share(zone: Zone) -> float:
        if zone not in COMPLEXION_ZONES and zone not in EDGE_ZONES:
            return 0.0
        part = 1.0
        if zone in painted:
            part = draft.house.over_sculpting_share
        if fragile(draft, zone):
            part = min(part, draft.house.fragile_share)
        if zone in EDGE_ZONES:
            part = min(part, draft.house.edge_share)
        return part

    _say_what_it_costs(draft)
    skin_stages.skin_first(draft)
    skin_stages.prime(draft)
    skin_stages.correct(draft, share)
    _sculpt_beneath(draft, share)
    if draft.case.intent.finish == "dewy":
        sculpt_stages.glow(draft, beneath=True)
    foundation_stages.foundation(draft, share, over_sculpting=tuple(z for z in COMPLEXION_ZONES if z in painted))
    conceal_stages.conceal(draft)
    conceal_stages.spot_conceal(draft)
    sculpt_stages.colour(draft)
    if draft.case.intent.finish != "dewy":
        sculpt_stages.glow(draft, beneath=False)
    finish_stages.soften_edges(draft)
    finish_stages.set_base(draft)
    finish_stages.melt(draft)
    finish_stages.fix(draft)
    finish_stages.last_checks(draft)


def _sculpt_beneath(draft: Draft, share: Share) -> None:
    if draft.case.intent.order == "light_first":
        sculpt_stages.sculpt(draft, "light", share, beneath=True)
        sculpt_stages.sculpt(draft, "shade", share, beneath=True)
    else:
        sculpt_stages.sculpt(draft, "shade", share, beneath=True)
        sculpt_stages.sculpt(draft, "light", share, beneath=True)


def _say_what_it_costs(draft: Draft) -> None:
    oily = draft.reading.where("oily", least=2)
    if len(oily) >= 6:
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
