"""House parameters: every number of the trade that an educator may decide otherwise, in one frozen value.

Each carries its unit, sensible range, the reason for its default and its source (``house``, or a published
measurement or standard). A :class:`House` is passed in, never a global. Values that differ by zone, condition or
motion stand in :mod:`nabrel.core.house.tables`.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, fields, replace
from typing import Any, cast

from nabrel.core.errors import Refused
from nabrel.core.house.amounts import Amounts
from nabrel.core.house.carrying import Carrying
from nabrel.core.house.choosing import Choosing
from nabrel.core.house.colour import Colours
from nabrel.core.house.factors import Factor
from nabrel.core.house.films import Films
from nabrel.core.house.hands import Hands
from nabrel.core.house.judging import Judging
from nabrel.core.house.measuring import Measuring
from nabrel.core.house.parameter import Parameter
from nabrel.core.house.printing import Printing
from nabrel.core.house.times import Times
from nabrel.core.house.wearing import Wearing
from nabrel.core.terms.ids import Severity

SUBJECTS = (Films, Amounts, Carrying, Colours, Times, Wearing, Hands, Choosing, Judging, Measuring, Printing)


@dataclass(frozen=True, slots=True)
class RuleDecision:
    """What an educator decided otherwise about one rule: off, or of another severity, and why."""

    rule: str
    off: bool = False
    severity: Severity | None = None
    note: str = ""


@dataclass(frozen=True, slots=True)
class ParameterDecision:
    """A parameter decided otherwise, and why."""

    name: str
    value: float
    note: str = ""


@dataclass(frozen=True)
class House(Printing, Measuring, Judging, Choosing, Hands, Wearing, Times, Colours, Carrying, Amounts, Films):
    """All house parameters. Change some with :meth:`deciding`, which holds each to its range.

    ``decided`` are the parameters that were decided otherwise, ``rules`` what was decided about rules of the book,
    ``factors`` what was taken over from wear records.
    """

    decided: tuple[ParameterDecision, ...] = ()
    rules: tuple[RuleDecision, ...] = ()
    factors: tuple[Factor, ...] = ()

    def deciding(self, changes: Mapping[str, float], notes: Mapping[str, str] | None = None) -> House:
        """This house with some parameters decided otherwise, and why. Refuses unknown names and values out of range."""
        for name, value in changes.items():
            if name not in PARAMETERS:
                raise Refused(f"house.{name}", name, "the name of a house parameter")
            each = PARAMETERS[name]
            if not each.low <= value <= each.high:
                raise Refused(f"house.{name}", value, f"{each.low:g} to {each.high:g} {each.unit}")
        known = {each.name: each for each in self.decided}
        for name, value in changes.items():
            known[name] = ParameterDecision(name, value, (notes or {}).get(name, ""))
        return replace(self, **cast("dict[str, Any]", dict(changes)), decided=tuple(known.values()))

    def on_rule(self, rule_id: str) -> RuleDecision | None:
        """What was decided about a rule, None where it stands as the book has it."""
        return next((each for each in self.rules if each.rule == rule_id), None)


def _described() -> Iterator[Parameter]:
    for subject in SUBJECTS:
        for each in fields(subject):
            yield Parameter(
                name=each.name, default=float(str(each.default)), subject=subject.__doc__ or "", **each.metadata
            )


PARAMETERS: Mapping[str, Parameter] = {each.name: each for each in _described()}
"""Every parameter by name, by subject."""
