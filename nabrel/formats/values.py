"""Single core values as JSON, strictly: what tables and rows of tables hold."""

from __future__ import annotations

from dataclasses import fields, is_dataclass
from functools import cache
from typing import Any, TypeVar

from pydantic import BaseModel, ConfigDict, TypeAdapter, ValidationError
from pydantic_core import to_json

from nabrel.formats.refusing import refusal

Value = TypeVar("Value")
STRICT = ConfigDict(strict=True, extra="forbid", allow_inf_nan=False)


@cache
def _adapter(kind: Any) -> TypeAdapter[Any]:
    # A dataclass takes no configuration from outside; a tuple that holds one passes it on.
    return TypeAdapter(tuple[kind], config=STRICT)


def _key(kind: type[Any]) -> Any:
    """The kind as a key: classes are hashable, which their type does not say."""
    return kind


def filled(kind: type[Value], value: object, /, **more: Any) -> Value:
    """A model, or a value that adds to another, whose fields are those of a value of the core, but for ``more``."""
    if is_dataclass(kind):
        return kind(**{each.name: getattr(value, each.name) for each in fields(kind) if each.name not in more}, **more)
    assert issubclass(kind, BaseModel)
    own = {name: getattr(value, name) for name in kind.model_fields if name not in more}
    return kind.model_validate({**own, **more}, strict=False)


def value_of(kind: type[Value], values: dict[str, Any], field: str = "row") -> Value:
    """A value from what its fields are to hold, as JSON would have them. Refuses the first field that is wrong."""
    return value_from_text(kind, to_json(values), field)


def value_from_text(kind: type[Value], text: str | bytes, field: str = "row") -> Value:
    """A value from its JSON text."""
    data = text.encode() if isinstance(text, str) else text
    try:
        found: Value = _adapter(_key(kind)).validate_json(b"[" + data + b"]")[0]
    except ValidationError as error:
        raise refusal(error, field, within=1) from None
    return found


def dumped_value(value: Any) -> dict[str, Any]:
    """A value as JSON values, everything that is not there as None."""
    found: dict[str, Any] = _adapter(_key(type(value))).dump_python((value,), mode="json")[0]
    return found


def text_of(value: Any) -> str:
    """A value as the tables keep it: JSON without what is usual."""
    text: bytes = _adapter(_key(type(value))).dump_json((value,), exclude_defaults=True)
    return text[1:-1].decode()
