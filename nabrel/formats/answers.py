"""Files of computed answers: what they hold, and how core values become them."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Annotated, Literal

import numpy as np
from pydantic import Field

from nabrel.core.ask.correction import ZoneCorrection, shows_from
from nabrel.core.ask.recommend import Ranked
from nabrel.core.film.spectra import to_hex
from nabrel.core.house import House
from nabrel.core.judge.evaluate import Evaluation
from nabrel.core.judge.figures import mean_film
from nabrel.core.pace.timetable import Timetable, Wait
from nabrel.core.solve.corrector import Covering
from nabrel.core.solve.mix import MixAnswer, Recipe
from nabrel.core.terms.colour import Lab
from nabrel.core.terms.ids import EffectAbout, Finish, Light, School, StepKind, Tool, Zone
from nabrel.core.terms.limits import Ident
from nabrel.core.terms.rounding import Rounded
from nabrel.core.terms.schools import SCHOOL_INFO
from nabrel.core.terms.zones import ZONE_INDEX, ZONES
from nabrel.core.wear.forecast import ZoneForecast
from nabrel.core.wear.touch_up import TouchUp
from nabrel.formats.files import Document
from nabrel.formats.values import filled


class RankedSchoolModel(Document):
    """One school on a face: the reasons for and against it, and the figures they rest on."""

    school: School
    words: str
    says: str
    speaks_for: list[str]
    speaks_against: list[str]
    as_good: bool
    steps: int
    minutes: Annotated[float, Rounded(1)]
    cost: Annotated[float, Rounded(2)] | None = None
    worst_cake: Annotated[float, Rounded(3)]
    shine_hours: float
    shine_looks: int = 0
    mean_film_um: float
    findings: int


class SchoolsModel(Document):
    """``schools``: all six planned on one face, the one that suits best first."""

    nabrel: Literal["schools"] = "schools"
    version: Literal[1] = 1
    schools: list[RankedSchoolModel]


class ShownModel(Document):
    """What one zone shows and carries at one stage. Film and powder are all that lies there by then."""

    lab: Lab
    hex: str
    de: float
    film_um: float
    powder_mg_cm2: float


class StageModel(Document):
    """The face once one step is done."""

    step: str
    zones: dict[Zone, ShownModel]


class ZoneForecastModel(Document):
    """Forecast of one zone. ``cake`` is load over limit; ``crease`` an index from 0 to 1. ``learnt_from`` says of each figure in which
    something learnt from wear records is, from how many looks.

    ``ashiness`` is how much of the complexion's chroma is lost in what is seen: its turn towards blue-grey, in a*b* units.
    """

    film_um: Annotated[float, Rounded(2)]
    powder_mg_cm2: float
    load_um: Annotated[float, Rounded(2)]
    limit_um: Annotated[float, Rounded(2)]
    cake: Annotated[float, Rounded(3)]
    crease: Annotated[float, Rounded(3)]
    crease_drivers: list[str]
    shine_hours: Annotated[float, Rounded(2)]
    colour_hours: Annotated[float, Rounded(1)] | None = None
    flare: Annotated[float, Rounded(3)] = 0
    ashiness: float = 0
    learnt_from: dict[EffectAbout, int] = Field(default_factory=dict)


class ReadThroughModel(Document):
    """What still shows of one kind of sculpting on one zone."""

    zone: Zone
    kind: StepKind
    percent: float
    visible_dl: float
    bare_dl: float


class AppearanceModel(Document):
    """``appearance``: what the film model says."""

    nabrel: Literal["appearance"] = "appearance"
    version: Literal[1] = 1
    light: Light
    target: Lab
    target_hex: str
    steps: list[StageModel]
    zones: dict[Zone, ZoneForecastModel]
    read_through: list[ReadThroughModel]
    touch_ups: list[TouchUp] = Field(default_factory=list)


class CoveringModel(Document):
    """One way to even out a zone. ``film_um`` is corrector and concealer together; ``misses`` is what is still off."""

    corrector: Ident | None = None
    corrector_um: float
    concealer: Ident | None = None
    concealer_um: float
    film_um: float
    lab: Lab
    hex: str
    de: Annotated[float, Rounded(2)]
    near_enough: bool
    misses: str
    shows_from_um: float | None = None


class CorrectionModel(Document):
    """``correction``: the corrector question answered for one zone of a case, under the foundation it would get.

    ``saving_percent`` is the film saved against concealer alone; ``worth_it`` whether a corrector earns its step.
    """

    nabrel: Literal["correction"] = "correction"
    version: Literal[1] = 1
    zone: Zone
    skin: Lab
    skin_hex: str
    target: Lab
    target_hex: str
    foundation: Ident | None = None
    foundation_um: float
    room_um: float
    worth_it: bool
    saving_percent: float
    best: CoveringModel
    runner_up: CoveringModel | None = None
    without_corrector: CoveringModel
    others: list[CoveringModel]
    says: str


class MixPartModel(Document):
    """A product and its whole drops; ``share`` is its part of the mixture."""

    product: Ident
    name: str
    drops: int
    share: float


class RecipeModel(Document):
    """A mixture in whole drops and what it gives."""

    parts: list[MixPartModel]
    drops: int
    lab: Lab
    hex: str
    de: Annotated[float, Rounded(2)]
    usual_de: Annotated[float, Rounded(2)]
    misses: str
    cover: Annotated[float, Rounded(3)]
    finish: Finish
    warnings: list[str]


class MixModel(Document):
    """``mix``: the nearest recipe for a target colour and the smallest that is near enough."""

    nabrel: Literal["mix"] = "mix"
    version: Literal[1] = 1
    target: Lab
    target_hex: str
    near_enough: bool
    best: RecipeModel
    smallest: RecipeModel


class TimetableTaskModel(Document):
    """One task with its time, in seconds from the start; ``of`` names the individual tool, empty without one."""

    step: Ident
    portion: int | None
    what: Literal["lay", "then", "work", "clean", "feature"]
    start_s: int
    end_s: int
    tool: Tool | None
    of: str


class TimetableModel(Document):
    """``timetable``: when each thing is done, the shortest there is where ``proven``; or why there is none.

    ``greedy_s`` is how long it takes to do next whatever may be done next, null where that runs into a dead end;
    ``longest_chain`` the steps that bind the length; ``frees`` what would free an impossible plan.
    """

    nabrel: Literal["timetable"] = "timetable"
    version: Literal[1] = 1
    possible: bool
    length_s: int | None
    proven: bool
    as_listed_s: int
    greedy_s: int | None
    tasks: list[TimetableTaskModel]
    waits: list[Wait]
    longest_chain: list[Ident]
    because: list[str]
    frees: list[str]


def timetable_to(found: Timetable) -> TimetableModel:
    """A timetable as a file has it."""
    return TimetableModel(
        possible=found.possible,
        length_s=found.length_s,
        proven=found.proven,
        as_listed_s=found.as_listed_s,
        greedy_s=found.greedy_s,
        tasks=[
            filled(TimetableTaskModel, each)
            for each in found.tasks
        ],
        waits=list(found.waits),
        longest_chain=list(found.longest_chain),
        because=list(found.because),
        frees=list(found.frees),
    )  # fmt: skip


def schools_to(ranked: Iterable[Ranked]) -> SchoolsModel:
    """A ranking as a file has it."""
    return SchoolsModel(
        schools=[
            filled(
                RankedSchoolModel,
                each.evaluation.totals,
                school=each.school,
                words=SCHOOL_INFO[each.school].words,
                says=each.says,
                speaks_for=list(each.speaks_for),
                speaks_against=list(each.speaks_against),
                as_good=each.as_good,
                shine_hours=round(each.evaluation.totals.least_shine_hours, 1),
                mean_film_um=round(mean_film(each.evaluation), 2),
                findings=len(each.evaluation.findings),
            )
            for each in ranked
        ]
    )


def forecasts_to(evaluation: Evaluation) -> dict[Zone, ZoneForecastModel]:
    """Every zone's forecast, with how grey it looks in the end."""
    grey = evaluation.appearance.grey
    return {row.zone: forecast_to(row, float(grey[ZONE_INDEX[row.zone]])) for row in evaluation.forecast}


def forecast_to(row: ZoneForecast, ashiness: float) -> ZoneForecastModel:
    """One zone's forecast as a file has it."""
    return filled(
        ZoneForecastModel,
        row,
        powder_mg_cm2=round(row.powder_mg, 3),
        ashiness=round(ashiness, 2),
        learnt_from={each.about: row.looks_behind(each.about) for each in row.learnt},
    )


def read_through_to(evaluation: Evaluation) -> list[ReadThroughModel]:
    """What reads through, as a file has it."""
    return [
        ReadThroughModel(
            zone=row.zone,
            kind=row.kind,
            percent=round(100 * row.share, 1),
            visible_dl=round(row.visible_step, 2),
            bare_dl=round(row.bare_step, 2),
        )
        for row in evaluation.appearance.read_through
    ]


def appearance_to(evaluation: Evaluation) -> AppearanceModel:
    """An appearance as a file has it: every zone at every stage."""
    seen = evaluation.appearance
    lying = evaluation.course.states[1:]
    stages = [
        StageModel(
            step=step.id,
            zones={
                zone: ShownModel(
                    lab=_rounded(seen.lab[index + 1, column]),
                    hex=seen.hexes[index + 1][column],
                    de=round(float(seen.de[index + 1, column]), 2),
                    film_um=round(lying[index][zone].film_um, 2),
                    powder_mg_cm2=round(lying[index][zone].powder_mg, 3),
                )
                for column, zone in enumerate(ZONES)
            },
        )
        for index, step in enumerate(evaluation.sequence.steps)
    ]
    return AppearanceModel(
        light=seen.light,
        target=_rounded(seen.target),
        target_hex=seen.target_hex,
        steps=stages,
        zones=forecasts_to(evaluation),
        read_through=read_through_to(evaluation),
        touch_ups=list(evaluation.touch_ups),
    )


def correction_to(correction: ZoneCorrection, house: House) -> CorrectionModel:
    """A correction as a file has it."""
    answer = correction.answer
    named = [answer.best, answer.runner_up, answer.without_corrector]
    others = [each for each in answer.each if each not in named]

    return CorrectionModel(
        zone=correction.zone,
        skin=_rounded(correction.skin),
        skin_hex=_hex(correction.skin),
        target=_rounded(correction.target),
        target_hex=_hex(correction.target),
        foundation=correction.foundation.id if correction.foundation else None,
        foundation_um=round(correction.foundation_um, 2),
        room_um=round(correction.room_um, 2),
        worth_it=correction.worth_it,
        saving_percent=round(100 * answer.saving, 1),
        best=covering_to(correction, answer.best, house),
        runner_up=covering_to(correction, answer.runner_up, house) if answer.runner_up else None,
        without_corrector=covering_to(correction, answer.without_corrector, house),
        others=[covering_to(correction, each, house) for each in others],
        says=correction.says,
    )


def covering_to(correction: ZoneCorrection, covering: Covering, house: House) -> CoveringModel:
    """One way to even out a zone as a file has it."""
    corrector = covering.corrector
    return filled(
        CoveringModel,
        covering,
        corrector=corrector.id if corrector else None,
        concealer=covering.concealer.id if covering.concealer else None,
        film_um=covering.total_um,
        lab=_rounded(covering.lab),
        hex=_hex(covering.lab),
        misses=correction.misses(covering),
        shows_from_um=shows_from(correction, corrector, house) if corrector else None,
    )


def mix_to(answer: MixAnswer) -> MixModel:
    """A mix as a file has it."""
    return MixModel(
        target=_rounded(answer.target),
        target_hex=_hex(answer.target),
        near_enough=answer.near_enough,
        best=recipe_to(answer.best),
        smallest=recipe_to(answer.smallest),
    )


def recipe_to(recipe: Recipe) -> RecipeModel:
    """A recipe as a file has it."""
    return filled(
        RecipeModel,
        recipe,
        parts=[
            MixPartModel(
                product=part.product.id,
                name=part.product.name,
                drops=part.drops,
                share=round(part.drops / recipe.drops, 4),
            )
            for part in recipe.parts
        ],
        lab=_rounded(recipe.lab),
        hex=_hex(recipe.lab),
    )


def _hex(lab: Lab) -> str:
    return to_hex(np.array([lab]))[0]


def _rounded(lab: Iterable[float]) -> tuple[float, float, float]:
    lightness, red, yellow = (round(float(value), 2) for value in lab)
    return (min(max(lightness, 0.0), 100.0), red, yellow)


ANSWERS: dict[str, type[Document]] = {
    "appearance": AppearanceModel, "correction": CorrectionModel, "mix": MixModel, "schools": SchoolsModel,
    "timetable": TimetableModel,
}  # fmt: skip
"""Files of computed answers by their kind."""
