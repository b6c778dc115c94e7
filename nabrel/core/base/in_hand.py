"""What tools hold: product that stays in a tool after a step, and what of it comes along into the next one.

The same product in the same tool is a left-over used on purpose. Another product in it means that the tool was
wiped: ``wiped_share`` of the old one stays, and of that ``carry_share`` comes off with the new film, colour and all.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from nabrel.core.case.product import Product
from nabrel.core.house import House
from nabrel.core.plan.step import Step
from nabrel.core.shelf.doses import passed_on
from nabrel.core.terms.ids import Tool
from nabrel.core.terms.zones import area_of

UM_CM2_TO_ML = 1e-4
"""1 µm of film on 1 cm² is this many millilitres."""
LEAST_SHARE = 0.005
"""A smaller share of a foreign product in a film changes no colour that anybody sees."""


@dataclass(frozen=True, slots=True)
class Carried:
    """Part of a step's film that is another product, which came along in the tool; share 0 to 1."""

    product: str
    share: float


@dataclass(slots=True)
class InHand:
    """Millilitres of each film product that each tool holds, as a sequence is followed."""

    held: dict[Tool, dict[str, float]] = field(default_factory=dict)

    def work(self, step: Step, product: Product | None, house: House) -> tuple[Carried, ...]:
        """Do a step with its tool: what comes along into its film; afterwards the tool holds what it did not pass on."""
        tool = step.tool
        if tool is None or product is None or product.dry or not step.film_um:
            return ()
        inside = self.held.setdefault(tool, {})
        laid = area_of(step.zones) * step.film_um * UM_CM2_TO_ML
        came: list[Carried] = []
        for other in [each for each in inside if each != product.id]:
            left = inside[other] * house.wiped_share
            along = left * house.carry_share
            inside[other] = left - along
            share = along / (along + laid)
            if share >= LEAST_SHARE:
                came.append(Carried(other, share))
        kept = laid * (1.0 / passed_on(tool, house) - 1.0)
        inside[product.id] = inside.get(product.id, 0.0) * (1.0 - house.carry_share) + kept
        return tuple(came)

    def now(self) -> Mapping[Tool, Mapping[str, float]]:
        """What every tool holds now, in ml by product."""
        return {tool: dict(inside) for tool, inside in self.held.items() if inside}
