"""Kestrel Quay: the volunteer guides of a lighthouse museum, who sit for an evening course in base layering.

Everyone and everything here is made up.
"""

from __future__ import annotations

from collections.abc import Mapping

from nabrel.core.case.case import Case
from nabrel.core.case.intent import Intent
from nabrel.core.case.sitter import Colour, Measures, Sitter, ZoneSkin
from nabrel.core.terms.colour import Lab
from nabrel.core.terms.ids import Condition, Zone
from nabrel.core.terms.zones import both
from nabrel.demo.kit import kit


def _zones(*parts: tuple[tuple[Zone, ...], dict[Condition, int]]) -> Mapping[Zone, ZoneSkin]:
    found: dict[Zone, dict[Condition, int]] = {}
    for zones, conditions in parts:
        for zone in zones:
            found.setdefault(zone, {}).update(conditions)
    return {zone: ZoneSkin(conditions) for zone, conditions in found.items()}


def _measures(length: float, width: float, jaw: float, fingers: float) -> Measures:
    return Measures(face_length_mm=length, cheekbone_width_mm=width, jaw_width_mm=jaw, forehead_fingers=fingers)


def _lab(lightness: float, red: float, yellow: float) -> Lab:
    return (float(lightness), float(red), float(yellow))


def sitters() -> tuple[Case, ...]:
    """The eight sitters with what each wants, and the course's whole kit box."""
    box = kit()
    return tuple(Case(sitter, intent, box) for sitter, intent in _PEOPLE)


_PEOPLE: tuple[tuple[Sitter, Intent], ...] = (
    (
        Sitter(
            nickname="Wren",
            about="Keeper's widow of 1887; tells the storm story on the gallery, close to visitors.",
            skin=Colour(_lab(71, 10, 14), source="measured"),
            neck=Colour(_lab(73, 8, 14), source="measured"),
            preset="mature",
            zones=_zones(
                (("under_eye_l", "inner_corner_l"), {"dark_circle_blue": 2}),
                (("under_eye_r", "inner_corner_r"), {"dark_circle_blue": 1}),
                (both("nose_side"), {"redness": 1}),
                (("cheek_apple_l",), {"brown_spot": 2}),
            ),
            measures=_measures(184, 132, 104, 3),
            hair="bob",
        ),
        Intent(school="underpainted", cover="medium", finish="satin", wear_hours=6, setting="spot",
               features=("brows", "lips")),
    ),
    (
        Sitter(
            nickname="Tamsin",
            about="Signal clerk; old scars on both cheeks that the gallery lamps show up.",
            skin=Colour(_lab(62, 11, 17), source="measured"),
            neck=Colour(_lab(64, 9, 16), source="measured"),
            preset="textured",
            zones=_zones(
                (both("under_eye"), {"dark_circle_violet": 1}),
                (("cheek_apple_l", "cheek_hollow_l"), {"pitted_scar": 2}),
                (("chin",), {"post_blemish_mark": 2}),
            ),
            measures=_measures(180, 140, 112, 4),
            hair="tied",
        ),
        Intent(school="underpainted", cover="medium", finish="satin", wear_hours=8, setting="spot",
               lights=("daylight", "warm_lamp"), features=("brows", "eyes")),
    ),
    (
        Sitter(
            nickname="Bram",
            about="Lamp lighter; climbs the tower all afternoon and shines by three o'clock.",
            skin=Colour(_lab(55, 13, 20), source="measured"),
            neck=Colour(_lab(56, 11, 19), source="measured"),
            preset="oily",
            zones=_zones(
                (both("under_eye"), {"dark_circle_brown": 1}),
                (both("jaw"), {"facial_hair": 2}),
            ),
            measures=_measures(176, 146, 130, 3),
            hair="cropped",
        ),
        Intent(school="overpainted", cover="medium", finish="matte", wear_hours=8, setting="bake_points",
               features=("brows",)),
    ),
    (
        Sitter(
            nickname="Isolde",
            about="Net mender; blemishes come and go along the jaw.",
            skin=Colour(_lab(47, 14, 19), source="measured"),
            neck=Colour(_lab(48, 12, 18), source="measured"),
            preset="acne_prone",
            zones=_zones(
                (both("under_eye"), {"dark_circle_brown": 2}),
                (("jaw_l",), {"healing_blemish": 1}),
                (("upper_lip",), {"mouth_darkness": 1}),
            ),
            measures=_measures(178, 136, 106, 3),
            hair="long",
        ),
        Intent(school="underpainted", cover="medium", finish="satin", wear_hours=7, setting="spot",
               features=("brows", "lips")),
    ),
    (
        Sitter(
            nickname="Merrick",
            about="Harbour pilot; photographed with every school party.",
            skin=Colour(_lab(36, 12, 13), lab_sd=1.6, source="stripe"),
            neck=Colour(_lab(35, 11, 12), source="measured"),
            preset="combination",
            zones=_zones(
                (both("under_eye"), {"dark_circle_brown": 2, "fine_lines": 1}),
                (("upper_lip", "chin"), {"mouth_darkness": 2}),
            ),
            measures=_measures(190, 138, 118, 4),
            hair="curly",
        ),
        Intent(school="overpainted", cover="full", finish="satin", wear_hours=8, setting="t_zone",
               lights=("daylight", "flash"), features=("brows",)),
    ),
    (
        Sitter(
            nickname="Posy",
            about="Keeper's daughter; very fair, winter-dry skin from the sea wind.",
            skin=Colour(_lab(77, 7, 12), lab_sd=2.5, source="eye"),
            neck=Colour(_lab(79, 5, 11), source="measured"),
            preset="dry",
            zones=_zones(
                (both("under_eye"), {"dark_circle_blue": 1, "fine_lines": 1}),
                (both("cheek_apple"), {"visible_vessels": 1}),
                (both("nose_side"), {"redness": 2, "flaking": 2}),
            ),
            measures=_measures(172, 132, 100, 2),
            avoid=("fragrance",),
        ),
        Intent(school="underpainted", cover="light", finish="dewy", wear_hours=5, setting="none",
               features=("brows", "lips")),
    ),
    (
        Sitter(
            nickname="Dunstan",
            about="Coastguard; wind-reddened and quick to sting.",
            skin=Colour(_lab(67, 14, 15), source="measured"),
            neck=Colour(_lab(70, 9, 15), source="measured"),
            preset="sensitive",
            zones=_zones(
                (("nose_tip", "chin"), {"redness": 2}),
                (("forehead_centre",), {"fine_lines": 2}),
            ),
            measures=_measures(186, 142, 128, 2),
            hair="tied",
            avoid=("fragrance", "lanolin"),
        ),
        Intent(school="overpainted", cover="medium", finish="satin", wear_hours=6, setting="spot"),
    ),
    (
        Sitter(
            nickname="Halcyon",
            about="Fishwife at the slip; even skin with a dull cast after the night shift.",
            skin=Colour(_lab(57, 8, 21), source="measured"),
            neck=Colour(_lab(57, 7, 20), source="measured"),
            preset="normal",
            zones=_zones(
                (both("under_eye"), {"sallow": 1, "dark_circle_violet": 1}),
                (both("cheek_apple"), {"sallow": 1}),
            ),
            measures=_measures(182, 138, 110, 3),
            hair="long",
        ),
        Intent(school=None, cover="light", finish="dewy", wear_hours=6, setting="spot", features=("lips",)),
    ),
)  # fmt: skip
