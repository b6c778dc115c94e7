"""Layering: what the school, the wishes and the powders ask of the order beyond wet before dry."""

from __future__ import annotations

from collections.abc import Iterator

from nabrel.core.judge.book import Breach, Fix, Judged, rule
from nabrel.core.judge.rules.material import nearest_swap
from nabrel.core.judge.ways_out import short, without
from nabrel.core.plan.edits import Add, Move, SetProduct
from nabrel.core.plan.step import Step
from nabrel.core.terms.ids import Zone
from nabrel.core.terms.places import places
from nabrel.core.terms.schools import BENEATH
from nabrel.core.terms.steps import CARE_KINDS, POWDER_KINDS, STEP_INFO
from nabrel.core.terms.zones import both, in_order


def _index(judged: Judged, step: Step) -> int:
    return judged.sequence.steps.index(step)


def _said(step: Step) -> str:
    return STEP_INFO[step.kind].words


@rule(
    "care-under-colour",
    "order",
    "problem",
    "Skin care goes under every colour.",
    "Cream or sunscreen over a film lifts it, and what it was meant to feed stays dry.",
)
def care_under_colour(judged: Judged) -> Iterator[Breach]:
    for index, step in judged.steps():
        if step.kind not in CARE_KINDS:
            continue
        zones = tuple(
            z for z in step.zones if judged.before(index, z).wet_um > 0 or judged.before(index, z).powder_mg > 0
        )
        if zones:
            first = next(
                s
                for s in judged.sequence.steps
                if s.lays and s.kind not in CARE_KINDS | {"prime"} and set(s.zones) & set(zones)
            )
            yield Breach(
                (step.id,),
                zones,
                f"{_said(step)} over colour {short(zones)}.",
                Fix("Move it under the colour", (Move(step.id, first.id),)),
                against=(first.id,),
            )


@rule(
    "sunscreen-over-care",
    "order",
    "advice",
    "Sunscreen is the last of the skin care.",
    "Cream over sunscreen thins the only layer that protects.",
)
def sunscreen_over_care(judged: Judged) -> Iterator[Breach]:
    steps = judged.sequence.steps
    sun = next((s for s in steps if s.kind == "sunscreen"), None)
    later = [
        s for s in steps if s.kind in ("moisturise", "eye_care") and sun and _index(judged, s) > _index(judged, sun)
    ]
    if sun and later:
        after = steps[_index(judged, later[-1]) + 1].id if _index(judged, later[-1]) + 1 < len(steps) else None
        yield Breach(
            (sun.id,),
            sun.zones,
            "Skin care follows the sunscreen.",
            Fix("Move it after the care", (Move(sun.id, after),)),
        )


@rule(
    "sunscreen-by-day",
    "order",
    "advice",
    "By day, sunscreen is part of the skin care.",
    "What a base holds is a fraction of the amount at which a label was tested: it does not protect.",
)
def sunscreen_by_day(judged: Judged) -> Iterator[Breach]:
    kinds = [s.kind for s in judged.sequence.steps]
    owned = any(item.role == "sunscreen" for item in judged.products.values())
    if (
        owned
        and "moisturise" in kinds
        and "sunscreen" not in kinds
        and "daylight" in judged.sequence.case.intent.lights
    ):
        care = next(s for s in judged.sequence.steps if s.kind == "moisturise")
        yield Breach((care.id,), (), "Daylight was asked for, and no sunscreen is in the plan.")


@rule(
    "pore-filler-first",
    "order",
    "advice",
    "Pore filler goes first and dry, the mattifier over it.",
    "A filler over a mattifier rolls off the powder in it.",
)
def pore_filler_first(judged: Judged) -> Iterator[Breach]:
    primers = [(s, p) for s in judged.sequence.steps if s.kind == "prime" and (p := judged.product(s)) is not None]
    for index, (matte, product) in enumerate(primers):
        if "oily" not in product.suits or set(product.suits) & {"enlarged_pores", "pitted_scar"}:
            continue
        for filler, other in primers[index + 1 :]:
            zones = tuple(z for z in filler.zones if z in matte.zones)
            if set(other.suits) & {"enlarged_pores", "pitted_scar", "raised_texture"} and zones:
                yield Breach((filler.id,), zones, f"{other.name} over {product.name} {places(zones)}.",
                            Fix("Filler first", (Move(filler.id, matte.id),)), against=(matte.id,))  # fmt: skip


@rule(
    "sculpted-beneath",
    "order",
    "advice",
    "Underpainted light and shade lie under the foundation.",
    "It is the foundation over them that forgives their edges; on top they need blending and setting.",
    schools=BENEATH,
)
def sculpted_beneath(judged: Judged) -> Iterator[Breach]:
    covered: dict[Zone, Step] = {}
    for _, step in judged.steps():
        if step.kind == "foundation":
            for zone in step.zones:
                covered.setdefault(zone, step)
        zones = tuple(z for z in step.zones if z in covered)
        if step.kind in ("shade", "light") and step.film_um and zones:
            first = min((covered[z] for z in zones), key=lambda s: _index(judged, s))
            yield Breach((step.id,), zones, f"{_said(step)} lies over the foundation {places(zones)}.",
                        Fix("Move it beneath", (Move(step.id, first.id),)), against=(first.id,))  # fmt: skip


@rule(
    "light-or-shade-as-asked",
    "order",
    "advice",
    "Light and shade come in the order asked for.",
    "Pale first keeps the tools clean of dark; dark first gives the structure, and light cleans its edge.",
    other_view="Both camps fear the other's drag: dark into light, or light over dark. Two tools settle it.",
)
def light_or_shade_as_asked(judged: Judged) -> Iterator[Breach]:
    steps = judged.sequence.steps
    light = next((s for s in steps if s.kind == "light" and s.film_um), None)
    shade = next((s for s in steps if s.kind == "shade" and s.film_um), None)
    if light is None or shade is None:
        return
    first, second = (light, shade) if judged.sequence.case.intent.order == "light_first" else (shade, light)
    if _index(judged, first) > _index(judged, second):
        yield Breach((first.id,), first.zones, f"{_said(first)} was asked for first; {second.kind} comes before it.",
                    Fix(f"{_said(first)} first", (Move(first.id, second.id),)), against=(second.id,))  # fmt: skip


@rule(
    "spots-after-foundation",
    "order",
    "advice",
    "Spots are concealed after the foundation.",
    "Then only what still shows gets concealer.",
    other_view="The even-canvas school conceals first, so that the foundation can be thin everywhere.",
)
def spots_after_foundation(judged: Judged) -> Iterator[Breach]:
    if judged.sequence.case.intent.options.spot == "before_foundation" or judged.school.frames:
        return
    steps = judged.sequence.steps
    for step in (s for s in steps if s.kind == "spot_conceal" and s.lays):
        later = [
            s for s in steps[_index(judged, step) + 1 :] if s.kind == "foundation" and set(s.zones) & set(step.zones)
        ]
        if later:
            at = _index(judged, later[-1]) + 1
            yield Breach((step.id,), step.zones, "Foundation will go over the concealed spots.",
                        Fix("Conceal after it", (Move(step.id, steps[at].id if at < len(steps) else None),)),
                        against=tuple(s.id for s in later))  # fmt: skip


@rule(
    "place-all-needs-slow-creams",
    "order",
    "advice",
    "Placing all before blending needs creams that stay open.",
    "What dries where it was placed is blended with force, and lifts what lies beneath.",
    other_view="Placing all first shows the whole map before anything is blended; slow creams allow it.",
)
def place_all_needs_slow_creams(judged: Judged) -> Iterator[Breach]:
    if judged.sequence.case.intent.blend != "place_all":
        return
    for _, step in judged.steps():
        product = judged.product(step)
        if step.kind in ("light", "shade") and product and step.film_um and product.base in ("water", "alcohol"):
            other = nearest_swap(judged, product, lambda item: item.base not in ("water", "alcohol"))
            yield Breach((step.id,), step.zones, f"{product.name} is {product.base}-based and dries while the rest is placed.",
                        Fix(f"Use {other.name}", (SetProduct(step.id, other.id),)) if other else None)  # fmt: skip


@rule(
    "powder-colour-over-set-film",
    "order",
    "advice",
    "Powder shade and colour go over a set film.",
    "On a tacky film a brown powder grabs where it first touches, and will not be moved.",
    other_view="Laid before setting and veiled over, its edges are softer; it needs a light hand.",
)
def powder_colour_over_set_film(judged: Judged) -> Iterator[Breach]:
    for index, step in judged.steps():
        if step.kind not in ("shade", "bronze", "colour") or not step.powder_mg:
            continue
        zones = tuple(z for z in step.zones if judged.lies(index, z) in ("wet", "tacky"))
        powder = next((i for i in judged.products.values() if i.role == "setting_powder"), None)
        if zones:
            add = powder and Add("set", zones, step.id, powder.id, judged.house.press_mg, tool="puff", motion="press")
            yield Breach((step.id,), zones, f"{_said(step)} in powder over a film that is not set {places(zones)}.",
                        Fix("A light press first", (add,)) if add else None, against=judged.beneath(index, zones))  # fmt: skip


@rule(
    "no-powder-over-glow",
    "order",
    "advice",
    "Nothing is powdered over glow.",
    "Powder takes the shine that the glow was laid for.",
)
def no_powder_over_glow(judged: Judged) -> Iterator[Breach]:
    glowing: dict[Zone, Step] = {}
    for _, step in judged.steps():
        if step.kind == "glow" and step.lays and (step.film_um or 0.0) != judged.house.least_film_um:
            glowing.update(dict.fromkeys(step.zones, step))
        zones = tuple(z for z in step.zones if z in glowing)
        if step.kind in POWDER_KINDS and zones:
            yield Breach((step.id,), zones, f"{_said(step)} goes over the glow {places(zones)}.", without(step, zones),
                        against=tuple(dict.fromkeys(glowing[z].id for z in zones)))  # fmt: skip


@rule(
    "soften-while-wet",
    "order",
    "advice",
    "Edges are softened before they are powdered.",
    "Powder fixes an edge; a damp sponge on it only lifts patches.",
)
def soften_while_wet(judged: Judged) -> Iterator[Breach]:
    for index, step in judged.steps():
        if step.kind != "soften_edges" or not {"damp_sponge", "fingers"} & set(step.tools):
            continue
        zones = tuple(z for z in step.zones if judged.lies(index, z) == "powdered")
        powder = _opens_setting(judged, index, zones)
        if zones and powder:
            yield Breach((step.id,), zones, f"The edges {places(zones)} are powdered already.",
                        Fix("Move it before the powder", (Move(step.id, powder.id),)), against=(powder.id,))  # fmt: skip


def _opens_setting(judged: Judged, index: int, zones: tuple[Zone, ...]) -> Step | None:
    """The first step of setting these zones: the powder, or the crease check that stands right before it."""
    steps = judged.sequence.steps
    at = next((i for i, s in enumerate(steps[:index]) if s.powder_mg and set(s.zones) & set(zones)), None)
    while at and steps[at - 1].kind == "crease_check":
        at -= 1
    return None if at is None else steps[at]


@rule(
    "brows-before-blush",
    "order",
    "advice",
    "Brows are done before the colour, or over a set cheek.",
    "The hand that draws a brow rests on the cheek, and smudges wet colour.",
    other_view="With a puff between hand and cheek, brows may come at any time.",
)
def brows_before_blush(judged: Judged) -> Iterator[Breach]:
    for index, step in judged.steps():
        if step.kind != "brows":
            continue
        coloured = [s for s in judged.sequence.steps[:index] if s.kind == "colour" and s.film_um]
        wet = tuple(z for s in coloured for z in s.zones if judged.lies(index, z) in ("wet", "tacky"))
        if wet:
            yield Breach((step.id,), in_order(wet), "The hand rests on colour that is still wet.",
                        Fix("Brows before the colour", (Move(step.id, coloured[0].id),)),
                        against=tuple(s.id for s in coloured))  # fmt: skip


@rule(
    "eyes-and-fallout",
    "order",
    "advice",
    "Eyes are done before the base, or over a powdered under-eye.",
    "Fallout on a wet under-eye cannot be swept off; on bare or powdered skin it can.",
    other_view="Pale, pressed shadows drop nothing, and may come last.",
)
def eyes_and_fallout(judged: Judged) -> Iterator[Breach]:
    for index, step in judged.steps():
        if step.kind != "eyes":
            continue
        wet = tuple(z for z in both("under_eye") if judged.lies(index, z) in ("wet", "tacky"))
        setting = next(
            (s for s in judged.sequence.steps[index:] if s.kind in POWDER_KINDS and set(s.zones) & set(wet)), None
        )
        if wet and setting is not None:
            at = _index(judged, setting) + 1
            steps = judged.sequence.steps
            yield Breach((step.id,), wet, "Shadow would fall on an under-eye that is still wet.",
                        Fix("Eyes after the powder", (Move(step.id, steps[at].id if at < len(steps) else None),)))  # fmt: skip
