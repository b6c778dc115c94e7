"""Stages that finish: softening edges, setting by policy, mists, features and the last checks."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

import numpy as np

from nabrel.core.case.product import Product
from nabrel.core.film.difference import delta_e
from nabrel.core.planner.draft import Draft, Laying
from nabrel.core.planner.feature_stages import features_at
from nabrel.core.terms.ids import MeltingMistWay, Tool, Zone
from nabrel.core.terms.looks import LIGHT_INFO, SETTING_INFO, VIEWING_INFO
from nabrel.core.terms.steps import LAYER_KINDS
from nabrel.core.terms.words import apart, join_words, lead
from nabrel.core.terms.zones import COMPLEXION_ZONES, T_ZONE, ZONES, both, in_order

CREASING: tuple[Zone, ...] = both("under_eye", "smile_line")


def soften_edges(draft: Draft) -> None:
    """The emptied tool over every border, adding nothing; with the creases pressed flat where powder follows at once."""
    sculpted = [z for step in draft.steps if step.kind in ("shade", "light", "colour", "glow") for z in step.zones]
    zones = in_order(sculpted)
    if not zones or _creases_to_press(draft):
        return
    draft.lay(
        "soften_edges",
        [_softening(draft, zones)],
        [_soft_why(draft)],
        rules=["press-over-wet"],
        check="No border can be followed with the eye at arm's length.",
    )


def _softening(draft: Draft, zones: tuple[Zone, ...]) -> Laying:
    hand = draft.hand_for(zones, ("damp_sponge", "bounce"), ("damp_sponge", "press"))
    return Laying(zones, None, hand, draft.house.soften_s)


def _soft_why(draft: Draft) -> str:
    return f"Seen {VIEWING_INFO[draft.case.intent.viewing].words.lower()}: every border soft."


def _creases_to_press(draft: Draft, also: Iterable[Zone] = ()) -> tuple[Zone, ...]:
    """Folds that will be powdered next, and so are pressed flat right before it; none where there is no powder."""
    if draft.setting_powder_for(COMPLEXION_ZONES) is None:
        return ()
    press, bake = setting_zones(draft)
    wet = draft.reading.workable(z for z in (*press, *bake, *also) if draft.wet(z) > 0)
    return tuple(z for z in CREASING if z in wet)


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
        active_s=draft.house.shade_edge_s,
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
        amount=1.0,
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
    reading = draft.reading
    press, bake = setting_zones(draft)
    press = in_order([*press, *(z for z in also if z not in bake)])
    press, bake = reading.workable(press), reading.workable(bake)
    wet = [z for z in (*press, *bake) if draft.wet(z) > 0]
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
        _press_creases(draft, folding)
    by_powder: dict[str, list[Laying]] = {}
    powders: dict[str, Product] = {}
    for zones, mg in _pressings(draft, press, folding):
        own = powder if zones[0] in folding else draft.setting_powder_for(zones) or powder
        powders[own.id] = own
        by_powder.setdefault(own.id, []).append(_press(draft, zones, mg))
    first, *others = by_powder or {powder.id: []}
    if by_powder:
        _lay_powder(draft, powders[first], by_powder[first])
    if bake:
        _bake(draft, bake, powder)
    for each in others:
        _lay_powder(draft, powders[each], by_powder[each])


def _pressings(
    draft: Draft, press: tuple[Zone, ...], folding: tuple[Zone, ...]
) -> Iterator[tuple[tuple[Zone, ...], float]]:
    """What is pressed with how much: folds first and lightly, oily zones more, the rest lightly."""
    house = draft.house
    oily = tuple(z for z in press if z not in folding and draft.reading.zones[z].oily >= 2)
    light = tuple(z for z in press if z not in folding and z not in oily)
    for zones, mg in (
        (tuple(z for z in press if z in folding), house.press_mg),
        (oily, house.set_mg),
        (light, house.press_mg),
    ):
        if zones:
            yield zones, mg


def _press_creases(draft: Draft, folding: tuple[Zone, ...]) -> None:
    """Borders softened and creases pressed flat, in one go, right before the powder."""
    sculpted = in_order(
        z for step in draft.steps if step.kind in ("shade", "light", "colour", "glow") for z in step.zones
    )
    soft = tuple(z for z in sculpted if z not in folding and draft.wet(z) > 0)
    portions = [_softening(draft, soft)] if soft else []
    portions.append(Laying(folding, None, ("damp_sponge", "press"), draft.house.crease_check_s))
    draft.lay(
        "crease_check",
        portions,
        [
            _soft_why(draft) if soft else "",
            _evidence(draft, folding) + "powder fixes whatever crease it finds.",
        ],
        wait_at_most_s=draft.house.crease_window_s,
        rules=["crease-check-before-powder", "set-in-time"],
        check="Flat, nothing gathered, no border to follow.",
        cue=("look_up",),
    )


def _no_powder(draft: Draft) -> str:
    policy = draft.case.intent.setting
    if policy == "none":
        return "No powder was asked for."
    return "Neither creases nor shines here."


def _evidence(draft: Draft, zones: tuple[Zone, ...]) -> str:
    return lead(draft.reading.cite(zones, "creping", "fine_lines", "deep_fold"))


def _press(draft: Draft, zones: tuple[Zone, ...], mg: float) -> Laying:
    """A press of powder: with a brush on lined or dry skin, with the puff elsewhere; why it is here."""
    reading = draft.reading
    lined = any(reading.zones[z].lined >= 2 or reading.zones[z].dry >= 2 for z in zones)
    tool: Tool = "fluffy_brush" if lined else "puff"
    evidence = _evidence(draft, zones) if any(z in CREASING for z in zones) else ""
    if not evidence:
        evidence = lead(reading.cite(zones, "oily", "active_blemish", "raised_texture", "enlarged_pores", least=2))
    why = (
        "only so that it stays flat."
        if mg <= draft.house.press_mg
        else "pressed on, so that oil is taken up before it shines."
    )
    return Laying(zones, mg, (tool, "press"), why=(evidence + why,))


def _lay_powder(draft: Draft, powder: Product, portions: list[Laying]) -> None:
    heavy = any((portion.amount or 0.0) > draft.house.press_mg for portion in portions)
    draft.lay(
        "set",
        portions,
        ["Only where it creases or shines: elsewhere powder dulls."]
        if draft.case.intent.setting == "spot"
        else [f"{SETTING_INFO[draft.case.intent.setting].words}, as asked."],
        product=powder,
        rules=["wet-over-powder", "set-in-time", "clean-brush-for-powder"],
        check="Matt, and still skin." if heavy else "Soft, not powdery.",
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
        amount=house.bake_mg,
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
        active_s=draft.house.dust_off_s,
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
    powdered = in_order(z for z in ZONES if draft.powdered(z))
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
        ["Joins powder to skin" + (": dry or lined skin would look dusty." if thirsty else ".") + " At arm's length."],
        product=mist,
        hand=(None, "mist"),
        active_s=draft.house.mist_s,
        wait_s=draft.house.mist_dry_s,
        rules=["let-it-settle", "mists-are-misted"],
        cue=("eyes_closed",),
        check="No drop stands.",
    )


def fix(draft: Draft) -> None:
    """A setting mist where long wear was asked for."""
    hours = draft.case.intent.wear_hours
    mist = draft.shelf.best_care("setting_mist", draft.reading, COMPLEXION_ZONES)
    if mist is None or hours < draft.house.mist_from_h:
        return
    draft.add(
        "setting_mist",
        COMPLEXION_ZONES,
        [f"{hours:g} hours were asked for: a film over all holds the layers together."],
        product=mist,
        hand=(None, "mist"),
        active_s=draft.house.mist_s,
        wait_s=draft.house.mist_dry_s,
        rules=["let-it-settle"],
        check="Dry before anything touches it.",
    )


def _where_a_line_shows(draft: Draft) -> str:
    sitter = draft.reading.sitter
    if sitter.neck is None:
        return "A line shows first at the edges. The neck was not read."
    step = float(delta_e(np.array(sitter.skin.lab), np.array(sitter.neck.lab)))
    if step < draft.house.neck_step_de:
        return "Bare face and neck are near enough to pass as one; a line shows first at the edges."
    return f"Bare face and neck are {apart(step)} apart; a line shows first at the edges."


def last_checks(draft: Draft) -> None:
    """Remaining features, then edges and lights."""
    features_at(draft, "last")
    if not draft.base.presence.laid:
        return
    lights = join_words(LIGHT_INFO[light].words.lower() for light in draft.case.intent.lights)
    edges = ("hairline", *both("jaw", "ear"), "neck")
    # A plan that lays nothing near the edges, a corrector alone, has no edge to look at.
    at_edges = [Laying(edges, active_s=draft.house.edge_check_s)] if draft.base.presence.laid & set(edges) else []
    draft.lay(
        "light_check",
        [*at_edges, Laying((), active_s=draft.house.light_check_s)],
        [
            _where_a_line_shows(draft),
            f"Look in {lights}. Judge powder and depth after 20 minutes.",
        ],
        rules=["face-meets-neck", *(["flash-flare"] if "flash" in draft.case.intent.lights else [])],
        check="Straight on, turned, close, both sides.",
    )
