"""Where shade, light, glow and colour go on this face, and where they are left off, each with its reason."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Literal, get_args

from nabrel.core.case.intent import Intent
from nabrel.core.case.sitter import Measures
from nabrel.core.face.effects import EffectChange, changes
from nabrel.core.face.shape import Shape
from nabrel.core.house import House
from nabrel.core.terms.asked import ColourEffect
from nabrel.core.terms.ids import Condition, Covered, Zone
from nabrel.core.terms.wishes import COLOUR_EFFECT_INFO, GLOW_POINT_INFO
from nabrel.core.terms.zones import both, in_order

Sculpt = Literal["shade", "light", "glow", "colour"]
SCULPTS: tuple[Sculpt, ...] = get_args(Sculpt)
Severities = Mapping[Zone, Mapping[Condition, int]]
Objection = Callable[[Zone, Mapping[Condition, int]], str | None]
"""What speaks against something on a zone with these conditions; None where nothing does."""


@dataclass(frozen=True, slots=True)
class LeftOff:
    """A zone that one might expect in a placement, and why it is not in it."""

    zone: Zone
    why: str


@dataclass(frozen=True, slots=True)
class SculptPlacement:
    """The zones of one kind of sculpting, the reasons for them, and what was left off."""

    zones: tuple[Zone, ...]
    why: tuple[str, ...]
    left_off: tuple[LeftOff, ...]
    because: Mapping[Zone, str] = field(default_factory=dict)

    def reason(self, zone: Zone) -> str:
        """Why this zone is in it."""
        return self.because.get(zone, self.why[0] if self.why else "")

    def why_on(self, zones: tuple[Zone, ...]) -> tuple[str, ...]:
        """The reasons that hold where only these of its zones are laid: not those of other zones alone."""
        elsewhere = set(self.because.values()) - {self.reason(zone) for zone in zones}
        return tuple(said for said in self.why if said not in elsewhere)


@dataclass(frozen=True, slots=True)
class Placement:
    """All placements of a face."""

    shade: SculptPlacement
    light: SculptPlacement
    glow: SculptPlacement
    colour: SculptPlacement

    def of(self, kind: Sculpt) -> SculptPlacement:
        """The placement of one kind of sculpting."""
        found: SculptPlacement = getattr(self, kind)
        return found


def place(
    severities: Severities,
    measures: Measures,
    shape: Shape | None,
    house: House,
    intent: Intent | None = None,
    covered: tuple[Covered, ...] = (),
) -> Placement:
    """Placements that follow from shape, measures and conditions, and from what was asked for by region.

    ``covered`` is what hides or rubs a part of the face: sculpting stays off there.
    """
    asked = intent or Intent()
    points = [GLOW_POINT_INFO[point] for point in asked.glow_points]
    glow = tuple(zone for point in points for zone in point.zones) or _GLOW
    glow_why = tuple(dict.fromkeys(point.why for point in points)) or _GLOW_WHY
    effect = asked.colour_effect
    colour_why = (COLOUR_EFFECT_INFO[effect].why,) if effect else _COLOUR_WHY
    wished = list(changes(asked.effects, measures))
    placed = Placement(
        shade=_with_effects(_shade(severities, measures, shape, house), "shade", wished, severities, _no_shade),
        light=_with_effects(
            _unobjected("light", _LIGHT, severities, _no_light, _LIGHT_WHY), "light", wished, severities, _no_light
        ),
        glow=_unobjected("glow", glow, severities, _glow_objection(severities), glow_why),
        colour=_unobjected("colour", COLOUR_ZONES[effect], severities, _no_colour, colour_why),
    )
    return _uncovered(placed, covered)


def _with_effects(
    placed: SculptPlacement, layer: Sculpt, wished: list[EffectChange], severities: Severities, objection: Objection
) -> SculptPlacement:
    """A placement with what was asked for by region added to it, and taken out where an effect wants none.

    A wish outweighs what the shape suggests, and not what the skin objects to.
    """
    for change in wished:
        if change.layer == layer:
            placed = (
                _off(placed, change.zones, change.why) if change.off else _on(placed, change, severities, objection)
            )
    return placed


def _on(placed: SculptPlacement, change: EffectChange, severities: Severities, objection: Objection) -> SculptPlacement:
    """A placement with a wish's zones in it, but for those whose skin objects."""
    objections = {zone: objection(zone, severities[zone]) for zone in change.zones}
    allowed = [zone for zone, against in objections.items() if against is None]
    left = [each for each in placed.left_off if each.zone not in change.zones]
    left += [LeftOff(zone, against) for zone, against in objections.items() if against is not None]
    why = (*placed.why, change.why) if allowed else placed.why
    because = {**placed.because, **dict.fromkeys(allowed, change.why)}
    return SculptPlacement(in_order([*placed.zones, *allowed]), tuple(dict.fromkeys(why)), tuple(left), because)


def _off(placed: SculptPlacement, zones: tuple[Zone, ...], why: str) -> SculptPlacement:
    """A placement without these zones, which are said to be left off, nor the reasons that held for them alone."""
    remaining = tuple(zone for zone in placed.zones if zone not in zones)
    because = {zone: said for zone, said in placed.because.items() if zone in remaining}
    gone = set(placed.because.values()) - set(because.values())
    left = tuple(LeftOff(zone, why) for zone in placed.zones if zone in zones)
    return SculptPlacement(
        remaining, tuple(said for said in placed.why if said not in gone), (*placed.left_off, *left), because
    )


COLOUR_ZONES: Mapping[ColourEffect | None, tuple[Zone, ...]] = {
    None: both("cheek_apple"),
    "lift": (*both("cheek_apple"), *both("cheekbone")),
    "full": both("cheek_apple"),
    "slim": both("cheekbone"),
}
"""Where colour goes for each effect, and where nothing was asked for."""
COVERS: Mapping[Covered, tuple[tuple[Zone, ...], str]] = {
    "fringe": (("forehead_centre", "hairline"), "A fringe covers it."),
    "hairpiece": (("hairline",), "A hairpiece sits on it: product there would lift its edge."),
    "beard": (("chin", *both("jaw"), "below_lip", "upper_lip", "under_jaw"), "A beard covers it."),
    "glasses": (("nose_bridge",), "Glasses rest on it and would rub it off."),
    "mask": (("nose_tip", "upper_lip", "below_lip", "chin"), "A mask would rub it off."),
}
"""What each thing on a face hides or rubs, and the reason that is given there."""


def _uncovered(placement: Placement, covered: tuple[Covered, ...]) -> Placement:
    """The placement without what is hidden or rubbed, and said so."""
    for thing in covered:
        zones, why = COVERS[thing]
        placement = Placement(**{kind: _off(placement.of(kind), zones, why) for kind in SCULPTS})
    return placement


_LIGHT: tuple[Zone, ...] = ("forehead_centre", *both("under_eye"), "nose_bridge", "upper_lip", "chin")
_GLOW: tuple[Zone, ...] = both("brow_bone", "cheekbone")
_LIGHT_WHY = ("The middle of the face comes forward.",)
_GLOW_WHY = ("Only the highest planes, where real light would catch.",)
_COLOUR_WHY = ("Starts below the outer corner of the eye and goes up and back, for lift.",)


_BECAUSE: Mapping[Sculpt, Mapping[str, str]] = {
    "light": {
        "forehead_centre": "The centre of the forehead comes forward, in balance with the chin.",
        "under_eye": "A wedge from the inner corner towards the cheekbone, just below the hollow, blended up.",
        "nose_bridge": "Along the bridge, straight and narrow.",
        "upper_lip": "A little above the lip, to lift it.",
        "chin": "On the chin, in balance with the forehead.",
    },
    "glow": {
        "brow_bone": "Below the tail of the brow, where real light would catch.",
        "cheekbone": "On top of the cheekbone, where real light would catch.",
    },
}


def _because(kind: Sculpt, zones: tuple[Zone, ...]) -> dict[Zone, str]:
    said = _BECAUSE.get(kind, {})
    return {zone: said[stem] for zone in zones if (stem := zone.removesuffix("_l").removesuffix("_r")) in said}


def _unobjected(
    kind: Sculpt,
    zones: tuple[Zone, ...],
    severities: Severities,
    objection: Objection,
    why: tuple[str, ...],
) -> SculptPlacement:
    remaining: list[Zone] = []
    left: list[LeftOff] = []
    for zone in zones:
        against = objection(zone, severities[zone])
        if against is None:
            remaining.append(zone)
        else:
            left.append(LeftOff(zone, against))
    return SculptPlacement(in_order(remaining), why, tuple(left), _because(kind, in_order(remaining)))


def _no_light(zone: Zone, has: Mapping[Condition, int]) -> str | None:
    if has.get("active_blemish", 0) or has.get("raised_texture", 0) >= 2:
        return "Light on a raised blemish or bump advertises it."
    if zone in ("forehead_centre", *both("temple")) and max(has.get("fine_lines", 0), has.get("creping", 0)) >= 2:
        return "Light draws the lines of the forehead."
    if has.get("puffiness", 0) >= 2:
        return "Light on a puffy under-eye lifts the puff itself."
    return None


def _glow_objection(severities: Severities) -> Callable[[Zone, Mapping[Condition, int]], str | None]:
    """On a cheekbone the cheek beside it counts too: glow there would be seen across its texture."""

    def against(zone: Zone, has: Mapping[Condition, int]) -> str | None:
        beside = {"cheekbone_l": severities["cheek_apple_l"], "cheekbone_r": severities["cheek_apple_r"]}.get(zone, {})
        if beside.get("raised_texture", 0) >= 2 or beside.get("pitted_scar", 0) >= 2:
            return "The cheek beside it is textured; the brow bone takes the glow instead."
        return _no_glow(zone, has)

    return against


def _no_glow(_zone: Zone, has: Mapping[Condition, int]) -> str | None:
    if any(has.get(c, 0) for c in ("enlarged_pores", "raised_texture", "pitted_scar")):
        return "Glow shows up raised texture and pores."
    if has.get("active_blemish", 0) or has.get("healing_blemish", 0):
        return "Glow shows up blemishes."
    if has.get("fine_lines", 0) or has.get("creping", 0):
        return "Shine settles in lines and shows them."
    return None


def _no_colour(_zone: Zone, has: Mapping[Condition, int]) -> str | None:
    if has.get("active_blemish", 0):
        return "Colour on active blemishes draws the eye to them."
    return None


def _no_shade(zone: Zone, has: Mapping[Condition, int]) -> str | None:
    if has.get("hollow", 0) >= (1 if zone in both("cheek_hollow") else 2):
        return "It is hollow already here; shade would make the face gaunt."
    if has.get("jowl", 0):
        return "Shade ends behind a soft jowl; on it, darkness makes it look lower."
    return None


def _shade(severities: Severities, measures: Measures, shape: Shape | None, house: House) -> SculptPlacement:
    because: dict[Zone, str] = {}
    left: list[LeftOff] = []

    for zone in both("cheek_hollow"):
        against = _no_shade(zone, severities[zone])
        if against is not None:
            left.append(LeftOff(zone, against))
        elif shape == "long":
            left.append(LeftOff(zone, "On a long face shade at the sides makes it longer still."))
        else:
            because[zone] = "Below the cheekbone from the ear, deepest at the ear, short of the mouth."

    _shade_forehead(measures, shape, house, because, left)
    for zone in [*because]:
        against = _no_shade(zone, severities[zone])
        if against is not None:
            left.append(LeftOff(zone, against))
            del because[zone]

    for zone in both("jaw"):
        against = _no_shade(zone, severities[zone])
        if against is not None:
            left.append(LeftOff(zone, against))
        elif shape in ("square", "round"):
            because[zone] = f"Along the jaw from the back forward, since the face is {shape}."
    soft = [zone for zone in both("jaw") if severities[zone].get("jowl", 0)]
    if severities["under_jaw"].get("full_under_chin", 0) or shape == "long":
        because["under_jaw"] = "Under the chin, to draw it back."
    elif soft and not severities["under_jaw"].get("jowl", 0):
        because["under_jaw"] = "Under the soft jowl and down towards the neck, never on it."
    _shade_nose(measures, because)
    return SculptPlacement(in_order(because), tuple(dict.fromkeys(because.values())), tuple(left), because)


def _shade_nose(measures: Measures, because: dict[Zone, str]) -> None:
    if measures.nose_leans is not None:
        side: Zone = "nose_side_l" if measures.nose_leans == "left" else "nose_side_r"
        because[side] = "On the side the bridge stands out to; the light line beside it is kept straight."


def _shade_forehead(
    measures: Measures, shape: Shape | None, house: House, because: dict[Zone, str], left: list[LeftOff]
) -> None:
    fingers = measures.forehead_fingers
    if fingers is not None and fingers <= house.forehead_none_fingers:
        for zone in both("temple"):
            left.append(LeftOff(zone, f"The forehead is {fingers:g} finger-widths high; shade would lower it further."))
        return
    if shape != "long":
        because.update(dict.fromkeys(both("temple"), "At the temples, blended up and back into the hair."))
    if (fingers is not None and fingers >= 4) or shape == "long":
        height = f"{fingers:g} finger-widths of forehead" if fingers is not None else "a long face"
        because["hairline"] = f"Along the hairline, for {height}."
