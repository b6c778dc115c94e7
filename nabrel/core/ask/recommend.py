"""Which base suits: schools or other candidates on one face, weighed by its skin and wishes, ranked with the reasons."""

from __future__ import annotations

from collections.abc import Callable, Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import date
from math import log

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
from nabrel.core.terms.places import places
from nabrel.core.terms.schools import SCHOOL_INFO, Essential, Met
from nabrel.core.terms.words import join_words

TOLD_REASONS = 3
"""How many reasons each way are told; the rest decide little."""
WORTH_TELLING = 0.1
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
USUAL_FILM_UM = 5.0
"""Mean film of a usual base, µm a zone: so much more weighs in full."""
AS_GOOD = 0.15
"""Bases whose weights differ by less are as good as each other."""
MINUTES_EACH = 10
"""Minutes more than the quickest that weigh in full."""


@dataclass(frozen=True, slots=True)
class RankReason:
    """One reason for or against a base here: its weight (against is positive) and the sentence.

    ``tells`` is how much it tells this base from the others, where that is not its whole weight.
    """

    weight: float
    says: str
    tells: float | None = None

    @property
    def told(self) -> float:
        """How much it says for this base (negative) or against it."""
        return self.weight if self.tells is None else self.tells


@dataclass(frozen=True, slots=True)
class Ranked:
    """A base for this face by its place among those ranked, and the reasons for and against it, heaviest first.

    ``as_good``: it is the best, or nothing that counts tells it from the best.
    """

    place: int
    evaluation: Evaluation
    speaks_for: tuple[str, ...]
    speaks_against: tuple[str, ...]
    weight: float
    as_good: bool = False

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
    bases = [one for one in candidates if _lies(one)]
    weights = {scale: [(weight, one) for one in bases if (weight := scale.weigh(one)) is not None] for scale in _SCALES}
    reasons = [_reasons(one, weights) for one in candidates]
    shared = set.intersection(*({each.says for each in own} for own in reasons)) if len(reasons) > 1 else set()
    ranked = [
        _ranked(place, one, own, shared) for place, (one, own) in enumerate(zip(candidates, reasons, strict=True))
    ]
    ordered = sorted(ranked, key=lambda each: each.weight)
    return tuple(replace(each, as_good=each.weight - ordered[0].weight < AS_GOOD) for each in ordered)


def plan(case: Case, house: House, reading: Reading | None = None) -> Planned:
    """Plan a case in the school it asks for, or in the one that suits best, and say why.

    Advice that the plan goes against on purpose is accepted in it, with the reason. The same case and house always give
    the same sequence.
    """
    if case.intent.school is not None:
        drafted = draft_in(case.intent.school, case, house, reading)
        return with_reasons(drafted.sequence, house, drafted)
    best, *others = rank_schools(case, house)
    equal = [each for each in others if each.as_good]
    beside = f", and {join_words(SCHOOL_INFO[each.school].words.lower() for each in equal)} as well" if equal else ""
    told = f"No school was asked for. {SCHOOL_INFO[best.school].words} suits best here{beside}: {best.says}"
    rest = "Then " + join_words(SCHOOL_INFO[each.school].words.lower() for each in others) + "."
    sequence = with_reasons(best.evaluation.sequence, house, best.evaluation)
    return replace(sequence, case=case, notes=(told, rest, *sequence.notes))


def plan_on(day: date, case: Case, house: House) -> Planned:
    """Plan a case as on a day, where it names none. The plan names none either: it is judged by the day it is looked at."""
    planned = plan(case.on(day), house)
    return replace(planned, case=replace(planned.case, intent=replace(planned.case.intent, day=case.intent.day)))


def _in(case: Case, school: School) -> Case:
    return replace(case, intent=replace(case.intent, school=school))


def _reasons(one: Evaluation, weights: Mapping[_Scale, Sequence[tuple[float, Evaluation]]]) -> list[RankReason]:
    if not _lies(one):
        return [RankReason(SCHOOL_WEIGHTS["bare"], "nothing lies on the skin yet")]
    return [
        *_essentials(one),
        *_leanings(one, one.house),
        *_sculpting(one, one.house),
        *_figures(one, weights),
        *_rules(one),
    ]


def _bears_glow(one: Evaluation) -> list[Zone]:
    """The high planes on which a glow of the kit would stay: on oily ones only a powder does."""
    powder = any(item.role == "glow" and item.dry for item in one.products.values())
    return [zone for zone in one.reading.placement.glow.zones if powder or one.reading.zones[zone].oily < OILY]


def _lies(one: Evaluation) -> bool:
    """Whether anything lies on the skin at the end: bare skin is no base to compare with."""
    return bool(one.course.after.film.any() or one.course.after.powder.any())


def _ranked(place: int, one: Evaluation, reasons: Sequence[RankReason], shared: Collection[str]) -> Ranked:
    telling = sorted((each for each in reasons if each.says not in shared), key=lambda each: -abs(each.told))
    good = [each.says for each in telling if each.told <= -WORTH_TELLING][:TOLD_REASONS]
    bad = [each.says for each in telling if each.told >= WORTH_TELLING][:TOLD_REASONS]
    return Ranked(place, one, tuple(good), tuple(bad), sum(each.weight for each in reasons))


def lacks(one: Evaluation) -> str:
    """What a school is made of and this plan of it lacks, where the face wants it; empty where it has it."""
    sequence, school = one.sequence, SCHOOL_INFO[one.sequence.school]
    foundations = {part.item for step in sequence.steps if step.kind == "foundation" for part in step.mix}
    creams, pans = (
        {step.kind for step in sequence.steps if step.lays and (step.unit == unit)} for unit in ("um", "mg_cm2")
    )
    shaded = bool(one.reading.placement.shade.zones)
    missing: Mapping[Essential, bool] = {
        "painted beneath": shaded and not painted_beneath(sequence.steps),
        "a shade": shaded and "shade" not in creams | pans,
        "two foundations": len(foundations) < 2,
        "a glow": sequence.case.intent.finish != "matte" and bool(_bears_glow(one)) and "glow" not in creams | pans,
        "a powder shade": shaded and "shade" not in pans,
        "both shades": shaded and "shade" not in creams & pans,
    }
    return "no foundation" if not foundations else school.lacking if missing[school.essential] else ""


def _essentials(one: Evaluation) -> Iterator[RankReason]:
    if lack := lacks(one):
        yield RankReason(SCHOOL_WEIGHTS["essential"], f"it lacks what it is made of: {lack}")


@dataclass(frozen=True, slots=True)
class _Meeting:
    """Something that is met: in which share it weighs, and what a sentence may say of it."""

    share: float = 1.0
    said: Mapping[str, object] = field(default_factory=dict)


def _on_zones(zones: Sequence[Zone], all_zones: int) -> _Meeting:
    return _Meeting(min(1.0, len(zones) / all_zones), {"count": len(zones), "places": places(zones[:4])})


def _met(one: Evaluation, house: House) -> dict[Met, _Meeting]:
    """What is met on this skin and in these wishes that may speak for a school or against it."""
    reading, intent = one.reading, one.sequence.case.intent
    found: dict[Met, _Meeting] = {}
    skin: tuple[tuple[Met, Sequence[Zone], int], ...] = (
        ("oily", reading.where("oily", least=2), ALL_OILY),
        ("lined", reading.where("fine_lines", "creping", least=2), ALL_LINED),
        ("rough", reading.where("raised_texture", "flaking", "pitted_scar", least=2), ALL_LINED),
        ("dry", reading.where("dry", least=2), ALL_DRY),
    )
    found.update({name: _on_zones(zones, most) for name, zones, most in skin if zones})
    if not reading.placement.glow.zones:
        found["no glow plane"] = _Meeting()
    elif reading.depth in ("brown", "dark") and "oily" not in found:
        found["light works"] = _Meeting()
    heavy = intent.cover_ratio > house.underpaint_cover_most
    wishes: tuple[tuple[Met, bool], ...] = (
        ("heavy cover", heavy),
        ("lets it glow", not heavy and intent.finish in ("dewy", "satin")),
        ("matte", intent.finish == "matte"),
        ("dewy", intent.finish == "dewy"),
        ("camera", intent.viewing in ("camera", "stage")),
        ("near", intent.viewing not in ("camera", "stage")),
        ("long wear", intent.wear_hours >= LONG_WEAR_H),
    )
    said = {"cover": intent.cover, "viewing": intent.viewing.replace("_", " "), "hours": intent.wear_hours}
    found.update({name: _Meeting(said=said) for name, is_met in wishes if is_met})
    return found


def _leanings(one: Evaluation, house: House) -> Iterator[RankReason]:
    """What speaks for this school and against it on the skin that was read, and for what is wanted."""
    met = _met(one, house)
    for each in SCHOOL_INFO[one.sequence.school].leanings:
        if each.met in met:
            meeting = met[each.met]
            weight = SCHOOL_WEIGHTS[each.weight] * (1.0 if each.whole else meeting.share)
            yield RankReason(-weight if each.speaks_for else weight, each.says.format(**meeting.said))


def _sculpting(one: Evaluation, house: House) -> Iterator[RankReason]:
    weigh = SCHOOL_WEIGHTS
    school = SCHOOL_INFO[one.sequence.school]
    if not one.reading.placement.shade.zones or school.frames:
        return
    if school.leaves_shade_out:
        yield RankReason(weigh["sculpting"] * LEFT_OUT, "it leaves the shade out")
        return
    shows, wanted = visible(one, "shade"), house.wanted_shade_drop
    missed = min(1.0, abs(shows - wanted) / wanted)
    if missed > FAR_OFF:
        yield RankReason(weigh["sculpting"] * missed, f"the shade shows {shows:.1f} L* of the {wanted:.1f} wanted")
    elif missed < AS_WANTED:
        yield RankReason(-weigh["sculpting"] * MET, f"the shade shows as wanted, {shows:.1f} L*")


@dataclass(frozen=True, slots=True)
class _Scale:
    """A figure of bases: what it weighs, by itself (None for a base that has none), and what is said where it is the best of
    them or plainly not.
    """

    weigh: Callable[[Evaluation], float | None]
    best: Callable[[Evaluation], str]
    behind: Callable[[Evaluation, Evaluation], str]


def _shine_weight(one: Evaluation) -> float:
    wanted = one.sequence.case.intent.wear_hours
    return SCHOOL_WEIGHTS["shine"] * (wanted - min(wanted, one.totals.least_shine_hours)) / wanted


def _cost_weight(one: Evaluation) -> float | None:
    """By its logarithm, so that twice as dear weighs the same in any kit."""
    return SCHOOL_WEIGHTS["cost"] * log(one.totals.cost) if one.totals.cost else None


def _learnt(one: Evaluation) -> str:
    looks = one.totals.shine_looks
    return f" ({learnt_from(looks)})" if looks else ""


def _load(one: Evaluation) -> str:
    return f"{100 * one.totals.worst_cake:.0f} % of what can lie {places([one.totals.worst_cake_zone])}"


_SCALES: tuple[_Scale, ...] = (
    _Scale(
        lambda one: SCHOOL_WEIGHTS["load"] * max(0.0, one.totals.worst_cake - NEAR_CAKE) / (1.0 - NEAR_CAKE),
        lambda one: f"it loads no zone more than {_load(one)}",
        lambda one, _: _load(one),
    ),
    _Scale(
        lambda one: SCHOOL_WEIGHTS["film"] * mean_film(one) / USUAL_FILM_UM,
        lambda one: f"the least film, {mean_film(one):.1f} µm a zone",
        lambda one, best: f"{mean_film(one):.1f} µm a zone, {mean_film(best):.1f} in the thinnest",
    ),
    _Scale(
        lambda one: SCHOOL_WEIGHTS["crease"] * deepest_crease(one),
        lambda one: f"it creases least, index {deepest_crease(one):.2f}",
        lambda one, best: f"it creases more, index {deepest_crease(one):.2f} against {deepest_crease(best):.2f}",
    ),
    _Scale(
        _shine_weight,
        lambda one: f"it stays matt longest, {one.totals.least_shine_hours:.1f} h{_learnt(one)}",
        lambda one, best: (
            f"it shines after {one.totals.least_shine_hours:.1f} h, the best after "
            f"{best.totals.least_shine_hours:.1f}{_learnt(one)}"
        ),
    ),
    _Scale(
        lambda one: SCHOOL_WEIGHTS["minutes"] * one.totals.minutes / MINUTES_EACH,
        lambda one: f"the quickest, {one.totals.minutes:.0f} min",
        lambda one, best: f"{one.totals.minutes:.0f} min, {best.totals.minutes:.0f} in the quickest",
    ),
    _Scale(
        _cost_weight,
        lambda one: f"the cheapest, {one.totals.cost or 0.0:.2f} a face",
        lambda one, best: f"a face costs {one.totals.cost or 0.0:.2f}, {best.totals.cost or 0.0:.2f} in the cheapest",
    ),
    _Scale(
        lambda one: SCHOOL_WEIGHTS["evenness"] * mean_miss(one),
        lambda one: f"it ends nearest to its aim, ΔE00 {mean_miss(one):.1f}",
        lambda one, best: f"the base ends ΔE00 {mean_miss(one):.1f} off its aim, {mean_miss(best):.1f} in the nearest",
    ),
)


def _figures(one: Evaluation, weights: Mapping[_Scale, Sequence[tuple[float, Evaluation]]]) -> Iterator[RankReason]:
    """Load, film, crease, shine, minutes, cost and evenness.

    What each weighs hangs on the base alone, so that two bases come in the same order whoever else is ranked; what is told of it
    is how it stands among the others.
    """
    for scale, found in weights.items():
        own = next((weight for weight, base in found if base is one), None)
        if own is None:
            continue
        others = [weight for weight, base in found if base is not one]
        least, best = min(found, key=lambda row: row[0])
        behind = own - least
        ahead = min(others, default=own) - own
        if ahead > 0:
            yield RankReason(own, scale.best(one), -ahead)
        else:
            yield RankReason(own, scale.behind(one, best), behind)


def _rules(one: Evaluation) -> Iterator[RankReason]:
    grave = [f for f in one.findings if f.severity != "advice"]
    if grave:
        yield RankReason(
            SCHOOL_WEIGHTS["finding"] * len(grave), grave[0].says[:1].lower() + grave[0].says[1:].rstrip(".")
        )
