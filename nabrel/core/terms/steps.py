"""Kinds of step: one row holds all that is said of a kind. A new kind is a new row, and its use."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

from nabrel.core.terms.ids import Feature, Role, StepKind
from nabrel.core.terms.table import Term, table

Nature = Literal["care", "prime", "layer", "powder", "mist", "work", "check", "feature"]
"""What a step does to the base: care sinks in, a layer lies as film or powder with its colour, work and checks lay nothing."""
Chapter = Literal["skin", "correct", "sculpt", "foundation", "finish"]


@dataclass(frozen=True, slots=True)
class StepInfo(Term):
    """One kind of step.

    ``chapter`` is where the order of work lists it, ``group`` what it is for, in the palette of steps. ``roles`` may
    serve it, the usual one first; without roles it needs no product. ``usual_film`` and ``usual_powder`` name the house
    parameters of its usual amount, ``dose`` what the house gives of care and mists, ``settles`` the wait it wants. ``purpose`` says why its zones differ from the complexion on
    purpose, ``tints`` that they do, as sculpting or while something still covers them; ``sculpts``, that it shapes;
    ``fades``, that its colour fades as it is worn; ``dotted``, that it may be dotted on the face; ``needs``, the sentence where
    nothing lies there yet that it could work on ("{there}" is the place); ``noun`` what it lays, where its words are a verb;
    ``in_part`` how it lies where only part of a zone is covered.
    """

    id: StepKind
    nature: Nature
    chapter: Chapter
    group: str
    roles: tuple[Role, ...] = ()
    usual_film: str = ""
    usual_powder: str = "powder_colour_mg"
    dose: str = ""
    settles: str = ""
    purpose: str = ""
    tints: bool = False
    sculpts: bool = False
    fades: bool = False
    dotted: bool = False
    over_all: bool = False
    needs: str = ""
    noun: str = ""
    in_part: str = "in part"

    @property
    def laid(self) -> str:
        """What it lays, as a noun in the middle of a sentence: "concealer"."""
        return self.noun or self.words.lower()


_SKIN, _EVEN, _SHAPE = "Skin first", "Even", "Shape and colour"
_SET, _JOIN, _LOOK, _FEATURES = "Set", "Join and finish", "Look", "Features"

STEP_INFO: Mapping[StepKind, StepInfo] = table(
    (
        StepInfo("cleanse", "Cleanse", "care", "skin", _SKIN, ("cleanser",), dose="cleanser_dose_um", over_all=True, noun="cleansing"),
        StepInfo(
            "moisturise", "Moisturise", "care", "skin", _SKIN, ("moisturiser",), noun="moisturiser",
            dose="moisturiser_dose_um", settles="moisturiser_wait_s", over_all=True,
        ),
        StepInfo("eye_care", "Eye cream", "care", "skin", _SKIN, ("eye_care",), dose="eye_care_dose_um"),
        StepInfo("sunscreen", "Sunscreen", "care", "skin", _SKIN, ("sunscreen",), dose="sunscreen_dose_um", over_all=True),
        StepInfo(
            "prime", "Prime", "prime", "skin", _SKIN, ("primer",), noun="primer",
            usual_film="primer_film_um", settles="primer_wait_s",
        ),
        StepInfo(
            "correct", "Correct", "layer", "correct", _EVEN, ("corrector",),
            usual_film="corrector_film_um", tints=True, noun="corrector",
        ),
        StepInfo(
            "conceal", "Conceal", "layer", "correct", _EVEN, ("concealer",),
            usual_film="late_conceal_um", tints=True, noun="concealer",
        ),
        StepInfo(
            "light", "Light", "layer", "sculpt", _SHAPE, ("light", "concealer"),
            usual_film="light_film_um", tints=True, sculpts=True, fades=True, dotted=True,
        ),
        StepInfo(
            "shade", "Shade", "layer", "sculpt", _SHAPE, ("shade", "bronzer"),
            usual_film="shade_film_um", tints=True, sculpts=True, fades=True, dotted=True,
        ),
        StepInfo(
            "bronze", "Bronze", "layer", "sculpt", _SHAPE, ("bronzer",), noun="bronzer", usual_film="colour_film_um",
            purpose="is warmer on purpose", tints=True, sculpts=True, fades=True,
        ),
        StepInfo(
            "glow", "Glow", "layer", "finish", _SHAPE, ("glow",), usual_film="glow_film_um",
            purpose="glows on purpose", tints=True, sculpts=True, fades=True, in_part="in a small touch",
        ),
        StepInfo(
            "foundation", "Foundation", "layer", "foundation", _EVEN, ("foundation",),
            usual_film="late_foundation_um", settles="foundation_wait_s", dotted=True,
        ),
        StepInfo(
            "colour", "Colour", "layer", "finish", _SHAPE, ("colour",), usual_film="colour_film_um",
            purpose="carries colour on purpose", tints=True, fades=True, dotted=True,
        ),
        StepInfo(
            "spot_conceal", "Spot conceal", "layer", "foundation", _EVEN, ("concealer",), usual_film="late_conceal_um",
            noun="concealer on the marks", in_part="on the marks",
        ),
        StepInfo(
            "soften_edges", "Soften edges", "work", "finish", _JOIN, noun="softening of the edges",
            needs="nothing lies {there} yet whose edge could be softened",
        ),
        StepInfo(
            "crease_check", "Crease check", "check", "finish", _SET,
            needs="nothing lies {there} yet that could crease",
        ),
        StepInfo(
            "set", "Set", "powder", "finish", _SET, ("setting_powder", "powder_foundation"),
            usual_powder="press_mg", noun="setting powder",
        ),
        StepInfo("bake", "Bake", "powder", "finish", _SET, ("setting_powder",), usual_powder="bake_mg", settles="bake_s"),
        StepInfo("dust_off", "Dust off", "work", "finish", _SET, noun="dusting off"),
        StepInfo(
            "clean_edge", "Clean edge", "layer", "finish", _SHAPE, ("concealer", "light", "setting_powder"),
            usual_film="clean_edge_um", usual_powder="clean_line_mg", in_part="in a line",
        ),
        StepInfo("mute_shine", "Mute shine", "powder", "finish", _SET, ("setting_powder",), usual_powder="press_mg",
                 noun="muting powder"),
        StepInfo(
            "melting_mist", "Melting mist", "mist", "finish", _JOIN, ("melting_mist",),
            dose="mist_dose_um", settles="mist_dry_s", needs="nothing lies {there} yet for the mist to melt",
        ),
        StepInfo(
            "setting_mist", "Setting mist", "mist", "finish", _JOIN, ("setting_mist",),
            dose="mist_dose_um", settles="mist_dry_s", needs="nothing lies {there} yet for the mist to hold",
        ),
        StepInfo("press_back", "Press back", "work", "finish", _JOIN, noun="pressing back", needs="nothing lies {there} yet to press back"),
        StepInfo(
            "edge_check", "Edge check", "check", "finish", _LOOK,
            needs="nothing lies {there} yet whose edge could be checked",
        ),
        StepInfo("light_check", "Light check", "check", "finish", _LOOK, needs="nothing is on the face yet to look at"),
        StepInfo("brows", "Brows", "feature", "finish", _FEATURES),
        StepInfo("eyes", "Eyes", "feature", "finish", _FEATURES),
        StepInfo("lashes", "Lashes", "feature", "finish", _FEATURES),
        StepInfo("lips", "Lips", "feature", "finish", _FEATURES),
    )
)  # fmt: skip
STEP_KINDS: tuple[StepKind, ...] = tuple(STEP_INFO)
FEATURES: tuple[Feature, ...] = tuple(each.id for each in STEP_INFO.values() if each.nature == "feature")  # type: ignore[misc]
GROUPS: tuple[str, ...] = (_SKIN, _EVEN, _SHAPE, _SET, _JOIN, _LOOK, _FEATURES)
"""What steps are for, in the order of the palette."""


def _of(*natures: Nature) -> frozenset[StepKind]:
    return frozenset(each.id for each in STEP_INFO.values() if each.nature in natures)


CARE_KINDS = _of("care")
LAYER_KINDS = _of("layer")
POWDER_KINDS = _of("powder")
MIST_KINDS = _of("mist")
CHECK_KINDS = _of("check")
FEATURE_KINDS = _of("feature")
SCULPT_KINDS: frozenset[StepKind] = frozenset(each.id for each in STEP_INFO.values() if each.sculpts)
FADING_KINDS: frozenset[StepKind] = frozenset(each.id for each in STEP_INFO.values() if each.fades)
TINTING_KINDS: frozenset[StepKind] = frozenset(each.id for each in STEP_INFO.values() if each.tints)


def step_words(kind: StepKind) -> str:
    """A kind of step in the middle of a sentence: "spot conceal"."""
    return STEP_INFO[kind].words.lower()
