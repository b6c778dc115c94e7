"""Stages below the colour: cleaning, feeding, priming and correcting. Every school starts with them."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Iterator
from dataclasses import dataclass, replace
from functools import partial

import numpy as np

from nabrel.core.case.product import Product
from nabrel.core.film.difference import delta_e
from nabrel.core.film.films import over
from nabrel.core.film.spectra import lab_of, surface
from nabrel.core.planner.draft import Draft, PortionDraft, Share
from nabrel.core.planner.hues import correctors, stand_ins
from nabrel.core.shelf.bases import beads
from nabrel.core.shelf.ladder import film_ladder, nearest_rung
from nabrel.core.shelf.optics import bank, film_for, veil_greys
from nabrel.core.solve.corrector import Above, CorrectorAnswer, Covering, solve_corrector
from nabrel.core.terms.colour import Lab
from nabrel.core.terms.conditions import CONDITION_INFO
from nabrel.core.terms.ids import Condition, CorrectorOption, Zone
from nabrel.core.terms.places import places
from nabrel.core.terms.products import ROLE_INFO
from nabrel.core.terms.words import apart, apart_then, join_words, lead, sentence
from nabrel.core.terms.zones import SKIN_ZONES, ZONES, area_of, both, in_order

FACE: tuple[Zone, ...] = tuple(z for z in SKIN_ZONES if z != "lips")
CARED: tuple[Zone, ...] = tuple(z for z in FACE if z not in both("eyelid"))
EYES: tuple[Zone, ...] = both("under_eye", "inner_corner")


def skin_first(draft: Draft) -> None:
    """Clean, feed what is dry, and let it sink in."""
    house, reading = draft.house, draft.reading
    cleanser = draft.shelf.best_care("cleanser", reading, CARED)
    draft.add(
        "cleanse",
        FACE,
        [
            lead(reading.cite(reading.workable(FACE), "oily", least=2)) + "film on oil or old product slides.",
            _gently(draft),
        ],
        product=cleanser,
        hand=("fingers", "press"),
        active_s=draft.house.cleanse_s,
        rules=["clean-first"],
        check="Clean, not tight.",
    )
    _tone(draft)
    hungry = tuple(z for z in EYES if reading.zones[z].dry or reading.zones[z].lined)
    care = draft.shelf.best_care("eye_care", reading, hungry) if hungry else None
    sunscreen = draft.shelf.of("sunscreen") if "daylight" in draft.case.intent.lights else ()
    # Care sinks in together: what comes last on a zone is what is waited for.
    _moisturise(draft, () if care is None else hungry, house.care_between_s if sunscreen else house.moisturiser_wait_s)
    if care is not None:
        read_here = reading.cite(hungry, "creping", "fine_lines", "dry", "dehydrated", "flaking")
        draft.add(
            "eye_care",
            hungry,
            [f"{sentence(read_here)}: moisturised skin creases less."],
            product=care,
            hand=("fingers", "press"),
            active_s=house.eye_care_s,
            wait_s=house.care_between_s if sunscreen else house.care_wait_s,
            rules=["fed-first"],
            check="No wet shine.",
        )
    if sunscreen:
        draft.add(
            "sunscreen",
            CARED,
            ["By day: a base holds far too little to protect."],
            product=min(sunscreen, key=lambda item: veil_greys(item, reading.complexion, house)),
            hand=("fingers", "press"),
            active_s=house.sunscreen_s,
            wait_s=house.moisturiser_wait_s if draft.shelf.of("moisturiser") else house.care_wait_s,
            rules=["clean-first"],
            check="Dry to the touch.",
        )


def _tone(draft: Draft) -> None:
    """A toner from the kit where skin is oily or short of water, before what feeds it."""
    toners, reading = draft.shelf.of("toner"), draft.reading
    zones = tuple(z for z in CARED if reading.zones[z].oily >= 2 or reading.zones[z].severity("dehydrated"))
    toner = draft.shelf.best_care("toner", reading, zones) if toners and zones else None
    if toner is None:
        return
    draft.add(
        "moisturise",
        zones,
        [f"{sentence(reading.cite(zones, 'oily', 'dehydrated'))}: water first, so that less cream is needed."],
        product=toner,
        hand=("fingers", "press"),
        active_s=draft.house.least_active_s,
        wait_s=draft.house.cream_wait_s,
        rules=["fed-first"],
        check="Damp, not dripping.",
    )


def lid_base(draft: Draft) -> None:
    """A lid base from the kit where eyes are done in the same sitting: it evens the lids before the shadow."""
    lids = draft.reading.workable(both("eyelid"))
    base = next(iter(draft.shelf.of("lid_base")), None)
    if "eyes" not in draft.case.intent.features or base is None or not lids:
        return
    draft.add(
        "prime",
        lids,
        ["Evens the lids, so that the shadow goes on in one value and stays."],
        product=base,
        amount=draft.house.primer_film_um,
        hand=("fingers", "press"),
        wait_s=draft.house.primer_wait_s,
        rules=["let-it-settle"],
        check="Even, and dry enough not to crease.",
    )
    _set_lids(draft, lids)


def _set_lids(draft: Draft, lids: tuple[Zone, ...]) -> None:
    """A light press on lids that shine or must last, so that the shadow glides and the base beneath does not gather."""
    powder = draft.setting_powder_for(lids)
    oily = draft.reading.cite(lids, "oily")
    hours = draft.case.intent.wear_hours
    asked = draft.case.intent.setting != "none"
    if powder is None or not asked or not (oily or hours >= draft.house.mist_from_h):
        return
    reason = oily or f"Worn for {hours:g} h"
    draft.add(
        "set",
        lids,
        [f"{lead(reason)}a light press keeps the lid base from gathering in the fold, and the shadow glides."],
        product=powder,
        amount=draft.house.press_mg,
        hand=("fluffy_brush", "press"),
        rules=["wet-over-powder", "clean-brush-for-powder"],
        check="Dry to the touch, and even.",
    )


def _gently(draft: Draft) -> str:
    """Why the skin is cleaned without rubbing; nothing to say for skin that bears it."""
    found = draft.reading.cite(draft.reading.workable(FACE), "sensitive", "active_blemish", least=2)
    return f"{lead(found)}gently, without rubbing." if found else ""


def _moisturise(draft: Draft, eyes: tuple[Zone, ...], wait_s: float) -> None:
    """Moisturiser by what each zone asks for, but where eye cream takes its place."""
    reading = draft.reading
    cared = tuple(z for z in CARED if z not in eyes)
    oily = tuple(z for z in cared if reading.zones[z].oily >= 1 or reading.zones[z].severity("active_blemish"))
    rest = tuple(z for z in cared if z not in oily)
    gel = draft.shelf.best_care("moisturiser", reading, oily, need=True)
    cream = draft.shelf.best_care("moisturiser", reading, rest)
    if oily and any(item is not None and item.base == "oil" for item in (gel, cream if gel is None else None)):
        # Nothing without oil answers what was read, but oil on blemishes and on what shines is worse than whatever else there is.
        others = [item for item in draft.shelf.of("moisturiser") if item.base != "oil"]
        gel = draft.shelf.best_care("moisturiser", reading, oily, of=others)
    parts: list[tuple[tuple[Zone, ...], Product | None]] = [(oily, gel), (rest, cream)]
    if gel is None or gel == cream:
        parts = [(cared, cream or draft.shelf.best_care("moisturiser", reading, cared))]
    for zones, product in parts:
        if not zones or product is None:
            continue
        flaking = reading.where("flaking")
        if product.texture == "gel":
            evidence = reading.cite(zones, "oily", least=2) or reading.cite(zones, "oily")
            blemished = reading.cite(zones, "active_blemish")
            why = f"{sentence(evidence)}: oily skin needs water too, and a gel adds no oil."
            if not evidence:
                why = (
                    f"{sentence(blemished)}: water only, since oil would sit on the blemishes."
                    if blemished
                    else "A gel moisturises this skin without weight."
                )
        else:
            evidence = reading.cite(zones, "dry", "dehydrated", "flaking", least=2)
            why = (
                f"{sentence(evidence)}: dry skin grabs product unevenly."
                if evidence
                else "Fed skin takes a thinner film evenly."
            )
        smooth = f"Smooth the flakes {places(flaking)} flat as you press." if set(flaking) & set(zones) else ""
        draft.add(
            "moisturise",
            zones,
            [why, smooth],
            product=product,
            hand=("fingers", "press"),
            active_s=draft.house.moisturise_s,
            wait_s=wait_s,
            rules=["fed-first", "let-it-settle"],
            check="Touch lightly: dry, not tacky.",
        )


def prime(draft: Draft) -> None:
    """One to three primers, each only where its zones ask for it; pore filler first, and dry."""
    reading, house = draft.reading, draft.house
    wants: tuple[tuple[str, tuple[Condition, ...], int, str], ...] = (
        (
            "pores",
            ("enlarged_pores", "raised_texture", "pitted_scar"),
            1,
            "filled level, so that no film sinks",
        ),
        ("oil", ("oily",), 2, "held matt from below"),
        (
            "dryness",
            ("dry", "fine_lines", "flaking"),
            2,
            "slip and water, so that the film bends",
        ),
    )
    primed: set[Zone] = set()
    used: dict[str, tuple[Product, list[Zone], list[str], bool]] = {}
    primers = draft.shelf.of("primer")
    for need, conditions, least, result in wants:
        zones = tuple(
            z
            for z in reading.where(*conditions, least=least)
            if z in CARED and z != "neck" and (z not in primed or need == "oil")
        )
        serving = [item for item in primers if set(item.suits) & set(conditions)]
        product = (
            draft.shelf.best_care("primer", reading, zones, need=True, of=draft.agreeing(serving)) if zones else None
        )
        if product is None:
            continue
        # A mattifier goes over a pore filler; the filler alone serves where it answers oil, too.
        zones = tuple(z for z in zones if z not in primed or product.id not in used)
        primed.update(zones)
        _, where, why, matt = used.get(product.id, (product, [], [], False))
        said = f"{sentence(reading.cite(zones, *conditions, least=least))}: {result}."
        used[product.id] = (product, [*where, *zones], [*why, said], matt or "oily" in conditions)
    for product, where, why, matt in used.values():
        draft.add(
            "prime",
            in_order(where),
            why,
            product=product,
            amount=house.primer_film_um,
            hand=("fingers", "press"),
            wait_s=house.primer_wait_s * (house.matt_primer_factor if matt else 1.0),
            rules=["let-it-settle", "gentle-on-fragile"],
            check="Tacky, not wet.",
        )
    if not used:
        draft.note("No primer: no zone of this face asks for one, and a layer left out cannot cake.")


@dataclass(frozen=True, slots=True)
class Correction:
    """The corrector answer for one zone."""

    zone: Zone
    answer: CorrectorAnswer
    chosen: Covering


@dataclass(frozen=True, slots=True)
class CorrectorChoice:
    """What would do on one zone: every corrector that does about as well as the best."""

    zone: Zone
    answer: CorrectorAnswer
    ways: tuple[Covering, ...]


NOT_CORRECTED: tuple[Zone, ...] = ("lips", "neck", "under_jaw")


def correct_at(draft: Draft, moment: CorrectorOption, foundation_share: Share) -> None:
    """Correct only what is discoloured, if this is the moment, with the corrector and film that make the whole thinnest.

    After the foundation, what still shows through it is corrected; else the planned foundation counts as lying over it.
    """
    if draft.options.corrector != moment:
        return
    over_it = moment != "after_foundation"
    reading = draft.reading
    own, others = draft.agreeing(correctors(draft)), draft.agreeing(stand_ins(draft))
    concealers = nearest(draft.shelf.of("concealer"), draft, 1)
    found: list[CorrectorChoice] = []
    spared: dict[tuple[tuple[tuple[Condition, int], ...], str], list[Zone]] = {}
    anyway = draft.case.intent.correct_anyway
    asking = [z for z in SKIN_ZONES if reading.zones[z].discolorations or z in anyway]
    asking = [z for z in asking if not reading.zones[z].left_alone]
    worst_first = sorted(asking, key=lambda z: -reading.zones[z].severity(*reading.zones[z].discolorations))
    lit = reading.placement.light.zones
    for zone in (z for z in worst_first if z not in NOT_CORRECTED):
        here = reading.zones[zone]
        planned = draft.foundation_um * foundation_share(zone) + draft.house.primer_film_um
        planned += draft.house.light_film_um * draft.house.fragile_share if zone in lit else 0.0
        above = _planned_above(draft, zone, foundation_share) if over_it else ()
        skin = here.lab if over_it else draft.seen(zone)
        room = max(draft.house.rung_whisper_um, here.film_limit_um - planned)
        answer = None
        for items in (own, others):
            usable = draft.sitting(draft.of_role_now(items, [zone]), [zone])
            found_here = solve_corrector(skin, reading.complexion, usable, concealers, above, draft.house, most_um=room)
            # A label is a preference, not a gate: what is sold for something else serves where no corrector brings it near.
            if answer is None or (found_here.worth_it(draft.house) and found_here.best.de < answer.best.de):
                answer = found_here
            if answer.best.near_enough:
                break
        assert answer is not None
        ways = _helping_alone(draft, skin, answer.nearly_as_good(draft.house), above)
        asked_for = zone in draft.case.intent.correct_anyway
        if asked_for and answer.best.corrector is None:
            ways = tuple(each for each in answer.each if each.corrector is not None and each.corrector_um > 0)[:1]
        if not asked_for and (answer.best not in ways or not answer.worth_it(draft.house)):
            as_read = tuple((each, here.conditions[each]) for each in here.discolorations)
            spared.setdefault((as_read, _none_needed(answer, helps_alone=answer.best in ways)), []).append(zone)
            continue
        if ways:
            found.append(CorrectorChoice(zone, answer, ways))
        else:
            draft.leave(zone, "correct", "Asked for, but no corrector of the kit brings it nearer.")
    for (as_read, why), zones in spared.items():
        read_there = sentence(reading.cite(zones, *(condition for condition, _ in as_read)))
        for zone in zones:
            draft.leave(zone, "correct", f"{read_there}: {why}")
    for corrections in _no_hue_for_a_spot(draft, list(_with_fewest_hues(draft, found))):
        _add_correction(draft, corrections)
    if not own and not found and any(reading.zones[z].discolorations for z in ZONES):
        draft.missing("a corrector", "a cream corrector whose hue opposes the discoloration, with cover about 0.5")


def _with_fewest_hues(draft: Draft, asked: list[CorrectorChoice]) -> Iterator[list[Correction]]:
    """A corrector for every zone with as few of them on the hand as will do: first what serves most zones."""
    left = list(asked)
    while left:
        served = Counter(way.corrector.id for each in left for way in each.ways if way.corrector is not None)
        best_first = [each.ways[0].corrector.id for each in left if each.ways[0].corrector is not None]
        # Of those that serve equally many zones, the one that is the best of most.
        chosen = max(dict.fromkeys(best_first), key=lambda hue: (served[hue], best_first.count(hue)))
        corrections = [
            Correction(each.zone, each.answer, _thin_enough(draft, way))
            for each in left
            for way in each.ways
            if way.corrector is not None and way.corrector.id == chosen
        ]
        yield corrections
        done = {each.zone for each in corrections}
        left = [each for each in left if each.zone not in done]


def _no_hue_for_a_spot(draft: Draft, groups: list[list[Correction]]) -> list[list[Correction]]:
    """Nobody opens another corrector for a square centimetre: such a zone gets a hue in use, where that helps it too."""
    wide = [group for group in groups if area_of(each.zone for each in group) >= draft.house.other_hue_cm2]
    groups_left = [list(group) for group in wide]
    for group in groups:
        if group in wide:
            continue
        alone: list[Correction] = []
        for each in group:
            bare = each.answer.without_corrector.de - draft.house.corrector_helps_de
            ways = {way.corrector.id: way for way in each.answer.each if way.corrector is not None and way.de < bare}
            into = next((other for other in groups_left if _hue(other) in ways), None)
            if into is None:
                alone.append(each)
            else:
                into.append(Correction(each.zone, each.answer, _thin_enough(draft, ways[_hue(into)])))
        groups_left += [alone] if alone else []
    return groups_left


def _hue(group: list[Correction]) -> str:
    corrector = group[0].chosen.corrector
    return corrector.id if corrector is not None else ""


def _planned_above(draft: Draft, zone: Zone, foundation_share: Share) -> Above:
    """What the plan will lay over the zone: the foundation in the amount that a hand lays there."""
    part = foundation_share(zone)
    if draft.foundation is None or part <= 0:
        return ()
    return ((draft.foundation, nearest_rung(draft.foundation_um * part, "um", draft.house).amount),)


def _thin_enough(draft: Draft, best: Covering) -> Covering:
    """The covering with a corrector on which the foundation would bead kept so thin that it only might."""
    corrector, foundation = best.corrector, draft.foundation
    if corrector is None or foundation is None or not beads(corrector.base, foundation.base):
        return best
    draft.note(
        f"{corrector.name} is {corrector.base}, and {foundation.name} is {foundation.base}-based: it would bead on more of "
        "it, so the corrector is kept thin. A corrector of the foundation's own base would be free of this."
    )
    thin = film_ladder(draft.house)
    thin = thin[thin < draft.house.thin_underlayer_um]
    return replace(best, corrector_um=min(best.corrector_um, float(thin[-1])))


def _helping_alone(draft: Draft, skin: Lab, coverings: Iterable[Covering], above: Above) -> tuple[Covering, ...]:
    """Those whose corrector brings the zone nearer even before any concealer, which may be laid later or as light.

    A hue that only works together with a film over it would tint the base wherever that film comes out thinner.
    """
    ways = [each for each in coverings if each.corrector is not None]
    if not ways:
        return ()
    ratio, s = bank([each.corrector for each in ways if each.corrector is not None], draft.house)
    # The first row is the zone with no corrector.
    films = np.array([0.0, *(each.corrector_um for each in ways)])
    shown = over(surface(skin), np.vstack([ratio[:1], ratio]), np.vstack([s[:1], s]) * films[:, None])
    for product, film_um in above:
        base = film_for(product, draft.house)
        shown = over(shown, base.ratio, base.s * film_um)
    without, *alone = delta_e(lab_of(shown), np.array(draft.reading.complexion))
    least = without - draft.house.corrector_helps_de
    return tuple(each for each, off in zip(ways, alone, strict=True) if off < least)


def nearest(candidates: Iterable[Product], draft: Draft, most: int) -> tuple[Product, ...]:
    """The candidates whose own colour is nearest to the complexion, at most so many."""

    def off(item: Product) -> float:
        lab = item.lab or (0.0, 0.0, 0.0)
        return sum((a - b) ** 2 for a, b in zip(lab, draft.reading.complexion, strict=True))

    return tuple(sorted((item for item in candidates if item.tinted), key=off)[:most])


def _none_needed(answer: CorrectorAnswer, *, helps_alone: bool) -> str:
    """Why a zone gets no corrector; ``helps_alone``: the best one brings it nearer without a concealer over it."""
    best = answer.best
    if best.total_um == 0:
        return f"under the foundation alone it is {apart(best.de)} off the complexion, so no corrector."
    rest = "concealer on what still shows will do."
    if best.corrector is None and best.near_enough:
        return "concealer alone evens it out in as little film, so no corrector."
    if best.corrector is not None and not helps_alone:
        return f"by itself a corrector would bring it hardly nearer; {rest}"
    if answer.saving:
        return f"a corrector saves too little film here to be worth a step; {rest}"
    return f"a corrector would bring it hardly nearer for the film it takes; {rest}"


def _add_correction(draft: Draft, corrections: list[Correction]) -> None:
    reading, house = draft.reading, draft.house
    zones = in_order(each.zone for each in corrections)
    window = house.under_eye_window_s if any(z in EYES and reading.zones[z].lined for z in zones) else None
    by_amount: dict[float, list[Zone]] = {}
    for each in corrections:
        by_amount.setdefault(each.chosen.corrector_um, []).append(each.zone)
    said = partial(_correction_says, draft, corrections, founded=_founded(draft))
    why, check = said(zones)
    step = draft.lay(
        "correct",
        [
            PortionDraft(in_order(own), amount, draft.cream_hand(own))
            for amount, own in sorted(by_amount.items(), reverse=True)
        ],
        why,
        product=corrections[0].chosen.corrector,
        wait_s=house.cream_wait_s,
        wait_at_most_s=None if window is None else window * 2,
        rules=["correct-before-cover", "corrector-within-patch", "gentle-on-fragile"],
        check=check,
    )
    if step is not None:
        draft.says_on[step.id] = said


def _correction_says(
    draft: Draft, all_corrections: list[Correction], zones: tuple[Zone, ...], *, founded: bool
) -> tuple[list[str], str]:
    """The reasons of a correction on those of its zones that are corrected in the end, and what to look for.

    ``founded`` says that the foundation lies already.
    """
    reading, house = draft.reading, draft.house
    corrections = [each for each in all_corrections if each.zone in zones]
    first = corrections[0]
    conditions: list[Condition] = []
    for zone in zones:
        conditions.extend(c for c in reading.zones[zone].discolorations if c not in conditions)
    saving = sum(each.answer.saving_of(each.chosen) for each in corrections) / len(corrections)
    unasked = [each.zone for each in corrections if not each.answer.worth_it(house)]
    gain = (
        f"As planned, it saves {100 * saving:.0f} % of the film that concealer alone would need."
        if saving > house.corrector_worth / 2
        else f"Without it the zone stays {apart_then(first.answer.without_corrector.de, first.chosen.de)}."
    )
    lined = set(reading.where("creping", "fine_lines", least=2)) & set(zones)
    when = "cancelled where it still shows." if founded else "cancelled first, so that less must cover it."
    why = [
        f"{sentence(reading.cite(zones, *conditions))}: {when}",
        gain,
        _why_from_another_role(first.chosen.corrector),
        "Thin it on the back of the hand with eye cream or balm: skin is lined here." if lined else "",
        f"Asked for {places(unasked)}, though hardly anything would show without it." if unasked else "",
    ]
    return why, f"The {join_words(_hue_words(conditions))} is grey or skin-coloured, not hidden."


def _why_from_another_role(corrector: Product | None) -> str:
    """Why an item sold for something else corrects; nothing to say for a corrector."""
    if corrector is None or corrector.role == "corrector":
        return ""
    return f"{corrector.name} is sold as {ROLE_INFO[corrector.role].words}; it corrects here, since its hue cancels what was read."


def _founded(draft: Draft) -> bool:
    """Whether the foundation lies by now."""
    return any(step.kind == "foundation" for step in draft.steps)


def _hue_words(conditions: Iterable[Condition]) -> list[str]:
    return list(dict.fromkeys(CONDITION_INFO[c].words.removeprefix("a ") for c in conditions))
