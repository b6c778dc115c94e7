"""The Layer room: a plan with everything computed from it, edited, planned anew, undone."""

from __future__ import annotations

from dataclasses import replace
from datetime import date
from typing import Any

import numpy as np
from flask import Response
from sqlalchemy.orm import Session

from nabrel.core.ask.compare import compare
from nabrel.core.ask.recommend import plan_on
from nabrel.core.ask.substitute import Substitute, mix_for, substitutes
from nabrel.core.ask.trial import against
from nabrel.core.base.possible import apply_edits
from nabrel.core.case.intent import Intent, Options
from nabrel.core.case.product import Product
from nabrel.core.film.spectra import to_hex
from nabrel.core.plan.edits import say
from nabrel.core.plan.sequence import Sequence
from nabrel.core.shelf.age import standing
from nabrel.core.terms.ids import Light
from nabrel.core.terms.limits import MOST_ACCEPTED
from nabrel.core.terms.looks import SETTING_INFO
from nabrel.core.terms.places import places
from nabrel.core.terms.schools import SCHOOL_INFO
from nabrel.core.terms.words import join_words
from nabrel.formats.answers import recipe_to
from nabrel.formats.checks import check_edits, check_intent
from nabrel.formats.files import SequenceFile
from nabrel.formats.values import dumped_value, filled, value_of
from nabrel.store.repositories import Kit, Sequences, Sitters
from nabrel.store.run import Runs
from nabrel.store.shelf import NamedKits
from nabrel.web.shared import present
from nabrel.web.shared import wire as w
from nabrel.web.shared.endpoints import Endpoints
from nabrel.web.shared.requests import (
    as_file,
    database,
    evaluated,
    evaluated_today,
    house,
    stored_sequence,
)

layer = Endpoints("layer", __name__, url_prefix="/api", tag="layer")


@layer.post("/sitters/<id>/sequences", "plan", 201)
def post_sequence(path: w.IdPath, query: w.KitQuery, body: w.IntentChange) -> w.WorkbenchWire:
    """Plan a sitter anew, with their intent and any changes to it, from the whole shelf or a named kit."""
    with database().session() as session:
        saved = Sitters(session).get(path.id)
        case = present.case_of(saved, _shelf(session, query.kit))
        case = replace(case, intent=_changed(case.intent, body))
        sequence = replace(plan_on(date.today(), case, house()), title=saved.sitter.nickname)
        sequence_id = Sequences(session).add(saved.id, sequence)
        stored = Sequences(session).get(sequence_id)
    return present.workbench(stored, evaluated(stored))


def _shelf(session: Session, kit: str | None) -> tuple[Product, ...]:
    """The whole shelf, or the items of a named kit."""
    items = Kit(session).all()
    if kit is None:
        return items
    wanted = set(NamedKits(session).get(kit).items)
    return tuple(item for item in items if item.id in wanted)


@layer.post("/sequences/<id>/runs", "record_run", 201)
def post_run(path: w.IdPath, body: w.RunBody) -> w.RunWire:
    """Record that the standing plan was done today: packs lose what it took, and its tools are used."""
    with database().session() as session:
        Sequences(session).assert_head_revision(path.id, body.revision)
        run = Runs(session).record(path.id, date.today(), house(), body.sitters)
        low = [item.name for item in Kit(session).all() if standing(item, date.today(), house()).low]
    return w.RunWire(day=run.day, items=len(run.taken), low=low)


@layer.get("/sequences/<id>", "workbench")
def get_workbench(path: w.IdPath, query: w.LightQuery) -> w.WorkbenchWire:
    """A sequence with everything computed from it, seen under a light."""
    stored = stored_sequence(path.id)
    return present.workbench(stored, evaluated(stored, query.light))


@layer.get("/sequences/<id>/file", "export_sequence")
def get_sequence_file(path: w.IdPath) -> Response:
    """The sequence file."""
    stored = stored_sequence(path.id)
    name = f"{stored.sequence.case.sitter.nickname}-{stored.sequence.school}.sequence.json"
    return as_file(SequenceFile.of(stored.sequence, {d.step.id: d.take for d in evaluated(stored).course.done}), name)


@layer.post("/sequences/<id>/edits", "edit")
def post_edits(path: w.IdPath, query: w.LightQuery, body: w.EditsBody) -> w.WorkbenchWire:
    """Apply edits made on a revision; answers with everything recomputed and what changed."""
    with database().session() as session:
        sequences = Sequences(session)
        sequences.assert_head_revision(path.id, body.revision)
        stored = sequences.get(path.id)
        before = evaluated(stored, query.light)
        edits = check_edits(body.edits)
        edited = apply_edits(stored.sequence, edits, before.products)
        said = dict.fromkeys(say(stored.sequence, edit, before.products) for edit in edits)
        says = "; ".join(list(said)[:3])
        now = sequences.save(path.id, body.revision, edited, says)
    after = evaluated(now, query.light, before)
    return present.workbench(now, after, compare(before, after))


@layer.post("/sequences/<id>/undo", "undo")
def post_undo(path: w.IdPath, query: w.LightQuery, body: w.RevisionBody) -> w.WorkbenchWire:
    """Take back the last change."""
    return _walk(path.id, body.revision, query.light, back=True)


@layer.post("/sequences/<id>/redo", "redo")
def post_redo(path: w.IdPath, query: w.LightQuery, body: w.RevisionBody) -> w.WorkbenchWire:
    """Bring a change back."""
    return _walk(path.id, body.revision, query.light, back=False)


@layer.post("/sequences/<id>/preview", "preview")
def post_preview(path: w.IdPath, body: w.IntentChange) -> w.PreviewWire:
    """What planning with a changed intent would bring; nothing is stored."""
    stored = stored_sequence(path.id)
    before = evaluated(stored)
    after = evaluated_today(replanned(stored.sequence, body))
    return present.preview(against(before, after))


@layer.post("/sequences/<id>/replan", "replan")
def post_replan(path: w.IdPath, query: w.LightQuery, body: w.ReplanBody) -> w.WorkbenchWire:
    """Plan anew with a changed intent, as a new revision: undo brings the former plan back."""
    with database().session() as session:
        sequences = Sequences(session)
        sequences.assert_head_revision(path.id, body.revision)
        stored = sequences.get(path.id)
        planned = replanned(stored.sequence, body)
        now = sequences.save(path.id, body.revision, planned, _replan_says(body))
    before = evaluated(stored, query.light)
    after = evaluated(now, query.light)
    return present.workbench(now, after, compare(before, after))


@layer.get("/sequences/<id>/steps/<step>/candidates", "candidates")
def get_candidates(path: w.StepPath, query: w.ZoneQuery) -> w.CandidateList:
    """Products that could take this step's place, each with what it would do on this face."""
    now = evaluated(stored_sequence(path.id), query.light)
    found = substitutes(now, path.step, house(), query.zone)
    shown = present.swatches({each.product.id: each.product for each in found})
    own = next((each.product for each in found if each.current), None)
    mix = mix_for(now, own.id, house()) if own is not None and own.role == "foundation" else None
    return w.CandidateList(
        candidates=[_candidate(each, shown.get(each.product.id, "#808080")) for each in found],
        mix=None if mix is None else recipe_to(mix.smallest),
    )


def _candidate(found: Substitute, swatch: str) -> w.CandidateWire:
    beneath, result, finished = to_hex(np.array([found.beneath, found.lab, found.finished]))
    return filled(
        w.CandidateWire,
        found,
        swatch=swatch,
        beneath_hex=beneath,
        result_hex=result,
        result_de=round(found.de, 1),
        finished_hex=finished,
    )


def _walk(sequence_id: str, revision: int, light: Light, *, back: bool) -> w.WorkbenchWire:
    with database().session() as session:
        sequences = Sequences(session)
        sequences.assert_head_revision(sequence_id, revision)
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
    """The intent with what was given changed, options one by one; null is back to what is usual."""
    usual = Intent()
    given = {
        name: getattr(usual if getattr(change, name) is None else change, name)
        for name in change.model_fields_set - {"revision", "options"}
    }
    if "options" in change.model_fields_set:
        options = dumped_value(intent.options if change.options is not None else usual.options)
        for name, way in (change.options or {}).items():
            options[name] = getattr(usual.options, name, None) if way is None else way
        given["options"] = value_of(Options, options, "options")
    if "lights" in given:
        given["lights"] = tuple(dict.fromkeys(given["lights"]))
    return check_intent(replace(intent, **given), "")


def replanned(sequence: Sequence, change: w.IntentChange) -> Sequence:
    """The sequence planned anew with a changed intent; what was accepted stays accepted."""
    intent = _changed(replace(sequence.case.intent, school=sequence.school), change)
    planned = plan_on(date.today(), replace(sequence.case, intent=intent), house())
    accepted = {(each.rule, each.zones): each for each in (*planned.accepted, *sequence.accepted)}
    return replace(planned, title=sequence.title, accepted=tuple(accepted.values())[:MOST_ACCEPTED])


def _in_words(name: str, value: Any) -> str:
    """One changed wish as it is called on screen."""
    if name == "effects":
        asked = (f"{region} {effect}" for region, effects in value.items() for effect in effects)
        return join_words(asked) or "none"
    if name in ("correct_anyway", "bake_zones"):
        return places(value) if value else "nowhere"
    if isinstance(value, (list, tuple)):
        return join_words(str(each).replace("_", " ") for each in value) or "none"
    return str(value).replace("_", " ")


def _replan_says(change: w.IntentChange) -> str:
    said = []
    if change.school:
        said.append(SCHOOL_INFO[change.school].words)
    if change.setting:
        said.append(f"set {SETTING_INFO[change.setting].words.lower()}")
    plain = change.model_dump(exclude={"revision", "school", "setting", "options", "climate"}, exclude_none=True)
    said += [f"{name.replace('_', ' ')} {_in_words(name, value)}" for name, value in plain.items()]
    unset = sorted(name for name in change.model_fields_set if getattr(change, name) is None)
    said += [f"{name.replace('_', ' ')} as usual" for name in unset]
    if change.options is not None:
        chosen = change.options
        said += [f"{name} {'as usual' if way is None else way}".replace("_", " ") for name, way in chosen.items()]
    if change.climate is not None:
        said.append(f"{change.climate.temperature_c:g} °C, {change.climate.humidity_percent:g} % humidity")
    return "Planned anew: " + (", ".join(said) or "same wishes")
