"""Appearance: the colour every zone shows after every step, and how much of the sculpting reads through."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from nabrel.core.base.state import BaseState, Course
from nabrel.core.face.reading import Reading
from nabrel.core.film.difference import ashiness, delta_e
from nabrel.core.film.spectra import Floats, as_lab, lab_of, surface, to_hex
from nabrel.core.film.stack import Layer, finished
from nabrel.core.plan.sequence import Sequence
from nabrel.core.terms.ids import Light, StepKind, Zone
from nabrel.core.terms.zones import ZONE_INDEX, ZONES, in_order

NO_STEP = 0.05
"""A bare step below this, L*, is none: no share of it can be told."""

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
        return self.visible_step / self.bare_step if abs(self.bare_step) > NO_STEP else 0.0


@dataclass(frozen=True, slots=True)
class Appearance:
    """lab is (steps + 1, zones, 3) under the light, the first row bare skin; hexes the same as sRGB.

    de is CIEDE2000 from the intended complexion under that light, (steps + 1, zones).
    """

    light: Light
    lab: Floats
    hexes: tuple[tuple[str, ...], ...]
    de: Floats
    target: tuple[float, float, float]
    target_hex: str
    read_through: tuple[ReadThrough, ...]

    @property
    def grey(self) -> Floats:
        """How far every zone has turned towards blue-grey in the end, in a*b* units, (zones,)."""
        return ashiness(self.lab[-1], np.array(self.target))

    def last_lab(self, zone: Zone) -> Floats:
        """The finished colour of a zone."""
        return np.asarray(self.lab[-1, ZONE_INDEX[zone]])


def grounds(reading: Reading) -> Floats:
    """Reflectance of bare skin, (zones, 31)."""
    return np.stack([surface(reading.zones[zone].lab) for zone in ZONES])


def appear(sequence: Sequence, reading: Reading, course: Course, light: Light = "daylight") -> Appearance:
    """Compute the appearance of a sequence under a light."""
    # Most zones look after a step as they did before it: only what changed is worked out, and found again by row.
    changed = np.zeros((len(course.states), len(ZONES)), dtype=bool)
    for place, state in enumerate(course.states):
        changed[place, list(state.recoloured)] = True
    shown = np.concatenate([state.shown[list(state.recoloured)] for state in course.states])
    lab = lab_of(shown, light)
    target_lab = lab_of(surface(reading.complexion), light)
    hexes = to_hex(np.concatenate([lab, target_lab[None, :]]))
    row = _last_change(changed)
    return Appearance(
        light=light,
        lab=lab[row],
        hexes=tuple(tuple(hexes[each] for each in stage) for stage in row.tolist()),
        de=delta_e(lab, target_lab)[row],
        target=as_lab(target_lab),
        target_hex=hexes[-1],
        read_through=read_through(sequence, course, light),
    )


def _last_change(changed: Flags) -> Rows:
    """For every stage and zone the row, counted over what changed, that its look comes from."""
    number = np.cumsum(changed).reshape(changed.shape) - 1
    stage = np.maximum.accumulate(np.where(changed, np.arange(len(changed))[:, None], 0), axis=0)
    return np.take_along_axis(number, stage, axis=0)


def read_through(sequence: Sequence, course: Course, light: Light) -> tuple[ReadThrough, ...]:
    """Read-through of each kind of sculpting: the finished stack with it against the same stack without it."""
    found: list[ReadThrough] = []
    base = course.after
    for kind in READ_THROUGH_KINDS:
        at = [place for place, done in enumerate(base.done) if done.step.kind == kind and done.films]
        if not at:
            continue
        zones = in_order(zone for place in at for zone in sequence.steps[place].zones)
        columns = [ZONE_INDEX[zone] for zone in zones]
        upto, after = (
            _both(base, columns, at, range(at[-1] + 1)),
            _both(base, columns, at, range(at[-1] + 1, len(base.done))),
        )
        state = finished(np.concatenate([base.ground[columns]] * 2), upto)
        bare = _step(lab_of(state, light))
        visible = _step(lab_of(finished(state, after), light))
        found.extend(
            ReadThrough(zone, kind, float(b), float(v)) for zone, b, v in zip(zones, bare, visible, strict=True)
        )
    return tuple(found)


def _both(base: BaseState, columns: list[int], spared: list[int], places: Iterable[int]) -> list[Layer]:
    """Layers of the finished base on some columns, and on the same columns again, where the spared steps lay nothing."""
    found: list[Layer] = []
    for place in places:
        done = base.done[place]
        for own in done.layers_on(columns, base.film[place, columns], base.powder[place, columns]):
            nothing = np.zeros_like(own.thickness_um)
            left_out = place in spared
            thickness = np.concatenate([own.thickness_um, nothing if left_out else own.thickness_um])
            bare = None
            if own.bare is not None:
                bare = np.concatenate([own.bare, nothing + 1.0 if left_out else own.bare])
            found.append(Layer(own.film, thickness, bare))
    return found


def _step(lab: Floats) -> Floats:
    """ΔL* between the first half of the rows and the second."""
    half = len(lab) // 2
    return np.asarray(lab[:half, 0] - lab[half:, 0])


def zones_with(base: BaseState, asked: Iterable[tuple[Zone, Mapping[str, float]]]) -> Floats:
    """Finished L*a*b* in daylight, (asked, 3): each a zone as if some steps (by id) laid another amount there."""
    return np.asarray(lab_of(base.shown_with((zone, None, changes) for zone, changes in asked)))
