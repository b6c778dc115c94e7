"""A tool that is owned."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from typing import Annotated, Literal

from nabrel.core.terms.ids import Tool
from nabrel.core.terms.limits import Ident, one_line

Cleaning = Literal["clean", "used", "washing"]


@dataclass(frozen=True, slots=True)
class OwnedTool:
    """One tool that is owned: its kind, what it is called, whether it is clean, and since when it is in use."""

    id: Ident
    kind: Tool
    name: Annotated[str, one_line(120)] = ""
    state: Cleaning = "clean"
    cleaned_on: date | None = None
    since: date | None = None
