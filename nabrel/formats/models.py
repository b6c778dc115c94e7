"""Models of the JSON files, version 1, one kind each in ``FILES``.

They are the contract: the JSON Schemas under ``schemas/`` are generated from them, and the HTTP API speaks them.
"""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, Strict

from nabrel.core.case.sitter import Leaning
from nabrel.core.face.measuring import Measured, Place, Source
from nabrel.core.plan.edits import (
    MOST_ACCEPTED,
    MOST_FILM_UM,
    MOST_POWDER_MG,
    MOST_REASONS,
    MOST_SECONDS,
    MOST_STEPS,
    MOST_WAIT_S,
)
from nabrel.core.shelf.tools import Cleaning
from nabrel.core.terms.ids import (
    Base,
    BlendWay,
    BronzerWay,
    BrowsWay,
    Condition,
    CorrectorWay,
    CoverClass,
    EvennessWay,
    Feature,
    Finish,
    GlowWay,
    LaidFromWay,
    Light,
    MeltingMistWay,
    Motion,
    OrderWay,
    PowderFoundationWay,
    PowderSculptWay,
    Preset,
    Role,
    School,
    SettingPolicy,
    Severity,
    ShadeEdgeWay,
    SpotWay,
    StepKind,
    Texture,
    Tool,
    Viewing,
    Zone,
)

Lightness = Annotated[float, Field(ge=0, le=100)]
Opponent = Annotated[float, Field(ge=-128, le=128)]
Shift = Annotated[float, Field(ge=-20, le=20)]
LabModel = Annotated[tuple[Lightness, Opponent, Opponent], Strict(strict=False)]
Rank = Annotated[int, Field(ge=0, le=3)]
Words = Annotated[str, Field(min_length=1, max_length=120)]
Ident = Annotated[str, Field(min_length=1, max_length=60, pattern=r"^[A-Za-z0-9][A-Za-z0-9._-]*$")]
Positive = Annotated[float, Field(gt=0, le=100000)]
Millimetres = Annotated[float, Field(ge=20, le=400)]
Sentence = Annotated[str, Field(max_length=600)]
Day = Annotated[str, Field(pattern=r"^\d{4}-\d{2}-\d{2}$")]
"""A day as YYYY-MM-DD; whether it exists is checked when it is read."""


def _daylight() -> list[Light]:
    return ["daylight"]


class Wire(BaseModel):
    """Strict, closed model: no coercion, no unknown fields, no NaN."""

    model_config = ConfigDict(strict=True, extra="forbid", allow_inf_nan=False)


class ColourModel(Wire):
    """A colour reading: CIE L*a*b*, D65, 2°."""

    lab: LabModel


class ZoneSkinModel(Wire):
    """What was read on one zone."""

    conditions: dict[Condition, Rank] = Field(default_factory=dict)
    lab: LabModel | None = None


class MeasuresModel(Wire):
    """Shape measures; any may be left out."""

    face_length_mm: Millimetres | None = None
    cheekbone_width_mm: Millimetres | None = None
    jaw_width_mm: Millimetres | None = None
    forehead_width_mm: Millimetres | None = None
    nose_length_mm: Millimetres | None = None
    forehead_fingers: Annotated[float, Field(ge=0.5, le=8)] | None = None
    nose_leans: Leaning | None = None
    outer_eye_down: bool = False


Millimetre = Annotated[float, Field(ge=-60, le=60)]


class SitterModel(Wire):
    """The person whose face it is."""

    nickname: Annotated[str, Field(min_length=1, max_length=60)]
    skin: ColourModel
    neck: LabModel | ColourModel | None = None
    chest: LabModel | ColourModel | None = None
    preset: Preset = "normal"
    zones: dict[Zone, ZoneSkinModel] = Field(default_factory=dict)
    measures: MeasuresModel = Field(default_factory=MeasuresModel)
    avoid: Annotated[list[Words], Field(max_length=60)] = Field(default_factory=list)
    about: Annotated[str, Field(max_length=300)] = ""
    consent_on: Day | None = None
    moved: Annotated[
        dict[str, Annotated[tuple[Millimetre, Millimetre], Strict(strict=False)]], Field(max_length=60)
    ] = Field(default_factory=dict)


class ClimateModel(Wire):
    """The day it is worn on."""

    temperature_c: Annotated[float, Field(ge=-30, le=50)] = 22
    humidity_percent: Annotated[float, Field(ge=0, le=100)] = 50


class OptionsModel(Wire):
    """Ways of working inside a school; each left out is the usual one."""

    corrector: CorrectorWay = "before_sculpt"
    spot: SpotWay = "after_foundation"
    second_pass: bool = False
    bronzer: BronzerWay = "none"
    shade_edge: ShadeEdgeWay = "faded"
    border_pass: bool = False
    glow: GlowWay = "school"
    melting_mist: MeltingMistWay = "school"
    laid_from: LaidFromWay = "hand"
    powder_sculpt: PowderSculptWay = "after_setting"
    powder_foundation: PowderFoundationWay = "none"
    evenness: EvennessWay = "let_stand"
    brows: BrowsWay = "helps"
    eyes: BrowsWay = "helps"


class IntentModel(Wire):
    """What is wanted. Without a school the planner recommends one."""

    school: School | None = None
    cover: CoverClass = "medium"
    finish: Finish = "satin"
    wear_hours: Annotated[float, Field(gt=0, le=24)] = 8
    lights: Annotated[list[Light], Field(min_length=1, max_length=6)] = Field(default_factory=_daylight)
    setting: SettingPolicy = "spot"
    order: OrderWay = "light_first"
    blend: BlendWay = "one_at_a_time"
    features: Annotated[list[Feature], Field(max_length=4)] = Field(default_factory=list)
    climate: ClimateModel | None = None
    viewing: Viewing = "in_person"
    options: OptionsModel | None = None
    day: Day | None = None


class ProductModel(Wire):
    """One kit item. ``lab`` is its masstone, ``cover`` its contrast ratio at a film of 9 µm."""

    id: Ident
    role: Role
    name: Words
    texture: Texture
    base: Base
    finish: Finish = "satin"
    lab: LabModel | None = None
    cover: Annotated[float, Field(ge=0.01, le=0.995)] | None = None
    ml: Positive | None = None
    g: Positive | None = None
    price: Annotated[float, Field(ge=0, le=100000)] | None = None
    dose_ml: Annotated[float, Field(gt=0, le=20)] | None = None
    suits: list[Condition] = Field(default_factory=list)
    contains: Annotated[list[Words], Field(max_length=200)] = Field(default_factory=list)
    half_hour: Annotated[tuple[Shift, Shift, Shift], Strict(strict=False)] | None = None
    ingredients: Annotated[list[Words], Field(max_length=200)] = Field(default_factory=list)
    opened_on: Day | None = None
    keeps_months: Annotated[int, Field(ge=1, le=120)] | None = None
    left: Annotated[float, Field(ge=0, le=1)] | None = None


class CaseModel(Wire):
    """``case``: what a plan starts from."""

    nabrel: Literal["case"]
    version: Literal[1]
    sitter: SitterModel
    intent: IntentModel = Field(default_factory=IntentModel)
    kit: Annotated[list[ProductModel], Field(max_length=500)] = Field(default_factory=list)


class TakeModel(Wire):
    """What to take from the pack."""

    amount: Annotated[float, Field(ge=0, le=1000)]
    unit: Literal["ml", "g"]
    words: Annotated[str, Field(max_length=120)] = ""


class StepModel(Wire):
    """One step. Powder steps give ``powder_mg_cm2`` instead of ``film_um``."""

    id: Ident
    kind: StepKind
    zones: list[Zone] = Field(default_factory=list)
    product: Ident | None = None
    film_um: Annotated[float, Field(ge=0, le=MOST_FILM_UM)] | None = None
    powder_mg_cm2: Annotated[float, Field(ge=0, le=MOST_POWDER_MG)] | None = None
    take: TakeModel | None = None
    tool: Tool | None = None
    motion: Motion | None = None
    active_s: Annotated[float, Field(ge=0, le=MOST_SECONDS)] = 15
    wait_s: Annotated[float, Field(ge=0, le=MOST_SECONDS)] = 0
    wait_at_most_s: Annotated[float, Field(ge=0, le=MOST_WAIT_S)] | None = None
    why: Annotated[list[Sentence], Field(max_length=MOST_REASONS)] = Field(default_factory=list)
    rules: Annotated[list[Words], Field(max_length=40)] = Field(default_factory=list)
    check: Sentence = ""


class LeftBareModel(Wire):
    """A zone left out of a kind of step on purpose."""

    zone: Zone
    kind: StepKind
    why: Sentence


class AcceptedModel(Wire):
    """A finding that is lived with: one rule's, on these zones, and why."""

    rule: Ident
    zones: list[Zone] = Field(default_factory=list)
    note: Annotated[str, Field(min_length=1, max_length=300)]


class SequenceModel(Wire):
    """``sequence``: what a plan is, with the case it was made from, whole."""

    nabrel: Literal["sequence"]
    version: Literal[1]
    school: School
    case: CaseModel
    steps: Annotated[list[StepModel], Field(max_length=MOST_STEPS)]
    left_bare: list[LeftBareModel] = Field(default_factory=list)
    notes: list[Sentence] = Field(default_factory=list)
    title: Annotated[str, Field(max_length=120)] = ""
    accepted: Annotated[list[AcceptedModel], Field(max_length=MOST_ACCEPTED)] = Field(default_factory=list)


class AmountEdit(Wire):
    """Change a step's film or powder."""

    edit: Literal["amount"]
    step: Ident
    film_um: float | None = None
    powder_mg_cm2: float | None = None


class HandEdit(Wire):
    """Change a step's tool, motion or both."""

    edit: Literal["hand"]
    step: Ident
    tool: Tool | None = None
    motion: Motion | None = None


class ProductEdit(Wire):
    """Swap a step's product."""

    edit: Literal["product"]
    step: Ident
    product: Ident


class ZonesEdit(Wire):
    """Change a step's zones."""

    edit: Literal["zones"]
    step: Ident
    zones: list[Zone]


class WaitEdit(Wire):
    """Change a step's waits."""

    edit: Literal["wait"]
    step: Ident
    wait_s: float
    wait_at_most_s: float | None = None


class MoveEdit(Wire):
    """Move a step before another, or to the end."""

    edit: Literal["move"]
    step: Ident
    before: Ident | None = None


class RemoveEdit(Wire):
    """Take a step out."""

    edit: Literal["remove"]
    step: Ident


class AddEdit(Wire):
    """Add a step before another, or at the end."""

    edit: Literal["add"]
    kind: StepKind
    zones: list[Zone] = Field(default_factory=list)
    before: Ident | None = None
    product: Ident | None = None
    film_um: float | None = None
    powder_mg_cm2: float | None = None
    tool: Tool | None = None
    motion: Motion | None = None
    active_s: Annotated[float, Field(ge=0, le=MOST_SECONDS)] = 20
    wait_s: Annotated[float, Field(ge=0, le=MOST_SECONDS)] = 0


class SplitEdit(Wire):
    """Make a step of its own of some of a step's zones."""

    edit: Literal["split"]
    step: Ident
    zones: list[Zone]


class MergeEdit(Wire):
    """Take another step of the same kind and product into a step."""

    edit: Literal["merge"]
    step: Ident
    other: Ident


class AcceptEdit(Wire):
    """Keep a rule's finding on these zones quiet, because of the note; without a note it speaks again."""

    edit: Literal["accept"]
    rule: Ident
    zones: list[Zone] = Field(default_factory=list)
    note: Annotated[str, Field(max_length=300)] = ""


EditModel = Annotated[
    AmountEdit
    | HandEdit
    | ProductEdit
    | ZonesEdit
    | WaitEdit
    | MoveEdit
    | RemoveEdit
    | AddEdit
    | SplitEdit
    | MergeEdit
    | AcceptEdit,
    Field(discriminator="edit"),
]


class FixModel(Wire):
    """A way out, as edits that can be applied in one action."""

    says: str
    edits: list[EditModel]


class FindingModel(Wire):
    """One finding of the rule book."""

    rule: str
    family: str
    severity: Severity
    steps: list[str]
    zones: list[Zone]
    says: str
    why: str
    fix: FixModel | None = None
    other_view: str = ""
    decided: str = ""
    accepted: str = ""
    against: list[str] = []


Note = Annotated[str, Field(max_length=300)]


class RuleDecisionModel(Wire):
    """What was decided otherwise about one rule."""

    off: bool = False
    severity: Severity | None = None
    note: Note = ""


class ParameterDecisionModel(Wire):
    """A house parameter decided otherwise."""

    value: float
    note: Note = ""


class HouseModel(Wire):
    """``house``: what an educator decided otherwise; what is left out stands as the book has it."""

    nabrel: Literal["house"]
    version: Literal[1]
    parameters: Annotated[dict[str, ParameterDecisionModel], Field(max_length=300)] = Field(default_factory=dict)
    rules: Annotated[dict[str, RuleDecisionModel], Field(max_length=300)] = Field(default_factory=dict)


class RankedSchoolModel(Wire):
    """One school on a face: the reasons for and against it, and the figures they rest on."""

    school: School
    words: str
    says: str
    speaks_for: list[str]
    speaks_against: list[str]
    steps: int
    minutes: float
    cost: float | None = None
    worst_cake: float
    shine_hours: float
    mean_film_um: float
    findings: int


class SchoolsModel(Wire):
    """``schools``: all six planned on one face, the one that suits best first."""

    nabrel: Literal["schools"] = "schools"
    version: Literal[1] = 1
    schools: list[RankedSchoolModel]


class FindingsModel(Wire):
    """``findings``: what a check says."""

    nabrel: Literal["findings"] = "findings"
    version: Literal[1] = 1
    findings: list[FindingModel]


class ShownModel(Wire):
    """What one zone shows and carries at one stage. Film and powder are all that lies there by then."""

    lab: LabModel
    hex: str
    de: float
    film_um: float
    powder_mg_cm2: float


class StageModel(Wire):
    """The face once one step is done."""

    step: str
    zones: dict[Zone, ShownModel]


class ZoneForecastModel(Wire):
    """Forecast of one zone. ``cake`` is load over limit; ``crease`` an index from 0 to 1."""

    film_um: float
    powder_mg_cm2: float
    load_um: float
    limit_um: float
    cake: float
    crease: float
    crease_drivers: list[str]
    shine_hours: float
    colour_hours: float | None = None
    flare: float = 0


class TouchUpModel(Wire):
    """Something to do while it is worn, so many hours after."""

    hour: float
    zones: list[Zone]
    does: str


class ReadThroughModel(Wire):
    """What still shows of one kind of sculpting on one zone."""

    zone: Zone
    kind: StepKind
    percent: float
    visible_dl: float
    bare_dl: float


class AppearanceModel(Wire):
    """``appearance``: what the film model says."""

    nabrel: Literal["appearance"] = "appearance"
    version: Literal[1] = 1
    light: Light
    target: LabModel
    target_hex: str
    steps: list[StageModel]
    zones: dict[Zone, ZoneForecastModel]
    read_through: list[ReadThroughModel]
    touch_ups: list[TouchUpModel] = Field(default_factory=list)


class CoveringModel(Wire):
    """One way to even out a zone. ``film_um`` is corrector and concealer together; ``misses`` is what is still off."""

    corrector: Ident | None = None
    corrector_um: float
    concealer: Ident | None = None
    concealer_um: float
    film_um: float
    lab: LabModel
    hex: str
    de: float
    near_enough: bool
    misses: str
    shows_from_um: float | None = None


class CorrectionModel(Wire):
    """``correction``: the corrector question answered for one zone of a case, under the foundation it would get.

    ``saving_percent`` is the film saved against concealer alone; ``worth_it`` whether a corrector earns its step.
    """

    nabrel: Literal["correction"] = "correction"
    version: Literal[1] = 1
    zone: Zone
    skin: LabModel
    skin_hex: str
    target: LabModel
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


class MixPartModel(Wire):
    """A product and its whole drops; ``share`` is its part of the mixture."""

    product: Ident
    name: str
    drops: int
    share: float


class RecipeModel(Wire):
    """A mixture in whole drops and what it gives."""

    parts: list[MixPartModel]
    drops: int
    lab: LabModel
    hex: str
    de: float
    misses: str
    cover: float
    finish: Finish
    warnings: list[str]


class MixModel(Wire):
    """``mix``: the nearest recipe for a target colour and the smallest that is near enough."""

    nabrel: Literal["mix"] = "mix"
    version: Literal[1] = 1
    target: LabModel
    target_hex: str
    near_enough: bool
    best: RecipeModel
    smallest: RecipeModel


class SkinReadingModel(Wire):
    """One dated reading of a place: a colour (``lab``), or oil (µg/cm²) or moisture (probe units) as ``value``."""

    day: Day
    place: Place
    what: Measured = "colour"
    lab: LabModel | None = None
    value: Annotated[float, Field(ge=0, le=500)] | None = None
    takes: Annotated[int, Field(ge=1, le=99)] = 1
    spread: Annotated[float, Field(ge=0, le=200)] | None = None
    source: Source = "typed"


class ToolModel(Wire):
    """One tool that is owned."""

    id: Ident
    kind: Tool
    name: Annotated[str, Field(max_length=120)] = ""
    state: Cleaning = "clean"
    cleaned_on: Day | None = None
    since: Day | None = None


class ToolsModel(Wire):
    """``tools``: the tools of a workspace."""

    nabrel: Literal["tools"] = "tools"
    version: Literal[1] = 1
    tools: Annotated[list[ToolModel], Field(max_length=500)]


class NamedKitModel(Wire):
    """A named part of the shelf: a student's kit, a travelling case."""

    id: Ident
    name: Words
    items: Annotated[list[Ident], Field(max_length=500)] = Field(default_factory=list)


class KitsModel(Wire):
    """``kits``: the named kits of a workspace."""

    nabrel: Literal["kits"] = "kits"
    version: Literal[1] = 1
    kits: Annotated[list[NamedKitModel], Field(max_length=200)]


FILES: dict[str, type[Wire]] = {
    "case": CaseModel,
    "sequence": SequenceModel,
    "findings": FindingsModel,
    "appearance": AppearanceModel,
    "correction": CorrectionModel,
    "mix": MixModel,
    "house": HouseModel,
    "schools": SchoolsModel,
    "tools": ToolsModel,
    "kits": KitsModel,
}
"""Every JSON file by its kind."""
