"""From core values to wire models."""

from __future__ import annotations

from collections.abc import Mapping
from functools import lru_cache
from typing import Any

import numpy as np

from nabrel.core.ask.compare import Difference
from nabrel.core.ask.trial import Trial
from nabrel.core.ask.unsure import GUESSED
from nabrel.core.base.state import BARE
from nabrel.core.case.case import Case
from nabrel.core.case.intent import OPTIONS
from nabrel.core.case.product import Product
from nabrel.core.case.sitter import Colour, Sitter
from nabrel.core.documents.phrases import told_portion
from nabrel.core.face.effects import EFFECT_CHANGES
from nabrel.core.face.presets import PRESET_CONDITIONS
from nabrel.core.face.proportions import proportions_of
from nabrel.core.face.reading import Reading, read
from nabrel.core.face.skin import depth_class, undertone
from nabrel.core.face.strokes import ANCHORS
from nabrel.core.film.difference import delta_e
from nabrel.core.film.spectra import to_hex
from nabrel.core.house import PARAMETERS, House
from nabrel.core.house.factors import factor_named, learnt_from
from nabrel.core.house.tables import VIEWING_EDGE
from nabrel.core.judge.evaluate import Evaluation, rule_book
from nabrel.core.judge.figures import visible
from nabrel.core.plan.step import Portion, Step, Unit
from nabrel.core.planner.planner import SCHOOLS
from nabrel.core.shelf.doses import take_words
from nabrel.core.shelf.guessing import HUES
from nabrel.core.shelf.ladder import rung_words, rungs
from nabrel.core.terms.conditions import CONDITION_INFO, CONDITIONS, SEVERITY_WORDS, condition_groups
from nabrel.core.terms.figures import FIGURE_INFO
from nabrel.core.terms.hands import MOTION_INFO, TOOL_INFO
from nabrel.core.terms.ids import Preset, Zone
from nabrel.core.terms.limits import LIMITS
from nabrel.core.terms.looks import (
    COVERED_INFO,
    HAIR_INFO,
    LIGHT_INFO,
    PRESET_INFO,
    PRESETS,
    SETTING_INFO,
    VIEWING_INFO,
)
from nabrel.core.terms.places import places
from nabrel.core.terms.products import COVER_INFO, ROLE_INFO
from nabrel.core.terms.schools import SCHOOL_INFO
from nabrel.core.terms.signs import SIGN_INFO
from nabrel.core.terms.steps import STEP_INFO
from nabrel.core.terms.table import Term
from nabrel.core.terms.wishes import (
    COLOUR_EFFECT_INFO,
    DONE_BEFORE,
    EFFECTS,
    FOUNDATION_ON_INFO,
    GLOW_POINT_INFO,
)
from nabrel.core.terms.zones import REGION_INFO, ZONE_INFO, ZONES
from nabrel.formats.answers import forecasts_to, read_through_to
from nabrel.formats.files import DecidedRule, TakenOver, written
from nabrel.formats.values import filled
from nabrel.store.house_rules import HouseRules
from nabrel.store.repositories import StoredSequence, StoredSitter
from nabrel.store.versions import NOT_THERE
from nabrel.web.shared import wire as w


@lru_cache(maxsize=1)
def vocabulary() -> w.VocabularyWire:
    """The vocabulary with its words, the schools and the rule book."""
    return w.VocabularyWire(
        zones=[filled(w.ZoneWire, i) for i in ZONE_INFO.values()],
        regions=tuple(REGION_INFO.values()),
        steps=tuple(STEP_INFO.values()),
        tools=tuple(TOOL_INFO.values()),
        motions=tuple(MOTION_INFO.values()),
        lights=tuple(LIGHT_INFO.values()),
        settings=tuple(SETTING_INFO.values()),
        conditions=tuple(CONDITION_INFO.values()),
        signs=tuple(SIGN_INFO.values()),
        roles=tuple(ROLE_INFO.values()),
        schools=[filled(w.SchoolWire, s, words=SCHOOL_INFO[s.id].words) for s in SCHOOLS.values()],
        rules=[filled(w.RuleWire, r) for r in rule_book().values()],
        options=OPTIONS,
        viewings=tuple(VIEWING_INFO.values()),
        covers=tuple(COVER_INFO.values()),
        finishes=tuple(Term(key, key) for key in ("matte", "satin", "dewy")),
        condition_groups=[
            w.ConditionGroupWire(words=words, conditions=list(found)) for words, found in condition_groups().items()
        ],
        figures=tuple(FIGURE_INFO.values()),
        coloured_roles=[i.id for i in ROLE_INFO.values() if i.coloured],
        hues=list(HUES),
        hairs=tuple(HAIR_INFO.values()),
        covered=tuple(COVERED_INFO.values()),
        effects=[
            w.EffectWire(
                region=region,
                effect=effect,
                words=f"{region.capitalize()} {effect}",
                why=EFFECT_CHANGES[region, effect][0].why,
            )
            for region, possible in EFFECTS.items()
            for effect in possible
        ],
        colour_effects=tuple(COLOUR_EFFECT_INFO.values()),
        foundation_on=tuple(FOUNDATION_ON_INFO.values()),
        glow_points=tuple(GLOW_POINT_INFO.values()),
        done_before=tuple(STEP_INFO[kind] for kind in DONE_BEFORE),
        presets=[_preset(preset) for preset in PRESETS],
        anchors={
            zone: [round(float(np.mean(axis)), 1) for axis in zip(*points, strict=True)]
            for zone, points in ANCHORS.items()
        },
        limits=LIMITS,
        rank_words={str(rank): words for rank, words in SEVERITY_WORDS.items()},
    )


def _preset(preset: Preset) -> w.PresetWire:
    bare = Sitter(nickname="preset", skin=Colour((62.0, 11.0, 17.0)), preset=preset)
    return w.PresetWire(
        id=preset,
        words=PRESET_INFO[preset].words,
        sets=_read_words(read(Case(bare), House())),
        zones={zone: dict(found) for zone, found in PRESET_CONDITIONS[preset].items()},
    )


def house_book(
    house: House, rules: Mapping[str, int], parameters: Mapping[str, int], taken: list[w.TakenOverWire]
) -> w.HouseWire:
    """The rule book and the parameters, with what was decided, and the version of each decision by name."""
    notes = {each.name: each.note for each in house.decided}
    decisions = {each.rule: DecidedRule(each.off, each.severity, each.note) for each in house.rules}
    book = rule_book()
    return w.HouseWire(
        rules=[
            filled(w.BookRuleWire, r, decision=decisions.get(r.id), version=rules.get(r.id, NOT_THERE))
            for r in book.values()
        ],
        parameters=[
            filled(
                w.ParameterWire,
                p,
                value=getattr(house, p.name),
                note=notes.get(p.name, ""),
                rules=[r.id for r in book.values() if p.name in r.parameters],
                version=parameters.get(p.name, NOT_THERE),
            )
            for p in PARAMETERS.values()
        ],
        taken_over=taken,
    )


def taken_over(rules: HouseRules, names: Mapping[str, str]) -> list[w.TakenOverWire]:
    """Every factor that was taken over, newest first, with the names of items by their id."""
    stored = rules.taken_over()
    standing = {each.what: number for number, each in stored if each.undone is None}
    return [
        w.TakenOverWire(
            number=number,
            words=factor_named(each.what, each.to).words(names),
            says=_evidence(each),
            factor=each.to,
            on=each.on,
            undone=each.undone,
            standing=standing.get(each.what) == number,
        )
        for number, each in reversed(stored)
    ]


def _evidence(taken: TakenOver) -> str:
    """What it was before, what it is now, and what that rests on."""
    found = taken.evidence
    sure = (
        "" if found.low is None or found.high is None else f", {found.low:.2f} to {found.high:.2f} in nine cases of ten"
    )
    rests = f" ({learnt_from(found.looks)}{sure})" if found.looks else ""
    return f"{taken.from_:g} became {taken.to:g} times the forecast{rests}."


def zone_readings(reading: Reading) -> list[w.ZoneReadingWire]:
    """The reading, zone by zone."""
    hexes = to_hex(np.array([reading.zones[zone].lab for zone in ZONES]))
    return [
        filled(
            w.ZoneReadingWire,
            reading.zones[zone],
            zone=zone,
            hex=shown,
            conditions=[
                w.ConditionWire(id=condition, words=CONDITION_INFO[condition].words, severity=severity)
                for condition, severity in sorted(reading.zones[zone].conditions.items(), key=lambda row: -row[1])
            ],
        )
        for zone, shown in zip(ZONES, hexes, strict=True)
    ]


def sitter_summary(stored: StoredSitter) -> w.SitterSummary:
    """A sitter for the list: nothing that takes a whole reading."""
    return w.SitterSummary(**_summary(stored))


def _summary(stored: StoredSitter) -> dict:  # type: ignore[type-arg]
    return {
        "id": stored.id,
        "nickname": stored.sitter.nickname,
        "about": stored.sitter.about,
        "skin_hex": to_hex(np.array([stored.sitter.skin.lab]))[0],
        "depth": depth_class(stored.sitter.skin.lab),
        "undertone": undertone(stored.sitter.skin.lab),
        "preset": stored.sitter.preset,
        "sequence_id": stored.sequence_ids[0] if stored.sequence_ids else None,
    }


def sitter(stored: StoredSitter, reading: Reading) -> w.SitterWire:
    """A sitter as read."""
    person = stored.sitter
    neck_de = float(delta_e(np.array(person.skin.lab), np.array(person.neck.lab))) if person.neck else None
    return w.SitterWire(
        **_summary(stored),
        shape=reading.shape,
        proportions=proportions_of(person),
        neck_hex=to_hex(np.array([person.neck.lab]))[0] if person.neck else None,
        neck_de=round(neck_de, 1) if neck_de is not None else None,
        complexion_hex=to_hex(np.array([reading.complexion]))[0],
        intent=stored.intent,
        zones=zone_readings(reading),
        read_words=_read_words(reading),
    )


def finished_hexes(evaluation: Evaluation) -> dict[Zone, str]:
    """What each zone shows once the base is done."""
    return dict(zip(ZONES, evaluation.appearance.hexes[-1], strict=True))


def _read_words(reading: Reading) -> list[str]:
    """What was read, a sentence a condition, gravest first."""
    said: list[tuple[int, str]] = []
    for condition in CONDITIONS:
        cited = reading.cite(ZONES, condition)
        if cited:
            worst = max(reading.zones[zone].conditions.get(condition, 0) for zone in ZONES)
            said.append((worst, cited[:1].upper() + cited[1:]))
    return [text for _, text in sorted(said, key=lambda row: -row[0])]


def trial(found: Trial) -> w.TrialWire:
    """A trial."""
    return w.TrialWire(**_tried(found))


def preview(found: Trial) -> w.PreviewWire:
    """A replan before it is kept."""
    return w.PreviewWire(
        **_tried(found),
        intent=found.after.sequence.case.intent,
        findings=len(found.after.findings),
    )


def _tried(found: Trial) -> dict[str, Any]:
    return {
        "difference": found.difference,
        "come": list(found.come),
        "gone": list(found.gone),
        "look_de": round(found.look_de, 1),
        "look_zone": found.look_zone,
    }


def swatches(products: dict[str, Product]) -> dict[str, str]:
    """Masstone hex of every tinted product by id."""
    tinted = [item for item in products.values() if item.lab is not None]
    hexes = to_hex(np.array([item.lab for item in tinted])) if tinted else []
    return {item.id: shown for item, shown in zip(tinted, hexes, strict=True)}


def workbench(stored: StoredSequence, evaluation: Evaluation, changed: Difference | None = None) -> w.WorkbenchWire:
    """The workbench of a stored sequence."""
    sequence, seen, after = evaluation.sequence, evaluation.appearance, evaluation.course.after
    used = {part.item for step in sequence.steps for part in step.mix}
    products = {key: item for key, item in evaluation.products.items() if key in used}
    return filled(
        w.WorkbenchWire,
        stored,
        nickname=sequence.case.sitter.nickname,
        title=sequence.title,
        school=sequence.school,
        intent=sequence.case.intent,
        light=seen.light,
        steps=[written(done.step, done.take) for done in evaluation.course.done],
        takes=[take_words(done.take, evaluation.house) for done in evaluation.course.done],
        chapters=list(sequence.chapters()),
        ladder=_ladder(evaluation.house),
        portions=[[_portion(portion, step, evaluation.house) for portion in step.portions] for step in sequence.steps],
        products=dict(products.items()),
        swatches=swatches(products),
        left_bare=list(sequence.left_bare),
        notes=list(sequence.notes),
        starts_s=[round(start, 1) for start in evaluation.course.starts],
        target_hex=seen.target_hex,
        stages=[list(row) for row in seen.hexes],
        states=_states(evaluation),
        film=np.round(after.film * after.patch, 3).tolist(),
        powder=np.round(after.powder * after.patch, 4).tolist(),
        powder_um_per_mg=evaluation.house.powder_film_um_per_mg,
        dusted=_dusted(evaluation),
        carried=[
            [
                w.CarriedWire(
                    product=each.product, name=evaluation.products[each.product].name, share=round(each.share, 3)
                )
                for each in done.carried
            ]
            for done in evaluation.course.done
        ],
        de=np.round(seen.de[-1], 2).tolist(),
        forecast=forecasts_to(evaluation),
        read_through=read_through_to(evaluation),
        touch_ups=list(evaluation.touch_ups),
        edges=edges(evaluation),
        findings=list(evaluation.findings),
        totals=totals(evaluation),
        zones=zone_readings(evaluation.reading),
        proportions=proportions_of(sequence.case.sitter),
        skin_sd=sequence.case.sitter.skin.lab_sd,
        guessed=sum(item.source in GUESSED for item in products.values()),
        difference=changed,
    )


def _ladder(house: House) -> w.LadderWire:
    """The ladders of amounts in this house."""
    film, powder = (rungs(unit, house) for unit in UNITS)
    return w.LadderWire(um=film, mg_cm2=powder)


UNITS: tuple[Unit, Unit] = ("um", "mg_cm2")


def _portion(portion: Portion, step: Step, house: House) -> w.PortionSaysWire:
    """A portion in words."""
    amount = ""
    if step.unit is not None and portion.amount is not None:
        amount = "what is left" if portion.left_over else rung_words(portion.amount, step.unit, house)
    does = " ".join(told_portion(house, step, portion))
    return w.PortionSaysWire(where=places(portion.zones), amount=amount, does=does)


LEAST_MG = 1e-9


def _dusted(evaluation: Evaluation) -> list[w.DustedWire]:
    """What lay higher before it was dusted off."""
    course = evaluation.course
    found: list[w.DustedWire] = []
    if not course.done:
        return found
    powder_laid = np.stack([done.powder for done in course.done])
    for step, column in np.argwhere(powder_laid - course.after.powder > LEAST_MG).tolist():
        laid = float(powder_laid[step, column])
        until = next(later for later in range(step + 1, len(course.done)) if course.took_off(later, step, column))
        found.append(w.DustedWire(step=step, until=until, zone=ZONES[column], laid_mg_cm2=round(laid, 4)))
    return found


def _states(evaluation: Evaluation) -> list[str]:
    """How every zone lies when each step's work ends, a letter a zone."""
    course, house = evaluation.course, evaluation.house
    bare = BARE.lies(0.0, house)[0]
    found: list[str] = []
    for done, state in zip(course.done, course.states[1:], strict=True):
        # Most zones are untouched for the first half of a plan: they are not even asked for.
        letters = {zone: lying.lies(done.end, house)[0] for zone, lying in state.lying.items()}
        found.append("".join([letters.get(zone, bare) for zone in ZONES]))
    return found


def edges(evaluation: Evaluation) -> list[w.EdgeWire]:
    """The borders of the finished base, steepest first."""
    unseen = VIEWING_EDGE[evaluation.sequence.case.intent.viewing]
    return [filled(w.EdgeWire, edge, unseen=unseen) for edge in evaluation.edges]


def totals(evaluation: Evaluation) -> w.TotalsWire:
    """Figures of the whole sequence."""
    t = evaluation.totals
    kinds = {row.kind for row in evaluation.appearance.read_through}
    return filled(
        w.TotalsWire,
        t,
        shade_shows=round(visible(evaluation, "shade"), 1) if "shade" in kinds else None,
        light_shows=round(visible(evaluation, "light"), 1) if "light" in kinds else None,
    )


def case_of(stored: StoredSitter, kit: tuple[Product, ...]) -> Case:
    """The case of a stored sitter with the whole shelf."""
    return Case(stored.sitter, stored.intent, kit)
