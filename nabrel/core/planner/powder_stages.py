"""Sculpting, warmth and colour in powder, over a set film; muting shine in the recesses."""

from __future__ import annotations

from nabrel.core.face.placement import Sculpt
from nabrel.core.planner.accent_stages import best_colour, hue_why, long_wear, not_red
from nabrel.core.planner.draft import Draft
from nabrel.core.planner.sculpt_stages import nearest_by_depth, role_note
from nabrel.core.planner.texture import (
    SUN_ZONES,
    is_even,
    laid,
    pans,
    serves_as_shade,
    takes_a_pan,
    takes_warmth,
    under_glow,
)
from nabrel.core.shelf.ladder import powder_ladder
from nabrel.core.solve.sculpt import solve_sculpt
from nabrel.core.terms.ids import Zone
from nabrel.core.terms.words import lead
from nabrel.core.terms.zones import COMPLEXION_ZONES, both, in_order

RECESSES: tuple[Zone, ...] = (*both("nose_side", "cheek_hollow", "smile_line"), "below_lip")


def in_powder(draft: Draft, *, shade: bool) -> None:
    """Pans over the zones pressed for them: shade and colour that do not lie in cream, and the last warmth."""
    if shade and pans(draft, "shade") and not laid(draft, "shade"):
        shade_in_powder(draft)
    bronze_in_powder(draft)
    if pans(draft, "colour") and not laid(draft, "colour"):
        colour_in_powder(draft)


def shade_in_powder(draft: Draft, *, part_wanted: float = 1.0) -> None:
    """Shade in powder, in the amount whose step shows as wanted on what lies there by now."""
    placed = draft.reading.placement.shade
    for left in placed.left_off:
        draft.leave(left.zone, "shade", left.why)
    for zone in placed.zones:
        if not is_even(draft, zone):
            draft.leave(zone, "shade", "A brown powder would show the unevenness beneath it.")
    even = draft.reading.workable(z for z in placed.zones if is_even(draft, z))
    zones = tuple(z for z in even if takes_a_pan(draft, z))
    found_pans = pans(draft, "shade")
    if not even or not found_pans:
        return
    if not zones:
        draft.missing("shade over a wet base", "a setting powder, so that the pan glides, or a cream shade")
        return
    wanted = -draft.house.wanted_shade_drop * part_wanted
    found = solve_sculpt(
        [draft.seen(z) for z in zones],
        wanted,
        found_pans,
        None,
        0.0,
        powder_ladder(draft.house),
        draft.house,
        beneath=False,
        usual=draft.house.powder_colour_mg,
        handicap={item.id: draft.house.role_handicap for item in found_pans if item.role != "shade"},
    )
    if found is None:
        return
    kind: Sculpt = "shade"
    draft.add(
        kind,
        zones,
        [
            *placed.why_on(zones),
            f"In powder, two light passes, for a drop of {abs(found.visible_step):.1f} L*.",
            role_note(found.product, kind),
        ],
        product=found.product,
        amount=found.amount,
        hand=draft.hand_for(zones, ("angled_brush", "sweep"), ("angled_brush", "feather"), ("fluffy_brush", "press")),
        rules=["powder-on-even-ground", "no-stripes"],
        check="A shadow, not a stripe; tap the brush off before every pass.",
    )


def bronze_in_powder(draft: Draft) -> None:
    """Warmth where the sun would reach, in powder where a pan glides, a few shades deeper than the skin."""
    if draft.options.bronzer == "none" or laid(draft, "bronze"):
        return
    if serves_as_shade(draft, "bronze"):
        draft.note("Warmth: the bronzer serves as the shade already, so it is not laid twice.")
        return
    fitting = tuple(z for z in SUN_ZONES if is_even(draft, z) and takes_warmth(draft, z))
    zones = draft.reading.workable(z for z in fitting if takes_a_pan(draft, z))
    for zone in fitting:
        if under_glow(draft, zone) and zone not in zones:
            draft.leave(zone, "bronze", "Glow lies here in cream: a powder would take its shine.")
    found = pans(draft, "bronze")
    if not found or not zones:
        draft.missing(
            "warmth", "a bronzer two or three shades deeper, in cream, or in powder with a setting powder beneath"
        )
        return
    draft.add(
        "bronze",
        zones,
        [
            (
                "Warmth where the sun would reach brings back the life that powder took."
                if any(draft.powdered(zone) for zone in zones)
                else "Warmth where the sun would reach."
            )
            if draft.options.bronzer == "last" or not laid(draft, "shade")
            else "A warm tone between skin and shade, in powder, since the kit has no cream bronzer."
        ],
        product=nearest_by_depth(
            found, draft.reading.complexion[0] - draft.house.bronzer_steps * draft.house.shade_step_l
        ),
        amount=draft.house.powder_colour_mg / 2,
        hand=draft.hand_for(zones, ("fluffy_brush", "sweep"), ("fluffy_brush", "whisk"), ("fluffy_brush", "press")),
        rules=["bronzer-near-the-skin", "powder-on-even-ground"],
        check="Warmer, not darker.",
    )


def colour_in_powder(draft: Draft, *, lightly: bool = False) -> None:
    """Colour in powder, where a pan glides."""
    reading, house = draft.reading, draft.house
    placed = reading.placement.colour
    for left in placed.left_off:
        draft.leave(left.zone, "colour", left.why)
    for zone in placed.zones:
        if not is_even(draft, zone):
            draft.leave(zone, "colour", "Colour in powder would show the unevenness beneath it.")
    found = pans(draft, "colour")
    wanted = not_red(draft, reading.workable(z for z in placed.zones if is_even(draft, z)))
    zones = tuple(z for z in wanted if takes_a_pan(draft, z))
    if not wanted or not found:
        return
    if not zones:
        draft.missing("colour over a wet base", "a setting powder, so that the pan glides, or a cream colour")
        return
    draft.add(
        "colour",
        zones,
        [
            *placed.why_on(zones),
            hue_why(draft),
            "Doubled lightly in powder, so that it lasts." if lightly else long_wear(draft),
        ],
        product=best_colour(draft, found),
        amount=house.powder_colour_mg * (0.5 if lightly else 1.0),
        hand=draft.hand_for(zones, ("fluffy_brush", "whisk"), ("fluffy_brush", "press")),
        rules=["colour-off-blemishes", "powder-on-even-ground"],
        check="Both sides the same height, seen straight on.",
    )


def mute_shine(draft: Draft) -> None:
    """Powder in the recesses alone, so that light moves only on the high planes."""
    zones = draft.reading.workable(z for z in RECESSES if draft.wet(z) > 0)
    for zone in zones:
        if draft.reading.zones[zone].lined >= 2 or draft.reading.zones[zone].severity("deep_fold") >= 2:
            draft.leave(zone, "mute_shine", "Lined: powder there would draw the line.")
    zones = tuple(z for z in zones if not any(b.zone == z and b.kind == "mute_shine" for b in draft.left_bare))
    if not zones:
        return
    powder = draft.setting_powder_for(zones) if zones else None
    if powder is None:
        draft.missing("a powder for the recesses", "a fine loose powder, translucent, cover below 0.25")
        return
    oily = draft.reading.cite(zones, "oily", least=2)
    draft.add(
        "mute_shine",
        zones,
        [lead(oily) + "the recesses go quiet, so that real light does the sculpting."],
        product=powder,
        amount=draft.house.press_mg,
        hand=("puff", "press"),
        rules=["wet-over-powder", "clean-brush-for-powder"],
        check="Matt beside the nose and below the cheekbone; the high planes still move.",
    )


def veil(draft: Draft) -> None:
    """Powder foundation pressed over everything, to bring back the skin's value after sculpting."""
    if draft.options.powder_foundation != "veil":
        return
    pans = [i for i in draft.shelf.of("powder_foundation") if i.dry and i.tinted]
    zones = in_order(z for z in COMPLEXION_ZONES if draft.powdered(z) and not draft.reading.zones[z].left_alone)
    if not pans or not zones:
        draft.missing("a veil", "a powder foundation of the skin's own value, and a set face beneath it")
        return
    draft.add(
        "set",
        zones,
        ["A veil of powder foundation brings the skin's value back after sculpting."],
        product=nearest_by_depth(pans, draft.reading.complexion[0]),
        amount=draft.house.press_mg,
        hand=("fluffy_brush", "press"),
        rules=["powder-matches-value"],
        check="Skin again, and the sculpting still reads.",
    )
