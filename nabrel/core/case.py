"""A case: the sitter, the intent and the kit that a plan starts from, as frozen values."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import date

from nabrel.core.vocabulary import (
    COVER_CLASSES,
    DRY_TEXTURES,
    Base,
    Blend,
    BronzerAt,
    Condition,
    CorrectorAt,
    CoverClass,
    Evenness,
    Feature,
    FeatureAt,
    Finish,
    GlowAt,
    LaidFrom,
    Leaning,
    Light,
    MeltAt,
    Order,
    PowderFoundationAs,
    PowderSculptAt,
    Preset,
    Role,
    School,
    SettingPolicy,
    ShadeEdge,
    SpotAt,
    Texture,
    Viewing,
    Zone,
)

Lab = tuple[float, float, float]
"""CIE L*a*b*, illuminant D65, 2° observer."""


@dataclass(frozen=True, slots=True)
class ZoneSkin:
    """What was read on one zone: severities 0 to 3 by condition, and its colour where it was measured."""

    conditions: Mapping[Condition, int] = field(default_factory=dict)
    lab: Lab | None = None


@dataclass(frozen=True, slots=True)
class Measures:
    """Shape measures in mm, and forehead height in the sitter's own finger-widths. Any may be unknown.

    ``nose_leans`` is the sitter's own side that a crooked bridge stands out to.
    """

    face_length_mm: float | None = None
    cheekbone_width_mm: float | None = None
    jaw_width_mm: float | None = None
    forehead_width_mm: float | None = None
    nose_length_mm: float | None = None
    forehead_fingers: float | None = None
    nose_leans: Leaning | None = None
    outer_eye_down: bool = False


@dataclass(frozen=True, slots=True)
class Sitter:
    """The person whose face it is: a nickname, colour of face and neck, and zones as read.

    ``consent_on`` is the day on which the sitter agreed to this record. ``moved`` holds placement strokes that were
    moved by hand, by stroke id, as mm to the viewer's right and down (see ``core.face.strokes``).
    """

    nickname: str
    skin: Lab
    neck: Lab | None = None
    chest: Lab | None = None
    preset: Preset = "normal"
    zones: Mapping[Zone, ZoneSkin] = field(default_factory=dict)
    measures: Measures = field(default_factory=Measures)
    avoid: tuple[str, ...] = ()
    about: str = ""
    consent_on: date | None = None
    moved: Mapping[str, tuple[float, float]] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class Climate:
    """The day it is worn on: air temperature in °C and relative humidity in percent."""

    temperature_c: float = 22.0
    humidity_percent: float = 50.0


@dataclass(frozen=True, slots=True)
class Options:
    """Ways of working inside a school. Each is disputed, and each has its reason: see ``core.plan.options``."""

    corrector: CorrectorAt = "before_sculpt"
    spot: SpotAt = "after_foundation"
    second_pass: bool = False
    bronzer: BronzerAt = "none"
    shade_edge: ShadeEdge = "faded"
    border_pass: bool = False
    glow: GlowAt = "school"
    melting_mist: MeltAt = "school"
    laid_from: LaidFrom = "hand"
    powder_sculpt: PowderSculptAt = "after_setting"
    powder_foundation: PowderFoundationAs = "none"
    evenness: Evenness = "let_stand"
    brows: FeatureAt = "helps"
    eyes: FeatureAt = "helps"


@dataclass(frozen=True, slots=True)
class Intent:
    """What is wanted: school (None: recommend one), cover, finish, hours, lights, setting and options.

    ``day`` is the day it is done on, by which products are judged too old; nothing is judged without it.
    """

    school: School | None = None
    cover: CoverClass = "medium"
    finish: Finish = "satin"
    wear_hours: float = 8.0
    lights: tuple[Light, ...] = ("daylight",)
    setting: SettingPolicy = "spot"
    order: Order = "light_first"
    blend: Blend = "one_at_a_time"
    features: tuple[Feature, ...] = ()
    climate: Climate = field(default_factory=Climate)
    viewing: Viewing = "in_person"
    options: Options = field(default_factory=Options)
    day: date | None = None

    @property
    def cover_ratio(self) -> float:
        """The wanted cover as a contrast ratio."""
        return COVER_CLASSES[self.cover]


@dataclass(frozen=True, slots=True)
class Product:
    """One item of the kit. ``lab`` is its masstone, ``cover`` its contrast ratio at the standard film.

    Care products (cleanser to primer, mists) may leave both out: they add no colour.
    ``suits`` names the conditions a primer or care product is meant for; ``contains`` what avoid lists are held
    against; ``dose_ml`` is one pump or drop; ``half_hour`` how its colour shifts within half
    an hour of wear (ΔL*, Δa*, Δb*), for foundations that darken. ``ingredients`` is the list on the pack, read for
    avoid lists as ``contains`` is; ``opened_on`` and ``keeps_months`` say how long it may be used once opened; ``left`` is what is left of its content,
    0 to 1, where that is kept count of.
    """

    id: str
    role: Role
    name: str
    texture: Texture
    base: Base
    finish: Finish = "satin"
    lab: Lab | None = None
    cover: float | None = None
    ml: float | None = None
    g: float | None = None
    price: float | None = None
    dose_ml: float | None = None
    suits: tuple[Condition, ...] = ()
    contains: tuple[str, ...] = ()
    half_hour: Lab | None = None
    ingredients: tuple[str, ...] = ()
    opened_on: date | None = None
    keeps_months: int | None = None
    left: float | None = None

    @property
    def dry(self) -> bool:
        """Whether it is a powder."""
        return self.texture in DRY_TEXTURES

    @property
    def tinted(self) -> bool:
        """Whether it changes the colour of what lies beneath."""
        return self.lab is not None and self.cover is not None

    @property
    def shimmers(self) -> bool:
        """Whether it sparkles, which shows up any texture."""
        return self.finish in ("shimmer", "glitter")


@dataclass(frozen=True, slots=True)
class Case:
    """Sitter, intent and kit. An empty kit means the planner uses a generic one and says so."""

    sitter: Sitter
    intent: Intent = field(default_factory=Intent)
    kit: tuple[Product, ...] = ()

    def product(self, product_id: str) -> Product | None:
        """The kit item with this id, or None."""
        for item in self.kit:
            if item.id == product_id:
                return item
        return None
