"""Named mistakes: what students are known to do, done to a plan, with what it would look like and what the rule book says of it."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass

from nabrel.core.ask.trial import Trial, try_edits
from nabrel.core.case.product import Product
from nabrel.core.errors import Refused, Told
from nabrel.core.house import House
from nabrel.core.judge.evaluate import Evaluation
from nabrel.core.plan.edits import Edit, Move, Remove, SetAmount, SetHand, SetProduct, SetWait, SetZones
from nabrel.core.plan.step import Step
from nabrel.core.shelf.ladder import rungs
from nabrel.core.terms.ids import Role, StepKind, Zone
from nabrel.core.terms.steps import LAYER_KINDS
from nabrel.core.terms.table import table
from nabrel.core.terms.zones import SKIN_ZONES, both, in_order

Making = Callable[[Evaluation], Iterable[Edit]]
WORTH_SHOWING = 0.5
"""ΔE00 on the zone that moves most: less is not seen, and is shown only where the rule book speaks of it."""


@dataclass(frozen=True, slots=True)
class Mistake:
    """One mistake: what is done, what comes of it in the trade's words, and the edits that do it to a plan."""

    id: str
    words: str
    comes_of_it: str
    makes: Making


@dataclass(frozen=True, slots=True)
class Made:
    """A mistake made in a plan: its edits, and what they would do."""

    mistake: Mistake
    edits: tuple[Edit, ...]
    trial: Trial

    @property
    def shows(self) -> bool:
        """Whether it is seen, or the rule book speaks of it."""
        return self.trial.look_de >= WORTH_SHOWING or bool(self.trial.come)


def mistake_of(mistake_id: str) -> Mistake:
    """A mistake by its id. Refuses an unknown one."""
    found = MISTAKES.get(mistake_id)
    if found is None:
        raise Refused("mistake", mistake_id, "one of " + ", ".join(MISTAKES))
    return found


def made(now: Evaluation, mistake: Mistake, house: House) -> Made | None:
    """A mistake tried on an evaluated plan; None where this plan has nothing that it could be made with."""
    edits = tuple(mistake.makes(now))
    if not edits:
        return None
    try:
        return Made(mistake, edits, try_edits(now, edits, house))
    except Told:
        return None


def all_made(now: Evaluation, house: House) -> tuple[Made, ...]:
    """Every mistake that shows on this plan, in the order of the work."""
    tried = (made(now, mistake, house) for mistake in MISTAKES.values())
    return tuple(each for each in tried if each is not None and each.shows)


def _steps(now: Evaluation, *kinds: StepKind) -> list[Step]:
    return [step for step in now.sequence.steps if step.kind in kinds]


def _thick(now: Evaluation, kinds: tuple[StepKind, ...], rung: int) -> Iterable[Edit]:
    """The films of these kinds laid as thick as a rung of the ladder."""
    most = rungs("um", now.house)[rung].amount
    for step in _steps(now, *kinds):
        for place, portion in enumerate(step.portions):
            if step.unit == "um" and portion.amount is not None and portion.amount < most and not portion.left_over:
                yield SetAmount(step.id, most, place)


def _also(now: Evaluation, kind: StepKind, zones: Iterable[Zone]) -> Iterable[Edit]:
    """The first step of a kind carried on to other zones, where work is allowed."""
    wanted = now.reading.workable(zones)
    for step in _steps(now, kind)[:1]:
        more = in_order((*step.zones, *wanted))
        if more != step.zones:
            yield SetZones(step.id, more)


def _by(now: Evaluation, kind: StepKind, roles: tuple[Role, ...], *, darkest: bool) -> Iterable[Edit]:
    """The steps of a kind with the darkest, or palest, item that is sold for it."""
    for step in _steps(now, kind):
        own = now.products.get(step.item or "")
        if own is None or own.lab is None:
            continue
        others = [item for item in now.products.values() if item.role in roles and item.lab and item.dry == own.dry]
        other = (min if darkest else max)(others, key=lambda item: (_lightness(item), item.id), default=own)
        if (_lightness(other) < _lightness(own)) == darkest and other.id != own.id:
            yield SetProduct(step.id, other.id)


def _lightness(item: Product) -> float:
    return item.lab[0] if item.lab is not None else 0.0


def _hands(now: Evaluation, kinds: tuple[StepKind, ...], tool: str | None, motion: str | None) -> Iterable[Edit]:
    for step in _steps(now, *kinds):
        for place, portion in enumerate(step.portions):
            if portion.amount is not None and (portion.tool, portion.motion) != (tool, motion):
                yield SetHand(step.id, tool, motion, portion=place)  # type: ignore[arg-type]


def _one_sponge(now: Evaluation) -> Iterable[Edit]:
    light, shade = _steps(now, "light"), _steps(now, "shade")
    if light and shade and light[0].unit == shade[0].unit == "um":
        yield from _hands(now, ("light", "shade"), "damp_sponge", "press")


def _under_foundation(now: Evaluation) -> bool:
    kinds = [step.kind for step in now.sequence.steps]
    return "foundation" in kinds and any(kind in kinds[: kinds.index("foundation")] for kind in ("light", "shade"))


def _dry_sponge(now: Evaluation) -> Iterable[Edit]:
    for step in now.sequence.steps:
        for place, portion in enumerate(step.portions):
            if portion.tool == "damp_sponge" and portion.amount is not None and step.unit == "um":
                yield SetHand(step.id, "dry_sponge", portion.motion, portion=place)


def _powder_everywhere(now: Evaluation) -> Iterable[Edit]:
    full = rungs("mg_cm2", now.house)[-2].amount
    for step in _steps(now, "set")[:1]:
        zones = now.reading.workable(zone for zone in SKIN_ZONES if zone != "lips")
        yield SetZones(step.id, zones)
        yield SetAmount(step.id, full)


def _powder_too_early(now: Evaluation) -> Iterable[Edit]:
    """The first powder goes before the last cream that lies on the same skin."""
    steps = now.sequence.steps
    for powder in _steps(now, "set")[:1]:
        before = steps[: steps.index(powder)]
        wet = [s for s in before if s.kind in LAYER_KINDS and s.unit == "um" and set(s.zones) & set(powder.zones)]
        if len(wet) > 1:
            yield Move(powder.id, wet[-1].id)


def _face_powder(now: Evaluation) -> Iterable[Edit]:
    lit = {zone for step in _steps(now, "light") for zone in step.zones}
    for step in _steps(now, "set"):
        own = now.products.get(step.item or "")
        if own is None or own.lab is None or not lit & set(step.zones):
            continue
        others = [item for item in now.products.values() if item.role == "setting_powder" and item.lab is not None]
        deeper = [item for item in others if _lightness(item) < _lightness(own)]
        if deeper:
            yield SetProduct(step.id, max(deeper, key=lambda item: (_lightness(item), item.id)).id)


def _neck_forgotten(now: Evaluation) -> Iterable[Edit]:
    forgotten = {"neck", "under_jaw", *both("ear", "jaw"), "hairline"}
    for step in _steps(now, "foundation"):
        left = tuple(zone for zone in step.zones if zone not in forgotten)
        if left and left != step.zones:
            yield SetZones(step.id, left)


def _no_waits(now: Evaluation) -> Iterable[Edit]:
    for step in _steps(now, "moisturise", "prime", "foundation", "eye_care"):
        if step.wait_s:
            yield SetWait(step.id, 0.0, step.wait_at_most_s)


def _over_creases(now: Evaluation) -> Iterable[Edit]:
    yield from (Remove(step.id) for step in _steps(now, "crease_check"))


def _glow_on_texture(now: Evaluation) -> Iterable[Edit]:
    rough = now.reading.where("raised_texture", "enlarged_pores", "active_blemish", "fine_lines", "pitted_scar")
    yield from _also(now, "glow", [*rough, *both("cheek_apple")])


MISTAKES: Mapping[str, Mistake] = table(
    (
        Mistake("no_waits", "No waits", "Layers go on before the last one settled: they slide and separate.", _no_waits),
        Mistake(
            "corrector_too_thick", "Corrector too thick", "Its own hue peeks through the base.",
            lambda now: _thick(now, ("correct",), -1),
        ),
        Mistake(
            "whole_under_eye", "The whole under-eye corrected",
            "Skin that needed nothing is tinted, and every layer above must be thicker.",
            lambda now: _also(now, "correct", both("under_eye", "inner_corner", "eyelid")),
        ),
        Mistake(
            "shade_to_the_mouth", "Shade carried to the mouth", "A line toward the mouth pulls the face down.",
            lambda now: _also(now, "shade", both("smile_line", "cheek_apple")),
        ),
        Mistake(
            "shade_too_deep", "Shade too deep", "It reads as a stripe, and asks for ten times the blending.",
            lambda now: _by(now, "shade", ("shade", "bronzer"), darkest=True),
        ),
        Mistake(
            "shade_on_the_jowl", "Shade along the jowl", "Darkness there makes it look lower.",
            lambda now: _also(now, "shade", now.reading.where("jowl")),
        ),
        Mistake(
            "one_sponge", "One sponge for dark and light", "Values mix into grey.", _one_sponge,
        ),
        Mistake(
            "full_cover_over_it", "Full cover over underpainting", "The sculpting disappears under it.",
            lambda now: _thick(now, ("foundation",), -1) if _under_foundation(now) else (),
        ),
        Mistake(
            "too_much", "Too much of everything", "Too many opaque films: it looks heavy, and creases sooner.",
            lambda now: _thick(now, ("foundation", "conceal", "light", "shade"), -1),
        ),
        Mistake(
            "swiped", "Swiped instead of pressed", "A drag lifts what lies beneath, and shows every texture.",
            lambda now: _hands(now, ("foundation", "conceal", "light"), "buffing_brush", "drag"),
        ),
        Mistake("dry_sponge", "A dry sponge", "It drinks product and drags on what lies beneath.", _dry_sponge),
        Mistake("neck_forgotten", "The neck forgotten", "Face and neck do not match: a mask line.", _neck_forgotten),
        Mistake(
            "pale_on_a_spot", "Pale concealer on a spot", "It advertises what it should hide.",
            lambda now: _by(now, "spot_conceal", ("concealer", "light"), darkest=False),
        ),
        Mistake("over_creases", "Powder over creases", "What was not smoothed is set as a crease.", _over_creases),
        Mistake(
            "powder_too_early", "Powdered before the last cream", "The cream drags and patches on the powder.", _powder_too_early,
        ),
        Mistake("powder_everywhere", "Powder everywhere", "Dry skin and lines look dusty; nothing needed it there.",
                _powder_everywhere),
        Mistake("face_powder", "A face-coloured powder over the lift", "It darkens the lift again.", _face_powder),
        Mistake("glow_on_texture", "Glow on texture", "Shine on raised skin shows every bump.", _glow_on_texture),
    )
)  # fmt: skip
