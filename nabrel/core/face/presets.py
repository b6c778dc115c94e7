"""Skin presets: starting points that fill conditions in, zone by zone. What was read on a zone overrides them."""

from __future__ import annotations

from collections.abc import Mapping

from nabrel.core.terms.conditions import CONDITIONS
from nabrel.core.terms.ids import Condition, Preset, Zone
from nabrel.core.terms.zones import SKIN_ZONES, T_ZONE, both

_FACE = tuple(z for z in SKIN_ZONES if z not in ("neck", "lips", "ear_l", "ear_r", "under_jaw"))
_CHEEKS = both("cheek_apple", "cheekbone", "cheek_hollow")
_EDGES_DRY = (*_CHEEKS, *both("temple", "jaw"), "hairline")


def _all(zones: tuple[Zone, ...], **severities: int) -> dict[Zone, dict[Condition, int]]:
    named = {condition: severities[condition] for condition in CONDITIONS if condition in severities}
    return {zone: dict(named) for zone in zones}


def _merged(*parts: Mapping[Zone, Mapping[Condition, int]]) -> dict[Zone, dict[Condition, int]]:
    whole: dict[Zone, dict[Condition, int]] = {}
    for part in parts:
        for zone, severities in part.items():
            whole.setdefault(zone, {}).update(severities)
    return whole


PRESET_CONDITIONS: Mapping[Preset, Mapping[Zone, Mapping[Condition, int]]] = {
    "normal": {},
    "dry": _merged(_all(_FACE, dry=2), _all(_CHEEKS, dehydrated=1), _all(both("nose_side"), flaking=1)),
    "oily": _merged(_all(_FACE, oily=2), _all(T_ZONE, oily=3, enlarged_pores=1)),
    "combination": _merged(_all(T_ZONE, oily=2, enlarged_pores=1), _all(_EDGES_DRY, dry=1)),
    "mature": _merged(
        _all(_FACE, dry=1),
        _all(both("under_eye"), fine_lines=2, creping=2, dry=2),
        _all(both("eyelid"), creping=2),
        _all(("forehead_centre", "upper_lip", *both("temple")), fine_lines=1),
        _all(both("smile_line"), deep_fold=2, fine_lines=1),
        _all(both("jaw"), jowl=1),
        _all(both("cheek_apple"), brown_spot=1, fine_lines=1),
        _all(("neck",), creping=1),
    ),
    "textured": _merged(
        _all((*both("cheek_apple", "cheek_hollow"), "chin"), raised_texture=2, pitted_scar=1),
        _all((*both("nose_side"), "nose_tip", "forehead_centre"), enlarged_pores=2, oily=1),
    ),
    "acne_prone": _merged(
        _all(T_ZONE, oily=2, enlarged_pores=1),
        _all((*both("cheek_apple", "jaw"), "chin"), active_blemish=2, post_blemish_mark=1, redness=1),
    ),
    "sensitive": _merged(_all(_FACE, sensitive=2, dry=1), _all((*both("cheek_apple", "nose_side"),), redness=2)),
}
