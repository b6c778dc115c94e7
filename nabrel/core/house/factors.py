"""Factors on forecasts that an educator took over from what wear records teach: a value of the house."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from math import prod

from nabrel.core.errors import Refused
from nabrel.core.terms.effects import ABOUT_INFO, OF_INFO
from nabrel.core.terms.ids import EffectAbout, EffectOf
from nabrel.core.terms.limits import LIMITS
from nabrel.core.terms.words import counted, sentence


@dataclass(frozen=True, slots=True)
class Factor:
    """What one forecast is multiplied by: of the whole house, on one sitter, or with one item; it rests on so many looks."""

    about: EffectAbout
    of: EffectOf
    id: str
    factor: float
    looks: int = 0

    @property
    def parameter(self) -> str:
        """Its name, as proposals and decisions have it."""
        return parameter_of(self.about, self.of, self.id)

    def words(self, names: Mapping[str, str]) -> str:
        """Its name as a person says it, with the names of items by their id: "Hours to shine on Wren"."""
        whose = {"house": "in this house", "sitter": f"on {self.id}"}.get(
            self.of, f"with {names.get(self.id, self.id)}"
        )
        return f"{sentence(ABOUT_INFO[self.about].words)} {whose}"


def parameter_of(about: EffectAbout, of: EffectOf, name: str) -> str:
    """The name under which a factor is taken over: "shine_hours of sitter Wren"."""
    return f"{about} of {of} {name}".strip()


def factor_named(parameter: str, factor: float, looks: int = 0, field: str = "parameter") -> Factor:
    """The factor of this name. Refuses what no forecast is multiplied by, and a factor that nobody would believe."""
    about, _, owner = parameter.partition(" of ")
    of, _, name = owner.partition(" ")
    measure = next((row.id for row in ABOUT_INFO.values() if row.id == about and row.forecast), None)
    whose = next((row.id for row in OF_INFO.values() if row.id == of and row.taken), None)
    if measure is None or whose is None or bool(name) == (whose == "house"):
        measures = ", ".join(row.id for row in ABOUT_INFO.values() if row.forecast)
        raise Refused(
            field, parameter, f'one of {measures}, then "of house", "of sitter" with a name, or "of item" with an id'
        )
    if not LIMITS.factor.low <= factor <= LIMITS.factor.high:
        raise Refused(field, factor, f"a factor of {LIMITS.factor.low:g} to {LIMITS.factor.high:g}")
    return Factor(measure, whose, name, factor, looks)


def factor_of(factors: Iterable[Factor]) -> float:
    """What a forecast is multiplied by in all."""
    return prod(each.factor for each in factors)


def looks_of(factors: Iterable[Factor]) -> int:
    """On how many looks they rest: on as many as the one that rests on most, since they share them."""
    return max((each.looks for each in factors), default=0)


def learnt_from(looks: int) -> str:
    """ "learnt from 12 looks"; empty where nothing learnt is in it."""
    return f"learnt from {counted(looks, 'look')}" if looks else ""
