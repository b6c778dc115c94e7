"""Stages that finish: softening edges, setting by policy, mists, features and the last checks."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np

from nabrel.core.case.product import Product
from nabrel.core.film.difference import delta_e
from nabrel.core.planner.draft import Draft
from nabrel.core.planner.feature_stages import features_at
from nabrel.core.terms.ids import MeltingMistWay, Tool, Zone
from nabrel.core.terms.looks import VIEWING_INFO
from nabrel.core.terms.places import places
from nabrel.core.terms.steps import LAYER_KINDS
from nabrel.core.terms.words import lead
from nabrel.core.terms.zones import COMPLEXION_ZONES, T_ZONE, both, in_order

CREASING: tuple[Zone, ...] = both("under_eye", "smile_line")


def soften_edges(draft: Draft) -> None:
    """The emptied tool over every border, adding nothing."""
    sculpted = [z for step in draft.steps if step.kind in ("shade", "light", "colour", "glow") for z in step.zones]
    zones = in_order(sculpted)
    if not zones:
        return
    draft.add(
        "soften_edges",
        zones,
        [
            f"Seen {VIEWING_INFO[draft.case.intent.viewing].words.lower()}: every border {places(zones) if len(zones) <= 6 else 'of this face'} "
            "is pressed soft. The tool has little left on it, so it adds no film."
        ],
        hand=draft.hand_for(zones, ("damp_sponge", "bounce"), ("damp_sponge", "press")),
        active_s=40,
        rules=["press-over-wet"],
        check="No border can be followed with the eye at arm's length.",
    )


def border_pass(draft: Draft) -> None:
    """The dark tool once more along where light meets shade."""
    if not draft.options.border_pass:
        return
    shaded = in_order(z for step in draft.steps if step.kind == "shade" for z in step.zones)
    if not shaded:
        return
    draft.add(
        "soften_edges",
        shaded,
        ["Along the border of light and shade once more with the dark tool, which has little left on it."],
        hand=draft.hand_for(shaded, ("angled_brush", "feather"), ("angled_brush", "press")),
        active_s=25,
        rules=["press-over-wet"],
        check="One shape, not two.",
    )


def clean_edge(draft: Draft) -> None:
    """A cleaning line of concealer below a crisp shade."""
    if draft.options.shade_edge != "crisp":
        return
    shaded = {z for step in draft.steps if step.kind == "shade" for z in step.zones}
    lines = draft.reading.workable(z for z in both("jaw") if z not in shaded and shaded & set(both("cheek_hollow")))
    lines = tuple(z for z in lines if draft.room(z) > draft.house.reserve_um)
    matched = [i for i in draft.sitting(draft.shelf.of("concealer"), lines) if i.tinted and not i.dry]
    if not lines or not matched:
        draft.missing("a cleaning line", "a matched concealer, and room below the shade")
        return
    level = draft.reading.complexion[0]
    draft.add(
        "clean_edge",
        lines,
        ["A thin clean line below the shade sharpens it; above, it stays faded."],
        product=min(matched, key=lambda item: abs((item.lab or (level, 0, 0))[0] - level)),
        film_um=1.0,
        hand=draft.hand_for(lines, ("dense_small_brush", "feather"), ("dense_small_brush", "press")),
        wait_s=draft.house.cream_wait_s,
        rules=["edges-fade"],
        check="Crisp below, faded above.",
    )


def setting_zones(draft: Draft) -> tuple[tuple[Zone, ...], tuple[Zone, ...]]:
    """Zones to press and zones to bake, from the intent's policy and what was read."""
    reading, policy = draft.reading, draft.case.intent.setting
    if policy == "none":
        return (), ()
    creases = [z for z in CREASING if reading.zones[z].lined or reading.zones[z].severity("deep_fold")]
    shines = [z for z in COMPLEXION_ZONES if reading.zones[z].oily >= 2]
    blurs = [z for z in COMPLEXION_ZONES if reading.zones[z].severity("active_blemish", "raised_texture") >= 1]
    spots = [*creases, *shines, *blurs]
    if not spots and policy == "spot":
        spots = [*both("nose_side"), *both("under_eye")]
    light = [z for step in draft.steps if step.kind == "light" for z in step.zones]
    by_policy: dict[str, list[Zone]] = {
        "spot": spots,
        "t_zone": [*T_ZONE, *creases],
        "on_light": [*light, *creases],
        "whole_face": list(COMPLEXION_ZONES),
        "bake_points": spots,
        "bake_wide": list(COMPLEXION_ZONES),
    }
    press = by_policy[policy]
    bake: list[Zone] = []
    if policy in ("bake_points", "bake_wide"):
        strongest = [z for z in shines if reading.zones[z].oily >= 3] or shines
        wanted = strongest if policy == "bake_points" else [*both("under_eye"), *T_ZONE, *both("cheek_hollow")]
        if policy == "bake_points" and not wanted:
            wanted = [*both("under_eye"), "chin"]
        bake = [z for z in wanted if _bakes(draft, z)]
        for zone in wanted:
            if not _bakes(draft, zone):
                draft.leave(
                    zone,
                    "bake",
                    "Lined, creped or dry: a bake would settle into it and stay. A light press instead; "
                    "a school that bakes here accepts the crease for the brightness.",
                )
                press = [*press, zone]
    return in_order(z for z in press if z not in bake), in_order(bake)


def _bakes(draft: Draft, zone: Zone) -> bool:
    here = draft.reading.zones[zone]
    return here.lined < draft.house.bake_line_limit and here.dry < 2


def will_bake(draft: Draft) -> bool:
    """Whether this face gets a bake, and so a wait to fill."""
    return bool(setting_zones(draft)[1])


def set_base(draft: Draft, also: Iterable[Zone] = ()) -> None:
    """Press creases flat and powder them at once; set or bake the rest as the policy says.

    ``also`` are zones that get at least a light press, since powder will go over them.
    """
    house, reading = draft.house, draft.reading
    press, bake = setting_zones(draft)
    press = in_order([*press, *(z for z in also if z not in bake)])
    press, bake = reading.workable(press), reading.workable(bake)
    wet = [z for z in (*press, *bake) if draft.wet.get(z, 0.0) > 0]
    press = tuple(z for z in press if z in wet)
    bake = tuple(z for z in bake if z in wet)
    for zone in COMPLEXION_ZONES:
        if zone not in press and zone not in bake:
            draft.leave(zone, "set", _no_powder(draft))
    if not press and not bake:
        return
    powder = draft.setting_powder_for((*press, *bake))
    if powder is None:
        draft.missing("a setting powder", "a fine loose powder, translucent, cover below 0.25")
        return
    folding = tuple(z for z in CREASING if z in press or z in bake)
    if folding:
        draft.add(
            "crease_check",
            folding,
            [
                _evidence(draft, folding)
                + "ask the sitter to look up and press every crease flat: powder fixes whatever it finds."
            ],
            hand=("damp_sponge", "press"),
            active_s=20,
            wait_at_most_s=house.crease_window_s,
            rules=["crease-check-before-powder", "set-in-time"],
            check="Flat, with nothing gathered.",
        )
    first = tuple(z for z in press if z in folding)
    rest = tuple(z for z in press if z not in folding)
    if first:
        _press(draft, first, powder, house.press_mg)
    if bake:
        _bake(draft, bake, powder)
    oily = tuple(z for z in rest if reading.zones[z].oily >= 2)
    dry = tuple(z for z in rest if z not in oily)
    if oily:
        _press(draft, oily, draft.setting_powder_for(oily) or powder, house.set_mg)
    if dry:
        _press(draft, dry, draft.setting_powder_for(dry) or powder, house.press_mg)


def _no_powder(draft: Draft) -> str:
    policy = draft.case.intent.setting
    if policy == "none":
        return "No powder was asked for."
    return "Neither creases nor shines here, so powder would only dull it."


def _evidence(draft: Draft, zones: tuple[Zone, ...]) -> str:
    return lead(draft.reading.cite(zones, "creping", "fine_lines", "deep_fold"))


def _press(draft: Draft, zones: tuple[Zone, ...], powder: Product, mg: float) -> None:
    reading = draft.reading
    lined = any(reading.zones[z].lined >= 2 or reading.zones[z].dry >= 2 for z in zones)
    tool: Tool = "fluffy_brush" if lined else "puff"
    evidence = _evidence(draft, zones) if any(z in CREASING for z in zones) else ""
    if not evidence:
        found = reading.cite(zones, "oily", "active_blemish", "raised_texture", "enlarged_pores", least=2)
        evidence = lead(found)
    draft.add(
        "set",
        zones,
        [
            evidence
            + (
                "a whisper, pressed, only so that it stays flat."
                if mg <= draft.house.press_mg
                else "pressed on, so that oil is taken up before it shines."
            )
        ],
        product=powder,
        powder_mg=mg,
        hand=(tool, "press"),
        rules=["wet-over-powder", "set-in-time", "clean-brush-for-powder"],
        check="Soft, not powdery; look again after the mist."
        if mg <= draft.house.press_mg
        else "Matt, and still skin.",
    )


def _bake(draft: Draft, zones: tuple[Zone, ...], powder: Product) -> None:
    house = draft.house
    draft.add(
        "bake",
        zones,
        [
            _lead_oil(draft, zones) + "a thick press sits while oil and water rise into it. "
            "Use the wait for brows and eyes."
        ],
        product=powder,
        powder_mg=house.bake_mg,
        hand=("puff", "press"),
        wait_s=house.bake_s,
        rules=["no-bake-on-lines", "bake-then-dust"],
        check="An even white veil that nobody touches.",
    )
    features_at(draft, "in_wait", waits=True)
    draft.add(
        "dust_off",
        zones,
        ["What has not taken up oil is swept away, or it would stay as a pale cast and flare in a flash."],
        hand=("fluffy_brush", "whisk"),
        active_s=40,
        rules=["bake-then-dust"],
        check="No white left, least of all at the edges.",
    )


def _lead_oil(draft: Draft, zones: tuple[Zone, ...]) -> str:
    found = draft.reading.cite(zones, "oily", least=2)
    return lead(found) or "Asked for: "


def melt_at(draft: Draft, moment: MeltingMistWay) -> None:
    """A melting mist, if this is its moment: where powder lies on dry or lined skin, or a dewy finish was asked for."""
    asked = draft.options.melting_mist
    if asked == "none" or moment != ("last" if asked == "school" else asked):
        return
    reading = draft.reading
    powdered = in_order(draft.powdered)
    mist = draft.shelf.best_care("melting_mist", reading, powdered)
    thirsty = tuple(z for z in powdered if reading.zones[z].dry or reading.zones[z].lined)
    wanted = asked != "school" or thirsty or draft.case.intent.finish == "dewy"
    if not powdered or not wanted:
        return
    if mist is None:
        draft.missing("a melting mist", "a fine hydrating mist, which joins powder to skin")
        return
    draft.add(
        "melting_mist",
        in_order(z for step in draft.steps if step.kind in LAYER_KINDS for z in step.zones if z in COMPLEXION_ZONES),
        [
            "Joins powder to skin"
            + (f": powder on dry or lined skin {places(thirsty)} would look dusty." if thirsty else ".")
            + " Eyes shaded, at arm's length."
        ],
        product=mist,
        hand=("fingers", "mist"),
        active_s=15,
        wait_s=draft.house.mist_dry_s,
        rules=["let-it-settle", "mists-are-misted"],
        check="No drop stands; the powdery look is gone.",
    )


def fix(draft: Draft) -> None:
    """A setting mist where long wear was asked for."""
    hours = draft.case.intent.wear_hours
    mist = draft.shelf.best_care("setting_mist", draft.reading, COMPLEXION_ZONES)
    if mist is None or hours < 7:
        return
    draft.add(
        "setting_mist",
        COMPLEXION_ZONES,
        [f"{hours:g} hours of wear were asked for: a film-former over all holds the layers together. Eyes closed."],
        product=mist,
        hand=("fingers", "mist"),
        active_s=15,
        wait_s=draft.house.mist_dry_s,
        rules=["let-it-settle"],
        check="Dry before anything touches it.",
    )


def _where_a_line_shows(draft: Draft) -> str:
    sitter = draft.reading.sitter
    if sitter.neck is None:
        return "Jaw, hairline and ears: a line shows there first. The neck was not read."
    step = float(delta_e(np.array(sitter.skin), np.array(sitter.neck)))
    unseen = ", which passes unseen" if step < draft.house.neck_step_de else ""
    return f"Bare face and neck are ΔE00 {step:.1f} apart{unseen}; a line shows first at jaw, hairline and ears."


def last_checks(draft: Draft) -> None:
    """Remaining features, then edges and lights."""
    features_at(draft, "last")
    draft.add(
        "edge_check",
        ("hairline", *both("jaw", "ear"), "neck"),
        [_where_a_line_shows(draft)],
        active_s=30,
        rules=["face-meets-neck"],
        check="Straight on, turned, close.",
    )
    lights = draft.case.intent.lights
    draft.add(
        "light_check",
        (),
        [
            f"It will be seen in {' and '.join(light.replace('_', ' ') for light in lights)}: look in that light. Do not "
            "judge powder and depth for 20 minutes."
        ],
        active_s=20,
        rules=["flash-flare"] if "flash" in lights else [],
        check="Both sides, in each light asked for.",
    )
