"""Read-through, asked backwards: what would let the wanted step of a shade or light show on this face.

Everything is tried on the sequence as it stands, with all that lies beneath and above the step.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from functools import partial

from nabrel.core.base.appearance import zone_with
from nabrel.core.case.product import Product
from nabrel.core.errors import Refused
from nabrel.core.face.reading import Reading
from nabrel.core.house import House
from nabrel.core.house.viewing import house_for
from nabrel.core.plan.edits import Edit, SetAmount, SetProduct
from nabrel.core.plan.sequence import Sequence
from nabrel.core.plan.step import Step
from nabrel.core.shelf.allergens import avoided

MOST_UM = 9.0
LEAST_COVER = 0.03
HALVINGS = 14
ENOUGH = 0.97
"""Share of the wanted step that counts as reached (house)."""

Visible = Callable[..., float]


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


def reach(
    sequence: Sequence,
    step_id: str,
    reading: Reading,
    products: Mapping[str, Product],
    house: House,
    wanted: float | None = None,
) -> Reach:
    """Answer for one shade or light step. ``wanted`` in L*, else the house's. Refuses other steps, and wishes of 0."""
    house = house_for(sequence.case.intent.viewing, house)
    step = sequence.step(step_id)
    if step is None or step.kind not in ("shade", "light") or step.film_um is None or step.product is None:
        raise Refused("step", step_id, "a shade or light step in cream or liquid")
    if wanted is None:
        wanted = house.wanted_shade_drop if step.kind == "shade" else house.wanted_light_lift
    if not 0.1 <= wanted <= 40:
        raise Refused("wanted", wanted, "0.1 to 40 L*")
    sign = -1.0 if step.kind == "shade" else 1.0
    foundations = [s for s in sequence.steps if s.kind == "foundation" and s.film_um and set(s.zones) & set(step.zones)]

    def visible(film_um: float, swap: Product | None = None, cover: float | None = None, thinner: float = 1.0) -> float:
        used = dict(products)
        if swap is not None:
            used[step.product or ""] = swap
        if cover is not None:
            for each in foundations:
                base = products[each.product or ""]
                used[base.id] = replace(base, cover=cover)
        films = {each.id: (each.film_um or 0.0) * thinner for each in foundations}
        total = 0.0
        for zone in step.zones:
            with_it = zone_with(sequence, reading, used, house, zone, {**films, step.id: film_um})
            without = zone_with(sequence, reading, used, house, zone, {**films, step.id: 0.0})
            total += sign * float(with_it[0] - without[0])
        return total / len(step.zones)

    shows, at_most = visible(step.film_um), visible(MOST_UM)
    own = products[step.product]
    film = _least(lambda um: visible(um) >= wanted * ENOUGH, house.least_film_um, MOST_UM)
    answer = Reach(step_id, wanted, shows, at_most, film, None, None, None, None, "", ())
    if film is not None:
        film = round(film, 1)
        said = f"{film:g} µm of {own.name} shows {visible(film):.1f} L*; {step.film_um:g} µm shows {shows:.1f}."
        edits: tuple[Edit, ...] = (SetAmount(step_id, film_um=film),) if abs(film - step.film_um) >= 0.1 else ()
        return replace(answer, film_um=film, says=said, edits=edits)
    return _otherwise(answer, sequence, step, reading, products, house, visible, foundations)


def _otherwise(
    answer: Reach,
    sequence: Sequence,
    step: Step,
    reading: Reading,
    products: Mapping[str, Product],
    house: House,
    visible: Visible,
    foundations: list[Step],
) -> Reach:
    """Another item of the kit, else the foundation that would let it through, else a plain no."""
    own = products[step.product or ""]
    usual = house.shade_film_um if step.kind == "shade" else house.light_film_um
    fitting: list[tuple[float, str, Product, float]] = []
    for item in products.values():
        if item.role != own.role or item.id == own.id or not item.tinted or item.dry:
            continue
        if avoided(item, reading.sitter.avoid):
            continue
        film = _least(partial(_shows_with, visible, item, answer.wanted * ENOUGH), house.least_film_um, MOST_UM)
        if film is not None:
            fitting.append((abs(film - usual), item.id, item, round(film, 1)))
    lead = f"No film of {own.name} shows {answer.wanted:g} L* here: at {MOST_UM:g} µm it shows {answer.at_most:.1f}."
    if fitting:
        _, _, item, film_um = min(fitting, key=lambda row: row[:2])
        same = [s for s in sequence.steps if s.kind == step.kind and s.product == step.product]
        edits: list[Edit] = [SetProduct(s.id, item.id) for s in same]
        edits.append(SetAmount(step.id, film_um=film_um))
        says = f"{lead} {film_um:g} µm of {item.name} does."
        return replace(answer, product=item, product_um=film_um, says=says, edits=tuple(edits))
    if not foundations:
        return replace(answer, says=f"{lead} Look for one of more depth or cover.")
    now_um = max(s.film_um or 0.0 for s in foundations)
    base = products[foundations[0].product or ""]
    film = step.film_um or 0.0
    cover = _most(lambda c: visible(film, cover=c) >= answer.wanted * ENOUGH, LEAST_COVER, base.cover or LEAST_COVER)
    thinner = _most(lambda part: visible(film, thinner=part) >= answer.wanted * ENOUGH, 0.0, 1.0)
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
        says=f"{base.name} cannot let it through. {lead} {tail[:1].upper()}{tail[1:]}",
    )


def _shows_with(visible: Visible, item: Product, wanted: float, film_um: float) -> bool:
    return visible(film_um, swap=item) >= wanted


def _least(holds: Callable[[float], bool], low: float, high: float) -> float | None:
    """The least value that holds, where holding starts somewhere and lasts; None where it never does."""
    if not holds(high):
        return None
    if holds(low):
        return low
    for _ in range(HALVINGS):
        middle = (low + high) / 2
        low, high = (low, middle) if holds(middle) else (middle, high)
    return high


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
