"""One step of a sequence, as a frozen value."""

from __future__ import annotations

from dataclasses import dataclass

from nabrel.core.case.product import Product
from nabrel.core.house import House
from nabrel.core.shelf.doses import Take, take_film, take_powder
from nabrel.core.terms.ids import Motion, StepKind, Tool, Zone
from nabrel.core.terms.zones import area_of

CARE_KINDS: frozenset[StepKind] = frozenset({"cleanse", "moisturise", "eye_care", "sunscreen"})
SCULPT_KINDS: frozenset[StepKind] = frozenset({"shade", "light", "bronze", "glow"})
FEATURE_KINDS: frozenset[StepKind] = frozenset({"brows", "eyes", "lashes", "lips"})
LAYING_KINDS: frozenset[StepKind] = frozenset(
    {"correct", "conceal", "light", "shade", "bronze", "glow", "foundation", "colour", "spot_conceal", "clean_edge"}
)
POWDER_KINDS: frozenset[StepKind] = frozenset({"set", "bake", "mute_shine"})
MIST_KINDS: frozenset[StepKind] = frozenset({"melting_mist", "setting_mist"})


@dataclass(frozen=True, slots=True)
class Step:
    """One step of a sequence.

    film_um is dry film on the skin, powder_mg_cm2 what stands in its place for powders; wait_s the least wait
    before the next layer on the same zones, wait_at_most_s the longest.
    """

    id: str
    kind: StepKind
    zones: tuple[Zone, ...]
    product: str | None = None
    film_um: float | None = None
    powder_mg_cm2: float | None = None
    take: Take | None = None
    tool: Tool | None = None
    motion: Motion | None = None
    active_s: float = 15.0
    wait_s: float = 0.0
    wait_at_most_s: float | None = None
    why: tuple[str, ...] = ()
    rules: tuple[str, ...] = ()
    check: str = ""

    @property
    def lays(self) -> bool:
        """Whether the step puts product on the zones."""
        return self.film_um is not None or self.powder_mg_cm2 is not None


def take_for(step: Step, product: Product | None, house: House) -> Take | None:
    """What to take for a step from its zones, amount and tool; None where it lays nothing."""
    if product is None:
        return None
    area = area_of(step.zones) * (house.patch_share if step.kind == "spot_conceal" else 1.0)
    if step.powder_mg_cm2 is not None:
        return take_powder(area, step.powder_mg_cm2, step.tool, house)
    if step.film_um is not None:
        return take_film(area, step.film_um, product, step.tool, house)
    return None
