"""The ledger: what lies on each zone before and after every step, what tools hold, and when each step starts.

Everything that is judged by order (wet over powder, bases, shear on an unset layer, waits) is judged on it, zone by
zone, so that a partly powdered face comes out right.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Literal, NamedTuple

import numpy as np

from nabrel.core.base.in_hand import Carried, InHand
from nabrel.core.case.product import Product
from nabrel.core.film.spectra import Floats
from nabrel.core.house import House
from nabrel.core.plan.sequence import Sequence
from nabrel.core.plan.step import Step
from nabrel.core.terms.hands import MOTION_INFO
from nabrel.core.terms.ids import Base, Tool, Zone
from nabrel.core.terms.steps import CARE_KINDS, MIST_KINDS
from nabrel.core.terms.zones import ZONES

ZONE_INDEX: Mapping[Zone, int] = {zone: index for index, zone in enumerate(ZONES)}
State = Literal["bare", "wet", "tacky", "set", "powdered"]
SELF_SETTING: frozenset[Base] = frozenset({"water", "silicone", "alcohol"})
"""Bases whose film sets by itself once its volatiles are gone; oil and wax stay tacky until they are powdered."""


class Lying(NamedTuple):
    """What lies on one zone at one moment. A named tuple, since a sequence makes thousands of them.

    film_um and powder_mg are totals; wet_um is film not yet powdered over, laid from step wet_from on; top_base is
    the base of the topmost unset layer (None where there is none or powder closed it); last is the index of the last
    step that touched the zone, ready_at the time in seconds at which its least wait ends, done_at when its work ended.
    """

    film_um: float = 0.0
    powder_mg: float = 0.0
    wet_um: float = 0.0
    top_base: Base | None = None
    top_um: float = 0.0
    care: bool = False
    misted: bool = False
    wet_from: int | None = None
    last: int | None = None
    last_wet: int | None = None
    ready_at: float = 0.0
    done_at: float = 0.0

    def state(self, at_s: float, house: House) -> State:
        """Whether the zone is bare, wet, tacky, set or powdered at a time in seconds."""
        if self.wet_um <= 0:
            return "powdered" if self.powder_mg > 0 else "bare"
        if at_s < self.ready_at:
            return "wet"
        sets = self.top_base in SELF_SETTING and at_s >= self.done_at + house.film_sets_s
        return "set" if sets else "tacky"


@dataclass(frozen=True, slots=True)
class Reshaped:
    """What a step did to layers that lay there before it: lifted some film, or dusted powder off.

    columns are the zones concerned; film and powder, (earlier steps, columns), are what is left of each layer.
    """

    columns: tuple[int, ...]
    film: Floats
    powder: Floats


@dataclass(frozen=True, slots=True)
class Ledger:
    """The whole course of a sequence.

    before[i][zone] is what lies there when step i starts. film[i] and powder[i] are what step i itself laid per
    zone (µm, mg/cm²) as it lies after the last step, powder_laid[i] the powder as it was laid; reshaped[i] what step i
    did to earlier layers; carried[i] what came along in its tool, tools[i] what tools hold (ml) when it starts. Times
    in s, minutes in all.
    """

    before: tuple[Mapping[Zone, Lying], ...]
    after: Mapping[Zone, Lying]
    film: Floats
    powder: Floats
    powder_laid: Floats
    reshaped: Mapping[int, Reshaped]
    carried: tuple[tuple[Carried, ...], ...]
    tools: tuple[Mapping[Tool, Mapping[str, float]], ...]
    starts: tuple[float, ...]
    minutes: float


def product_index(sequence: Sequence, shelf: tuple[Product, ...]) -> dict[str, Product]:
    """Products by id: the case's own kit first, then the shelf planned with (a generic kit)."""
    found = {item.id: item for item in shelf}
    found.update({item.id: item for item in sequence.case.kit})
    return found


def keep(sequence: Sequence, products: Mapping[str, Product], house: House) -> Ledger:
    """Follow a sequence step by step, one pair of hands, each step as early as waits on its zones allow."""
    count = len(sequence.steps)
    film, powder = np.zeros((count, len(ZONES))), np.zeros((count, len(ZONES)))
    powder_laid = np.zeros_like(powder)
    now: dict[Zone, Lying] = {zone: Lying() for zone in ZONES}
    before: list[Mapping[Zone, Lying]] = []
    reshaped: dict[int, Reshaped] = {}
    carried: list[tuple[Carried, ...]] = []
    tools: list[Mapping[Tool, Mapping[str, float]]] = []
    starts: list[float] = []
    hand = InHand()
    clock = 0.0
    for index, step in enumerate(sequence.steps):
        before.append(dict(now))
        tools.append(hand.now())
        starts.append(max([clock, *(now[zone].ready_at for zone in step.zones)]))
        clock = starts[-1] + step.active_s
        product = products.get(step.product) if step.product else None
        carried.append(hand.work(step, product, house))
        columns = [ZONE_INDEX[zone] for zone in step.zones]
        changed = _disturb(step, index, now, film, powder, sequence, house)
        if changed:
            reshaped[index] = Reshaped(changed, film[:index, changed].copy(), powder[:index, changed].copy())
        film[index, columns] = step.film_um or 0.0
        powder[index, columns] = powder_laid[index, columns] = step.powder_mg_cm2 or 0.0
        for zone in step.zones:
            now[zone] = _touched(now[zone], step, product, index, clock)
    return Ledger(
        before=tuple(before),
        after=now,
        film=film,
        powder=powder,
        powder_laid=powder_laid,
        reshaped=reshaped,
        carried=tuple(carried),
        tools=tuple(tools),
        starts=tuple(starts),
        minutes=clock / 60.0,
    )


def _disturb(
    step: Step, index: int, now: dict[Zone, Lying], film: Floats, powder: Floats, sequence: Sequence, house: House
) -> tuple[int, ...]:
    """Take away what the step lifts or dusts off of earlier layers; the columns where something changed."""
    changed: list[int] = []
    gone_share = lifted(step, house)
    for zone in step.zones:
        column, lying = ZONE_INDEX[zone], now[zone]
        if step.kind == "dust_off" and lying.powder_mg > 0:
            _dust(powder[:index, column], sequence, house)
            now[zone] = lying = lying._replace(powder_mg=float(powder[:index, column].sum()))
            changed.append(column)
        if gone_share > 0 and lying.wet_um > 0 and lying.wet_from is not None:
            film[lying.wet_from : index, column] *= 1.0 - gone_share
            gone = lying.wet_um * gone_share
            now[zone] = lying._replace(wet_um=lying.wet_um - gone, film_um=lying.film_um - gone)
            changed.append(column)
    return tuple(dict.fromkeys(changed))


def _dust(column: Floats, sequence: Sequence, house: House) -> None:
    """Dusting off leaves a bake's remainder; powder that was only pressed or set stays."""
    for index in range(len(column)):
        if sequence.steps[index].kind == "bake":
            column[index] = min(column[index], house.bake_left_mg)


def lifted(step: Step, house: House) -> float:
    """Share of the unset film beneath that a step takes away, 0 to 1: by shear, and by a damp sponge without product."""
    sheared = (
        house.lift_at_drag * (MOTION_INFO[step.motion].shear / MOTION_INFO["drag"].shear) ** 2
        if step.motion is not None
        else 0.0
    )
    sponged = house.sponge_takes if step.tool == "damp_sponge" and not step.lays else 0.0
    return min(1.0, sheared + sponged)


def _touched(lying: Lying, step: Step, product: Product | None, index: int, end: float) -> Lying:
    return lying._replace(last=index, ready_at=end + step.wait_s, done_at=end, **_laid_on(lying, step, product, index))


def _laid_on(lying: Lying, step: Step, product: Product | None, index: int) -> dict[str, Any]:
    """What a step changes of what lies on a zone, apart from its times."""
    if step.kind in CARE_KINDS:
        return {"care": True, "film_um": lying.film_um + (step.film_um or 0.0)}
    if step.kind == "prime":
        return {
            "care": True,
            "film_um": lying.film_um + (step.film_um or 0.0),
            "top_base": product.base if product is not None else lying.top_base,
            "top_um": step.film_um or 0.0,
        }
    if step.kind in MIST_KINDS:
        return {"misted": True}
    if step.powder_mg_cm2 is not None:
        return {
            "powder_mg": lying.powder_mg + step.powder_mg_cm2,
            "wet_um": 0.0,
            "wet_from": None,
            "top_base": None,
            "top_um": 0.0,
            "misted": False,
        }
    if step.film_um is not None and step.film_um > 0:
        return {
            "film_um": lying.film_um + step.film_um,
            "wet_um": lying.wet_um + step.film_um,
            "wet_from": lying.wet_from if lying.wet_from is not None else index,
            "top_base": product.base if product is not None else None,
            "top_um": step.film_um,
            "last_wet": index,
            "misted": False,
        }
    return {}
