"""What a house parameter is: a number with a unit, a sensible range, a reason and a source."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

HOUSE = "house"
"""The source of what is our own default, which an educator may decide otherwise."""


def parameter(default: float, unit: str, low: float, high: float, why: str, source: str = HOUSE) -> Any:
    """A field of a house with its description."""
    return field(default=default, metadata={"unit": unit, "low": low, "high": high, "why": why, "source": source})


UNIT_ENDINGS = frozenset({"um", "mg", "s", "h", "l", "de", "cm2", "ml", "c", "mm", "ug", "days", "months"})
"""Last parts of names that are units, not words."""


@dataclass(frozen=True, slots=True)
class Parameter:
    """The description of one house parameter."""

    name: str
    unit: str
    default: float
    low: float
    high: float
    why: str
    source: str
    subject: str

    @property
    def words(self) -> str:
        """The name as a person says it: without the unit that ends it, which stands beside the number."""
        parts = self.name.split("_")
        return " ".join(parts[:-1] if len(parts) > 1 and parts[-1] in UNIT_ENDINGS else parts)
