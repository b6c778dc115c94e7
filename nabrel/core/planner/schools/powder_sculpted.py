"""Powder-sculpted: foundation, light, set; then shade, bronze, colour and glow all in powder."""

from __future__ import annotations

from functools import partial

from nabrel.core.planner import finish_stages, foundation_stages, powder_stages, sculpt_stages, skin_stages
from nabrel.core.planner.accent_stages import glow_at
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
    """Draft a powder-sculpted sequence."""
    foundation_stages.choose_foundation(draft, beneath=False)
    share = partial(even_share, draft)
    _say_what_it_costs(draft)
    open_with_skin(draft)
    lay_an_even_ground(draft, share, "last")
    sculpt_stages.sculpt(draft, "light", share, beneath=False)
    skin_stages.correct_at(draft, "after_sculpt", share)
    if draft.options.powder_sculpt == "before_setting":
        powder_stages.shade_in_powder(draft)
    soften_and_set(draft, powder_stages.sculpted_zones(draft))
    if draft.options.powder_sculpt == "after_setting":
        powder_stages.shade_in_powder(draft)
    finish_stages.melt_at(draft, "between_powders")
    powder_stages.bronze_last(draft)
    powder_stages.colour_in_powder(draft)
    glow_at(draft, "after_colour", "last")
    powder_stages.veil(draft)
    close_with_checks(draft, "last")


def _say_what_it_costs(draft: Draft) -> None:
    rough = draft.reading.where("raised_texture", "flaking", "creping", least=2)
    if rough:
        draft.note(
            "A brown powder shows every unevenness beneath it: "
            f"{draft.reading.cite(rough, 'raised_texture', 'flaking', 'creping', least=2)}. It is left off there."
        )
    if draft.options.evenness == "let_stand":
        draft.note("Powder sculpting wants an even ground; consider evening everything first.")
    if draft.case.intent.setting == "none":
        draft.note("No powder was asked for, but powder glides only over a set film: the zones it goes on are pressed.")


SCHOOL = SchoolOfOrder(
    id="powder_sculpted",
    why="Quick and matte, and it lasts on oily skin.",
    demands="Smooth, fully evened skin: a brown powder shows every unevenness beneath it.",
    plan=plan,
)
