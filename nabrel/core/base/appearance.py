"""Appearance: the colour every zone shows after every step, and how much of the sculpting reads through."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from nabrel.core.base.ledger import Ledger
from nabrel.core.case.product import Product
from nabrel.core.face.reading import Reading
from nabrel.core.film.difference import delta_e
from nabrel.core.film.films import Film, blended
from nabrel.core.film.spectra import Floats, as_lab, lab_of, surface, to_hex
from nabrel.core.film.stack import Layer, finished, lay, powder_layer
from nabrel.core.house import House
from nabrel.core.plan.sequence import Sequence
from nabrel.core.shelf.optics import film_for, layer_for
from nabrel.core.terms.ids import Light, StepKind, Zone
from nabrel.core.terms.zones import ZONE_INDEX, ZONES, in_order

Flags = NDArray[np.bool_]
Rows = NDArray[np.intp]
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


def films_of(
    sequence: Sequence, ledger: Ledger, products: Mapping[str, Product], house: House
) -> tuple[Film | None, ...]:
    """The film each step lays, with what its tool carried along mixed in; None for steps that change no colour."""
    found: list[Film | None] = []
    for step, came in zip(sequence.steps, ledger.carried, strict=True):
        product = products.get(step.product or "")
        if product is None or not product.tinted or not step.lays:
            found.append(None)
            continue
        own = film_for(product, house)
        foreign = [(products[each.product], each.share) for each in came if each.product in products]
        tinted = [(film_for(item, house), share) for item, share in foreign if item.tinted]
        found.append(blended(own, tinted) if tinted else own)
    return tuple(found)


def _layers(
    sequence: Sequence,
    films: Iterable[Film | None],
    amounts: tuple[Floats, Floats],
    products: Mapping[str, Product],
    house: House,
) -> list[Layer | None]:
    """The optical layer of each step from its film and amounts: (film µm, powder mg/cm²), each (steps, zones)."""
    layers: list[Layer | None] = []
    film_um, powder_mg = amounts
    for step, film, thickness, mass in zip(sequence.steps, films, film_um, powder_mg, strict=False):
        if film is None:
            layers.append(None)
        elif products[step.product or ""].dry:
            layers.append(powder_layer(film, mass, house))
        else:
            layers.append(Layer(film, thickness))
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
    films = films_of(sequence, ledger, products, house)
    shown, changed = _course(sequence, ledger, products, house, ground, films)
    # Most zones look after a step as they did before it: only what changed is worked out, and found again by row.
    lab = lab_of(shown[changed], light)
    target_lab = lab_of(surface(reading.complexion), light)
    hexes = to_hex(np.concatenate([lab, target_lab[None, :]]))
    row = _last_change(changed)
    last = _layers(sequence, films, (ledger.film, ledger.powder), products, house)
    return Appearance(
        light=light,
        lab=lab[row],
        hexes=tuple(tuple(hexes[each] for each in stage) for stage in row.tolist()),
        de=delta_e(lab, target_lab)[row],
        film=ledger.film,
        powder=ledger.powder_laid,
        target=as_lab(target_lab),
        target_hex=hexes[-1],
        read_through=read_through(sequence, ground, last, light),
    )


def _course(
    sequence: Sequence,
    ledger: Ledger,
    products: Mapping[str, Product],
    house: House,
    ground: Floats,
    films: tuple[Film | None, ...],
) -> tuple[Floats, Flags]:
    """Reflectance after each step, (steps + 1, zones, 31), as it is at that time, and where a step changed it.

    Where a step lifts or dusts off what lay there, the zones concerned are built again from what is left of it.
    """
    laid_film = np.zeros_like(ledger.film)
    for index, step in enumerate(sequence.steps):
        laid_film[index, [ZONE_INDEX[zone] for zone in step.zones]] = step.film_um or 0.0
    laid = _layers(sequence, films, (laid_film, ledger.powder_laid), products, house)
    shown = np.empty((len(laid) + 1, *ground.shape))
    shown[0] = ground
    changed = np.zeros(shown.shape[:2], dtype=bool)
    changed[0] = True
    for index, layer in enumerate(laid):
        state = shown[index + 1]
        state[:] = shown[index]
        disturbed = ledger.reshaped.get(index)
        if disturbed is not None:
            columns = list(disturbed.columns)
            left = _layers(sequence, films, (disturbed.film, disturbed.powder), products, house)
            state[columns] = finished(ground[columns], left)
            changed[index + 1, columns] = True
        if layer is not None:
            own = np.flatnonzero(layer.thickness_um)
            state[own] = lay(state[own], layer.on(own))
            changed[index + 1, own] = True
    return shown, changed


def _last_change(changed: Flags) -> Rows:
    """For every stage and zone the row, counted over what changed, that its look comes from."""
    number = np.cumsum(changed).reshape(changed.shape) - 1
    stage = np.maximum.accumulate(np.where(changed, np.arange(len(changed))[:, None], 0), axis=0)
    return np.take_along_axis(number, stage, axis=0)


def read_through(
    sequence: Sequence, ground: Floats, layers: list[Layer | None], light: Light
) -> tuple[ReadThrough, ...]:
    """Read-through of each kind of sculpting: the finished stack with it against the same stack without it."""
    found: list[ReadThrough] = []
    for kind in READ_THROUGH_KINDS:
        at = [i for i, step in enumerate(sequence.steps) if step.kind == kind and layers[i] is not None]
        if not at:
            continue
        zones = in_order(_zones_of(sequence, at))
        columns = [ZONE_INDEX[zone] for zone in zones]
        both = [_twice(layer, columns, spared=i in at) for i, layer in enumerate(layers)]
        upto = at[-1] + 1
        state = finished(np.concatenate([ground[columns]] * 2), both[:upto])
        bare = _step(lab_of(state, light))
        visible = _step(lab_of(finished(state, both[upto:]), light))
        found.extend(
            ReadThrough(zone, kind, float(b), float(v)) for zone, b, v in zip(zones, bare, visible, strict=True)
        )
    return tuple(found)


def _twice(layer: Layer | None, columns: list[int], *, spared: bool) -> Layer | None:
    """The layer on some of its zones, and on the same zones again, where it is left out if ``spared``."""
    if layer is None:
        return None
    own = layer.on(columns)
    if not own.thickness_um.any():
        return None
    bare_skin = np.zeros_like(own.thickness_um)
    thickness = np.concatenate([own.thickness_um, bare_skin if spared else own.thickness_um])
    if own.bare is None:
        return Layer(own.film, thickness)
    return Layer(own.film, thickness, np.concatenate([own.bare, bare_skin + 1.0 if spared else own.bare]))


def _step(lab: Floats) -> Floats:
    """ΔL* between the first half of the rows and the second."""
    half = len(lab) // 2
    return np.asarray(lab[:half, 0] - lab[half:, 0])


def zones_with(
    sequence: Sequence,
    reading: Reading,
    products: Mapping[str, Product],
    house: House,
    asked: Iterable[tuple[Zone, Mapping[str, float]]],
) -> Floats:
    """Finished L*a*b* in daylight, (asked, 3): each a zone as if some steps (by id) laid another film, µm.

    What tools carry and what steps lift is left out: it is the same with and without.
    """
    rows = list(asked)
    state = np.stack([surface(reading.zones[zone].lab) for zone, _ in rows])
    for step in sequence.steps:
        product = products.get(step.product or "")
        if product is None or not product.tinted or not step.lays:
            continue
        own = (step.film_um if step.film_um is not None else step.powder_mg_cm2) or 0.0
        dry = step.film_um is None
        amounts = [(own if dry else films.get(step.id, own)) if zone in step.zones else 0.0 for zone, films in rows]
        if any(amounts):
            state = lay(state, layer_for(product, np.array(amounts), house))
    return np.asarray(lab_of(state))


def zone_with(
    sequence: Sequence,
    reading: Reading,
    products: Mapping[str, Product],
    house: House,
    zone: Zone,
    films_um: Mapping[str, float],
) -> Floats:
    """The finished L*a*b* of one zone in daylight if some steps (by id) laid another film, µm."""
    return np.asarray(zones_with(sequence, reading, products, house, [(zone, films_um)])[0])


def _zones_of(sequence: Sequence, at: Iterable[int]) -> list[Zone]:
    return [zone for index in at for zone in sequence.steps[index].zones]
