"""What stands first wherever a plan is worked from, where the sitter avoids something."""

from __future__ import annotations

from dataclasses import dataclass

from nabrel.core.judge.evaluate import Evaluation
from nabrel.core.shelf.allergens import avoid_notice


@dataclass(frozen=True, slots=True)
class Caution:
    """A caution: what is shown in bold, and what follows from it here."""

    lead: str
    says: str


def caution_of(evaluation: Evaluation) -> Caution | None:
    """What the sitter of a plan avoids and what that means for the items it uses; None where nothing is avoided."""
    case = evaluation.sequence.case
    items = dict.fromkeys(part.item for step in evaluation.sequence.steps for part in step.mix)
    used = [evaluation.products[item] for item in items if item in evaluation.products]
    notice = avoid_notice(case.sitter.avoid, used, chosen=bool(case.kit))
    return None if notice is None else Caution(notice.lead, notice.says)
