"""``wear`` and ``learnt``: how bases wore, and what that teaches."""

from __future__ import annotations

from dataclasses import replace
from datetime import datetime
from typing import Annotated, Literal

from annotated_types import Ge, Le, MaxLen
from pydantic import Field

from nabrel.core.case.intent import Climate
from nabrel.core.house import House
from nabrel.core.learn.learnt import MEASURE, Effect, Learnt
from nabrel.core.learn.record import MOST_LOOKS, Grade, Hours, Look, WornBase, checked_looks
from nabrel.core.learn.unlearnt import forecast_hours
from nabrel.core.terms.ids import EffectAbout, Zone
from nabrel.core.terms.limits import LIMITS, Ident, Sentence
from nabrel.formats.checks import check_sequence
from nabrel.formats.files import Aliased, Document, SequenceFile, Started
from nabrel.formats.loader import read
from nabrel.formats.values import filled

MOST_HOURS_SAID = 200.0


class Worn(Aliased):
    """From when on, and on what kind of day; what is left out is as the plan has it."""

    from_: Annotated[Started, Field(alias="from")]
    temperature_c: Annotated[float, Ge(LIMITS.temperature_c.low), Le(LIMITS.temperature_c.high)] | None = None
    humidity_pc: Annotated[float, Ge(LIMITS.humidity_percent.low), Le(LIMITS.humidity_percent.high)] | None = None

    def climate(self, planned: Climate) -> Climate:
        """The day it was worn on."""
        return Climate(
            planned.temperature_c if self.temperature_c is None else self.temperature_c,
            planned.humidity_percent if self.humidity_pc is None else self.humidity_pc,
        )


class Verdict(Document):
    """What the sitter says of it in the end: whether they want it again, how comfortable it was (0 to 3), in words."""

    again: bool | None = None
    comfort: Grade | None = None
    text: Sentence = ""


class TrialSide(Document):
    """Which of two ways it was, where two are tried against each other."""

    id: Ident
    side: Literal["left", "right", "first", "second"]


Forecast = Annotated[float, Ge(0), Le(MOST_HOURS_SAID)]


class WornForecast(Document):
    """What was forecast for a zone. Only the hours to shine are asked for; the rest of an appearance's forecast may stand beside."""

    shine_hours: Forecast
    colour_hours: Forecast | None = None
    crease: Annotated[float, Ge(0), Le(1)] = 0.0
    cake: Annotated[float, Ge(0), Le(MOST_HOURS_SAID)] = 0.0
    film_um: float | None = None
    powder_mg_cm2: float | None = None
    load_um: float | None = None
    limit_um: float | None = None
    crease_drivers: tuple[str, ...] = ()
    flare: float | None = None
    ashiness: float | None = None
    learnt_from: Annotated[dict[EffectAbout, int], MaxLen(0)] = Field(default_factory=dict)
    """Empty: learning starts from forecasts without anything learnt in them."""

    @property
    def hours(self) -> Hours:
        """It as learning reads it."""
        return Hours(self.shine_hours, self.colour_hours, self.crease, self.cake)

    @classmethod
    def of(cls, hours: Hours) -> WornForecast:
        """The forecast as it is kept."""
        return cls(
            shine_hours=round(hours.shine_hours, 3),
            colour_hours=None if hours.colour_hours is None else round(hours.colour_hours, 3),
            crease=round(hours.crease, 4),
            cake=round(hours.cake, 4),
        )


class WearFile(Document):
    """``wear``: how a base wore."""

    nabrel: Literal["wear"] = "wear"
    version: Literal[1] = 1
    sequence: SequenceFile
    worn: Worn
    looks: Annotated[tuple[Look, ...], MaxLen(MOST_LOOKS)]
    verdict: Verdict | None = None
    forecast: Annotated[dict[Zone, WornForecast], MaxLen(100)] | None = None
    run: Ident | None = None
    trial: TrialSide | None = None

    def wearing(self, house: House) -> WornBase:
        """It as learning reads it: the forecast is the stored one, or is computed."""
        sequence = self.sequence.sequence
        if self.forecast is not None:
            forecast = {zone: each.hours for zone, each in self.forecast.items()}
        else:
            climate = self.worn.climate(sequence.case.intent.climate)
            forecast = dict(forecast_hours(sequence, house, climate))
        began = datetime.fromisoformat(self.worn.from_)
        return WornBase(sequence.case.sitter.nickname, sequence, forecast, self.looks, began)


def read_wear(data: bytes) -> WearFile:
    """A ``wear`` file; its looks are ones that can be, of the plan it holds."""
    found = read(data, WearFile, "wear")
    sequence = check_sequence(found.sequence.sequence)
    return found.model_copy(update={"looks": checked_looks(found.looks, sequence)})


class ErrorModel(Document):
    """How far forecasts lay off before and after learning, each record left out in turn; null where no hours were seen."""

    measure: str = MEASURE
    before: float | None
    after: float | None


class ProposalModel(Aliased):
    """A factor that could be taken over."""

    parameter: str
    from_: Annotated[float, Field(alias="from")]
    to: float
    says: str


class LearntModel(Document):
    """``learnt``: what wear records teach."""

    nabrel: Literal["learnt"] = "learnt"
    version: Literal[1] = 1
    records: int
    looks: int
    effects: list[Effect]
    error: ErrorModel
    proposals: list[ProposalModel]


def learnt_to(found: Learnt) -> LearntModel:
    """What was learnt as a file has it."""
    return LearntModel(
        records=found.records,
        looks=found.looks,
        effects=[
            replace(each, factor=round(each.factor, 3), low=round(each.low, 3), high=round(each.high, 3))
            for each in found.effects
        ],
        error=ErrorModel(before=_rounded(found.error.before), after=_rounded(found.error.after)),
        proposals=[filled(ProposalModel, each, from_=each.was) for each in found.proposals],
    )


def _rounded(value: float | None) -> float | None:
    return None if value is None else round(value, 4)
