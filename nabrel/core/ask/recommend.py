"""Which base suits: schools or other candidates on one face, weighed by its skin and wishes, ranked with the reasons."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Sequence
from dataclasses import dataclass, replace

from nabrel.core.ask.accepting import OILY, with_reasons
from nabrel.core.case.case import Case
from nabrel.core.face.reading import Reading, read
from nabrel.core.house import House
from nabrel.core.house.factors import learnt_from
from nabrel.core.house.tables import SCHOOL_WEIGHTS
from nabrel.core.house.viewing import seen
from nabrel.core.judge.evaluate import Evaluation, evaluate
from nabrel.core.judge.figures import deepest_crease, mean_film, visible
from nabrel.core.judge.misses import mean_miss
from nabrel.core.plan.sequence import Sequence as Planned
from nabrel.core.planner.planner import SCHOOLS, draft_in, painted_beneath
from nabrel.core.terms.ids import School, Zone
from nabrel.core.terms.looks import SCHOOL_INFO
from nabrel.core.terms.places import places
from nabrel.core.terms.words import join_words

TOLD_REASONS = 3
"""How many reasons each way are told; the rest decide little."""
WORTH_TELLING = 0.15
"""A smaller weight than this is no reason."""
ALL_OILY, ALL_DRY, ALL_LINED = 12, 10, 4
"""Zones from which oil, dryness, and lines or rough texture weigh in full: about half a face, and the folds about both eyes."""
LONG_WEAR_H = 10
"""From so many hours on a base is chosen for its wear."""
LEFT_OUT = 0.3
"""Share of the weight of sculpting against a school that leaves the shade out."""
FAR_OFF, AS_WANTED = 0.3, 0.1
"""Shares of the wanted shade: missed by more speaks against, by less for."""
MET = 0.1
"""Share of the weight of sculpting for a shade that shows as wanted: that much is expected of any base."""
NEAR_CAKE = 0.8
"""Share of what a zone can bear from which the load speaks against; at 1 it weighs in full."""
WORTH_HOURS = 0.2
"""Hours of shine that nobody would notice."""
MINUTES_EACH = 10
"""Minutes more than the quickest that weigh in full."""


@dataclass(frozen=True, slots=True)
class Reason:
    """One reason for or against a base here: its weight (against is positive) and the sentence."""

    weight: float
    says: str


@dataclass(frozen=True, slots=True)
class Ranked:
    """A base for this face by its place among those ranked, and the reasons for and against it, heaviest first."""

    place: int
    evaluation: Evaluation
    speaks_for: tuple[str, ...]
    speaks_against: tuple[str, ...]
    weight: float

    @property
    def school(self) -> School:
        """The school it is planned in."""
        return self.evaluation.sequence.school

    @property
    def says(self) -> str:
        """The deciding reasons in a sentence."""
        good, bad = "; ".join(self.speaks_for), "; ".join(self.speaks_against)
        if good and bad:
            return f"{good}. Against it: {bad}."
        return f"{good or bad or 'Nothing speaks for or against it in particular'}."


def rank_schools(case: Case, house: House) -> tuple[Ranked, ...]:
    """All six schools planned for a case, the one that suits best first. Equal weights keep the vocabulary's order."""
    reading = read(case, seen(case.intent.viewing, house))
    drafted = (draft_in(school, _in(case, school), house, reading) for school in SCHOOLS)
    return rank([evaluate(each.sequence, house, former=each, try_fixes=False) for each in drafted])


def rank(candidates: Sequence[Evaluation]) -> tuple[Ranked, ...]:
    """Bases on one face, the one that suits best first. Equal weights keep the order in which they were given.

    Reasons that all of them share count, but tell none of them apart, and are not told.
    """
    off = [mean_miss(one) for one in candidates]
    reasons = [_reasons(one, candidates, own, min(off)) for one, own in zip(candidates, off, strict=True)]
    shared = set.intersection(*({each.says for each in own} for own in reasons)) if len(reasons) > 1 else set()
    ranked = [
        _ranked(place, one, own, shared) for place, (one, own) in enumerate(zip(candidates, reasons, strict=True))
    ]
    return tuple(sorted(ranked, key=lambda each: each.weight))


def plan(case: Case, house: House, reading: Reading | None = None) -> Planned:
    """Plan a case in the school it asks for, or in the one that suits best, and say why.

    Advice that the plan goes against on purpose is accepted in it, with the reason. The same case and house always give
    the same sequence.
    """
    if case.intent.school is not None:
        drafted = draft_in(case.intent.school, case, house, reading)
        return with_reasons(drafted.sequence, house, drafted)
    best, *others = rank_schools(case, house)
    told = f"No school was asked for. {SCHOOL_INFO[best.school].words} suits best here: {best.says}"
    rest = "Then " + join_words(SCHOOL_INFO[each.school].words.lower() for each in others) + "."
    sequence = with_reasons(best.evaluation.sequence, house, best.evaluation)
    return replace(sequence, case=case, notes=(told, rest, *sequence.notes))


def _in(case: Case, school: School) -> Case:
    return replace(case, intent=replace(case.intent, school=school))


def _reasons(one: Evaluation, candidates: Sequence[Evaluation], off: float, least_off: float) -> list[Reason]:
    if not _lies(one):
        return [Reason(SCHOOL_WEIGHTS["bare"], "nothing lies on the skin yet")]
    return [
        *_essentials(one),
        *_skin(one, one.reading),
        *_wishes(one, one.house),
        *_figures(one, [each for each in candidates if _lies(each)]),
        *_evenness(off, least_off),
        *_rules(one),
    ]


def _bears_glow(one: Evaluation) -> list[Zone]:
    """The high planes on which a glow of the kit would stay: on oily ones only a powder does."""
    powder = any(item.role == "glow" and item.dry for item in one.products.values())
    return [zone for zone in one.reading.placement.glow.zones if powder or one.reading.zones[zone].oily < OILY]


def _lies(one: Evaluation) -> bool:
    """Whether anything lies on the skin at the end: bare skin is no base to compare with."""
    return bool(one.course.after.film.any() or one.course.after.powder.any())


def _ranked(place: int, one: Evaluation, reasons: Sequence[Reason], shared: Collection[str]) -> Ranked:
    telling = sorted((each for each in reasons if each.says not in shared), key=lambda each: -abs(each.weight))
    good = [each.says for each in telling if each.weight <= -WORTH_TELLING][:TOLD_REASONS]
    bad = [each.says for each in telling if each.weight >= WORTH_TELLING][:TOLD_REASONS]
    return Ranked(place, one, tuple(good), tuple(bad), sum(each.weight for each in reasons))


def _essentials(one: Evaluation) -> Iterator[Reason]:
    """What a school is made of and this plan of it lacks, where the face wants it."""
    sequence, placement = one.sequence, one.reading.placement
    foundations = {part.item for step in sequence.steps if step.kind == "foundation" for part in step.mix}
    creams, pans = (
        {step.kind for step in sequence.steps if step.lays and (step.unit == unit)} for unit in ("um", "mg_cm2")
    )
    shaded = bool(placement.shade.zones)
    lacks = {
        "underpainted": shaded
        and not painted_beneath(sequence.steps)
        and "nothing could be painted beneath its foundation",
        "overpainted": shaded and "shade" not in creams | pans and "no shade to lay over the foundation",
        "two_tone": len(foundations) < 2 and "no second, deeper foundation",
        "light_led": one.sequence.case.intent.finish != "matte"
        and bool(_bears_glow(one))
        and "glow" not in creams | pans
        and "no glow to lead the light",
        "powder_sculpted": shaded and "shade" not in pans and "no shade in powder",
        "doubled": shaded and not {"shade"} <= creams & pans and "no shade in both cream and powder",
    }
    lack = "no foundation" if not foundations else lacks[sequence.school]
    if lack:
        yield Reason(SCHOOL_WEIGHTS["essential"], f"it lacks what it is made of: {lack}")


def _skin(one: Evaluation, reading: Reading) -> Iterator[Reason]:
    """What this school does on the skin that was read."""
    school, weigh = one.sequence.school, SCHOOL_WEIGHTS
    oily = reading.where("oily", least=2)
    lined = reading.where("fine_lines", "creping", least=2)
    rough = reading.where("raised_texture", "flaking", "pitted_scar", least=2)
    dry = reading.where("dry", least=2)
    if oily:
        share = min(1.0, len(oily) / ALL_OILY)
        where = f"oil is clear on {len(oily)} zones"
        if school == "underpainted":
            yield Reason(weigh["oil rises"] * share, f"{where}, and oil rises through what lies beneath a foundation")
        if school == "light_led":
            yield Reason(weigh["oil slides"] * share, f"{where}, where cream glow slides")
        if school == "powder_sculpted":
            yield Reason(-weigh["powder lasts"] * share, f"{where}, and powder lasts there")
    if lined and school in ("powder_sculpted", "doubled"):
        share = min(1.0, len(lined) / ALL_LINED)
        yield Reason(weigh["powder on lines"] * share, f"lines {places(lined[:4])} show powder and second films")
    if lined and school == "underpainted":
        yield Reason(-weigh["least film"], "lined skin is spared a film over its sculpting")
    if rough and school == "powder_sculpted":
        yield Reason(
            weigh["powder on lines"] * min(1.0, len(rough) / ALL_LINED),
            f"a brown powder shows the texture on {len(rough)} zones",
        )
    if dry and school == "powder_sculpted":
        yield Reason(weigh["powder on dry"] * min(1.0, len(dry) / ALL_DRY), f"dry skin on {len(dry)} zones looks dusty")
    if school == "light_led":
        if not reading.placement.glow.zones:
            yield Reason(weigh["no plane"], "no plane of this face bears glow")
        elif reading.depth in ("brown", "dark") and not oily:
            yield Reason(-weigh["deep skin"], "on deep skin shade does little and light does the work")


def _wishes(one: Evaluation, house: House) -> Iterator[Reason]:
    """How far it meets what is wanted: cover, finish, viewing, and the sculpting that shows."""
    intent, school, weigh = one.sequence.case.intent, one.sequence.school, SCHOOL_WEIGHTS
    if school == "underpainted":
        if intent.cover_ratio > house.underpaint_cover_most:
            yield Reason(weigh["hidden"], f"{intent.cover} cover hides what is painted beneath it")
        elif intent.finish in ("dewy", "satin"):
            yield Reason(-weigh["glows through"], f"{intent.cover} cover lets the sculpting glow through")
    if school == "overpainted" and intent.cover_ratio > house.underpaint_cover_most:
        yield Reason(-weigh["glows through"], f"it works with {intent.cover} cover")
    if school == "powder_sculpted" and intent.finish == "matte":
        yield Reason(-weigh["glows through"], "a matte finish was asked for")
    if school == "powder_sculpted" and intent.finish == "dewy":
        yield Reason(weigh["hidden"], "a dewy finish was asked for")
    if school == "light_led" and intent.finish == "matte":
        yield Reason(weigh["hidden"], "a matte finish was asked for, and it lives by shine")
    if school == "doubled":
        if intent.viewing in ("camera", "stage"):
            yield Reason(-weigh["for camera"], f"two films carry for {intent.viewing.replace('_', ' ')}")
        else:
            yield Reason(weigh["heavy in person"], "two films on every sculpted zone show at arm's length")
        if intent.wear_hours >= LONG_WEAR_H:
            yield Reason(-weigh["least film"], f"the longest wear, for {intent.wear_hours:g} hours")
    yield from _sculpting(one, house)


def _sculpting(one: Evaluation, house: House) -> Iterator[Reason]:
    weigh = SCHOOL_WEIGHTS
    if not one.reading.placement.shade.zones or one.sequence.school == "two_tone":
        return
    if one.sequence.school == "light_led":
        yield Reason(weigh["sculpting"] * LEFT_OUT, "it leaves the shade out")
        return
    shows, wanted = visible(one, "shade"), house.wanted_shade_drop
    missed = min(1.0, abs(shows - wanted) / wanted)
    if missed > FAR_OFF:
        yield Reason(weigh["sculpting"] * missed, f"the shade shows {shows:.1f} L* of the {wanted:.1f} wanted")
    elif missed < AS_WANTED:
        yield Reason(-weigh["sculpting"] * MET, f"the shade shows as wanted, {shows:.1f} L*")


def _figures(one: Evaluation, candidates: Sequence[Evaluation]) -> Iterator[Reason]:
    """Load, crease, shine, minutes and cost, beside the others."""
    weigh, t = SCHOOL_WEIGHTS, one.totals
    if t.worst_cake > NEAR_CAKE:
        yield Reason(weigh["load"] * (t.worst_cake - NEAR_CAKE) / (1.0 - NEAR_CAKE), f"{100 * t.worst_cake:.0f} % of what "
                     f"can lie {places([t.worst_cake_zone])}")  # fmt: skip
    film, least = mean_film(one), min(mean_film(e) for e in candidates)
    yield Reason(weigh["film"] * (film - least) / max(least, 1.0), f"{film:.1f} µm a zone, {least:.1f} in the thinnest")
    if film == least < max(mean_film(e) for e in candidates):
        yield Reason(-weigh["least film"], f"the least film, {film:.1f} µm a zone")
    crease, low = deepest_crease(one), min(deepest_crease(e) for e in candidates)
    yield Reason(weigh["crease"] * (crease - low), f"it creases more, index {crease:.2f} against {low:.2f}")
    wanted = one.sequence.case.intent.wear_hours
    shine, longest = t.least_shine_hours, max(e.totals.least_shine_hours for e in candidates)
    if shine < wanted and shine < longest - WORTH_HOURS:
        yield Reason(
            weigh["shine"] * (longest - shine) / wanted,
            f"it shines after {shine:.1f} h, the best after {longest:.1f}"
            + (f" ({learnt_from(t.shine_looks)})" if t.shine_looks else ""),
        )
    fewest = min(e.totals.minutes for e in candidates)
    yield Reason(
        weigh["minutes"] * (t.minutes - fewest) / MINUTES_EACH, f"{t.minutes:.0f} min, {fewest:.0f} in the quickest"
    )
    costs = [e.totals.cost for e in candidates if e.totals.cost]
    if t.cost and costs:
        yield Reason(
            weigh["cost"] * (t.cost / min(costs) - 1), f"a face costs {t.cost:.2f}, {min(costs):.2f} in the cheapest"
        )


def _evenness(off: float, best: float) -> Iterator[Reason]:
    """How far the base ends from its aim, ΔE00, beside the one that ends nearest."""
    yield Reason(
        SCHOOL_WEIGHTS["evenness"] * (off - best),
        f"the base ends ΔE00 {off:.1f} off its aim, {best:.1f} in the nearest",
    )


def _rules(one: Evaluation) -> Iterator[Reason]:
    grave = [f for f in one.findings if f.severity != "advice"]
    if grave:
        yield Reason(SCHOOL_WEIGHTS["finding"] * len(grave), grave[0].says[:1].lower() + grave[0].says[1:].rstrip("."))
