"""Cream or pan: for shade, warmth, colour and glow the kit and the skin decide, in every school."""

from __future__ import annotations

from typing import Literal

from nabrel.core.case.product import Product
from nabrel.core.planner.draft import Draft, cached_per_state
from nabrel.core.terms.ids import Role, StepKind, Zone
from nabrel.core.terms.zones import both

ColourLayer = Literal["shade", "bronze", "colour", "glow"]

SERVES: dict[ColourLayer, tuple[Role, ...]] = {
    "shade": ("shade", "bronzer"),
    "bronze": ("bronzer",),
    "colour": ("colour",),
    "glow": ("glow",),
}
"""What an item may be sold for to lay each of these, the usual role first: a label is a preference, not a gate."""

SUN_ZONES: tuple[Zone, ...] = ("hairline", *both("temple", "cheekbone"), "nose_bridge")
"""Where the sun would reach first."""


def creams(draft: Draft, layer: ColourLayer) -> list[Product]:
    """Items that can lay this in cream or liquid."""
    return [item for item in _serving(draft, layer) if not item.dry]


def pans(draft: Draft, layer: ColourLayer) -> list[Product]:
    """Items that can lay this in powder."""
    return [item for item in _serving(draft, layer) if item.dry]


def _serving(draft: Draft, layer: ColourLayer) -> list[Product]:
    found = [item for item in draft.shelf.of(*SERVES[layer]) if item.tinted and item.lab]
    if layer in ("shade", "bronze"):
        deep = draft.reading.complexion[0] - draft.house.shade_step_l
        found = [item for item in found if item.lab and item.lab[0] < deep and not item.shimmers]
    return found


def only_in_pans(draft: Draft, layer: ColourLayer) -> bool:
    """Whether the kit has this only as a pan: then it waits until the zones are pressed with powder.

    A cream sold for something else does not come before a pan made for it.
    """
    own = [item for item in _serving(draft, layer) if item.role == SERVES[layer][0]] or _serving(draft, layer)
    return bool(own) and all(item.dry for item in own)


def laid(draft: Draft, kind: StepKind) -> bool:
    """Whether a step of this kind lies already."""
    return any(step.kind == kind for step in draft.steps)


def is_even(draft: Draft, zone: Zone) -> bool:
    """Whether a coloured powder may lie here: it shows every unevenness."""
    here = draft.reading.zones[zone]
    return not (here.severity("flaking", "raised_texture", "active_blemish") >= 2 or here.severity("creping") >= 2)


def takes_warmth(draft: Draft, zone: Zone) -> bool:
    """Whether a bronzer may lie here: like a shade, it makes a soft jowl look lower."""
    return not draft.reading.zones[zone].severity("jowl")


def serves_as_shade(draft: Draft, layer: ColourLayer) -> bool:
    """Whether the only item for this lies already as the shade, so that it need not be laid twice."""
    shades = {step.item for step in draft.steps if step.kind == "shade"}
    found = {item.id for item in _serving(draft, layer)}
    return bool(found) and found <= shades


def takes_a_pan(draft: Draft, zone: Zone) -> bool:
    """Whether a pan glides here: over powder, or where nothing lies wet."""
    return draft.powdered(zone) or draft.wet(zone) <= 0


def under_glow(draft: Draft, zone: Zone) -> bool:
    """Whether a cream glow lies here, which powder would only dull, and no oil asks for it.

    A sheen stirred into the foundation is no glow of its own.
    """
    return zone in _glowing(draft) and draft.reading.zones[zone].oily < 2


@cached_per_state
def _glowing(draft: Draft) -> frozenset[Zone]:
    """Zones on which cream glow lies."""
    glows = [step.amounts for step in draft.steps if step.kind == "glow" and step.unit == "um"]
    return frozenset(z for amounts in glows for z, film in amounts.items() if film > draft.house.least_film_um)


def for_pans(draft: Draft, *, shade: bool, again: bool = False) -> tuple[Zone, ...]:
    """Zones that a pan will go over, which are therefore lightly pressed with powder first, so that it glides.

    ``shade`` says whether the school shades; ``again`` whether pans double what lies in cream.
    """
    placement = draft.reading.placement
    wanted: list[Zone] = []
    shades = shade and bool(pans(draft, "shade")) and (again or not laid(draft, "shade"))
    if shades:
        wanted += placement.shade.zones
    if pans(draft, "colour") and (again or not laid(draft, "colour")):
        wanted += placement.colour.zones
    if draft.options.bronzer != "none" and not laid(draft, "bronze"):
        warm = pans(draft, "bronze")
        # A bronzer that is the only shade, too, will serve as that, and is not laid twice.
        if warm and not serves_as_shade(draft, "bronze") and not (shades and warm == pans(draft, "shade")[:1]):
            wanted += SUN_ZONES
    zones = [zone for zone in wanted if is_even(draft, zone) and not under_glow(draft, zone)]
    if glows(draft) and not laid(draft, "glow") and only_in_pans(draft, "glow"):
        zones += placement.glow.zones
    if zones and draft.case.intent.setting == "none":
        draft.note("No powder was asked for, but a pan glides only over a set film: the zones it goes on are pressed.")
    return draft.reading.workable(zones)


def glows(draft: Draft) -> bool:
    """Whether a glow was asked for at all."""
    return draft.case.intent.finish != "matte" and draft.options.glow != "none"
