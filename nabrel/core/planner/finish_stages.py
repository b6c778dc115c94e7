"""Stages that finish: softening edges, setting by policy, mists, features and the last checks."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Iterator, Mapping
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from nabrel.core.case.product import Product
from nabrel.core.film.difference import ashiness, delta_e
from nabrel.core.film.films import over
from nabrel.core.film.spectra import lab_of
from nabrel.core.film.stack import powder_cover
from nabrel.core.plan.step import Then
from nabrel.core.planner.draft import Draft, Hand, PortionDraft, cached_per_state
from nabrel.core.planner.feature_stages import features_at
from nabrel.core.planner.learnt_setting import by_learnt_amount, shines_sooner, why_so_much
from nabrel.core.planner.texture import under_glow
from nabrel.core.shelf.optics import film_for
from nabrel.core.terms.ids import Condition, MeltingMistOption, Tool, Zone
from nabrel.core.terms.looks import LIGHT_INFO, SETTING_INFO, VIEWING_INFO
from nabrel.core.terms.places import places
from nabrel.core.terms.steps import FADING_KINDS, LAYER_KINDS
from nabrel.core.terms.words import apart, join_words, lead, sentence
from nabrel.core.terms.zones import COMPLEXION_ZONES, EDGE_ZONES, T_ZONE, ZONE_INDEX, ZONE_INFO, ZONES, both, in_order
from nabrel.core.wear.forecast import crease_index, crease_strains

CREASING: tuple[Zone, ...] = both("under_eye", "smile_line")
"""Where lines ask for powder whatever the forecast says."""
FOLDS: tuple[Zone, ...] = both("under_eye", "inner_corner", "smile_line", "upper_lip")
"""Folds that are pressed flat right before powder fixes them."""


def soften_edges(draft: Draft) -> None:
    """The emptied tool over every border, adding nothing; where powder follows, right before the creases are pressed flat."""
    sculpted = [z for step in draft.steps if step.kind in FADING_KINDS for z in step.zones]
    zones = in_order(zone for zone in sculpted if not draft.powdered(zone))
    if not zones or _creases_to_press(draft):
        return
    _soften(draft, zones)


def _soften(draft: Draft, zones: tuple[Zone, ...]) -> None:
    draft.add(
        "soften_edges",
        zones,
        [f"Seen {VIEWING_INFO[draft.case.intent.viewing].seen}: every border soft."],
        hand=draft.hand_for(zones, ("damp_sponge", "bounce"), ("damp_sponge", "press")),
        active_s=draft.house.soften_s,
        rules=["press-over-wet"],
        check="No border can be followed with the eye at arm's length.",
    )


def _creases_to_press(draft: Draft, also: Iterable[Zone] = ()) -> tuple[Zone, ...]:
    """Folds that will be powdered next, and so are pressed flat right before it; none where there is no powder."""
    if draft.setting_powder_for(COMPLEXION_ZONES) is None:
        return ()
    press, bake = setting_zones(draft)
    wet = draft.reading.workable(z for z in (*press, *bake, *also) if draft.wet(z) > 0)
    return tuple(z for z in FOLDS if z in wet)


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
    """A cleaning line below a crisp shade that lies by now: of pale cream under cream, of powder, swept away, under a pan."""
    shades = [step for step in draft.steps if step.kind == "shade" and step.lays]
    if draft.options.shade_edge != "crisp" or not shades or any(step.kind == "clean_edge" for step in draft.steps):
        return
    shaded = {z for step in shades for z in step.zones}
    beneath = in_order(z for z in both("jaw") if z not in shaded and shaded & set(both("cheek_hollow")))
    lines = draft.reading.workable(beneath or (("under_jaw",) if shaded & set(both("jaw")) else ()))
    if not lines:
        draft.note("No cleaning line: no shade of this face has a lower edge that it could sharpen.")
    elif any(draft.powdered(z) for z in lines) or any(step.unit == "mg_cm2" for step in shades):
        _clean_with_powder(draft, lines)
    else:
        _clean_with_cream(draft, lines)


def _line_on(draft: Draft, zones: tuple[Zone, ...], amount: float, hand: Hand) -> list[PortionDraft]:
    """A line along each zone, as the share of the zone that a line covers."""
    return [
        PortionDraft((zone,), amount, hand, patch=min(1.0, draft.house.clean_line_cm2 / ZONE_INFO[zone].area_cm2))
        for zone in zones
    ]


def _clean_with_cream(draft: Draft, lines: tuple[Zone, ...]) -> None:
    """One shade paler than the complexion, or matched; never so pale that the line itself is seen."""
    house, level = draft.house, draft.reading.complexion[0]
    creams = [
        item for item in draft.sitting(draft.shelf.of("concealer", "light"), lines) if item.tinted and not item.dry
    ]
    fitting = [
        item
        for item in creams
        if item.lab and not item.shimmers and -house.shade_step_l <= 2 * (item.lab[0] - level) <= 4 * house.shade_step_l
    ]
    if not fitting:
        draft.missing("a cleaning line", "a concealer up to two shades paler than the complexion")
        return
    product = min(fitting, key=lambda item: (abs((item.lab or (level,))[0] - level - house.shade_step_l), item.id))
    hand = draft.hand_for(lines, ("dense_small_brush", "feather"), ("dense_small_brush", "press"))
    draft.lay(
        "clean_edge",
        _line_on(draft, lines, house.clean_edge_um, hand),
        ["A thin clean line below the shade sharpens it; above, it stays faded."],
        product=product,
        wait_s=house.cream_wait_s,
        rules=["edges-fade"],
        check="Crisp below, faded above.",
    )


def _clean_with_powder(draft: Draft, lines: tuple[Zone, ...]) -> None:
    """Loose powder laid as a line, left a minute and swept away with what fell from the pan."""
    house = draft.house
    powder = draft.baking_powder_for(lines) or draft.setting_powder_for(lines)
    if powder is None:
        draft.missing("a cleaning line", "a fine loose powder, translucent, cover below 0.25")
        return
    # Puff and fluffy brush go on to the eyes: a line along blemishes is laid with another brush.
    sore = any(draft.reading.zones[zone].severity("active_blemish") >= 2 for zone in lines)
    hand: Hand = ("fan_brush" if sore else "puff", "press")
    draft.lay(
        "clean_edge",
        _line_on(draft, lines, house.clean_line_mg, hand),
        ["A line of powder below the shade, swept away after a minute: it takes with it what went too low."],
        product=powder,
        wait_s=house.clean_line_s,
        rules=["edges-fade", "bake-then-dust"],
        check="A straight line of powder right below the shade.",
    )
    draft.add(
        "dust_off",
        lines,
        ["The line is swept away downwards, and the edge above it stands clean."],
        hand=draft.hand_for(lines, ("fluffy_brush", "whisk"), ("fluffy_brush", "press")),
        active_s=house.least_active_s,
        rules=["bake-then-dust"],
        check="No powder left below the edge.",
    )


@cached_per_state
def setting_zones(draft: Draft) -> tuple[tuple[Zone, ...], tuple[Zone, ...]]:
    """Zones to press and zones to bake, from the intent's policy, what was read and what the forecast says."""
    reading, policy = draft.reading, draft.case.intent.setting
    asked = draft.case.intent.bake_zones
    if policy == "none" and not asked:
        return (), ()
    reasons = _spots(draft)
    creases = [z for z, kind in reasons.items() if kind == "crease"]
    shines = [z for z in reasons if reading.zones[z].oily >= 2]
    edges = [z for z in EDGE_ZONES if draft.wet(z) > 0]
    spots = list(reasons)
    if not spots and policy == "spot":
        spots = [*both("nose_side"), *both("under_eye")]
    light = [z for step in draft.steps if step.kind == "light" for z in step.zones]
    everywhere = [*COMPLEXION_ZONES, *edges]
    by_policy: dict[str, list[Zone]] = {
        "none": [],
        "spot": spots,
        "t_zone": [*T_ZONE, *creases],
        "on_light": [*light, *creases],
        "whole_face": everywhere,
        "bake_points": spots,
        "bake_wide": everywhere,
    }
    press = by_policy[policy]
    press = [z for z in press if not under_glow(draft, z)]
    bake: list[Zone] = []
    if policy in ("bake_points", "bake_wide") or asked:
        strongest = [z for z in shines if reading.zones[z].oily >= 3] or shines
        wide = [*both("under_eye", "smile_line"), *T_ZONE, *both("cheek_hollow")]
        wanted = strongest if policy == "bake_points" else wide if policy == "bake_wide" else []
        wanted = list(asked) or wanted
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


Spot = Literal["crease", "shine", "rough"]
_SPOT_WORDS: Mapping[Spot, str] = {
    "crease": "creases", "shine": "shines", "rough": "would catch the light on texture",
}  # fmt: skip


@cached_per_state
def _spots(draft: Draft) -> Mapping[Zone, Spot]:
    """Where powder has something to do, and what: the gravest reason of each zone."""
    zones = draft.reading.zones
    edges = [z for z in EDGE_ZONES if draft.wet(z) > 0]
    found: dict[Zone, Spot] = {}
    kinds: tuple[tuple[Spot, Iterable[Zone]], ...] = (
        ("crease", in_order([*_lined_folds(draft), *creasing(draft)])),
        ("shine", [z for z in (*COMPLEXION_ZONES, *edges) if zones[z].oily >= 2]),
        ("shine", shines_sooner(draft)),
        ("rough", [z for z in COMPLEXION_ZONES if zones[z].severity("active_blemish", "raised_texture") >= 1]),
    )
    for kind, own in kinds:
        for zone in own:
            found.setdefault(zone, kind)
    return found


@dataclass(frozen=True, slots=True)
class _Setting:
    """Why powder goes where, settled before any of it is laid.

    ``pans`` get it only since a pan goes over them next, ``refused`` in place of a bake that they do not bear; ``instead`` says
    why nothing is baked at all.
    """

    spots: Mapping[Zone, Spot]
    pans: frozenset[Zone]
    refused: frozenset[Zone]
    instead: str = ""


def _lined_folds(draft: Draft) -> list[Zone]:
    zones = draft.reading.zones
    return [z for z in CREASING if zones[z].lined or zones[z].severity("deep_fold")]


@cached_per_state
def creasing(draft: Draft) -> tuple[Zone, ...]:
    """Zones whose forecast crease passes the house limit if what lies there by now is left as it is."""
    return tuple(zone for zone in COMPLEXION_ZONES if _creases(draft, zone))


def _creases(draft: Draft, zone: Zone) -> bool:
    lying, house = draft.base[zone], draft.house
    if lying.wet_um <= 0:
        return False
    film = float(draft.base.load_film[ZONE_INDEX[zone]])
    strains = crease_strains(draft.reading.zones[zone], lying, film, house)
    return crease_index(zone, strains, powdered=lying.powder_mg > 0, house=house) > house.crease_limit


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
    refused = {each.zone for each in draft.left_bare if each.kind == "bake"}
    how = _Setting(
        _spots(draft), frozenset(z for z in also if z not in press), frozenset(z for z in press if z in refused)
    )
    press = in_order([*press, *(z for z in also if z not in bake)])
    press, bake = reading.workable(press), reading.workable(bake)
    wet = [z for z in (*press, *bake) if draft.wet(z) > 0]
    press = tuple(z for z in press if z in wet)
    bake = tuple(z for z in bake if z in wet)
    powder = draft.setting_powder_for((*press, *bake))
    if not press and not bake:
        return
    if powder is None:
        draft.missing("a setting powder", "a fine loose powder, translucent, cover below 0.25")
        return
    baking = draft.baking_powder_for(bake) if bake else None
    if bake and (baking is None or _would_grey(draft, bake, baking)):
        why = (
            "nothing in the kit bakes; look for a loose translucent powder"
            if baking is None
            else f"so much {baking.name} would turn grey on this skin"
        )
        draft.note(f"No bake: {why}. A light press instead.")
        how = replace(how, refused=how.refused | frozenset(bake), instead=why)
        press, bake = in_order((*press, *bake)), ()
    folding = tuple(z for z in FOLDS if z in press or z in bake)
    if folding:
        _press_creases(draft, folding, (*press, *bake))
    # What was just pressed flat comes first, by press or by bake.
    if bake and baking is not None and set(folding) & set(bake):
        folds = _by_powder(draft, tuple(z for z in press if z in folding), folding, how)
        for powder, portions in folds:
            _lay_powder(draft, powder, portions, how)
        rest = _by_powder(draft, tuple(z for z in press if z not in folding), folding, how)
        _bake(draft, bake, baking, rest, how)
        return
    pressed = _by_powder(draft, press, folding, how)
    for powder, portions in pressed[:1]:
        _lay_powder(draft, powder, portions, how)
    if bake and baking is not None:
        _bake(draft, bake, baking, pressed[1:], how)
        return
    for powder, portions in pressed[1:]:
        _lay_powder(draft, powder, portions, how)


def _by_powder(
    draft: Draft, press: tuple[Zone, ...], folding: tuple[Zone, ...], how: _Setting
) -> list[tuple[Product, list[PortionDraft]]]:
    """What is pressed with which powder: the one that suits the value it lies on, where another is plainly wrong there."""
    found: dict[str, tuple[Product, list[PortionDraft]]] = {}
    for zones, mg in _pressings(draft, press, folding):
        for powder, places_on in draft.powders_by_value(zones):
            layings = found.setdefault(powder.id, (powder, []))[1]
            # Folds get powder so that they stay flat, not against shine.
            if zones[0] in folding:
                layings.append(_press(draft, places_on, mg, how))
                continue
            for own, amount, factors in by_learnt_amount(draft, powder, places_on, mg):
                also = (why_so_much(mg, amount, factors),) if factors else ()
                layings.append(_press(draft, own, amount, how, also))
    return list(found.values())


def _would_grey(draft: Draft, zones: tuple[Zone, ...], powder: Product) -> bool:
    """Whether what stays of a bake, dusted off, would turn the zones grey; light that is pale already is not its doing."""
    film = film_for(powder, draft.house)
    covered, thickness = (float(each) for each in powder_cover(np.array(draft.house.bake_left_mg), draft.house))
    shown = draft.shown(zones)
    baked = (1.0 - covered) * shown + covered * over(shown, film.ratio, film.s * thickness)
    meant = np.array(draft.reading.complexion)
    before, after = ashiness(lab_of(shown), meant), ashiness(lab_of(baked), meant)
    limit = draft.house.grey_shows
    return bool(((after > limit) & (after - before > limit / 2)).any())


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


def _press_creases(draft: Draft, folding: tuple[Zone, ...], powdered: tuple[Zone, ...]) -> None:
    """Borders softened, then creases pressed flat, right before the powder.

    What is not ready for powder yet is pressed over too: it must not hold up the powder in the folds.
    """
    sculpted = in_order(z for step in draft.steps if step.kind in FADING_KINDS for z in step.zones)
    now = max((draft.base[zone].done_at for zone in folding), default=0.0)
    settling = [z for z in powdered if draft.base[z].ready_at > now]
    soft = in_order(z for z in (*sculpted, *settling) if z not in folding and draft.wet(z) > 0)
    if soft:
        _soften(draft, soft)
    draft.add(
        "crease_check",
        folding,
        [_evidence(draft, folding) + "powder fixes whatever crease it finds."],
        hand=("damp_sponge", "press"),
        active_s=draft.house.crease_check_s,
        wait_at_most_s=draft.house.crease_window_s,
        rules=["crease-check-before-powder", "set-in-time"],
        check="Flat, nothing gathered.",
    )


def _evidence(draft: Draft, zones: tuple[Zone, ...]) -> str:
    return lead(draft.reading.cite(zones, "creping", "fine_lines", "deep_fold"))


def _why_pressed(zone: Zone, how: _Setting) -> str:
    """Why a zone gets a light press, as the rest of a sentence that evidence may lead."""
    if zone in how.pans:
        return UNDER_PANS
    if zone in how.refused:
        return "pressed, not baked."
    spot = how.spots.get(zone)
    if spot == "crease":
        return "a light press, so that it stays flat."
    if spot == "shine":
        return "a light press against shine."
    return "a light press, so that it does not catch the light." if spot == "rough" else "a light press, as asked."


_EVIDENCE: Mapping[Spot, tuple[Condition, ...]] = {
    "crease": ("creping", "fine_lines", "deep_fold"),
    "shine": ("oily",),
    "rough": ("active_blemish", "raised_texture"),
}


def _press(draft: Draft, zones: tuple[Zone, ...], mg: float, how: _Setting, also: tuple[str, ...] = ()) -> PortionDraft:
    """A press of powder: with a brush on lined or dry skin, with the puff elsewhere; why it is here."""
    reading = draft.reading
    lined = any(reading.zones[z].lined >= 2 or reading.zones[z].dry >= 2 for z in zones)
    tool: Tool = "fluffy_brush" if lined else "puff"
    if mg > draft.house.press_mg and all(reading.zones[z].oily >= 2 for z in zones):
        said = [lead(reading.cite(zones, "oily", least=2)) + "pressed on, so that oil is taken up before it shines."]
    elif all(z in FOLDS for z in zones) and not how.pans & set(zones):
        said = [_evidence(draft, zones) + "only so that it stays flat."]
    else:
        said = _whys_pressed(draft, zones, how)
    return PortionDraft(zones, mg, (tool, "press"), why=(*map(sentence, said), *also))


def _whys_pressed(draft: Draft, zones: tuple[Zone, ...], how: _Setting) -> list[str]:
    """The reasons of a light press with what was read, each said of its own places where there are several."""
    by_reason: dict[str, list[Zone]] = {}
    for zone in zones:
        by_reason.setdefault(_why_pressed(zone, how), []).append(zone)
    if len(by_reason) > 1:
        return [f"{places(own)}: {why[:1].lower()}{why[1:]}" for why, own in by_reason.items()]
    ((why, _),) = by_reason.items()
    spot = None if zones[0] in how.pans or zones[0] in how.refused else how.spots.get(zones[0])
    return [why if spot is None else lead(draft.reading.cite(zones, *_EVIDENCE[spot])) + why]


def _setting_why(draft: Draft, zones: Collection[Zone], how: _Setting) -> str:
    """Why powder lies on these zones and not elsewhere, said of all of them."""
    policy = draft.case.intent.setting
    own = [z for z in zones if z not in how.pans]
    if not own:
        return UNDER_PANS
    pans = "where a pan goes next" if len(own) < len(zones) else ""
    if how.instead and set(own) <= how.refused:
        return f"In place of the bake that was asked for: {how.instead}."
    if policy in ("none", "spot", "bake_points"):
        kinds = [kind for kind in _SPOT_WORDS if kind in {how.spots.get(z) for z in own}]
        where = f"where it {join_words((_SPOT_WORDS[kind] for kind in kinds), by='or')}" if kinds else ""
        usual = (
            "where a face creases and shines first"
            if any(z not in how.spots and z not in how.refused for z in own)
            else ""
        )
        bake = "in place of a bake" if how.refused & set(own) else ""
        return f"Only {join_words(each for each in (where, usual, bake, pans) if each)}: elsewhere powder dulls."
    meant = {*T_ZONE} if policy == "t_zone" else {z for s in draft.steps if s.kind == "light" for z in s.zones}
    more = "what creases" if policy in ("t_zone", "on_light") and set(own) - meant else ""
    bake = "what is not baked is pressed" if policy == "bake_wide" else ""
    beside = join_words(each for each in (more, pans) if each)
    part = ", where a film lies" if policy == "whole_face" and set(COMPLEXION_ZONES) - set(zones) else ""
    return f"{sentence(bake) or SETTING_INFO[policy].words}, as asked{part}{f'; also {beside}' if beside else ''}."


UNDER_PANS = "A light press where a pan will go, so that it glides instead of grabbing."


def press_for_pans(draft: Draft, zones: Iterable[Zone]) -> None:
    """A light press of powder on those of the zones that are still wet, ahead of all other setting: a pan goes over them next."""
    wet = draft.reading.workable(zone for zone in zones if draft.wet(zone) > 0 and not under_glow(draft, zone))
    for powder, own in draft.powders_by_value(wet):
        draft.add(
            "set",
            own,
            [UNDER_PANS],
            product=powder,
            amount=draft.house.press_mg,
            hand=("fluffy_brush", "press"),
            rules=["wet-over-powder", "clean-brush-for-powder"],
            check="Dry to the touch; a brush glides.",
        )


def _lay_powder(draft: Draft, powder: Product, portions: list[PortionDraft], how: _Setting) -> None:
    zones = [zone for portion in portions for zone in portion.zones]
    heavy = any((portion.amount or 0.0) > draft.house.press_mg for portion in portions)
    draft.lay(
        "set",
        portions,
        [_setting_why(draft, zones, how)],
        product=powder,
        rules=["wet-over-powder", "set-in-time", "clean-brush-for-powder"],
        check="Matt, and still skin." if heavy else "Soft, not powdery.",
    )


def _bake(
    draft: Draft,
    zones: tuple[Zone, ...],
    powder: Product,
    others: list[tuple[Product, list[PortionDraft]]],
    how: _Setting,
) -> None:
    """A bake; what else gets powder is pressed, and brows and eyes are done, while it sits."""
    house = draft.house
    draft.add(
        "bake",
        zones,
        [
            _lead_oil(draft, zones) + "a thick press sits while oil and water rise into it.",
            _fills_the_bake(draft),
        ],
        product=powder,
        amount=house.bake_mg,
        hand=("puff", "press"),
        wait_s=house.bake_s,
        rules=["no-bake-on-lines", "bake-then-dust"],
        check="An even veil of powder that nobody touches.",
    )
    for other, portions in others:
        _lay_powder(draft, other, portions, how)
    features_at(draft, "in_wait", waits=True)
    draft.add(
        "dust_off",
        zones,
        ["What has not taken up oil is swept away, or it would stay as a pale cast and flare in a flash."],
        hand=draft.hand_for(zones, ("fluffy_brush", "whisk"), ("fluffy_brush", "press")),
        active_s=draft.house.dust_off_s,
        rules=["bake-then-dust"],
        check="No loose powder left, least of all at the edges.",
    )


def _fills_the_bake(draft: Draft) -> str:
    """Which of the brows and eyes that were asked for are done while it sits; nothing where none is left to do."""
    done = {step.kind for step in draft.steps}
    left = [each for each in draft.case.intent.features if each in ("brows", "eyes") and each not in done]
    return f"Use the wait for {join_words(left)}." if left else ""


def _lead_oil(draft: Draft, zones: tuple[Zone, ...]) -> str:
    found = draft.reading.cite(zones, "oily", least=2)
    return lead(found) or "Asked for: "


def melt_at(draft: Draft, moment: MeltingMistOption) -> None:
    """A melting mist, if this is its moment: where powder lies on dry or lined skin, or a dewy finish was asked for."""
    asked = draft.options.melting_mist
    if asked == "none" or moment != ("last" if asked == "school" else asked):
        return
    reading = draft.reading
    powdered = in_order(z for z in ZONES if draft.powdered(z))
    misted = in_order(
        z for step in draft.steps if step.kind in LAYER_KINDS for z in step.zones if z in COMPLEXION_ZONES
    )
    mist = draft.shelf.best_care("melting_mist", reading, powdered)
    thirsty = tuple(z for z in powdered if reading.zones[z].dry or reading.zones[z].lined)
    pressed = misted if 2 * len(thirsty) > len(misted) else thirsty
    wanted = asked != "school" or thirsty or draft.case.intent.finish == "dewy"
    if not powdered or not wanted:
        return
    if mist is None:
        draft.missing("a melting mist", "a fine hydrating mist, which joins powder to skin")
        return
    draft.add(
        "melting_mist",
        misted,
        ["Joins powder to skin" + (": dry or lined skin would look dusty." if thirsty else ".") + " At arm's length."],
        product=mist,
        hand=(None, "mist"),
        active_s=draft.house.mist_s,
        wait_s=draft.house.mist_dry_s,
        rules=["let-it-settle", "mists-are-misted"],
        check="No drop stands.",
        # What still stands on dry or lined skin is pressed in once; where that is most of the face, all of it is.
        then=Then("damp_sponge", "press", draft.house.press_back_s, pressed) if pressed else None,
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
        return "Face and neck are near; a line shows first at the edges."
    return f"Bare face and neck are {apart(step)} apart; a line shows first at the edges."


def last_checks(draft: Draft) -> None:
    """Remaining features, then edges and lights."""
    features_at(draft, "last")
    if not draft.base.presence.laid:
        return
    lights = join_words(LIGHT_INFO[light].words.lower() for light in draft.case.intent.lights)
    edges = ("hairline", *both("jaw", "ear"), "neck")
    # A plan that lays nothing near the edges, a corrector alone, has no edge to look at.
    at_edges = [PortionDraft(edges, active_s=draft.house.edge_check_s)] if draft.base.presence.laid & set(edges) else []
    draft.lay(
        "light_check",
        [*at_edges, PortionDraft((), active_s=draft.house.light_check_s)],
        [
            _where_a_line_shows(draft),
            f"Look in {lights}. Judge powder and depth after 20 minutes.",
        ],
        rules=["face-meets-neck", *(["flash-flare"] if "flash" in draft.case.intent.lights else [])],
        check="Straight on, turned, close, both sides.",
    )
