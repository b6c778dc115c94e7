"""One step of a plan: one take of product, or of a mix, shared out over portions of the face."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Annotated, Literal

from annotated_types import Gt, Le, MaxLen, MinLen

from nabrel.core.terms.ids import Motion, StepKind, Tool, Zone
from nabrel.core.terms.limits import (
    MOST_MIXED,
    MOST_PORTIONS,
    MOST_REASONS,
    Amount,
    Ident,
    LongWait,
    Seconds,
    Sentence,
    Share,
    Text,
)
from nabrel.core.terms.zones import in_order

Unit = Literal["um", "mg_cm2"]
"""What amounts are in: µm of dry film, or mg/cm² of powder."""
Cue = Literal[
    "look_up", "look_down", "eyes_closed", "shield_eyes", "smile_relax", "suck_cheeks", "tilt_head", "lips_together"
]
"""What the sitter is asked to do."""


@dataclass(frozen=True, slots=True)
class MixPart:
    """One item of a mix with its share, 0 to 1, by volume of wet items and by mass of powders."""

    item: Ident
    share: Annotated[float, Gt(0), Le(1)] = 1.0


@dataclass(frozen=True, slots=True)
class Portion:
    """What one hand does with part of the take, in its place among the portions.

    ``amount`` is the same on all the zones, in the unit of the step; None where nothing is laid. ``patch`` is the share of each
    zone that is covered, for marks and lines: colour is judged on the patch, load and take by area. ``left_over`` says that
    it is laid with what the tool still holds, and takes nothing. ``tool_dampened``: the tool was misted first.
    """

    zones: tuple[Zone, ...] = ()
    amount: Amount | None = None
    tool: Tool | None = None
    motion: Motion | None = None
    active_s: Seconds = 15.0
    left_over: bool = False
    patch: Annotated[Share, Gt(0)] = 1.0
    tool_dampened: bool = False
    why: Annotated[tuple[Sentence, ...], MaxLen(MOST_REASONS)] = ()

    def covers(self, zone: Zone) -> bool:
        """Whether the portion goes on a zone."""
        return zone in self.zones


@dataclass(frozen=True, slots=True)
class Then:
    """The step worked in once more with a second tool; on all its zones where none are named."""

    tool: Tool | None = None
    motion: Motion | None = None
    active_s: Seconds = 15.0
    zones: tuple[Zone, ...] | None = None
    tool_dampened: bool = False


@dataclass(frozen=True)
class Step:
    """One thing the hand does: one take, one purpose.

    ``mix`` are the items taken (none for work without product), ``unit`` what amounts are in: None for care and mists, whose
    dose the house gives, and for work. ``wait_s`` is the least wait before the next layer on the same zones,
    ``wait_at_most_s`` the longest. Not slotted: what follows from its portions is worked out once.
    """

    id: Ident
    kind: StepKind
    portions: Annotated[tuple[Portion, ...], MinLen(1), MaxLen(MOST_PORTIONS)]
    mix: Annotated[tuple[MixPart, ...], MaxLen(MOST_MIXED)] = ()
    unit: Unit | None = None
    then: Then | None = None
    wait_s: Seconds = 0.0
    wait_at_most_s: LongWait | None = None
    cue: tuple[Cue, ...] = ()
    why: Annotated[tuple[Sentence, ...], MinLen(1), MaxLen(MOST_REASONS)] = ("",)
    rules: Annotated[tuple[Text, ...], MaxLen(40)] = ()
    check: Sentence = ""

    @cached_property
    def zones(self) -> tuple[Zone, ...]:
        """Every zone of the step once, forehead to neck."""
        return in_order(zone for portion in self.portions for zone in portion.zones)

    @cached_property
    def amounts(self) -> Mapping[Zone, float]:
        """The amount laid on each zone; empty where the step lays nothing."""
        if not self.lays:
            return {}
        return {zone: portion.amount or 0.0 for portion in self.portions for zone in portion.zones}

    @property
    def lays(self) -> bool:
        """Whether the step lays an amount of film or powder."""
        return self.unit is not None

    @property
    def item(self) -> str | None:
        """The item with the largest share of the mix, the first of equals; None for work without product."""
        return max(self.mix, key=lambda part: part.share).item if self.mix else None

    @cached_property
    def film_um(self) -> float | None:
        """The thickest film that it lays, µm; None where it lays no film."""
        return max(self.amounts.values(), default=0.0) if self.unit == "um" else None

    @cached_property
    def powder_mg(self) -> float | None:
        """The most powder that it lays, mg/cm²; None where it lays no powder."""
        return max(self.amounts.values(), default=0.0) if self.unit == "mg_cm2" else None

    @property
    def swept(self) -> bool:
        """Whether it lays powder that sits for a while and is then dusted off: a bake, or a cleaning line of powder."""
        return self.kind == "bake" or (self.kind == "clean_edge" and self.unit == "mg_cm2")

    @property
    def active_s(self) -> float:
        """Seconds of work at pace 1, without waits."""
        return sum(portion.active_s for portion in self.portions) + (self.then.active_s if self.then else 0.0)

    @property
    def tools(self) -> tuple[Tool, ...]:
        """The tools in the order in which they are taken up, each once."""
        named = [portion.tool for portion in self.portions] + ([self.then.tool] if self.then else [])
        return tuple(dict.fromkeys(tool for tool in named if tool is not None))

    @property
    def hands(self) -> tuple[tuple[Tool | None, Motion | None, tuple[Zone, ...]], ...]:
        """Every hand with the zones it works on: the portions', then the second tool's."""
        found = [(portion.tool, portion.motion, portion.zones) for portion in self.portions]
        if self.then is not None:
            found.append((self.then.tool, self.then.motion, self.worked_in))
        return tuple(found)

    @property
    def worked_in(self) -> tuple[Zone, ...]:
        """The zones that the second tool works; none without one."""
        if self.then is None:
            return ()
        return self.zones if self.then.zones is None else self.then.zones

    def portion_on(self, zone: Zone) -> Portion | None:
        """The first portion that goes on a zone, None where there is none."""
        return next((portion for portion in self.portions if zone in portion.zones), None)

    def with_zones(self, zones: tuple[Zone, ...]) -> Step:
        """The step on these zones only: portions keep those of theirs that are named, new ones go to the first portion."""
        wanted = set(zones)
        new = wanted - set(self.zones)
        parts = []
        for place, portion in enumerate(self.portions):
            own = in_order([z for z in portion.zones if z in wanted] + ([*new] if place == 0 else []))
            if own or not portion.zones:
                parts.append(replace(portion, zones=own))
        then = self.then
        if then is not None and then.zones is not None:
            then = replace(then, zones=tuple(zone for zone in then.zones if zone in wanted))
        return replace(self, portions=tuple(parts) or (replace(self.portions[0], zones=()),), then=then)
