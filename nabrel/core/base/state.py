"""The state of the base: what lies on every zone after each step, what tools hold, what was taken, and the clock.

There is no other account: the planner, the rules, the optics, the forecast, amounts and questions all ask this one. It is
built step by step (:meth:`BaseState.then`), so that an edit works out only what comes after it.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Any, Literal, NamedTuple

import numpy as np

from nabrel.core.base.tools import Carried, Held, lay_portion
from nabrel.core.case.product import Product
from nabrel.core.film.films import Film, blended
from nabrel.core.film.spectra import SAMPLES, Floats, lab_of
from nabrel.core.film.stack import Layer, finished, lay, powder_layer
from nabrel.core.house import House
from nabrel.core.plan.step import Portion, Step
from nabrel.core.shelf.doses import Take, film_ml, take
from nabrel.core.shelf.optics import Mixture, film_for, mixture
from nabrel.core.terms.hands import MOTION_INFO, TOOL_INFO
from nabrel.core.terms.ids import Base, Motion, Tool, Zone
from nabrel.core.terms.products import BASE_INFO
from nabrel.core.terms.steps import LAYER_KINDS, POWDER_KINDS, SCULPT_KINDS, STEP_INFO
from nabrel.core.terms.zones import ZONE_INDEX, ZONES, area_of

Lies = Literal["bare", "wet", "tacky", "set", "powdered"]


class ZoneState(NamedTuple):
    """What lies on one zone at one moment. A named tuple, since a plan makes thousands of them.

    film_um and powder_mg are totals by area; wet_um is film not yet powdered over, laid from step wet_from on; top_base is
    the base of the topmost unset layer (None where there is none or powder closed it); last is the index of the last
    step that touched the zone, ready_at the time in seconds at which its least wait ends, done_at when its work ended.
    """

    film_um: float = 0.0
    powder_mg: float = 0.0
    wet_um: float = 0.0
    top_base: Base | None = None
    top_um: float = 0.0
    care: bool = False
    misted: bool = False
    wet_from: int | None = None
    last: int | None = None
    last_wet: int | None = None
    ready_at: float = 0.0
    done_at: float = 0.0

    def lies(self, at_s: float, house: House) -> Lies:
        """Whether the zone is bare, wet, tacky, set or powdered at a time in seconds."""
        if self.wet_um <= 0:
            return "powdered" if self.powder_mg > 0 else "bare"
        if at_s < self.ready_at:
            return "wet"
        sets = self.top_base is not None and BASE_INFO[self.top_base].sets_itself
        return "set" if sets and at_s >= self.done_at + house.film_sets_s else "tacky"


BARE = ZoneState()


@dataclass(frozen=True, slots=True)
class Presence:
    """What lies where, without how much: all that is asked to tell whether a step can be worked at all."""

    laid: frozenset[Zone] = frozenset()
    baked: frozenset[Zone] = frozenset()
    sculpted: bool = False

    def then(self, step: Step) -> Presence:
        """What lies where once a step is done."""
        if not step.lays or not (step.kind in LAYER_KINDS or step.kind in POWDER_KINDS):
            return self
        return Presence(
            self.laid.union(step.zones),
            self.baked.union(step.zones) if step.swept else self.baked,
            self.sculpted or step.kind in SCULPT_KINDS,
        )


@dataclass(frozen=True, slots=True)
class WorkedStep:
    """One step as it was worked: when (s), what its mix amounts to, what it laid and took, and what it did to others.

    films are the optics of what it laid with the columns they lie on; film and powder (zones,) what it laid, as it lay
    when the step was done; changed the columns where earlier layers were lifted or dusted off.
    """

    step: Step
    start: float
    end: float
    mixed: Mixture | None
    films: tuple[tuple[Film, tuple[int, ...]], ...]
    film: Floats
    powder: Floats
    carried: tuple[Carried, ...]
    take: Take | None
    fresh: float
    changed: tuple[int, ...]
    house: House

    def layers(self, film: Floats, powder: Floats) -> tuple[Layer, ...]:
        """Its optical layers from the amounts on some or all zones, (…,) of the columns as they stand in the arrays."""
        return tuple(self._layers(film, powder, None))

    def layers_on(self, columns: list[int], film: Floats, powder: Floats) -> list[Layer]:
        """Its layers on some columns only; film and powder (columns,)."""
        return self._layers(film, powder, columns)

    def _layers(self, film: Floats, powder: Floats, columns: list[int] | None) -> list[Layer]:
        found = []
        for optics, own in self.films:
            amount = powder if self.step.unit == "mg_cm2" else film
            if len(self.films) > 1:
                where = range(len(ZONES)) if columns is None else columns
                mask = np.fromiter((each in own for each in where), dtype=bool, count=len(amount))
                amount = np.where(mask, amount, 0.0)
            if amount.any():
                found.append(self._layer(optics, amount))
        return found

    def _layer(self, optics: Film, amount: Floats) -> Layer:
        if self.step.unit == "mg_cm2":
            return powder_layer(optics, amount, self.house)
        return Layer(optics, amount)


@dataclass(frozen=True)
class BaseState:
    """The base after some steps. Not slotted: the look of it is worked out when it is first asked for.

    lying[zone] is what lies there; film and powder, (steps, zones), what each step laid as it lies by now (µm and mg/cm² on
    the patch), patch the share of each zone that it covers. held is what tools hold, clock the time in seconds; dotted,
    whether what may be is dotted on the face rather than taken from the hand.
    """

    house: House
    products: Mapping[str, Product]
    ground: Floats
    dotted: bool = False
    former: BaseState | None = None
    done: tuple[WorkedStep, ...] = ()
    lying: Mapping[Zone, ZoneState] = field(default_factory=dict)
    film: Floats = field(default_factory=lambda: np.zeros((0, len(ZONES))))
    powder: Floats = field(default_factory=lambda: np.zeros((0, len(ZONES))))
    patch: Floats = field(default_factory=lambda: np.ones((0, len(ZONES))))
    held: Held = field(default_factory=dict)
    clock: float = 0.0
    presence: Presence = field(default_factory=Presence)

    def __getitem__(self, zone: Zone) -> ZoneState:
        """What lies on a zone."""
        return self.lying.get(zone, BARE)

    @property
    def course(self) -> Course:
        """The way here from bare skin."""
        states: list[BaseState] = []
        state: BaseState | None = self
        while state is not None:
            states.append(state)
            state = state.former
        return Course(tuple(reversed(states)))

    def emptied(self) -> BaseState:
        """The bare skin it began on."""
        return bare(self.ground, self.products, self.house, dotted=self.dotted)

    def mixed(self, step: Step) -> Mixture | None:
        """What a step takes; None without product, or where the kit has none of it."""
        items = tuple((self.products[part.item], part.share) for part in step.mix if part.item in self.products)
        return mixture(items, self.house) if items else None

    def then(self, step: Step) -> BaseState:
        """The base once a step is done, each portion as early as waits on its zones allow."""
        return _Working(self, step).state()

    @cached_property
    def shown(self) -> Floats:
        """Reflectance of every zone, (zones, 31)."""
        if self.former is None:
            return self.ground
        shown = self.former.shown.copy()
        done = self.done[-1]
        if done.changed:
            columns = list(done.changed)
            shown[columns] = finished(self.ground[columns], self._beneath(columns))
        for layer in done.layers(done.film, done.powder):
            own = np.flatnonzero(layer.thickness_um)
            shown[own] = lay(shown[own], layer.on(own))
        return shown

    @cached_property
    def lab(self) -> Floats:
        """The colour of every zone in daylight, L*a*b*, (zones, 3)."""
        return lab_of(self.shown)

    @cached_property
    def recoloured(self) -> tuple[int, ...]:
        """The columns whose look the last step changed; all of them on bare skin."""
        if self.former is None:
            return tuple(range(len(ZONES)))
        done = self.done[-1]
        laid = (done.film + done.powder) > 0 if done.films else np.zeros(len(ZONES), dtype=bool)
        return tuple(sorted({*done.changed, *np.flatnonzero(laid).tolist()}))

    def _beneath(self, columns: list[int]) -> list[Layer]:
        """The layers of all steps but the last on some columns, as they lie by now."""
        found: list[Layer] = []
        for place, earlier in enumerate(self.done[:-1]):
            if earlier.films:
                film, powder = self.film[place, columns], self.powder[place, columns]
                found.extend(earlier.layers_on(columns, film, powder))
        return found

    def shown_with(self, asked: Iterable[tuple[Zone, Floats | None, Mapping[str, float]]]) -> Floats:
        """Reflectance, (asked, 31): zones as if on another ground, or as if steps (by id) had laid another amount there.

        What was lifted or dusted off since is taken off the other amount in proportion.
        """
        rows = list(asked)
        if not rows:
            return np.empty((0, SAMPLES))
        columns = [ZONE_INDEX[zone] for zone, _, _ in rows]
        ground = np.stack(
            [self.ground[column] if own is None else own for column, (_, own, _) in zip(columns, rows, strict=True)]
        )
        layers: list[Layer] = []
        for place, done in enumerate(self.done):
            if not done.films:
                continue
            film, powder = self.film[place, columns], self.powder[place, columns]
            changes = [change.get(done.step.id) for _, _, change in rows]
            if any(change is not None for change in changes):
                film, powder = film.copy(), powder.copy()
                for row, (column, change) in enumerate(zip(columns, changes, strict=True)):
                    if change is None:
                        continue
                    now, laid = (film, done.film) if done.step.unit == "um" else (powder, done.powder)
                    was = float(laid[column])
                    now[row] = change * (now[row] / was if was > 0 else 1.0)
            layers.extend(done.layers_on(columns, film, powder))
        return finished(ground, layers)

    def shown_as(self, columns: list[int], step: str, other: Film) -> Floats:
        """Reflectance of some zones, (columns, 31), if a step (by id) had laid another film there that lay just as this one does."""
        layers: list[Layer] = []
        for place, done in enumerate(self.done):
            if done.films:
                laid = replace(done, films=((other, tuple(columns)),)) if done.step.id == step else done
                layers.extend(laid.layers_on(columns, self.film[place, columns], self.powder[place, columns]))
        return finished(self.ground[columns], layers)

    @cached_property
    def load_film(self) -> Floats:
        """Film on every zone by area, µm, (zones,)."""
        return np.asarray((self.film * self.patch).sum(axis=0))

    @cached_property
    def load_powder(self) -> Floats:
        """Powder on every zone by area, mg/cm², (zones,)."""
        return np.asarray((self.powder * self.patch).sum(axis=0))


def lifted(motion: Motion | None, tool: Tool | None, house: House, *, lays: bool) -> float:
    """Share of the unset film beneath that a hand takes away, 0 to 1: by shear, and by a damp sponge without product."""
    drag = MOTION_INFO["drag"].shear
    sheared = house.lift_at_drag * (MOTION_INFO[motion].shear / drag) ** 2 if motion is not None else 0.0
    sponged = house.sponge_takes if tool == "damp_sponge" and not lays else 0.0
    return min(1.0, sheared + sponged)


class _Working:
    """One step as it is being worked on a base."""

    def __init__(self, before: BaseState, step: Step) -> None:
        self.before, self.step, self.house = before, step, before.house
        self.index = len(before.done)
        self.mixed = before.mixed(step)
        blank = np.zeros((1, len(ZONES)))
        self.film = np.concatenate([before.film, blank])
        self.powder = np.concatenate([before.powder, blank])
        self.patch = np.concatenate([before.patch, blank + 1.0])
        self.lying = dict(before.lying)
        self.held = before.held
        self.clock = before.clock
        self.changed: list[int] = []
        self.carried: list[Carried] = []
        self.films: list[tuple[Film, tuple[int, ...]]] = []
        self.taken = 0.0
        self.start: float | None = None

    def state(self) -> BaseState:
        """The base once all portions are done, and the second tool."""
        for portion in self.step.portions:
            self._portion(portion)
        if self.step.then is not None:
            self._work_in()
        film, powder = self.film[self.index].copy(), self.powder[self.index].copy()
        done = WorkedStep(
            step=self.step,
            start=self.start if self.start is not None else self.clock,
            end=self.clock,
            mixed=self.mixed,
            films=self._one_film(),
            film=film,
            powder=powder,
            carried=tuple(dict.fromkeys(self.carried)),
            take=self._take(),
            fresh=self.taken,
            changed=tuple(dict.fromkeys(self.changed)),
            house=self.house,
        )
        return BaseState(
            house=self.house,
            products=self.before.products,
            ground=self.before.ground,
            dotted=self.before.dotted,
            former=self.before,
            done=(*self.before.done, done),
            lying=self.lying,
            film=self.film,
            powder=self.powder,
            patch=self.patch,
            held=self.held,
            clock=self.clock,
            presence=self.before.presence.then(self.step),
        )

    def _portion(self, portion: Portion) -> None:
        step, house = self.step, self.house
        begins = max([self.clock, *(self.before[zone].ready_at for zone in portion.zones)])
        if self.start is None:
            self.start = begins
        self.clock = begins + portion.active_s
        amount = portion.amount or 0.0
        columns = [ZONE_INDEX[zone] for zone in portion.zones]
        if step.lays and self.mixed is not None and portion.amount is not None:
            laid = lay_portion(self.held, portion, self.mixed, house)
            self.held, amount = laid.held, laid.amount
            self.taken += laid.taken
            self.carried.extend(laid.carried)
            if self.mixed.film is not None:
                self.films.append((self._tinged(self.mixed.film, laid.carried), tuple(columns)))
        self._disturb(portion.zones, lifted(portion.motion, portion.tool, house, lays=step.lays))
        row = self.powder if step.unit == "mg_cm2" else self.film
        if step.lays:
            row[self.index, columns] = amount
            self.patch[self.index, columns] = portion.patch
        ready = self.clock + step.wait_s
        for zone in portion.zones:
            changed = self._laid_on(self._of(zone), amount, portion.patch)
            self.lying[zone] = self._of(zone)._replace(last=self.index, ready_at=ready, done_at=self.clock, **changed)

    def _work_in(self) -> None:
        then = self.step.then
        assert then is not None
        self.clock += then.active_s
        own = lifted(then.motion, then.tool, self.house, lays=False)
        zones = self.step.worked_in
        self._disturb(zones, own)
        ready = self.clock + self.step.wait_s
        for zone in zones:
            self.lying[zone] = self._of(zone)._replace(last=self.index, ready_at=ready, done_at=self.clock)

    def _of(self, zone: Zone) -> ZoneState:
        return self.lying.get(zone, BARE)

    def _tinged(self, own: Film, came: tuple[Carried, ...]) -> Film:
        """The film with what the tool carried along mixed in."""
        products = self.before.products
        foreign = [(products[each.product], each.share) for each in came if each.product in products]
        tinted = [(film_for(item, self.house), share) for item, share in foreign if item.tinted]
        return blended(own, tinted) if tinted else own

    def _one_film(self) -> tuple[tuple[Film, tuple[int, ...]], ...]:
        """The films of the portions; one where all are the same."""
        if len(self.films) > 1 and all(each[0] is self.films[0][0] for each in self.films):
            columns = tuple(column for _, own in self.films for column in own)
            return ((self.films[0][0], columns),)
        return tuple(self.films)

    def _take(self) -> Take | None:
        """What to take for the step: its portions', or the dose that the house gives for care and mists."""
        if self.mixed is None:
            return None
        item, dry = self.mixed.product, self.mixed.product.dry
        if not self.step.lays:
            dose = STEP_INFO[self.step.kind].dose
            if not dose:
                return None
            return take(film_ml(area_of(self.step.zones), getattr(self.house, dose)), "ml", item.dose_ml)
        if self.taken <= 0:
            tool = next((p.tool for p in self.step.portions if p.left_over and p.tool), None)
            words = f"what is left on the {TOOL_INFO[tool].words}" if tool else "nothing"
            return Take(0.0, "g" if dry else "ml", words)
        least = self.house.least_take_g if dry else self.house.least_take_ml
        dotted = self.before.dotted and STEP_INFO[self.step.kind].dotted and not dry
        much = self.taken * (self.house.dotted_factor if dotted else 1.0)
        return take(max(much, least), "g" if dry else "ml", item.dose_ml)

    def _disturb(self, zones: Iterable[Zone], gone_share: float) -> None:
        """Take away what a hand lifts or dusts off of the layers on the zones; the step's own film included, once it lies."""
        if gone_share <= 0 and self.step.kind != "dust_off":
            return
        for zone in zones:
            column, lying = ZONE_INDEX[zone], self._of(zone)
            if self.step.kind == "dust_off" and lying.powder_mg > 0:
                self._dust(column)
                left = float((self.powder[: self.index, column] * self.patch[: self.index, column]).sum())
                self.lying[zone] = lying = lying._replace(powder_mg=left)
                self.changed.append(column)
            if gone_share > 0 and lying.wet_um > 0 and lying.wet_from is not None:
                self.film[lying.wet_from :, column] *= 1.0 - gone_share
                gone = lying.wet_um * gone_share
                self.lying[zone] = lying._replace(wet_um=lying.wet_um - gone, film_um=lying.film_um - gone)
                self.changed.append(column)

    def _dust(self, column: int) -> None:
        """Dusting off leaves a bake's or a cleaning line's remainder; powder that was only pressed or set stays."""
        remainders = {"bake": self.house.bake_left_mg, "clean_edge": self.house.clean_left_mg}
        for place, done in enumerate(self.before.done):
            left = remainders.get(done.step.kind)
            if left is not None:
                self.powder[place, column] = min(self.powder[place, column], left)

    def _laid_on(self, lying: ZoneState, amount: float, patch: float) -> dict[str, Any]:
        """What the step changes of what lies on a zone, apart from its times."""
        step = self.step
        nature = STEP_INFO[step.kind].nature
        film = amount * patch if step.unit == "um" else 0.0
        if nature == "care":
            return {"care": True, "film_um": lying.film_um + film}
        base = self.mixed.product.base if self.mixed is not None else None
        if nature == "prime":
            top = base if base is not None else lying.top_base
            return {"care": True, "film_um": lying.film_um + film, "top_base": top, "top_um": film}
        if nature == "mist":
            return {"misted": True}
        if step.unit == "mg_cm2":
            closed = {"wet_um": 0.0, "wet_from": None, "top_base": None, "top_um": 0.0, "misted": False}
            return {"powder_mg": lying.powder_mg + amount * patch, **closed}
        if film > 0:
            return {
                "film_um": lying.film_um + film,
                "wet_um": lying.wet_um + film,
                "wet_from": lying.wet_from if lying.wet_from is not None else self.index,
                "top_base": base,
                "top_um": amount,
                "last_wet": self.index,
                "misted": False,
            }
        return {}


def bare(ground: Floats, products: Mapping[str, Product], house: House, *, dotted: bool) -> BaseState:
    """Bare skin: ground is the reflectance of every zone, (zones, 31); dotted, how product comes on the face."""
    return BaseState(house, products, ground, dotted)


@dataclass(frozen=True)
class Course:
    """The states of a plan: ``states[i]`` stands when step i starts, the last one when all is done."""

    states: tuple[BaseState, ...]

    @property
    def after(self) -> BaseState:
        """The finished base."""
        return self.states[-1]

    @property
    def done(self) -> tuple[WorkedStep, ...]:
        """Every step as it was worked."""
        return self.states[-1].done

    @cached_property
    def starts(self) -> tuple[float, ...]:
        """When every step starts, s."""
        return tuple(each.start for each in self.done)

    @property
    def minutes(self) -> float:
        """Minutes with one pair of hands, the steps one after the other as listed."""
        return self.states[-1].clock / 60.0

    def take_of(self, step_id: str) -> Take | None:
        """What to take for a step."""
        return next((each.take for each in self.done if each.step.id == step_id), None)

    def took_off(self, index: int, place: int, column: int) -> bool:
        """Whether step ``index`` dusted or lifted off part of what step ``place`` laid in a column."""
        before, after = self.states[index], self.states[index + 1]
        return bool(after.powder[place, column] < before.powder[place, column])


def follow(start: BaseState, steps: Iterable[Step], former: Course | None = None) -> Course:
    """Follow steps one by one. States of ``former`` are taken over as long as the steps are the same."""
    listed = tuple(steps)
    states = [start]
    if former is not None and _same_start(former.states[0], start):
        states = [former.states[0]]
        for step, done, state in zip(listed, former.done, former.states[1:], strict=False):
            if step is not done.step and step != done.step:
                break
            states.append(state)
    for step in listed[len(states) - 1 :]:
        states.append(states[-1].then(step))
    return Course(tuple(states))


def _same_start(one: BaseState, other: BaseState) -> bool:
    same_skin = one.ground is other.ground or np.array_equal(one.ground, other.ground)
    same_way = one.dotted == other.dotted and one.house == other.house
    return same_skin and same_way and one.products == other.products
