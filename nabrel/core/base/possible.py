"""What no order of work can do: dust off before a bake, soften what is not there. Everything else has a cost, not a ban."""

from __future__ import annotations

from collections.abc import Container, Iterable, Mapping
from collections.abc import Sequence as Listed
from dataclasses import dataclass

from nabrel.core.base.state import Presence
from nabrel.core.case.product import Product
from nabrel.core.errors import OutOfOrder, Refused
from nabrel.core.plan.edits import Add, Edit, Move, apply
from nabrel.core.plan.sequence import Sequence
from nabrel.core.plan.step import Step
from nabrel.core.terms.ids import Zone
from nabrel.core.terms.places import places
from nabrel.core.terms.steps import CHECK_KINDS, STEP_INFO

Steps = Listed[Step]


@dataclass(frozen=True, slots=True)
class Cannot:
    """A step that cannot be done where it stands, and what would have to come first; ``check`` if it only looks."""

    step: str
    why: str
    check: bool = False


def impossible_steps(steps: Steps) -> tuple[Cannot, ...]:
    """The steps that cannot be done where they stand, in order; none in a possible order.

    A face that is cleansed loses what lay there, dusting off needs a bake before it, and cleaning an edge a shade.
    """
    there = Presence()
    found: list[Cannot] = []
    for step in steps:
        why = _why_not(step, there)
        if why:
            found.append(Cannot(step.id, f"{STEP_INFO[step.kind].words}: {why}", step.kind in CHECK_KINDS))
        there = there.then(step)
    return tuple(found)


def newly_impossible(before: Iterable[Step], after: Steps, placed: Container[str]) -> Cannot | None:
    """The first step that a change makes impossible; None where it makes none so that was possible.

    A check that loses what it looks at is not in the way, unless it is itself one of those that were ``placed``.
    """
    found = impossible_steps(after)
    if not found:
        return None
    known = {each.step for each in impossible_steps(tuple(before))}
    stuck = (each for each in found if each.step not in known and (not each.check or each.step in placed))
    return next(stuck, None)


def _there(zones: tuple[Zone, ...] | list[Zone]) -> str:
    """Where, in words short enough for one sentence."""
    return places(zones) if 0 < len(zones) <= 4 else "there"


def _why_not(step: Step, now: Presence) -> str:
    own = set(step.zones)
    there = _there(step.zones)
    if step.kind == "dust_off" and not now.baked & own:
        return f"dusting off only after powder was left to sit {there}"
    if step.kind == "cleanse" and now.laid & (own or now.laid):
        return f"it would take off what lies {_there([z for z in step.zones if z in now.laid])} by then"
    if step.kind == "clean_edge" and not now.sculpted:
        return "no shade or light has an edge yet that could be cleaned up"
    needs = STEP_INFO[step.kind].needs
    if needs and not (now.laid & own if own else now.laid):
        return needs.format(there=there)
    return ""


@dataclass(frozen=True, slots=True)
class Gap:
    """A place a step could stand: before which step (None: at the end), and why it cannot; "" where it can."""

    before: str | None
    refused: str
    here: bool


def insertion_points(sequence: Steps, step_id: str) -> tuple[Gap, ...]:
    """Every place for a step among the others, in order; ``here`` is where it stands. Refuses an unknown step."""
    own = next((step for step in sequence if step.id == step_id), None)
    if own is None:
        raise Refused("step", step_id, "the id of a step in this sequence")
    others = [step for step in sequence if step.id != step_id]
    current = sequence.index(own)
    found: list[Gap] = []
    for place in range(len(others) + 1):
        stuck = newly_impossible(sequence, [*others[:place], own, *others[place:]], {step_id})
        before = others[place].id if place < len(others) else None
        found.append(Gap(before, stuck.why if stuck is not None else "", place == current))
    return tuple(found)


def apply_edits(sequence: Sequence, edits: Iterable[Edit], products: Mapping[str, Product]) -> Sequence:
    """Apply edits in order. Refuses what :func:`nabrel.core.plan.edits.apply` refuses, and orders nobody can work.

    Such an order is refused where an edit brings it about by moving or adding; what is taken out may leave a step
    without sense, which is the rule book's to say.
    """
    listed = tuple(edits)
    after = apply(sequence, listed, products)
    placed: tuple[str, str] | None = None
    moved: set[str] = set()
    for number, each in enumerate(listed):
        if isinstance(each, Move | Add):
            moved.update([each.step] if isinstance(each, Move) else [])
            placed = f"edits[{number}].before", each.before or "the end"
    if placed is not None:
        new = {step.id for step in after.steps if sequence.step(step.id) is None}
        stuck = newly_impossible(sequence.steps, after.steps, moved | new)
        if stuck is not None:
            raise OutOfOrder(*placed, stuck.why)
    return after
