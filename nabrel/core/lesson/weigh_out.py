"""What a class takes: product for the room with its spare, what to buy, what costs most, and what a thinner way would save."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass, replace
from math import ceil
from typing import Literal

from nabrel.core.base.spending import taken
from nabrel.core.base.state import Course
from nabrel.core.case.product import Product
from nabrel.core.house import House
from nabrel.core.judge.evaluate import course_of
from nabrel.core.lesson.faces import Face
from nabrel.core.lesson.room import Room
from nabrel.core.plan.sequence import Sequence
from nabrel.core.plan.step import MixPart, Step
from nabrel.core.shelf.allergens import avoid_notice, avoided, named
from nabrel.core.shelf.doses import take, take_words
from nabrel.core.shelf.ladder import nearest_rung, rungs
from nabrel.core.terms.ids import StepKind
from nabrel.core.terms.limits import Ident
from nabrel.core.terms.steps import STEP_INFO
from nabrel.core.terms.words import counted, join_words

Measure = Literal["ml", "g"]
MOST_SAVINGS = 3
WORTH_SAVING = 0.1
"""A thinner way that saves a smaller share of an item is not named."""


@dataclass(frozen=True, slots=True)
class Weighed:
    """One item for the room: how much in all, in words for each student and in all, and what that costs."""

    item: Ident
    name: str
    amount: float
    unit: Measure
    words: str
    cost: float | None


@dataclass(frozen=True, slots=True)
class Buy:
    """One item against the shelf: what the class takes, what is left of it there (None: nobody counted), and packs to buy."""

    item: str
    name: str
    wanted: float
    unit: Measure
    left: float | None
    packs: int
    cost: float | None


@dataclass(frozen=True, slots=True)
class Saving:
    """A thinner way: which kind of step takes much, what would be done otherwise, and what that saves the class."""

    step: str
    kind: StepKind
    says: str
    saves: float
    unit: Measure
    cost: float | None


@dataclass(frozen=True, slots=True)
class Allergy:
    """What a student, or whoever's face they work on, must not have: the items with what is in them, and what is used instead."""

    student: str
    items: tuple[str, ...]
    says: str
    uses: str


def taken_by_face(room: Room, faces: Mapping[str, Face], house: House) -> Mapping[str, Mapping[str, tuple[float, str]]]:
    """Amount and unit by item that every student takes, from the class's packs and from what they brought."""
    known: dict[int, Mapping[str, tuple[float, str]]] = {}
    found = {}
    for name, face in faces.items():
        if face.of is None or name in room.log.absent:
            continue
        if id(face.plan) not in known:
            known[id(face.plan)] = taken(_course(face, house))
        found[name] = known[id(face.plan)]
    return found


def _course(face: Face, house: House) -> Course:
    if face.adapted is not None and face.plan is face.adapted.sequence:
        return face.adapted.evaluation.course
    return course_of(face.plan, house)


def brought(room: Room, name: str) -> frozenset[str]:
    """The items of a student's own that the class's kit does not hold."""
    student = room.student(name)
    if student is None or student.case is None:
        return frozenset()
    return frozenset(item.id for item in student.case.kit) - {item.id for item in room.sequence.case.kit}


def weigh_out(room: Room, faces: Mapping[str, Face], house: House) -> tuple[Weighed, ...]:
    """Product for everybody and the class's spare, item by item as it is first used; what students bring is not weighed out."""
    by_face = taken_by_face(room, faces, house)
    products = _products(room, faces)
    each: dict[str, list[tuple[float, str]]] = {}
    for name, own in by_face.items():
        not_ours = brought(room, name)
        for item, amount in own.items():
            if item not in not_ours:
                each.setdefault(item, []).append(amount)
    order = {part.item: place for place, part in reversed(list(enumerate(_parts(room, faces))))}
    found = []
    for item in sorted(each, key=lambda one: order.get(one, len(order))):
        amounts = [amount for amount, _ in each[item]]
        unit: Measure = "ml" if each[item][0][1] == "ml" else "g"
        whole = sum(amounts) * (1.0 + room.spare)
        product = products.get(item)
        found.append(
            Weighed(
                item, product.name if product else item, whole, unit,
                _words(amounts, whole, unit, product, house), _cost(whole, unit, product),
            )
        )  # fmt: skip
    return tuple(found)


def buying(weighed: Iterable[Weighed], shelf: Iterable[Product]) -> tuple[Buy, ...]:
    """What a class takes against what the shelf holds, by the id of the item; packs to buy where it is too little."""
    here = {item.id: item for item in shelf}
    found = []
    for each in weighed:
        item = here.get(each.item)
        content = None if item is None else item.ml if each.unit == "ml" else item.g
        left = None if item is None or content is None else content * (1.0 if item.left is None else item.left)
        short = each.amount if item is None else 0.0 if left is None else max(0.0, each.amount - left)
        packs = 0 if not short else ceil(short / content) if content else 1
        cost = item.price * packs if item is not None and item.price and packs else None
        found.append(Buy(each.item, each.name, each.amount, each.unit, left, packs, cost))
    return tuple(found)


def savings(room: Room, faces: Mapping[str, Face], weighed: Iterable[Weighed], house: House) -> tuple[Saving, ...]:
    """Where a thinner way saves the class most: bakes that could be pressed, layers that could go on one step thinner."""
    priced = {each.item: each.cost / each.amount for each in weighed if each.cost is not None and each.amount}
    counted_faces = Counter(id(face.plan) for name, face in faces.items() if face.of and name not in room.log.absent)
    by_id = {id(face.plan): face for face in faces.values()}
    whole: dict[StepKind, dict[str, float]] = {}
    saved: dict[StepKind, dict[str, float]] = {}
    said: dict[StepKind, tuple[str, str, Measure]] = {}
    for key, count in counted_faces.items():
        face = by_id[key]
        less = {step.id: way for step in face.plan.steps if step.item and (way := next(_thinner(step, house), None))}
        # What a step takes hangs on it alone: all thinner ways are tried at once.
        steps = tuple(less[step.id][1] if step.id in less else step for step in face.plan.steps)
        after = {each.step.id: each.take for each in course_of(replace(face.plan, steps=steps), house).done}
        for done in _course(face, house).done:
            step, then = done.step, after[done.step.id]
            if step.id not in less or done.take is None:
                continue
            times = count * (1.0 + room.spare)
            spared = done.take.amount - (then.amount if then is not None else 0.0)
            for part in step.mix:
                for book, amount in ((whole, done.take.amount), (saved, spared)):
                    own = book.setdefault(step.kind, {})
                    own[part.item] = own.get(part.item, 0.0) + amount * times * part.share
            said.setdefault(step.kind, (step.id, less[step.id][0], done.take.unit))
    found = []
    for kind, (step_id, says, unit) in said.items():
        amount = sum(saved[kind].values())
        if amount > WORTH_SAVING * sum(whole[kind].values()):
            costs = [priced[item] * less for item, less in saved[kind].items() if item in priced]
            text = f"{says}: {amount:.2g} {unit} less for the class."
            found.append(Saving(step_id, kind, text, amount, unit, sum(costs) if costs else None))
    return tuple(sorted(found, key=lambda each: (-(each.cost or 0.0), -each.saves, each.step))[:MOST_SAVINGS])


def costs_most(weighed: Iterable[Weighed], room: Room, house: House) -> str:
    """What most of the money goes into, and whether a bake or a thick layer is why; nothing where nothing has a price."""
    priced = [each for each in weighed if each.cost]
    whole = sum(each.cost or 0.0 for each in priced)
    if not priced:
        return ""
    most = max(priced, key=lambda each: (each.cost or 0.0, each.item))
    uses = [step for step in room.sequence.steps if any(part.item == most.item for part in step.mix)]
    why = [f"{STEP_INFO[step.kind].laid} takes it" for step in uses if step.kind == "bake"]
    why += [
        f"the {STEP_INFO[step.kind].laid} is a thick layer"
        for step in uses
        if (step.film_um or 0.0) >= rungs("um", house)[-2].amount
    ]
    because = f": {join_words(dict.fromkeys(why))}" if why else ""
    return f"{most.name} costs most, {most.cost:.2f} of {whole:.2f}{because}."


def allergies(room: Room, faces: Mapping[str, Face]) -> Iterator[Allergy]:
    """The class's kit against everybody's avoid list: what of the demonstrated plan they must not have, and what replaces it."""
    used = {part.item for step in room.sequence.steps for part in step.mix}
    items = [item for item in room.sequence.case.kit if item.id in used]
    for student in room.students:
        face = next((each for each in faces.values() if each.of == student.name), None)
        avoid = student.case.sitter.avoid if student.case else ()
        barred = [(item, found) for item in items if (found := avoided(item, avoid))]
        if barred:
            told = join_words(f"{item.name} ({join_words(found)})" for item, found in barred)
            yield Allergy(student.name, tuple(item.id for item, _ in barred), f"{student.name} must not have {told}",
                          _stand_ins_for(face, room, [item for item, _ in barred]))  # fmt: skip
        notice = avoid_notice(avoid, items)
        if notice is not None and notice.unknown:
            yield Allergy(
                student.name,
                tuple(item.id for item in notice.unknown),
                f"{student.name} avoids {join_words(avoid)}, and nobody recorded what is in {named(notice.unknown)}",
                "read the labels first",
            )


def _stand_ins_for(face: Face | None, room: Room, barred: list[Product]) -> str:
    if face is None or face.adapted is None:
        return "have something else ready"
    kinds = {step.kind for step in room.sequence.steps if any(p.item in {b.id for b in barred} for p in step.mix)}
    products = face.adapted.evaluation.products
    names = dict.fromkeys(
        products[part.item].name for step in face.plan.steps if step.kind in kinds for part in step.mix
    )
    return f"{join_words(names)} instead" if names else "that step is left out"


def _thinner(step: Step, house: House) -> Iterator[tuple[str, Step]]:
    """What a step would be with less: a bake as a press, a film from the thick end of the ladder one rung down."""
    if step.kind == "bake":
        yield "Press the powder on instead of baking", _at(step, nearest_rung(house.set_mg, "mg_cm2", house).amount)
        return
    ladder = rungs("um", house)
    film = step.film_um
    if film is not None and film >= ladder[len(ladder) // 2].amount:
        now = nearest_rung(film, "um", house)
        lower = max((rung for rung in ladder if rung.amount < now.amount), key=lambda rung: rung.amount)
        yield f"{STEP_INFO[step.kind].words}: {lower.words} instead of {now.words}", _at(step, lower.amount)


def _at(step: Step, most: float) -> Step:
    return replace(
        step,
        portions=tuple(
            each if each.amount is None or each.amount <= most else replace(each, amount=most) for each in step.portions
        ),
    )


def _words(amounts: list[float], whole: float, unit: Measure, product: Product | None, house: House) -> str:
    """ "one pump each, 9 pumps for 9 students: 2.3 ml"."""
    dose = product.dose_ml if product is not None else None
    takes = [take(each, unit, dose) for each in sorted(amounts)]
    same = takes[0] == takes[-1]
    least, most = takes[0].words, takes[-1].words
    own = take_words(takes[0], house) if same else least if least == most else f"{least} to {most}"
    pumps = f"{counted(ceil(whole / dose), 'pump')} " if dose and unit == "ml" else ""
    return f"{own} each, {pumps}for {counted(len(amounts), 'student')}: {whole:.2g} {unit}"


def _cost(amount: float, unit: Measure, product: Product | None) -> float | None:
    if product is None or not product.price:
        return None
    content = product.ml if unit == "ml" else product.g
    return product.price * amount / content if content else None


def _plans(room: Room, faces: Mapping[str, Face]) -> Iterator[Sequence]:
    yield room.sequence
    yield from (face.plan for face in faces.values())


def _products(room: Room, faces: Mapping[str, Face]) -> Mapping[str, Product]:
    found: dict[str, Product] = {}
    for plan in _plans(room, faces):
        for item in plan.case.kit:
            found.setdefault(item.id, item)
    for face in faces.values():
        if face.adapted is not None:
            for item in face.adapted.evaluation.products.values():
                found.setdefault(item.id, item)
    return found


def _parts(room: Room, faces: Mapping[str, Face]) -> Iterator[MixPart]:
    for plan in _plans(room, faces):
        for step in plan.steps:
            yield from step.mix
