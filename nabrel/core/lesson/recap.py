"""After a class: what was asked and who was late at what, block by block, and what each student should practise."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from nabrel.core.lesson.lesson import Lesson
from nabrel.core.lesson.live import LATE_S
from nabrel.core.lesson.room import AskedQuestion, ClassLog
from nabrel.core.terms.ids import StepKind
from nabrel.core.terms.steps import STEP_INFO
from nabrel.core.terms.words import join_words, sentence, spoken


@dataclass(frozen=True, slots=True)
class LateCheck:
    """Who was checked late, by how much."""

    student: str
    late_s: int


@dataclass(frozen=True, slots=True)
class BlockRecap:
    """One block as it went: minutes over its plan (below 0: under), what was asked, who was late, to practise again, not checked."""

    step: str
    words: str
    planned_s: int
    taken_s: int
    practised: bool
    questions: tuple[AskedQuestion, ...]
    late: tuple[LateCheck, ...]
    again: tuple[str, ...]
    unchecked: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class ToPractise:
    """What one student should practise: which kinds of step, and why."""

    student: str
    kinds: tuple[StepKind, ...]
    says: str


@dataclass(frozen=True, slots=True)
class Recap:
    """A class looked back on: block by block, what each should practise, and the questions to answer next time."""

    blocks: tuple[BlockRecap, ...]
    practise: tuple[ToPractise, ...]
    absent: tuple[str, ...]


def recap(found: Lesson, log: ClassLog) -> Recap:
    """What a class's log says, against the lesson as it was planned. A check is late a minute after it was due."""
    blocks = tuple(_blocks(found, log))
    return Recap(blocks, tuple(_practise(found, log, blocks)), log.absent)


def _blocks(found: Lesson, log: ClassLog) -> Iterator[BlockRecap]:
    over = {(done.phase, done.step): done for done in log.done}
    looked = {(each.student, each.step): each for each in log.checks}
    for part in found.timed.parts:
        block = part.block
        planned = sum(p.end_s - p.start_s for p in found.timed.phases if p.phase != "break" and p.steps[0] == block.id)
        phases = [over[key] for key in (("demonstrate", block.id), ("practise", block.id)) if key in over]
        practice = over.get(("practise", block.id))
        worked = practice is not None and not practice.skipped
        late, again, missing = [], [], []
        for placed in part.solved.placed:
            if placed.name in log.absent:
                continue
            check = looked.get((placed.name, block.id))
            if check is None:
                if worked:
                    missing.append(placed.name)
                continue
            if check.again:
                again.append(placed.name)
            begun = (
                practice.from_s
                if practice is not None
                else next(p.start_s for p in found.timed.phases if p.phase == "practise" and p.steps[0] == block.id)
            )
            if check.at_s is not None and check.at_s - begun - placed.check_s > LATE_S:
                late.append(LateCheck(placed.name, round(check.at_s - begun - placed.check_s)))
        yield BlockRecap(
            step=block.id,
            words=sentence(block.words),
            planned_s=planned,
            taken_s=round(sum(each.to_s - each.from_s for each in phases if not each.skipped)),
            practised=worked,
            questions=tuple(each for each in log.questions if each.step in block.steps),
            late=tuple(sorted(late, key=lambda each: -each.late_s)),
            again=tuple(again),
            unchecked=tuple(missing),
        )


def _practise(found: Lesson, log: ClassLog, blocks: tuple[BlockRecap, ...]) -> Iterator[ToPractise]:
    by_id = {step.id: step for step in found.room.sequence.steps}
    steps = {part.block.id: part.block.steps for part in found.timed.parts}
    for student in found.room.students:
        name = student.name
        reasons, kinds = [], []
        for block in blocks:
            late = next((each.late_s for each in block.late if each.student == name), None)
            why = [
                *(["to be done again"] if name in block.again else []),
                *([f"checked {spoken(late)} late"] if late else []),
                *(["not checked"] if name in block.unchecked else []),
                *(["not there"] if name in log.absent else []),
                *(["shown only"] if not block.practised and log.done and name not in log.absent else []),
            ]
            if why:
                reasons.append(f"{block.words.lower()}: {join_words(why)}")
                kinds += [by_id[step].kind for step in steps[block.step] if STEP_INFO[by_id[step].kind].roles]
        if reasons:
            yield ToPractise(name, tuple(dict.fromkeys(kinds)), f"{sentence('; '.join(reasons))}.")
