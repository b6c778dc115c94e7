"""The Wear room over HTTP: a base is put on, looked at, and what its looks teach."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import asdict
from itertools import islice

from flask import Response, g
from flask_openapi3.blueprint import APIBlueprint
from flask_openapi3.models.tag import Tag

from nabrel.core.errors import Refused
from nabrel.core.learn.consequences import consequence
from nabrel.core.learn.learnt import Learnt, Proposal, learn
from nabrel.core.learn.record import Hours
from nabrel.core.learn.seen import COMES, came_between, looked_at
from nabrel.core.terms.effects import ABOUT_INFO, OF_INFO
from nabrel.core.terms.ids import Region, WearSign, Zone
from nabrel.core.terms.limits import LIMITS
from nabrel.core.terms.looks import SCHOOL_INFO
from nabrel.core.terms.words import join_words
from nabrel.core.terms.zones import REGION_INFO, ZONE_INFO
from nabrel.formats.files import Evidence, SequenceFile, TakenOver
from nabrel.formats.wear import WearFile, Worn, learnt_to
from nabrel.formats.wear_csv import write_looks
from nabrel.formats.workspace import KeptWear
from nabrel.store.house_rules import HouseRules
from nabrel.store.plans import Plans
from nabrel.store.repositories import Kit, Sequences, Sitters
from nabrel.store.standing import moment
from nabrel.store.wears import Wears
from nabrel.web.shared import present
from nabrel.web.shared import wire as w
from nabrel.web.shared.requests import (
    REFUSALS,
    as_file,
    database,
    download,
    evaluated,
    evaluated_today,
    house,
    remembered,
)
from nabrel.web.wear import answers as ww

wear_room = APIBlueprint("wear", __name__, url_prefix="/api", abp_tags=[Tag(name="wear")], abp_responses=REFUSALS)

MOST_PLANS_SHOWN, MOST_PLANS_TRIED = 3, 100
MOST_NOTED = 5
"""So many notes for the next time are brought up: older ones were acted on, or not."""


@wear_room.post("/sequences/<id>/wears", operation_id="wear", responses={201: ww.WearWire})
def post_wear(path: w.IdPath, body: ww.WornBody) -> tuple[ww.WearWire, int]:
    """A base was put on: its forecast is kept, and looks may follow."""
    worn = Worn(
        from_=body.worn_from or moment(),
        temperature_c=body.temperature_c,
        humidity_pc=body.humidity_pc,
    )
    with database().session() as session:
        kept = Wears(session).begin(path.id, worn, house(), body.run)
    return _wire(kept), 201


@wear_room.get("/wears", operation_id="wears", responses={200: ww.WearsWire})
def get_wears(query: ww.WearsQuery) -> ww.WearsWire:
    """How bases wore, newest first."""
    with database().session() as session:
        if query.sitter is not None:
            Sitters(session).get(query.sitter)
        rows = Wears(session).listed(query.sitter)
    return ww.WearsWire(wears=[ww.WearRowWire(**{**asdict(row), "signs": list(row.signs)}) for row in rows])


@wear_room.get("/wears/table", operation_id="wears_table", responses={200: None})
def get_table(query: ww.WearsQuery) -> Response:
    """The looks of records as CSV, a row a zone that was looked at."""
    with database().session() as session:
        if query.sitter is not None:
            Sitters(session).get(query.sitter)
        wears = Wears(session)
        names = {row.wear_id: row.nickname for row in wears.listed(query.sitter)}
        return download(
            write_looks((names[kept.id], kept) for kept in wears.all(query.sitter)), "looks.csv", "text/csv"
        )


@wear_room.get("/sitters/<id>/next-time", operation_id="next_time", responses={200: ww.NextTimesWire})
def get_next_time(path: w.IdPath) -> ww.NextTimesWire:
    """What was noted for the next time with this sitter, newest first."""
    with database().session() as session:
        Sitters(session).get(path.id)
        records = Wears(session).all(path.id)
    noted = (
        ww.NextTimeWire(wear_id=kept.id, worn_from=kept.worn.from_, after_min=look.after_min, says=look.next_time)
        for kept in records
        for look in reversed(kept.looks)
        if look.next_time
    )
    return ww.NextTimesWire(notes=list(islice(noted, MOST_NOTED)))


@wear_room.get("/wears/<id>", operation_id="wear_record", responses={200: ww.WearWire})
def get_wear(path: w.IdPath) -> ww.WearWire:
    """How one base wore: forecast against seen."""
    with database().session() as session:
        kept = Wears(session).get(path.id)
    return _wire(kept)


@wear_room.put("/wears/<id>/look", operation_id="look", responses={200: ww.WearWire})
def put_look(path: w.IdPath, body: ww.LookBody) -> ww.WearWire:
    """Keep a look; sent twice it counts once."""
    with database().session() as session:
        kept = Wears(session).look(path.id, body.look)
    return _wire(kept)


@wear_room.delete("/wears/<id>/look", operation_id="forget_look", responses={200: ww.WearWire})
def delete_look(path: w.IdPath, query: ww.MinuteQuery) -> ww.WearWire:
    """Forget a look."""
    with database().session() as session:
        kept = Wears(session).unlook(path.id, query.after_min)
    return _wire(kept)


@wear_room.put("/wears/<id>/verdict", operation_id="verdict", responses={200: ww.WearWire})
def put_verdict(path: w.IdPath, body: ww.VerdictBody) -> ww.WearWire:
    """Keep what the sitter says in the end."""
    with database().session() as session:
        kept = Wears(session).say(path.id, body.verdict)
    return _wire(kept)


@wear_room.delete("/wears/<id>", operation_id="forget_wear", responses={204: None})
def delete_wear(path: w.IdPath) -> Response:
    """Forget a record."""
    with database().session() as session:
        Wears(session).remove(path.id)
    return Response(status=204)


@wear_room.get("/wears/<id>/file", operation_id="wear_file", responses={200: None})
def get_file(path: w.IdPath) -> Response:
    """A record as a file, with the plan as it was worked."""
    with database().session() as session:
        kept = Wears(session).get(path.id)
        sequence = Sequences(session).at(kept.plan, kept.revision)
    made = WearFile(
        sequence=SequenceFile.of(sequence),
        worn=kept.worn,
        looks=kept.looks,
        verdict=kept.verdict,
        forecast=kept.forecast,
        run=kept.run,
        trial=kept.trial,
    )
    return as_file(made, f"{sequence.case.sitter.nickname}-{kept.worn.from_[:10]}.wear.json")


@wear_room.get("/learnt", operation_id="learnt", responses={200: ww.LearntWire})
def get_learnt() -> ww.LearntWire:
    """What all records teach. Nothing is changed by it."""
    return _learnt_wire()


@wear_room.post("/learnt/consequences", operation_id="consequences", responses={200: ww.ConsequencesWire})
def post_consequences(body: ww.ProposalBody) -> ww.ConsequencesWire:
    """What one proposal would change in the plans that it says anything of."""
    factor = _proposed(body.parameter).factor
    with database().session() as session:
        rows = [row for row in Plans(session).all() if factor.of != "sitter" or row.nickname == factor.id]
        plans = ((row, Sequences(session).get(row.id).sequence) for row in rows[:MOST_PLANS_TRIED])
        told = ((row, consequence(sequence, house(), factor)) for row, sequence in plans)
        found = (
            ww.ConsequenceWire(plan_id=row.id, title=row.title, nickname=row.nickname, says=list(each.says))
            for row, each in told
            if each is not None
        )
        return ww.ConsequencesWire(plans=list(islice(found, MOST_PLANS_SHOWN)))


@wear_room.post("/learnt/taken-over", operation_id="take_over", responses={200: ww.LearntWire})
def post_taken_over(body: ww.TakeOverBody) -> ww.LearntWire:
    """Agree to a proposal: from now on forecasts are multiplied by its factor. It can be undone in House rules."""
    proposal = _proposed(body.parameter)
    if proposal.to != body.to:
        raise Refused("to", body.to, f"{proposal.to:g}, which the records propose by now: read it again")
    effect = proposal.effect
    limits = LIMITS.factor
    evidence = Evidence(
        looks=effect.looks,
        seen=effect.seen,
        low=max(limits.low, round(effect.low, 3)),
        high=min(limits.high, round(effect.high, 3)),
    )
    decision = TakenOver(what=body.parameter, from_=proposal.was, to=proposal.to, on=moment(), evidence=evidence)
    with database().session() as session:
        HouseRules(session).take_over(decision)
    g.pop("nabrel_house", None)
    return _learnt_wire()


def _proposed(parameter: str) -> Proposal:
    """The proposal of this name. Refuses what the records do not propose."""
    found = _learnt().proposals
    chosen = next((each for each in found if each.parameter == parameter), None)
    if chosen is None:
        named = join_words(each.parameter for each in found)
        raise Refused(
            "parameter", parameter, f"one of the proposals: {named}" if named else "a proposal; there is none now"
        )
    return chosen


def _learnt() -> Learnt:
    with database().session() as session:
        wears, names = Wears(session), Kit(session).names()
        taken = house().factors

        def work_out() -> Learnt:
            sequences = Sequences(session)
            wearings = [kept.wearing(sequences.at(kept.plan, kept.revision)) for kept in wears.all()]
            return learn(wearings, taken, names)

        return remembered().learnt((wears.documents(), taken, tuple(sorted(names.items()))), work_out)


def _learnt_wire() -> ww.LearntWire:
    found = _learnt()
    with database().session() as session:
        names = Kit(session).names()
        taken = present.taken_over(HouseRules(session), names)
    order: list[str] = list(OF_INFO)
    effects = sorted(_effects(found, names), key=lambda each: (order.index(each.of), each.name))
    return ww.LearntWire(learnt=learnt_to(found), effects=effects, taken_over=taken)


def _effects(found: Learnt, names: Mapping[str, str]) -> Iterator[ww.EffectSaidWire]:
    for each in found.effects:
        words: Mapping[str, str] = {
            "zone_group": next((r.words for r in REGION_INFO.values() if r.id == each.id), each.id),
            "school": next((s.words for s in SCHOOL_INFO.values() if s.id == each.id), each.id),
            "item": names.get(each.id, each.id),
            "sitter": each.id,
        }
        yield ww.EffectSaidWire(
            about=each.about,
            about_words=ABOUT_INFO[each.about].words,
            of=each.of,
            of_words=OF_INFO[each.of].words,
            name=words.get(each.of, ""),
            factor=round(each.factor, 3),
            low=round(each.low, 3),
            high=round(each.high, 3),
            seen=each.seen,
            looks=each.looks,
            sure=not each.low <= 1.0 <= each.high,
        )


def _wire(kept: KeptWear) -> ww.WearWire:
    with database().session() as session:
        stored = Sequences(session).get(kept.plan)
        sequence = Sequences(session).at(kept.plan, kept.revision)
    evaluation = evaluated(stored) if stored.revision == kept.revision else evaluated_today(sequence)
    return ww.WearWire(
        wear_id=kept.id,
        plan_id=kept.plan,
        sitter_id=stored.sitter_id,
        nickname=sequence.case.sitter.nickname,
        title=sequence.title or sequence.case.sitter.nickname,
        revision=kept.revision,
        worn=kept.worn,
        looks=list(kept.looks),
        verdict=kept.verdict,
        run=kept.run,
        zones=[zone for zone in ZONE_INFO if any(zone in step.zones for step in sequence.steps)],
        hexes=present.finished_hexes(evaluation),
        proportions=present.proportions(sequence.case.sitter),
        spans=list(_spans(kept)),
    )


def _spans(kept: KeptWear) -> Iterator[ww.SpanWire]:
    """Forecast against seen, for each part of the face and each sign that comes: its first zone speaks for the part."""
    looked = looked_at(kept.looks)
    hours = {zone: each.hours for zone, each in kept.forecast.items()}
    for about, sign in COMES.items():
        for region in REGION_INFO:
            expected = {
                zone: own
                for zone, each in hours.items()
                if ZONE_INFO[zone].region == region and (own := _hours(each, about)) is not None
            }
            if expected:
                yield _span(region, sign, expected, {zone: looked[zone] for zone in expected if zone in looked})


def _hours(forecast: Hours, about: str) -> float | None:
    return forecast.shine_hours if about == "shine_hours" else forecast.colour_hours


def _span(
    region: Region,
    sign: WearSign,
    expected: Mapping[Zone, float],
    looked: Mapping[Zone, list[tuple[float, Mapping[WearSign, int]]]],
) -> ww.SpanWire:
    between = {zone: came_between(own, sign) for zone, own in looked.items()}
    first = min(between, key=lambda zone: (between[zone][1], between[zone][0]), default=None)
    # Where a zone was the first to show it, its own forecast is held against it; else the soonest of the part.
    zone = first if first is not None else min(expected, key=lambda each: expected[each])
    low, high = between[first] if first is not None else (None, None)
    came = high if high is not None and high != float("inf") else None
    return ww.SpanWire(
        region=region,
        words=REGION_INFO[region].words,
        sign=sign,
        forecast_h=round(expected[zone], 2),
        forecast_zone=ZONE_INFO[zone].words,
        from_h=None if low is None else round(low, 2),
        to_h=None if came is None else round(came, 2),
        looked=first is not None,
        says=_says(sign, expected[zone], low, came, ZONE_INFO[zone].place),
    )


def _says(sign: WearSign, expected: float, low: float | None, high: float | None, place: str) -> str:
    """Forecast and seen in a sentence."""
    what = "Shine" if sign == "shine" else "Fading"
    forecast = f"forecast {place} after {expected:.1f} h"
    if low is None:
        return f"{what} {forecast}; nobody looked yet."
    if high is None:
        against = ", later than forecast" if low > expected else ""
        return f"{what} {forecast}; not seen by {low:.1f} h{against}."
    seen = f"seen between {low:.1f} and {high:.1f} h"
    against = (
        ", sooner than forecast" if high < expected else ", later than forecast" if low > expected else ", as forecast"
    )
    return f"{what} {forecast}; {seen}{against}."
