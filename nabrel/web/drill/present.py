"""Exercises, marks and practice as the Drill room is told of them."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import replace
from datetime import datetime, timedelta

from nabrel.core.ask.trial import against
from nabrel.core.ask.weigh import weigh
from nabrel.core.drill.colour_kinds import Corrected, WentWrong, depth_looks
from nabrel.core.drill.exercise import Answer, Exercise, Mark
from nabrel.core.drill.group import VERDICT_WORDS, GroupNeed, Item, Member
from nabrel.core.drill.judgements import JUDGEMENTS, Judgement
from nabrel.core.drill.kinds import KINDS
from nabrel.core.drill.paper import measured
from nabrel.core.drill.place_kinds import Reasoned
from nabrel.core.drill.practice import (
    STANDING_WORDS,
    Improved,
    Practice,
    coming,
    fading,
    improved,
    progress_of,
    remembered,
)
from nabrel.core.drill.sets import given_words, length_words
from nabrel.core.drill.sets import says as set_says
from nabrel.core.drill.spacing import Skill, level_for
from nabrel.core.drill.step_kinds import line
from nabrel.core.drill.views import concerned, right_in, views
from nabrel.core.face.proportions import proportions_of
from nabrel.core.house import House
from nabrel.core.judge.evaluate import evaluate
from nabrel.formats.practice import DrillSetFile
from nabrel.formats.values import filled
from nabrel.store.practice import PractisingStudent
from nabrel.store.repositories import StoredSequence
from nabrel.web.drill import answers as dw
from nabrel.web.drill.sessions import AskedExercise, DrillSession
from nabrel.web.shared import wire as w
from nabrel.web.shared.present import workbench

LOOKED_BACK = timedelta(days=28)
MOST_SHOWN = 5


def judgement(found: Judgement) -> dw.JudgementWire:
    """One judgement."""
    return filled(dw.JudgementWire, found)


def fits(able: Skill) -> str:
    """Which level fits, with how sure that is; nothing before there were answers."""
    if not able.answers:
        return ""
    low, high = (level_for(replace(able, ability=each)) for each in (able.low, able.high))
    sure = f"between {low} and {high} in nine cases of ten" if low != high else "in nine cases of ten"
    return f"Level {level_for(able)} fits, {sure}"


def asked(key: str, found: Exercise, able: Skill) -> dw.ExerciseWire:
    """An exercise as it is asked: nothing of its answer."""
    kind, sitter = KINDS[found.kind], found.sequence.case.sitter if found.sequence is not None else None
    return filled(
        dw.ExerciseWire,
        found.shows,
        id=key,
        kind=found.kind,
        level=found.level,
        asks=found.asks,
        words=kind.words,
        fits=fits(able),
        choices=found.choices,
        zones=found.shows.zones if "zones" in kind.answered else (),
        proportions=proportions_of(sitter) if sitter is not None else None,
        skin=found.shows.skin if isinstance(found.shows.skin, str) else None,
        measures=measured(found),
        by_colour=kind.by_colour,
    )


def marked(found: Exercise, answer: Answer, mark: Mark, house: House) -> dw.DrillMarkWire:
    """What an answer is worth, and what would follow from it in words."""
    marking = found.marking
    looks = depth_looks(found, answer, house) if found.kind == "depth" else ()
    return filled(
        dw.DrillMarkWire,
        mark.right,
        score=mark.score,
        follows=mark.follows,
        why=mark.why,
        order=mark.right.order or (),
        zones=mark.right.zones or (),
        leaves=[
            filled(dw.LeftWire, left, choice=letter)
            for letter, left in (marking.leaves if isinstance(marking, Corrected) else {}).items()
        ],
        reasons=marking.reasons if isinstance(marking, Reasoned) else {},
        as_planned=marking.as_planned if isinstance(marking, WentWrong) else None,
        looks=[dw.ShownWire(words=words, hex=each) for words, each in looks],
    )


def follows(found: Exercise, answer: Answer, house: House) -> dw.FollowsWire:
    """What would follow: the plans, their figures, the rule book, and the plan step by step."""
    seen = [(view.words, evaluate(view.plan, house, try_fixes=False)) for view in views(found, answer, house)]
    figures = weigh([each for _, each in seen]) if len(seen) > 1 else ()
    come = {each.rule: each for each in reversed(against(seen[0][1], seen[1][1]).come)} if len(seen) > 1 else {}
    about = concerned(found)
    names = {item.id: item.name for _, each in seen for item in each.products.values()}
    plan = (found.mended or found.sequence) if seen else None
    return dw.FollowsWire(
        plans=[
            dw.FollowedWire(
                words=words, plan=workbench(StoredSequence("drill", "drill", each.sequence, 0, None, None), each)
            )
            for words, each in seen
        ],
        figures=[
            filled(dw.FigureApartWire, each, planned=each.values[0], answered=each.values[1])
            for each in figures
        ],
        says=[
            filled(dw.SpokenWire, each) for each in [*reversed(come.values())][:4]
        ],
        right_in=list(right_in(found, answer, house)),
        steps=[
            dw.PlanLineWire(
                id=step.id, says=line(step, names), asked=step.id in about,
                why=list(dict.fromkeys([*step.why, *(why for portion in step.portions for why in portion.why)]))[:4],
            )
            for step in (plan.steps if plan is not None else ())
        ],
    )  # fmt: skip


def review(each: AskedExercise) -> dw.ReviewWire:
    """One exercise looked back on."""
    mark = each.mark
    return dw.ReviewWire(
        asks=each.exercise.asks,
        words=KINDS[each.exercise.kind].words,
        given=given_words(each.exercise, each.answer or Answer()),
        right=given_words(each.exercise, each.exercise.answer),
        score=mark.score if mark is not None else 0.0,
        why=list(each.exercise.why),
    )


def recap(session: DrillSession, practice: Practice, now: datetime) -> dw.SessionRecapWire:
    """A session looked back on."""
    done = session.answered
    return dw.SessionRecapWire(
        answered=len(done),
        score=sum(each.mark.score for each in done if each.mark) / len(done) if done else 0.0,
        minutes=(now - session.begun).total_seconds() / 60,
        fits=fits(practice.able),
        improved=[_improved(each) for each in improved(practice, session.begun)[:6]],
        coming=[each.words for each in coming(practice, now)],
        review=[review(each) for each in done],
        saved=session.student is not None,
    )


def _improved(each: Improved) -> dw.ImprovedWire:
    return dw.ImprovedWire(words=each.judgement.words, before=each.before, since=each.since)


def progress(student: PractisingStudent, practice: Practice, classes: int, now: datetime) -> dw.PracticeWire:
    """A student's map of judgements."""
    rows = progress_of(practice, now)
    return dw.PracticeWire(
        id=student.key,
        name=student.name,
        group=student.group,
        answers=len(practice.answers),
        remembered=remembered(rows),
        practised=sum(each.standing != "new" for each in rows),
        of=len(rows),
        level=level_for(practice.able),
        fits=fits(practice.able),
        judgements=[
            filled(dw.PractisedWire, each, judgement=judgement(each.judgement), words=STANDING_WORDS[each.standing])
            for each in rows
        ],
        fades=[each.judgement.words for each in fading(rows)[:MOST_SHOWN]],
        coming=[each.words for each in coming(practice, now)],
        improved=[_improved(each) for each in improved(practice, now - LOOKED_BACK)[:MOST_SHOWN]],
        classes=classes,
    )  # fmt: skip


def member(each: Member, student: PractisingStudent) -> dw.MemberWire:
    """One student at a glance."""
    return filled(
        dw.MemberWire,
        each,
        id=student.key,
        name=student.name,
        group=student.group,
        fits=fits(each.able),
        weakest=[judgement(row.judgement) for row in each.weakest],
    )


def need(each: GroupNeed, names: Mapping[str, str]) -> dw.DrillNeedWire:
    """What some of a group need."""
    students = [names[key] for key in each.students]
    return dw.DrillNeedWire(judgement=judgement(each.judgement), recalled=each.recalled, students=students)


def item(each: Item, titles: Mapping[str, str]) -> dw.DrillItemWire:
    """What is the matter with an exercise."""
    return filled(
        dw.DrillItemWire,
        each,
        judgement=judgement(each.judgement),
        title=titles.get(each.set or "", ""),
        words=VERDICT_WORDS[each.verdict],
    )


def drill_set(file: DrillSetFile, faces: Iterable[w.Named], results: list[dw.SetResultWire]) -> dw.DrillSetWire:
    """A set with who answered it."""
    return filled(
        dw.DrillSetWire,
        file,
        says=set_says(file.parts),
        length=sum(p.count for p in file.parts),
        faces=list(faces),
        results=results,
    )


def found_set(file: DrillSetFile) -> dw.SetFoundWire:
    """A set as who takes it sees it."""
    return filled(
        dw.SetFoundWire,
        file,
        says=length_words(file.parts),
        length=sum(p.count for p in file.parts),
        test=file.same_for_all,
    )


def kinds() -> list[dw.DrillKindWire]:
    """The kinds of exercise."""
    return [dw.DrillKindWire(id=kind, words=info.words) for kind, info in KINDS.items()]


def judgements() -> list[dw.JudgementWire]:
    """Every judgement that is practised."""
    return [judgement(each) for each in JUDGEMENTS.values()]
