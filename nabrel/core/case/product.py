"""An item of the kit."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from typing import Annotated

from annotated_types import Ge, Gt, Le, MaxLen

from nabrel.core.terms.colour import Lab, LabShift
from nabrel.core.terms.ids import Base, Condition, Finish, Role, Texture
from nabrel.core.terms.limits import LIMITS, BaseSource, Content, Contrast, Ident, Share, Source, Text
from nabrel.core.terms.products import FINISH_INFO, TEXTURE_INFO


@dataclass(frozen=True, slots=True)
class Product:
    """One item of the kit. ``lab`` is its masstone, ``cover`` its contrast ratio at the standard film.

    Care products (cleanser to primer, mists) may leave both out: they add no colour.
    ``suits`` names the conditions a primer or care product is meant for; ``contains`` what avoid lists are held
    against; ``dose_ml`` is one pump or drop; ``half_hour`` how its colour shifts within half
    an hour of wear (ΔL*, Δa*, Δb*), for foundations that darken. ``ingredients`` is the list on the pack, read for
    avoid lists as ``contains`` is; ``opened_on`` and ``keeps_months`` say how long it may be used once opened; ``left`` is what is left of its content,
    0 to 1, where that is kept count of. ``lab_sd`` and ``cover_sd`` say how unsure the colour and the cover are, ``source``
    where they come from, and ``base_source`` whether the base is that of the pack. ``scatter_exponent`` is how its scattering falls with wavelength, (550/λ)^e; what is usual where it
    is None.
    """

    id: Ident
    role: Role
    name: Text
    texture: Texture
    base: Base
    finish: Finish = "satin"
    lab: Lab | None = None
    cover: Contrast | None = None
    ml: Content | None = None
    g: Content | None = None
    price: Annotated[float, Ge(LIMITS.price.low), Le(LIMITS.price.high)] | None = None
    dose_ml: Annotated[float, Gt(0), Le(LIMITS.dose_ml.high)] | None = None
    suits: tuple[Condition, ...] = ()
    contains: Annotated[tuple[Text, ...], MaxLen(200)] = ()
    half_hour: LabShift | None = None
    ingredients: Annotated[tuple[Text, ...], MaxLen(200)] = ()
    opened_on: date | None = None
    keeps_months: Annotated[int, Ge(int(LIMITS.keeps_months.low)), Le(int(LIMITS.keeps_months.high))] | None = None
    left: Share | None = None
    lab_sd: Annotated[float, Ge(0), Le(20)] | None = None
    cover_sd: Annotated[float, Ge(0), Le(0.5)] | None = None
    source: Source | None = None
    scatter_exponent: Annotated[float, Ge(LIMITS.scatter_exponent.low), Le(LIMITS.scatter_exponent.high)] | None = None
    base_source: BaseSource | None = None

    @property
    def dry(self) -> bool:
        """Whether it is a powder."""
        return TEXTURE_INFO[self.texture].dry

    @property
    def tinted(self) -> bool:
        """Whether it changes the colour of what lies beneath."""
        return self.lab is not None and self.cover is not None

    @property
    def base_guessed(self) -> bool:
        """Whether the base is only what is usual for such an item; that a powder is one is seen."""
        if self.base == "powder":
            return False
        return self.base_source == "guessed" or (self.base_source is None and self.source == "guessed")

    @property
    def colour_guessed(self) -> bool:
        """Whether its colour is only what its name says."""
        return self.tinted and self.source == "guessed"

    @property
    def shimmers(self) -> bool:
        """Whether it sparkles, which shows up any texture."""
        return FINISH_INFO[self.finish].sparkles
