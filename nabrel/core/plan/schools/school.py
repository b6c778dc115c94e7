"""What a school is: its reason, what it demands, and its order of work."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from nabrel.core.plan.draft import Draft
from nabrel.core.vocabulary import School


@dataclass(frozen=True, slots=True)
class SchoolOfOrder:
    """One school: its id, why it works as it does, what it costs and demands, and the order of its stages."""

    id: School
    why: str
    demands: str
    plan: Callable[[Draft], None]
