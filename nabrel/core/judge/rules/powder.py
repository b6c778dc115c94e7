"""Powder: where it is needed, of which value, and how it is joined to the skin."""

from __future__ import annotations

from collections.abc import Iterator

from nabrel.core.judge.book import Breach, Fix, Judged, rule
from nabrel.core.judge.rules.material import nearest_swap
from nabrel.core.judge.ways_out import without
from nabrel.core.plan.edits import Add, SetProduct, SetWait
from nabrel.core.terms.places import places
from nabrel.core.terms.schools import LIGHT_ALONE
from nabrel.core.terms.steps import POWDER_KINDS
from nabrel.core.terms.zones import COMPLEXION_ZONES, in_order


@rule(
    "bake-to-its-time",
    "setting",
    "advice",
    "A bake is dusted off in time.",
    "Left longer, it has drunk the film dry and cracks with the first smile.",
    parameters=("longest_bake_s",),
)
def bake_to_its_time(judged: Judged) -> Iterator[Breach]:
    longest = judged.house.longest_bake_s
    for index, step in judged.steps():
        if step.kind != "bake":
            continue
        end = judged.course.done[index].end
        dusts = [
            judged.course.starts[i] - end
            for i, s in enumerate(judged.sequence.steps)
            if i > index and s.kind == "dust_off" and set(s.zones) & set(step.zones)
        ]
        sits = min(dusts, default=step.wait_s)
        if sits > longest:
            fix = (
                Fix(f"Wait {judged.house.bake_s:g} s", (SetWait(step.id, judged.house.bake_s),))
                if step.wait_s > longest
                else None
            )
            yield Breach((step.id,), step.zones, f"The bake sits {sits / 60:.0f} min; {longest / 60:.0f} at most.", fix)


@rule(
    "what-creases-is-set",
    "setting",
    "advice",
    "A fold that is forecast to crease is set.",
    "Unset film runs into the fold within the hour.",
    other_view="Dewy schools leave it unset and accept the crease for the freshness.",
    parameters=("crease_limit", "crease_grave", "creasing_film_um", "long_day_h"),
    at_worst="problem",
)
def what_creases_is_set(judged: Judged) -> Iterator[Breach]:
    wish = judged.sequence.case.intent
    zones = tuple(
        z
        for z in COMPLEXION_ZONES
        if judged.forecast[z].crease > judged.house.crease_limit
        and judged.course.after[z].wet_um > judged.house.creasing_film_um
        and judged.course.after[z].powder_mg <= 0
    )
    if not zones:
        return
    steps = judged.sequence.steps
    last = max((i for i, s in enumerate(steps) if s.film_um and set(s.zones) & set(zones)), default=0)
    powder = next((i for i in judged.products.values() if i.role == "setting_powder" and i.dry), None)
    before = steps[last + 1].id if last + 1 < len(steps) else None
    edits = (
        Add("crease_check", zones, before, tool="damp_sponge", motion="press"),
        Add("set", zones, before, powder.id, judged.house.press_mg, tool="fluffy_brush", motion="press"),
    ) if powder else ()  # fmt: skip
    worst = max(judged.forecast[z].crease for z in zones)
    # Left wet by wish it is a price; left wet by oversight for a long day it is a fault.
    grave = (
        powder is not None
        and worst > judged.house.crease_grave
        and wish.setting != "none"
        and wish.wear_hours >= judged.house.long_day_h
    )
    yield Breach((steps[last].id,), zones,
                f"The film {places(zones)} is never set: its forecast crease is {worst:.2f}, over the house's {judged.house.crease_limit:.2f}"
                + (f", and {wish.wear_hours:g} h are wanted." if grave else "."),
                Fix("Check the crease and press a whisper of powder", edits) if edits else None,
                "problem" if grave else None)  # fmt: skip


@rule(
    "powder-matches-value",
    "setting",
    "advice",
    "Powder matches the value it lies on: pale over light, deeper over shade.",
    "A face-coloured powder darkens the lift, and a pale one greys deep skin.",
    parameters=("ashy_step_l",),
)
def powder_matches_value(judged: Judged) -> Iterator[Breach]:
    level = judged.appearance.target[0]
    lit = {z for s in judged.sequence.steps if s.kind == "light" and s.lays for z in s.zones}
    for _, step in judged.steps():
        product = judged.product(step)
        if step.kind not in POWDER_KINDS or product is None or product.lab is None or not step.powder_mg:
            continue
        dark = tuple(z for z in step.zones if z in lit and product.lab[0] < level - judged.house.free_value_step)
        left = judged.house.bake_left_mg if step.kind == "bake" else step.powder_mg
        ashy = product.lab[0] - level > judged.house.ashy_step_l and left >= judged.house.set_mg
        if not dark and not ashy:
            continue
        zones = dark or step.zones
        other = nearest_swap(
            judged,
            product,
            lambda item: item.lab is not None and abs(item.lab[0] - level) <= judged.house.substitute_far_l,
        )
        word = "darkens the light" if dark else f"is {product.lab[0] - level:.0f} L* paler than the skin and greys it"
        yield Breach((step.id,), zones, f"{product.name} {word} {places(zones)}.",
                    Fix(f"Use {other.name}", (SetProduct(step.id, other.id),)) if other else None)  # fmt: skip


@rule(
    "powder-as-asked",
    "setting",
    "advice",
    "Where no powder was asked for, none is laid.",
    "Every grain takes a little of the light that the wish was for.",
)
def powder_as_asked(judged: Judged) -> Iterator[Breach]:
    if judged.sequence.case.intent.setting != "none" or judged.school.sets_as_it_goes:
        return
    for index, step in judged.steps():
        if step.kind != "set" or not step.powder_mg:
            continue
        # A press under a pan is what lets the pan glide, whatever was asked for.
        under = {
            zone
            for later in judged.sequence.steps[index + 1 :]
            if later.powder_mg and later.kind in ("shade", "bronze", "colour", "glow")
            for zone in later.zones
        }
        zones = tuple(zone for zone in step.zones if zone not in under)
        if zones:
            yield Breach((step.id,), zones, "No powder was asked for.", without(step, zones))


@rule(
    "mist-for-long-wear",
    "setting",
    "advice",
    "Long wear gets a film-forming mist at the end.",
    "It joins the layers into one film that moves with the face.",
    parameters=("long_wear_h",),
)
def mist_for_long_wear(judged: Judged) -> Iterator[Breach]:
    hours = judged.sequence.case.intent.wear_hours
    mist = next((i for i in judged.products.values() if i.role == "setting_mist"), None)
    if hours < judged.house.long_wear_h or mist is None or any(s.kind == "setting_mist" for s in judged.sequence.steps):
        return
    laid = [s for s in judged.sequence.steps if s.kind == "foundation" and s.lays]
    if laid:
        zones = in_order(z for s in laid for z in s.zones)
        add = Add(
            "setting_mist",
            zones,
            None,
            mist.id,
            tool="fingers",
            motion="mist",
            active_s=judged.house.mist_s,
            wait_s=judged.house.mist_dry_s,
        )
        yield Breach(
            (laid[-1].id,),
            (),
            f"{hours:g} hours are wanted, without a setting mist.",
            Fix(f"{mist.name} at the end", (add,)),
        )


@rule(
    "mute-where-light-rests",
    "setting",
    "advice",
    "Shine is muted in the recesses, not on the planes that should catch light.",
    "Powder on the high planes takes away what this order works with.",
    schools=LIGHT_ALONE,
)
def mute_where_light_rests(judged: Judged) -> Iterator[Breach]:
    mixed = judged.house.least_film_um
    glowing = {
        z for s in judged.sequence.steps if s.kind == "glow" for z, amount in s.amounts.items()
        if s.unit != "um" or amount > mixed
    }  # fmt: skip
    for _, step in judged.steps():
        zones = tuple(z for z in step.zones if z in glowing)
        if step.kind == "mute_shine" and zones:
            yield Breach((step.id,), zones, f"Shine muted {places(zones)}, where the glow lies.", without(step, zones))
