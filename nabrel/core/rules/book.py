"""What a rule is, what it finds, and the book that collects the rules of all families."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from typing import Literal

from nabrel.core.appearance import Appearance
from nabrel.core.case import Product
from nabrel.core.face.reading import Reading, ZoneReading
from nabrel.core.house import House
from nabrel.core.plan.edits import Edit
from nabrel.core.plan.ledger import Ledger, Lying
from nabrel.core.plan.step import Sequence, Step
from nabrel.core.vocabulary import School, Severity, Zone
from nabrel.core.wear.edges import Edge
from nabrel.core.wear.forecast import ZoneForecast

Family = Literal[
    "order", "bases", "texture", "method", "amounts", "setting", "placement", "correcting", "colour", "safety"
]


@dataclass(frozen=True, slots=True)
class Fix:
    """A way out as edits that can be applied in one action."""

    says: str
    edits: tuple[Edit, ...]


@dataclass(frozen=True, slots=True)
class Found:
    """One cause a rule found: where, in words, and the way out. ``severity`` replaces the rule's own if given."""

    steps: tuple[str, ...]
    zones: tuple[Zone, ...]
    says: str
    fix: Fix | None = None
    severity: Severity | None = None


@dataclass(frozen=True, slots=True)
class Finding:
    """What a check says: the rule's finding with its severity and the reason a student can repeat."""

    rule: str
    family: Family
    severity: Severity
    steps: tuple[str, ...]
    zones: tuple[Zone, ...]
    says: str
    why: str
    fix: Fix | None


@dataclass(frozen=True, slots=True)
class Judged:
    """Everything a rule may look at."""

    sequence: Sequence
    reading: Reading
    ledger: Ledger
    appearance: Appearance
    forecast: Mapping[Zone, ZoneForecast]
    edges: tuple[Edge, ...]
    products: Mapping[str, Product]
    house: House

    def product(self, step: Step) -> Product | None:
        """The product of a step, None where it has none."""
        return self.products.get(step.product) if step.product else None

    def before(self, index: int, zone: Zone) -> Lying:
        """What lies on a zone when step ``index`` starts."""
        return self.ledger.before[index][zone]

    def here(self, zone: Zone) -> ZoneReading:
        """The reading of a zone."""
        return self.reading.zones[zone]

    def steps(self) -> Iterator[tuple[int, Step]]:
        """Steps with their index, in order."""
        return iter(enumerate(self.sequence.steps))


Check = Callable[[Judged], Iterator[Found]]


@dataclass(frozen=True, slots=True)
class Rule:
    """One rule: what it holds, why, how grave a breach is, and the other position where the trade disputes it."""

    id: str
    family: Family
    severity: Severity
    statement: str
    reason: str
    check: Check
    other_view: str = ""
    schools: tuple[School, ...] = ()

    def applies_to(self, school: School) -> bool:
        """Whether the rule speaks in this school; no schools named means all."""
        return not self.schools or school in self.schools


BOOK: dict[str, Rule] = {}
"""All rules by id; the family modules fill it at import."""


def rule(
    rule_id: str,
    family: Family,
    severity: Severity,
    statement: str,
    reason: str,
    *,
    other_view: str = "",
    schools: tuple[School, ...] = (),
) -> Callable[[Check], Check]:
    """Enter a check into the book."""

    def enter(check: Check) -> Check:
        if rule_id in BOOK:
            raise ValueError(f"rule {rule_id} stands in the book twice")
        BOOK[rule_id] = Rule(rule_id, family, severity, statement, reason, check, other_view, schools)
        return check

    return enter


_RANK: Mapping[Severity, int] = {"stop": 0, "problem": 1, "advice": 2}


def consult(judged: Judged) -> tuple[Finding, ...]:
    """Every rule's findings, gravest first, then in the order of work."""
    order = {step.id: index for index, step in enumerate(judged.sequence.steps)}
    found: list[Finding] = []
    for each in BOOK.values():
        if not each.applies_to(judged.sequence.school):
            continue
        for cause in each.check(judged):
            found.append(
                Finding(
                    rule=each.id,
                    family=each.family,
                    severity=cause.severity or each.severity,
                    steps=cause.steps,
                    zones=cause.zones,
                    says=cause.says,
                    why=each.reason,
                    fix=cause.fix,
                )
            )
    return tuple(
        sorted(found, key=lambda f: (_RANK[f.severity], min((order.get(s, 999) for s in f.steps), default=999)))
    )
