"""Trials over HTTP: two candidates of the Weigh room, worn on the halves of one face or on two days."""

from __future__ import annotations

from flask import Response
from sqlalchemy.orm import Session

from nabrel.core.errors import Refused
from nabrel.core.learn.wear_trial import SIDES, Side, differs, graded, results
from nabrel.core.terms.effects import ABOUT_INFO
from nabrel.core.terms.schools import SCHOOL_INFO
from nabrel.formats.values import filled
from nabrel.formats.wear import Worn
from nabrel.formats.workspace import StoredTrial
from nabrel.store.plans import Plans
from nabrel.store.repositories import Sequences, StoredSequence
from nabrel.store.versions import moment
from nabrel.store.wear_trial import Trials, Way
from nabrel.web.shared import wire as w
from nabrel.web.shared.endpoints import Endpoints
from nabrel.web.shared.requests import database, evaluated_today, house, stored_sequence
from nabrel.web.wear import answers as ww
from nabrel.web.weigh.answers import CandidateSpec
from nabrel.web.weigh.candidates import meant, words_for

wear_trials = Endpoints("wear_trials", __name__, url_prefix="/api", tag="wear")
SIDE_WORDS: dict[Side, str] = {
    "left": "Left half", "right": "Right half", "first": "First way", "second": "Second way",
}  # fmt: skip


@wear_trials.post("/sequences/<id>/trials", "begin_trial", 201)
def post_trial(path: w.IdPath, body: ww.WearTrialBody) -> ww.WearTrialWire:
    """Set up a trial of two candidates; both are kept beside the plan."""
    stored = stored_sequence(path.id)
    first, second = (_way(stored, spec) for spec in body.candidates)
    with database().session() as session:
        trial = Trials(session).begin(path.id, (first, second), body.how)
        return _wire(session, trial)


@wear_trials.get("/trials", "trials")
def get_trials(query: ww.WearTrialsQuery) -> ww.WearTrialsWire:
    """What is on trial, newest first."""
    with database().session() as session:
        plans = {row.id: row for row in Plans(session).all()}
        if query.plan is not None and query.plan not in plans:
            raise Refused("plan", query.plan, "the id of a plan that is kept")
        found = [trial for trial in Trials(session).all() if query.plan in (None, trial.plan)]
    return ww.WearTrialsWire(
        trials=[
            ww.WearTrialRowWire(
                trial_id=trial.id,
                plan_id=trial.plan,
                nickname=plans[trial.plan].nickname,
                title=plans[trial.plan].title,
                how=trial.how,
                ways=list(trial.words),
                made=trial.made,
            )
            for trial in found
        ]
    )


@wear_trials.get("/trials/<id>", "trial")
def get_trial(path: w.IdPath) -> ww.WearTrialWire:
    """One trial, and what it says by now."""
    with database().session() as session:
        return _wire(session, Trials(session).get(path.id))


@wear_trials.post("/trials/<id>/wears", "put_on_trial", 201)
def post_put_on(path: w.IdPath, body: ww.PutOnBody) -> ww.WearTrialWire:
    """Both halves were put on, or one of the two ways on its day."""
    worn = Worn(from_=body.worn_from or moment())
    with database().session() as session:
        trials = Trials(session)
        trials.put_on(path.id, worn, house(), body.side)
        return _wire(session, trials.get(path.id))


@wear_trials.delete("/trials/<id>", "forget_trial", 204)
def delete_trial(path: w.IdPath) -> Response:
    """Forget a trial; the records of its bases stay."""
    with database().session() as session:
        Trials(session).remove(path.id)
    return Response(status=204)


def _way(stored: StoredSequence, spec: CandidateSpec) -> Way:
    """A candidate, and what it is called for good: the plan that stands now will not always be the current one."""
    sequence = meant(stored, spec)
    current = sequence == stored.sequence
    return sequence, f"{SCHOOL_INFO[sequence.school].words}, as planned" if current else words_for(stored, spec)


def _wire(session: Session, trial: StoredTrial) -> ww.WearTrialWire:
    sequences, trials = Sequences(session), Trials(session)
    stored = sequences.get(trial.plan)
    ways = [sequences.at(trial.plan, revision) for revision in trial.revisions]
    first, second = (evaluated_today(way) for way in ways)
    found = differs(first, second, trial.how)
    pairs = [(one.wearing(ways[0]), other.wearing(ways[1])) for one, other in trials.pairs(trial)]
    return ww.WearTrialWire(
        trial_id=trial.id,
        plan_id=trial.plan,
        sitter_id=stored.sitter_id,
        nickname=stored.sequence.case.sitter.nickname,
        title=stored.sequence.title or stored.sequence.case.sitter.nickname,
        how=trial.how,
        ways=list(trial.words),
        sides=list(SIDES[trial.how]),
        side_words=[SIDE_WORDS[side] for side in SIDES[trial.how]],
        differs=[
            *found.says,
            *(
                f"{each.name}: {each.before:.{each.decimals}f} and {each.after:.{each.decimals}f} {each.unit}".strip()
                + "."
                for each in found.figures
            ),
        ],
        look_at=list(found.look_at),
        worn=[
            ww.TrialWearWire(wear_id=each.id, side=each.trial.side, worn_from=each.worn.from_, looks=len(each.looks))
            for each in trials.worn(trial)
            if each.trial is not None
        ],
        results=[
            filled(ww.TrialResultWire, each, words=ABOUT_INFO[each.about].words)
            for each in results(pairs, trial.how, trial.words)
        ],
        graded=list(graded(pairs, trial.how, trial.words)),
    )
