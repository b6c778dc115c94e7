"""What wear records teach, over HTTP: what would change by it, and taking it over."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from itertools import islice
from pathlib import Path

from flask import g

from nabrel.core.errors import Refused
from nabrel.core.house import House
from nabrel.core.house.factors import Factor
from nabrel.core.learn.consequences import Consequence, consequence
from nabrel.core.learn.learnt import Learnt, Proposal, learn
from nabrel.core.plan.sequence import Sequence
from nabrel.core.terms.effects import ABOUT_INFO, OF_INFO
from nabrel.core.terms.limits import LIMITS
from nabrel.core.terms.schools import SCHOOL_INFO
from nabrel.core.terms.words import join_words
from nabrel.core.terms.zones import REGION_INFO
from nabrel.formats.files import Evidence, TakenOver
from nabrel.formats.values import filled
from nabrel.formats.wear import learnt_to
from nabrel.store.database import joined
from nabrel.store.house_rules import HouseRules
from nabrel.store.plans import Plans
from nabrel.store.repositories import Kit, Sequences
from nabrel.store.sound import sound
from nabrel.store.versions import moment
from nabrel.store.wear import Wears
from nabrel.web.shared import present
from nabrel.web.shared.endpoints import Endpoints
from nabrel.web.shared.requests import (
    database,
    heavy,
    house,
    remembered,
)
from nabrel.web.wear import answers as ww

wear_learning = Endpoints("wear_learning", __name__, url_prefix="/api", tag="wear")

MOST_PLANS_SHOWN, MOST_PLANS_TRIED = 3, 100


@wear_learning.get("/learnt", "learnt")
def get_learnt() -> ww.LearntWire:
    """What all records teach. Nothing is changed by it."""
    return _learnt_wire()


@wear_learning.post("/learnt/consequences", "consequences")
def post_consequences(body: ww.ProposalBody) -> ww.ConsequencesWire:
    """What one proposal would change in the plans that it says anything of."""
    factor = _proposed(body.parameter).factor
    with database().session() as session:
        rows = [row for row in Plans(session).all() if factor.of != "sitter" or row.nickname == factor.id]
        plans = sound(rows[:MOST_PLANS_TRIED], lambda row: (row, Sequences(session).get(row.id).sequence))
    told = heavy("learning", _told_of, [sequence for _, sequence in plans], house(), factor)
    return ww.ConsequencesWire(
        plans=[
            ww.ConsequenceWire(plan_id=row.id, title=row.title, nickname=row.nickname, says=list(each.says))
            for row, each in ((plans[place][0], each) for place, each in told)
        ]
    )


def _told_of(plans: list[Sequence], house: House, factor: Factor) -> list[tuple[int, Consequence]]:
    """The first few of the plans that a factor says anything of, by their places."""
    told = ((place, consequence(sequence, house, factor)) for place, sequence in enumerate(plans))
    return list(islice(((place, each) for place, each in told if each is not None), MOST_PLANS_SHOWN))


@wear_learning.post("/learnt/taken-over", "take_over")
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

        key = (wears.documents(), taken, tuple(sorted(names.items())))
    return remembered().learnt(key, lambda: heavy("learning", _worked_out, database().folder, taken, names))


def _worked_out(folder: Path, taken: tuple[Factor, ...], names: Mapping[str, str]) -> Learnt:
    with joined(folder) as session:
        sequences = Sequences(session)
        wearings = [stored.wearing(sequences.at(stored.plan, stored.revision)) for stored in Wears(session).all()]
    return learn(wearings, taken, names)


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
        yield filled(
            ww.EffectSaidWire,
            each,
            about_words=ABOUT_INFO[each.about].words,
            of_words=OF_INFO[each.of].words,
            name=words.get(each.of, ""),
            sure=not each.low <= 1.0 <= each.high,
        )
