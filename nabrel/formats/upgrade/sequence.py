"""Sequence, version 1 to 2: every step becomes one take of one portion. Nothing is merged by itself."""

from __future__ import annotations

from typing import Any

from nabrel.core.errors import Refused

Json = dict[str, Any]
OF_STEP = ("id", "kind", "wait_s", "wait_at_most_s", "why", "rules", "check")
OF_PORTION = ("zones", "tool", "motion", "active_s")
OF_VERSION_1 = frozenset({*OF_STEP, *OF_PORTION, "product", "film_um", "powder_mg_cm2", "take"})
MARK_SHARE_1 = 0.2
"""The share of a zone that version 1 took its marks to be, in every house that was not decided otherwise."""
NO_REASON = "From an older plan that gave no reason."


def sequence_1_to_2(document: Json) -> Json:
    """A sequence of version 1 in version 2. Refuses a step with both film and powder."""
    steps = document.get("steps")
    if not isinstance(steps, list):
        return {**document, "version": 2}
    return {**document, "version": 2, "steps": [_step(step, f"steps[{n}]") for n, step in enumerate(steps)]}


def _step(step: Any, field: str) -> Any:
    if not isinstance(step, dict):
        return step
    unknown = next((name for name in step if name not in OF_VERSION_1), None)
    if unknown is not None:
        raise Refused(f"{field}.{unknown}", step[unknown], "no field of this name here")
    film, powder = step.get("film_um"), step.get("powder_mg_cm2")
    if film is not None and powder is not None:
        raise Refused(f"{field}.powder_mg_cm2", powder, "film_um or powder_mg_cm2, not both")
    amount = film if film is not None else powder
    portion = {name: step[name] for name in OF_PORTION if step.get(name) is not None}
    portion.setdefault("zones", [])
    if amount is not None:
        portion["amount"] = amount
    if step.get("kind") == "spot_conceal" and amount is not None:
        portion["patch"] = MARK_SHARE_1
    take = step.get("take")
    if amount and isinstance(take, dict) and take.get("amount") == 0:
        portion["left_over"] = True
    found = {name: step[name] for name in OF_STEP if name in step}
    found["portions"] = [portion]
    found["mix"] = [{"item": step["product"], "share": 1.0}] if step.get("product") else []
    found["unit"] = None if amount is None else "um" if film is not None else "mg_cm2"
    found["why"] = found.get("why") or [NO_REASON]
    found.setdefault("wait_s", 0.0)
    return found
