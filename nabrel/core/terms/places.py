"""Zones as phrases for sentences: the shortest true description from zones, pairs and regions."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from functools import lru_cache
from types import MappingProxyType

from nabrel.core.terms.ids import Zone
from nabrel.core.terms.words import join_words
from nabrel.core.terms.zones import (
    COMPLEXION_ZONES,
    EDGE_ZONES,
    SKIN_ZONES,
    T_ZONE,
    ZONE_INFO,
    ZONES,
    both,
    in_order,
)

_FACE = in_order([*COMPLEXION_ZONES, "hairline", *both("jaw")])
_MIDDLE = both(
    "forehead_centre", "under_eye", "inner_corner", "nose_bridge", "nose_side", "nose_tip", "cheek_apple", "smile_line",
    "upper_lip", "below_lip", "chin",
)  # fmt: skip
_OUTER = both("temple", "cheekbone", "cheek_hollow")


def _sided(stems: tuple[str, ...], phrase: str) -> Iterator[tuple[str, tuple[Zone, ...]]]:
    """The region on both sides, and on each side alone where it has sides."""
    zones = both(*stems)
    yield phrase.format("both "), zones
    for side, word in (("l", "left "), ("r", "right ")):
        yield (
            phrase.format(word).replace("eyes", "eye").replace("cheeks", "cheek"),
            in_order(zone for zone in zones if ZONE_INFO[zone].side in ("", side)),
        )


REGIONS: Mapping[str, tuple[Zone, ...]] = MappingProxyType(
    dict(
        [
            ("all over face, lids and neck", tuple(zone for zone in SKIN_ZONES if zone != "lips")),
            ("all over face and neck", in_order([*COMPLEXION_ZONES, *EDGE_ZONES])),
            ("all over the face", _FACE),
            ("all over the face to its edges", COMPLEXION_ZONES),
            ("on the middle of the face", _MIDDLE),
            ("on the outer face", _OUTER),
            ("on the T-zone", T_ZONE),
            ("on the nose", both("nose_bridge", "nose_side", "nose_tip")),
            ("around the mouth", both("smile_line", "upper_lip", "below_lip")),
            ("on the edges and neck", EDGE_ZONES),
            ("on the edges of the face", both("hairline", "jaw", "ear")),
            ("along jaw and neck", both("jaw", "under_jaw", "neck")),
            *_sided(("eyelid", "under_eye", "inner_corner", "brow_bone"), "around {}eyes"),
            *_sided(("cheek_apple", "cheekbone", "cheek_hollow"), "all over {}cheeks"),
        ]
    )
)
"""Regions that a place may be named by, with their zones."""


@dataclass(frozen=True, slots=True)
class PlaceWords:
    """Zones in words: phrases with the zones each of them names, and (``but``) what is taken off again."""

    said: tuple[tuple[str, tuple[Zone, ...]], ...]
    but: tuple[tuple[str, tuple[Zone, ...]], ...] = ()

    @property
    def places(self) -> int:
        """How many places it lists."""
        return len(self.said) + len(self.but)

    @property
    def zones(self) -> frozenset[Zone]:
        """The zones that are named."""
        named = {zone for _, zones in self.said for zone in zones}
        return frozenset(named.difference(zone for _, zones in self.but for zone in zones))

    @property
    def words(self) -> str:
        """The phrase for a sentence: "under both eyes and on the chin"."""
        words = join_words(phrase for phrase, _ in self.said)
        return f"{words}, but not {join_words((phrase for phrase, _ in self.but), 'or')}" if self.but else words


def _pieces(wanted: frozenset[Zone]) -> Iterator[tuple[str, tuple[Zone, ...]]]:
    """Regions, pairs and single zones that lie wholly within the wanted ones."""
    for phrase, zones in REGIONS.items():
        if wanted.issuperset(zones):
            yield phrase, zones
    for zone in in_order(wanted):
        info = ZONE_INFO[zone]
        pair = both(info.stem)
        if info.side and wanted.issuperset(pair):
            if info.side == "l":
                yield info.pair_place, pair
        else:
            yield info.place, (zone,)


def _covering(wanted: frozenset[Zone]) -> tuple[tuple[str, tuple[Zone, ...]], ...]:
    """Few pieces that name the wanted zones together: always the one that names most that was not named yet."""
    pieces = list(_pieces(wanted))
    left, found = set(wanted), []
    while left:
        best = max(pieces, key=lambda piece: len(left.intersection(piece[1])))
        found.append(best)
        left.difference_update(best[1])
    # What others came to name wholly is not said twice, and what is left to name is named by the least that does.
    for piece in list(found):
        others = {zone for other in found if other is not piece for zone in other[1]}
        own = set(piece[1]) - others
        found.remove(piece)
        if own:
            found.append(min((p for p in pieces if own.issubset(p[1])), key=lambda p: (len(p[1]), len(p[0]))))
    return tuple(sorted(found, key=lambda piece: ZONES.index(piece[1][0])))


@lru_cache(maxsize=4096)
def describe(wanted: frozenset[Zone], *, regions_but: bool = True) -> PlaceWords:
    """The shortest true description: pieces, or (``regions_but``) one region but for a few zones, with what else there is."""
    if not wanted:
        return PlaceWords(())
    best = PlaceWords(_covering(wanted))
    for phrase, zones in REGIONS.items() if regions_but else ():
        missing = frozenset(zones) - wanted
        if not missing or len(missing) * 2 >= len(zones):
            continue
        rest = wanted.difference(zones)
        said = ((phrase, zones), *(_covering(rest) if rest else ()))
        tried = PlaceWords(said, _covering(missing))
        if (tried.places, len(tried.words)) < (best.places, len(best.words)):
            best = tried
    return best


def places(zones: Iterable[Zone]) -> str:
    """The zones as a phrase for a sentence, the shortest true one: "under both eyes and on the chin"."""
    return describe(frozenset(zones)).words
