"""Wire models of the API that are not files: lists, the workbench, differences. The OpenAPI document comes from them."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

from nabrel.core.ask.compare import Difference
from nabrel.core.case.intent import Climate, Intent
from nabrel.core.case.options import OptionInfo
from nabrel.core.case.product import Product
from nabrel.core.face.proportions import Proportions
from nabrel.core.judge.book import Finding
from nabrel.core.judge.evaluate import Totals
from nabrel.core.pace.tasks import Pace
from nabrel.core.plan.edits import Edit
from nabrel.core.plan.sequence import LeftBare
from nabrel.core.shelf.ladder import Rung
from nabrel.core.terms.asked import ColourEffect, Effect, EffectRegion, FoundationOn, GlowPoint
from nabrel.core.terms.figures import FigureInfo
from nabrel.core.terms.hands import MotionInfo
from nabrel.core.terms.ids import (
    BlendOption,
    Condition,
    CoverClass,
    Finish,
    Light,
    OrderOption,
    Preset,
    Region,
    School,
    SettingPolicy,
    Severity,
    StepKind,
    Viewing,
    Zone,
)
from nabrel.core.terms.limits import MOST_HOURS, Faces, Limits, one_line
from nabrel.core.terms.rounding import Rounded
from nabrel.core.terms.signs import SignInfo
from nabrel.core.terms.steps import Chapter
from nabrel.core.terms.table import Term, Wish
from nabrel.core.terms.zones import Side
from nabrel.core.wear.touch_up import TouchUp
from nabrel.formats.answers import (
    CorrectionModel,
    CoveringModel,
    MixModel,
    ReadThroughModel,
    RecipeModel,
    ZoneForecastModel,
)
from nabrel.formats.files import DecidedRule, WrittenStep
from nabrel.store.erasing import Titled

Number = Annotated[int, Field(ge=0, le=2**53)]
"""The number of a revision, a record's version or a reading, as a request names it: within what JSON and SQLite hold."""


AnyEdit = Annotated[Edit, Field(discriminator="edit")]
"""An edit of a plan, told apart by what it calls itself."""


class Body(BaseModel):
    """Base of bodies: strict and closed, the core values in it too."""

    model_config = ConfigDict(strict=True, extra="forbid", allow_inf_nan=False, defer_build=True)


class AnswerModel(BaseModel):
    """Base of answers."""

    model_config = ConfigDict(extra="forbid", defer_build=True)


class Query(BaseModel):
    """Base of what stands behind the ``?`` of an address."""

    model_config = ConfigDict(defer_build=True)


class Problem(AnswerModel):
    """Why a request was refused: the field, what was found, what is allowed."""

    field: str
    found: str
    allowed: str
    says: str


class ZoneWire(AnswerModel):
    """One zone of the face."""

    id: Zone
    words: str
    place: str
    region: Region
    side: Side
    area_cm2: float
    base: bool


class SchoolWire(AnswerModel):
    """One school that can be planned."""

    id: School
    words: str
    why: str
    demands: str


class RuleWire(AnswerModel):
    """One rule of the book."""

    id: str
    family: str
    severity: Severity
    statement: str
    reason: str
    other_view: str


class EffectWire(AnswerModel):
    """An effect that may be asked of a region: what it is called and what is done for it."""

    region: EffectRegion
    effect: Effect
    words: str
    why: str


class VocabularyWire(AnswerModel):
    """Everything the screens need words for."""

    zones: list[ZoneWire]
    regions: tuple[Term, ...]
    steps: tuple[Term, ...]
    tools: tuple[Term, ...]
    motions: tuple[MotionInfo, ...]
    lights: tuple[Term, ...]
    settings: tuple[Term, ...]
    conditions: tuple[Term, ...]
    signs: tuple[SignInfo, ...]
    roles: tuple[Term, ...]
    schools: list[SchoolWire]
    rules: list[RuleWire]
    rank_words: dict[str, str]
    options: tuple[OptionInfo, ...]
    viewings: tuple[Term, ...]
    covers: tuple[Term, ...]
    finishes: tuple[Term, ...]
    figures: tuple[FigureInfo, ...]
    coloured_roles: list[str]
    hues: list[str]
    hairs: tuple[Term, ...]
    covered: tuple[Term, ...]
    effects: list[EffectWire]
    colour_effects: tuple[Wish, ...]
    foundation_on: tuple[Wish, ...]
    glow_points: tuple[Wish, ...]
    done_before: tuple[Term, ...]
    presets: list[PresetWire]
    condition_groups: list[ConditionGroupWire]
    anchors: dict[Zone, list[float]]
    limits: Limits


class PresetWire(AnswerModel):
    """A skin preset: a starting point, and what it sets, in words and zone by zone."""

    id: Preset
    words: str
    sets: list[str]
    zones: dict[Zone, dict[Condition, int]]


class ConditionGroupWire(AnswerModel):
    """Conditions that are looked for together."""

    words: str
    conditions: list[Condition]


class ConditionWire(AnswerModel):
    """A condition read on a zone."""

    id: Condition
    words: str
    severity: int


class ZoneReadingWire(AnswerModel):
    """The reading of one zone."""

    zone: Zone
    hex: str
    measured: bool
    conditions: list[ConditionWire]
    film_limit_um: Annotated[float, Rounded(1)]
    shear_limit: float
    oil_rate: Annotated[float, Rounded(2)]


class SitterSummary(AnswerModel):
    """A sitter in the list."""

    id: str
    nickname: str
    about: str
    skin_hex: str
    depth: str
    undertone: str
    preset: Preset
    sequence_id: str | None


class SitterWire(SitterSummary):
    """A sitter as read."""

    shape: str | None
    proportions: Proportions
    neck_hex: str | None
    neck_de: float | None
    complexion_hex: str
    intent: Intent
    zones: list[ZoneReadingWire]
    read_words: list[str]


class SitterList(AnswerModel):
    """All sitters."""

    sitters: list[SitterSummary]


class GoesWire(AnswerModel):
    """What goes with a sitter: plans, revisions of them, classes that teach them, the practice of who is a student too, and the
    classes in which their name was typed without the link to their face.
    """

    plans: int
    revisions: int
    classes: int
    practice: int
    named: int


class MentionWire(AnswerModel):
    """A title of something else in which a name stands; not ``sure`` where the words could mean something else."""

    id: str
    kind: Titled
    text: str
    sure: bool


class MentionsWire(AnswerModel):
    """The titles in which somebody's name stands, in backups too."""

    mentions: list[MentionWire]


class BelongingsWire(GoesWire, MentionsWire):
    """What would go with a sitter, and where else their name stands."""


class ErasedWire(GoesWire):
    """What went with a sitter, and out of how many titles their name was taken; ``finished`` is false where something of them is left
    in a file until the next start.
    """

    titles: int

    finished: bool


class ImportedWire(AnswerModel):
    """What an imported case became."""

    sitter_id: str
    sequence_id: str
    kit_added: int


class Named(AnswerModel):
    """Something by its id, and its name."""

    id: str
    name: str


@dataclass(frozen=True, kw_only=True)
class TotalsWire(Totals):
    """Figures of the whole sequence."""

    shade_shows: float | None
    light_shows: float | None


class EdgeWire(AnswerModel):
    """A border of the finished base: its colour step, the width it fades over, and what passes unseen."""

    kind: str
    zones: list[Zone]
    step_de: Annotated[float, Rounded(1)]
    width_mm: float
    steepness: Annotated[float, Rounded(2)]
    unseen: float


class CarriedWire(AnswerModel):
    """Part of a step's film that came along in its tool from an earlier product; share 0 to 1."""

    product: str
    name: str
    share: float


class DustedWire(AnswerModel):
    """Powder that lies higher for a while: laid in a step (its place) on a zone, until another step takes it off."""

    step: int
    until: int
    zone: Zone
    laid_mg_cm2: float


class PortionSaysWire(AnswerModel):
    """One portion in words: where, by the shortest true description, how much in a hand's words ("" for nothing), and all
    that is done, as it is told.
    """

    where: str
    amount: str
    does: str


class LadderWire(AnswerModel):
    """The ladders of amounts: µm of dry film, and mg/cm² of powder."""

    um: tuple[Rung, ...]
    mg_cm2: tuple[Rung, ...]


class WorkbenchWire(AnswerModel):
    """The Layer workbench: a sequence and everything computed from it.

    ``takes``, ``chapters`` and ``portions`` say of every step what to take, where the order of work lists it, and each portion in words. ``stages`` is one row of hex colours a stage (bare skin first), zones in the vocabulary's order; ``film`` (µm) and
    ``powder`` (mg/cm²) hold what each step lays, one row a step; ``states`` is one string a step, a letter a zone, of
    how it lies when that step's work ends: ``b`` bare, ``w`` wet, ``t`` tacky, ``s`` set, ``p`` powdered; ``de`` is CIEDE2000 from the complexion at the end.
    """

    id: str
    sitter_id: str
    nickname: str
    title: str
    revision: int
    undo_says: str | None
    redo_says: str | None
    school: School
    intent: Intent
    light: Light
    steps: list[WrittenStep]
    takes: list[str]
    chapters: list[Chapter]
    portions: list[list[PortionSaysWire]]
    ladder: LadderWire
    products: dict[str, Product]
    swatches: dict[str, str]
    left_bare: list[LeftBare]
    notes: list[str]
    starts_s: list[float]
    target_hex: str
    stages: list[list[str]]
    states: list[str]
    film: list[list[float]]
    powder: list[list[float]]
    powder_um_per_mg: float
    dusted: list[DustedWire]
    carried: list[list[CarriedWire]]
    de: list[float]
    forecast: dict[Zone, ZoneForecastModel]
    read_through: list[ReadThroughModel]
    touch_ups: list[TouchUp]
    edges: list[EdgeWire]
    findings: list[Finding]
    totals: TotalsWire
    zones: list[ZoneReadingWire]
    proportions: Proportions
    skin_sd: float | None
    guessed: int
    difference: Difference | None = None


class CandidateWire(AnswerModel):
    """A product that could take a step's place, with what it would do here.

    On ``zone``: beneath_hex before the step, result_hex and result_de once it is on, finished_hex under the whole base.
    The rest is of the whole plan.
    """

    product: Product
    swatch: str
    zone: Zone
    beneath_hex: str
    result_hex: str
    result_de: float
    finished_hex: str
    look_de: Annotated[float, Rounded(1)]
    shade_shows: Annotated[float, Rounded(1)] | None
    worst_cake: Annotated[float, Rounded(3)]
    cost_change: Annotated[float, Rounded(2)] | None
    beads: bool
    agreement: str
    current: bool
    considered: bool
    edits: list[AnyEdit]


class CandidateList(AnswerModel):
    """Candidates for one step, the current one among them; for a foundation also the mix that would stand in for it."""

    candidates: list[CandidateWire]
    mix: RecipeModel | None = None


class TrialWire(AnswerModel):
    """What a change would do, before it is kept: in words and figures, with the findings that come and go.

    look_de is the largest CIEDE2000 between a zone's finished colour now and then, on look_zone.
    """

    difference: Difference
    come: list[Finding]
    gone: list[Finding]
    look_de: float
    look_zone: Zone


class PreviewWire(TrialWire):
    """What a replan would bring, before it is kept."""

    intent: Intent
    findings: int


class CoveringRow(AnswerModel):
    """One way to even the zone out, what it is among the answers, and the edits that bring it into the plan."""

    covering: CoveringModel
    label: str
    take: list[AnyEdit]


class CorrectionWire(AnswerModel):
    """The corrector question for one zone: the answer and its rows, the best first."""

    correction: CorrectionModel
    names: dict[str, str]
    swatches: dict[str, str]
    zones: list[Zone]
    rows: list[CoveringRow]


class MixWire(AnswerModel):
    """Recipes for the complexion, and what may go into the well."""

    mix: MixModel
    joining: list[JoiningWire]
    products: list[Product]
    swatches: dict[str, str]


class WellPart(Body):
    """Drops of one product in the well."""

    product: Annotated[str, Field(max_length=60)]
    drops: Annotated[int, Field(ge=1, le=99)]


class WellBody(Body):
    """What was dropped into the well, for how many faces, and the foundation it stands in for (the complexion if none)."""

    parts: Annotated[list[WellPart], Field(min_length=1, max_length=12)]
    faces: Faces = 1
    replaces: Annotated[str, Field(max_length=60)] | None = None


class WellWire(AnswerModel):
    """What the well gives, in daylight against the target and as seen under a light."""

    recipe: RecipeModel
    seen_hex: str
    target_hex: str
    batch_ml: list[float]


class ReachWire(AnswerModel):
    """What would let the wanted step of a shade or light show, with the edits that do it where there are any."""

    wanted: float
    shows: Annotated[float, Rounded(2)]
    says: str
    edits: list[AnyEdit]


class ReachQuery(Query):
    """The wanted visible step in L*; the house's where left out."""

    wanted: Annotated[float, Field(ge=0.1, le=40)] | None = None


class JoiningWire(AnswerModel):
    """A foundation on this face beside neck and chest."""

    product: str
    name: str
    face_hex: str
    settled_hex: str
    neck_de: Annotated[float, Rounded(1)] | None
    chest_de: Annotated[float, Rounded(1)] | None
    de: Annotated[float, Rounded(1)]
    settled_de: Annotated[float, Rounded(1)]
    says: str


class MixQuery(Query):
    """Limits of a mix, and the foundation it stands in for; towards the complexion if none."""

    drops: Annotated[int, Field(ge=1, le=12)] = 8
    products: Annotated[int, Field(ge=1, le=3)] = 3
    finish: Finish | None = None
    replaces: Annotated[str, Field(max_length=60)] | None = None


class BookRuleWire(AnswerModel):
    """One rule as the house rules room shows it, with what was decided about it."""

    id: str
    family: str
    severity: Severity
    statement: str
    reason: str
    other_view: str
    schools: list[School]
    parameters: list[str]
    decision: DecidedRule | None
    version: int


class ParameterWire(AnswerModel):
    """One house parameter: its value now, the book's, and its range."""

    name: str
    words: str
    subject: str
    unit: str
    value: float
    default: float
    low: float
    high: float
    why: str
    source: str
    note: str
    rules: list[str]
    version: int


class TakenOverWire(AnswerModel):
    """A factor on forecasts that was taken over from wear records: its number, in words, when, and when it was undone."""

    number: int
    words: str
    says: str
    factor: float
    on: str
    undone: str | None
    standing: bool


class HouseWire(AnswerModel):
    """The rule book and every parameter, with what was decided."""

    rules: list[BookRuleWire]
    parameters: list[ParameterWire]
    taken_over: list[TakenOverWire]


class OnVersion(Query):
    """The version that a change is made on: refused where another one stands. 0: it is not there yet; left out: whichever."""

    version: Number | None = None


class NumberPath(BaseModel):
    """A number in the path."""

    number: Annotated[int, Field(ge=1, le=2**31)]


class NamePath(BaseModel):
    """A rule id or parameter name in the path."""

    name: Annotated[str, one_line(80)]


class EditsBody(Body):
    """Edits made on a revision."""

    revision: Number
    edits: Annotated[tuple[AnyEdit, ...], Field(min_length=1, max_length=60)]


class RevisionBody(Body):
    """The revision a request was made on."""

    revision: Number


class KitQuery(Query):
    """The named kit to plan from; the whole shelf where left out."""

    kit: Annotated[str, Field(max_length=60)] | None = None


class RunBody(Body):
    """A plan was done as it stands, on so many sitters."""

    revision: Number
    sitters: Faces = 1


class RunWire(AnswerModel):
    """A recorded run: how many items it took from, and which of the shelf now run low."""

    day: str
    items: int
    low: list[str]


class IntentChange(Body):
    """Changes to the intent: what is left out stays, null is back to what is usual."""

    school: School | None = None
    setting: SettingPolicy | None = None
    cover: CoverClass | None = None
    finish: Finish | None = None
    order: OrderOption | None = None
    blend: BlendOption | None = None
    viewing: Viewing | None = None
    lights: Annotated[tuple[Light, ...], Field(min_length=1, max_length=6)] | None = None
    wear_hours: Annotated[float, Field(gt=0, le=MOST_HOURS)] | None = None
    options: dict[str, str | bool | None] | None = None
    climate: Climate | None = None
    effects: dict[EffectRegion, Annotated[tuple[Effect, ...], Field(max_length=4)]] | None = None
    colour_effect: ColourEffect | None = None
    foundation_on: FoundationOn | None = None
    glow_points: Annotated[tuple[GlowPoint, ...], Field(max_length=8)] | None = None
    already_done: Annotated[tuple[StepKind, ...], Field(max_length=30)] | None = None
    correct_anyway: Annotated[tuple[Zone, ...], Field(max_length=40)] | None = None
    bake_zones: Annotated[tuple[Zone, ...], Field(max_length=40)] | None = None


class ReplanBody(IntentChange):
    """Changes to the intent made on a revision."""

    revision: Number


class IdPath(BaseModel):
    """An id in the path."""

    id: Annotated[str, Field(max_length=64)]


class PaceQuery(Query):
    """Whose hand a plan is told for, in times a practised hand's seconds."""

    pace: Pace = 1.0


class RevisionPath(IdPath):
    """A plan and the number of one of its revisions."""

    number: Number


class StepPath(IdPath):
    """A sequence id and a step id in the path."""

    step: Annotated[str, Field(max_length=64)]


class LightQuery(Query):
    """The light to see under."""

    light: Light = "daylight"


class ZoneQuery(LightQuery):
    """The light to see under, and the zone to look at; the largest if none."""

    zone: Zone | None = None


class ZonePath(IdPath):
    """A sequence id and a zone in the path."""

    zone: Zone
