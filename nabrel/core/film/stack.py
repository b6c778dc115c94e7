"""Stacks of films on skin: every layer over what the one before it left showing, all zones at once."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from nabrel.core.film.films import Film, Terms, on_ground, over, over_terms
from nabrel.core.film.spectra import Floats
from nabrel.core.house import House

MG_CM2_PER_UM = 0.1
"""Mass of 1 µm of a powder of 1 g/cm³."""

AT_ONCE = 15
"""Layers worked out at once: few enough that their arrays stay in the processor's cache."""


@dataclass(frozen=True, slots=True)
class Layer:
    """One layer over all zones: its film, thickness in µm per zone, and the share of each zone left bare."""

    film: Film
    thickness_um: Floats
    bare: Floats | None = None

    def on(self, columns: NDArray[np.intp] | list[int]) -> Layer:
        """The layer on some of the zones only."""
        return Layer(self.film, self.thickness_um[columns], None if self.bare is None else self.bare[columns])


def powder_cover(mg_cm2: Floats, house: House) -> tuple[Floats, Floats]:
    """Share of a surface that powder covers, and its thickness there in µm, by mass in mg/cm².

    Platelets that fall at random leave exp(-m / m1) of the surface bare; m1 is the mass that covers it once, density
    times platelet thickness (Poisson covering). The mass lies on the covered share alone: nothing is lost.
    """
    once = house.powder_density * house.powder_grain_um * MG_CM2_PER_UM
    mass = np.maximum(mg_cm2, 0.0)
    covered = 1.0 - np.exp(-mass / once)
    thickness = mass * house.powder_film_um_per_mg / np.maximum(covered, 1e-9)
    return covered, np.where(mass > 0, thickness, 0.0)


def powder_layer(film: Film, mg_cm2: Floats, house: House) -> Layer:
    """Powder as a layer, which leaves part of every zone bare."""
    covered, thickness = powder_cover(mg_cm2, house)
    return Layer(film, thickness, 1.0 - covered)


def lay(ground: Floats, layer: Layer) -> Floats:
    """Reflectance (zones, 31) once the layer lies on the ground (zones, 31)."""
    covered = over(ground, layer.film.ratio, layer.film.s * layer.thickness_um[:, None])
    return _partly(ground, covered, layer.bare)


def finished(ground: Floats, layers: Iterable[Layer]) -> Floats:
    """Reflectance (zones, 31) once all the layers lie on the ground."""
    for bare, terms in _prepared([layer for layer in layers if layer.thickness_um.any()]):
        ground = _partly(ground, on_ground(ground, *terms), bare)
    return ground


def _prepared(layers: Sequence[Layer]) -> Iterator[tuple[Floats | None, Terms]]:
    """The bare shares of each layer and all that no ground decides, worked out first: one tanh for many layers."""
    for start in range(0, len(layers), AT_ONCE):
        block = layers[start : start + AT_ONCE]
        ratio = np.array([layer.film.ratio for layer in block])[:, None, :]
        scattering = np.array([layer.film.s for layer in block])[:, None, :]
        power = scattering * np.array([layer.thickness_um for layer in block])[..., None]
        for layer, *terms in zip(block, *over_terms(ratio, power), strict=True):
            yield layer.bare, tuple(terms)


def _partly(ground: Floats, covered: Floats, bare: Floats | None) -> Floats:
    """What shows where part of each zone stays bare."""
    if bare is None:
        return covered
    return np.asarray(bare[:, None] * ground + (1.0 - bare[:, None]) * covered)
