"""What is tried at the workbench before it is kept: edits, places for a step, the palette, and looks beside the aim."""

from __future__ import annotations

import numpy as np

from nabrel.core.ask.insertion import late_places, told
from nabrel.core.ask.palette import offered
from nabrel.core.ask.trial import try_edits
from nabrel.core.base.possible import insertion_points
from nabrel.core.documents.tell import Telling, telling
from nabrel.core.errors import Refused
from nabrel.core.film.spectra import to_hex
from nabrel.core.judge.evaluate import evaluate
from nabrel.core.judge.misses import missed
from nabrel.core.terms.zones import ZONE_INFO
from nabrel.formats.checks import check_edits
from nabrel.formats.values import filled
from nabrel.store.repositories import Sequences
from nabrel.web.layer import trial_answers as wt
from nabrel.web.shared import present
from nabrel.web.shared import wire as w
from nabrel.web.shared.endpoints import Endpoints
from nabrel.web.shared.requests import database, evaluated, house, stored_sequence

trials = Endpoints("trials", __name__, url_prefix="/api", tag="layer")


@trials.post("/sequences/<id>/try", "try_edits")
def post_try(path: w.IdPath, query: w.LightQuery, body: wt.TryBody) -> w.TrialWire:
    """What edits would do to the plan as it stands; nothing is stored."""
    now = evaluated(stored_sequence(path.id), query.light)
    return present.trial(try_edits(now, check_edits(body.edits), house()))


@trials.get("/sequences/<id>/steps/<step>/gaps", "gaps")
def get_gaps(path: w.StepPath) -> wt.GapList:
    """Every place where a step could stand among the others, and why it cannot where it cannot."""
    return wt.GapList(gaps=insertion_points(stored_sequence(path.id).sequence.steps, path.step))


@trials.get("/sequences/<id>/palette", "palette")
def get_palette(path: w.IdPath) -> wt.PaletteWire:
    """Every kind of step that could be added, where this face asks for it, and the items that serve."""
    found = offered(evaluated(stored_sequence(path.id)))
    hexes = present.swatches({item.id: item for each in found for item in each.products})
    return wt.PaletteWire(
        offered=[
            filled(
                wt.OfferedWire,
                each,
                products=[wt.ServingWire(id=item.id, name=item.name, hex=hexes.get(item.id)) for item in each.products],
            )
            for each in found
        ]
    )


@trials.post("/sequences/<id>/late", "late")
def post_late(path: w.IdPath, body: wt.LateBody) -> wt.LateWire:
    """Where a step could still be added, and what each place costs; nothing is stored."""
    evaluation = evaluated(stored_sequence(path.id))
    found = late_places(evaluation, body.kind, tuple(body.zones), house(), body.product)
    return wt.LateWire(places=[filled(wt.PlaceWire, place, says=told(place, evaluation)) for place in found])


@trials.get("/sequences/<id>/aim", "aim")
def get_aim(path: w.IdPath, query: wt.AimQuery) -> wt.AimWire:
    """Where and how far the look is from what is intended, once a step is done."""
    evaluation = evaluated(stored_sequence(path.id), query.light)
    if query.after is not None and query.after >= len(evaluation.sequence.steps):
        raise Refused("after", query.after, f"-1 to {len(evaluation.sequence.steps) - 1}")
    found = missed(evaluation, query.after)
    hexes = to_hex(np.array([each.aim for each in found.zones]))
    worst = found.worst
    return wt.AimWire(
        zones=[filled(wt.MissWire, each, aim_hex=aim) for each, aim in zip(found.zones, hexes, strict=True)],
        mean_de=round(found.mean_de, 1),
        worst=worst.zone,
        says=f"On average {found.mean_de:.1f} ΔE00 from what is intended; furthest {ZONE_INFO[worst.zone].place}: "
        f"{worst.de:.1f}, {worst.says}.",
    )


@trials.get("/sequences/<id>/versions/<number>/look", "version_look")
def get_version_look(path: w.RevisionPath, query: w.LightQuery) -> wt.LookWire:
    """The finished face of a version under a light."""
    with database().session() as session:
        sequences = Sequences(session)
        sequence = sequences.at(path.id, path.number)
        named = next(each for each in sequences.versions(path.id) if each.number == path.number)
    seen = evaluate(sequence, house(), query.light, try_fixes=False)
    return wt.LookWire(words=named.name or f"Revision {path.number}", colours=list(seen.appearance.hexes[-1]))


@trials.get("/sequences/<id>/head", "head")
def get_head(path: w.IdPath) -> wt.HeadWire:
    """Which revision stands, for a tab that was left alone."""
    with database().session() as session:
        revision, says = Sequences(session).head(path.id)
    return wt.HeadWire(revision=revision, says=says)


@trials.get("/sequences/<id>/telling", "telling")
def get_telling(path: w.IdPath, query: w.PaceQuery) -> Telling:
    """The sequence told in parts, for a printed sheet."""
    return telling(evaluated(stored_sequence(path.id)), query.pace)
