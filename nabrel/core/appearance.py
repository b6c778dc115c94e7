"""Appearance: the colour every zone shows after every step, and how much of the sculpting reads through."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

import numpy as np

from nabrel.core.case import Product
from nabrel.core.face.reading import Reading
from nabrel.core.film.spectra import Floats, delta_e, lab_of, surface, to_hex
from nabrel.core.film.stack import Layer, lay, stack
from nabrel.core.house import House
from nabrel.core.kit.optics import layer_for
from nabrel.core.plan.ledger import ZONE_INDEX, Ledger
from nabrel.core.plan.step import Sequence
from nabrel.core.vocabulary import ZONES, Light, StepKind, Zone, in_order

READ_THROUGH_KINDS: tuple[StepKind, ...] = ("shade", "light", "bronze")


@dataclass(frozen=True, slots=True)
class ReadThrough:
    """What still shows of one kind of sculpting on one zone.

    bare_step is ΔL* with nothing over it, visible_step ΔL* after all layers (negative is darker), share their ratio.
    """

    zone: Zone
    kind: StepKind
    bare_step: float
    visible_step: float

    @property
    def share(self) -> float:
        """Share of the bare step that still shows; 0 where there was none."""
        return self.visible_step / self.bare_step if abs(self.bare_step) > 0.05 else 0.0


@dataclass(frozen=True, slots=True)
class Appearance:
    """lab is (steps + 1, zones, 3) under the light, the first row bare skin; hexes the same as sRGB.

    de is CIEDE2000 from the intended complexion under that light, (steps + 1, zones). film and powder are what each
    step laid, (steps, zones), as it lies when the step is done.
    """

    light: Light
    lab: Floats
    hexes: tuple[tuple[str, ...], ...]
    de: Floats
    film: Floats
    powder: Floats
    target: tuple[float, float, float]
    target_hex: str
    read_through: tuple[ReadThrough, ...]

    def last_lab(self, zone: Zone) -> Floats:
        """The finished colour of a zone."""
        return np.asarray(self.lab[-1, ZONE_INDEX[zone]])


def grounds(reading: Reading) -> Floats:
    """Reflectance of bare skin, (zones, 31)."""
    return np.stack([surface(reading.zones[zone].lab) for zone in ZONES])


def layers_of(
    sequence: Sequence, film: Floats, powder: Floats, products: Mapping[str, Product], house: House
) -> list[Layer | None]:
    """The optical layer of each step; None for steps that change no colour."""
    layers: list[Layer | None] = []
    for index, step in enumerate(sequence.steps):
        product = products.get(step.product or "")
        if product is None or not product.tinted or not step.lays:
            layers.append(None)
            continue
        layers.append(layer_for(product, powder[index] if product.dry else film[index], house))
    return layers


def appear(
    sequence: Sequence,
    reading: Reading,
    ledger: Ledger,
    products: Mapping[str, Product],
    house: House,
    light: Light = "daylight",
) -> Appearance:
    """Compute the appearance of a sequence under a light."""
    ground = grounds(reading)
    layers = layers_of(sequence, ledger.film, ledger.powder, products, house)
    shown = stack(ground, layers)
    laid = ledger.powder
    if ledger.dusted_at:
        shown, laid = _before_dusting(sequence, ledger, products, house, ground, shown)
    lab = lab_of(shown, light)
    target_lab = lab_of(surface(reading.complexion), light)
    hexes = to_hex(np.concatenate([lab.reshape(-1, 3), target_lab[None, :]]))
    width = len(ZONES)
    return Appearance(
        light=light,
        lab=lab,
        hexes=tuple(tuple(hexes[row * width : (row + 1) * width]) for row in range(len(lab))),
        de=delta_e(lab, target_lab),
        film=ledger.film,
        powder=laid,
        target=(float(target_lab[0]), float(target_lab[1]), float(target_lab[2])),
        target_hex=hexes[-1],
        read_through=read_through(sequence, ground, layers, shown, light),
    )


def _before_dusting(
    sequence: Sequence,
    ledger: Ledger,
    products: Mapping[str, Product],
    house: House,
    ground: Floats,
    final: Floats,
) -> tuple[Floats, Floats]:
    """Until a bake is dusted off, all of it lies there: those stages show the full powder."""
    full = ledger.powder.copy()
    for index, step in enumerate(sequence.steps):
        if step.kind == "bake" and step.powder_mg_cm2 is not None:
            for zone in step.zones:
                full[index, ZONE_INDEX[zone]] = step.powder_mg_cm2
    first = ledger.dusted_at[0]
    undusted = stack(ground, layers_of(sequence, ledger.film, full, products, house)[:first])
    return np.concatenate([undusted, final[first + 1 :]]), full


def read_through(
    sequence: Sequence, ground: Floats, layers: list[Layer | None], shown: Floats, light: Light
) -> tuple[ReadThrough, ...]:
    """Read-through of each kind of sculpting: the whole stack with it against the stack without it."""
    found: list[ReadThrough] = []
    for kind in READ_THROUGH_KINDS:
        at = [i for i, step in enumerate(sequence.steps) if step.kind == kind and layers[i] is not None]
        if not at:
            continue
        without = stack(ground, [None if i in at else layer for i, layer in enumerate(layers)])
        visible = lab_of(shown[-1], light)[:, 0] - lab_of(without[-1], light)[:, 0]
        last = at[-1] + 1
        bare = lab_of(shown[last], light)[:, 0] - lab_of(without[last], light)[:, 0]
        for zone in in_order(_zones_of(sequence, at)):
            column = ZONE_INDEX[zone]
            found.append(ReadThrough(zone, kind, float(bare[column]), float(visible[column])))
    return tuple(found)


def zone_with(
    sequence: Sequence,
    reading: Reading,
    products: Mapping[str, Product],
    house: House,
    zone: Zone,
    films_um: Mapping[str, float],
) -> Floats:
    """The finished L*a*b* of one zone in daylight if some steps (by id) laid another film, µm."""
    state = surface(reading.zones[zone].lab)[None, :]
    for step in sequence.steps:
        product = products.get(step.product or "")
        if zone not in step.zones or product is None or not product.tinted or not step.lays:
            continue
        amount = films_um.get(step.id, step.film_um) if step.film_um is not None else step.powder_mg_cm2
        state = lay(state, layer_for(product, np.array([amount or 0.0]), house))
    return np.asarray(lab_of(state)[0])


def _zones_of(sequence: Sequence, at: Iterable[int]) -> list[Zone]:
    return [zone for index in at for zone in sequence.steps[index].zones]
