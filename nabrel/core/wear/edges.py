"""Edges: how steep the colour step is where one layer ends, by how it was blended."""

from __future__ import annotations

from dataclasses import dataclass

from nabrel.core.base.appearance import Appearance
from nabrel.core.film.difference import delta_e
from nabrel.core.house import House
from nabrel.core.house.tables import EDGE_WIDTH_MM
from nabrel.core.plan.sequence import Sequence
from nabrel.core.plan.step import Step
from nabrel.core.terms.ids import Zone
from nabrel.core.terms.steps import LAYER_KINDS
from nabrel.core.terms.zones import ZONE_INDEX

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
    softened: bool = False

    @property
    def steepness(self) -> float:
        """ΔE00 per mm."""
        return self.step_de / self.width_mm


def _softened(sequence: Sequence, differing: list[Step], border: set[Zone]) -> bool:
    """Whether a tool without product goes over the border once a film that ends there lies: alone, or with the creases."""
    first = min((sequence.steps.index(s) for s in differing if s.unit == "um"), default=None)
    if first is None:
        return False
    return any(
        s.kind in ("soften_edges", "crease_check")
        and any(border & set(on) for tool, _, on in s.hands if tool is not None)
        for s in sequence.steps[first + 1 :]
    )


def edges(sequence: Sequence, appearance: Appearance, house: House) -> tuple[Edge, ...]:
    """Every border of the finished base at which a layer ends, steepest first."""
    ending: list[tuple[str, Zone, Zone, float, bool]] = []
    for kind, one, other in BORDERS:
        differing = [
            s for s in sequence.steps if s.lays and s.kind in LAYER_KINDS and (one in s.zones) != (other in s.zones)
        ]
        if not differing:
            continue
        motions = [
            motion for s in differing for _, motion, on in s.hands if motion is not None and {one, other} & set(on)
        ]
        width = max((EDGE_WIDTH_MM[motion] for motion in motions), default=house.hard_edge_mm)
        softened = _softened(sequence, differing, {one, other})
        width += house.softened_mm * softened
        # Where no shade ends, the border is that of the layer that does.
        shaded = kind != "shade" or any(s.kind == "shade" for s in differing)
        ending.append((kind if shaded else differing[-1].kind, one, other, width, softened))
    if not ending:
        return ()
    here = [ZONE_INDEX[one] for _, one, *_ in ending]
    there = [ZONE_INDEX[other] for _, _, other, *_ in ending]
    lab = appearance.lab[[0, -1]]
    bare, now = delta_e(lab[:, here], lab[:, there])
    found = [
        Edge(kind, (one, other), max(0.0, float(after - before)), width, softened)
        for (kind, one, other, width, softened), before, after in zip(ending, bare, now, strict=True)
    ]
    return tuple(sorted(found, key=lambda edge: (-edge.steepness, edge.zones)))
