"""The Wear room over HTTP: a base is put on and looked at."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta

from flask import Response

from nabrel.core.ask.noted import Noted, noted_edits
from nabrel.core.errors import Refused
from nabrel.core.learn.wear_trial import SIDES
from nabrel.core.terms.words import SECONDS_A_MINUTE
from nabrel.formats.wear import Worn
from nabrel.store.repositories import Sequences, Sitters
from nabrel.store.versions import moment
from nabrel.store.wear import Wears
from nabrel.store.wear_trial import Trials
from nabrel.web.shared import wire as w
from nabrel.web.shared.endpoints import Endpoints
from nabrel.web.shared.requests import (
    clock,
    database,
    evaluated,
    house,
    stored_sequence,
)
from nabrel.web.wear import answers as ww
from nabrel.web.wear.present import worn_wire

wear_room = Endpoints("wear", __name__, url_prefix="/api", tag="wear")

A_DAY = timedelta(days=1)
MINUTES_AN_HOUR = 60
CLOCKS_APART_MIN = 2
"""So many minutes the clock of whoever looks may be ahead of the server's."""
MOST_NOTED = 5
"""So many notes for the next time are brought up: older ones were acted on, or not."""


def _has_come(field: str, found: object, worn: Worn, after_min: float) -> None:
    """Refuse a look at a time that has not come by the server's clock."""
    since_min = (clock() - datetime.fromisoformat(worn.from_)).total_seconds() / SECONDS_A_MINUTE
    if after_min > since_min + CLOCKS_APART_MIN:
        late = f"{after_min / MINUTES_AN_HOUR:g} h" if after_min >= MINUTES_AN_HOUR else f"{after_min:g} min"
        raise Refused(
            field,
            found,
            f"a time that has come: {late} after it was put on is still to come. Where it was put on earlier, change that first",
        )


@wear_room.post("/sequences/<id>/wears", "wear", 201)
def post_wear(path: w.IdPath, body: ww.WornBody) -> ww.WearWire:
    """A base was put on: its forecast is kept, and looks may follow."""
    worn = Worn(
        from_=body.worn_from or moment(),
        temperature_c=body.temperature_c,
        humidity_pc=body.humidity_pc,
    )
    with database().session() as session:
        saved = Wears(session).begin(path.id, worn, house(), body.run)
    return worn_wire(saved)


@wear_room.get("/wears", "wears")
def get_wears(query: ww.WearsListQuery) -> ww.WearsWire:
    """How bases wore, newest first: a hundred at a time."""
    with database().session() as session:
        if query.sitter is not None:
            Sitters(session).get(query.sitter)
        wears = Wears(session)
        rows = wears.listed(query.sitter, query.sign, query.skip)
        total, owners = wears.counted(query.sitter, query.sign), wears.owners()
    return ww.WearsWire(
        wears=rows,
        total=total,
        owners=[w.Named(id=key, name=nickname) for key, nickname in owners],
    )


@wear_room.get("/sequences/<id>/next-time", "next_time")
def get_next_time(path: w.IdPath) -> ww.NextTimesWire:
    """What was noted for the next time with the sitter of this plan, newest first, and what of it can be done in the plan."""
    stored = stored_sequence(path.id)
    with database().session() as session:
        records = Wears(session).all(stored.sitter_id)
    noted = [(saved, look) for saved in records for look in reversed(saved.looks) if look.next_time][:MOST_NOTED]
    now = evaluated(stored) if noted else None
    return ww.NextTimesWire(
        notes=[
            ww.NextTimeWire(
                wear_id=saved.id,
                worn_from=saved.worn.from_,
                after_min=look.after_min,
                says=look.next_time,
                offers=[] if now is None else [_offer(each) for each in noted_edits(look.next_time, now, house())],
            )
            for saved, look in noted
        ]
    )


def _offer(noted: Noted) -> ww.OfferWire:
    come = noted.trial.come
    return ww.OfferWire(says=noted.says, edits=list(noted.edits), comes=come[0].says if come else None)


@wear_room.get("/short/<code>", "short")
def get_short(path: ww.CodePath) -> ww.ShortWire:
    """What the short address on a sheet leads to."""
    with database().session() as session:
        stored = Sequences(session).get(Sequences(session).called(path.code))
        worn = Wears(session).of([stored.id])
    newest = worn[-1] if worn else None
    fresh = newest is not None and datetime.now(UTC) - datetime.fromisoformat(newest.worn.from_) <= A_DAY
    return ww.ShortWire(
        plan_id=stored.id,
        nickname=stored.sequence.case.sitter.nickname,
        title=stored.sequence.title or stored.sequence.case.sitter.nickname,
        wear_id=newest.id if newest is not None and fresh else None,
    )


@wear_room.get("/wears/<id>", "wear_record")
def get_wear(path: w.IdPath) -> ww.WearWire:
    """How one base wore: forecast against seen."""
    with database().session() as session:
        saved = Wears(session).get(path.id)
    return worn_wire(saved)


@wear_room.put("/wears/<id>/look", "look")
def put_look(path: w.IdPath, body: ww.LookBody) -> ww.WearWire:
    """Keep a look; sent twice it counts once. On a half of a trial it serves both halves."""
    with database().session() as session:
        saved = Wears(session).get(path.id)
        _has_come("look.after_min", body.look.after_min, saved.worn, body.look.after_min)
        if saved.trial is not None and saved.trial.side in SIDES["halves"]:
            both = Trials(session).look(saved, body.look)
            saved = next(each for each in both if each.id == path.id)
        else:
            saved = Wears(session).look(path.id, body.look)
    return worn_wire(saved)


@wear_room.delete("/wears/<id>/look", "forget_look")
def delete_look(path: w.IdPath, query: ww.MinuteQuery) -> ww.WearWire:
    """Forget a look."""
    with database().session() as session:
        saved = Wears(session).unlook(path.id, query.after_min)
    return worn_wire(saved)


@wear_room.put("/wears/<id>/verdict", "verdict")
def put_verdict(path: w.IdPath, body: ww.VerdictBody) -> ww.WearWire:
    """Keep what the sitter says in the end."""
    with database().session() as session:
        saved = Wears(session).say(path.id, body.verdict)
    return worn_wire(saved)


@wear_room.put("/wears/<id>/day", "worn_on")
def put_day(path: w.IdPath, body: ww.DayBody) -> ww.WearWire:
    """It was put on at another moment or on another kind of day: the forecast becomes that day's."""
    with database().session() as session:
        looks = Wears(session).get(path.id).looks
        if looks:
            _has_come("worn.from", body.worn.from_, body.worn, max(look.after_min for look in looks))
        saved = Wears(session).worn_on(path.id, body.worn, house())
    return worn_wire(saved)


@wear_room.delete("/wears/<id>", "forget_wear", 204)
def delete_wear(path: w.IdPath) -> Response:
    """Forget a record."""
    with database().session() as session:
        Wears(session).remove(path.id)
    return Response(status=204)
