"""What tools hold: product that stays in a tool after a step, and what of it comes along into the next one.

The same product in the same tool is a left-over used on purpose. Another product in it means that the tool was wiped:
``wiped_share`` of the old one stays, and of that ``carry_share`` comes off with the new film, colour and all.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from nabrel.core.house import House
from nabrel.core.plan.step import Portion
from nabrel.core.shelf.doses import film_ml, passed_on, powder_g
from nabrel.core.shelf.optics import Mixture
from nabrel.core.terms.ids import Tool
from nabrel.core.terms.zones import area_of

Held = Mapping[Tool, Mapping[str, float]]
"""What every tool holds: ml, or g of powder, by item."""
LEAST_SHARE = 0.005
"""A smaller share of a foreign product in a film changes no colour that anybody sees."""


@dataclass(frozen=True, slots=True)
class Carried:
    """Part of a portion's film that is another item, which came along in the tool; share 0 to 1."""

    product: str
    share: float


@dataclass(frozen=True, slots=True)
class Laid:
    """What a portion really laid: its amount, what was taken for it (ml or g), what came along, and what tools then hold."""

    amount: float
    taken: float
    carried: tuple[Carried, ...]
    held: Held


def lay_portion(held: Held, portion: Portion, mixed: Mixture, house: House) -> Laid:
    """Lay a portion with its tool. A left-over is capped by what the tool holds of the mix, and takes nothing."""
    amount = portion.amount or 0.0
    area = area_of(portion.zones) * portion.patch
    dry = mixed.product.dry
    need = powder_g(area, amount) if dry else film_ml(area, amount)
    inside = dict(held.get(portion.tool, {})) if portion.tool is not None else {}
    own = [item.id for item, _ in mixed.items]
    if portion.left_over:
        comes = house.carry_share * sum(inside.get(item, 0.0) for item in own)
        laid = min(need, comes)
        for item in own:
            inside[item] = inside.get(item, 0.0) * (1.0 - house.carry_share * laid / comes if comes > 0 else 1.0)
        amount = amount * laid / need if need > 0 else 0.0
        return Laid(amount, 0.0, (), _with(held, portion.tool, inside))
    if need <= 0:
        return Laid(amount, 0.0, (), held)
    taken = need / passed_on(portion.tool, house, gripping=dry and portion.tool_dampened)
    carried = () if dry else _come_along(inside, own, need, house)
    for each, share in mixed.items:
        inside[each.id] = inside.get(each.id, 0.0) * (1.0 - house.carry_share) + (taken - need) * share
    return Laid(amount, taken, carried, _with(held, portion.tool, inside))


def _come_along(inside: dict[str, float], own: list[str], laid: float, house: House) -> tuple[Carried, ...]:
    """What comes along of other items, which are taken out of the tool."""
    came: list[Carried] = []
    for other in [each for each in inside if each not in own]:
        left = inside[other] * house.wiped_share
        along = left * house.carry_share
        inside[other] = left - along
        share = along / (along + laid)
        if share >= LEAST_SHARE:
            came.append(Carried(other, share))
    return tuple(came)


def _with(held: Held, tool: Tool | None, inside: Mapping[str, float]) -> Held:
    return held if tool is None else {**held, tool: inside}


def left_in(held: Held, tool: Tool | None, items: tuple[str, ...], house: House) -> float:
    """How much of these items a tool would still give off, ml or g."""
    if tool is None:
        return 0.0
    inside = held.get(tool, {})
    return house.carry_share * sum(inside.get(item, 0.0) for item in items)
