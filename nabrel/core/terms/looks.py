"""How and for whom a base is seen and worn: lights, viewings and policies of setting."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from nabrel.core.terms.ids import Covered, Hair, Light, Preset, SettingPolicy, Severity, Viewing
from nabrel.core.terms.table import Term, table


@dataclass(frozen=True, slots=True)
class LightInfo(Term):
    """A light to see under."""

    id: Light


@dataclass(frozen=True, slots=True)
class ViewingInfo(Term):
    """For whom it is seen, and how that differs from arm's length in person."""

    id: Viewing
    seen: str
    """As it stands after "seen"."""
    why: str


@dataclass(frozen=True, slots=True)
class SettingInfo(Term):
    """A policy of setting."""

    id: SettingPolicy


@dataclass(frozen=True, slots=True)
class PresetInfo(Term):
    """A kind of skin to start a reading from."""

    id: Preset


@dataclass(frozen=True, slots=True)
class HairInfo(Term):
    """A shape of hair that the face map can draw."""

    id: Hair


@dataclass(frozen=True, slots=True)
class CoveredInfo(Term):
    """Something that covers a part of the face or rubs on it."""

    id: Covered


@dataclass(frozen=True, slots=True)
class SeverityInfo:
    """How grave a finding is: ``rank`` grows with it."""

    id: Severity
    words: str
    rank: int


LIGHT_INFO: Mapping[Light, LightInfo] = table(
    (
        LightInfo("daylight", "Daylight"),
        LightInfo("warm_lamp", "Warm lamp"),
        LightInfo("led", "LED"),
        LightInfo("shop_tube", "Shop tube"),
        LightInfo("flash", "Flash"),
        LightInfo("stage_warm", "Warm stage"),
    )
)
VIEWING_INFO: Mapping[Viewing, ViewingInfo] = table(
    (
        ViewingInfo(
            "in_person",
            "In person",
            "in person",
            "At arm's length every film and edge is seen: least film, soft edges.",
        ),
        ViewingInfo(
            "camera", "Camera", "on camera", "A camera's light washes colour out, and hides fine texture of film."
        ),
        ViewingInfo("stage", "Stage", "from the seats", "From the seats only strong contrast carries; nobody is near."),
        ViewingInfo(
            "dim_room", "Dim room", "in a dim room", "Dim light flattens; depth and colour must be stronger to be seen."
        ),
    )
)
SETTING_INFO: Mapping[SettingPolicy, SettingInfo] = table(
    (
        SettingInfo("none", "No powder"),
        SettingInfo("spot", "Spots that crease or shine"),
        SettingInfo("t_zone", "T-zone"),
        SettingInfo("on_light", "Wherever light was laid"),
        SettingInfo("whole_face", "Whole face"),
        SettingInfo("bake_points", "Bake points"),
        SettingInfo("bake_wide", "Bake wide"),
    )
)
PRESET_INFO: Mapping[Preset, PresetInfo] = table(
    (
        PresetInfo("normal", "normal"),
        PresetInfo("dry", "dry"),
        PresetInfo("oily", "oily"),
        PresetInfo("combination", "combination: an oily middle, drier edges"),
        PresetInfo("mature", "mature"),
        PresetInfo("textured", "textured"),
        PresetInfo("acne_prone", "acne-prone"),
        PresetInfo("sensitive", "red and sensitive"),
    )
)
SEVERITY_INFO: Mapping[Severity, SeverityInfo] = table(
    (
        SeverityInfo("stop", "Stop", 3),
        SeverityInfo("problem", "Problem", 2),
        SeverityInfo("advice", "Advice", 1),
    )
)
LIGHTS: tuple[Light, ...] = tuple(LIGHT_INFO)
VIEWINGS: tuple[Viewing, ...] = tuple(VIEWING_INFO)
SETTING_POLICIES: tuple[SettingPolicy, ...] = tuple(SETTING_INFO)
PRESETS: tuple[Preset, ...] = tuple(PRESET_INFO)
SEVERITIES: tuple[Severity, ...] = tuple(SEVERITY_INFO)
HAIR_INFO: Mapping[Hair, HairInfo] = table(
    (
        HairInfo("short", "Short"),
        HairInfo("cropped", "Cropped"),
        HairInfo("bob", "To the jaw"),
        HairInfo("long", "Long"),
        HairInfo("tied", "Tied up"),
        HairInfo("curly", "Curly"),
        HairInfo("none", "None"),
    )
)
COVERED_INFO: Mapping[Covered, CoveredInfo] = table(
    (
        CoveredInfo("fringe", "Fringe"),
        CoveredInfo("hairpiece", "Hairpiece"),
        CoveredInfo("beard", "Beard"),
        CoveredInfo("glasses", "Glasses"),
        CoveredInfo("mask", "Mask"),
    )
)
