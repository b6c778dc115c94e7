"""Two-tone: concealing, a paler foundation on the middle of the face, a deeper one around it, then light."""

from __future__ import annotations

from functools import partial

from nabrel.core.case.product import Product
from nabrel.core.planner import (
    conceal_stages,
    finish_stages,
    foundation_stages,
    powder_stages,
    sculpt_stages,
    skin_stages,
)
from nabrel.core.planner.accent_stages import colour, glow_at, warm
from nabrel.core.planner.draft import Draft, Share, fragile
from nabrel.core.planner.feature_stages import features_at
from nabrel.core.planner.finish_stages import will_bake
from nabrel.core.planner.foundation_stages import even_share, lay_foundation, rolled_out, spread, thinly
from nabrel.core.planner.schools.school import SchoolOfOrder, close_with_checks, open_with_skin, soften_and_set
from nabrel.core.terms.ids import Zone
from nabrel.core.terms.zones import COMPLEXION_ZONES, EDGE_ZONES, both

AROUND: tuple[Zone, ...] = both("temple", "cheekbone", "cheek_hollow")
"""Zones of the complexion that the deeper foundation frames; edges and neck follow it."""


def plan(draft: Draft) -> None:
    """Draft a two-tone sequence."""
    deeper = foundation_stages.choose_two(draft)
    share = partial(even_share, draft)
    open_with_skin(draft)
    skin_stages.correct_at(draft, "before_sculpt", share)
    conceal_stages.conceal(draft, share)
    conceal_stages.spot_conceal_at(draft, "before_foundation", share)
    glow_at(draft, "under", "after_colour")
    glow_at(draft, "mixed", "after_colour")
    _two_foundations(draft, deeper, share)
    skin_stages.correct_at(draft, "after_foundation", share)
    foundation_stages.second_pass(draft)
    conceal_stages.spot_conceal_at(draft, "after_foundation", share)
    sculpt_stages.sculpt(draft, "light", share, beneath=False)
    skin_stages.correct_at(draft, "after_sculpt", share)
    features_at(draft, "before_colour", waits=will_bake(draft))
    warm(draft)
    colour(draft)
    glow_at(draft, "after_colour", "after_colour")
    soften_and_set(draft, shade=False)
    finish_stages.melt_at(draft, "between_powders")
    powder_stages.in_powder(draft, shade=False)
    powder_stages.veil(draft)
    close_with_checks(draft, "after_colour")


def _two_foundations(draft: Draft, deeper: Product | None, share: Share) -> None:
    paler = draft.foundation
    if paler is None:
        return
    if deeper is None:
        draft.missing(
            "the deeper foundation", f"one about two shades deeper than {paler.name}, of the same base and cover"
        )
        foundation_stages.foundation(draft, share)
        return
    middle = [z for z in COMPLEXION_ZONES if z not in AROUND]
    sound = [z for z in middle if not fragile(draft, z)]
    delicate = [z for z in middle if fragile(draft, z)]
    lay_foundation(
        draft,
        paler,
        [*spread(draft, sound, share), *spread(draft, delicate, share, partial(thinly, draft))],
        [f"{paler.name}, the paler of two, brings the middle of the face forward."],
        "Even, and still skin.",
    )
    neck = "The neck is matched to the deeper of the two."
    lay_foundation(
        draft,
        deeper,
        [*spread(draft, AROUND, share), *rolled_out(draft, EDGE_ZONES, share, neck)],
        [
            f"{deeper.name} around it sets the sides back; where the two meet they are pressed into each other, so "
            "that there is no line to blend."
        ],
        "No border between the two, and none at jaw, hairline or ears.",
    )


SCHOOL = SchoolOfOrder(
    id="two_tone",
    why="Two foundations do the work of foundation, light and shade: few products, and nothing to blend out.",
    demands="Two well-chosen shades of one base, and the neck matched to the deeper one.",
    plan=plan,
)
