"""A simulated probe for oil (µg/cm²) and moisture (probe units), held on one zone for half a minute."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from nabrel.core.house import House
from nabrel.core.terms.ids import Condition, Zone
from nabrel.core.terms.zones import T_ZONE

OIL_SCATTER, MOISTURE_SCATTER = 0.05, 1.5
"""Relative scatter of oil, and scatter of moisture in units."""


def oil(zone: Zone, conditions: Mapping[Condition, int], seed: int, house: House) -> float:
    """Oil in µg/cm² on a zone that has these conditions: the middle of their band, with scatter."""
    middle = zone in T_ZONE
    low = house.t_zone_oil_low_ug if middle else house.cheek_oil_low_ug
    high = house.t_zone_oil_high_ug if middle else house.cheek_oil_high_ug
    oily, dry = conditions.get("oily", 0), conditions.get("dry", 0)
    usual = {
        0: (low + high) / 2,
        1: 1.15 * high,
        2: 1.5 * high,
        3: 1.85 * high,
        -1: 0.75 * low,
        -2: 0.35 * low,
        -3: 0.2 * low,
    }[oily if oily >= dry else -dry]
    return round(max(0.0, usual * (1.0 + OIL_SCATTER * _normal(seed))), 0)


def moisture(conditions: Mapping[Condition, int], seed: int, house: House) -> float:
    """Moisture in probe units on a zone that has these conditions: the middle of their band, with scatter."""
    low, very = house.moisture_low, house.moisture_very_low
    usual = {0: low + 12, 1: (low + very) / 2, 2: very * 5 / 6, 3: very / 2}[conditions.get("dehydrated", 0)]
    return round(max(0.0, usual + MOISTURE_SCATTER * _normal(seed)), 0)


def _normal(seed: int) -> float:
    return float(np.clip(np.random.default_rng(seed).normal(), -2.0, 2.0))
