"""What a school is: its reason, what it demands, its order of work, and how the planner opens and closes every one."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from nabrel.core.planner import conceal_stages, finish_stages, foundation_stages, skin_stages
from nabrel.core.planner.accent_stages import glow_at
from nabrel.core.planner.draft import Draft, Share
from nabrel.core.planner.feature_stages import features_at
from nabrel.core.planner.spare import spare_correctors
from nabrel.core.planner.texture import for_pans
from nabrel.core.terms.ids import GlowOption, School


@dataclass(frozen=True, slots=True)
class SchoolOfOrder:
    """One school: its id, why it works as it does, what it costs and demands, and the order of its stages."""

    id: School
    why: str
    demands: str
    plan: Callable[[Draft], None]


def open_with_skin(draft: Draft) -> None:
    """What every school starts with: clean, feed, prime, and what was asked for before the base."""
    skin_stages.skin_first(draft)
    features_at(draft, "before_base", waits=finish_stages.will_bake(draft))
    skin_stages.prime(draft)


def lay_an_even_ground(draft: Draft, share: Share, usual_glow: GlowOption) -> None:
    """Foundation on bare prepared skin, with what corrects and conceals before and after it.

    Brows come right after the foundation: before the colour, and before an under-eye that should not wait for powder.
    """
    skin_stages.correct_at(draft, "before_sculpt", share)
    conceal_stages.spot_conceal_at(draft, "before_foundation", share)
    glow_at(draft, "under", usual_glow)
    glow_at(draft, "mixed", usual_glow)
    foundation_stages.foundation(draft, share)
    skin_stages.correct_at(draft, "after_foundation", share)
    foundation_stages.second_pass(draft)
    features_at(draft, "before_colour", waits=finish_stages.will_bake(draft))
    conceal_stages.conceal(draft)
    conceal_stages.spot_conceal_at(draft, "after_foundation", share)


def soften_and_set(draft: Draft, *, shade: bool = True, again: bool = False) -> None:
    """Edges softened while they are wet, then powder by the policy, and a press where a pan will go.

    ``shade`` says whether the school shades, ``again`` whether its pans double what lies in cream.
    """
    # What powder is for is judged by what stays: correctors that turned out not to be needed go first.
    spare_correctors(draft)
    also = for_pans(draft, shade=shade, again=again)
    finish_stages.border_pass(draft)
    finish_stages.clean_edge(draft)
    finish_stages.soften_edges(draft)
    finish_stages.set_base(draft, also)
    features_at(draft, "after_setting", waits=finish_stages.will_bake(draft))


def close_with_checks(draft: Draft, usual_glow: GlowOption) -> None:
    """What every school ends with: mists, a last glow, hold, features, and the checks."""
    finish_stages.clean_edge(draft)
    finish_stages.melt_at(draft, "before_glow")
    glow_at(draft, "last", usual_glow)
    finish_stages.melt_at(draft, "last")
    finish_stages.fix(draft)
    finish_stages.last_checks(draft)
