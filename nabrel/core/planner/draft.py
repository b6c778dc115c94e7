"""A plan in the making: the steps so far, the shelf, and the choices that every school makes in the same way."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass, field, replace

from nabrel.core.case.case import Case
from nabrel.core.case.intent import Options
from nabrel.core.case.product import Product
from nabrel.core.face.reading import Reading
from nabrel.core.house import House
from nabrel.core.plan.sequence import LeftBare
from nabrel.core.plan.step import Step, take_for
from nabrel.core.shelf.bases import beads
from nabrel.core.shelf.doses import Take, film_words, passed_on
from nabrel.core.shelf.shelf import Shelf
from nabrel.core.terms.hands import MOTION_INFO
from nabrel.core.terms.ids import Base, Motion, Role, StepKind, Tool, Zone
from nabrel.core.terms.steps import LAYER_KINDS
from nabrel.core.terms.words import sentence
from nabrel.core.terms.zones import EDGE_ZONES, ZONE_INFO, area_of, in_order
from nabrel.core.wear.climate import climate_setting

DOTTED: frozenset[StepKind] = frozenset({"foundation", "light", "shade", "colour"})
Hand = tuple[Tool, Motion]
Share = Callable[[Zone], float]
"""Share of the planned foundation film that a zone gets, 0 to 1."""


@dataclass(slots=True)
class Draft:
    """Collects steps. Schools call it in their own order; it numbers steps and works out amounts and times."""

    case: Case
    reading: Reading
    shelf: Shelf
    house: House
    foundation: Product | None = None
    foundation_um: float = 0.0
    steps: list[Step] = field(default_factory=list)
    left_bare: list[LeftBare] = field(default_factory=list)
    notes: list[str] = field(default_factory=list)
    powdered: set[Zone] = field(default_factory=set)
    wet: dict[Zone, float] = field(default_factory=dict)
    top: dict[Zone, Base] = field(default_factory=dict)
    held: dict[tuple[str, Tool | None], float] = field(default_factory=dict)

    def add(
        self,
        kind: StepKind,
        zones: Iterable[Zone],
        why: Iterable[str],
        *,
        product: Product | None = None,
        film_um: float | None = None,
        powder_mg: float | None = None,
        hand: Hand | None = None,
        active_s: float | None = None,
        wait_s: float = 0.0,
        wait_at_most_s: float | None = None,
        rules: Iterable[str] = (),
        check: str = "",
    ) -> Step | None:
        """Add a step on those of the zones that may be worked on; nothing where none is left."""
        named = in_order(zones)
        workable = self.reading.workable(named)
        for zone in named:
            if zone not in workable and kind in LAYER_KINDS:
                broken = self.reading.zones[zone].broken
                what = "The skin is broken here" if broken else "The eye looks inflamed here"
                self.leave(zone, kind, f"{what}: nothing is laid on it.")
        if named and not workable:
            return None
        reasons = list(why)
        if film_um is not None and kind in DOTTED and self.options.laid_from == "face":
            film_um *= self.house.dotted_factor
            reasons.append("Dotted on the face: quick, and a little more than from the hand. Spread it at once.")
        step = Step(
            id=f"s{len(self.steps) + 1}",
            kind=kind,
            zones=workable,
            product=product.id if product else None,
            film_um=round(film_um, 2) if film_um is not None else None,
            powder_mg_cm2=round(powder_mg, 3) if powder_mg is not None else None,
            tool=hand[0] if hand else None,
            motion=hand[1] if hand else None,
            active_s=float(round(active_s if active_s is not None else self.pace(workable))),
            wait_s=float(round(wait_s * self.setting)),
            wait_at_most_s=None if wait_at_most_s is None else float(round(wait_at_most_s)),
            why=tuple(sentence(reason) for reason in reasons if reason),
            rules=tuple(rules),
            check=check,
        )
        step = replace(step, take=self._take(step, product))
        self.steps.append(step)
        for zone in workable:
            if product is not None and step.film_um and not product.dry:
                self.top[zone] = product.base
            if step.powder_mg_cm2 is not None:
                self.powdered.add(zone)
                self.wet.pop(zone, None)
                self.top.pop(zone, None)
            elif kind in LAYER_KINDS and step.film_um:
                self.wet[zone] = self.wet.get(zone, 0.0) + step.film_um
        return step

    def _take(self, step: Step, product: Product | None) -> Take | None:
        """What to take, less what the tool still holds of the same product: left-overs go to the edges on purpose."""
        take = take_for(step, product, self.house)
        if take is None or product is None or take.unit != "ml":
            return take
        share = passed_on(step.tool, self.house)
        held = (product.id, step.tool)
        left = self.held.get(held, 0.0) * self.house.carry_share if set(step.zones) & set(EDGE_ZONES) else 0.0
        need = take.amount * share
        if left > 0:
            fresh = max(0.0, need - left) / share
            words = f"what is left on the {(step.tool or 'tool').replace('_', ' ')}"
            if fresh > self.house.least_fresh_ml:
                words += f" and {film_words(fresh, product.dose_ml)}"
            take = Take(float(f"{fresh:.2g}") if fresh > self.house.least_fresh_ml else 0.0, "ml", words)
        self.held[held] = self.held.get(held, 0.0) * (1.0 - (left > 0)) + take.amount * (1.0 - share)
        return take

    @property
    def options(self) -> Options:
        """The ways of working asked for."""
        return self.case.intent.options

    def setting_powder_for(self, zones: Iterable[Zone]) -> Product | None:
        """The powder that suits what was read on the zones, and whose value is not far from the complexion's."""
        where = tuple(zones)
        roles: tuple[Role, ...] = ("setting_powder",)
        if self.options.powder_foundation == "set":
            roles = ("powder_foundation",) if self.shelf.of("powder_foundation") else roles
        powders = [item for item in self.shelf.of(*roles) if item.dry and item.tinted]
        if not powders:
            return None
        level = self.reading.complexion[0]

        def cost(item: Product) -> tuple[float, str]:
            suits = sum(self.reading.zones[zone].severity(c) for zone in where for c in item.suits) / max(len(where), 1)
            lightness = item.lab[0] if item.lab else level
            return (max(0.0, abs(lightness - level) - self.house.free_value_step) * 0.06 - suits, item.id)

        return min(powders, key=cost)

    @property
    def setting(self) -> float:
        """Factor on waits from the day's humidity."""
        return climate_setting(self.case.intent.climate, self.house)

    def leave(self, zone: Zone, kind: StepKind, why: str) -> None:
        """Record a zone left out on purpose, once for each kind."""
        if not any(bare.zone == zone and bare.kind == kind for bare in self.left_bare):
            self.left_bare.append(LeftBare(zone, kind, why))

    def note(self, said: str) -> None:
        """Say something about the whole plan, once."""
        if said not in self.notes:
            self.notes.append(said)

    def pace(self, zones: Iterable[Zone]) -> float:
        """Active seconds for work on the zones, from their area."""
        return max(self.house.least_active_s, area_of(zones) * self.house.second_per_cm2)

    def room(self, zone: Zone) -> float:
        """Film in µm that the zone still carries."""
        return max(0.0, self.reading.zones[zone].film_limit_um - self.wet.get(zone, 0.0))

    def tolerance(self, zones: Iterable[Zone]) -> float:
        """The most shear that every one of the zones, and what lies wet on it, bears."""
        listed = tuple(zones)
        skin = min((self.reading.zones[zone].shear_limit for zone in listed), default=3.0)
        under = 1.0 if any(self.wet.get(zone, 0.0) > 0 for zone in listed) else 3.0
        return min(skin, under)

    def hand_for(self, zones: Iterable[Zone], *choices: Hand) -> Hand:
        """The first choice whose motion the zones tolerate; a finger's press where none does."""
        limit = self.tolerance(zones)
        for tool, motion in choices:
            if MOTION_INFO[motion].shear <= limit:
                return (tool, motion)
        return ("fingers", "press")

    def cream_hand(self, zones: Iterable[Zone]) -> Hand:
        """Hand for a small amount of cream or concealer: fingers on dry or lined zones, a small brush elsewhere."""
        listed = tuple(zones)
        if any(self.reading.zones[zone].severity("active_blemish", "healing_blemish") for zone in listed):
            return ("detail_brush", "press")
        if any(self.reading.zones[zone].lined >= 2 or self.reading.zones[zone].dry >= 2 for zone in listed):
            return ("fingers", "press")
        if all(ZONE_INFO[zone].area_cm2 <= self.house.small_zone_cm2 for zone in listed):
            return self.hand_for(listed, ("dense_small_brush", "stipple"))
        return self.hand_for(listed, ("stippling_brush", "stipple"))

    def agreeing(self, candidates: Iterable[Product]) -> tuple[Product, ...]:
        """Candidates on which the foundation will not bead; all of them where none is such."""
        listed = tuple(candidates)
        foundation = self.foundation
        if foundation is None:
            return listed
        good = tuple(item for item in listed if not beads(item.base, foundation.base))
        return good or listed

    def sitting(self, candidates: Iterable[Product], zones: Iterable[Zone]) -> tuple[Product, ...]:
        """Candidates that do not bead on what lies unset on the zones; all of them where every one does."""
        lower = {self.top[zone] for zone in zones if zone in self.top}
        listed = tuple(candidates)
        good = tuple(item for item in listed if not any(beads(base, item.base) for base in lower))
        return good or listed

    def of_role_now(self, candidates: Iterable[Product], zones: Iterable[Zone]) -> tuple[Product, ...]:
        """Candidates that sit well on these zones: no shimmer on lines or texture, no oil on blemishes or oily skin."""
        listed, where = tuple(candidates), tuple(zones)
        rough = any(self.reading.zones[z].textured or self.reading.zones[z].lined for z in where)
        oil_off = any(
            self.reading.zones[z].severity("active_blemish") or self.reading.zones[z].oily >= 2 for z in where
        )
        kept = [
            item
            for item in listed
            if not (rough and item.shimmers) and not (oil_off and item.base == "oil" and item.role != "moisturiser")
        ]
        return tuple(kept)

    def missing(self, what: str, property_to_buy: str) -> None:
        """Say that nothing of the kit serves, and what property to buy."""
        self.note(f"Nothing in the kit serves as {what}: look for {property_to_buy}.")


def fragile(draft: Draft, zone: Zone) -> bool:
    """Whether a zone gets a thinner film: clear lines, creping or flaking."""
    here = draft.reading.zones[zone]
    return here.lined >= 2 or here.severity("flaking") >= 2 or here.severity("deep_fold") >= 2
