"""Placement: where this face asks for shade, light, glow and colour, and where they should not lie."""

from __future__ import annotations

from collections.abc import Iterator

from nabrel.core.face.placement import SCULPTS
from nabrel.core.judge.book import Breach, Judged, rule
from nabrel.core.judge.ways_out import without
from nabrel.core.plan.step import Step
from nabrel.core.terms.ids import StepKind, Zone
from nabrel.core.terms.places import places
from nabrel.core.terms.steps import STEP_INFO
from nabrel.core.terms.zones import both, in_order


@rule(
    "placed-for-this-face",
    "placement",
    "advice",
    "Sculpting goes where this face asks for it.",
    "A copied placement draws attention to what another person needed.",
    parameters=("lost_share", "wanted_shade_drop", "wanted_light_lift"),
    at_worst="problem",
)
def placed_for_this_face(judged: Judged) -> Iterator[Breach]:
    for step in _laid(judged, "shade", "light"):
        placed = judged.reading.placement.shade if step.kind == "shade" else judged.reading.placement.light
        against = {left.zone: left.why for left in placed.left_off}
        zones = tuple(z for z in step.zones if z in against and not _spoken_for(judged, step, z))
        if not zones:
            continue
        wanted = judged.house.wanted_shade_drop if step.kind == "shade" else judged.house.wanted_light_lift
        rows = [r for r in judged.appearance.read_through if r.kind == step.kind and r.zone in zones]
        shows = max((abs(r.visible_step) for r in rows), default=0.0)
        yield Breach(
            (step.id,),
            zones,
            f"{step.kind.capitalize()} {places(zones)}, where {shows:.1f} L* of it shows. {against[zones[0]]}",
            without(step, zones),
            "problem" if shows >= judged.house.lost_share * wanted else None,
        )


@rule(
    "colour-off-blemishes",
    "placement",
    "problem",
    "Colour stays off active blemishes.",
    "Pink over red draws the eye to what it should leave.",
)
def colour_off_blemishes(judged: Judged) -> Iterator[Breach]:
    for step in _laid(judged, "colour"):
        zones = tuple(z for z in step.zones if judged.here(z).severity("active_blemish"))
        if zones:
            yield Breach(
                (step.id,),
                zones,
                f"Colour on {judged.reading.cite(zones, 'active_blemish')}.",
                without(step, zones),
            )


def _laid(judged: Judged, *kinds: StepKind) -> Iterator[Step]:
    """The steps of these kinds that lay something, in order."""
    return (step for _, step in judged.steps() if step.kind in kinds and step.lays)


def _spoken_for(judged: Judged, step: Step, zone: Zone) -> bool:
    """Whether a rule of its own speaks of this zone, so that one cause is one finding."""
    here = judged.here(zone)
    if step.kind == "shade":
        return here.severity("jowl") > 0 or here.severity("hollow") >= 2
    lined = zone == "forehead_centre" and here.lined >= 2
    raised = here.severity("active_blemish") > 0 or here.severity("raised_texture") >= 2
    return lined or raised or here.severity("puffiness") >= 2


FALLS = both("smile_line")
"""Where a shade line carried too far ends up."""
HIGH_PLANES: tuple[Zone, ...] = (
    *both("cheekbone", "brow_bone", "inner_corner", "eyelid"), "nose_bridge", "nose_tip", "upper_lip", "forehead_centre",
)  # fmt: skip


@rule(
    "shade-short-of-the-mouth",
    "placement",
    "problem",
    "The cheek shade stops well short of the mouth.",
    "A line carried further pulls the face down; it stops 25 to 40 mm from the corner of the mouth.",
)
def shade_short_of_the_mouth(judged: Judged) -> Iterator[Breach]:
    for step in _laid(judged, "shade"):
        zones = tuple(z for z in step.zones if z in FALLS)
        if zones:
            yield Breach((step.id,), zones, f"Shade {places(zones)}: it reaches the mouth.", without(step, zones))


@rule(
    "no-shade-on-the-jowl",
    "placement",
    "problem",
    "Shade ends behind a soft jowl.",
    "Darkness on a soft jowl makes it look lower; from the back forward, it ends before it.",
)
def no_shade_on_the_jowl(judged: Judged) -> Iterator[Breach]:
    for step in _laid(judged, "shade", "bronze"):
        zones = tuple(z for z in step.zones if judged.here(z).severity("jowl"))
        if zones:
            yield Breach((step.id,), zones, f"Shade on {judged.reading.cite(zones, 'jowl')}.", without(step, zones))


@rule(
    "no-shade-in-hollows",
    "placement",
    "problem",
    "A hollow cheek is not shaded.",
    "Shade in a hollow that is there already makes the face gaunt.",
)
def no_shade_in_hollows(judged: Judged) -> Iterator[Breach]:
    for step in _laid(judged, "shade"):
        zones = tuple(z for z in step.zones if judged.here(z).severity("hollow") >= 2)
        if zones:
            yield Breach((step.id,), zones, f"Shade over {judged.reading.cite(zones, 'hollow')}.", without(step, zones))


@rule(
    "light-off-what-is-raised",
    "placement",
    "problem",
    "Light stays off raised blemishes and bumps.",
    "A pale raised spot catches more light than the skin around it: it is advertised.",
)
def light_off_what_is_raised(judged: Judged) -> Iterator[Breach]:
    for step in _laid(judged, "light"):
        zones = tuple(
            z
            for z in step.zones
            if judged.here(z).severity("active_blemish") or judged.here(z).severity("raised_texture") >= 2
        )
        if zones:
            read_here = judged.reading.cite(zones, "active_blemish", "raised_texture")
            yield Breach((step.id,), zones, f"Light on {read_here}.", without(step, zones))


@rule(
    "light-off-lines",
    "placement",
    "advice",
    "Light stays out of forehead lines, crow's feet and puffs.",
    "Light draws a line as well as a plane, and it lifts a puff along with the skin.",
    other_view="A thin matte light over fed lines is accepted by schools that reflect rather than cover.",
)
def light_off_lines(judged: Judged) -> Iterator[Breach]:
    lined = (*both("temple"), "forehead_centre")
    for step in _laid(judged, "light"):
        zones = tuple(
            z
            for z in step.zones
            if (z in lined and judged.here(z).lined >= 2) or judged.here(z).severity("puffiness") >= 2
        )
        if zones:
            read_here = judged.reading.cite(zones, "fine_lines", "creping", "puffiness", least=2)
            yield Breach((step.id,), zones, f"Light on {read_here}.", without(step, zones))


@rule(
    "glow-on-high-planes",
    "placement",
    "advice",
    "Glow lies on the highest planes only.",
    "Shine below the planes that real light catches reads as oil.",
    other_view="Mixed into the foundation, a sheen may lie all over smooth dry skin.",
)
def glow_on_high_planes(judged: Judged) -> Iterator[Breach]:
    for step in _laid(judged, "glow"):
        zones = tuple(z for z in step.zones if z not in HIGH_PLANES and z != "lips")
        mixed = step.film_um is not None and step.film_um <= judged.house.least_film_um
        if zones and not mixed:
            yield Breach((step.id,), zones, f"Glow {places(zones)}, below the high planes.", without(step, zones))


@rule(
    "both-sides-alike",
    "placement",
    "advice",
    "Both sides get the same, unless they were read differently.",
    "The eye compares the two halves before it sees anything else.",
)
def both_sides_alike(judged: Judged) -> Iterator[Breach]:
    for kind in (each for each, info in STEP_INFO.items() if info.fades):
        laid = {z for s in judged.sequence.steps if s.kind == kind and s.lays for z in s.zones}
        spared = {each.zone for each in judged.sequence.left_bare if each.kind == kind}
        if kind in SCULPTS:
            spared |= {each.zone for each in judged.reading.placement.of(kind).left_off}
        alone = tuple(
            z
            for z in laid
            if (twin := _twin(z)) and twin not in laid and twin not in spared and _read_alike(judged, z, twin)
        )
        if alone:
            steps = tuple(s.id for s in judged.sequence.steps if s.kind == kind and set(s.zones) & set(alone))
            yield Breach(steps, in_order(alone), f"{kind.capitalize()} {places(alone)} and not on the other side.")


def _twin(zone: Zone) -> Zone | None:
    if not zone.endswith(("_l", "_r")):
        return None
    return next(z for z in both(zone[:-2]) if z != zone)


def _read_alike(judged: Judged, one: Zone, other: Zone) -> bool:
    return dict(judged.here(one).conditions) == dict(judged.here(other).conditions)
