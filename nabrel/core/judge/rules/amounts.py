"""Amounts and setting: load, passes, waits, bakes and shine."""

from __future__ import annotations

from collections.abc import Iterator

from nabrel.core.house.factors import learnt_from
from nabrel.core.judge.book import Breach, Fix, Judged, rule
from nabrel.core.judge.ways_out import no_more_than, short
from nabrel.core.plan.edits import Add, Edit, Remove, SetWait, SetZones
from nabrel.core.plan.step import Step
from nabrel.core.terms.ids import Zone
from nabrel.core.terms.places import places
from nabrel.core.terms.steps import MIST_KINDS, POWDER_KINDS, STEP_INFO, step_words
from nabrel.core.terms.zones import in_order
from nabrel.core.wear.forecast import ZoneForecast


@rule(
    "within-what-it-carries",
    "amounts",
    "problem",
    "No zone is loaded beyond what it carries.",
    "Past that ceiling a base stops looking like skin and starts looking like makeup: cake.",
    parameters=("film_limit_um", "cake_grave"),
)
def within_what_it_carries(judged: Judged) -> Iterator[Breach]:
    over = [f for f in judged.forecast.values() if f.cake > 1.0]
    if not over:
        return
    zones = in_order(f.zone for f in over)
    heavy = _heaviest(judged, zones)
    worst = max(over, key=lambda f: f.cake)
    fix = None
    if heavy is not None and heavy.film_um is not None:
        spare = max(worst.load_um - worst.limit_um, 0.0)
        less = max(1.0, round(heavy.film_um - spare - 0.5, 1))
        if less < heavy.film_um:
            edits = no_more_than(heavy, less, zones)
            fix = Fix(f"{STEP_INFO[heavy.kind].words} at {less:g} µm there", edits) if edits else None
    steps = tuple(s.id for s in judged.sequence.steps if s.lays and set(s.zones) & set(zones))
    yield Breach(
        (heavy.id,) if heavy else steps,
        zones,
        f"{worst.load_um:.1f} µm lies {places([worst.zone])}, which carries {worst.limit_um:.1f} µm"
        + (f"; {len(zones)} zones are over their ceiling." if len(zones) > 1 else "."),
        fix,
        None if worst.cake > judged.house.cake_grave else "advice",
    )


def _heaviest(judged: Judged, zones: tuple[Zone, ...]) -> Step | None:
    laid = [s for s in judged.sequence.steps if s.film_um and set(s.zones) & set(zones)]
    return max(laid, key=lambda s: (s.film_um or 0.0, -judged.sequence.steps.index(s)), default=None)


@rule(
    "thin-passes",
    "amounts",
    "advice",
    "Two thin passes beat one thick.",
    "A thick pass cannot be pressed even, and it dries with a skin over wet product.",
    parameters=("thick_pass_um",),
)
def thin_passes(judged: Judged) -> Iterator[Breach]:
    for _, step in judged.steps():
        if step.film_um is not None and step.film_um > judged.house.thick_pass_um:
            yield Breach(
                (step.id,),
                step.zones,
                f"{step.film_um:g} µm of {step_words(step.kind)} in one pass.",
                Fix(
                    f"{judged.house.thick_pass_um - 2:g} µm, then look",
                    no_more_than(step, judged.house.thick_pass_um - 2),
                ),
            )


@rule(
    "let-it-settle",
    "setting",
    "advice",
    "Each layer settles before the next one goes over it.",
    "A layer put on too soon mixes with the one below and slides.",
    parameters=(
        "settle_share",
        "no_wait_share",
        "moisturiser_wait_s",
        "primer_wait_s",
        "foundation_wait_s",
        "bake_s",
        "mist_dry_s",
    ),
    at_worst="problem",
)
def let_it_settle(judged: Judged) -> Iterator[Breach]:
    house = judged.house
    for index, step in judged.steps():
        settles = STEP_INFO[step.kind].settles
        need: float = getattr(house, settles) if settles else 0.0
        had = {zone: row for zone in step.zones if need and (row := _rested(judged, index, zone))}
        short_of = in_order(zone for zone, (rest, _) in had.items() if rest < house.settle_share * need)
        if not short_of:
            continue
        least, over = min(had[zone] for zone in short_of)
        above = judged.sequence.steps[over]
        # What nothing was waited for at all slides or patches on any skin; a short wait costs by degrees.
        none_at_all = STEP_INFO[step.kind].nature in UNSETTLED and least <= house.no_wait_share * need
        yield Breach(
            (step.id,),
            short_of,
            f"{STEP_INFO[step.kind].words} is left {least:.0f} s {short(short_of)} before {step_words(above.kind)} goes over it; "
            f"it wants about {need:g} s.",
            Fix(f"Wait {need:g} s", (SetWait(step.id, need, None),)),
            "problem" if none_at_all else None,
            (above.id,),
        )


UNSETTLED = ("care", "prime", "mist")
"""What is still wet enough, worked over at once, to slide or to clot powder."""


def _rested(judged: Judged, index: int, zone: Zone) -> tuple[float, int] | None:
    """The seconds that a step rests on a zone before the next layer is worked there, and which step that is.

    Care follows care and primer follows primer without a wait, and a glow goes into a damp mist on purpose.
    """
    steps, kind = judged.sequence.steps, judged.sequence.steps[index].kind
    nature = STEP_INFO[kind].nature
    for later, step in enumerate(steps[index + 1 :], start=index + 1):
        if zone not in step.zones or not (step.lays or step.kind == "dust_off"):
            continue
        if nature in ("care", "prime") and STEP_INFO[step.kind].nature == nature:
            continue
        if nature == "mist" and step.kind == "glow":
            return None
        return _begins(judged, later, zone) - judged.course.states[index + 1][zone].done_at, later
    return None


def _begins(judged: Judged, index: int, zone: Zone) -> float:
    """When a step's own work on a zone begins, s: after its portions before that one, and not before the zone is ready."""
    begins = judged.course.starts[index]
    for portion in judged.sequence.steps[index].portions:
        if zone in portion.zones:
            break
        begins += portion.active_s
    return max(begins, judged.before(index, zone).ready_at)


@rule(
    "set-in-time",
    "setting",
    "problem",
    "What creases is followed up before it gathers.",
    "A smoothed crease comes back within half a minute, and a wet under-eye gathers within a few.",
)
def set_in_time(judged: Judged) -> Iterator[Breach]:
    steps, starts = judged.sequence.steps, judged.course.starts
    for index, step in judged.steps():
        if step.wait_at_most_s is None:
            continue
        late: list[Zone] = []
        worst = 0.0
        for zone in step.zones:
            following = next((j for j in range(index + 1, len(steps)) if zone in steps[j].zones), None)
            gap = None if following is None else starts[following] - judged.course.states[index + 1][zone].done_at
            if gap is not None and gap > step.wait_at_most_s:
                late.append(zone)
                worst = max(worst, gap)
        if late:
            yield Breach(
                (step.id,),
                tuple(late),
                f"After {step_words(step.kind)} {places(late)} nothing follows for {worst:.0f} s; "
                f"the longest wait is {step.wait_at_most_s:g} s.",
            )


@rule(
    "no-bake-on-lines",
    "setting",
    "problem",
    "No bake under lined, creped or dry eyes.",
    "Thick powder sinks into a line, dries it further and stays there.",
    other_view="Others bake there for brightness on camera and accept the crease.",
    parameters=("bake_line_limit",),
)
def no_bake_on_lines(judged: Judged) -> Iterator[Breach]:
    for _, step in judged.steps():
        if step.kind != "bake":
            continue
        zones = tuple(
            z for z in step.zones if judged.here(z).lined >= judged.house.bake_line_limit or judged.here(z).dry >= 2
        )
        if zones:
            lined = any(judged.here(z).lined >= judged.house.bake_line_limit for z in zones)
            causes = ("creping", "fine_lines") if lined else ("dry", "dehydrated", "flaking")
            evidence = judged.reading.cite(zones, *causes, least=2)
            yield Breach((step.id,), zones, f"A bake where there is {evidence}.", _press_lightly(judged, step, zones))


def _press_lightly(judged: Judged, step: Step, zones: tuple[Zone, ...]) -> Fix:
    rest = tuple(z for z in step.zones if z not in zones)
    press = Add("set", zones, step.id, step.item, judged.house.press_mg, tool="fluffy_brush", motion="press")
    edits: list[Edit] = [press]
    for other in judged.sequence.steps:
        if other.kind not in ("bake", "dust_off") or not set(other.zones) & set(zones):
            continue
        left = rest if other.id == step.id else tuple(z for z in other.zones if z not in zones)
        if not left and other.kind == "bake":
            edits.append(Remove(other.id))
        elif left:
            edits.append(SetZones(other.id, left))
        else:
            edits.insert(1, Remove(other.id))
    return Fix("A light press there instead", tuple(edits))


@rule(
    "shine-before-time",
    "setting",
    "advice",
    "Oily zones are given enough powder for the hours wanted.",
    "Oil comes at its own rate; powder takes up only so much of it.",
    parameters=("short_shine_share", "oil_per_mg_powder"),
)
def shine_before_time(judged: Judged) -> Iterator[Breach]:
    wanted = judged.sequence.case.intent.wear_hours
    soon = [
        f
        for f in judged.forecast.values()
        if f.film_um > 0 and judged.here(f.zone).oily >= 2 and f.shine_hours < judged.house.short_shine_share * wanted
    ]
    if not soon:
        return
    zones = in_order(f.zone for f in soon)
    first = min(soon, key=lambda f: f.shine_hours)
    powder = next((s for s in judged.sequence.steps if s.kind in POWDER_KINDS and s.powder_mg is not None), None)
    before = next((s.id for s in judged.sequence.steps if s.kind in MIST_KINDS), None)
    unset = tuple(z for z in zones if judged.forecast[z].powder_mg == 0)
    fix = None
    if unset and powder is not None:
        add = Add("set", unset, before, powder.item, judged.house.set_mg, tool="puff", motion="press")
        fix = Fix("Press powder there", (add,))
    yield Breach(
        (powder.id,) if powder else (),
        zones,
        f"Shine is expected after {first.shine_hours:.1f} h {places([first.zone])}{_learnt(first)}; {wanted:g} h are wanted. "
        "Plan a blot and touch-up.",
        fix,
    )


def _learnt(row: ZoneForecast) -> str:
    looks = row.looks_behind("shine_hours")
    return f" ({learnt_from(looks)})" if looks else ""
