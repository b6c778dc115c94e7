"""A plan in the making: the steps so far, the shelf, and the choices that every school makes in the same way."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import wraps
from typing import Any, TypeVar, cast

import numpy as np

from nabrel.core.base.appearance import grounds
from nabrel.core.base.state import BaseState, bare, follow
from nabrel.core.base.tools import lay_portion, left_in
from nabrel.core.case.case import Case
from nabrel.core.case.intent import Options
from nabrel.core.case.product import Product
from nabrel.core.face.placement import COVERS
from nabrel.core.face.reading import Reading
from nabrel.core.film.spectra import Floats, as_lab
from nabrel.core.house.viewing import SeenHouse
from nabrel.core.plan.sequence import LeftBare
from nabrel.core.plan.step import MixPart, Portion, Step, Then, Unit
from nabrel.core.planner.cues import cues_for
from nabrel.core.shelf.bases import beads
from nabrel.core.shelf.doses import film_ml
from nabrel.core.shelf.ladder import nearest_rung
from nabrel.core.shelf.optics import Mixture
from nabrel.core.shelf.shelf import Shelf
from nabrel.core.terms.colour import Lab
from nabrel.core.terms.hands import MOST_SHEAR, MOTION_INFO
from nabrel.core.terms.ids import Motion, StepKind, Tool, Zone
from nabrel.core.terms.steps import LAYER_KINDS, STEP_INFO
from nabrel.core.terms.words import sentence, waited
from nabrel.core.terms.zones import ZONE_INDEX, ZONE_INFO, area_of, in_order
from nabrel.core.wear.climate import climate_setting

Hand = tuple[Tool | None, Motion]
Found = TypeVar("Found")
Share = Callable[[Zone], float]
"""Share of the planned foundation film that a zone gets, 0 to 1."""


@dataclass(frozen=True, slots=True)
class PortionDraft:
    """A portion as a stage wants it: ``amount`` is put onto the nearest rung of the ladder; ``rest`` says that it is laid
    with what the tool still holds, as far as that goes.
    """

    zones: tuple[Zone, ...]
    amount: float | None = None
    hand: Hand | None = None
    active_s: float | None = None
    rest: bool = False
    patch: float = 1.0
    why: tuple[str, ...] = ()
    if_fresh: str = ""
    """What is said in place of ``why`` where too little is left on the tool and ``rest`` is taken freshly."""
    misted: bool = False
    """Whether the tool is dampened with a mist first; a finger never is."""


@dataclass(slots=True)
class Draft:
    """Collects steps. Schools call it in their own order; it numbers steps, follows the base and works out times."""

    case: Case
    reading: Reading
    shelf: Shelf
    house: SeenHouse
    foundation: Product | None = None
    foundation_um: float = 0.0
    mixtures: dict[str, Mixture] = field(default_factory=dict)
    """What is mixed for this plan, by the id of what it amounts to."""
    left_bare: list[LeftBare] = field(default_factory=list)
    notes: list[str] = field(default_factory=list)
    marks_covered: bool = False
    says_on: dict[str, Callable[[tuple[Zone, ...]], tuple[list[str], str]]] = field(default_factory=dict)
    """By step, the reasons and the check that hold where it is kept on some of its zones only."""
    base: BaseState = field(init=False)
    hidden: Mapping[Zone, str] = field(init=False)
    """Zones that get no layer, since a beard or a hairpiece lies there, and what is said of them."""
    known: dict[Callable[[Draft], Any], tuple[BaseState, Product | None, Any]] = field(default_factory=dict)
    """What was worked out :func:`cached_per_state`, with the base and the foundation that it holds for."""

    def __post_init__(self) -> None:
        products = {item.id: item for item in self.shelf.items}
        things = [thing for thing in self.reading.sitter.covered if thing in ("beard", "hairpiece")]
        self.hidden = {zone: COVERS[thing][1] for thing in things for zone in COVERS[thing][0]}
        self.base = bare(grounds(self.reading), products, self.house, dotted=self.options.laid_from == "face")

    @property
    def steps(self) -> tuple[Step, ...]:
        """The steps so far."""
        return tuple(done.step for done in self.base.done)

    def start_again(self, steps: Iterable[Step]) -> None:
        """Follow these steps from bare skin in place of those so far, numbered anew."""
        kept = list(steps)
        numbered = [replace(step, id=f"s{number}") for number, step in enumerate(kept, start=1)]
        self.says_on = {
            new.id: self.says_on[old.id] for old, new in zip(kept, numbered, strict=True) if old.id in self.says_on
        }
        self.base = follow(self.base.emptied(), numbered, self.base.course).after

    def add(
        self,
        kind: StepKind,
        zones: Iterable[Zone],
        why: Iterable[str],
        *,
        product: Product | None = None,
        amount: float | None = None,
        hand: Hand | None = None,
        active_s: float | None = None,
        wait_s: float = 0.0,
        wait_at_most_s: float | None = None,
        rules: Iterable[str] = (),
        check: str = "",
        patch: float = 1.0,
        then: Then | None = None,
    ) -> Step | None:
        """Add a step of one portion on those of the zones that may be worked on; nothing where none is left."""
        portion = PortionDraft(in_order(zones), amount, hand, active_s, patch=patch)
        return self.lay(
            kind, [portion], why, product=product, wait_s=wait_s, wait_at_most_s=wait_at_most_s,
            rules=rules, check=check, then=then,
        )  # fmt: skip

    def lay(
        self,
        kind: StepKind,
        portions: Iterable[PortionDraft],
        why: Iterable[str],
        *,
        product: Product | None = None,
        wait_s: float = 0.0,
        wait_at_most_s: float | None = None,
        rules: Iterable[str] = (),
        check: str = "",
        then: Then | None = None,
    ) -> Step | None:
        """Add a step: one take, shared out over portions on those of their zones that may be worked on."""
        if kind in self.case.intent.already_done:
            self.note(f"{STEP_INFO[kind].words}: done already when the base begins.")
            return None
        listed = list(portions)
        nowhere = not any(portion.zones for portion in listed)
        worked = [replace(portion, zones=self._workable(kind, portion.zones)) for portion in listed]
        worked = [portion for portion in worked if portion.zones or nowhere]
        if not worked:
            return None
        unit: Unit | None = None
        if product is not None and any(portion.amount is not None for portion in worked):
            unit = "mg_cm2" if product.dry else "um"
        reasons = list(why)
        if self.base.dotted and unit == "um" and STEP_INFO[kind].dotted:
            reasons.append("Dotted on the face: quick, and a little more than from the hand. Spread it at once.")
        step = Step(
            id=f"s{len(self.base.done) + 1}",
            kind=kind,
            portions=self._portions(worked, unit, product),
            mix=self._parts(product),
            unit=unit,
            then=then,
            wait_s=float(round(wait_s)) if self.setting == 1.0 else waited(wait_s * self.setting),
            wait_at_most_s=None if wait_at_most_s is None else float(round(wait_at_most_s)),
            cue=cues_for(kind, (portion.zones for portion in worked)),
            why=tuple(sentence(reason) for reason in reasons if reason) or (f"{STEP_INFO[kind].words}, as planned.",),
            rules=tuple(rules),
            check=check,
        )
        self.base = self.base.then(step)
        return step

    def _parts(self, product: Product | None) -> tuple[MixPart, ...]:
        """What is taken for a product: itself, or what it was mixed from."""
        if product is None:
            return ()
        mixed = self.mixtures.get(product.id)
        return tuple(MixPart(item.id, share) for item, share in mixed.items) if mixed else (MixPart(product.id),)

    def _workable(self, kind: StepKind, zones: tuple[Zone, ...]) -> tuple[Zone, ...]:
        workable = self.reading.workable(zones)
        if kind in LAYER_KINDS:
            for zone in workable:
                if zone in self.hidden:
                    self.leave(zone, kind, self.hidden[zone])
            workable = tuple(zone for zone in workable if zone not in self.hidden)
        for zone in (each for each in zones if each not in self.hidden):
            if zone not in workable and kind in LAYER_KINDS:
                broken = self.reading.zones[zone].broken
                what = "The skin is broken here" if broken else "The eye looks inflamed here"
                self.leave(zone, kind, f"{what}: nothing is laid on it.")
        return workable

    def _portions(self, worked: list[PortionDraft], unit: Unit | None, product: Product | None) -> tuple[Portion, ...]:
        """The portions on the ladder; those that one hand lays alike are one, the rest of the tool comes last."""
        found: list[Portion] = []
        for each in sorted(worked, key=lambda portion: portion.rest):
            amount = each.amount
            if amount is not None and unit is not None:
                amount = nearest_rung(amount, unit, self.house).amount
            tool, motion = each.hand if each.hand is not None else (None, None)
            seconds = float(round(each.active_s if each.active_s is not None else self.pace(each.zones)))
            portion = Portion(
                each.zones, amount if unit is not None else None, tool, motion, seconds,
                patch=each.patch, why=tuple(sentence(said) for said in each.why if said),
                tool_dampened=each.misted and tool not in (None, "fingers"),
            )  # fmt: skip
            if each.rest and unit == "um" and product is not None:
                portion = self._left_over(portion, found, product)
                if not portion.left_over and each.if_fresh:
                    portion = replace(portion, why=(sentence(each.if_fresh),))
            found.append(portion)
        return tuple(_alike_taken_together(found, self))

    def _left_over(self, portion: Portion, before: list[Portion], product: Product) -> Portion:
        """The portion laid with what a tool still holds, where that is enough to be called a layer; else freshly."""
        best: Portion | None = None
        for tool, motion in dict.fromkeys((each.tool, each.motion) for each in (portion, *before)):
            held = self.base.held
            for each in before:
                laid = lay_portion(held, each, Mixture(product, None, ((product, 1.0),)), self.house)
                held = laid.held
            comes = left_in(held, tool, (product.id,), self.house)
            most = round(min(portion.amount or 0.0, comes / film_ml(area_of(portion.zones), 1.0)), 1)
            if most >= self.house.least_film_um and (best is None or most > (best.amount or 0.0)):
                best = replace(portion, tool=tool, motion=motion, amount=most, left_over=True)
        return best or portion

    @property
    def options(self) -> Options:
        """The ways of working asked for."""
        return self.case.intent.options

    def setting_powder_for(self, zones: Iterable[Zone]) -> Product | None:
        """The powder that suits what was read on the zones, and whose value is not far from what shows there."""
        return self._least_ill(self._powders(), tuple(zones))

    def baking_powder_for(self, zones: Iterable[Zone]) -> Product | None:
        """The loose translucent powder that suits the zones: nothing else is baked with."""
        most = self.house.baking_cover_most
        loose = [item for item in self.shelf.of("setting_powder") if item.texture == "loose_powder" and item.tinted]
        return self._least_ill([item for item in loose if (item.cover or 0.0) <= most], tuple(zones))

    def _least_ill(self, powders: list[Product], zones: tuple[Zone, ...]) -> Product | None:
        if len(powders) < 2:
            return powders[0] if powders else None
        cost = self._powder_cost(zones)
        return min(powders, key=lambda item: (cost(item), item.id))

    def powders_by_value(self, zones: Iterable[Zone]) -> list[tuple[Product, tuple[Zone, ...]]]:
        """The zones by the powder for each: the one for all of them, unless another suits a zone plainly better."""
        where = tuple(zones)
        usual = self.setting_powder_for(where)
        if usual is None:
            return []
        found: dict[str, tuple[Product, list[Zone]]] = {}
        for zone in where:
            own = self.setting_powder_for((zone,)) or usual
            cost = self._powder_cost((zone,))
            better = cost(usual) - cost(own) if own is not usual else 0.0
            chosen = own if better > self.house.other_powder_worth else usual
            found.setdefault(chosen.id, (chosen, []))[1].append(zone)
        # Nobody opens a second powder for a spot.
        rows = [row for row in found.values() if row[0] is usual or area_of(row[1]) >= self.house.other_powder_cm2]
        spared = [zone for zone in where if not any(zone in own for _, own in rows)]
        if spared and not any(powder is usual for powder, _ in rows):
            rows.insert(0, (usual, []))
        return [(powder, in_order([*own, *(spared if powder is usual else [])])) for powder, own in rows]

    def _powders(self) -> list[Product]:
        """What may set: setting powders and powder foundations, judged alike; the latter alone where that was asked for."""
        found = [item for item in self.shelf.of("setting_powder", "powder_foundation") if item.dry and item.tinted]
        asked = [item for item in found if item.role == "powder_foundation"]
        return asked if asked and self.options.powder_foundation == "set" else found

    def _powder_cost(self, zones: tuple[Zone, ...]) -> Callable[[Product], float]:
        """How ill a powder suits zones: by what was read there, and by how far its value is from what shows.

        One that would darken the light laid there, or grey the skin, costs most: the rule book speaks of both.
        """
        house, complexion = self.house, self.reading.complexion[0]
        level = sum(self.seen(zone)[0] for zone in zones) / len(zones) if zones else complexion
        lit = any(step.kind == "light" and step.lays and not set(zones).isdisjoint(step.zones) for step in self.steps)

        read_there = self.reading.severities(zones)

        def cost(item: Product) -> float:
            suits = sum(read_there.get(each, 0) for each in item.suits) / max(len(zones), 1)
            lightness = item.lab[0] if item.lab else level
            wrong = item.lab is not None and (
                lightness - complexion > house.ashy_step_l or (lit and lightness < complexion - house.free_value_step)
            )
            # A powder foundation covers: its label costs as much as opening a second powder.
            label = house.other_powder_worth * (item.role != "setting_powder") + house.wrong_powder_cost * wrong
            return max(0.0, abs(lightness - level) - house.free_value_step) * house.powder_value_cost - suits + label

        return cost

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
        return max(0.0, self.reading.zones[zone].film_limit_um - self.wet(zone))

    def wet(self, zone: Zone) -> float:
        """Film in µm on the zone that no powder lies over yet."""
        return self.base[zone].wet_um

    def powdered(self, zone: Zone) -> bool:
        """Whether powder lies on the zone."""
        return self.base[zone].powder_mg > 0

    def shown(self, zones: Sequence[Zone]) -> Floats:
        """The reflectances (zones, 31) that the zones show by now."""
        return np.asarray(self.base.shown[[ZONE_INDEX[zone] for zone in zones]])

    def seen(self, zone: Zone) -> Lab:
        """The colour that the zone shows by now."""
        return as_lab(self.base.lab[ZONE_INDEX[zone]])

    def tolerance(self, zones: Iterable[Zone]) -> float:
        """The most shear that every one of the zones, and what lies wet on it, bears."""
        listed = tuple(zones)
        skin = min((self.reading.zones[zone].shear_limit for zone in listed), default=MOST_SHEAR)
        under = self.house.wet_shear_limit if any(self.wet(zone) > 0 for zone in listed) else MOST_SHEAR
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
            wide = area_of(listed) > self.house.large_area_cm2
            return ("stippling_brush" if wide else "detail_brush", "press")
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

    def beading(self, candidates: Iterable[Product]) -> bool:
        """Whether the foundation would bead on every one of these."""
        foundation = self.foundation
        return foundation is not None and all(beads(item.base, foundation.base) for item in candidates)

    def sitting(self, candidates: Iterable[Product], zones: Iterable[Zone]) -> tuple[Product, ...]:
        """Candidates that do not bead on what lies unset on the zones; all of them where every one does."""
        lower = {base for zone in zones if (base := self.base[zone].top_base) is not None}
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
        remaining = [
            item
            for item in listed
            if not (rough and item.shimmers) and not (oil_off and item.base == "oil" and item.role != "moisturiser")
        ]
        return tuple(remaining)

    def missing(self, what: str, property_to_buy: str) -> None:
        """Say that nothing of the kit serves, and what property to buy."""
        self.note(f"Nothing in the kit serves as {what}: look for {property_to_buy}.")


def cached_per_state(work: Callable[[Draft], Found]) -> Callable[[Draft], Found]:
    """Have a question that is asked several times between two steps answered once for each base and foundation."""

    @wraps(work)
    def answer(draft: Draft) -> Found:
        base, foundation, found = draft.known.get(work, (None, None, None))
        if base is not draft.base or foundation is not draft.foundation:
            found = work(draft)
            draft.known[work] = (draft.base, draft.foundation, found)
        return cast("Found", found)

    return answer


def _alike_taken_together(portions: list[Portion], draft: Draft) -> list[Portion]:
    """Portions with the same amount and hand as one, in the place of the first."""
    found: list[Portion] = []
    for portion in portions:
        for place, other in enumerate(found):
            if _laid_alike(portion, other) and portion.amount is not None:
                both_zones = in_order([*other.zones, *portion.zones])
                why = tuple(dict.fromkeys([*other.why, *portion.why]))
                seconds = float(round(draft.pace(both_zones)))
                found[place] = replace(other, zones=both_zones, why=why, active_s=max(seconds, other.active_s))
                break
        else:
            found.append(portion)
    return found


def _laid_alike(one: Portion, other: Portion) -> bool:
    """Whether two portions differ in nothing but their zones, times and reasons."""
    return replace(one, zones=other.zones, active_s=other.active_s, why=other.why) == other


def fragile(draft: Draft, zone: Zone) -> bool:
    """Whether a zone gets a thinner film: clear lines, creping or flaking."""
    here = draft.reading.zones[zone]
    return here.lined >= 2 or here.severity("flaking") >= 2 or here.severity("deep_fold") >= 2
