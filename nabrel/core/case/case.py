"""A case: the sitter, the intent and the kit that a plan starts from."""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from datetime import date
from typing import Annotated

from annotated_types import MaxLen

from nabrel.core.case.intent import Intent
from nabrel.core.case.product import Product
from nabrel.core.case.sitter import Sitter
from nabrel.core.case.tool import OwnedTool
from nabrel.core.terms.limits import MOST_ITEMS


@dataclass(frozen=True, slots=True)
class Case:
    """Sitter, intent and kit. An empty kit means the planner uses a generic one and says so.

    ``tools`` are those that are owned, where they are listed; a file does not carry them.
    """

    sitter: Sitter
    intent: Intent = field(default_factory=Intent)
    kit: Annotated[tuple[Product, ...], MaxLen(MOST_ITEMS)] = ()

    tools: tuple[OwnedTool, ...] = ()

    def on(self, day: date | None) -> Case:
        """The case as done on a day, where it names none: products are judged too old by it."""
        return self if self.intent.day is not None else replace(self, intent=replace(self.intent, day=day))

    def product(self, product_id: str) -> Product | None:
        """The kit item with this id, or None."""
        for item in self.kit:
            if item.id == product_id:
                return item
        return None
