"""Stacks of films on skin: every layer over what the one before it left showing, all zones at once."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from nabrel.core.film.films import Film, over
from nabrel.core.film.spectra import Floats
from nabrel.core.house import House


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
    once = house.powder_density * house.powder_grain_um * 0.1
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
    if layer.bare is None:
        return covered
    bare = layer.bare[:, None]
    return np.asarray(bare * ground + (1.0 - bare) * covered)


def stack(ground: Floats, layers: Sequence[Layer | None]) -> Floats:
    """Reflectance after each layer, (layers + 1, zones, 31); the first is the ground. None changes nothing."""
    shown = np.empty((len(layers) + 1, *ground.shape))
    shown[0] = ground
    for index, layer in enumerate(layers):
        shown[index + 1] = shown[index] if layer is None else lay(shown[index], layer)
    return shown


def finished(ground: Floats, layers: Iterable[Layer | None]) -> Floats:
    """Reflectance (zones, 31) once all the layers lie on the ground."""
    for layer in layers:
        if layer is not None and layer.thickness_um.any():
            ground = lay(ground, layer)
    return ground
