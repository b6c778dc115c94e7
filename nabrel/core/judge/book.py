"""What a rule is, what it finds, and the book that collects the rules of all families."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Mapping
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

from nabrel.core.base.appearance import Appearance, appear, grounds
from nabrel.core.base.state import Course, Lies, ZoneState, bare, follow
from nabrel.core.case.product import Product
from nabrel.core.face.reading import Reading, ZoneReading
from nabrel.core.house import PARAMETERS, House, RuleDecision
from nabrel.core.house.viewing import SeenHouse
from nabrel.core.plan.edits import Edit, SetProduct
from nabrel.core.plan.sequence import Sequence
from nabrel.core.plan.step import Step
from nabrel.core.shelf.facts import Fact, is_open
from nabrel.core.terms.hands import MOTION_INFO
from nabrel.core.terms.ids import Motion, School, Severity, Tool, Zone
from nabrel.core.terms.looks import SEVERITY_INFO
from nabrel.core.terms.schools import SCHOOL_INFO, SchoolInfo
from nabrel.core.terms.words import join_words
from nabrel.core.terms.zones import in_order
from nabrel.core.wear.edges import Edge, edges
from nabrel.core.wear.forecast import ZoneForecast, forecast

Family = Literal[
    "order",
    "bases",
    "texture",
    "method",
    "amounts",
    "setting",
    "placement",
    "correcting",
    "colour",
    "hygiene and safety",
]


@dataclass(frozen=True, slots=True)
class Unsettled:
    """Something of an item that is unknown or guessed, and that a person can settle."""

    item: str
    fact: Fact


@dataclass(frozen=True, slots=True)
class Fix:
    """A way out as edits that can be applied in one action."""

    says: str
    edits: tuple[Edit, ...]


@dataclass(frozen=True, slots=True)
class Breach:
    """One cause a rule found: where, in words, and the way out. ``severity`` replaces the rule's own if given.

    ``against`` are the steps that it clashes with, where it takes two to break the rule; ``unsettled`` what is to be found out.
    ``why`` replaces the rule's reason, where this cause has another.
    """

    steps: tuple[str, ...]
    zones: tuple[Zone, ...]
    says: str
    fix: Fix | None = None
    severity: Severity | None = None
    against: tuple[str, ...] = ()
    unsettled: tuple[Unsettled, ...] = ()
    why: str = ""


@dataclass(frozen=True, slots=True)
class Finding:
    """What a check says: the rule's finding with its severity and the reason a student can repeat.

    other_view is the other position where the trade disputes the rule; decided what this educator decided about it;
    accepted the reason for which it was accepted in this plan, which keeps it quiet. A stop is never kept quiet.
    against are the steps that the steps clash with, where it takes two to break the rule. unsettled is what of the items
    is to be found out, or was only guessed.
    """

    rule: str
    family: Family
    severity: Severity
    steps: tuple[str, ...]
    zones: tuple[Zone, ...]
    says: str
    why: str
    fix: Fix | None = None
    other_view: str = ""
    decided: str = ""
    accepted: str = ""
    against: tuple[str, ...] = ()
    unsettled: tuple[Unsettled, ...] = ()


@dataclass(frozen=True, slots=True)
class Hand:
    """One hand of a step: the tool and motion of a portion, or (``portion`` None) of the second tool, and where it works."""

    index: int
    step: Step
    portion: int | None
    tool: Tool | None
    motion: Motion | None
    zones: tuple[Zone, ...]
    active_s: float

    @property
    def shear(self) -> float:
        """How much it shears, 0 to 3."""
        return MOTION_INFO[self.motion].shear if self.motion is not None else 0.0


class Judged:
    """Everything a rule may look at, each part worked out when it is first asked for. Appearance is in daylight.

    ``house`` is as the viewing judges it; ``former`` a course of nearly the same plan, whose states are taken over. ``worked_out`` keeps what several rules ask for, by what it is of.
    """

    def __init__(
        self,
        sequence: Sequence,
        reading: Reading,
        products: Mapping[str, Product],
        house: SeenHouse,
        former: Course | None = None,
    ) -> None:
        self.sequence = sequence
        self.reading = reading
        self.products = products
        self.house = house
        self.worked_out: dict[str, object] = {}
        self._former = former

    @property
    def school(self) -> SchoolInfo:
        """The traits of the school it is planned in."""
        return SCHOOL_INFO[self.sequence.school]

    @cached_property
    def course(self) -> Course:
        """What lies on each zone before and after every step."""
        dotted = self.sequence.case.intent.options.laid_from == "face"
        skin = bare(grounds(self.reading), self.products, self.house, dotted=dotted)
        return follow(skin, self.sequence.steps, self._former)

    @cached_property
    def appearance(self) -> Appearance:
        """The colour every zone shows after every step."""
        return appear(self.sequence, self.reading, self.course, "daylight")

    @cached_property
    def forecast(self) -> Mapping[Zone, ZoneForecast]:
        """How each zone wears."""
        return {row.zone: row for row in forecast(self.sequence, self.reading, self.course, self.house)}

    @cached_property
    def edges(self) -> tuple[Edge, ...]:
        """The borders of the finished base, steepest first."""
        return edges(self.sequence, self.appearance, self.house)

    def product(self, step: Step) -> Product | None:
        """What a step takes, a mix as what it amounts to; None where it has none."""
        taken = self._taken.get(step.id)
        if taken is not None and taken[0] is step:
            return taken[1]
        mixed = self.course.states[0].mixed(step)
        return None if mixed is None else mixed.product

    @cached_property
    def _taken(self) -> Mapping[str, tuple[Step, Product | None]]:
        """What every step of the plan takes, by id: every rule asks."""
        steps = ((step, done.mixed) for step, done in zip(self.sequence.steps, self.course.done, strict=True))
        return {step.id: (step, None if mixed is None else mixed.product) for step, mixed in steps}

    def before(self, index: int, zone: Zone) -> ZoneState:
        """What lies on a zone when step ``index`` starts."""
        return self.course.states[index][zone]

    def lies(self, index: int, zone: Zone) -> Lies:
        """Whether a zone is bare, wet, tacky, set or powdered when step ``index`` starts."""
        return self.before(index, zone).lies(self.course.starts[index], self.house)

    def beneath(self, index: int, zones: Iterable[Zone]) -> tuple[str, ...]:
        """The steps whose film lies topmost on the zones when step ``index`` starts."""
        lying = dict.fromkeys(self.before(index, zone).last_wet for zone in zones)
        return tuple(self.sequence.steps[each].id for each in lying if each is not None)

    @cached_property
    def hands(self) -> tuple[Hand, ...]:
        """Every hand of every step, in order."""
        found: list[Hand] = []
        for index, step in self.steps():
            found += [
                Hand(index, step, place, portion.tool, portion.motion, portion.zones, portion.active_s)
                for place, portion in enumerate(step.portions)
            ]
            if step.then is not None:
                then = step.then
                found.append(Hand(index, step, None, then.tool, then.motion, step.worked_in, then.active_s))
        return tuple(found)

    def here(self, zone: Zone) -> ZoneReading:
        """The reading of a zone."""
        return self.reading.zones[zone]

    def where(self, so: Callable[[ZoneReading], object]) -> frozenset[Zone]:
        """The zones of which something is so, whatever is laid on them."""
        return frozenset(zone for zone, here in self.reading.zones.items() if so(here))

    def foundations(self) -> Iterator[tuple[Step, Product]]:
        """Steps that lay a liquid or cream foundation, with it."""
        for step in self.sequence.steps:
            product = self.product(step)
            if step.kind == "foundation" and product is not None and step.film_um:
                yield step, product

    def swap(self, product: Product, other: Product | None) -> Fix | None:
        """Another product in every foundation step that uses this one; None where there is none."""
        if other is None:
            return None
        same = tuple(s.id for s in self.sequence.steps if s.item == product.id and s.kind == "foundation")
        return Fix(f"{other.name} instead", tuple(SetProduct(each, other.id) for each in same))

    def steps(self) -> Iterator[tuple[int, Step]]:
        """Steps with their index, in order."""
        return iter(enumerate(self.sequence.steps))


Check = Callable[[Judged], Iterator[Breach]]


@dataclass(frozen=True, slots=True)
class Rule:
    """One rule: what it holds, why, how grave a breach is, and the other position where the trade disputes it.

    at_worst is the gravest severity that it finds, where a finding may replace the rule's own. rests_on is what of
    the items it goes by.
    """

    id: str
    family: Family
    severity: Severity
    statement: str
    reason: str
    check: Check
    other_view: str = ""
    schools: tuple[School, ...] = ()
    parameters: tuple[str, ...] = ()
    at_worst: Severity | None = None
    rests_on: Fact | None = None

    def applies_to(self, school: School) -> bool:
        """Whether the rule speaks in this school; no schools named means all."""
        return not self.schools or school in self.schools


_RESTS_ON: Mapping[Family, Fact] = {"colour": "colour", "correcting": "colour", "bases": "base"}
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
    parameters: tuple[str, ...] = (),
    at_worst: Severity | None = None,
    rests_on: Fact | None = None,
) -> Callable[[Check], Check]:
    """Enter a check into the book. ``parameters`` names the house parameters it asks about.

    Rules of colour and of correcting go by the colour of the items, rules of bases by their base.
    """

    def enter(check: Check) -> Check:
        if rule_id in BOOK:
            raise ValueError(f"rule {rule_id} stands in the book twice")
        BOOK[rule_id] = Rule(
            rule_id, family, severity, statement, reason, check, other_view, schools, parameters, at_worst,
            rests_on or _RESTS_ON.get(family),
        )  # fmt: skip
        return check

    return enter


def _decided(each: Rule, decision: RuleDecision | None, house: House) -> str:
    """What this educator decided about a rule and the numbers it asks about, in a sentence; empty where nothing."""
    said: list[str] = []
    if decision is not None and decision.severity is not None:
        said.append(f"{each.severity} became {decision.severity}" + (f" ({decision.note})" if decision.note else ""))
    for own in house.decided:
        if own.name in each.parameters:
            note = f" ({own.note})" if own.note else ""
            parameter = PARAMETERS[own.name]
            said.append(f"{parameter.words} is {own.value:g}, not {parameter.default:g} {parameter.unit}{note}")
    return f"Decided here: {'; '.join(said)}." if said else ""


def _guessed(each: Rule, cause: Breach, judged: Judged) -> tuple[Unsettled, ...]:
    """What of the items of the steps that a rule names it goes by and is only guessed."""
    if each.rests_on is None:
        return ()
    named = {*cause.steps, *cause.against}
    items = dict.fromkeys(part.item for step in judged.sequence.steps if step.id in named for part in step.mix)
    fact = each.rests_on
    return tuple(Unsettled(item, fact) for item in items if is_open(judged.products[item], fact))


def _weight(cause: Breach, each: Rule, guessed: bool) -> Severity:
    """How grave a breach is: what rests on a guess is no more than advice, unless it stops the work."""
    severity = cause.severity or each.severity
    return "advice" if guessed and severity == "problem" else severity


def _on_a_guess(guessed: tuple[Unsettled, ...], judged: Judged) -> str:
    names = join_words(judged.products[each.item].name for each in guessed)
    what = {"base": "The base", "colour": "The colour"}[guessed[0].fact]
    return f"{what} of {names} is only guessed, so this may not be so."


def _rank(severity: Severity) -> int:
    return SEVERITY_INFO[severity].rank


def run_rules(judged: Judged, graver_than: Severity | None = None) -> tuple[Finding, ...]:
    """Every rule's findings, gravest first, then in the order of work; only those graver than a severity if given."""
    order = {step.id: index for index, step in enumerate(judged.sequence.steps)}
    found: list[Finding] = []
    for each in BOOK.values():
        decision = judged.house.on_rule(each.id)
        if not each.applies_to(judged.sequence.school) or (decision is not None and decision.off):
            continue
        severity = decision.severity if decision is not None else None
        if graver_than is not None and _rank(severity or each.at_worst or each.severity) <= _rank(graver_than):
            continue
        decided = _decided(each, decision, judged.house)
        accepted = {own.zones: own.note for own in judged.sequence.accepted if own.rule == each.id}
        for cause in each.check(judged):
            guessed = _guessed(each, cause, judged)
            found.append(
                Finding(
                    rule=each.id,
                    family=each.family,
                    severity=(found_severity := severity or _weight(cause, each, bool(guessed))),
                    steps=cause.steps,
                    zones=cause.zones,
                    says=f"{cause.says} {_on_a_guess(guessed, judged)}" if guessed else cause.says,
                    why=cause.why or each.reason,
                    fix=cause.fix,
                    other_view=each.other_view,
                    decided=decided,
                    accepted="" if found_severity == "stop" else accepted.get(in_order(cause.zones), ""),
                    against=cause.against,
                    unsettled=(*cause.unsettled, *guessed),
                )
            )
    if graver_than is not None:
        found = [each for each in found if _rank(each.severity) > _rank(graver_than)]
    return tuple(
        sorted(
            found,
            key=lambda f: (
                bool(f.accepted),
                -_rank(f.severity),
                min((order.get(s, len(order)) for s in f.steps), default=len(order)),
            ),
        )
    )
