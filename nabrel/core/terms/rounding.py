"""How many digits of a figure are told: an annotation beside the limits, read where values go out."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, cast

from pydantic import GetCoreSchemaHandler
from pydantic_core import CoreSchema, core_schema


@dataclass(frozen=True, slots=True)
class Rounded:
    """The digits after the point to which a float is told; it is computed with all of them."""

    digits: int

    def __get_pydantic_core_schema__(self, source: Any, handler: GetCoreSchemaHandler) -> CoreSchema:
        """As the float itself, but for how it goes out."""
        goes_out = core_schema.plain_serializer_function_ser_schema(self.told, return_schema=core_schema.float_schema())
        return cast(CoreSchema, {**handler(source), "serialization": goes_out})

    def told(self, value: float) -> float:
        """The value to these digits."""
        return round(value, self.digits)
