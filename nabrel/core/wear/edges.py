"""Edges: how steep the colour step is where one layer ends, by how it was blended."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from nabrel.core.appearance import Appearance
from nabrel.core.film.spectra import delta_e
from nabrel.core.house import House
from nabrel.core.house.tables import EDGE_WIDTH_MM
from nabrel.core.plan.ledger import ZONE_INDEX
from nabrel.core.plan.step import LAYING_KINDS, Sequence
from nabrel.core.vocabulary import Zone

BORDERS: tuple[tuple[str, Zone, Zone], ...] = (
    ("shade", "cheek_hollow_l", "cheek_apple_l"),
    ("shade", "cheek_hollow_r", "cheek_apple_r"),
    ("shade", "temple_l", "forehead_centre"),
    ("shade", "temple_r", "forehead_centre"),
    ("jaw", "jaw_l", "neck"),
    ("jaw", "jaw_r", "neck"),
    ("hairline", "hairline", "forehead_centre"),
)
"""Borders that are looked at: what kind, and the zones on either side."""


@dataclass(frozen=True, slots=True)
class Edge:
    """One border: its colour step beyond what bare skin shows there (ΔE00), the width it fades over, and their ratio."""

    kind: str
    zones: tuple[Zone, Zone]
    step_de: float
    width_mm: float

    @property
    def steepness(self) -> float:
        """ΔE00 per mm."""
        return self.step_de / self.width_mm


def edges(sequence: Sequence, appearance: Appearance, house: House) -> tuple[Edge, ...]:
    """Every border of the finished base at which a layer ends, steepest first."""
    found: list[Edge] = []
    for kind, one, other in BORDERS:
        differing = [
            s for s in sequence.steps if s.film_um and s.kind in LAYING_KINDS and (one in s.zones) != (other in s.zones)
        ]
        if not differing:
            continue
        motions = [s.motion for s in differing if s.motion is not None]
        width = max((EDGE_WIDTH_MM[motion] for motion in motions), default=house.hard_edge_mm)
        if kind == "shade" and not any(s.kind == "shade" for s in differing):
            kind = differing[-1].kind  # noqa: PLW2901 - where no shade ends, the border is that of the layer that does
        if any(s.kind == "soften_edges" and (one in s.zones or other in s.zones) for s in sequence.steps):
            width += house.softened_mm
        here, there = ZONE_INDEX[one], ZONE_INDEX[other]
        pairs = np.stack([appearance.lab[-1, [here, there]], appearance.lab[0, [here, there]]])
        now, bare = (float(each) for each in delta_e(pairs[:, 0], pairs[:, 1]))
        found.append(Edge(kind, (one, other), max(0.0, now - bare), width))
    return tuple(sorted(found, key=lambda edge: (-edge.steepness, edge.zones)))
