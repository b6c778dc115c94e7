"""Exercises over HTTP: asked without their answers, and marked once."""

from __future__ import annotations

import secrets
from collections import OrderedDict
from dataclasses import asdict, replace
from threading import Lock
from typing import Any

from flask import current_app
from flask_openapi3.blueprint import APIBlueprint
from flask_openapi3.models.tag import Tag

from nabrel.core.drill.exercise import DrillKind, Exercise
from nabrel.core.drill.making import KINDS, exercise, mark
from nabrel.core.drill.spacing import Skill, level_for, skill
from nabrel.core.errors import Impossible
from nabrel.core.face.proportions import proportions_of
from nabrel.store.standing import Missing
from nabrel.web.drill import answers as dw
from nabrel.web.shared import wire as w
from nabrel.web.shared.requests import REFUSALS, house

drill = APIBlueprint("drill", __name__, url_prefix="/api/drill", abp_tags=[Tag(name="drill")], abp_responses=REFUSALS)
MOST_OPEN = 400
MOST_SEED = 2**31
MEASURES = {
    "shape": "shape {}", "forehead_fingers": "forehead {} fingers high", "face_length_mm": "face {} mm long",
    "cheekbone_width_mm": "{} mm across the cheekbones", "jaw_width_mm": "{} mm across the jaw",
}  # fmt: skip


class OpenExercises:
    """Exercises that were asked: the newest of them, each with whether it was answered. What is marked is what is here."""

    def __init__(self) -> None:
        self._asked: OrderedDict[str, tuple[Exercise, bool]] = OrderedDict()
        self._lock = Lock()

    def ask(self, found: Exercise) -> str:
        """Remember an exercise under a key that nobody can guess."""
        key = secrets.token_hex(16)
        with self._lock:
            self._asked[key] = (found, False)
            while len(self._asked) > MOST_OPEN:
                self._asked.popitem(last=False)
        return key

    def get(self, key: str) -> Exercise:
        """An exercise that was asked. Refuses one that is not here, and one that was answered."""
        with self._lock:
            if key not in self._asked:
                raise Missing("exercise", key, "an exercise that was asked, and not too long ago: ask for another")
            found, answered = self._asked[key]
        if answered:
            raise Impossible("exercise", key, "an exercise that is still open: this one was answered, and counts once")
        return found

    def close(self, key: str) -> None:
        """It was answered. Refuses a second answer that came at the same time."""
        with self._lock:
            found, answered = self._asked[key]
            if answered:
                raise Impossible(
                    "exercise", key, "an exercise that is still open: this one was answered, and counts once"
                )
            self._asked[key] = (found, True)


@drill.get("", operation_id="drills", responses={200: dw.DrillsWire})
def get_drills() -> dw.DrillsWire:
    """The kinds of exercise that there are."""
    return dw.DrillsWire(kinds=[dw.DrillKindWire(id=kind, words=info.words) for kind, info in KINDS.items()])


@drill.post("/exercises", operation_id="next_exercise", responses={201: dw.ExerciseWire})
def post_exercise(body: dw.DrillBody) -> tuple[dw.ExerciseWire, int]:
    """An exercise to answer: any kind, or the one that is named."""
    kind: DrillKind = body.kind if body.kind is not None else secrets.choice(list(KINDS))
    seed = secrets.randbelow(MOST_SEED) if body.seed is None else body.seed
    able = skill((each.level, each.score) for each in body.answered)
    found = exercise(kind, seed, 1, body.level or level_for(able), house())
    return _asked(_open().ask(found), found, able), 201


@drill.post("/exercises/<id>/answer", operation_id="answer_exercise", responses={200: dw.DrillMarkWire})
def post_answer(path: w.IdPath, body: dw.DrillAnswerBody) -> dw.DrillMarkWire:
    """Answer an exercise, once: what it is worth, and what would follow."""
    asked = _open()
    found = asked.get(path.id)
    given = {name: value for name, value in body.model_dump().items() if value is not None}
    marked = mark(found, given, house())
    asked.close(path.id)
    right = dict(marked.right)
    return dw.DrillMarkWire(
        score=marked.score,
        choice=right.get("choice"),
        step=right.get("step"),
        order=list(right.get("order", [])),
        zones=list(right.get("zones", [])),
        drop=right.get("drop"),
        value=right.get("value"),
        follows=list(marked.follows),
        why=list(marked.why),
        leaves=[dw.LeftWire(choice=letter, **left) for letter, left in found.marking.get("leaves", {}).items()],
        reasons=dict(found.marking.get("reasons", {})),
        as_planned=found.marking.get("as_planned"),
    )


def _open() -> OpenExercises:
    found: OpenExercises = current_app.extensions["nabrel_drills"]
    return found


def _fits(able: Skill) -> str:
    """Which level fits, with how sure that is; nothing before there were answers."""
    if not able.answers:
        return ""
    low, high = (level_for(replace(able, ability=each)) for each in (able.low, able.high))
    sure = f"between {low} and {high} in nine cases of ten" if low != high else "in nine cases of ten"
    return f"Level {level_for(able)} fits, {sure}"


def _asked(key: str, found: Exercise, able: Skill) -> dw.ExerciseWire:
    shows: dict[str, Any] = dict(found.shows)
    sitter = found.sequence.case.sitter if found.sequence is not None else None
    return dw.ExerciseWire(
        id=key,
        kind=found.kind,
        words=KINDS[found.kind].words,
        level=found.level,
        fits=_fits(able),
        asks=found.asks,
        choices=[dw.DrillLineWire(id=each.id, says=each.says) for each in found.choices],
        steps=[dw.DrillLineWire(**each) for each in shows.get("steps", [])],
        zones=list(shows.get("zones", [])) if "zones" in found.answer else [],
        values=[dw.DrillLineWire(**each) for each in shows.get("values", [])],
        reads=list(shows.get("reads", [])),
        face=shows.get("face"),
        proportions=w.ProportionsWire(**asdict(proportions_of(sitter))) if sitter is not None else None,
        skin=shows.get("skin") if isinstance(shows.get("skin"), str) else None,
        complexion=shows.get("complexion"),
        lower=list(shows.get("lower", [])),
        upper=list(shows.get("upper", [])),
        measures=[
            words.format(shows["measures"][name])
            for name, words in MEASURES.items()
            if shows.get("measures", {}).get(name)
        ],
    )
