"""The questions asked at the workbench: which corrector for this zone, and how to mix to this complexion."""

from __future__ import annotations

from datetime import date

import numpy as np
from flask import Response

from nabrel.core.ask.correction import ZoneCorrection, correct_in_plan, edits_for
from nabrel.core.ask.reach import reach
from nabrel.core.ask.recommend import rank_schools
from nabrel.core.ask.unsure import Unsure, how_sure
from nabrel.core.case.case import Case
from nabrel.core.case.product import Product
from nabrel.core.documents.tell import tell
from nabrel.core.errors import Refused
from nabrel.core.film.spectra import lab_of, surface, to_hex
from nabrel.core.house import House
from nabrel.core.plan.sequence import Sequence
from nabrel.core.shelf.doses import foundation_film, passed_on
from nabrel.core.solve.join import join_face_and_body
from nabrel.core.solve.mix import RecipePart, batch, pour, solve_mix
from nabrel.core.terms.colour import Lab
from nabrel.core.terms.zones import COMPLEXION_ZONES, area_of
from nabrel.formats.answers import SchoolsModel, correction_to, covering_to, mix_to, recipe_to, schools_to
from nabrel.formats.values import filled
from nabrel.store.repositories import StoredSequence
from nabrel.web.shared import present
from nabrel.web.shared import wire as w
from nabrel.web.shared.endpoints import Endpoints
from nabrel.web.shared.requests import download, evaluated, heavy, house, stored_sequence

questions = Endpoints("questions", __name__, url_prefix="/api", tag="layer")

MIXED_ROLES = ("foundation", "mixer", "thinning_balm")


@questions.get("/sequences/<id>/corrector/<zone>", "corrector")
def get_corrector(path: w.ZonePath) -> w.CorrectionWire:
    """The corrector question for one zone where it really lies in this plan, under all that is planned above it."""
    stored = stored_sequence(path.id)
    sequence = stored.sequence
    evaluation = evaluated(stored)
    correction = correct_in_plan(evaluation, path.zone)
    model = correction_to(correction, house())
    reading = evaluation.reading
    products = {item.id: item for item in correction.products}
    return w.CorrectionWire(
        correction=model,
        names={key: item.name for key, item in products.items()},
        swatches=present.swatches(products),
        zones=[zone for zone, here in reading.zones.items() if here.discolorations and not here.left_alone],
        rows=_rows(sequence, correction),
    )


def _rows(sequence: Sequence, correction: ZoneCorrection) -> list[w.CoveringRow]:
    answer = correction.answer
    rows: list[w.CoveringRow] = []
    for covering in answer.each:
        label = "best" if covering == answer.best else "runner-up" if covering == answer.runner_up else ""
        if covering.corrector is None:
            label = f"{label}, no corrector".removeprefix(", ")
        rows.append(
            w.CoveringRow(
                covering=covering_to(correction, covering, house()),
                label=label,
                take=list(edits_for(sequence, correction.zone, covering)),
            )
        )
    return rows


@questions.get("/sequences/<id>/steps/<step>/reach", "reach")
def get_reach(path: w.StepPath, query: w.ReachQuery) -> w.ReachWire:
    """What would let the wanted step of this shade or light show on this face."""
    evaluation = evaluated(stored_sequence(path.id))
    found = reach(evaluation, path.step, query.wanted)
    return filled(w.ReachWire, found)


@questions.get("/sequences/<id>/mix", "mix")
def get_mix(path: w.IdPath, query: w.MixQuery) -> w.MixWire:
    """Recipes in whole drops for the complexion that this plan aims at."""
    stored = stored_sequence(path.id)
    mixable = _mixable(stored.sequence)
    answer = solve_mix(
        _towards(stored, query.replaces),
        [item for item in mixable if item.id != query.replaces],
        house(),
        most_drops=query.drops,
        most_products=query.products,
        finish=query.finish,
    )
    return w.MixWire(
        mix=mix_to(answer),
        joining=_joining(stored.sequence),
        products=list(mixable),
        swatches=present.swatches({item.id: item for item in mixable}),
    )


@questions.post("/sequences/<id>/well", "well")
def post_well(path: w.IdPath, query: w.LightQuery, body: w.WellBody) -> w.WellWire:
    """What drops taken by hand give against the complexion, seen under a light; nothing is stored."""
    stored = stored_sequence(path.id)
    known = {item.id: item for item in _mixable(stored.sequence)}
    parts: list[RecipePart] = []
    for index, part in enumerate(body.parts):
        if part.product not in known:
            raise Refused(f"parts[{index}].product", part.product, "a foundation or mixer of this case's kit")
        parts.append(RecipePart(known[part.product], part.drops))
    target = _towards(stored, body.replaces)
    recipe, seen = pour(parts, target, house(), query.light)
    face_ml = (
        area_of(COMPLEXION_ZONES)
        * foundation_film(stored.sequence.case.intent.cover, house())
        * 1e-4
        / passed_on("damp_sponge", house())
    )
    return w.WellWire(
        recipe=recipe_to(recipe),
        seen_hex=to_hex(np.array([seen]))[0],
        target_hex=to_hex(np.array([lab_of(surface(target), query.light)]))[0],
        batch_ml=[round(ml, 3) for _, ml in batch(recipe, face_ml, body.faces)],
    )


@questions.get("/sequences/<id>/schools", "schools")
def get_schools(path: w.IdPath) -> SchoolsModel:
    """All six schools planned on this plan's face and wishes, the one that suits best first, with the reasons."""
    return heavy("schools", _schools, stored_sequence(path.id).sequence.case.on(date.today()), house())


def _schools(case: Case, house: House) -> SchoolsModel:
    return schools_to(rank_schools(case, house))


@questions.get("/sequences/<id>/how-sure", "how_sure")
def get_how_sure(path: w.IdPath) -> Unsure:
    """How sure the colours behind a plan are, and what it would take instead within what is unsure."""
    return heavy("how sure", how_sure, evaluated(stored_sequence(path.id)), house())


@questions.get("/sequences/<id>/told", "told")
def get_told(path: w.IdPath, query: w.PaceQuery) -> Response:
    """The sequence told as Markdown, to work from."""
    evaluation = evaluated(stored_sequence(path.id))
    name = f"{evaluation.sequence.case.sitter.nickname}-{evaluation.sequence.school}.md"
    return download(tell(evaluation, query.pace), name, "text/markdown")


def _towards(stored: StoredSequence, replaces: str | None) -> Lab:
    """The colour to mix to: the complexion, or that of a foundation which is missing, dear or discontinued."""
    if replaces is None:
        return evaluated(stored).reading.complexion
    item = stored.sequence.case.product(replaces)
    if item is None or item.role != "foundation" or item.lab is None:
        raise Refused("replaces", replaces, "the id of a foundation in this case's kit")
    return item.lab


def _joining(sequence: Sequence, most: int = 4) -> list[w.JoiningWire]:
    foundations = [item for item in sequence.case.kit if item.role == "foundation"]
    film_um = foundation_film(sequence.case.intent.cover, house())
    ranked = join_face_and_body(sequence.case.sitter, foundations, film_um, house())[:most]
    return [
        filled(
            w.JoiningWire,
            each,
            product=each.product.id,
            name=each.product.name,
            face_hex=to_hex(np.array([each.face]))[0],
            settled_hex=to_hex(np.array([each.settled]))[0],
        )
        for each in ranked
    ]


def _mixable(sequence: Sequence) -> list[Product]:
    return [item for item in sequence.case.kit if item.role in MIXED_ROLES and not item.dry]
