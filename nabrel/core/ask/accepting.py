"""Advice that a fresh plan goes against on purpose: accepted with the reason, where it holds; else it stays advice."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import replace
from math import inf

import numpy as np

from nabrel.core.base.appearance import zones_with
from nabrel.core.case.product import Product
from nabrel.core.film.difference import delta_e
from nabrel.core.house import House
from nabrel.core.judge.book import Finding
from nabrel.core.judge.evaluate import Evaluation, evaluate
from nabrel.core.judge.evaluate import Former as Worked
from nabrel.core.plan.edits import SetProduct
from nabrel.core.plan.sequence import Accepted, Sequence
from nabrel.core.terms.colour import Lab
from nabrel.core.terms.places import places
from nabrel.core.terms.zones import in_order

Reason = Callable[[Finding, Evaluation], str]
"""Why a finding is accepted; empty where nothing speaks for it."""


def with_reasons(sequence: Sequence, house: House, worked: Worked | None = None) -> Sequence:
    """The plan with every advice that it goes against on purpose accepted, each with its reason."""
    done = evaluate(sequence, house, former=worked, try_fixes=False)
    found = {
        (finding.rule, finding.zones): Accepted(finding.rule, in_order(finding.zones), note)
        for finding in done.findings
        if finding.severity == "advice" and not finding.accepted and (note := why_accepted(finding, done))
    }
    return replace(sequence, accepted=(*sequence.accepted, *found.values())) if found else sequence


def why_accepted(finding: Finding, done: Evaluation) -> str:
    """Why a plan may go against this advice; empty where nothing speaks for it."""
    reason = _REASONS.get(finding.rule)
    return reason(finding, done) if reason is not None else ""


def _edges(finding: Finding, done: Evaluation) -> str:
    edge = next((each for each in done.edges if set(each.zones) <= set(finding.zones)), None)
    if edge is None:
        return ""
    if edge.softened:
        return "Softened with the emptied tool already: more would take off what was laid there on purpose."
    pans = [s for s in done.sequence.steps if s.id in finding.steps and s.unit == "mg_cm2"]
    return "A pan fades by the brush that lays it: lay it in passes, and stop when it is seen." if pans else ""


def _bases(_: Finding, done: Evaluation) -> str:
    return f"So thin, under {done.house.thin_underlayer_um:g} µm, and left until it is tacky, it seldom beads."


def _shine(finding: Finding, done: Evaluation) -> str:
    visits = [each for each in done.touch_ups if set(each.zones) & set(finding.zones) and "Blot" in each.does]
    if visits:
        first = min(visits, key=lambda each: each.hour)
        if done.sequence.case.intent.setting == "none":
            return f"No powder was asked for: a blot is planned after {first.hour:g} h."
        return f"More powder at once would only look heavy: a blot is planned after {first.hour:g} h instead."
    return ""


def _creases(_: Finding, done: Evaluation) -> str:
    if done.sequence.case.intent.setting == "none":
        return "No powder was asked for: the crease is the price of the fresh look."
    if not any(item.role == "setting_powder" and item.dry for item in done.products.values()):
        return "The kit has no powder that could set it."
    return ""


def _above_foundation(finding: Finding, done: Evaluation) -> str:
    kinds = {step.kind for step in done.sequence.steps if step.id in (*finding.steps, *finding.against)}
    starts = tuple(f"The {kind} comes over the foundation" for kind in kinds)
    return next((note for note in done.sequence.notes if starts and note.startswith(starts)), "")


def _orange(finding: Finding, done: Evaluation) -> str:
    step = next(step for step in done.sequence.steps if step.id in finding.steps)
    own = done.products.get(step.item or "")
    if own is None or own.lab is None:
        return ""
    deep = done.appearance.target[0] - done.house.shade_step_l
    others = (item for item in done.products.values() if item.role in ("shade", "bronzer") and item.id != own.id)
    cooler = [item for item in others if _cooler(item, own) and item.lab is not None and item.lab[0] < deep]
    if cooler:
        if any(item.dry == own.dry for item in cooler):
            return ""
        has, works = ("cream", "powder") if own.dry else ("a pan", "cream")
        return f"What is cooler in the kit is {has}, and this order shades in {works} here."
    return "Nothing in the kit that is deep enough for a shade is cooler."


def _as_deep_as_it_goes(finding: Finding, done: Evaluation) -> str:
    steps = [step for step in done.sequence.steps if step.id in finding.steps]
    own = next((item for step in steps if (item := done.products.get(step.item or "")) is not None and item.lab), None)
    full = [row for row in done.forecast if row.zone in finding.zones and row.cake >= done.house.full_cake]
    if full:
        return f"What lies {places(row.zone for row in full)} is all the film that it carries: more would cake."
    if own is None or own.lab is None or not steps:
        return ""
    deep = steps[0].kind == "shade"
    others = [
        item.lab[0] for item in done.products.values() if item.role == own.role and item.lab and item.dry == own.dry
    ]
    if (min(others) if deep else max(others)) != own.lab[0]:
        return ""
    return f"The kit has nothing {'deeper' if deep else 'paler'} of its kind: as far as it goes in one pass."


OILY = 2
"""Oiliness from which a zone wants powder."""


def _nearer_for_it(finding: Finding, done: Evaluation) -> str:
    """Whether the zones end nearer to the complexion with a step than they would without it."""
    target, step = np.array(done.appearance.target), finding.steps[0]
    now = delta_e(np.stack([done.appearance.last_lab(zone) for zone in finding.zones]), target)
    without = delta_e(zones_with(done.course.after, [(zone, {step: 0.0}) for zone in finding.zones]), target)
    if not (now < without).all():
        return ""
    return (
        f"Without it, it would end ΔE00 {float(without.max()):.1f} off the complexion; with it, {float(now.max()):.1f}."
    )


def _cooler(item: Product, own: Product) -> bool:
    """Whether an item is less red and yellow than another."""
    if item.lab is None or own.lab is None or item.shimmers:
        return False
    return item.lab[1] ** 2 + item.lab[2] ** 2 < own.lab[1] ** 2 + own.lab[2] ** 2


def _neck(finding: Finding, done: Evaluation) -> str:
    neck = done.reading.sitter.neck
    if neck is None:
        return ""
    bare = float(delta_e(np.array(done.reading.sitter.skin.lab), np.array(neck.lab)))
    jaw = np.stack([done.appearance.last_lab(zone) for zone in finding.zones if zone != "neck"])
    now = float(delta_e(jaw, np.asarray(done.appearance.last_lab("neck"))).max())
    if now >= bare:
        steps = [step for step in done.sequence.steps if step.id in finding.steps]
        used = [item for step in steps if (item := done.products.get(step.item or "")) is not None]
        own = min((_off(item, neck.lab) for item in used), default=0.0)
        wet = [item for item in done.products.values() if item.role == "foundation" and item.lab and not item.dry]
        if any(_off(item, neck.lab) < own for item in wet):
            return ""
        return f"Bare face and neck are ΔE00 {bare:.1f} apart, and no foundation of the kit is nearer to the neck: it fades down it."
    return f"Bare face and neck are ΔE00 {bare:.1f} apart: the base brings them to {now:.1f}, and fades down the neck."


def _off(item: Product, lab: Lab) -> float:
    """ΔE00 of an item's own colour from another."""
    return inf if item.lab is None else float(delta_e(np.array(item.lab), np.array(lab)))


def _grey(finding: Finding, done: Evaluation) -> str:
    steps = [step for step in done.sequence.steps if step.id in finding.steps]
    if all(step.kind == "correct" for step in steps):
        return _nearer_for_it(finding, done)
    if finding.fix is not None and any(isinstance(edit, SetProduct) for edit in finding.fix.edits):
        return ""
    if all(done.reading.zones[zone].oily >= OILY for zone in finding.zones):
        return "It shines here within hours without powder, and the kit has none that keeps more of the warmth."
    if finding.fix is not None:
        return ""
    return f"Nothing in the kit that could take its place keeps the warmth {places(finding.zones)}: it is kept thin."


def _brows(_: Finding, done: Evaluation) -> str:
    if done.sequence.case.intent.options.brows == "last":
        return "Brows were asked for last: rest the hand on a puff, not on the cheek."
    return ""


_REASONS: Mapping[str, Reason] = {
    "edges-fade": _edges,
    "bases-agree": _bases,
    "shine-before-time": _shine,
    "what-creases-is-set": _creases,
    "sculpted-beneath": _above_foundation,
    "light-or-shade-as-asked": _above_foundation,
    "sculpt-reads-through": _as_deep_as_it_goes,
    "shade-is-believable": _orange,
    "face-meets-neck": _neck,
    "turns-grey": _grey,
    "corrector-hidden": _nearer_for_it,
    "brows-before-blush": _brows,
}
"""What may speak for going against an advice, by rule."""
