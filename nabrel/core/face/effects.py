"""Effects asked for by region: where shade and light go for them, and where they stay off, each with its reason."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Literal

from nabrel.core.case.sitter import Measures
from nabrel.core.terms.asked import Effect, EffectRegion
from nabrel.core.terms.ids import Zone
from nabrel.core.terms.zones import both

ShadeOrLight = Literal["shade", "light"]


@dataclass(frozen=True, slots=True)
class EffectChange:
    """Zones where a layer goes for an effect, or with ``off`` stays off, and why."""

    layer: ShadeOrLight
    zones: tuple[Zone, ...]
    why: str
    off: bool = False


_SIDES: tuple[Zone, ...] = both("nose_side")
_BRIDGE: tuple[Zone, ...] = ("nose_bridge",)
EFFECT_CHANGES: Mapping[tuple[EffectRegion, Effect], tuple[EffectChange, ...]] = {
    ("nose", "narrower"): (
        EffectChange("shade", _SIDES, "Two narrow lines, no wider apart than the nose is wished, cooler and lighter than on the cheek."),
        EffectChange("light", _BRIDGE, "A straight narrow line between the two lines of shade."),
    ),
    ("nose", "shorter"): (EffectChange("shade", ("nose_tip",), "A touch under the tip, which draws it up."),),
    ("nose", "longer"): (EffectChange("light", _BRIDGE, "The whole bridge is lit, so that the eye follows it down."),),
    ("nose", "straighter"): (EffectChange("light", _BRIDGE, "The light line is kept straight, whatever the bridge does."),),
    ("nostrils", "narrower"): (EffectChange("shade", _SIDES, "At the nostrils, which narrows the tip."),),
    ("chin", "longer"): (EffectChange("light", ("chin",), "Lit to its lower edge, so that it reaches further."),),
    ("chin", "shorter"): (
        EffectChange("shade", ("under_jaw",), "Below the chin, which draws it up."),
        EffectChange("light", ("chin",), "A light chin would look longer.", off=True),
    ),
    ("chin", "softer"): (EffectChange("light", ("chin",), "Light would sharpen the chin.", off=True),),
    ("forehead", "lower"): (EffectChange("shade", ("hairline",), "Along the hairline, which brings it down."),),
    ("forehead", "narrower"): (EffectChange("shade", both("temple"), "At the temples, which draws the sides in."),),
    ("lips", "fuller"): (
        EffectChange("shade", ("below_lip",), "A shadow below the lower lip, as a fuller lip would throw."),
        EffectChange("light", ("upper_lip",), "A little above the lip, to lift its edge."),
    ),
    ("jaw", "firmer"): (EffectChange("shade", ("under_jaw",), "Under the jaw, whose edge then stands out."),),
    ("jaw", "slimmer"): (EffectChange("shade", both("jaw"), "Along the jaw from the back forward, which draws it in."),),
    ("cheeks", "lifted"): (
        EffectChange("shade", both("cheek_hollow"), "High below the cheekbone, from the ear, blended up and back."),
    ),
    ("cheeks", "fuller"): (EffectChange("shade", both("cheek_hollow"), "Shade would hollow a cheek that is wished fuller.", off=True),),
    ("cheeks", "slimmer"): (EffectChange("shade", both("cheek_hollow"), "Below the cheekbone from the ear, which draws the cheek in."),),
}  # fmt: skip


Wish = tuple[EffectRegion, Effect]


def changes(effects: Mapping[EffectRegion, tuple[Effect, ...]], measures: Measures) -> Iterator[EffectChange]:
    """What the effects asked for change, in the order of the regions."""
    yield from (change for _, change in wished(effects, measures))


def wished(
    effects: Mapping[EffectRegion, tuple[Effect, ...]], measures: Measures
) -> Iterator[tuple[Wish, EffectChange]]:
    """What the effects asked for change, each with the wish that it is for."""
    for region, asked in effects.items():
        for effect in asked:
            wish: Wish = (region, effect)
            if wish == ("nose", "straighter") and measures.nose_leans is not None:
                side: Zone = "nose_side_l" if measures.nose_leans == "left" else "nose_side_r"
                yield wish, EffectChange("shade", (side,), "More shade on the side the bridge stands out to.")
            yield from ((wish, change) for change in EFFECT_CHANGES.get(wish, ()))
