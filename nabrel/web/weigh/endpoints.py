"""Versions of a plan, and the Weigh room: candidates on one face, side by side."""

from __future__ import annotations

from dataclasses import replace
from datetime import date

from nabrel.core.ask.compare import Difference, compare
from nabrel.core.ask.recommend import rank
from nabrel.core.ask.weigh import weigh
from nabrel.core.house import House
from nabrel.core.judge.evaluate import Evaluation, evaluate, products_of
from nabrel.core.plan.sequence import Sequence
from nabrel.core.terms.ids import Light
from nabrel.formats.values import filled
from nabrel.store.repositories import Sequences
from nabrel.web.shared import present
from nabrel.web.shared import wire as w
from nabrel.web.shared.endpoints import Endpoints
from nabrel.web.shared.remembered import as_of
from nabrel.web.shared.requests import database, evaluated, evaluated_today, heavy, house, shelf, stored_sequence
from nabrel.web.weigh import answers as ww
from nabrel.web.weigh.candidates import meant, words_for

weigh_room = Endpoints("weigh", __name__, url_prefix="/api", tag="weigh")


@weigh_room.get("/sequences/<id>/versions", "versions")
def get_versions(path: w.IdPath) -> ww.VersionList:
    """Every revision of a plan, the newest first; some have a name."""
    with database().session() as session:
        return _versions(Sequences(session), path.id)


@weigh_room.put("/sequences/<id>/versions/<number>", "name_version")
def put_version(path: w.RevisionPath, body: ww.VersionBody) -> ww.VersionList:
    """Give a revision a name to be found by; without one it loses the name it had."""
    with database().session() as session:
        sequences = Sequences(session)
        sequences.call(path.id, path.number, body.name.strip() or None)
        return _versions(sequences, path.id)


@weigh_room.get("/sequences/<id>/versions/<number>/difference", "version_difference")
def get_difference(path: w.RevisionPath, query: ww.UntilQuery) -> Difference:
    """What changed from a version to another one, or to the plan as it stands."""
    with database().session() as session:
        sequences = Sequences(session)
        then = sequences.at(path.id, path.number)
        until = sequences.at(path.id, query.until) if query.until is not None else None
    after = evaluated_today(until) if until is not None else evaluated(stored_sequence(path.id))
    return compare(evaluated_today(then), after)


@weigh_room.post("/sequences/<id>/versions/<number>/take", "take_version")
def post_take(path: w.RevisionPath, query: w.LightQuery, body: w.RevisionBody) -> w.WorkbenchWire:
    """Bring a version back as a new revision; undo returns to the plan as it stood."""
    with database().session() as session:
        sequences = Sequences(session)
        sequences.assert_head_revision(path.id, body.revision)
        before = evaluated(sequences.get(path.id), query.light)
        named = next((each.name for each in sequences.versions(path.id) if each.number == path.number), None)
        sequences.save(
            path.id, body.revision, sequences.at(path.id, path.number), f"Back to {named or f'revision {path.number}'}"
        )
        now = sequences.get(path.id)
    after = evaluated(now, query.light)
    return present.workbench(now, after, compare(before, after))


@weigh_room.post("/sequences/<id>/weigh", "weigh")
def post_weigh(path: w.IdPath, body: ww.WeighBody) -> ww.WeighWire:
    """Candidates on one face, each whole, with the figures in which they differ; nothing is stored."""
    stored = stored_sequence(path.id)
    sequences = [meant(stored, spec) for spec in body.candidates]
    asked = [(sequence, spec.light) for sequence, spec in zip(sequences, body.candidates, strict=True)]
    found = heavy(
        "candidates", _all_seen, [(as_of(each, date.today(), shelf()), light) for each, light in asked], house()
    )
    ranked = rank(found)
    reasons = {each.place: each for each in ranked}
    return ww.WeighWire(
        revision=stored.revision,
        foundations=[
            w.Named(id=item.id, name=item.name)
            for item in products_of(stored.sequence, found[0].reading).values()
            if item.role == "foundation"
        ],
        candidates=[
            ww.WeighedWire(
                words=words_for(stored, spec),
                plan=present.workbench(replace(stored, sequence=seen.sequence), seen),
                current=sequences[place] == stored.sequence,
                speaks_for=list(reasons[place].speaks_for),
                speaks_against=list(reasons[place].speaks_against),
            )
            for place, (spec, seen) in enumerate(zip(body.candidates, found, strict=True))
        ],
        figures=[*weigh(found)],
        recommended=ranked[0].place,
        as_good=sorted(each.place for each in ranked if each.as_good),
        says=ranked[0].says,
    )


@weigh_room.post("/sequences/<id>/weigh/take", "take_weighed")
def post_take_weighed(path: w.IdPath, query: w.LightQuery, body: ww.TakeWeighedBody) -> w.WorkbenchWire:
    """Make a candidate the plan, as a new revision."""
    with database().session() as session:
        sequences = Sequences(session)
        sequences.assert_head_revision(path.id, body.revision)
        stored = sequences.get(path.id)
        chosen = meant(stored, body.candidate)
        if chosen != stored.sequence:
            sequences.save(path.id, body.revision, chosen, f"Weighed: {words_for(stored, body.candidate)}"[:300])
        now = sequences.get(path.id)
    before, after = evaluated(stored, query.light), evaluated(now, query.light)
    return present.workbench(now, after, compare(before, after))


def _versions(sequences: Sequences, sequence_id: str) -> ww.VersionList:
    return ww.VersionList(
        versions=[
            filled(ww.VersionWire, each, made=each.made.isoformat(timespec="minutes"))
            for each in sequences.versions(sequence_id)
        ]
    )


def _all_seen(asked: list[tuple[Sequence, Light]], house: House) -> list[Evaluation]:
    return [evaluate(sequence, house, light) for sequence, light in asked]
