"""The ledger: what lies on each zone before and after every step, and when each step starts.

Everything that is judged by order (wet over powder, bases, shear on an unset layer, waits) is judged on it, zone by
zone, so that a partly powdered face comes out right.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace

import numpy as np

from nabrel.core.case import Product
from nabrel.core.film.spectra import Floats
from nabrel.core.house import House
from nabrel.core.plan.step import CARE_KINDS, MIST_KINDS, Sequence, Step
from nabrel.core.vocabulary import SHEAR, ZONES, Base, Zone

ZONE_INDEX: Mapping[Zone, int] = {zone: index for index, zone in enumerate(ZONES)}


@dataclass(frozen=True, slots=True)
class Lying:
    """What lies on one zone at one moment.

    film_um and powder_mg are totals; wet_um is film not yet powdered over, laid from step wet_from on; top_base is the base of the topmost
    unset layer (None where there is none or powder closed it); last is the index of the last step that touched the
    zone, ready_at the time in seconds at which its least wait ends, done_at when its work ended.
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


@dataclass(frozen=True, slots=True)
class Ledger:
    """The whole course of a sequence.

    before[i][zone] is what lies there when step i starts. film[i] and powder[i] are what step i itself laid per
    zone (µm, mg/cm²) as it lies after the last step; dusted[i] what dusting steps took off its powder. Times in s.
    """

    before: tuple[Mapping[Zone, Lying], ...]
    after: Mapping[Zone, Lying]
    film: Floats
    powder: Floats
    dusted_at: tuple[int, ...]
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
    now: dict[Zone, Lying] = {zone: Lying() for zone in ZONES}
    before: list[Mapping[Zone, Lying]] = []
    starts: list[float] = []
    dusted: list[int] = []
    clock = 0.0
    for index, step in enumerate(sequence.steps):
        before.append(dict(now))
        start = max([clock, *(now[zone].ready_at for zone in step.zones)])
        starts.append(start)
        clock = start + step.active_s
        product = products.get(step.product) if step.product else None
        if step.kind == "dust_off":
            dusted.append(index)
        for zone in step.zones:
            column = ZONE_INDEX[zone]
            if step.film_um is not None:
                film[index, column] = step.film_um
            if step.powder_mg_cm2 is not None:
                powder[index, column] = step.powder_mg_cm2
            if step.kind == "dust_off":
                _dust(powder[:index, column], sequence, house)
            if now[zone].wet_um > 0 and now[zone].wet_from is not None:
                kept = 1.0 - lifted(step, house)
                film[now[zone].wet_from : index, column] *= kept
                gone = now[zone].wet_um * (1.0 - kept)
                now[zone] = replace(now[zone], wet_um=now[zone].wet_um - gone, film_um=now[zone].film_um - gone)
            lying = _touched(now[zone], step, product, index, clock)
            if step.kind == "dust_off":
                lying = replace(lying, powder_mg=float(powder[: index + 1, column].sum()))
            now[zone] = lying
    return Ledger(
        before=tuple(before),
        after=now,
        film=film,
        powder=powder,
        dusted_at=tuple(dusted),
        starts=tuple(starts),
        minutes=clock / 60.0,
    )


def _dust(column: Floats, sequence: Sequence, house: House) -> None:
    """Dusting off leaves a bake's remainder; powder that was only pressed or set stays."""
    for index in range(len(column)):
        if sequence.steps[index].kind == "bake":
            column[index] = min(column[index], house.bake_left_mg)


def lifted(step: Step, house: House) -> float:
    """Share of the unset film beneath that a step takes away, 0 to 1: by shear, and by a damp sponge without product."""
    sheared = house.lift_at_drag * (SHEAR[step.motion] / SHEAR["drag"]) ** 2 if step.motion is not None else 0.0
    sponged = house.sponge_takes if step.tool == "damp_sponge" and not step.lays else 0.0
    return min(1.0, sheared + sponged)


def _touched(lying: Lying, step: Step, product: Product | None, index: int, end: float) -> Lying:
    common = replace(lying, last=index, ready_at=end + step.wait_s, done_at=end)
    if step.kind in CARE_KINDS or step.kind == "prime":
        return replace(
            common,
            care=True,
            film_um=lying.film_um + (step.film_um or 0.0),
            top_base=product.base if step.kind == "prime" and product is not None else lying.top_base,
            top_um=step.film_um or 0.0 if step.kind == "prime" else lying.top_um,
        )
    if step.kind in MIST_KINDS:
        return replace(common, misted=True)
    if step.powder_mg_cm2 is not None:
        return replace(
            common,
            powder_mg=lying.powder_mg + step.powder_mg_cm2,
            wet_um=0.0,
            wet_from=None,
            top_base=None,
            top_um=0.0,
            misted=False,
        )
    if step.film_um is not None and step.film_um > 0:
        return replace(
            common,
            film_um=lying.film_um + step.film_um,
            wet_um=lying.wet_um + step.film_um,
            wet_from=lying.wet_from if lying.wet_from is not None else index,
            top_base=product.base if product is not None else None,
            top_um=step.film_um,
            last_wet=index,
            misted=False,
        )
    return common
