"""Zones as phrases for sentences."""

from __future__ import annotations

from collections.abc import Iterable

from nabrel.core.terms.ids import Zone
from nabrel.core.terms.words import join_words
from nabrel.core.terms.zones import ZONE_INFO, in_order


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
