"""Wire models of the Wear room."""

from __future__ import annotations

from typing import Annotated, Literal

from annotated_types import Ge, Le
from pydantic import BaseModel, Field

from nabrel.core.face.proportions import Proportions
from nabrel.core.learn.record import LONGEST_DAY_MIN, Look
from nabrel.core.learn.wear_trial import How, Side
from nabrel.core.plan.edits import Edit
from nabrel.core.terms.ids import Region, WearSign, Zone
from nabrel.core.terms.limits import LIMITS, Ident, one_line
from nabrel.core.terms.rounding import Rounded
from nabrel.formats.files import Started
from nabrel.formats.wear import LearntModel, TrialSide, Verdict, Worn
from nabrel.store.wear import WearListed
from nabrel.web.shared.wire import AnswerModel, Body, Named, Query, TakenOverWire
from nabrel.web.weigh.answers import CandidateSpec


class WornBody(Body):
    """A base was put on: when (now, where that is left out), on what kind of day, and in which run."""

    worn_from: Started | None = None
    temperature_c: Annotated[float, Ge(LIMITS.temperature_c.low), Le(LIMITS.temperature_c.high)] | None = None
    humidity_pc: Annotated[float, Ge(LIMITS.humidity_percent.low), Le(LIMITS.humidity_percent.high)] | None = None
    run: Ident | None = None


class LookBody(Body):
    """One look; it takes the place of another one at the same minute."""

    look: Look


class VerdictBody(Body):
    """What the sitter says in the end."""

    verdict: Verdict


class MinuteQuery(Query):
    """Which look: the minute after the base was put on."""

    after_min: Annotated[float, Ge(0), Le(LONGEST_DAY_MIN), Field(strict=False)]


class WearsQuery(Query):
    """Whose records: of one sitter, of everybody where that is left out."""

    sitter: Ident | None = None


class SpanWire(AnswerModel):
    """Of one region and one sign that comes: hours forecast, and between which hours it came on the zone that was first.

    ``learnt_h`` is what would be forecast by now, with what was taken over from wear records; null where nothing was.

    ``to_h`` is null where it had not come at the last look; ``from_h`` and ``to_h`` are null where nobody looked.
    """

    region: Region
    words: str
    sign: WearSign
    forecast_h: float
    learnt_h: float | None
    forecast_zone: str
    from_h: float | None
    to_h: float | None
    looked: bool
    says: str


class ShortSpanWire(AnswerModel):
    """Of one part of the face and one sign: on how many zones it was looked for, and came sooner or later than forecast."""

    region: Region
    words: str
    sign: WearSign
    zones: int
    sooner: int
    later: int
    says: str


class CourseDayWire(AnswerModel):
    """One base of a sitter: hours until the first zone showed a sign, forecast and seen; ``to_h`` is null where none did."""

    wear_id: Ident
    worn_from: str
    temperature_c: float
    sign: WearSign
    forecast_h: Annotated[float, Rounded(2)]
    from_h: Annotated[float, Rounded(2)]
    to_h: float | None


class OilWire(AnswerModel):
    """One reading of oil, in µg/cm², of the zone that was read most often."""

    day: str
    value: float


class SeasonWire(AnswerModel):
    """A season of wear: where it wears short; of one sitter also day by day, beside the readings of oil."""

    short: list[ShortSpanWire]
    course: list[CourseDayWire]
    oil_place: str
    oil: list[OilWire]


class CodePath(BaseModel):
    """The short code of a plan, as its sheet has it."""

    code: Annotated[str, one_line(40)]


class ShortWire(AnswerModel):
    """What a short address leads to: a plan, and the record of the base that was put on within the last day, where there is one."""

    plan_id: Ident
    nickname: str
    title: str
    wear_id: Ident | None


class ColourSeenWire(AnswerModel):
    """A colour that was read at a look, against the forecast for that minute."""

    after_min: float
    zone: Zone
    words: str
    forecast_hex: str
    read_hex: str
    de: Annotated[float, Rounded(1)]
    says: str


class WearWire(AnswerModel):
    """How one base wore: whose, the looks, and the forecast against what was seen.

    ``looks_say`` is what was seen at each look, in words. ``temperature_c`` and ``humidity_pc`` are of the day that the forecast is for: the record's own, or the plan's.
    """

    wear_id: Ident
    plan_id: Ident
    sitter_id: Ident
    nickname: str
    title: str
    revision: int
    worn: Worn
    looks: list[Look]
    looks_say: list[str]
    verdict: Verdict | None
    run: Ident | None
    zones: list[Zone]
    hexes: dict[Zone, str]
    proportions: Proportions
    spans: list[SpanWire]
    colours: list[ColourSeenWire]
    trial: TrialSide | None
    temperature_c: float
    humidity_pc: float


class DayBody(Body):
    """When it was put on, and on what kind of day; what is left out is as the plan has it."""

    worn: Worn


class LookRowWire(AnswerModel):
    """One row of a table of looks: what it says, or what is wrong with it."""

    line: int
    name: str
    status: Literal["good", "problem"]
    says: str


class LookRowsWire(AnswerModel):
    """A table of looks before it is kept: how many rows are good, and how many are not; ``rows`` are the first of each kind."""

    good: int
    problems: int
    rows: list[LookRowWire]


class LooksTakenWire(AnswerModel):
    """How many rows were kept, in how many records."""

    rows: int
    records: int


class PhotoPath(BaseModel):
    """A photograph of a record."""

    id: Ident
    name: Annotated[str, Field(pattern=r"^[0-9a-f]{32}\.jpg$")]


class WearsListQuery(WearsQuery):
    """Which records: of one sitter, with one sign seen, after so many that are shown already."""

    sign: WearSign | None = None
    skip: Annotated[int, Field(ge=0, le=1_000_000, strict=False)] = 0


class WearsWire(AnswerModel):
    """Records, newest first: some of so many, and of whom there are any."""

    wears: list[WearListed]
    total: int
    owners: list[Named]


class OfferWire(AnswerModel):
    """Something that a note asks for, which can be done in the plan: in words, as edits, and the gravest finding that comes of it."""

    says: str
    edits: list[Edit]
    comes: str | None


class NextTimeWire(AnswerModel):
    """What was noted for the next time: in which record, of a base put on when, after how long, and what of it can be done here."""

    wear_id: Ident
    worn_from: str
    after_min: float
    says: str
    offers: list[OfferWire]


class NextTimesWire(AnswerModel):
    """What was noted for the next time with the sitter of a plan, newest first."""

    notes: list[NextTimeWire]


class EffectSaidWire(AnswerModel):
    """One effect with the name of whose it is, as a screen says it."""

    about: str
    about_words: str
    of: str
    of_words: str
    name: str
    factor: Annotated[float, Rounded(3)]
    low: Annotated[float, Rounded(3)]
    high: Annotated[float, Rounded(3)]
    seen: int
    looks: int
    sure: bool


class LearntWire(AnswerModel):
    """What was learnt, with its words, and what of it was taken over, newest first."""

    learnt: LearntModel
    effects: list[EffectSaidWire]
    taken_over: list[TakenOverWire]


class TakeOverBody(Body):
    """Which proposal is agreed to, and the factor that was read: another one by now is refused."""

    parameter: Annotated[str, one_line(140)]
    to: Annotated[float, Ge(LIMITS.factor.low), Le(LIMITS.factor.high), Field(strict=False)]


class ProposalBody(Body):
    """Which proposal: in the body, since its name may hold a nickname, and addresses are logged."""

    parameter: Annotated[str, one_line(140)]


class ConsequenceWire(AnswerModel):
    """What a proposal would change in one plan."""

    plan_id: Ident
    title: str
    nickname: str
    says: list[str]


class ConsequencesWire(AnswerModel):
    """What a proposal would change in up to three plans, those changed last first."""

    plans: list[ConsequenceWire]


class WearTrialBody(Body):
    """Two candidates, as Weigh has them, and whether they are worn on the halves of one face or on two days."""

    candidates: Annotated[list[CandidateSpec], Field(min_length=2, max_length=2)]
    how: How


class PutOnBody(Body):
    """When it was put on (now, where that is left out), and of a trial on two days which of the two it was."""

    worn_from: Started | None = None
    side: Side | None = None


class WearTrialsQuery(Query):
    """Of which plan; of every plan where that is left out."""

    plan: Ident | None = None


class WearTrialRowWire(AnswerModel):
    """One trial in a list."""

    trial_id: Ident
    plan_id: Ident
    nickname: str
    title: str
    how: How
    ways: list[str]
    made: str


class WearTrialsWire(AnswerModel):
    """Trials, newest first."""

    trials: list[WearTrialRowWire]


class TrialWearWire(AnswerModel):
    """One record of a trial: of which way, put on when, how often looked at."""

    wear_id: Ident
    side: Side
    worn_from: str
    looks: int


class TrialResultWire(AnswerModel):
    """What the trial says of one measure of hours."""

    about: str
    words: str
    factor: Annotated[float, Rounded(3)]
    low: Annotated[float, Rounded(3)]
    high: Annotated[float, Rounded(3)]
    pairs: int
    days: int
    sure: bool
    says: str


class WearTrialWire(AnswerModel):
    """A trial: what differs, what to look at and when, what was worn, and what that says."""

    trial_id: Ident
    plan_id: Ident
    sitter_id: Ident
    nickname: str
    title: str
    how: How
    ways: list[str]
    sides: list[Side]
    side_words: list[str]
    differs: list[str]
    look_at: list[str]
    worn: list[TrialWearWire]
    results: list[TrialResultWire]
    graded: list[str]
