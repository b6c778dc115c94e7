"""Order: what must lie before what, judged zone by zone."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from nabrel.core.judge.book import Breach, Fix, Judged, rule
from nabrel.core.plan.edits import Add, Move
from nabrel.core.plan.step import Step
from nabrel.core.terms.ids import Zone
from nabrel.core.terms.places import places
from nabrel.core.terms.steps import (
    CARE_KINDS,
    FEATURE_KINDS,
    LAYER_KINDS,
    MIST_KINDS,
    POWDER_KINDS,
    STEP_INFO,
    step_words,
)


def _first_powder_on(judged: Judged, zones: tuple[Zone, ...], index: int) -> Step | None:
    for earlier in judged.sequence.steps[:index]:
        if earlier.powder_mg is not None and set(earlier.zones) & set(zones):
            return earlier
    return None


@rule(
    "wet-over-powder",
    "order",
    "problem",
    "Wet goes before dry on the same zone.",
    "A cream or liquid laid over powder grabs the grains and dries in patches.",
    other_view="A very thin glow pressed onto smooth, lightly set high planes at the end wakes up flat skin.",
    parameters=("late_sheen_um", "light_set_mg"),
)
def wet_over_powder(judged: Judged) -> Iterator[Breach]:
    for index, step in judged.steps():
        if step.film_um is None or step.film_um <= 0 or step.kind == "prime" or step.kind in FEATURE_KINDS:
            continue
        # Drops of a mist have no film that could grab powder, whatever amount is written.
        product = judged.product(step)
        if step.kind in MIST_KINDS or (product is not None and product.texture == "mist"):
            continue
        zones = tuple(z for z in step.zones if judged.before(index, z).powder_mg > 0 and step.amounts[z] > 0)
        if not zones:
            continue
        sheen = (
            step.kind == "glow"
            and step.film_um <= judged.house.late_sheen_um
            and all(
                judged.before(index, z).powder_mg <= judged.house.light_set_mg and not judged.here(z).textured
                for z in zones
            )
        )
        line = step.kind == "clean_edge" and step.film_um <= judged.house.late_sheen_um
        powder = _first_powder_on(judged, zones, index)
        fix = (
            Fix(
                f"Move it before the powder, to stand before {step_words(powder.kind)}",
                (Move(step.id, powder.id),),
            )
            if powder is not None
            else None
        )
        yield Breach(
            (step.id,),
            zones,
            f"{_name(step)} goes wet over powder {places(zones)}.",
            fix,
            "advice" if sheen or line else None,
            (powder.id,) if powder is not None else (),
        )


@rule(
    "correct-before-cover",
    "order",
    "advice",
    "Correct before the foundation.",
    "A hue cancelled first lets every layer above be thinner.",
    other_view="Another school lays foundation first, to see what is left, and corrects only that.",
)
def correct_before_cover(judged: Judged) -> Iterator[Breach]:
    if judged.sequence.case.intent.options.corrector == "after_foundation":
        return
    covered: dict[Zone, str] = {}
    for _, step in judged.steps():
        if step.kind == "foundation":
            for zone in step.zones:
                covered.setdefault(zone, step.id)
        if step.kind == "correct":
            zones = tuple(z for z in step.zones if z in covered)
            if zones:
                first = min((covered[z] for z in zones), key=_position(judged))
                yield Breach(
                    (step.id,),
                    zones,
                    f"The corrector comes after the foundation {places(zones)}.",
                    Fix("Move it before the foundation", (Move(step.id, first),)),
                    against=(first,),
                )


@rule(
    "clean-first",
    "order",
    "advice",
    "The base starts on clean skin.",
    "Film laid on oil or old product slides.",
)
def clean_first(judged: Judged) -> Iterator[Breach]:
    for _, step in judged.steps():
        if step.kind == "cleanse":
            return
        if step.lays and step.kind in LAYER_KINDS:
            yield Breach((step.id,), (), "Nothing says that the skin was cleaned before the first layer.")
            return


@rule(
    "fed-first",
    "order",
    "advice",
    "Dry zones are moisturised before anything covers them.",
    "Dry skin grabs product unevenly, and a moisturised under-eye creases less.",
)
def fed_first(judged: Judged) -> Iterator[Breach]:
    told: set[Zone] = set()
    for index, step in judged.steps():
        if step.kind not in LAYER_KINDS or not step.lays:
            continue
        zones = tuple(
            z
            for z in step.zones
            if judged.here(z).dry >= 2
            and z not in told
            and z != "lips"
            and not any(
                z in s.zones and s.kind in CARE_KINDS and s.kind != "cleanse" for s in judged.sequence.steps[:index]
            )
        )
        if zones:
            told.update(zones)
            yield Breach(
                (step.id,),
                zones,
                f"{judged.reading.cite(zones, 'dry', 'dehydrated', 'flaking', least=2).capitalize()}, and nothing fed it.",
            )


@rule(
    "prime-on-bare-skin",
    "order",
    "problem",
    "Primer goes under every colour.",
    "A primer pressed over film lifts it and fills nothing.",
)
def prime_on_bare_skin(judged: Judged) -> Iterator[Breach]:
    for index, step in judged.steps():
        if step.kind != "prime":
            continue
        zones = tuple(
            z for z in step.zones if judged.before(index, z).wet_um > 0 or judged.before(index, z).powder_mg > 0
        )
        if zones:
            first = next(s for s in judged.sequence.steps if s.lays and s.kind != "prime" and set(s.zones) & set(zones))
            yield Breach(
                (step.id,),
                zones,
                f"Primer over colour {places(zones)}.",
                Fix("Move the primer under it", (Move(step.id, first.id),)),
                against=(first.id,),
            )


@rule(
    "crease-check-before-powder",
    "order",
    "advice",
    "Press creases flat just before they are powdered.",
    "Powder fixes whatever it finds, a crease included.",
    parameters=("crease_grave_line", "crease_limit"),
    at_worst="problem",
)
def crease_check_before_powder(judged: Judged) -> Iterator[Breach]:
    for index, step in judged.steps():
        if step.kind not in POWDER_KINDS:
            continue
        zones = tuple(
            z
            for z in step.zones
            if z.startswith(("under_eye", "smile_line"))
            and (judged.here(z).lined or judged.here(z).severity("deep_fold"))
            and not _smoothed(judged, index, z)
        )
        if zones:
            worst = max(zones, key=lambda z: (_line(judged, z), judged.forecast[z].crease))
            film = judged.before(index, worst).wet_um
            grave = _line(judged, worst) >= judged.house.crease_grave_line and film >= judged.house.rung_thin_um
            yield Breach(
                (step.id,),
                zones,
                f"{_name(step)} {places(zones)} without smoothing the crease first: {film:.1f} µm lies in a line of severity "
                f"{_line(judged, worst)}.",
                Fix(
                    "Add a crease check just before",
                    (Add("crease_check", zones, step.id, tool="damp_sponge", motion="press"),),
                ),
                "problem" if grave else None,
            )


def _line(judged: Judged, zone: Zone) -> int:
    """How lined or folded a zone is."""
    return max(judged.here(zone).lined, judged.here(zone).severity("deep_fold"))


def _smoothed(judged: Judged, index: int, zone: Zone) -> bool:
    """Whether the last thing done on the zone was a crease check, or it was powdered flat already."""
    lying = judged.before(index, zone)
    if lying.powder_mg > 0:
        return True
    return lying.last is not None and judged.sequence.steps[lying.last].kind in ("crease_check", "press_back")


@rule(
    "bake-then-dust",
    "order",
    "problem",
    "A bake is dusted off.",
    "What has not taken up oil stays as a pale cast and flares in a flash.",
)
def bake_then_dust(judged: Judged) -> Iterator[Breach]:
    steps = judged.sequence.steps
    for index, step in judged.steps():
        if not step.swept:
            continue
        dusted = {z for later in steps[index + 1 :] if later.kind == "dust_off" for z in later.zones}
        zones = tuple(z for z in step.zones if z not in dusted)
        if zones:
            after = steps[index + 1].id if index + 1 < len(steps) else None
            yield Breach(
                (step.id,),
                zones,
                f"The {'bake' if step.kind == 'bake' else 'line of powder'} {places(zones)} is never dusted off.",
                Fix("Dust it off", (Add("dust_off", zones, after, tool="fluffy_brush", motion="whisk"),)),
            )


def _position(judged: Judged) -> Callable[[str], int]:
    order = {step.id: index for index, step in enumerate(judged.sequence.steps)}
    return lambda step_id: order[step_id]


def _name(step: Step) -> str:
    return STEP_INFO[step.kind].words
