"""The API: one blueprint a room. Each endpoint's signature is its validation."""

from __future__ import annotations

import json
import re
from dataclasses import replace
from datetime import date
from typing import Any

import numpy as np
from flask import Response, current_app, g, request
from flask_openapi3.blueprint import APIBlueprint
from flask_openapi3.models.tag import Tag
from pydantic import BaseModel
from sqlalchemy.orm import Session

from nabrel.core.case import Climate, Intent, Product
from nabrel.core.compare import compare
from nabrel.core.evaluate import Evaluation, evaluate
from nabrel.core.face.reading import read
from nabrel.core.film.spectra import to_hex
from nabrel.core.house import House
from nabrel.core.kit.age import standing
from nabrel.core.plan.edits import apply, say
from nabrel.core.plan.step import Sequence
from nabrel.core.plan.substitute import Substitute, mix_instead, substitutes
from nabrel.core.recommend import plan
from nabrel.core.trial import against
from nabrel.core.vocabulary import SCHOOL_WORDS, SETTING_WORDS, Light
from nabrel.formats import convert
from nabrel.formats.reading import read_case
from nabrel.store.database import Database
from nabrel.store.house_rules import HouseRules
from nabrel.store.repositories import KeptSequence, Kit, Sequences, Sitters, take_in_case
from nabrel.store.shelf import NamedKits, Runs
from nabrel.web import present
from nabrel.web import wire as w
from nabrel.web.failures import UnsupportedType
from nabrel.web.remembered import Remembered, on_day

REFUSALS: dict[Any, Any] = {404: w.Problem, 409: w.Problem, 413: w.Problem, 415: w.Problem, 422: w.Problem}

TABLES = ("text/csv", "text/plain", "application/octet-stream")
"""Kinds of content that a table may come as."""

home = APIBlueprint("home", __name__, url_prefix="/api", abp_tags=[Tag(name="home")], abp_responses=REFUSALS)
layer = APIBlueprint("layer", __name__, url_prefix="/api", abp_tags=[Tag(name="layer")], abp_responses=REFUSALS)


def database() -> Database:
    """The application's database."""
    found: Database = current_app.extensions["nabrel_database"]
    return found


def house() -> House:
    """The house that this request goes by: what was decided stands from the next request on."""
    if "nabrel_house" not in g:
        with database().session() as session:
            g.nabrel_house = HouseRules(session).house()
    found: House = g.nabrel_house
    return found


def evaluated(stored: KeptSequence, light: Light = "daylight", former: Evaluation | None = None) -> Evaluation:
    """The evaluation of a stored revision; ``former`` is one of the same plan, whose reading may still hold."""
    remembered: Remembered = current_app.extensions["nabrel_remembered"]
    return remembered.evaluate(stored, house(), light, former)


def evaluated_today(sequence: Sequence, light: Light = "daylight") -> Evaluation:
    """The evaluation of a sequence that is not the one that stands, on the day that the standing one is judged by."""
    return evaluate(on_day(sequence, date.today()), house(), light)


@home.get("/vocabulary", operation_id="vocabulary", responses={200: w.VocabularyWire})
def get_vocabulary() -> w.VocabularyWire:
    """The terms, schools and rules with their words."""
    return present.vocabulary()


@home.get("/sitters", operation_id="sitters", responses={200: w.SitterList})
def get_sitters() -> w.SitterList:
    """All sitters."""
    with database().session() as session:
        kept = Sitters(session).all()
    return w.SitterList(
        sitters=[present.sitter_summary(each, read(present.case_of(each, ()), house())) for each in kept]
    )


@home.get("/sitters/<id>", operation_id="sitter", responses={200: w.SitterWire})
def get_sitter(path: w.IdPath) -> w.SitterWire:
    """One sitter as read."""
    with database().session() as session:
        kept = Sitters(session).get(path.id)
    return present.sitter(kept, read(present.case_of(kept, ()), house()))


@home.get("/sitters/<id>/belongings", operation_id="belongings", responses={200: w.BelongingsWire})
def get_belongings(path: w.IdPath) -> w.BelongingsWire:
    """What would go with a sitter who is erased."""
    with database().session() as session:
        plans, revisions = Sitters(session).belongings(path.id)
    return w.BelongingsWire(plans=plans, revisions=revisions)


@home.delete("/sitters/<id>", operation_id="erase_sitter", responses={200: w.BelongingsWire})
def delete_sitter(path: w.IdPath) -> w.BelongingsWire:
    """Erase a sitter with every plan and revision, for good; says what went. The kit stays."""
    with database().session() as session:
        sitters = Sitters(session)
        plans, revisions = sitters.belongings(path.id)
        gone = sitters.erase(path.id)
    remembered: Remembered = current_app.extensions["nabrel_remembered"]
    remembered.forget(gone)
    return w.BelongingsWire(plans=plans, revisions=revisions)


@home.get("/sitters/<id>/case", operation_id="export_case", responses={200: None})
def get_case_file(path: w.IdPath) -> Response:
    """The sitter's case file, with the whole shelf."""
    with database().session() as session:
        kept = Sitters(session).get(path.id)
        kit = Kit(session).all()
    return as_file(convert.case_to(present.case_of(kept, kit)), f"{kept.sitter.nickname}.case.json")


@home.post("/cases", operation_id="import_case", responses={201: w.ImportedWire})
def post_case() -> tuple[w.ImportedWire, int]:
    """Import a case file (JSON body): stores the sitter, takes in kit items the shelf lacks, and plans."""
    case = convert.case_from(read_case(taken_file("application/json")))
    sequence = replace(plan(case, house()), title=f"{case.sitter.nickname}, imported")
    with database().session() as session:
        sitter_id, added = take_in_case(session, case)
        sequence_id = Sequences(session).add(sitter_id, sequence)
    return w.ImportedWire(sitter_id=sitter_id, sequence_id=sequence_id, kit_added=len(added)), 201


@layer.post("/sitters/<id>/sequences", operation_id="plan", responses={201: w.WorkbenchWire})
def post_sequence(path: w.IdPath, query: w.KitQuery, body: w.IntentChange) -> tuple[w.WorkbenchWire, int]:
    """Plan a sitter anew, with their intent and any changes to it, from the whole shelf or a named kit."""
    with database().session() as session:
        kept = Sitters(session).get(path.id)
        case = present.case_of(kept, _shelf(session, query.kit))
        case = replace(case, intent=_changed(case.intent, body))
        sequence = replace(plan(case, house()), title=kept.sitter.nickname)
        sequence_id = Sequences(session).add(kept.id, sequence)
        stored = Sequences(session).get(sequence_id)
    return present.workbench(stored, evaluated(stored)), 201


def _shelf(session: Session, kit: str | None) -> tuple[Product, ...]:
    """The whole shelf, or the items of a named kit."""
    items = Kit(session).all()
    if kit is None:
        return items
    wanted = set(NamedKits(session).get(kit).items)
    return tuple(item for item in items if item.id in wanted)


@layer.post("/sequences/<id>/runs", operation_id="record_run", responses={201: w.RunWire})
def post_run(path: w.IdPath, body: w.RunBody) -> tuple[w.RunWire, int]:
    """Record that the standing plan was done today: packs lose what it took, and its tools are used."""
    with database().session() as session:
        Sequences(session).stands(path.id, body.revision)
        run = Runs(session).record(path.id, date.today(), body.sitters)
        low = [item.name for item in Kit(session).all() if standing(item, date.today(), house()).low]
    return w.RunWire(day=run.day, items=len(run.taken), low=low), 201


@layer.get("/sequences/<id>", operation_id="workbench", responses={200: w.WorkbenchWire})
def get_workbench(path: w.IdPath, query: w.LightQuery) -> w.WorkbenchWire:
    """A sequence with everything computed from it, seen under a light."""
    stored = stored_sequence(path.id)
    return present.workbench(stored, evaluated(stored, query.light))


@layer.get("/sequences/<id>/file", operation_id="export_sequence", responses={200: None})
def get_sequence_file(path: w.IdPath) -> Response:
    """The sequence file."""
    stored = stored_sequence(path.id)
    name = f"{stored.sequence.case.sitter.nickname}-{stored.sequence.school}.sequence.json"
    return as_file(convert.sequence_to(stored.sequence), name)


@layer.post("/sequences/<id>/edits", operation_id="edit", responses={200: w.WorkbenchWire})
def post_edits(path: w.IdPath, query: w.LightQuery, body: w.EditsBody) -> w.WorkbenchWire:
    """Apply edits made on a revision; answers with everything recomputed and what changed."""
    with database().session() as session:
        sequences = Sequences(session)
        sequences.stands(path.id, body.revision)
        stored = sequences.get(path.id)
        before = evaluated(stored, query.light)
        edits = [convert.edit_from(edit) for edit in body.edits]
        edited = apply(stored.sequence, edits, before.products, house())
        said = dict.fromkeys(say(stored.sequence, edit, before.products) for edit in edits)
        says = "; ".join(list(said)[:3])
        now = sequences.save(path.id, body.revision, edited, says)
    after = evaluated(now, query.light, before)
    return present.workbench(now, after, compare(before, after))


@layer.post("/sequences/<id>/undo", operation_id="undo", responses={200: w.WorkbenchWire})
def post_undo(path: w.IdPath, query: w.LightQuery, body: w.RevisionBody) -> w.WorkbenchWire:
    """Take back the last change."""
    return _walk(path.id, body.revision, query.light, back=True)


@layer.post("/sequences/<id>/redo", operation_id="redo", responses={200: w.WorkbenchWire})
def post_redo(path: w.IdPath, query: w.LightQuery, body: w.RevisionBody) -> w.WorkbenchWire:
    """Bring a change back."""
    return _walk(path.id, body.revision, query.light, back=False)


@layer.post("/sequences/<id>/preview", operation_id="preview", responses={200: w.PreviewWire})
def post_preview(path: w.IdPath, body: w.IntentChange) -> w.PreviewWire:
    """What planning with a changed intent would bring; nothing is stored."""
    stored = stored_sequence(path.id)
    before = evaluated(stored)
    after = evaluated_today(replanned(stored.sequence, body))
    return present.preview(against(before, after))


@layer.post("/sequences/<id>/replan", operation_id="replan", responses={200: w.WorkbenchWire})
def post_replan(path: w.IdPath, query: w.LightQuery, body: w.ReplanBody) -> w.WorkbenchWire:
    """Plan anew with a changed intent, as a new revision: undo brings the former plan back."""
    with database().session() as session:
        sequences = Sequences(session)
        sequences.stands(path.id, body.revision)
        stored = sequences.get(path.id)
        planned = replanned(stored.sequence, body)
        now = sequences.save(path.id, body.revision, planned, _replan_says(body))
    before = evaluated(stored, query.light)
    after = evaluated(now, query.light)
    return present.workbench(now, after, compare(before, after))


@layer.get("/sequences/<id>/steps/<step>/candidates", operation_id="candidates", responses={200: w.CandidateList})
def get_candidates(path: w.StepPath, query: w.ZoneQuery) -> w.CandidateList:
    """Products that could take this step's place, each with what it would do on this face."""
    now = evaluated(stored_sequence(path.id), query.light)
    found = substitutes(now, path.step, house(), query.zone)
    shown = present.swatches({each.product.id: each.product for each in found})
    own = next((each.product for each in found if each.current), None)
    mix = mix_instead(now, own.id, house()) if own is not None and own.role == "foundation" else None
    return w.CandidateList(
        candidates=[_candidate(each, shown.get(each.product.id, "#808080")) for each in found],
        mix=None if mix is None else convert.recipe_to(mix.smallest),
    )


def _candidate(found: Substitute, swatch: str) -> w.CandidateWire:
    beneath, result, finished = to_hex(np.array([found.beneath, found.lab, found.finished]))
    return w.CandidateWire(
        product=convert.product_to(found.product),
        swatch=swatch,
        zone=found.zone,
        beneath_hex=beneath,
        result_hex=result,
        result_de=round(found.de, 1),
        finished_hex=finished,
        look_de=round(found.look_de, 1),
        shade_shows=None if found.shade_shows is None else round(found.shade_shows, 1),
        worst_cake=round(found.worst_cake, 3),
        cost_change=None if found.cost_change is None else round(found.cost_change, 2),
        beads=found.beads,
        agreement=found.agreement,
        current=found.current,
        edits=[convert.edit_to(edit) for edit in found.edits],
    )


def stored_sequence(sequence_id: str) -> KeptSequence:
    """A stored sequence at its head."""
    with database().session() as session:
        return Sequences(session).get(sequence_id)


def _walk(sequence_id: str, revision: int, light: Light, *, back: bool) -> w.WorkbenchWire:
    with database().session() as session:
        sequences = Sequences(session)
        sequences.stands(sequence_id, revision)
        stored = sequences.get(sequence_id)
        if back:
            sequences.undo(sequence_id)
        else:
            sequences.redo(sequence_id)
        now = sequences.get(sequence_id)
    before = evaluated(stored, light)
    after = evaluated(now, light, before)
    return present.workbench(now, after, compare(before, after))


def _changed(intent: Intent, change: w.IntentChange) -> Intent:
    """The intent with what was given changed; options and climate one by one."""
    given = change.model_dump(exclude={"revision", "options", "climate"}, exclude_none=True)
    if change.options is not None:
        given["options"] = replace(intent.options, **change.options.model_dump(exclude_unset=True))
    if change.climate is not None:
        given["climate"] = Climate(**change.climate.model_dump())
    if "lights" in given:
        given["lights"] = tuple(dict.fromkeys(given["lights"]))
    return replace(intent, **given)


def replanned(sequence: Sequence, change: w.IntentChange) -> Sequence:
    """The sequence planned anew with a changed intent; what was accepted stays accepted."""
    intent = _changed(replace(sequence.case.intent, school=sequence.school), change)
    planned = plan(replace(sequence.case, intent=intent), house())
    return replace(planned, title=sequence.title, accepted=sequence.accepted)


def _replan_says(change: w.IntentChange) -> str:
    said = []
    if change.school:
        said.append(SCHOOL_WORDS[change.school])
    if change.setting:
        said.append(f"set {SETTING_WORDS[change.setting].lower()}")
    plain = change.model_dump(exclude={"revision", "school", "setting", "options", "climate"}, exclude_none=True)
    said += [f"{name.replace('_', ' ')} {value}" for name, value in plain.items()]
    if change.options is not None:
        chosen = change.options.model_dump(exclude_unset=True)
        said += [f"{name} {value}".replace("_", " ") for name, value in chosen.items()]
    if change.climate is not None:
        said.append(f"{change.climate.temperature_c:g} °C, {change.climate.humidity_percent:g} % humidity")
    return "Planned anew: " + (", ".join(said) or "same wishes")


def as_file(model: BaseModel, name: str) -> Response:
    """A model as a JSON file of this name."""
    text = json.dumps(model.model_dump(mode="json", exclude_none=True), indent=1, ensure_ascii=False)
    return download(text + "\n", name, "application/json")


def taken_file(*kinds: str) -> bytes:
    """The body as the file it is. Refuses other kinds of content, and compression."""
    if request.mimetype not in kinds:
        raise UnsupportedType("Content-Type", request.mimetype or "nothing", " or ".join(kinds))
    if request.headers.get("Content-Encoding", "identity") != "identity":
        raise UnsupportedType("Content-Encoding", request.headers["Content-Encoding"], "no compression")
    return request.get_data()


def download(text: str | bytes, name: str, mimetype: str) -> Response:
    """A text as a file of this name, whatever is in the name."""
    safe = re.sub(r"[^A-Za-z0-9._-]+", "-", name).strip("-.") or "nabrel.json"
    return Response(text, mimetype=mimetype, headers={"Content-Disposition": f'attachment; filename="{safe}"'})
