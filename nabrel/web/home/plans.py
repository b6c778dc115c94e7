"""Plans in lists, found by a few letters, marked, and taken to another face; and what this Nabrel is."""

from __future__ import annotations

from datetime import date
from typing import Annotated

from flask import Response
from pydantic import Field

from nabrel import __version__
from nabrel.core.ask.adapt import adapt
from nabrel.core.house import PARAMETERS
from nabrel.core.judge.evaluate import rule_book
from nabrel.core.terms.ids import School
from nabrel.core.terms.limits import Ident
from nabrel.formats.values import filled
from nabrel.store.plans import Hit, Plans
from nabrel.store.repositories import Kit, Sequences, Sitters
from nabrel.web.home.licences import licences_text, shipped
from nabrel.web.shared import present
from nabrel.web.shared import wire as w
from nabrel.web.shared.endpoints import Endpoints
from nabrel.web.shared.requests import database, download, evaluated, house, stored_sequence
from nabrel.web.shared.signing_in import demanded

plans = Endpoints("plans", __name__, url_prefix="/api", tag="home")
MOST_HITS = 6


class PlanSummaryWire(w.AnswerModel):
    """One plan in a list."""

    id: str
    sitter_id: str
    nickname: str
    title: str
    school: School
    made: str
    changed: str
    versions: int
    named: int
    favourite: bool


class PlanList(w.AnswerModel):
    """Plans, favourites first, then the one changed last."""

    plans: list[PlanSummaryWire]


class OfSitterQuery(w.Query):
    """Whose plans; everybody's where nobody is named."""

    sitter: Ident | None = None


class FavouriteBody(w.Body):
    """Whether a plan is a favourite."""

    favourite: bool


class SoughtQuery(w.Query):
    """A few letters of what is looked for."""

    q: Annotated[str, Field(max_length=120)] = ""


class HitList(w.AnswerModel):
    """What was found: sitters, then plans, then items."""

    hits: tuple[Hit, ...]


class AdaptBody(w.Body):
    """The sitter a plan is taken to; ``save`` stores it there, else it is only told what would change."""

    sitter: Ident
    save: bool = False


class ChangeWire(w.AnswerModel):
    """One thing that the other face asks for otherwise, and why."""

    says: str
    why: str


class AdaptedWire(w.AnswerModel):
    """What changes, and the id of the new plan where it was stored."""

    id: str | None
    changes: list[ChangeWire]


class ShippedWire(w.AnswerModel):
    """Something that ships with Nabrel, and its licence."""

    name: str
    version: str
    licence: str


class AboutWire(w.AnswerModel):
    """Which Nabrel this is, where its data lie (said on its own machine only), and what ships with it."""

    version: str
    data: str
    rules: int
    parameters: int
    parts: list[ShippedWire]


@plans.get("/plans", "plans")
def get_plans(query: OfSitterQuery) -> PlanList:
    """Every plan, or those of one sitter."""
    return _listed(query.sitter)


def _listed(sitter: str | None) -> PlanList:
    with database().session() as session:
        found = Plans(session).all(sitter)
    return PlanList(
        plans=[
            filled(PlanSummaryWire, row, made=row.made.isoformat(), changed=row.changed.isoformat()) for row in found
        ]
    )


@plans.put("/plans/<id>/favourite", "favour_plan")
def put_favourite(path: w.IdPath, body: FavouriteBody) -> PlanList:
    """Mark a plan as a favourite, or no more; answers with the plans of its sitter."""
    with database().session() as session:
        Plans(session).favour(path.id, body.favourite)
        sitter = Sequences(session).get(path.id).sitter_id
    return _listed(sitter)


@plans.get("/search", "search")
def get_search(query: SoughtQuery) -> HitList:
    """Sitters, plans and items whose name holds every word."""
    with database().session() as session:
        found = Plans(session).search(query.q, MOST_HITS)
    return HitList(hits=found)


@plans.post("/sequences/<id>/adapt", "adapt")
def post_adapt(path: w.IdPath, body: AdaptBody) -> AdaptedWire:
    """The plan's wishes and school on another face, planned anew: what changes and why, and stored where asked."""
    model = evaluated(stored_sequence(path.id))
    with database().session() as session:
        other = Sitters(session).get(body.sitter)
        found = adapt(model, present.case_of(other, Kit(session).all()).on(date.today()), house())
        says = f"Adapted from {model.sequence.title or model.sequence.case.sitter.nickname}"[:300]
        made = Sequences(session).add(other.id, found.sequence, says) if body.save else None
    return AdaptedWire(id=made, changes=[ChangeWire(says=each.says, why=each.why) for each in found.changes])


@plans.get("/about", "about")
def get_about() -> AboutWire:
    """Version, where the data lie, and the licences of all that ships."""
    return AboutWire(
        version=__version__,
        data="" if demanded() else str(database().path.parent.resolve()),
        rules=len(rule_book()),
        parameters=len(PARAMETERS),
        parts=[filled(ShippedWire, each) for each in shipped()],
    )


@plans.get("/licences", "licences")
def get_licences() -> Response:
    """The licences of all that ships, with their words, as a text file."""
    return download(licences_text(), "nabrel-licences.txt", "text/plain; charset=utf-8")
