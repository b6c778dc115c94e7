"""Which base suits: schools or other candidates on one face, weighed by its skin and wishes, ranked with the reasons."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import date

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
class RankReason:
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


def plan_on(day: date, case: Case, house: House) -> Planned:
    """Plan a case as on a day, where it names none. The plan names none either: it is judged by the day it is looked at."""
    planned = plan(case.on(day), house)
    return replace(planned, case=replace(planned.case, intent=replace(planned.case.intent, day=case.intent.day)))


def _in(case: Case, school: School) -> Case:
    return replace(case, intent=replace(case.intent, school=school))


def _reasons(one: Evaluation, candidates: Sequence[Evaluation], off: float, least_off: float) -> list[RankReason]:
    if not _lies(one):
        return [RankReason(SCHOOL_WEIGHTS["bare"], "nothing lies on the skin yet")]
    return [
        *_essentials(one),
        *_leanings(one, one.house),
        *_sculpting(one, one.house),
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


def _ranked(place: int, one: Evaluation, reasons: Sequence[RankReason], shared: Collection[str]) -> Ranked:
    telling = sorted((each for each in reasons if each.says not in shared), key=lambda each: -abs(each.weight))
    good = [each.says for each in telling if each.weight <= -WORTH_TELLING][:TOLD_REASONS]
    bad = [each.says for each in telling if each.weight >= WORTH_TELLING][:TOLD_REASONS]
    return Ranked(place, one, tuple(good), tuple(bad), sum(each.weight for each in reasons))


def _essentials(one: Evaluation) -> Iterator[RankReason]:
    """What a school is made of and this plan of it lacks, where the face wants it."""
    sequence, school = one.sequence, SCHOOL_INFO[one.sequence.school]
    foundations = {part.item for step in sequence.steps if step.kind == "foundation" for part in step.mix}
    creams, pans = (
        {step.kind for step in sequence.steps if step.lays and (step.unit == unit)} for unit in ("um", "mg_cm2")
    )
    shaded = bool(one.reading.placement.shade.zones)
    lacks: Mapping[Essential, bool] = {
        "painted beneath": shaded and not painted_beneath(sequence.steps),
        "a shade": shaded and "shade" not in creams | pans,
        "two foundations": len(foundations) < 2,
        "a glow": sequence.case.intent.finish != "matte" and bool(_bears_glow(one)) and "glow" not in creams | pans,
        "a powder shade": shaded and "shade" not in pans,
        "both shades": shaded and "shade" not in creams & pans,
    }
    lack = "no foundation" if not foundations else school.lacking if lacks[school.essential] else ""
    if lack:
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


def _figures(one: Evaluation, candidates: Sequence[Evaluation]) -> Iterator[RankReason]:
    """Load, crease, shine, minutes and cost, beside the others."""
    weigh, t = SCHOOL_WEIGHTS, one.totals
    if t.worst_cake > NEAR_CAKE:
        yield RankReason(weigh["load"] * (t.worst_cake - NEAR_CAKE) / (1.0 - NEAR_CAKE), f"{100 * t.worst_cake:.0f} % of what "
                     f"can lie {places([t.worst_cake_zone])}")  # fmt: skip
    film, least = mean_film(one), min(mean_film(e) for e in candidates)
    yield RankReason(
        weigh["film"] * (film - least) / max(least, 1.0), f"{film:.1f} µm a zone, {least:.1f} in the thinnest"
    )
    if film == least < max(mean_film(e) for e in candidates):
        yield RankReason(-weigh["least film"], f"the least film, {film:.1f} µm a zone")
    crease, low = deepest_crease(one), min(deepest_crease(e) for e in candidates)
    yield RankReason(weigh["crease"] * (crease - low), f"it creases more, index {crease:.2f} against {low:.2f}")
    wanted = one.sequence.case.intent.wear_hours
    shine, longest = t.least_shine_hours, max(e.totals.least_shine_hours for e in candidates)
    if shine < wanted and shine < longest - WORTH_HOURS:
        yield RankReason(
            weigh["shine"] * (longest - shine) / wanted,
            f"it shines after {shine:.1f} h, the best after {longest:.1f}"
            + (f" ({learnt_from(t.shine_looks)})" if t.shine_looks else ""),
        )
    fewest = min(e.totals.minutes for e in candidates)
    yield RankReason(
        weigh["minutes"] * (t.minutes - fewest) / MINUTES_EACH, f"{t.minutes:.0f} min, {fewest:.0f} in the quickest"
    )
    costs = [e.totals.cost for e in candidates if e.totals.cost]
    if t.cost and costs:
        yield RankReason(
            weigh["cost"] * (t.cost / min(costs) - 1), f"a face costs {t.cost:.2f}, {min(costs):.2f} in the cheapest"
        )


def _evenness(off: float, best: float) -> Iterator[RankReason]:
    """How far the base ends from its aim, ΔE00, beside the one that ends nearest."""
    yield RankReason(
        SCHOOL_WEIGHTS["evenness"] * (off - best),
        f"the base ends ΔE00 {off:.1f} off its aim, {best:.1f} in the nearest",
    )


def _rules(one: Evaluation) -> Iterator[RankReason]:
    grave = [f for f in one.findings if f.severity != "advice"]
    if grave:
        yield RankReason(
            SCHOOL_WEIGHTS["finding"] * len(grave), grave[0].says[:1].lower() + grave[0].says[1:].rstrip(".")
        )
