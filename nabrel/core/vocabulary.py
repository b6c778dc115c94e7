"""The one typed place for the field's terms: zones, conditions, roles, motions, tools and the rest.

Every id here is part of the file formats. Words are what the screens and told sequences say.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from functools import cache
from types import MappingProxyType
from typing import Literal, get_args

from nabrel.core.errors import Refused

Zone = Literal[
    "forehead_centre", "hairline", "temple_l", "temple_r", "brow_bone_l", "brow_bone_r",
    "eyelid_l", "eyelid_r", "under_eye_l", "under_eye_r", "inner_corner_l", "inner_corner_r",
    "nose_bridge", "nose_side_l", "nose_side_r", "nose_tip",
    "cheek_apple_l", "cheek_apple_r", "cheekbone_l", "cheekbone_r", "cheek_hollow_l", "cheek_hollow_r",
    "smile_line_l", "smile_line_r", "upper_lip", "below_lip", "lips", "chin",
    "jaw_l", "jaw_r", "under_jaw", "ear_l", "ear_r", "neck",
]  # fmt: skip
Condition = Literal[
    "oily", "dry", "dehydrated", "flaking", "enlarged_pores", "raised_texture", "pitted_scar",
    "active_blemish", "healing_blemish", "broken_skin", "post_blemish_mark", "redness", "visible_vessels",
    "dark_circle_blue", "dark_circle_violet", "dark_circle_brown", "brown_spot", "mouth_darkness",
    "outer_eye_pigment", "sallow", "fine_lines", "creping", "deep_fold", "puffiness", "hollow", "jowl",
    "full_under_chin", "asymmetry", "facial_hair", "sensitive",
]  # fmt: skip
Preset = Literal["normal", "dry", "oily", "combination", "mature", "textured", "acne_prone", "sensitive"]
Role = Literal[
    "cleanser", "toner", "moisturiser", "eye_care", "sunscreen", "primer", "corrector", "concealer", "foundation",
    "powder_foundation", "mixer", "lid_base", "shade", "bronzer", "light", "glow", "colour", "setting_powder",
    "melting_mist", "setting_mist", "thinning_balm",
]  # fmt: skip
Texture = Literal["liquid", "cream", "balm", "gel", "mousse", "stick", "mist", "loose_powder", "pressed_powder"]
Base = Literal["water", "silicone", "oil", "anhydrous", "powder", "alcohol"]
Finish = Literal["matte", "satin", "dewy", "shimmer", "glitter"]
CoverClass = Literal["sheer", "light", "medium", "full", "opaque"]
StepKind = Literal[
    "cleanse", "moisturise", "eye_care", "sunscreen", "prime", "correct", "conceal", "light", "shade", "bronze",
    "glow", "foundation", "colour", "spot_conceal", "soften_edges", "crease_check", "set", "bake", "dust_off",
    "clean_edge", "mute_shine", "melting_mist", "setting_mist", "press_back", "edge_check", "light_check",
    "brows", "eyes", "lashes", "lips",
]  # fmt: skip
School = Literal["underpainted", "overpainted", "two_tone", "light_led", "powder_sculpted", "doubled"]
SettingPolicy = Literal["none", "spot", "t_zone", "on_light", "whole_face", "bake_points", "bake_wide"]
Motion = Literal["mist", "press", "warm_melt", "stipple", "bounce", "feather", "whisk", "buff", "sweep", "drag"]
Tool = Literal[
    "fingers", "damp_sponge", "dry_sponge", "puff", "dense_small_brush", "detail_brush", "stippling_brush",
    "feathery_brush", "buffing_brush", "angled_brush", "fluffy_brush", "fan_brush", "spatula", "disposable_wand",
]  # fmt: skip
Light = Literal["daylight", "warm_lamp", "led", "shop_tube", "flash", "stage_warm"]
Severity = Literal["stop", "problem", "advice"]
Order = Literal["light_first", "shade_first"]
Blend = Literal["one_at_a_time", "place_all"]
CorrectorAt = Literal["before_sculpt", "after_sculpt", "after_foundation"]
SpotAt = Literal["after_foundation", "before_foundation"]
BronzerAt = Literal["none", "bridge", "last"]
ShadeEdge = Literal["faded", "crisp"]
GlowAt = Literal["school", "under", "mixed", "after_colour", "last", "none"]
MeltAt = Literal["school", "before_glow", "between_powders", "last", "none"]
LaidFrom = Literal["hand", "face"]
PowderSculptAt = Literal["after_setting", "before_setting"]
PowderFoundationAs = Literal["none", "veil", "set"]
Evenness = Literal["let_stand", "even_out"]
FeatureAt = Literal["helps", "before_base", "in_wait", "after_setting", "last"]
Feature = Literal["brows", "eyes", "lashes", "lips"]
Leaning = Literal["left", "right"]
Viewing = Literal["in_person", "camera", "stage", "dim_room"]
DepthClass = Literal["very light", "light", "intermediate", "tan", "brown", "dark"]
Region = Literal["forehead", "eyes", "nose", "cheeks", "mouth", "jaw_neck"]
Side = Literal["", "l", "r"]

ZONES: tuple[Zone, ...] = get_args(Zone)
CONDITIONS: tuple[Condition, ...] = get_args(Condition)
PRESETS: tuple[Preset, ...] = get_args(Preset)
ROLES: tuple[Role, ...] = get_args(Role)
TEXTURES: tuple[Texture, ...] = get_args(Texture)
BASES: tuple[Base, ...] = get_args(Base)
FINISHES: tuple[Finish, ...] = get_args(Finish)
STEP_KINDS: tuple[StepKind, ...] = get_args(StepKind)
SCHOOLS: tuple[School, ...] = get_args(School)
SETTING_POLICIES: tuple[SettingPolicy, ...] = get_args(SettingPolicy)
MOTIONS: tuple[Motion, ...] = get_args(Motion)
TOOLS: tuple[Tool, ...] = get_args(Tool)
LIGHTS: tuple[Light, ...] = get_args(Light)
SEVERITIES: tuple[Severity, ...] = get_args(Severity)
FEATURES: tuple[Feature, ...] = get_args(Feature)
REGIONS: tuple[Region, ...] = get_args(Region)

DRY_TEXTURES: frozenset[Texture] = frozenset({"loose_powder", "pressed_powder"})

CONDITION_WORDS_BY_SEVERITY: Mapping[int, str] = MappingProxyType({0: "none", 1: "slight", 2: "clear", 3: "strong"})

COVER_CLASSES: Mapping[CoverClass, float] = MappingProxyType(
    {"sheer": 0.2, "light": 0.35, "medium": 0.55, "full": 0.8, "opaque": 0.92}
)
"""Contrast ratio over black and white at the standard film of 9 µm, by cover class."""

SHEAR: Mapping[Motion, float] = MappingProxyType(
    {
        "mist": 0.0,
        "press": 0.0,
        "warm_melt": 0.5,
        "stipple": 0.5,
        "bounce": 0.5,
        "feather": 1.0,
        "whisk": 1.0,
        "buff": 2.0,
        "sweep": 2.0,
        "drag": 3.0,
    }
)
"""How much each motion shears what lies on the skin, from 0 (none) to 3 (drag)."""


@dataclass(frozen=True, slots=True)
class ZoneInfo:
    """One zone of the face: its words, its area in cm² and where it belongs.

    ``place`` is the phrase used in sentences ("under the left eye"); left and right are the sitter's own.
    """

    id: Zone
    words: str
    place: str
    pair_place: str
    area_cm2: float
    region: Region
    side: Side


def _zone(
    stem: str, words: str, place: str, pair_place: str, area: float, region: Region, *, paired: bool = True
) -> list[ZoneInfo]:
    if not paired:
        return [ZoneInfo(_as_zone(stem), words, place, place, area, region, "")]
    return [
        ZoneInfo(_as_zone(f"{stem}_l"), f"{words}, left", place.replace("{}", "left"), pair_place, area, region, "l"),
        ZoneInfo(_as_zone(f"{stem}_r"), f"{words}, right", place.replace("{}", "right"), pair_place, area, region, "r"),
    ]


def _as_zone(text: str) -> Zone:
    for zone in ZONES:
        if zone == text:
            return zone
    raise Refused("zone", text, "one of the vocabulary's zones")


_ZONE_TABLE: tuple[list[ZoneInfo], ...] = (
    _zone(
        "forehead_centre",
        "Forehead centre",
        "on the centre of the forehead",
        "",
        30,
        "forehead",
        paired=False,
    ),
    _zone("hairline", "Hairline", "along the hairline", "", 22, "forehead", paired=False),
    _zone("temple", "Temple", "on the {} temple", "on both temples", 12, "forehead"),
    _zone("brow_bone", "Brow bone", "on the {} brow bone", "on both brow bones", 4, "eyes"),
    _zone("eyelid", "Eyelid", "on the {} eyelid", "on both eyelids", 6, "eyes"),
    _zone("under_eye", "Under-eye", "under the {} eye", "under both eyes", 7, "eyes"),
    _zone("inner_corner", "Inner corner", "at the {} inner corner", "at both inner corners", 1, "eyes"),
    _zone("nose_bridge", "Nose bridge", "on the bridge of the nose", "", 8, "nose", paired=False),
    _zone("nose_side", "Nose side", "on the {} side of the nose", "on both sides of the nose", 5, "nose"),
    _zone("nose_tip", "Nose tip", "on the tip of the nose", "", 3, "nose", paired=False),
    _zone("cheek_apple", "Cheek apple", "on the {} cheek", "on both cheeks", 20, "cheeks"),
    _zone("cheekbone", "Cheekbone", "on the {} cheekbone", "on both cheekbones", 12, "cheeks"),
    _zone("cheek_hollow", "Cheek hollow", "in the {} cheek hollow", "in both cheek hollows", 18, "cheeks"),
    _zone("smile_line", "Smile line", "along the {} smile line", "along both smile lines", 4, "mouth"),
    _zone("upper_lip", "Above the lip", "above the lip", "", 6, "mouth", paired=False),
    _zone("below_lip", "Below the lip", "below the lip", "", 3, "mouth", paired=False),
    _zone("lips", "Lips", "on the lips", "", 7, "mouth", paired=False),
    _zone("chin", "Chin", "on the chin", "", 14, "mouth", paired=False),
    _zone("jaw", "Jaw", "along the {} jaw", "along both sides of the jaw", 18, "jaw_neck"),
    _zone("under_jaw", "Under the jaw", "under the jaw", "", 25, "jaw_neck", paired=False),
    _zone("ear", "Ear", "on the {} ear", "on both ears", 5, "jaw_neck"),
    _zone("neck", "Neck", "on the neck", "", 110, "jaw_neck", paired=False),
)

ZONE_INFO: Mapping[Zone, ZoneInfo] = MappingProxyType({info.id: info for row in _ZONE_TABLE for info in row})

REGION_WORDS: Mapping[Region, str] = MappingProxyType(
    {
        "forehead": "Forehead",
        "eyes": "Eyes",
        "nose": "Nose",
        "cheeks": "Cheeks",
        "mouth": "Mouth and chin",
        "jaw_neck": "Jaw and neck",
    }
)

PRESET_WORDS: Mapping[Preset, str] = MappingProxyType(
    {
        "normal": "normal",
        "dry": "dry",
        "oily": "oily",
        "combination": "combination: an oily middle, drier edges",
        "mature": "mature",
        "textured": "textured",
        "acne_prone": "acne-prone",
        "sensitive": "red and sensitive",
    }
)

CONDITION_WORDS: Mapping[Condition, str] = MappingProxyType(
    {
        "oily": "oil",
        "dry": "dryness",
        "dehydrated": "dehydration",
        "flaking": "flaking",
        "enlarged_pores": "enlarged pores",
        "raised_texture": "raised texture",
        "pitted_scar": "pitted scars",
        "active_blemish": "active blemishes",
        "healing_blemish": "healing blemishes",
        "broken_skin": "broken skin",
        "post_blemish_mark": "marks left by blemishes",
        "redness": "redness",
        "visible_vessels": "visible vessels",
        "dark_circle_blue": "blue darkness",
        "dark_circle_violet": "violet darkness",
        "dark_circle_brown": "brown darkness",
        "brown_spot": "brown spots",
        "mouth_darkness": "darkness around the mouth",
        "outer_eye_pigment": "pigment at the outer eye",
        "sallow": "a dull yellow cast",
        "fine_lines": "fine lines",
        "creping": "creping",
        "deep_fold": "a deep fold",
        "puffiness": "puffiness",
        "hollow": "hollowness",
        "jowl": "a soft jowl",
        "full_under_chin": "fullness under the chin",
        "asymmetry": "asymmetry",
        "facial_hair": "facial hair",
        "sensitive": "sensitivity",
    }
)

SCHOOL_WORDS: Mapping[School, str] = MappingProxyType(
    {
        "underpainted": "Underpainted",
        "overpainted": "Overpainted",
        "two_tone": "Two-tone",
        "light_led": "Light-led",
        "powder_sculpted": "Powder-sculpted",
        "doubled": "Doubled",
    }
)

STEP_WORDS: Mapping[StepKind, str] = MappingProxyType(
    {
        "cleanse": "Cleanse",
        "moisturise": "Moisturise",
        "eye_care": "Feed the under-eye",
        "sunscreen": "Sunscreen",
        "prime": "Prime",
        "correct": "Correct",
        "conceal": "Conceal",
        "light": "Light",
        "shade": "Shade",
        "bronze": "Bronze",
        "glow": "Glow",
        "foundation": "Foundation",
        "colour": "Colour",
        "spot_conceal": "Spot conceal",
        "soften_edges": "Soften edges",
        "crease_check": "Crease check",
        "set": "Set",
        "bake": "Bake",
        "dust_off": "Dust off",
        "clean_edge": "Clean edge",
        "mute_shine": "Mute shine",
        "melting_mist": "Melting mist",
        "setting_mist": "Setting mist",
        "press_back": "Press back",
        "edge_check": "Edge check",
        "light_check": "Light check",
        "brows": "Brows",
        "eyes": "Eyes",
        "lashes": "Lashes",
        "lips": "Lips",
    }
)

TOOL_WORDS: Mapping[Tool, str] = MappingProxyType({tool: tool.replace("_", " ") for tool in TOOLS})
MOTION_WORDS: Mapping[Motion, str] = MappingProxyType(
    {
        "mist": "mist",
        "press": "press",
        "warm_melt": "warm and melt in",
        "stipple": "stipple",
        "bounce": "bounce",
        "feather": "feather",
        "whisk": "whisk",
        "buff": "buff",
        "sweep": "sweep",
        "drag": "drag",
    }
)
ROLE_WORDS: Mapping[Role, str] = MappingProxyType({role: role.replace("_", " ") for role in ROLES})
SETTING_WORDS: Mapping[SettingPolicy, str] = MappingProxyType(
    {
        "none": "No powder",
        "spot": "Spots that crease or shine",
        "t_zone": "T-zone",
        "on_light": "Wherever light was laid",
        "whole_face": "Whole face",
        "bake_points": "Bake points",
        "bake_wide": "Bake wide",
    }
)
VIEWINGS: tuple[Viewing, ...] = get_args(Viewing)
VIEWING_WORDS: Mapping[Viewing, str] = MappingProxyType(
    {"in_person": "In person", "camera": "Camera", "stage": "Stage", "dim_room": "Dim room"}
)
LIGHT_WORDS: Mapping[Light, str] = MappingProxyType(
    {
        "daylight": "Daylight",
        "warm_lamp": "Warm lamp",
        "led": "LED",
        "shop_tube": "Shop tube",
        "flash": "Flash",
        "stage_warm": "Warm stage",
    }
)

T_ZONE: tuple[Zone, ...] = ("forehead_centre", "nose_bridge", "nose_side_l", "nose_side_r", "nose_tip", "chin")
EDGE_ZONES: tuple[Zone, ...] = ("hairline", "jaw_l", "jaw_r", "under_jaw", "ear_l", "ear_r", "neck")
EYE_ZONES: tuple[Zone, ...] = (
    "eyelid_l", "eyelid_r", "under_eye_l", "under_eye_r", "inner_corner_l", "inner_corner_r",
)  # fmt: skip
NOT_BASE: frozenset[Zone] = frozenset({"lips", "eyelid_l", "eyelid_r"})
"""Zones a foundation does not cover as a matter of course."""

COMPLEXION_ZONES: tuple[Zone, ...] = tuple(z for z in ZONES if z not in NOT_BASE and z not in EDGE_ZONES)
"""The middle of the face: where a foundation goes first."""


@cache
def both(*stems: str) -> tuple[Zone, ...]:
    """The left and right zones of each stem, or the zone itself where it has no sides."""
    found: list[Zone] = []
    for stem in stems:
        pair = [zone for zone in ZONES if zone in (stem, f"{stem}_l", f"{stem}_r")]
        if not pair:
            raise Refused("zone", stem, "the stem of a zone in the vocabulary")
        found.extend(pair)
    return tuple(found)


def in_order(zones: Iterable[Zone]) -> tuple[Zone, ...]:
    """The given zones once each, in the vocabulary's order (forehead to neck)."""
    wanted = set(zones)
    return tuple(zone for zone in ZONES if zone in wanted)


def area_of(zones: Iterable[Zone]) -> float:
    """Summed area of the zones in cm²."""
    return sum(ZONE_INFO[zone].area_cm2 for zone in zones)


def places(zones: Iterable[Zone]) -> str:
    """The zones as a phrase for a sentence: "under both eyes and on the chin"."""
    wanted = in_order(zones)
    said: list[str] = []
    for zone in wanted:
        info = ZONE_INFO[zone]
        twin = [z for z in wanted if z != zone and info.side and z[:-2] == zone[:-2]]
        phrase = info.pair_place if twin else info.place
        if phrase not in said:
            said.append(phrase)
    return join_words(said)


def join_words(words: Iterable[str]) -> str:
    """Words joined as in speech: "a, b and c"."""
    listed = list(words)
    if len(listed) <= 1:
        return "".join(listed)
    return ", ".join(listed[:-1]) + " and " + listed[-1]


CONDITION_GROUPS: Mapping[str, tuple[Condition, ...]] = MappingProxyType(
    {
        "Oil and water": ("oily", "dry", "dehydrated", "flaking"),
        "Texture": ("enlarged_pores", "raised_texture", "pitted_scar", "facial_hair"),
        "Blemishes": ("active_blemish", "healing_blemish", "post_blemish_mark", "broken_skin"),
        "Lines": ("fine_lines", "creping", "deep_fold"),
        "Colour": (
            "redness",
            "visible_vessels",
            "dark_circle_blue",
            "dark_circle_violet",
            "dark_circle_brown",
            "brown_spot",
            "mouth_darkness",
            "outer_eye_pigment",
            "sallow",
        ),
        "Shape and care": ("puffiness", "hollow", "jowl", "full_under_chin", "asymmetry", "sensitive"),
    }
)
"""Conditions as they are looked for together: the layers of a reading."""
