"""The one place where file models become core values, and core values become file models."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import asdict, replace
from datetime import date
from difflib import get_close_matches
from functools import lru_cache

import numpy as np

from nabrel.core.ask.correction import ZoneCorrection, shows_from
from nabrel.core.ask.recommend import Ranked
from nabrel.core.case.case import Case
from nabrel.core.case.intent import Climate, Intent, Options
from nabrel.core.case.product import Product
from nabrel.core.case.sitter import Measures, Sitter, ZoneSkin
from nabrel.core.errors import Refused
from nabrel.core.face.measuring import SkinReading, check_reading
from nabrel.core.face.placement import SCULPTS
from nabrel.core.film.spectra import surface, to_hex, warm
from nabrel.core.house import House, RuleDecision
from nabrel.core.judge.book import Finding
from nabrel.core.judge.evaluate import Evaluation, rule_book
from nabrel.core.judge.figures import mean_film
from nabrel.core.plan import edits as e
from nabrel.core.plan.sequence import Accepted, LeftBare, Sequence
from nabrel.core.plan.step import Step
from nabrel.core.shelf.doses import Take
from nabrel.core.shelf.tools import OwnedTool
from nabrel.core.solve.corrector import Covering
from nabrel.core.solve.mix import MixAnswer, Recipe
from nabrel.core.terms.colour import Lab
from nabrel.core.terms.ids import Role
from nabrel.core.terms.looks import SCHOOL_INFO
from nabrel.core.terms.zones import ZONE_INFO, ZONES, in_order
from nabrel.core.wear.forecast import ZoneForecast
from nabrel.formats import models as m

COLOURED_ROLES: frozenset[Role] = frozenset(
    {
        "corrector", "concealer", "foundation", "powder_foundation", "shade", "bronzer", "light", "glow", "colour",
        "setting_powder",
    }
)  # fmt: skip
"""Roles that mean nothing without a colour and a cover."""


EARLIEST = date(2000, 1, 1)
"""The day of a reading in a workspace that names none, which no Nabrel wrote."""


def case_from(model: m.CaseModel, field: str = "") -> Case:
    """A core case. Refuses what a schema cannot see: twin ids, colours no surface has, colour items without optics."""
    prefix = f"{field}." if field else ""
    kit = tuple(product_from(item, f"{prefix}kit[{index}]") for index, item in enumerate(model.kit))
    _check_kit(kit, f"{prefix}kit")
    sitter = sitter_from(model.sitter, f"{prefix}sitter")
    check_sitter(sitter, f"{prefix}sitter")
    return Case(sitter=sitter, intent=intent_from(model.intent, f"{prefix}intent"), kit=kit)


def _check_kit(kit: tuple[Product, ...], field: str) -> None:
    warm(item.lab for item in kit if item.lab is not None)
    seen: set[str] = set()
    for index, item in enumerate(kit):
        here = f"{field}[{index}]"
        if item.id in seen:
            raise Refused(f"{here}.id", item.id, "an id that no other kit item has")
        seen.add(item.id)
        check_product(item, here)


def check_product(item: Product, field: str) -> None:
    """Refuse an item whose role needs a colour it lacks, whose colour cannot be, or whose texture contradicts it."""
    if item.role in COLOURED_ROLES and item.lab is None:
        raise Refused(f"{field}.lab", None, f"a colour as [L*, a*, b*], since a {item.role} is seen")
    if item.role in COLOURED_ROLES and item.cover is None:
        raise Refused(f"{field}.cover", None, f"a contrast ratio from 0.01 to 0.995, since a {item.role} is seen")
    if (item.lab is None) != (item.cover is None):
        raise Refused(f"{field}.cover", item.cover, "both lab and cover, or neither")
    if item.lab is not None:
        surface(item.lab, f"{field}.lab")


def check_sitter(sitter: Sitter, field: str) -> None:
    """Refuse a sitter any of whose colours no surface can have."""
    colours: list[tuple[str, Lab | None]] = [
        (f"{field}.skin.lab", sitter.skin),
        (f"{field}.neck", sitter.neck),
        (f"{field}.chest", sitter.chest),
        *((f"{field}.zones.{zone}.lab", skin.lab) for zone, skin in sitter.zones.items()),
    ]
    warm(lab for _, lab in colours if lab is not None)
    for path, lab in colours:
        if lab is not None:
            surface(lab, path)
    for stroke in sitter.moved:
        kind, _, zone = stroke.partition(".")
        if kind not in SCULPTS or zone not in ZONE_INFO:
            raise Refused(
                f"{field}.moved", stroke, f"{', '.join(SCULPTS)}, a dot and a zone, as in shade.cheek_hollow_l"
            )


def _colour(model: m.ColourModel | m.LabModel | None) -> Lab | None:
    if model is None:
        return None
    return model.lab if isinstance(model, m.ColourModel) else model


def sitter_from(model: m.SitterModel, field: str = "sitter") -> Sitter:
    """A core sitter. Refuses a day that does not exist."""
    return Sitter(
        nickname=model.nickname,
        skin=model.skin.lab,
        neck=_colour(model.neck),
        chest=_colour(model.chest),
        preset=model.preset,
        zones={zone: ZoneSkin(dict(skin.conditions), skin.lab) for zone, skin in model.zones.items()},
        measures=Measures(**model.measures.model_dump()),
        avoid=tuple(model.avoid),
        about=model.about,
        consent_on=day_of(model.consent_on, f"{field}.consent_on"),
        moved=dict(model.moved),
    )


def sitter_to(sitter: Sitter) -> m.SitterModel:
    """A sitter as a file has it."""
    measures = sitter.measures
    return m.SitterModel(
        nickname=sitter.nickname,
        skin=m.ColourModel(lab=sitter.skin),
        neck=m.ColourModel(lab=sitter.neck) if sitter.neck else None,
        chest=m.ColourModel(lab=sitter.chest) if sitter.chest else None,
        preset=sitter.preset,
        zones={z: m.ZoneSkinModel(conditions=dict(s.conditions), lab=s.lab) for z, s in sitter.zones.items()},
        measures=m.MeasuresModel(
            face_length_mm=measures.face_length_mm,
            cheekbone_width_mm=measures.cheekbone_width_mm,
            jaw_width_mm=measures.jaw_width_mm,
            forehead_width_mm=measures.forehead_width_mm,
            nose_length_mm=measures.nose_length_mm,
            forehead_fingers=measures.forehead_fingers,
            nose_leans=measures.nose_leans,
            outer_eye_down=measures.outer_eye_down,
        ),
        avoid=list(sitter.avoid),
        about=sitter.about,
        consent_on=_iso(sitter.consent_on),
        moved=dict(sitter.moved),
    )


def day_of(text: str | None, field: str) -> date | None:
    """A day as a file has it. Refuses one that does not exist."""
    if text is None:
        return None
    try:
        return date.fromisoformat(text)
    except ValueError:
        raise Refused(field, text, "a day that exists, as YYYY-MM-DD") from None


def _iso(day: date | None) -> str | None:
    return None if day is None else day.isoformat()


def intent_from(model: m.IntentModel, field: str = "intent") -> Intent:
    """A core intent. Refuses a day that does not exist."""
    return Intent(
        school=model.school,
        cover=model.cover,
        finish=model.finish,
        wear_hours=model.wear_hours,
        lights=tuple(model.lights),
        setting=model.setting,
        order=model.order,
        blend=model.blend,
        features=tuple(model.features),
        viewing=model.viewing,
        climate=Climate(model.climate.temperature_c, model.climate.humidity_percent) if model.climate else Climate(),
        options=Options(**model.options.model_dump()) if model.options else Options(),
        day=day_of(model.day, f"{field}.day"),
    )


def intent_to(intent: Intent) -> m.IntentModel:
    """An intent as a file has it."""
    return m.IntentModel(
        school=intent.school,
        cover=intent.cover,
        finish=intent.finish,
        wear_hours=intent.wear_hours,
        lights=list(intent.lights),
        setting=intent.setting,
        order=intent.order,
        blend=intent.blend,
        features=list(intent.features),
        viewing=intent.viewing,
        options=None if intent.options == Options() else m.OptionsModel(**asdict(intent.options)),
        day=_iso(intent.day),
        climate=None
        if intent.climate == Climate()
        else m.ClimateModel(
            temperature_c=intent.climate.temperature_c, humidity_percent=intent.climate.humidity_percent
        ),
    )


def product_from(model: m.ProductModel, field: str = "item") -> Product:
    """A core product. Refuses a day that does not exist."""
    lists = {"suits": tuple(model.suits), "contains": tuple(model.contains), "ingredients": tuple(model.ingredients)}
    return Product(**{**model.model_dump(), **lists, "opened_on": day_of(model.opened_on, f"{field}.opened_on")})


@lru_cache(maxsize=1024)
def product_to(item: Product) -> m.ProductModel:
    """A kit item as a file has it. Whoever asks again gets the same model, and must not change it."""
    return m.ProductModel(
        id=item.id,
        role=item.role,
        name=item.name,
        texture=item.texture,
        base=item.base,
        finish=item.finish,
        lab=item.lab,
        cover=item.cover,
        ml=item.ml,
        g=item.g,
        price=item.price,
        dose_ml=item.dose_ml,
        suits=list(item.suits),
        contains=list(item.contains),
        half_hour=item.half_hour,
        ingredients=list(item.ingredients),
        opened_on=_iso(item.opened_on),
        keeps_months=item.keeps_months,
        left=item.left,
    )


def skin_reading_from(model: m.SkinReadingModel, field: str = "reading") -> SkinReading:
    """A core skin reading. Refuses days that do not exist, wrong values for what was measured, impossible colours."""
    day = day_of(model.day, f"{field}.day")
    assert day is not None
    reading = SkinReading(**{**model.model_dump(), "day": day})
    check_reading(reading, field)
    if reading.lab is not None:
        surface(reading.lab, f"{field}.lab")
    return reading


def skin_reading_to(reading: SkinReading) -> m.SkinReadingModel:
    """A skin reading as a file has it."""
    return m.SkinReadingModel(**{**asdict(reading), "day": reading.day.isoformat()})


def tool_from(model: m.ToolModel, field: str = "tool") -> OwnedTool:
    """A core tool. Refuses days that do not exist."""
    return OwnedTool(
        id=model.id,
        kind=model.kind,
        name=model.name,
        state=model.state,
        cleaned_on=day_of(model.cleaned_on, f"{field}.cleaned_on"),
        since=day_of(model.since, f"{field}.since"),
    )


def tool_to(tool: OwnedTool) -> m.ToolModel:
    """A tool as a file has it."""
    return m.ToolModel(**{**asdict(tool), "cleaned_on": _iso(tool.cleaned_on), "since": _iso(tool.since)})


def case_to(case: Case) -> m.CaseModel:
    """A case as a file has it."""
    return m.CaseModel(
        nabrel="case",
        version=1,
        sitter=sitter_to(case.sitter),
        intent=intent_to(case.intent),
        kit=[product_to(item) for item in case.kit],
    )


def sequence_from(model: m.SequenceModel) -> Sequence:
    """A core sequence. Refuses twin step ids, unknown products and steps with both film and powder."""
    case = case_from(model.case, "case")
    seen: set[str] = set()
    known = {item.id for item in case.kit}
    for index, step in enumerate(model.steps):
        here = f"steps[{index}]"
        if step.id in seen:
            raise Refused(f"{here}.id", step.id, "an id that no other step has")
        seen.add(step.id)
        if step.film_um is not None and step.powder_mg_cm2 is not None:
            raise Refused(f"{here}.powder_mg_cm2", step.powder_mg_cm2, "film_um or powder_mg_cm2, not both")
        if step.product and known and step.product not in known:
            raise Refused(f"{here}.product", step.product, "the id of an item in case.kit")
        if step.product and not known and not step.product.startswith("generic-"):
            raise Refused(f"{here}.product", step.product, "an item of the generic kit, since case.kit is empty")
    return Sequence(
        school=model.school,
        case=case,
        steps=tuple(_step_from(step) for step in model.steps),
        left_bare=tuple(LeftBare(bare.zone, bare.kind, bare.why) for bare in model.left_bare),
        notes=tuple(model.notes),
        title=model.title,
        accepted=tuple(Accepted(each.rule, in_order(each.zones), each.note) for each in model.accepted),
    )


def _step_from(model: m.StepModel) -> Step:
    return Step(
        id=model.id,
        kind=model.kind,
        zones=in_order(model.zones),
        product=model.product,
        film_um=model.film_um,
        powder_mg_cm2=model.powder_mg_cm2,
        take=Take(model.take.amount, model.take.unit, model.take.words) if model.take else None,
        tool=model.tool,
        motion=model.motion,
        active_s=model.active_s,
        wait_s=model.wait_s,
        wait_at_most_s=model.wait_at_most_s,
        why=tuple(model.why),
        rules=tuple(model.rules),
        check=model.check,
    )


def step_to(step: Step) -> m.StepModel:
    """A step as a file has it."""
    take = step.take
    return m.StepModel(
        id=step.id,
        kind=step.kind,
        zones=list(step.zones),
        product=step.product,
        film_um=step.film_um,
        powder_mg_cm2=step.powder_mg_cm2,
        take=m.TakeModel(amount=take.amount, unit=take.unit, words=take.words) if take else None,
        tool=step.tool,
        motion=step.motion,
        active_s=step.active_s,
        wait_s=step.wait_s,
        wait_at_most_s=step.wait_at_most_s,
        why=list(step.why),
        rules=list(step.rules),
        check=step.check,
    )


def sequence_to(sequence: Sequence) -> m.SequenceModel:
    """A sequence as a file has it."""
    return m.SequenceModel(
        nabrel="sequence",
        version=1,
        school=sequence.school,
        case=case_to(sequence.case),
        steps=[step_to(step) for step in sequence.steps],
        left_bare=[m.LeftBareModel(zone=b.zone, kind=b.kind, why=b.why) for b in sequence.left_bare],
        notes=list(sequence.notes),
        title=sequence.title,
        accepted=[m.AcceptedModel(rule=a.rule, zones=list(a.zones), note=a.note) for a in sequence.accepted],
    )


def edit_from(model: m.EditModel) -> e.Edit:
    """A core edit."""
    match model:
        case m.AmountEdit():
            return e.SetAmount(model.step, model.film_um, model.powder_mg_cm2)
        case m.HandEdit():
            return e.SetHand(model.step, model.tool, model.motion)
        case m.ProductEdit():
            return e.SetProduct(model.step, model.product)
        case m.ZonesEdit():
            return e.SetZones(model.step, tuple(model.zones))
        case m.WaitEdit():
            return e.SetWait(model.step, model.wait_s, model.wait_at_most_s)
        case m.MoveEdit():
            return e.Move(model.step, model.before)
        case m.RemoveEdit():
            return e.Remove(model.step)
        case m.SplitEdit():
            return e.Split(model.step, tuple(model.zones))
        case m.MergeEdit():
            return e.Merge(model.step, model.other)
        case m.AcceptEdit():
            if model.rule not in rule_book():
                raise Refused("rule", model.rule, "the id of a rule of the book")
            return e.Accept(model.rule, tuple(model.zones), model.note)
        case m.AddEdit():
            return e.Add(
                model.kind,
                tuple(model.zones),
                model.before,
                model.product,
                model.film_um,
                model.powder_mg_cm2,
                model.tool,
                model.motion,
                model.active_s,
                model.wait_s,
            )


def edit_to(edit: e.Edit) -> m.EditModel:
    """An edit as a file has it."""
    match edit:
        case e.SetAmount():
            return m.AmountEdit(edit="amount", step=edit.step, film_um=edit.film_um, powder_mg_cm2=edit.powder_mg_cm2)
        case e.SetHand():
            return m.HandEdit(edit="hand", step=edit.step, tool=edit.tool, motion=edit.motion)
        case e.SetProduct():
            return m.ProductEdit(edit="product", step=edit.step, product=edit.product)
        case e.SetZones():
            return m.ZonesEdit(edit="zones", step=edit.step, zones=list(edit.zones))
        case e.SetWait():
            return m.WaitEdit(edit="wait", step=edit.step, wait_s=edit.wait_s, wait_at_most_s=edit.wait_at_most_s)
        case e.Move():
            return m.MoveEdit(edit="move", step=edit.step, before=edit.before)
        case e.Remove():
            return m.RemoveEdit(edit="remove", step=edit.step)
        case e.Split():
            return m.SplitEdit(edit="split", step=edit.step, zones=list(edit.zones))
        case e.Merge():
            return m.MergeEdit(edit="merge", step=edit.step, other=edit.other)
        case e.Accept():
            return m.AcceptEdit(edit="accept", rule=edit.rule, zones=list(edit.zones), note=edit.note)
        case e.Add():
            return m.AddEdit(
                edit="add",
                kind=edit.kind,
                zones=list(edit.zones),
                before=edit.before,
                product=edit.product,
                film_um=edit.film_um,
                powder_mg_cm2=edit.powder_mg_cm2,
                tool=edit.tool,
                motion=edit.motion,
                active_s=edit.active_s,
                wait_s=edit.wait_s,
            )


def findings_to(findings: Iterable[Finding]) -> m.FindingsModel:
    """Findings as a file has them."""
    return m.FindingsModel(findings=[finding_to(each) for each in findings])


def schools_to(ranked: Iterable[Ranked]) -> m.SchoolsModel:
    """A ranking as a file has it."""
    return m.SchoolsModel(
        schools=[
            m.RankedSchoolModel(
                school=each.school,
                words=SCHOOL_INFO[each.school].words,
                says=each.says,
                speaks_for=list(each.speaks_for),
                speaks_against=list(each.speaks_against),
                steps=each.evaluation.totals.steps,
                minutes=round(each.evaluation.totals.minutes, 1),
                cost=None if each.evaluation.totals.cost is None else round(each.evaluation.totals.cost, 2),
                worst_cake=round(each.evaluation.totals.worst_cake, 3),
                shine_hours=round(each.evaluation.totals.least_shine_hours, 1),
                mean_film_um=round(mean_film(each.evaluation), 2),
                findings=len(each.evaluation.findings),
            )
            for each in ranked
        ]
    )


def house_from(model: m.HouseModel, field: str = "") -> House:
    """A house with what was decided. Refuses unknown rules and parameters, and values out of range."""
    prefix = f"{field}." if field else ""
    book = rule_book()
    for rule_id in model.rules:
        if rule_id not in book:
            close = get_close_matches(rule_id, book, 1)
            raise Refused(f"{prefix}rules", rule_id, "the id of a rule" + (f" (nearest: {close[0]})" if close else ""))
    house = House()
    for name, each in model.parameters.items():
        try:
            house = house.deciding({name: each.value}, {name: each.note})
        except Refused as refusal:
            raise Refused(f"{prefix}parameters.{name}", each.value, refusal.allowed) from None
    rules = (RuleDecision(rule_id, d.off, d.severity, d.note) for rule_id, d in model.rules.items())
    return replace(house, rules=tuple(each for each in rules if each.off or each.severity))


def house_to(house: House) -> m.HouseModel:
    """What a house decided otherwise, as a file has it."""
    return m.HouseModel(
        nabrel="house",
        version=1,
        parameters={d.name: m.ParameterDecisionModel(value=d.value, note=d.note) for d in house.decided},
        rules={d.rule: m.RuleDecisionModel(off=d.off, severity=d.severity, note=d.note) for d in house.rules},
    )


def finding_to(finding: Finding) -> m.FindingModel:
    """One finding as a file has it."""
    fix = finding.fix
    return m.FindingModel(
        rule=finding.rule,
        family=finding.family,
        severity=finding.severity,
        steps=list(finding.steps),
        zones=list(finding.zones),
        says=finding.says,
        why=finding.why,
        fix=m.FixModel(says=fix.says, edits=[edit_to(edit) for edit in fix.edits]) if fix else None,
        other_view=finding.other_view,
        decided=finding.decided,
        accepted=finding.accepted,
        against=list(finding.against),
    )


def forecast_to(row: ZoneForecast) -> m.ZoneForecastModel:
    """One zone's forecast as a file has it."""
    return m.ZoneForecastModel(
        film_um=round(row.film_um, 2),
        powder_mg_cm2=round(row.powder_mg, 3),
        load_um=round(row.load_um, 2),
        limit_um=round(row.limit_um, 2),
        cake=round(row.cake, 3),
        crease=round(row.crease, 3),
        crease_drivers=list(row.crease_drivers),
        shine_hours=round(row.shine_hours, 2),
        colour_hours=None if row.colour_hours is None else round(row.colour_hours, 1),
        flare=round(row.flare, 3),
    )


def read_through_to(evaluation: Evaluation) -> list[m.ReadThroughModel]:
    """Read-through rows as a file has them."""
    return [
        m.ReadThroughModel(
            zone=row.zone,
            kind=row.kind,
            percent=round(100 * row.share, 1),
            visible_dl=round(row.visible_step, 2),
            bare_dl=round(row.bare_step, 2),
        )
        for row in evaluation.appearance.read_through
    ]


def appearance_to(evaluation: Evaluation) -> m.AppearanceModel:
    """An appearance as a file has it: every zone at every stage."""
    seen, ledger = evaluation.appearance, evaluation.ledger
    lying = [*ledger.before[1:], ledger.after]
    stages = [
        m.StageModel(
            step=step.id,
            zones={
                zone: m.ShownModel(
                    lab=_rounded(seen.lab[index + 1, column]),
                    hex=seen.hexes[index + 1][column],
                    de=round(float(seen.de[index + 1, column]), 2),
                    film_um=round(lying[index][zone].film_um, 2),
                    powder_mg_cm2=round(lying[index][zone].powder_mg, 3),
                )
                for column, zone in enumerate(ZONES)
            },
        )
        for index, step in enumerate(evaluation.sequence.steps)
    ]
    return m.AppearanceModel(
        light=seen.light,
        target=_rounded(seen.target),
        target_hex=seen.target_hex,
        steps=stages,
        zones={row.zone: forecast_to(row) for row in evaluation.forecast},
        read_through=read_through_to(evaluation),
        touch_ups=touch_ups_to(evaluation),
    )


def touch_ups_to(evaluation: Evaluation) -> list[m.TouchUpModel]:
    """The touch-up timetable as a file has it."""
    return [m.TouchUpModel(hour=each.hour, zones=list(each.zones), does=each.does) for each in evaluation.touch_ups]


def correction_to(correction: ZoneCorrection, house: House) -> m.CorrectionModel:
    """A correction as a file has it."""
    answer = correction.answer
    named = [answer.best, answer.runner_up, answer.without_corrector]
    others = [each for each in answer.each if each not in named]

    return m.CorrectionModel(
        zone=correction.zone,
        skin=_rounded(correction.skin),
        skin_hex=_hex(correction.skin),
        target=_rounded(correction.target),
        target_hex=_hex(correction.target),
        foundation=correction.foundation.id if correction.foundation else None,
        foundation_um=round(correction.foundation_um, 2),
        room_um=round(correction.room_um, 2),
        worth_it=correction.worth_it,
        saving_percent=round(100 * answer.saving, 1),
        best=covering_to(correction, answer.best, house),
        runner_up=covering_to(correction, answer.runner_up, house) if answer.runner_up else None,
        without_corrector=covering_to(correction, answer.without_corrector, house),
        others=[covering_to(correction, each, house) for each in others],
        says=correction.says,
    )


def covering_to(correction: ZoneCorrection, covering: Covering, house: House) -> m.CoveringModel:
    """One way to even out a zone as a file has it."""
    corrector = covering.corrector
    return m.CoveringModel(
        corrector=corrector.id if corrector else None,
        corrector_um=covering.corrector_um,
        concealer=covering.concealer.id if covering.concealer else None,
        concealer_um=covering.concealer_um,
        film_um=covering.total_um,
        lab=_rounded(covering.lab),
        hex=_hex(covering.lab),
        de=round(covering.de, 2),
        near_enough=covering.near_enough,
        misses=correction.misses(covering),
        shows_from_um=shows_from(correction, corrector, house) if corrector else None,
    )


def mix_to(answer: MixAnswer) -> m.MixModel:
    """A mix as a file has it."""
    return m.MixModel(
        target=_rounded(answer.target),
        target_hex=_hex(answer.target),
        near_enough=answer.near_enough,
        best=recipe_to(answer.best),
        smallest=recipe_to(answer.smallest),
    )


def recipe_to(recipe: Recipe) -> m.RecipeModel:
    """A recipe as a file has it."""
    return m.RecipeModel(
        parts=[
            m.MixPartModel(
                product=part.product.id,
                name=part.product.name,
                drops=part.drops,
                share=round(part.drops / recipe.drops, 4),
            )
            for part in recipe.parts
        ],
        drops=recipe.drops,
        lab=_rounded(recipe.lab),
        hex=_hex(recipe.lab),
        de=round(recipe.de, 2),
        misses=recipe.misses,
        cover=round(recipe.cover, 3),
        finish=recipe.finish,
        warnings=list(recipe.warnings),
    )


def _hex(lab: Lab) -> str:
    return to_hex(np.array([lab]))[0]


def _rounded(lab: Iterable[float]) -> tuple[float, float, float]:
    lightness, red, yellow = (round(float(value), 2) for value in lab)
    return (min(max(lightness, 0.0), 100.0), red, yellow)
