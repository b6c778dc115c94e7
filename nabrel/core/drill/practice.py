"""What a student practised, what holds and what fades, what comes next, and what has improved."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from functools import cache
from itertools import zip_longest
from math import sqrt
from statistics import mean
from typing import Annotated, Literal

from annotated_types import Ge, Le

from nabrel.core.drill.exercise import Level
from nabrel.core.drill.judgements import JUDGEMENTS, Judgement, of_kind
from nabrel.core.drill.kinds import KINDS
from nabrel.core.drill.spacing import (
    WANTED_RECALL,
    Known,
    Skill,
    after,
    forgotten,
    level_for,
    next_judgement,
    recall,
    skill,
)
from nabrel.core.terms.ids import DrillKind
from nabrel.core.terms.limits import Ident, Text, one_line
from nabrel.core.terms.statistics import Z90

WELL_BELOW = 0.2
"""A recall so far below the one that is wanted is weak."""

MOST_ANSWERS = 20_000
"""So many answers of one student are kept; the oldest go first."""
RECENT = 60
"""The answers that say how able somebody is by now."""
LATELY = 5
"""The answers that say how a judgement stands."""
NEW_IN_A_SESSION = 6
"""So many judgements that were never asked come up in one session, while there are others."""
APART = 4
"""A judgement comes up again only after so many others, while there are others."""
HARD_WRONG = 0.5
"""A judgement that is right less often was mostly wrong."""
Standing = Literal["new", "fades", "holds"]
STANDING_WORDS: Mapping[Standing, str] = {"new": "Not practised yet", "fades": "Fades", "holds": "Holds"}


@dataclass(frozen=True, slots=True)
class Answered:
    """One answer: when (UTC), to which exercise of which kind, judgement and level, its score and seconds, and what was given.

    ``set`` is the set that it was asked in, ``place`` its place there where the set is a test, the same for all.
    """

    at: Text
    exercise: Ident
    kind: DrillKind
    judgement: Text
    level: Level
    score: Annotated[float, Ge(0), Le(1)]
    seconds: Annotated[float, Ge(0), Le(86_400)]
    given: Annotated[str, one_line(2000)] = ""
    set: Ident | None = None
    place: Annotated[int, Ge(0), Le(1000)] | None = None


@dataclass(frozen=True)
class Practice:
    """What a student knows of every judgement that was asked, and the answers, oldest first."""

    known: tuple[Known, ...] = ()
    answers: tuple[Answered, ...] = ()

    def card(self, judgement: str) -> Known | None:
        """What is known of one judgement; None where it was never asked nor put forward."""
        return next((each for each in self.known if each.judgement == judgement), None)

    @property
    def able(self) -> Skill:
        """How able the student is by now, from the newest answers."""
        return skill((each.level, each.score) for each in self.answers[-RECENT:])


@dataclass(frozen=True, slots=True)
class Progress:
    """How one judgement stands: how likely it is recalled, the share right of the last answers with the interval that holds it
    in nine cases of ten, from how many answers, and when it is asked again (UTC; empty where it never was).
    """

    judgement: Judgement
    standing: Standing
    recall: float
    right: float
    low: float
    high: float
    answers: int
    due: str


@dataclass(frozen=True, slots=True)
class Improved:
    """A judgement that went better than before: the share right then and since."""

    judgement: Judgement
    before: float
    since: float


def practised(practice: Practice, answer: Answered) -> Practice:
    """A practice with one more answer, and what is known of its judgement since."""
    now = datetime.fromisoformat(answer.at)
    card = after(practice.card(answer.judgement), answer.judgement, answer.score, answer.seconds, now)
    known = tuple(each for each in practice.known if each.judgement != answer.judgement)
    return Practice((*known, card), (*practice.answers, answer)[-MOST_ANSWERS:])


def put_forward(practice: Practice, judgements: Iterable[str], now: datetime) -> Practice:
    """The same with judgements that are asked next: they went wrong in class, or somebody wants to practise them."""
    due = now.isoformat(timespec="seconds")
    own = {each.judgement: each for each in practice.known}
    for judgement in judgements:
        own[judgement] = forgotten(own[judgement], now) if judgement in own else Known(judgement, due)
    return replace(practice, known=tuple(own.values()))


def next_asked(practice: Practice, asked: Sequence[str], kinds: Collection[DrillKind], now: datetime) -> Judgement:
    """The judgement that is asked next in a session in which these were asked: what fades, then what is new, kinds mixed."""
    wanted = [name for name in mixed() if not kinds or JUDGEMENTS[name].kind in kinds]
    apart = set(asked[-min(APART, len(wanted) - 1) :]) if len(wanted) > 1 and asked else set()
    names = [name for name in wanted if name not in apart]
    cards = {each.judgement: each for each in practice.known if each.answers or each.due}
    # New in this session is what was answered only here.
    fresh = sum(name not in cards or cards[name].answers <= asked.count(name) for name in dict.fromkeys(asked))
    settled = [name for name in names if name in cards]
    if fresh >= NEW_IN_A_SESSION and settled:
        names = settled
    return JUDGEMENTS[next_judgement(cards.values(), names, now)]


@cache
def mixed() -> tuple[str, ...]:
    """Every judgement, the kinds in turn, so that two of a kind seldom follow each other."""
    turns = zip_longest(*(of_kind(kind) for kind in KINDS))
    return tuple(each.id for turn in turns for each in turn if each is not None)


def progress_of(practice: Practice, now: datetime) -> tuple[Progress, ...]:
    """How every judgement stands, in the order of their kinds."""
    scores: dict[str, list[float]] = {}
    for each in practice.answers:
        scores.setdefault(each.judgement, []).append(each.score)
    cards = {each.judgement: each for each in practice.known}
    found = []
    for judgement in JUDGEMENTS.values():
        card = cards.get(judgement.id)
        own = scores.get(judgement.id, [])[-LATELY:]
        low, high = _interval(own)
        recalled = recall(card, now) if card is not None else 0.0
        standing: Standing = "new"
        if card is not None and card.last is not None:
            standing = "holds" if datetime.fromisoformat(card.due) > now else "fades"
        found.append(
            Progress(
                judgement, standing, recalled, mean(own) if own else 0.0, low, high,
                card.answers if card is not None else 0, card.due if card is not None else "",
            )
        )  # fmt: skip
    return tuple(found)


def coming(practice: Practice, now: datetime, count: int = 5) -> tuple[Judgement, ...]:
    """What would be asked next, in this order."""
    asked: list[str] = []
    left = practice
    for _ in range(count):
        found = next_asked(left, asked, (), now)
        asked.append(found.id)
        remaining = tuple(each for each in left.known if each.judgement != found.id)
        # As if it had been asked: it is not due for a day.
        card = left.card(found.id) or Known(found.id, "")
        later = (now + timedelta(days=1)).isoformat(timespec="seconds")
        left = replace(left, known=(*remaining, replace(card, due=later)))
    return tuple(dict.fromkeys(JUDGEMENTS[name] for name in asked))


def improved(practice: Practice, since: datetime) -> tuple[Improved, ...]:
    """Judgements that went better since a moment than before it, the most first: each asked before and since."""
    before: dict[str, list[float]] = {}
    later: dict[str, list[float]] = {}
    for each in practice.answers:
        side = later if datetime.fromisoformat(each.at) >= since else before
        side.setdefault(each.judgement, []).append(each.score)
    found = [
        Improved(JUDGEMENTS[name], mean(before[name][-LATELY:]), mean(scores))
        for name, scores in later.items()
        if name in before and name in JUDGEMENTS and mean(scores) > mean(before[name][-LATELY:])
    ]
    return tuple(sorted(found, key=lambda each: (each.before - each.since, each.judgement.id)))


def level_of(practice: Practice) -> Level:
    """The level that fits by now."""
    return level_for(practice.able)


def fading(rows: Iterable[Progress]) -> tuple[Progress, ...]:
    """What fades, the most faded first."""
    return tuple(sorted((each for each in rows if each.standing == "fades"), key=lambda each: each.recall))


def remembered(rows: Iterable[Progress]) -> float:
    """How much of what was practised would be recalled now, 0 to 1; 0 where nothing was."""
    own = [each.recall for each in rows if each.standing != "new"]
    return mean(own) if own else 0.0


def weak(rows: Iterable[Progress], count: int) -> tuple[Progress, ...]:
    """What is needed most: judgements that were asked and would not be recalled, or were mostly wrong, weakest first."""
    own = [
        each for each in rows if each.answers and (each.recall < WANTED_RECALL - WELL_BELOW or each.right < HARD_WRONG)
    ]
    return tuple(sorted(own, key=lambda each: (each.right * each.recall, each.judgement.id))[:count])


def _interval(scores: Sequence[float]) -> tuple[float, float]:
    """Wilson's interval of a share, nine cases of ten."""
    if not scores:
        return 0.0, 1.0
    count, share = len(scores), mean(scores)
    z = Z90
    middle = (share + z * z / (2 * count)) / (1 + z * z / count)
    half = z / (1 + z * z / count) * sqrt(share * (1 - share) / count + z * z / (4 * count * count))
    return max(0.0, middle - half), min(1.0, middle + half)
