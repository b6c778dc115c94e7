"""Overpainted: correct, foundation, conceal and light, then shade and colour on top."""

from __future__ import annotations

from nabrel.core.plan import conceal_stages, finish_stages, foundation_stages, sculpt_stages, skin_stages
from nabrel.core.plan.draft import Draft, Share, fragile
from nabrel.core.plan.schools.school import SchoolOfOrder
from nabrel.core.vocabulary import COMPLEXION_ZONES, EDGE_ZONES, Zone


def plan(draft: Draft) -> None:
    """Draft an overpainted sequence."""
    foundation_stages.choose_foundation(draft, beneath=False)

    def share(zone: Zone) -> float:
        if zone not in COMPLEXION_ZONES and zone not in EDGE_ZONES:
            return 0.0
        part = draft.house.fragile_share if fragile(draft, zone) else 1.0
        return min(part, draft.house.edge_share) if zone in EDGE_ZONES else part

    lined = draft.reading.where("fine_lines", "creping", least=2)
    if lined:
        draft.note(
            "This order lays most films on one zone; on lined skin each is kept thinner, and the load per zone is "
            "the figure to watch."
        )
    skin_stages.skin_first(draft)
    skin_stages.prime(draft)
    skin_stages.correct(draft, share)
    foundation_stages.foundation(draft, share)
    conceal_stages.conceal(draft)
    conceal_stages.spot_conceal(draft)
    _sculpt_on_top(draft, share)
    sculpt_stages.colour(draft)
    sculpt_stages.glow(draft, beneath=False)
    finish_stages.soften_edges(draft)
    finish_stages.set_base(draft)
    finish_stages.melt(draft)
    finish_stages.fix(draft)
    finish_stages.last_checks(draft)


def _sculpt_on_top(draft: Draft, share: Share) -> None:
    first, second = ("light", "shade") if draft.case.intent.order == "light_first" else ("shade", "light")
    sculpt_stages.sculpt(draft, "light" if first == "light" else "shade", share, beneath=False)
    sculpt_stages.sculpt(draft, "shade" if second == "shade" else "light", share, beneath=False)


SCHOOL = SchoolOfOrder(
    id="overpainted",
    why="The final value is under full control, and it works with full cover.",
    demands="Everything on top must be blended and set: edges show, and it lays the most layers on one zone.",
    plan=plan,
)
