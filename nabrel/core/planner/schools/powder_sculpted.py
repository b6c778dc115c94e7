"""Powder-sculpted: foundation, light, set; then shade, bronze, colour and glow all in powder."""

from __future__ import annotations

from functools import partial

from nabrel.core.planner import finish_stages, foundation_stages, powder_stages, sculpt_stages, skin_stages
from nabrel.core.planner.accent_stages import colour, glow_at, warm
from nabrel.core.planner.draft import Draft, Share
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
    """Draft a powder-sculpted sequence."""
    foundation_stages.choose_foundation(draft, beneath=False)
    share = partial(even_share, draft)
    _say_what_it_costs(draft)
    open_with_skin(draft)
    lay_an_even_ground(draft, share, "last")
    shade_first = draft.case.intent.order == "shade_first"
    if shade_first and not pans(draft, "shade"):
        sculpt_stages.sculpt(draft, "shade", share, beneath=False)
    sculpt_stages.sculpt(draft, "light", share, beneath=False)
    skin_stages.correct_at(draft, "after_sculpt", share)
    _in_cream_what_has_no_pan(draft, share)
    if draft.options.powder_sculpt == "before_setting" and pans(draft, "shade"):
        finish_stages.press_for_pans(draft, (z for z in draft.reading.placement.shade.zones if is_even(draft, z)))
        powder_stages.shade_in_powder(draft)
    soften_and_set(draft)
    if draft.options.powder_sculpt == "after_setting" and not laid(draft, "shade"):
        powder_stages.shade_in_powder(draft)
    finish_stages.melt_at(draft, "between_powders")
    powder_stages.bronze_in_powder(draft)
    if not laid(draft, "colour"):
        powder_stages.colour_in_powder(draft)
    glow_at(draft, "after_colour", "last")
    powder_stages.veil(draft)
    close_with_checks(draft, "last")


def _in_cream_what_has_no_pan(draft: Draft, share: Share) -> None:
    """Shade, warmth and colour that the kit has only in cream come before the powder."""
    if not pans(draft, "shade") and not laid(draft, "shade"):
        sculpt_stages.sculpt(draft, "shade", share, beneath=False)
    warm(draft)
    if not pans(draft, "colour"):
        colour(draft)


def _say_what_it_costs(draft: Draft) -> None:
    rough = draft.reading.where("raised_texture", "flaking", "creping", least=2)
    if rough:
        draft.note(
            "A brown powder shows every unevenness beneath it: "
            f"{draft.reading.cite(rough, 'raised_texture', 'flaking', 'creping', least=2)}. It is left off there."
        )
    if draft.options.evenness == "let_stand":
        draft.note("Powder sculpting wants an even ground; consider evening everything first.")


SCHOOL = SchoolOfOrder(
    id="powder_sculpted",
    why="Quick and matte, and it lasts on oily skin.",
    demands="Smooth, fully evened skin: a brown powder shows every unevenness beneath it.",
    plan=plan,
)
