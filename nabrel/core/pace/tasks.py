"""What a plan asks of the hands: its tasks, and what must lie between them."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from itertools import pairwise
from typing import Annotated, Literal

from annotated_types import Ge, Le

from nabrel.core.errors import Refused
from nabrel.core.house import House
from nabrel.core.plan.sequence import Sequence as Plan
from nabrel.core.plan.step import Step
from nabrel.core.terms.hands import TOOL_INFO
from nabrel.core.terms.ids import StepKind, Tool, Zone
from nabrel.core.terms.steps import LAYER_KINDS, POWDER_KINDS, STEP_INFO
from nabrel.core.terms.words import spoken
from nabrel.core.terms.zones import ZONE_INFO, area_of, both, in_order

What = Literal["lay", "then", "work", "feature"]
Side = Literal["", "first", "second"]
LEAST_PACE, MOST_PACE = 0.2, 5.0
"""Nobody works faster or slower than these many times a practised hand's seconds."""
BEGINNER = 1.5
"""How many times a student's seconds a beginner takes."""

Pace = Annotated[float, Ge(LEAST_PACE), Le(MOST_PACE)]
"""How many times a practised hand's seconds a hand takes."""

RESTS: Mapping[StepKind, tuple[Zone, ...]] = {
    "brows": both("cheek_apple", "cheekbone"),
    "eyes": both("under_eye", "cheekbone"),
    "lashes": both("under_eye", "cheekbone"),
    "lips": ("chin",),
}
"""Where the hand rests, or what falls, while a feature is done."""
UNSPLIT = frozenset({"care", "mist", "check", "feature"})
"""Natures of steps that go over both sides at once, also where one side is worked first."""


@dataclass(frozen=True, slots=True)
class Task:
    """One thing the hands do without a break: ``seconds`` of work with one tool on these zones.

    ``portion`` is None for the second tool of a step and for features. ``side`` says which side it is on where one side is
    worked first; ``done_at`` is when it was done already, in seconds from the start, None where it is still to do.
    """

    step: str
    portion: int | None
    what: What
    zones: tuple[Zone, ...]
    seconds: int
    tool: Tool | None
    side: Side = ""
    done_at: int | None = None


@dataclass(frozen=True, slots=True)
class LagReason:
    """Why something must be so: a name that tells it from others, and the sentence."""

    name: str
    says: str


@dataclass(frozen=True, slots=True)
class Lag:
    """Task ``after`` starts at least ``least`` seconds after task ``before`` ends (at most, if ``most`` is given)."""

    before: int
    after: int
    reason: LagReason
    least: int | None = None
    most: int | None = None


@dataclass(frozen=True, slots=True)
class Apart:
    """Task ``task`` is done before all of ``before`` start, or ``least`` seconds after all of ``after`` have ended."""

    task: int
    before: tuple[int, ...]
    after: tuple[int, ...]
    least: int
    reason: LagReason


@dataclass(frozen=True, slots=True)
class Clash:
    """Two uses of one kind of tool between which it must be cleaned, if it is the same one: first ``one``, then ``other``."""

    one: int
    other: int
    tool: Tool


@dataclass(frozen=True)
class Work:
    """All that a plan asks of the hands. Seconds are whole, at the pace asked for; waits do not scale with it."""

    plan: Plan
    tasks: tuple[Task, ...]
    lags: tuple[Lag, ...]
    aparts: tuple[Apart, ...]
    clashes: tuple[Clash, ...]
    pins: tuple[tuple[int, int, LagReason], ...] = ()
    ready: tuple[int, LagReason] | None = None
    hands: int = 1
    tools: Mapping[Tool, int] = field(default_factory=dict)
    clean_s: int = 0

    @property
    def blocks(self) -> list[list[int]]:
        """The tasks that the hands do without turning to another step: those of one step, on one side where sides are split."""
        found: dict[tuple[str, Side], list[int]] = {}
        for index, task in enumerate(self.tasks):
            if task.done_at is None:
                found.setdefault((task.step, task.side), []).append(index)
        return list(found.values())

    def of(self, step: str) -> list[int]:
        """The tasks of a step, in order."""
        return [index for index, task in enumerate(self.tasks) if task.step == step]


def paces(house: House) -> tuple[float, float, float]:
    """How many times a practised hand's seconds are taken: by that hand, by a student, by a beginner."""
    return 1.0, house.student_pace, min(BEGINNER * house.student_pace, MOST_PACE)


def checked_pace(pace: float) -> float:
    """A pace that can be; refuses any other."""
    if not LEAST_PACE <= pace <= MOST_PACE:
        raise Refused("pace", pace, f"{LEAST_PACE:g} to {MOST_PACE:g} times a practised hand's seconds")
    return pace


def seconds_of(clock: str, field_name: str) -> int:
    """A time of day, "09:10", in seconds. Refuses what is none."""
    hours, _, minutes = clock.partition(":")
    if not (hours.isdigit() and minutes.isdigit() and len(minutes) == 2 and int(hours) < 24 and int(minutes) < 60):
        raise Refused(field_name, clock, 'a time of day such as "09:10"')
    return (int(hours) * 60 + int(minutes)) * 60


def work_of(plan: Plan, house: House, *, pace: float = 1.0, hands: int = 1, spare: Iterable[Tool] = ()) -> Work:
    """The tasks of a plan and what must lie between them.

    ``pace`` times the active seconds (a student's 2.0), ``hands`` is one or two pairs, ``spare`` are kinds of tool of which
    there is one more, named once for each. Refuses a pace, hands and times that cannot be.
    """
    checked_pace(pace)
    if hands not in (1, 2):
        raise Refused("hands", hands, "1 or 2 pairs of hands")
    tools = dict.fromkeys(TOOL_INFO, 1)
    for tool in spare:
        if tool not in tools:
            raise Refused("spare", tool, "one of " + ", ".join(TOOL_INFO))
        tools[tool] += 1
    tasks = _tasks(plan, pace)
    lags = [
        *_within_steps(plan, tasks),
        *_waits(plan, tasks),
        *_looks(plan, tasks),
        *_sides(plan, tasks),
        *_features(plan, tasks),
    ]
    return Work(
        plan=plan,
        tasks=tuple(tasks),
        lags=tuple(_strictest(lags)),
        aparts=tuple(_set_apart(plan, tasks)),
        clashes=tuple(_clashes(plan, tasks, house)),
        pins=tuple(_pins(plan, tasks)),
        ready=_ready(plan),
        hands=hands,
        tools=tools,
        clean_s=round(house.clean_tool_s * pace),
    )


def origin_of(plan: Plan) -> int | None:
    """The time of day from which seconds count, in seconds: the start, else the last of what was done already; None without."""
    timing = plan.timing
    if timing is None:
        return None
    if timing.start is not None:
        return seconds_of(timing.start, "timing.start")
    done = [seconds_of(clock, f"timing.already.{step}") for step, clock in timing.already.items()]
    return max(done, default=None)


def _tasks(plan: Plan, pace: float) -> list[Task]:
    already = _already(plan)
    one_first = plan.timing is not None and plan.timing.sides == "one_first"
    found: list[Task] = []
    for step in plan.steps:
        info = STEP_INFO[step.kind]
        done_at = already.get(step.id)
        split = one_first and info.nature not in UNSPLIT and done_at is None
        for place, portion in enumerate(step.portions):
            what: What = "feature" if info.nature == "feature" else "lay" if step.mix else "work"
            number = None if what == "feature" else place
            for side, zones, share in _by_side(portion.zones, split=split):
                seconds = 0 if done_at is not None else max(1, round(portion.active_s * pace * share))
                found.append(Task(step.id, number, what, zones, seconds, portion.tool, side, done_at))
        if step.then is not None:
            for side, zones, share in _by_side(step.worked_in, split=split):
                seconds = 0 if done_at is not None else max(1, round(step.then.active_s * pace * share))
                found.append(Task(step.id, None, "then", zones, seconds, step.then.tool, side, done_at))
    return found


def _already(plan: Plan) -> dict[str, int]:
    """When steps were done already, in seconds from the start; what is not of this plan is refused."""
    timing = plan.timing
    if timing is None or not timing.already:
        return {}
    origin = origin_of(plan) or 0
    ids = {step.id for step in plan.steps}
    found = {}
    for step, clock in timing.already.items():
        if step not in ids:
            raise Refused(f"timing.already.{step}", step, "a step of this plan")
        at = seconds_of(clock, f"timing.already.{step}") - origin
        if at > 0:
            raise Refused(f"timing.already.{step}", clock, "a time before the start")
        found[step] = at
    return found


def _by_side(zones: tuple[Zone, ...], *, split: bool) -> Iterator[tuple[Side, tuple[Zone, ...], float]]:
    """The sitter's right side with the middle, then the left, with their shares of the area; all at once if not ``split``."""
    if not split:
        yield "", zones, 1.0
        return
    left = tuple(zone for zone in zones if ZONE_INFO[zone].side == "l")
    right = tuple(zone for zone in zones if zone not in left)
    whole = area_of(zones) or 1.0
    sides: tuple[tuple[Side, tuple[Zone, ...]], ...] = (("first", right), ("second", left))
    for side, own in sides:
        if own or (side == "first" and not zones):
            yield side, own, area_of(own) / whole if zones else 1.0


def _on_zones(tasks: Sequence[Task]) -> tuple[Mapping[tuple[str, Zone], int], Mapping[tuple[str, Zone], int]]:
    """The last and the first task of every step on each of its zones."""
    last: dict[tuple[str, Zone], int] = {}
    first: dict[tuple[str, Zone], int] = {}
    for index, task in enumerate(tasks):
        for zone in task.zones:
            last[task.step, zone] = index
            first.setdefault((task.step, zone), index)
    return last, first


def _named(step: Step) -> str:
    return STEP_INFO[step.kind].laid


def _within_steps(plan: Plan, tasks: Sequence[Task]) -> Iterator[Lag]:
    """Portions in the order in which the hand lays them, then the second tool; a left-over right after what left it."""
    for step in plan.steps:
        reason = LagReason(f"order of {step.id}", f"The {_named(step)} is laid in the order of its portions.")
        for side in ("", "first", "second"):
            own = [i for i, task in enumerate(tasks) if task.step == step.id and task.side == side]
            for one, other in pairwise(own):
                portion = tasks[other].portion
                follows = portion is not None and tasks[other].what != "feature" and step.portions[portion].left_over
                # With one side first, what is left in the tool waits with it.
                yield Lag(one, other, reason, least=0, most=0 if follows and side == "" else None)


def _waits(plan: Plan, tasks: Sequence[Task]) -> Iterator[Lag]:
    """What lies before what on each zone, and how long it must and may rest there."""
    last, first = _on_zones(tasks)
    zones = in_order(zone for step in plan.steps for zone in step.zones)
    worked = {zone: [step for step in plan.steps if (step.id, zone) in first] for zone in zones}
    for zone, steps in worked.items():
        layer: Step | None = None
        for one, other in pairwise(steps):
            if STEP_INFO[one.kind].nature != "feature":
                layer = one
            feature = STEP_INFO[other.kind].nature == "feature"
            before, after = last[one.id, zone], first[other.id, zone]
            yield Lag(before, after, _before(one, other), least=0)
            if not feature and one.wait_s:
                yield Lag(before, after, _rests(one), least=round(one.wait_s))
            if not feature and layer is not None and layer is not one and layer.wait_s:
                # A feature in between does not shorten what the layer beneath must rest.
                yield Lag(last[layer.id, zone], after, _rests(layer), least=round(layer.wait_s))
            if one.wait_at_most_s is not None:
                yield Lag(before, after, _at_most(one, other), most=round(one.wait_at_most_s))


def _before(one: Step, other: Step) -> LagReason:
    return LagReason(
        f"{one.id} before {other.id}", f"The {_named(one)} must come before the {_named(other)} on the same zones."
    )


def _rests(step: Step) -> LagReason:
    return LagReason(
        f"wait of {step.id}", f"The {_named(step)} must rest {spoken(step.wait_s)} before anything goes over it."
    )


def _at_most(one: Step, other: Step) -> LagReason:
    return LagReason(
        f"longest wait of {one.id}",
        f"After the {_named(one)}, the {_named(other)} must follow within {spoken(one.wait_at_most_s or 0.0)}.",
    )


def _looks(plan: Plan, tasks: Sequence[Task]) -> Iterator[Lag]:
    """A look at the whole face comes after all that is listed before it, and before what is listed after it."""
    free = {step.id for step in plan.steps if STEP_INFO[step.kind].nature == "feature"}
    order = {step.id: place for place, step in enumerate(plan.steps)}
    for index, task in enumerate(tasks):
        if task.zones or task.step in free:
            continue
        for other, another in enumerate(tasks):
            if another.step in free or another.step == task.step:
                continue
            one, two = plan.steps[order[task.step]], plan.steps[order[another.step]]
            if order[another.step] < order[task.step]:
                yield Lag(other, index, _before(two, one), least=0)
            else:
                yield Lag(index, other, _before(one, two), least=0)


def _sides(plan: Plan, tasks: Sequence[Task]) -> Iterator[Lag]:
    """Where one side is worked first: between two steps that go over both, the first side wholly before the second."""
    reason = LagReason("one side first", "One side is worked wholly before the other.")
    segment, first, second = 0, dict[int, list[int]](), dict[int, list[int]]()
    for step in plan.steps:
        if STEP_INFO[step.kind].nature in UNSPLIT - {"feature"}:
            segment += 1
        for index, task in enumerate(tasks):
            if task.step == step.id and task.side:
                (first if task.side == "first" else second).setdefault(segment, []).append(index)
    for place, own in first.items():
        for one in own:
            for other in second.get(place, []):
                yield Lag(one, other, reason, least=0)


def _features(plan: Plan, tasks: Sequence[Task]) -> Iterator[Lag]:
    """When a feature was asked for: before the base, after setting, or last; and lashes after the eyes."""
    options = plan.case.intent.options
    layers = [s for s in plan.steps if s.kind in LAYER_KINDS or s.kind == "prime"]
    powders = [s for s in plan.steps if s.kind in POWDER_KINDS or s.kind == "dust_off"]
    ids = {step.id: step for step in plan.steps}
    yield from _light_and_shade(plan, tasks)
    for index, task in enumerate(tasks):
        step = ids[task.step]
        for other, another in enumerate(tasks):
            if STEP_INFO[step.kind].nature == "feature" and ids[another.step].kind == "cleanse":
                yield Lag(other, index, LagReason("clean first", "Everything comes after cleansing."), least=0)
        if step.kind == "lashes":
            eyes = [i for i, other in enumerate(tasks) if ids[other.step].kind == "eyes"]
            for other in eyes:
                yield Lag(other, index, LagReason("lashes after eyes", "Lashes come after the eyes."), least=0)
        asked = {"brows": options.brows, "eyes": options.eyes}.get(step.kind, "helps")
        place = plan.steps.index(step)
        reason = LagReason(f"{step.kind} {asked}", f"The {step.kind} were asked for {str(asked).replace('_', ' ')}.")
        for other, another in enumerate(tasks):
            listed = plan.steps.index(ids[another.step])
            if asked == "before_base" and ids[another.step] in layers and place < listed:
                yield Lag(index, other, reason, least=0)
            if asked == "after_setting" and ids[another.step] in powders and listed < place:
                yield Lag(other, index, reason, least=0)
            if asked == "last" and (ids[another.step] in layers or ids[another.step] in powders) and listed < place:
                yield Lag(other, index, reason, least=0)


def _light_and_shade(plan: Plan, tasks: Sequence[Task]) -> Iterator[Lag]:
    """Light and shade in the order that was asked for, wherever they lie."""
    ids = {step.id: step for step in plan.steps}
    kinds = ("light", "shade")
    places = {step.id: place for place, step in enumerate(plan.steps)}
    for one, first in enumerate(tasks):
        for other, second in enumerate(tasks):
            pair = (ids[first.step], ids[second.step])
            differ = pair[0].kind in kinds and pair[1].kind in kinds and pair[0].kind != pair[1].kind
            if differ and places[first.step] < places[second.step] and first.side == second.side:
                yield Lag(one, other, _before(*pair), least=0)


def _set_apart(plan: Plan, tasks: Sequence[Task]) -> Iterator[Apart]:
    """Features whose hand would rest on a layer that is still wet, or drop onto it: before it, or once it is powdered or set."""
    ids = {step.id: step for step in plan.steps}
    for index, task in enumerate(tasks):
        feature = ids[task.step]
        rests = set(RESTS.get(feature.kind, ()))
        if not rests or task.done_at is not None:
            continue
        for wet in plan.steps:
            where = rests & set(wet.zones)
            if not wet.film_um or wet.kind not in LAYER_KINDS or not where:
                continue
            laid = [i for i, other in enumerate(tasks) if other.step == wet.id and set(other.zones) & where]
            after = plan.steps[plan.steps.index(wet) + 1 :]
            powder = next((s for s in after if s.powder_mg and where <= set(s.zones)), None)
            if wet.kind == "foundation":
                # It sets by itself.
                powder = None
            if powder is not None and _listed_between(plan, feature, wet, powder):
                continue
            if powder is not None:
                closing = [i for i, other in enumerate(tasks) if other.step == powder.id and set(other.zones) & where]
                least = 0
            else:
                closing, least = laid, round(wet.wait_s)
            yield Apart(index, tuple(laid), tuple(closing), least, _disturbs(feature, wet))


def _listed_between(plan: Plan, feature: Step, wet: Step, powder: Step) -> bool:
    """Whether the plan itself has a feature between a wet layer and its powder, on zones of theirs: its order is kept."""
    at = [plan.steps.index(step) for step in (wet, feature, powder)]
    return at == sorted(at) and bool(set(feature.zones) & (set(wet.zones) | set(powder.zones)))


def _disturbs(feature: Step, wet: Step) -> LagReason:
    return LagReason(
        f"{feature.id} off wet {wet.id}",
        f"The hand that does the {_named(feature)} would disturb the {_named(wet)} while it is wet.",
    )


def _clashes(plan: Plan, tasks: Sequence[Task], house: House) -> Iterator[Clash]:
    """Uses of one tool between which it is cleaned: dark before pale, wet before powder. Hands are wiped as they go."""
    kit = {item.id: item for item in plan.case.kit}
    ids = {step.id: step for step in plan.steps}

    def level(step: Step) -> float | None:
        item = kit.get(step.item or "")
        return item.lab[0] if item is not None and item.lab is not None else None

    for one, first in enumerate(tasks):
        for other, second in enumerate(tasks):
            tool = first.tool
            if one == other or tool is None or tool != second.tool or tool == "fingers" or first.step == second.step:
                continue
            if TOOL_INFO[tool].passes == "pass_puff" or first.done_at is not None or second.done_at is not None:
                continue
            a, b = ids[first.step], ids[second.step]
            wet_then_powder = bool(a.film_um) and bool(b.powder_mg)
            dark_then_pale = (
                bool(a.film_um and b.film_um)
                and a.kind in ("shade", "bronze")
                and (
                    b.kind in ("light", "conceal", "spot_conceal", "correct")
                    or ((x := level(a)) is not None and (y := level(b)) is not None and y - x > house.dark_beside_l)
                )
            )
            if wet_then_powder or dark_then_pale:
                yield Clash(one, other, tool)


def _pins(plan: Plan, tasks: Sequence[Task]) -> Iterator[tuple[int, int, LagReason]]:
    for pin in plan.timing.pins if plan.timing is not None else ():
        own = [i for i, task in enumerate(tasks) if task.step == pin.step]
        if not own:
            raise Refused("timing.pins", pin.step, "a step of this plan")
        step = next(s for s in plan.steps if s.id == pin.step)
        at = round(pin.start_s)
        minutes, seconds = divmod(at, 60)
        yield own[0], at, LagReason(f"pin of {pin.step}", f"The {_named(step)} is pinned to {minutes}:{seconds:02d}.")


def _ready(plan: Plan) -> tuple[int, LagReason] | None:
    timing, origin = plan.timing, origin_of(plan)
    if timing is None or timing.ready is None or origin is None:
        return None
    left = seconds_of(timing.ready, "timing.ready") - origin
    if left <= 0:
        raise Refused("timing.ready", timing.ready, "a time after the start")
    return left, LagReason("ready", f"All must be ready at {timing.ready}, {left // 60} min after the start.")


def _strictest(lags: Iterable[Lag]) -> list[Lag]:
    """Of lags between the same two tasks, the longest least and the shortest most: those behind them say nothing new."""
    least: dict[tuple[int, int], Lag] = {}
    most: dict[tuple[int, int], Lag] = {}
    for lag in lags:
        key = (lag.before, lag.after)
        if lag.least is not None and (key not in least or lag.least > (least[key].least or 0)):
            least[key] = Lag(lag.before, lag.after, lag.reason, least=lag.least)
        if lag.most is not None and (key not in most or lag.most < (most[key].most or 0)):
            most[key] = Lag(lag.before, lag.after, lag.reason, most=lag.most)
    return [*least.values(), *most.values()]
