"""One lesson, many faces, over HTTP: the branches of a plan, what schools dispute in it, and named mistakes; and the handouts."""

from __future__ import annotations

from flask import Response, current_app

from nabrel.core.ask.branches import Branch, branches
from nabrel.core.ask.mistakes import Made, all_made
from nabrel.core.documents.camps import camps
from nabrel.core.documents.handout import handouts
from nabrel.core.face.proportions import proportions_of
from nabrel.core.house import House
from nabrel.core.judge.evaluate import Evaluation
from nabrel.core.lesson.lesson import Lesson
from nabrel.core.terms.ids import Zone
from nabrel.core.terms.zones import ZONE_INFO, ZONES
from nabrel.formats.sheet import Print
from nabrel.formats.values import filled
from nabrel.store.classes import Classes
from nabrel.web.classes import answers as cw
from nabrel.web.classes.endpoints import lesson_of
from nabrel.web.shared import wire as w
from nabrel.web.shared.endpoints import Endpoints
from nabrel.web.shared.requests import database, download, evaluated, heavy, house, stored_sequence
from nabrel.web.shared.under_way import ProgressReport, UnderWay, WorkProgress

adapting = Endpoints("adapting", __name__, url_prefix="/api", tag="class")


@adapting.get("/sequences/<id>/adapting", "adapting")
def get_adapting(path: w.IdPath) -> cw.AdaptingWire:
    """What a plan would be on other skin, what schools dispute in it, and what students get wrong in it."""
    stored = stored_sequence(path.id)
    told, mistakes = heavy("other skins", _elsewhere, evaluated(stored), house())
    return cw.AdaptingWire(
        plan_id=path.id,
        title=stored.sequence.title or stored.sequence.case.sitter.nickname,
        nickname=stored.sequence.case.sitter.nickname,
        sitter_id=stored.sitter_id,
        proportions=proportions_of(stored.sequence.case.sitter),
        branches=told,
        camps=camps(stored.sequence),
        mistakes=mistakes,
    )


def _elsewhere(model: Evaluation, house: House) -> tuple[tuple[Branch, ...], list[cw.MistakeWire]]:
    """A plan on other skin, and what students get wrong in it."""
    right = dict(zip(ZONES, model.appearance.hexes[-1], strict=True))
    return branches(model, house), [_mistake(each, right) for each in all_made(model, house)]


def _mistake(found: Made, right: dict[Zone, str]) -> cw.MistakeWire:
    trial = found.trial
    return filled(
        cw.MistakeWire,
        found.mistake,
        look_de=trial.look_de,
        look_place=ZONE_INFO[trial.look_zone].place,
        says=list(dict.fromkeys(each.says for each in trial.come))[:4],
        right=right,
        wrong=dict(zip(ZONES, trial.after.appearance.hexes[-1], strict=True)),
    )


@adapting.get("/classes/<id>/handouts.pdf", "class_handouts")
def get_handouts(path: w.IdPath, query: cw.HandoutsQuery) -> Response:
    """The handouts of a class as one tagged PDF. They can be asked how far they have come, and cancelled."""
    with database().session() as session:
        saved = Classes(session).get(path.id)
        found = lesson_of(session, saved)
    way = _making()
    with way.begin("handouts"):
        # Each goes by twice: told, and drawn.
        way.expect(2 * len(saved.students))
        how = Print(query.paper, query.large, mirrored=query.mirrored)
        pdf = heavy("handouts", _drawn, found, house(), how, way=way)
    return download(pdf, f"{saved.title}-handouts.pdf", "application/pdf")


def _drawn(found: Lesson, house: House, how: Print, step: ProgressReport) -> bytes:
    from nabrel.formats.sheet.handout import handouts_pdf  # noqa: PLC0415 - only who prints pays for it

    return handouts_pdf(handouts(found, house, after_each=step), how, after_each=step)


@adapting.get("/handouts/progress", "handouts_progress")
def get_progress() -> WorkProgress:
    """How far the handouts have come that are being made."""
    return _making().progress


@adapting.delete("/handouts/progress", "cancel_handouts")
def delete_progress() -> WorkProgress:
    """Cancel the handouts that are being made."""
    way = _making()
    way.cancel()
    return way.progress


def _making() -> UnderWay:
    """The handouts that are being made."""
    found: UnderWay = current_app.extensions["nabrel_handouts"]
    return found
