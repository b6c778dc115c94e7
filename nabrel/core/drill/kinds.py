"""Every kind of exercise, a row a kind: what it is, how it is made, marked, answered on paper, filed, and seen in a plan."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from random import Random

from nabrel.core.drill import choosing, colour_kinds, counterfactual, place_kinds, step_kinds
from nabrel.core.drill.exercise import Answer, Exercise, Mark, Marking
from nabrel.core.drill.judgements import Judgement
from nabrel.core.drill.world import World
from nabrel.core.house import House
from nabrel.core.plan.sequence import Sequence as Plan
from nabrel.core.terms.ids import DrillKind
from nabrel.core.terms.table import table

Make = Callable[[World, int, Random, Judgement | None], Exercise | None]
MarkedBy = Callable[[Exercise, Answer, House], Mark]
AsAnswered = Callable[[Exercise, Answer, House], Plan | None]


@dataclass(frozen=True, slots=True)
class DrillKindInfo:
    """One kind of exercise.

    ``make`` makes one from a face (None where that face gives none), ``mark`` says what an answer is worth. ``answered`` is what an answer
    says, ``shown`` what must be shown to be answered, ``marking`` what it is marked by. ``how`` is how it is answered on paper and
    ``blank`` what stands behind the line to write on. ``as_answered`` is the plan as it was answered, where an answer changes one.
    ``asks_plan``: the question is about the plan as it lies there, so it is shown. ``plan_is_seen``: what is asked is seen in a plan;
    ``of_one_layer``: all steps of one kind are meant; ``by_colour``: it is judged by hue; ``shows_face``: a finished face is looked at.
    ``check`` refuses what it
    could not be marked by. ``choices_are`` is what stands over the choices where something else is ticked, too.
    """

    id: DrillKind
    words: str
    make: Make
    mark: MarkedBy = choosing.mark_choice
    answered: tuple[str, ...] = ("choice",)
    shown: tuple[str, ...] = ()
    marking: type[Marking] = Marking
    how: str = "Tick one."
    blank: str = ""
    as_answered: AsAnswered | None = None
    asks_plan: bool = False
    plan_is_seen: bool = True
    of_one_layer: bool = False
    by_colour: bool = False
    shows_face: bool = False
    choices_are: str = ""
    check: Callable[[Exercise], None] = lambda _: None


KINDS: Mapping[DrillKind, DrillKindInfo] = table(
    (
        DrillKindInfo(
            "order", "Which order", step_kinds.order, step_kinds.mark_order, ("order",), ("steps",), step_kinds.Ordered, "Number the steps.",
            as_answered=counterfactual.reordered,
        ),
        DrillKindInfo(
            "fault", "Find the fault", step_kinds.fault, step_kinds.mark_fault, ("step", "choice"), ("steps",), step_kinds.Broken,
            "Tick the step, and the rule.", asks_plan=True, choices_are="Rule", check=step_kinds.check_fault,
        ),
        DrillKindInfo(
            "corrector", "Which corrector", colour_kinds.corrector, marking=colour_kinds.Corrected, as_answered=counterfactual.corrected,
            of_one_layer=True, by_colour=True,
        ),
        DrillKindInfo(
            "depth", "How dark beneath", colour_kinds.depth, colour_kinds.mark_depth, ("drop",), ("skin", "foundation", "film_um", "wanted"),
            how="Write the number down.", blank="L* darker than the skin", plan_is_seen=False, check=colour_kinds.check_depth,
        ),
        DrillKindInfo(
            "leave_bare", "Where, and where not", place_kinds.leave_bare, place_kinds.mark_places, ("zones",), ("zones",), place_kinds.Reasoned,
            "Tick the places.", as_answered=counterfactual.placed, of_one_layer=True, check=place_kinds.check_places,
        ),
        DrillKindInfo("base_pair", "Will they agree", choosing.base_pair),
        DrillKindInfo(
            "powder_where", "What to powder", place_kinds.powder_where, place_kinds.mark_places, ("zones", "value"), ("zones", "values"),
            place_kinds.Reasoned, "Tick the places, and the value.", as_answered=counterfactual.placed, of_one_layer=True, check=place_kinds.check_places,
        ),
        DrillKindInfo("school", "Which school", choosing.school, marking=choosing.Suiting, as_answered=counterfactual.in_school),
        DrillKindInfo("texture", "Cream or powder", choosing.texture, marking=choosing.Textured, as_answered=counterfactual.worked_by),
        DrillKindInfo("amount", "How much", choosing.amount, marking=choosing.Measured, as_answered=counterfactual.amounted),
        DrillKindInfo("wait", "What may follow", step_kinds.wait, marking=step_kinds.Waiting, as_answered=counterfactual.sooner),
        DrillKindInfo(
            "diagnose", "What went wrong", colour_kinds.diagnose, marking=colour_kinds.WentWrong, by_colour=True, shows_face=True,
        ),
        DrillKindInfo(
            "placement", "Where it goes", place_kinds.placement, place_kinds.mark_places, ("zones",), ("zones",), place_kinds.Reasoned,
            "Tick the places.", as_answered=counterfactual.placed, of_one_layer=True, check=place_kinds.check_places,
        ),
        DrillKindInfo("explain", "Why it is there", step_kinds.explain, marking=step_kinds.Explained),
    )
)  # fmt: skip
