"""Zones of the face and neck: a row each, forehead to neck. Left and right are the sitter's own."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from functools import cache
from types import MappingProxyType
from typing import Literal, cast

from nabrel.core.errors import Refused
from nabrel.core.terms.ids import Region, Zone
from nabrel.core.terms.table import Term, table

Side = Literal["", "l", "r"]


@dataclass(frozen=True, slots=True)
class ZoneInfo:
    """One zone of the face: its words, its area in cm² and where it belongs.

    ``place`` is the phrase used in sentences ("under the left eye"), ``pair_place`` the one for both sides; ``stem`` is
    the id without its side. ``base`` says that a foundation covers it as a matter of course, ``edge`` that it is where a
    base ends, ``hair`` that hair grows there: it is drawn in, and gets neither care nor base.
    """

    id: Zone
    words: str
    place: str
    pair_place: str
    area_cm2: float
    region: Region
    side: Side
    stem: str
    base: bool = True
    edge: bool = False
    hair: bool = False


@dataclass(frozen=True, slots=True)
class RegionInfo(Term):
    """A group of neighbouring zones, as the columns of the section and the lists of the screens have them."""

    id: Region


REGION_INFO: Mapping[Region, RegionInfo] = table(
    (
        RegionInfo("forehead", "Forehead"),
        RegionInfo("eyes", "Eyes"),
        RegionInfo("nose", "Nose"),
        RegionInfo("cheeks", "Cheeks"),
        RegionInfo("mouth", "Mouth and chin"),
        RegionInfo("jaw_neck", "Jaw and neck"),
    )
)


def _zone(
    stem: str,
    words: str,
    place: str,
    area: float,
    region: Region,
    pair: str = "",
    *,
    base: bool = True,
    edge: bool = False,
    hair: bool = False,
) -> Iterator[ZoneInfo]:
    """A zone, or with the phrase for a pair its left and its right one."""
    sides: tuple[tuple[Side, str, str], ...] = (("l", "_l", "left"), ("r", "_r", "right")) if pair else (("", "", ""),)
    for side, ending, said in sides:
        zone = cast("Zone", stem + ending)
        named = f"{words}, {said}" if said else words
        yield ZoneInfo(
            zone, named, place.replace("{}", said), pair or place, area, region, side, stem, base, edge, hair
        )


ZONE_INFO: Mapping[Zone, ZoneInfo] = table(
    [
        *_zone("forehead_centre", "Forehead centre", "on the mid-forehead", 30, "forehead"),
        *_zone("hairline", "Hairline", "along the hairline", 22, "forehead", edge=True),
        *_zone("temple", "Temple", "on the {} temple", 12, "forehead", "on both temples"),
        *_zone("brow_bone", "Brow bone", "on the {} brow bone", 4, "eyes", "on both brow bones"),
        *_zone("eyelid", "Eyelid", "on the {} eyelid", 6, "eyes", "on both eyelids", base=False),
        *_zone("under_eye", "Under-eye", "under the {} eye", 7, "eyes", "under both eyes"),
        *_zone("inner_corner", "Inner corner", "at the {} inner corner", 1, "eyes", "at both inner corners"),
        *_zone("nose_bridge", "Nose bridge", "on the nose bridge", 8, "nose"),
        *_zone("nose_side", "Nose side", "beside the nose, {}", 5, "nose", "beside the nose"),
        *_zone("nose_tip", "Nose tip", "on the nose tip", 3, "nose"),
        *_zone("cheek_apple", "Cheek apple", "on the {} cheek apple", 20, "cheeks", "on both cheek apples"),
        *_zone("cheekbone", "Cheekbone", "on the {} cheekbone", 12, "cheeks", "on both cheekbones"),
        *_zone("cheek_hollow", "Cheek hollow", "in the {} cheek hollow", 18, "cheeks", "in both cheek hollows"),
        *_zone("smile_line", "Smile line", "along the {} smile line", 4, "mouth", "along both smile lines"),
        *_zone("upper_lip", "Above the lip", "above the lip", 6, "mouth"),
        *_zone("below_lip", "Below the lip", "below the lip", 3, "mouth"),
        *_zone("lips", "Lips", "on the lips", 7, "mouth", base=False),
        *_zone("chin", "Chin", "on the chin", 14, "mouth"),
        *_zone("jaw", "Jaw", "along the {} jaw", 18, "jaw_neck", "along the jaw", edge=True),
        *_zone("under_jaw", "Under the jaw", "under the jaw", 25, "jaw_neck", edge=True),
        *_zone("ear", "Ear", "on the {} ear", 5, "jaw_neck", "on both ears", edge=True),
        *_zone("neck", "Neck", "on the neck", 110, "jaw_neck", edge=True),
        *_zone("brow", "Brow", "in the {} brow", 5, "eyes", "in both brows", base=False, hair=True),
        *_zone("lash", "Lashes", "on the {} lashes", 1, "eyes", "on both rows of lashes", base=False, hair=True),
    ]
)
ZONES: tuple[Zone, ...] = tuple(ZONE_INFO)
ZONE_INDEX: Mapping[Zone, int] = MappingProxyType({zone: index for index, zone in enumerate(ZONES)})
"""The column of every zone in arrays of zones."""
SKIN_ZONES: tuple[Zone, ...] = tuple(each.id for each in ZONE_INFO.values() if not each.hair)
"""Where there is skin: all but brows and lashes."""
NOT_BASE: frozenset[Zone] = frozenset(each.id for each in ZONE_INFO.values() if not each.base)
"""Zones a foundation does not cover as a matter of course."""
EDGE_ZONES: tuple[Zone, ...] = tuple(each.id for each in ZONE_INFO.values() if each.edge)
COMPLEXION_ZONES: tuple[Zone, ...] = tuple(each.id for each in ZONE_INFO.values() if each.base and not each.edge)
"""The middle of the face: where a foundation goes first."""
T_ZONE: tuple[Zone, ...] = ("forehead_centre", "nose_bridge", "nose_side_l", "nose_side_r", "nose_tip", "chin")
EYE_ZONES: tuple[Zone, ...] = tuple(
    each.id for each in ZONE_INFO.values() if each.stem in ("eyelid", "under_eye", "inner_corner", "lash")
)


@cache
def both(*stems: str) -> tuple[Zone, ...]:
    """The left and right zones of each stem, or the zone itself where it has no sides. Refuses an unknown stem."""
    found: list[Zone] = []
    for stem in stems:
        pair = [each.id for each in ZONE_INFO.values() if stem in (each.id, each.stem)]
        if not pair:
            raise Refused("zone", stem, "the stem of a zone in the vocabulary")
        found.extend(pair)
    return tuple(found)


def in_order(zones: Iterable[Zone]) -> tuple[Zone, ...]:
    """The given zones once each, in the vocabulary's order (forehead to neck)."""
    return tuple(sorted(set(zones), key=ZONE_INDEX.__getitem__))


def area_of(zones: Iterable[Zone]) -> float:
    """Summed area of the zones in cm²."""
    return sum(ZONE_INFO[zone].area_cm2 for zone in zones)


def mirrored(zone: Zone) -> Zone:
    """The zone of the other half of the face; one in the middle is its own."""
    other = {"_l": "_r", "_r": "_l"}.get(zone[-2:])
    return zone if other is None else cast("Zone", zone[:-2] + other)
