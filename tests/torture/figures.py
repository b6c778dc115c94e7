"""What a torture found: a line a part, and whether it held."""

from __future__ import annotations

from dataclasses import dataclass, field


@dataclass
class Found:
    """One part's figures; what went wrong is listed, and nothing else fails it."""

    part: str
    figures: str = ""
    wrong: list[str] = field(default_factory=list)

    def row(self) -> str:
        """A row of the table in docs/reliability.md."""
        held = "held" if not self.wrong else f"**failed**: {'; '.join(self.wrong[:3])}"
        return f"| {self.part} | {self.figures} | {held} |"
