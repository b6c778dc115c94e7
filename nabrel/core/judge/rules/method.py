"""Method: shear, tools and clean hands of work."""

from __future__ import annotations

from collections.abc import Iterator

from nabrel.core.judge.book import Fix, Found, Judged, rule
from nabrel.core.plan.edits import SetHand
from nabrel.core.plan.step import Step
from nabrel.core.terms.hands import MOTION_INFO
from nabrel.core.terms.ids import Condition, Motion, Tool, Zone
from nabrel.core.terms.places import places
from nabrel.core.terms.steps import FEATURE_KINDS, LAYER_KINDS, POWDER_KINDS

_GENTLER: tuple[tuple[float, Motion], ...] = ((1.0, "feather"), (0.5, "stipple"), (0.0, "press"))
_BRUSHES: frozenset[Tool] = frozenset(
    {
        "dense_small_brush", "detail_brush", "stippling_brush", "feathery_brush", "buffing_brush", "angled_brush",
        "fluffy_brush", "fan_brush",
    }
)  # fmt: skip
NEVER_BUFFED: tuple[Condition, ...] = (
    "creping", "flaking", "active_blemish", "healing_blemish", "raised_texture", "broken_skin", "sensitive",
)  # fmt: skip
OTHER_TOOL: dict[Tool, Tool] = {"damp_sponge": "stippling_brush", "puff": "fluffy_brush"}


def _gentle(limit: float) -> Motion:
    for shear, motion in _GENTLER:
        if shear <= limit:
            return motion
    return "press"


@rule(
    "gentle-on-fragile",
    "method",
    "problem",
    "A motion's shear stays within what the skin tolerates.",
    "Dragging lined, flaking or blemished skin lifts it, and shows more of it than bare skin did.",
    other_view="One school buffs foundation quickly on lined but well-moistened skin, before the film grabs.",
)
def gentle_on_fragile(judged: Judged) -> Iterator[Found]:
    for index, step in judged.steps():
        if step.motion is None or step.kind in FEATURE_KINDS:
            continue
        shear = MOTION_INFO[step.motion].shear
        zones = tuple(z for z in step.zones if shear > judged.here(z).shear_limit)
        if zones:
            limit = min(judged.here(z).shear_limit for z in zones)
            motion = _gentle(limit)
            evidence = judged.reading.cite(
                zones, "creping", "fine_lines", "flaking", "active_blemish", "healing_blemish", "raised_texture",
                "pitted_scar", "enlarged_pores", "sensitive", "redness",
            )  # fmt: skip
            yield Found(
                (step.id,),
                zones,
                f"{step.motion.replace('_', ' ').capitalize()} has shear {shear:g}; {evidence or places(zones)} bears {limit:g}.",
                Fix(f"{motion.capitalize()} instead", (SetHand(step.id, motion=motion),)),
                "advice" if _buffed_on_moist_lines(judged, index, step, zones) else None,
            )


def _buffed_on_moist_lines(judged: Judged, index: int, step: Step, zones: tuple[Zone, ...]) -> bool:
    """Whether this is the disputed case: foundation buffed on skin that is only lined, and was fed."""
    return (
        step.kind == "foundation"
        and step.motion == "buff"
        and all(judged.here(z).severity(*NEVER_BUFFED) == 0 and judged.before(index, z).care for z in zones)
    )


@rule(
    "press-over-wet",
    "method",
    "problem",
    "Over an unset layer nothing is buffed, swept or dragged.",
    "Shear lifts what is still wet beneath and smears its edge.",
    parameters=("wet_shear_limit", "film_sets_s"),
)
def press_over_wet(judged: Judged) -> Iterator[Found]:
    # Coloured powder on a film that is not set has a rule of its own.
    for index, step in judged.steps():
        grabs = step.powder_mg_cm2 is not None and step.kind in LAYER_KINDS
        if (
            step.motion is None
            or MOTION_INFO[step.motion].shear <= judged.house.wet_shear_limit
            or step.kind in FEATURE_KINDS
            or grabs
        ):
            continue
        zones = tuple(
            z
            for z in step.zones
            if judged.state(index, z) in ("wet", "tacky")
            and MOTION_INFO[step.motion].shear <= judged.here(z).shear_limit
        )
        if zones:
            yield Found(
                (step.id,),
                zones,
                f"{step.motion.capitalize()} over a layer that is still unset {_short(zones)}.",
                Fix("Press instead", (SetHand(step.id, motion="press"),)),
                against=judged.beneath(index, zones),
            )


def _short(zones: tuple[Zone, ...]) -> str:
    return places(zones) if len(zones) <= 6 else f"on {len(zones)} zones"


@rule(
    "shade-and-light-apart",
    "method",
    "advice",
    "Dark and light never share a tool end.",
    "What is left of the dark in a tool greys the light, and the light weakens the dark.",
)
def shade_and_light_apart(judged: Judged) -> Iterator[Found]:
    dark = [s for _, s in judged.steps() if s.kind in ("shade", "bronze") and s.lays]
    pale = [s for _, s in judged.steps() if s.kind == "light" and s.lays]
    for tool in dict.fromkeys(s.tool for s in pale if s.tool and s.tool != "fingers"):
        sharing = [s for s in dark if s.tool == tool]
        if sharing:
            other = OTHER_TOOL.get(tool, "stippling_brush" if tool != "stippling_brush" else "angled_brush")
            yield Found(
                tuple(s.id for s in (*sharing, *(p for p in pale if p.tool == tool))),
                (),
                f"Shade and light both use the {tool.replace('_', ' ')}: take two, or mark a dark and a light end.",
                Fix(
                    f"Shade with the {other.replace('_', ' ')}",
                    tuple(SetHand(s.id, tool=other) for s in sharing),
                ),
                against=tuple(s.id for s in pale if s.tool == tool),
            )


@rule(
    "clean-brush-for-powder",
    "method",
    "advice",
    "A brush that touched liquid is cleaned before it lays powder.",
    "A damp brush clots powder into patches.",
)
def clean_brush_for_powder(judged: Judged) -> Iterator[Found]:
    wet_tools: dict[Tool, Step] = {}
    for _, step in judged.steps():
        if step.film_um and step.tool in _BRUSHES:
            wet_tools.setdefault(step.tool, step)
        if step.kind in POWDER_KINDS and step.tool in wet_tools:
            earlier = wet_tools[step.tool]
            yield Found(
                (earlier.id, step.id),
                (),
                f"The {step.tool.replace('_', ' ')} laid cream in {earlier.kind.replace('_', ' ')} and then powder.",
                Fix("Lay the powder with a puff", (SetHand(step.id, tool="puff", motion="press"),)),
                against=(earlier.id,),
            )


@rule(
    "single-use-wand",
    "method",
    "problem",
    "Lashes on a sitter are done with a disposable wand.",
    "A wand that goes back into the tube carries an eye infection from one person to the next.",
)
def single_use_wand(judged: Judged) -> Iterator[Found]:
    for _, step in judged.steps():
        if step.kind == "lashes" and step.tool is not None and step.tool != "disposable_wand":
            yield Found(
                (step.id,),
                step.zones,
                "Lashes without a disposable wand.",
                Fix("Use a disposable wand", (SetHand(step.id, tool="disposable_wand", motion="feather"),)),
            )
