"""Method: shear, tools and clean hands of work."""

from __future__ import annotations

from collections.abc import Iterator

from nabrel.core.judge.book import Breach, Fix, Hand, Judged, rule
from nabrel.core.judge.ways_out import by_hand, short
from nabrel.core.plan.step import Step
from nabrel.core.terms.hands import MOTION_INFO, TOOL_INFO
from nabrel.core.terms.ids import Condition, Motion, Tool, Zone
from nabrel.core.terms.places import places
from nabrel.core.terms.steps import FEATURE_KINDS, LAYER_KINDS, POWDER_KINDS, step_words

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
def gentle_on_fragile(judged: Judged) -> Iterator[Breach]:
    for hand in judged.hands:
        step, shear = hand.step, hand.shear
        if hand.motion is None or step.kind in FEATURE_KINDS:
            continue
        zones = tuple(z for z in hand.zones if shear > judged.here(z).shear_limit)
        if zones:
            limit = min(judged.here(z).shear_limit for z in zones)
            motion = _gentle(limit)
            evidence = judged.reading.cite(
                zones, "creping", "fine_lines", "flaking", "active_blemish", "healing_blemish", "raised_texture",
                "pitted_scar", "enlarged_pores", "sensitive", "redness",
            )  # fmt: skip
            yield Breach(
                (step.id,),
                zones,
                f"{MOTION_INFO[hand.motion].words.capitalize()} has shear {shear:g}; {evidence or places(zones)} bears {limit:g}.",
                Fix(f"{motion.capitalize()} instead", (by_hand(hand, motion=motion),)),
                "advice" if _buffed_on_moist_lines(judged, hand, zones) else None,
            )


def _buffed_on_moist_lines(judged: Judged, hand: Hand, zones: tuple[Zone, ...]) -> bool:
    """Whether this is the disputed case: foundation buffed on skin that is only lined, and was fed."""
    return (
        hand.step.kind == "foundation"
        and hand.motion == "buff"
        and all(judged.here(z).severity(*NEVER_BUFFED) == 0 and judged.before(hand.index, z).care for z in zones)
    )


@rule(
    "press-over-wet",
    "method",
    "problem",
    "Over an unset layer nothing is buffed, swept or dragged.",
    "Shear lifts what is still wet beneath and smears its edge.",
    parameters=("wet_shear_limit", "film_sets_s"),
)
def press_over_wet(judged: Judged) -> Iterator[Breach]:
    # Coloured powder on a film that is not set has a rule of its own.
    for hand in judged.hands:
        step, index = hand.step, hand.index
        grabs = step.powder_mg is not None and step.kind in LAYER_KINDS
        if hand.motion is None or hand.shear <= judged.house.wet_shear_limit or step.kind in FEATURE_KINDS or grabs:
            continue
        zones = tuple(
            z
            for z in hand.zones
            if judged.lies(index, z) in ("wet", "tacky") and hand.shear <= judged.here(z).shear_limit
        )
        if zones:
            yield Breach(
                (step.id,),
                zones,
                f"{MOTION_INFO[hand.motion].words.capitalize()} over a layer that is still unset {short(zones)}.",
                Fix("Press instead", (by_hand(hand, motion="press"),)),
                against=judged.beneath(index, zones),
            )


@rule(
    "shade-and-light-apart",
    "method",
    "advice",
    "Dark and light never share a tool end.",
    "What is left of the dark in a tool greys the light, and the light weakens the dark.",
)
def shade_and_light_apart(judged: Judged) -> Iterator[Breach]:
    dark = [hand for hand in judged.hands if hand.step.kind in ("shade", "bronze") and hand.step.lays]
    pale = [hand for hand in judged.hands if hand.step.kind == "light" and hand.step.lays]
    for tool in dict.fromkeys(hand.tool for hand in pale if hand.tool and hand.tool != "fingers"):
        sharing = [hand for hand in dark if hand.tool == tool]
        lit = tuple(dict.fromkeys(hand.step.id for hand in pale if hand.tool == tool))
        if sharing:
            other = OTHER_TOOL.get(tool, "stippling_brush" if tool != "stippling_brush" else "angled_brush")
            yield Breach(
                (*dict.fromkeys(hand.step.id for hand in sharing), *lit),
                (),
                f"Shade and light both use the {tool.replace('_', ' ')}: take two, or mark a dark and a light end.",
                Fix(
                    f"Shade with the {other.replace('_', ' ')}",
                    tuple(by_hand(hand, tool=other) for hand in sharing),
                ),
                against=lit,
            )


@rule(
    "clean-brush-for-powder",
    "method",
    "advice",
    "A brush that touched liquid is cleaned before it lays powder.",
    "A damp brush clots powder into patches.",
)
def clean_brush_for_powder(judged: Judged) -> Iterator[Breach]:
    wet_tools: dict[Tool, Step] = {}
    for hand in judged.hands:
        step, tool = hand.step, hand.tool
        if tool is None:
            continue
        if step.film_um and tool in _BRUSHES:
            wet_tools.setdefault(tool, step)
        if step.kind in POWDER_KINDS and tool in wet_tools:
            earlier = wet_tools[tool]
            yield Breach(
                (earlier.id, step.id),
                (),
                f"The {TOOL_INFO[tool].words} laid cream in {step_words(earlier.kind)} and then powder.",
                Fix("Lay the powder with a puff", (by_hand(hand, "puff", "press"),)),
                against=(earlier.id,),
            )


@rule(
    "single-use-wand",
    "method",
    "problem",
    "Lashes on a sitter are done with a disposable wand.",
    "A wand that goes back into the tube carries an eye infection from one person to the next.",
)
def single_use_wand(judged: Judged) -> Iterator[Breach]:
    for hand in judged.hands:
        if hand.step.kind == "lashes" and hand.tool is not None and hand.tool != "disposable_wand":
            yield Breach(
                (hand.step.id,),
                hand.zones,
                "Lashes without a disposable wand.",
                Fix("Use a disposable wand", (by_hand(hand, "disposable_wand", "feather"),)),
            )
