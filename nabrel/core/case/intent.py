"""What is wanted of a base, and by which of the disputed ways of working."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import date
from typing import Annotated

from annotated_types import Ge, Gt, Le, MaxLen, MinLen

from nabrel.core.case.options import OptionInfo, option, options_of
from nabrel.core.terms.asked import ColourEffect, Effect, EffectRegion, FoundationOn, GlowPoint
from nabrel.core.terms.ids import (
    BlendOption,
    BronzerOption,
    BrowsOption,
    CorrectorOption,
    CoverClass,
    EvennessOption,
    EyesOption,
    Feature,
    Finish,
    GlowOption,
    LaidFromOption,
    Light,
    MeltingMistOption,
    OrderOption,
    PowderFoundationOption,
    PowderSculptOption,
    School,
    SettingPolicy,
    ShadeEdgeOption,
    SpotOption,
    StepKind,
    Viewing,
    Zone,
)
from nabrel.core.terms.limits import LIMITS, MOST_HOURS
from nabrel.core.terms.products import COVER_INFO


@dataclass(frozen=True, slots=True)
class Climate:
    """The day it is worn on: air temperature in °C and relative humidity in percent."""

    temperature_c: Annotated[float, Ge(LIMITS.temperature_c.low), Le(LIMITS.temperature_c.high)] = 22.0
    humidity_percent: Annotated[float, Ge(LIMITS.humidity_percent.low), Le(LIMITS.humidity_percent.high)] = 50.0


@dataclass(frozen=True, slots=True)
class Options:
    """Ways of working inside a school. Each is disputed, and each has its reason."""

    corrector: CorrectorOption = option(
        "Corrector",
        {
            "before_sculpt": ("Before light and shade", "A hue cancelled first lets every layer above be thinner."),
            "after_sculpt": ("After shade", "The sculpting shows how much darkness may stay as form."),
            "after_foundation": ("After foundation", "Only what the foundation left is corrected."),
        },
    )
    spot: SpotOption = option(
        "Marks and spots",
        {
            "after_foundation": ("After foundation", "Only what still shows gets concealer."),
            "before_foundation": ("Before foundation", "An even canvas lets the foundation be thin everywhere."),
        },
    )
    second_pass: bool = option(
        "Second targeted pass",
        {
            False: ("One pass", "What is even enough after one thin press needs no more."),
            True: ("Look, then a second pass", "Two thin passes beat one thick, only where still needed."),
        },
    )
    bronzer: BronzerOption = option(
        "Bronzer",
        {
            "none": ("None", "Warmth was not asked for."),
            "bridge": ("As a bridging tone", "A tone between skin and shade makes the step gentle."),
            "last": ("Last", "Warmth where the sun would reach brings life back at the end."),
        },
    )
    shade_edge: ShadeEdgeOption = option(
        "Edge of the shade",
        {
            "faded": ("Faded to nothing", "A believable shadow has no lower edge."),
            "crisp": ("Crisp, with a cleaning line", "A clean line below the shade sharpens the form for camera."),
        },
    )
    border_pass: bool = option(
        "Border pass",
        {
            False: ("None", "Every pass over a border adds or lifts film."),
            True: ("The dark tool once more", "Where light meets shade, one more pass marries the two."),
        },
    )
    glow: GlowOption = option(
        "Glow",
        {
            "school": ("Where the school puts it", "Each school has its place for it."),
            "under": ("Under the foundation", "It looks like the skin's own."),
            "mixed": ("Mixed into the foundation", "An all-over sheen, for smooth dry skin only."),
            "after_colour": ("After colour", "It joins the colour while both are still wet."),
            "last": ("Last", "It stays clearest when nothing goes over it."),
            "none": ("None", "Shine was not asked for."),
        },
    )
    melting_mist: MeltingMistOption = option(
        "Melting mist",
        {
            "school": ("Where powder asks for it", "Powder on dry or lined skin looks dusty until it melts in."),
            "before_glow": ("Before glow", "The glow grips damp powder."),
            "between_powders": ("Between powders", "Each powder joins the skin before the next."),
            "last": ("Last", "One mist joins everything."),
            "none": ("None", "On oily skin a mist wakes the shine."),
        },
    )
    laid_from: LaidFromOption = option(
        "Laid on",
        {
            "hand": ("From the hand", "Less is taken, and it is spread before it touches the face."),
            "face": ("Dotted on the face", "Quick; but dots must be spread at once."),
        },
    )
    powder_sculpt: PowderSculptOption = option(
        "Powder sculpting",
        {
            "after_setting": ("After setting", "Powder glides over a set film."),
            "before_setting": ("Before setting", "A veil over it softens every edge; needs a light hand."),
        },
    )
    powder_foundation: PowderFoundationOption = option(
        "Powder foundation",
        {
            "none": ("None", "More powder than needed dulls skin."),
            "veil": ("As a veil over everything", "Brings the skin's value back after sculpting."),
            "set": ("As the setting powder", "Sets and covers a little in one."),
        },
    )
    evenness: EvennessOption = option(
        "How much skin shows",
        {
            "let_stand": ("Freckles and flush may stand", "Only marks are covered; skin looks like skin."),
            "even_out": ("Even everything first", "Powder sculpting shows every unevenness beneath it."),
        },
    )
    brows: BrowsOption = option(
        "Brows",
        {
            "helps": ("Where it helps", "Before the colour, which a resting hand would smudge."),
            "before_base": ("Before the base", "They frame every later decision."),
            "in_wait": ("In a wait", "No minute is lost."),
            "after_setting": ("After setting", "Nothing wet is smudged by the resting hand."),
            "last": ("Last", "Over a finished base they stay crisp."),
        },
    )
    eyes: EyesOption = option(
        "Eyes",
        {
            "helps": ("Where it helps", "Dark eyes go before the base; else in a wait."),
            "before_base": ("Before the base", "Fallout of dark shadow falls on skin that is still bare."),
            "in_wait": ("In a wait", "No minute is lost."),
            "after_setting": ("After setting", "Fallout sweeps off a powdered under-eye."),
            "last": ("Last", "The base frames them."),
        },
    )


@dataclass(frozen=True, slots=True)
class Intent:
    """What is wanted: school (None: recommend one), cover, finish, hours, lights, setting and options.

    ``day`` is the day it is done on, by which products are judged too old; nothing is judged without it. ``effects`` are
    asked for by region, ``foundation_on`` and ``colour_effect`` where None as the school and the face have it, ``glow_points``
    where the glow goes where not to the usual planes; ``already_done`` are kinds of step that are done when the base begins,
    ``correct_anyway`` zones that get a corrector even where none is earned, ``bake_zones`` zones to bake.
    """

    school: School | None = None
    cover: CoverClass = "medium"
    finish: Finish = "satin"
    wear_hours: Annotated[float, Gt(0), Le(MOST_HOURS)] = 8.0
    lights: Annotated[tuple[Light, ...], MinLen(1), MaxLen(6)] = ("daylight",)
    setting: SettingPolicy = "spot"
    order: OrderOption = option(
        "Light or shade first",
        {
            "light_first": ("Light first", "Pale shades are blended while the tools are still clean of dark."),
            "shade_first": ("Shade first", "Structure first; its edge is then cleaned up with light."),
        },
    )
    blend: BlendOption = option(
        "Place and blend",
        {
            "one_at_a_time": ("One at a time", "Creams dry, and late blending needs force."),
            "place_all": ("Place all, then blend", "The whole map is seen first; only with slow creams."),
        },
    )

    features: Annotated[tuple[Feature, ...], MaxLen(4)] = ()
    climate: Climate = field(default_factory=Climate)
    viewing: Viewing = "in_person"
    options: Options = field(default_factory=Options)
    day: date | None = None
    effects: Mapping[EffectRegion, Annotated[tuple[Effect, ...], MaxLen(4)]] = field(default_factory=dict)
    colour_effect: ColourEffect | None = None
    foundation_on: FoundationOn | None = None
    glow_points: Annotated[tuple[GlowPoint, ...], MaxLen(8)] = ()
    already_done: Annotated[tuple[StepKind, ...], MaxLen(30)] = ()
    correct_anyway: Annotated[tuple[Zone, ...], MaxLen(40)] = ()
    bake_zones: Annotated[tuple[Zone, ...], MaxLen(40)] = ()

    @property
    def cover_ratio(self) -> float:
        """The wanted cover as a contrast ratio."""
        return COVER_INFO[self.cover].ratio


OPTIONS: tuple[OptionInfo, ...] = (*options_of(Intent), *options_of(Options))
"""Every disputed way of working, in the order of work."""
