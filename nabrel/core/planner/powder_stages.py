"""Sculpting, warmth and colour in powder, over a set film; muting shine in the recesses."""

from __future__ import annotations

from nabrel.core.case.product import Product
from nabrel.core.face.placement import Sculpt
from nabrel.core.planner.accent_stages import best_colour, hue_why, long_wear
from nabrel.core.planner.draft import Draft
from nabrel.core.planner.sculpt_stages import nearest_by_depth
from nabrel.core.shelf.ladder import powder_ladder
from nabrel.core.solve.sculpt import solve_sculpt
from nabrel.core.terms.ids import Role, Zone
from nabrel.core.terms.words import lead
from nabrel.core.terms.zones import COMPLEXION_ZONES, both, in_order

SUN_ZONES: tuple[Zone, ...] = ("hairline", *both("temple", "cheekbone"), "nose_bridge")
RECESSES: tuple[Zone, ...] = (*both("nose_side", "cheek_hollow", "smile_line"), "below_lip")


def sculpted_zones(draft: Draft) -> tuple[Zone, ...]:
    """Zones where powder sculpting, warmth or colour will go: they are pressed with powder first, so that it glides."""
    placement = draft.reading.placement
    wanted = [*placement.shade.zones, *placement.colour.zones]
    return draft.reading.workable(z for z in wanted if _even(draft, z))


def _even(draft: Draft, zone: Zone) -> bool:
    """Whether a brown powder may lie here: it shows every unevenness."""
    here = draft.reading.zones[zone]
    return not (here.severity("flaking", "raised_texture", "active_blemish") >= 2 or here.severity("creping") >= 2)


def shade_in_powder(draft: Draft, *, part_wanted: float = 1.0) -> None:
    """Shade in powder, in the amount whose step shows as wanted on what lies there by now."""
    placed = draft.reading.placement.shade
    for left in placed.left_off:
        draft.leave(left.zone, "shade", left.why)
    for zone in placed.zones:
        if not _even(draft, zone):
            draft.leave(zone, "shade", "A brown powder would show the unevenness beneath it.")
    zones = draft.reading.workable(z for z in placed.zones if _even(draft, z))
    pans = _deeper(draft, ("shade",))
    if not zones:
        return
    if not pans:
        draft.missing("a powder shade", "a matte pressed powder four or more shades deeper than the skin, not warm")
        return
    wanted = -draft.house.wanted_shade_drop * part_wanted
    found = solve_sculpt(
        [draft.seen(z) for z in zones],
        wanted,
        pans,
        None,
        0.0,
        powder_ladder(draft.house),
        draft.house,
        beneath=False,
        usual=draft.house.powder_colour_mg,
        handicap={},
    )
    if found is None:
        return
    kind: Sculpt = "shade"
    draft.add(
        kind,
        zones,
        [*placed.why, f"In powder, two light passes, for a drop of {abs(found.visible_step):.1f} L*."],
        product=found.product,
        amount=found.amount,
        hand=draft.hand_for(zones, ("angled_brush", "sweep"), ("angled_brush", "feather"), ("fluffy_brush", "press")),
        rules=["powder-on-even-ground", "no-stripes"],
        check="A shadow, not a stripe; tap the brush off before every pass.",
    )


def _deeper(draft: Draft, roles: tuple[Role, ...]) -> list[Product]:
    level = draft.reading.complexion[0]
    pans = [i for i in draft.shelf.of(*roles) if i.dry and i.tinted and not i.shimmers]
    return [i for i in pans if i.lab and i.lab[0] < level - draft.house.shade_step_l]


def bronze_last(draft: Draft) -> None:
    """Warmth where the sun would reach, in powder where powder lies, a few shades deeper than the skin."""
    if draft.options.bronzer != "last":
        return
    zones = draft.reading.workable(z for z in SUN_ZONES if draft.powdered(z) and _even(draft, z))
    pans = _deeper(draft, ("bronzer",))
    if not zones or not pans:
        draft.missing("a last warmth", "a powder bronzer two or three shades deeper, over set zones")
        return
    draft.add(
        "bronze",
        zones,
        ["Warmth where the sun would reach brings back the life that powder took."],
        product=nearest_by_depth(
            pans, draft.reading.complexion[0] - draft.house.bronzer_steps * draft.house.shade_step_l
        ),
        amount=draft.house.powder_colour_mg / 2,
        hand=draft.hand_for(zones, ("fluffy_brush", "sweep"), ("fluffy_brush", "whisk"), ("fluffy_brush", "press")),
        rules=["bronzer-near-the-skin", "powder-on-even-ground"],
        check="Warmer, not darker.",
    )


def colour_in_powder(draft: Draft, *, lightly: bool = False) -> None:
    """Colour in powder, over a set film."""
    reading, house = draft.reading, draft.house
    placed = reading.placement.colour
    for left in placed.left_off:
        draft.leave(left.zone, "colour", left.why)
    for zone in placed.zones:
        if not _even(draft, zone):
            draft.leave(zone, "colour", "Colour in powder would show the unevenness beneath it.")
    zones = reading.workable(z for z in placed.zones if draft.powdered(z) and _even(draft, z))
    pans = [i for i in draft.shelf.of("colour") if i.dry and i.tinted]
    if not zones:
        return
    if not pans:
        draft.missing("a powder colour", "a pressed powder colour, fine and matte or satin")
        return
    draft.add(
        "colour",
        zones,
        [*placed.why, hue_why(draft), "Doubled lightly in powder, so that it lasts." if lightly else long_wear(draft)],
        product=best_colour(draft, pans),
        amount=house.powder_colour_mg * (0.5 if lightly else 1.0),
        hand=draft.hand_for(zones, ("fluffy_brush", "whisk"), ("fluffy_brush", "press")),
        rules=["colour-off-blemishes", "powder-on-even-ground"],
        check="Both sides the same height, seen straight on.",
    )


def mute_shine(draft: Draft) -> None:
    """Powder in the recesses alone, so that light moves only on the high planes."""
    zones = draft.reading.workable(z for z in RECESSES if draft.wet(z) > 0)
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
