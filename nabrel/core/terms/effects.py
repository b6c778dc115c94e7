"""What wear records may move about a forecast, and what a move may belong to."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from nabrel.core.terms.ids import EffectAbout, EffectOf
from nabrel.core.terms.table import table


@dataclass(frozen=True, slots=True)
class AboutInfo:
    """One measure: its words, what is said where there is more and where there is less than forecast.

    ``forecast`` says whether forecasts tell it, so that a factor on it can be taken over.
    """

    id: EffectAbout
    words: str
    more: str
    less: str
    forecast: bool = True


@dataclass(frozen=True, slots=True)
class OfInfo:
    """One owner of an effect. ``taken`` says whether a factor of it may be taken over into forecasts."""

    id: EffectOf
    words: str
    taken: bool = True


ABOUT_INFO: Mapping[EffectAbout, AboutInfo] = table(
    (
        AboutInfo("shine_hours", "hours to shine", "it shines later", "it shines sooner"),
        AboutInfo("colour_hours", "hours of colour", "colour lasts longer", "colour lasts shorter"),
        AboutInfo("crease", "creasing", "it creases more", "it creases less"),
        AboutInfo("cake", "caking", "it cakes more", "it cakes less"),
        AboutInfo("lift", "lifting", "it lifts more", "it lifts less", forecast=False),
        AboutInfo("shift", "shift of colour", "it shifts more", "it shifts less", forecast=False),
    )
)
OF_INFO: Mapping[EffectOf, OfInfo] = table(
    (
        OfInfo("house", "This house"),
        OfInfo("zone_group", "Part of the face", taken=False),
        OfInfo("sitter", "Sitter"),
        OfInfo("item", "Product"),
        OfInfo("school", "School", taken=False),
    )
)
"""Parts of the face and schools are shown and not taken over: the first is what the house's own numbers say, by the second
Weigh already ranks."""
