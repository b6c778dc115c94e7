"""The reading: from what was seen on a sitter to what each zone needs, tolerates and carries."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from functools import cached_property
from typing import cast

from nabrel.core.case.case import Case
from nabrel.core.case.sitter import Sitter
from nabrel.core.face.placement import Placement, place
from nabrel.core.face.presets import PRESET_CONDITIONS
from nabrel.core.face.shape import Shape, shape_of
from nabrel.core.face.skin import Undertone, depth_class, intended_complexion, undertone, zone_colour
from nabrel.core.face.strokes import moved_placement
from nabrel.core.house import House
from nabrel.core.terms.colour import Lab
from nabrel.core.terms.conditions import CONDITION_INFO, DISCOLORATIONS, DepthClass
from nabrel.core.terms.ids import Condition, Zone
from nabrel.core.terms.places import describe
from nabrel.core.terms.words import join_words
from nabrel.core.terms.zones import EYE_ZONES, ZONE_INFO, ZONES

TEXTURE_CONDITIONS: tuple[Condition, ...] = ("enlarged_pores", "raised_texture", "pitted_scar")
LINE_CONDITIONS: tuple[Condition, ...] = ("fine_lines", "creping", "deep_fold")


@dataclass(frozen=True, slots=True)
class ZoneReading:
    """One zone: its conditions and colour, and what follows for oil, shear and film.

    lab is the zone's mean colour, mark_lab that of a spot or mark on it (the same where there is none).
    oil_rate in µg/cm²·min; shear_limit on the motions' scale (0 none to 3 drag); film_limit_um is the dry film the
    zone carries before it looks like makeup at arm's length.
    """

    zone: Zone
    conditions: Mapping[Condition, int]
    lab: Lab
    mark_lab: Lab
    measured: bool
    oil_rate: float
    shear_limit: float
    film_limit_um: float

    def severity(self, *conditions: Condition) -> int:
        """The highest severity among these conditions here, 0 where none was read."""
        worst = 0
        read = self.conditions
        for condition in conditions:
            # Asked some thousand times a plan: neither a list nor a call for each condition.
            if condition in read and read[condition] > worst:
                worst = read[condition]
        return worst

    @property
    def broken(self) -> bool:
        """Whether the skin is broken here: nothing may be laid on it."""
        return self.severity("broken_skin") > 0

    @property
    def inflamed_eye(self) -> bool:
        """Whether an eye looks inflamed here: nothing is laid by it, and somebody qualified should see it."""
        return self.zone in EYE_ZONES and self.severity("active_blemish") >= 2

    @property
    def left_alone(self) -> bool:
        """Whether nothing may be laid here."""
        return self.broken or self.inflamed_eye

    @property
    def discolorations(self) -> tuple[Condition, ...]:
        """Conditions of colour read here, worst first."""
        found = [c for c in DISCOLORATIONS if self.conditions.get(c, 0) > 0]
        return tuple(sorted(found, key=lambda c: -self.conditions[c]))

    @property
    def lined(self) -> int:
        """Severity of fine lines or creping."""
        return self.severity("fine_lines", "creping")

    @property
    def textured(self) -> int:
        """Severity of pores, scars or bumps."""
        return self.severity(*TEXTURE_CONDITIONS)

    @property
    def dry(self) -> int:
        """Severity of dryness, dehydration or flaking."""
        return self.severity("dry", "dehydrated", "flaking")

    @property
    def oily(self) -> int:
        """Severity of oil."""
        return self.severity("oily")


@dataclass(frozen=True)
class Reading:
    """The whole face as read: zones, complexion aimed at, depth, undertone, shape and placement.

    ``suggested`` is the placement as it follows from the measures, ``placement`` the one that stands, moved by hand. Not
    slotted: where work is allowed is worked out once.
    """

    sitter: Sitter
    zones: Mapping[Zone, ZoneReading]
    complexion: Lab
    depth: DepthClass
    undertone: Undertone
    shape: Shape | None
    suggested: Placement
    placement: Placement

    def where(self, *conditions: Condition, least: int = 1) -> tuple[Zone, ...]:
        """Zones where any of the conditions has at least this severity, forehead to neck."""
        return tuple(z for z in ZONES if self.zones[z].severity(*conditions) >= least)

    def workable(self, zones: Iterable[Zone]) -> tuple[Zone, ...]:
        """Those of the zones on which work is allowed: neither broken nor by an inflamed eye."""
        wanted = set(zones)
        return tuple(z for z in self._allowed if z in wanted)

    @cached_property
    def _allowed(self) -> tuple[Zone, ...]:
        return tuple(z for z in ZONES if not self.zones[z].left_alone)

    def severities(self, zones: Iterable[Zone]) -> Mapping[Condition, int]:
        """The severities of each condition summed over the zones; a condition that was read on none of them is missing."""
        found: dict[Condition, int] = {}
        for zone in zones:
            for condition, severity in self.zones[zone].conditions.items():
                found[condition] = found.get(condition, 0) + severity
        return found

    def cite(self, zones: Iterable[Zone], *conditions: Condition, least: int = 1) -> str:
        """What was read, as this sitter's own evidence: "creping 2 under both eyes and fine lines 1 on the chin".

        The gravest first, and no more than a reason bears: where it would list too much, how many zones they are. Empty
        where none of the conditions reaches ``least`` on the zones.
        """
        wanted = tuple(zones)
        rows: list[tuple[int, Condition, frozenset[Zone]]] = []
        for condition in conditions:
            found = frozenset(zone for zone in wanted if self.zones[zone].conditions.get(condition, 0) >= least)
            if found:
                worst = max(self.zones[zone].conditions[condition] for zone in found)
                rows.append((worst, condition, found))
        by_place: dict[frozenset[Zone], list[str]] = {}
        for worst, condition, found in sorted(rows, key=lambda row: -row[0])[:MOST_CITED]:
            by_place.setdefault(found, []).append(f"{CONDITION_INFO[condition].words} {worst}")
        said, listed = [], 0
        for found, read_there in by_place.items():
            named = describe(found)
            few = listed + named.places <= MOST_PLACES_CITED
            listed += named.places if few else 0
            said.append(f"{join_words(read_there)} {named.words if few else f'on {len(found)} zones'}")
        return join_words(said)


MOST_CITED = 2
MOST_PLACES_CITED = 4
"""A reason names so many conditions, in so many places, at most."""


def _oil_rate(conditions: Mapping[Condition, int], house: House) -> float:
    oily, dry = conditions.get("oily", 0), conditions.get("dry", 0)
    if oily >= dry:
        return house.oil_normal + (house.oil_oily - house.oil_normal) * oily / 3.0
    return house.oil_normal + (house.oil_dry - house.oil_normal) * dry / 3.0


def _shear_limit(conditions: Mapping[Condition, int]) -> float:
    if not conditions:
        return 2.0

    def worst(*names: Condition) -> int:
        return max(conditions.get(name, 0) for name in names)

    if worst("broken_skin"):
        return 0.0
    if worst("creping", "flaking") >= 2 or worst("active_blemish", "healing_blemish") >= 1 or worst("sensitive") >= 3:
        return 0.5
    if worst("fine_lines", "creping", "flaking", "raised_texture", "pitted_scar") >= 1:
        return 1.0
    if worst("enlarged_pores", "redness", "sensitive") >= 2:
        return 1.0
    return 2.0


def _film_limit(conditions: Mapping[Condition, int], house: House) -> float:
    if not conditions:
        return house.film_limit_um
    cuts: tuple[tuple[float, tuple[Condition, ...]], ...] = (
        (house.limit_cut_lines, ("fine_lines",)),
        (house.limit_cut_creping, ("creping",)),
        (house.limit_cut_flaking, ("flaking",)),
        (house.limit_cut_texture, TEXTURE_CONDITIONS),
        (house.limit_cut_fold, ("deep_fold",)),
        (house.limit_cut_dry, ("dry", "dehydrated")),
    )
    limit = house.film_limit_um
    for cut, names in cuts:
        limit *= 1.0 - cut * max(conditions.get(name, 0) for name in names)
    return limit


_GROWS_ON: Mapping[str, str] = {"brow": "brow_bone", "lash": "eyelid"}
_FORBIDS: Mapping[str, tuple[Condition, ...]] = {"brow": ("broken_skin",), "lash": ("broken_skin", "active_blemish")}
"""What on the skin beneath brows and lashes forbids work on them."""


def zone_conditions(sitter: Sitter, zone: Zone) -> dict[Condition, int]:
    """The preset's conditions on a zone with what was read there laid over them; severity 0 takes one away.

    Brows and lashes grow on skin: where that must be left alone, so must they.
    """
    found = dict(PRESET_CONDITIONS[sitter.preset].get(zone, {}))
    info = ZONE_INFO[zone]
    if info.hair:
        beneath = zone_conditions(sitter, cast("Zone", f"{_GROWS_ON[info.stem]}_{info.side}"))
        found.update({each: severity for each, severity in beneath.items() if each in _FORBIDS[info.stem]})
    skin = sitter.zones.get(zone)
    if skin is not None:
        found.update(skin.conditions)
    return {condition: severity for condition, severity in found.items() if severity > 0}


def read(case: Case, house: House) -> Reading:
    """Read a case: every zone of the vocabulary, the complexion, the shape and where sculpting goes."""
    sitter = case.sitter
    zones: dict[Zone, ZoneReading] = {}
    for zone in ZONES:
        conditions = zone_conditions(sitter, zone)
        own = sitter.zones.get(zone)
        measured = own.lab if own is not None else None
        base = (sitter.neck if zone in ("neck", "under_jaw") and sitter.neck is not None else sitter.skin).lab
        zones[zone] = ZoneReading(
            zone=zone,
            conditions=conditions,
            lab=measured or zone_colour(base, conditions),
            mark_lab=zone_colour(measured or base, conditions, on_mark=True),
            measured=measured is not None,
            oil_rate=_oil_rate(conditions, house),
            shear_limit=_shear_limit(conditions),
            film_limit_um=_film_limit(conditions, house),
        )
    shape = shape_of(sitter.measures, house)
    suggested = place(
        {zone: each.conditions for zone, each in zones.items()},
        sitter.measures,
        shape,
        house,
        case.intent,
        sitter.covered,
    )
    return Reading(
        sitter=sitter,
        zones=zones,
        complexion=intended_complexion(sitter, house),
        depth=depth_class(sitter.skin.lab),
        undertone=undertone(sitter.skin.lab),
        shape=shape,
        suggested=suggested,
        placement=moved_placement(suggested, sitter.moved, house),
    )
