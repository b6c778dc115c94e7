"""Read-through, asked backwards: what would let the wanted step of a shade or light show on this face.

Everything is tried on the sequence as it stands, with all that lies beneath and above the step.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass, replace
from functools import partial

from nabrel.core.base.appearance import zones_with
from nabrel.core.base.state import BaseState, bare, follow
from nabrel.core.case.product import Product
from nabrel.core.errors import Refused
from nabrel.core.judge.evaluate import Evaluation
from nabrel.core.plan.edits import Edit, SetAmount, SetProduct
from nabrel.core.plan.step import Step
from nabrel.core.shelf.allergens import avoided
from nabrel.core.shelf.ladder import film_ladder, nearest_rung
from nabrel.core.terms.limits import LIMITS
from nabrel.core.terms.words import sentence

LEAST_WANTED = 0.1
"""A smaller step than this, L*, nobody sees or wants."""

LEAST_COVER = 0.03
HALVINGS = 10
ENOUGH = 0.97
"""Share of the wanted step that counts as reached (house)."""


@dataclass(frozen=True, slots=True)
class Reach:
    """What lets the wanted step show, in ΔL* (positive is meant: darker for shade, lighter for light).

    film_um is the film of the product in use that reaches it; product another of the kit that does, at product_um.
    Where neither is: cover_most and foundation_um, the cover and the film of the foundation that would let the step
    through as it is laid. None where there is no such thing.
    """

    step: str
    wanted: float
    shows: float
    at_most: float
    film_um: float | None
    product: Product | None
    product_um: float | None
    cover_most: float | None
    foundation_um: float | None
    says: str
    edits: tuple[Edit, ...]


def reach(evaluation: Evaluation, step_id: str, wanted: float | None = None) -> Reach:
    """Answer for one shade or light step. ``wanted`` in L*, else the house's. Refuses other steps, and wishes of 0."""
    sequence, house = evaluation.sequence, evaluation.house
    step = sequence.step(step_id)
    if step is None or step.kind not in ("shade", "light") or step.unit != "um" or step.item is None:
        raise Refused("step", step_id, "a shade or light step in cream or liquid")
    if wanted is None:
        wanted = house.wanted_shade_drop if step.kind == "shade" else house.wanted_light_lift
    if not LEAST_WANTED <= wanted <= LIMITS.drop_l.high:
        raise Refused("wanted", wanted, f"{LEAST_WANTED:g} to {LIMITS.drop_l.high:g} L*")
    asked = _Asked(evaluation, step)
    shows, most = asked.visible(1.0), float(film_ladder(house)[-1])
    own = evaluation.products[step.item]
    at_most = asked.visible(most / (step.film_um or most))
    answer = Reach(step_id, wanted, shows, at_most, None, None, None, None, None, "", ())
    film = _least((rung for rung in film_ladder(house)), lambda um: asked.shows_at(um) >= wanted * ENOUGH)
    if film is not None:
        said = f"{film:g} µm of {own.name} shows {asked.shows_at(film):.1f} L*; {step.film_um:g} µm shows {shows:.1f}."
        return replace(answer, film_um=film, says=said, edits=asked.edits_to(film))
    return _otherwise(answer, asked, own, most)


class _Asked:
    """A step asked about, and how much of it would show in other amounts, products and foundations."""

    def __init__(self, evaluation: Evaluation, step: Step) -> None:
        self.evaluation, self.step = evaluation, step
        self.base = evaluation.course.after
        self.sign = -1.0 if step.kind == "shade" else 1.0
        self.foundations = [
            s
            for s in evaluation.sequence.steps
            if s.kind == "foundation" and s.film_um and set(s.zones) & set(step.zones)
        ]

    def visible(
        self, part: float, swap: Product | None = None, cover: float | None = None, thinner: float = 1.0
    ) -> float:
        """Mean visible step, L*, if the step laid ``part`` of what it lays; of another item, or under another foundation."""
        base = self._on(swap, cover)
        asked = []
        for zone in self.step.zones:
            films = (
                {each.id: each.amounts.get(zone, 0.0) * thinner for each in self.foundations} if thinner != 1.0 else {}
            )
            own = self.step.amounts[zone]
            asked += [(zone, {**films, self.step.id: own * part}), (zone, {**films, self.step.id: 0.0})]
        lightness = zones_with(base, asked)[:, 0].reshape(-1, 2)
        return self.sign * float((lightness[:, 0] - lightness[:, 1]).mean())

    def shows_at(self, film_um: float, swap: Product | None = None) -> float:
        """Mean visible step if the thickest portion were laid in this film, the others in proportion."""
        return self.visible(film_um / (self.step.film_um or film_um), swap)

    def edits_to(self, film_um: float) -> tuple[Edit, ...]:
        """The edits that lay the step in this film; none where it lies so already."""
        house, thickest = self.evaluation.house, self.step.film_um or film_um
        edits = []
        for place, portion in enumerate(self.step.portions):
            if portion.amount and not portion.left_over:
                amount = nearest_rung(portion.amount * film_um / thickest, "um", house).amount
                if abs(amount - portion.amount) >= house.least_film_um / 2:
                    edits.append(SetAmount(self.step.id, amount, place))
        return tuple(edits)

    def _on(self, swap: Product | None, cover: float | None) -> BaseState:
        """The finished base with another item in the step's place, or another cover of the foundation over it."""
        if swap is None and cover is None:
            return self.base
        used = dict(self.evaluation.products)
        if swap is not None:
            used[self.step.item or ""] = swap
        if cover is not None:
            for each in self.foundations:
                own = used[each.item or ""]
                used[own.id] = replace(own, cover=cover)
        skin = bare(self.base.ground, used, self.base.house, dotted=self.base.dotted)
        return follow(skin, self.evaluation.sequence.steps).after


def _otherwise(answer: Reach, asked: _Asked, own: Product, most: float) -> Reach:
    """Another item of the kit, else the foundation that would let it through, else a plain no."""
    evaluation, step, wanted = asked.evaluation, asked.step, answer.wanted * ENOUGH
    house = evaluation.house
    usual = house.shade_film_um if step.kind == "shade" else house.light_film_um
    fitting: list[tuple[float, str, Product, float]] = []
    for item in evaluation.products.values():
        if item.role != own.role or item.id == own.id or not item.tinted or item.dry:
            continue
        if avoided(item, evaluation.reading.sitter.avoid) or asked.shows_at(most, item) < wanted:
            continue
        film = _least((rung for rung in film_ladder(house)), partial(_shows_with, asked, item, wanted))
        if film is not None:
            fitting.append((abs(film - usual), item.id, item, film))
    lead = f"No film of {own.name} shows {answer.wanted:g} L* here: at {most:g} µm it shows {answer.at_most:.1f}."
    if fitting:
        _, _, item, film_um = min(fitting, key=lambda row: row[:2])
        same = [s for s in evaluation.sequence.steps if s.kind == step.kind and s.item == step.item]
        edits = (*(SetProduct(s.id, item.id) for s in same), *asked.edits_to(film_um))
        return replace(
            answer, product=item, product_um=film_um, says=f"{lead} {film_um:g} µm of {item.name} does.", edits=edits
        )
    if not asked.foundations:
        return replace(answer, says=f"{lead} Look for one of more depth or cover.")
    return _under_another(answer, asked, lead, wanted)


def _under_another(answer: Reach, asked: _Asked, lead: str, wanted: float) -> Reach:
    """The cover and the film of the foundation that would let the step through as it is laid."""
    house = asked.evaluation.house
    base = asked.evaluation.products[asked.foundations[0].item or ""]
    now_um = max(s.film_um or 0.0 for s in asked.foundations)
    cover = _most(lambda c: asked.visible(1.0, cover=c) >= wanted, LEAST_COVER, base.cover or LEAST_COVER)
    thinner = _most(lambda part: asked.visible(1.0, thinner=part) >= wanted, 0.0, 1.0)
    ways = []
    if cover is not None:
        ways.append(f"a foundation of this shade with cover up to {100 * cover:.0f} %")
    if thinner is not None and thinner * now_um >= house.least_film_um:
        ways.append(f"{thinner * now_um:.1f} µm of {base.name} in place of {now_um:g}")
    tail = (
        f"{' or '.join(ways)} would let it through." if ways else "No foundation would let it through; lay it on top."
    )
    return replace(
        answer,
        cover_most=cover,
        foundation_um=None if thinner is None else thinner * now_um,
        says=f"{base.name} cannot let it through. {lead} {sentence(tail)}",
    )


def _shows_with(asked: _Asked, item: Product, wanted: float, film_um: float) -> bool:
    return asked.shows_at(film_um, item) >= wanted


def _least(amounts: Iterable[float], holds: Callable[[float], bool]) -> float | None:
    """The first amount that holds, where more holds too; None where none does."""
    return next((float(amount) for amount in amounts if holds(float(amount))), None)


def _most(holds: Callable[[float], bool], low: float, high: float) -> float | None:
    """The largest value that holds, where it holds from the lowest up to somewhere; None where it never does."""
    if not holds(low):
        return None
    if holds(high):
        return high
    for _ in range(HALVINGS):
        middle = (low + high) / 2
        low, high = (middle, high) if holds(middle) else (low, middle)
    return low
