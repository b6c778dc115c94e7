"""The ids of every table of terms as types. Written by ``make generate``: change the tables, not this."""

from __future__ import annotations

from typing import Literal

Zone = Literal[
    "forehead_centre",
    "hairline",
    "temple_l",
    "temple_r",
    "brow_bone_l",
    "brow_bone_r",
    "eyelid_l",
    "eyelid_r",
    "under_eye_l",
    "under_eye_r",
    "inner_corner_l",
    "inner_corner_r",
    "nose_bridge",
    "nose_side_l",
    "nose_side_r",
    "nose_tip",
    "cheek_apple_l",
    "cheek_apple_r",
    "cheekbone_l",
    "cheekbone_r",
    "cheek_hollow_l",
    "cheek_hollow_r",
    "smile_line_l",
    "smile_line_r",
    "upper_lip",
    "below_lip",
    "lips",
    "chin",
    "jaw_l",
    "jaw_r",
    "under_jaw",
    "ear_l",
    "ear_r",
    "neck",
    "brow_l",
    "brow_r",
    "lash_l",
    "lash_r",
]
Region = Literal[
    "forehead",
    "eyes",
    "nose",
    "cheeks",
    "mouth",
    "jaw_neck",
]
Condition = Literal[
    "oily",
    "dry",
    "dehydrated",
    "flaking",
    "enlarged_pores",
    "raised_texture",
    "pitted_scar",
    "active_blemish",
    "healing_blemish",
    "broken_skin",
    "post_blemish_mark",
    "redness",
    "visible_vessels",
    "dark_circle_blue",
    "dark_circle_violet",
    "dark_circle_brown",
    "brown_spot",
    "mouth_darkness",
    "outer_eye_pigment",
    "sallow",
    "fine_lines",
    "creping",
    "deep_fold",
    "puffiness",
    "hollow",
    "jowl",
    "full_under_chin",
    "asymmetry",
    "facial_hair",
    "sensitive",
]
Preset = Literal[
    "normal",
    "dry",
    "oily",
    "combination",
    "mature",
    "textured",
    "acne_prone",
    "sensitive",
]
Hair = Literal[
    "short",
    "cropped",
    "bob",
    "long",
    "tied",
    "curly",
    "none",
]
Covered = Literal[
    "fringe",
    "hairpiece",
    "beard",
    "glasses",
    "mask",
]
Role = Literal[
    "cleanser",
    "toner",
    "moisturiser",
    "eye_care",
    "sunscreen",
    "primer",
    "corrector",
    "concealer",
    "foundation",
    "powder_foundation",
    "mixer",
    "lid_base",
    "shade",
    "bronzer",
    "light",
    "glow",
    "colour",
    "setting_powder",
    "melting_mist",
    "setting_mist",
    "thinning_balm",
]
Texture = Literal[
    "liquid",
    "cream",
    "balm",
    "gel",
    "mousse",
    "stick",
    "mist",
    "loose_powder",
    "pressed_powder",
]
Base = Literal[
    "water",
    "silicone",
    "oil",
    "anhydrous",
    "powder",
    "alcohol",
]
Finish = Literal[
    "matte",
    "satin",
    "dewy",
    "shimmer",
    "glitter",
]
CoverClass = Literal[
    "sheer",
    "light",
    "medium",
    "full",
    "opaque",
]
StepKind = Literal[
    "cleanse",
    "moisturise",
    "eye_care",
    "sunscreen",
    "prime",
    "correct",
    "conceal",
    "light",
    "shade",
    "bronze",
    "glow",
    "foundation",
    "colour",
    "spot_conceal",
    "soften_edges",
    "crease_check",
    "set",
    "bake",
    "dust_off",
    "clean_edge",
    "mute_shine",
    "melting_mist",
    "setting_mist",
    "press_back",
    "edge_check",
    "light_check",
    "brows",
    "eyes",
    "lashes",
    "lips",
]
Feature = Literal[
    "brows",
    "eyes",
    "lashes",
    "lips",
]
Tool = Literal[
    "fingers",
    "damp_sponge",
    "dry_sponge",
    "puff",
    "dense_small_brush",
    "detail_brush",
    "stippling_brush",
    "feathery_brush",
    "buffing_brush",
    "angled_brush",
    "fluffy_brush",
    "fan_brush",
    "spatula",
    "disposable_wand",
]
PassesOn = Literal[
    "pass_fingers",
    "pass_damp_sponge",
    "pass_dry_sponge",
    "pass_puff",
    "pass_brush",
    "pass_fluffy",
]
Motion = Literal[
    "mist",
    "press",
    "warm_melt",
    "stipple",
    "bounce",
    "feather",
    "whisk",
    "buff",
    "sweep",
    "drag",
]
Light = Literal[
    "daylight",
    "warm_lamp",
    "led",
    "shop_tube",
    "flash",
    "stage_warm",
]
Viewing = Literal[
    "in_person",
    "camera",
    "stage",
    "dim_room",
]
School = Literal[
    "underpainted",
    "overpainted",
    "two_tone",
    "light_led",
    "powder_sculpted",
    "doubled",
]
SettingPolicy = Literal[
    "none",
    "spot",
    "t_zone",
    "on_light",
    "whole_face",
    "bake_points",
    "bake_wide",
]
WearSign = Literal[
    "shine",
    "crease",
    "fade",
    "lift",
    "cake",
    "shift",
    "transfer",
]
EffectAbout = Literal[
    "shine_hours",
    "colour_hours",
    "crease",
    "cake",
    "lift",
    "shift",
]
EffectOf = Literal[
    "house",
    "zone_group",
    "sitter",
    "item",
    "school",
]
Severity = Literal[
    "stop",
    "problem",
    "advice",
]
DrillKind = Literal[
    "order",
    "fault",
    "corrector",
    "depth",
    "leave_bare",
    "base_pair",
    "powder_where",
    "school",
    "texture",
    "amount",
    "wait",
    "diagnose",
    "placement",
    "explain",
]
OrderOption = Literal[
    "light_first",
    "shade_first",
]
BlendOption = Literal[
    "one_at_a_time",
    "place_all",
]
CorrectorOption = Literal[
    "before_sculpt",
    "after_sculpt",
    "after_foundation",
]
SpotOption = Literal[
    "after_foundation",
    "before_foundation",
]
BronzerOption = Literal[
    "none",
    "bridge",
    "last",
]
ShadeEdgeOption = Literal[
    "faded",
    "crisp",
]
GlowOption = Literal[
    "school",
    "under",
    "mixed",
    "after_colour",
    "last",
    "none",
]
MeltingMistOption = Literal[
    "school",
    "before_glow",
    "between_powders",
    "last",
    "none",
]
LaidFromOption = Literal[
    "hand",
    "face",
]
PowderSculptOption = Literal[
    "after_setting",
    "before_setting",
]
PowderFoundationOption = Literal[
    "none",
    "veil",
    "set",
]
EvennessOption = Literal[
    "let_stand",
    "even_out",
]
BrowsOption = Literal[
    "helps",
    "before_base",
    "in_wait",
    "after_setting",
    "last",
]
EyesOption = Literal[
    "helps",
    "before_base",
    "in_wait",
    "after_setting",
    "last",
]
