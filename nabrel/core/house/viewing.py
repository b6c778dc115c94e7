"""For whom it is seen: every viewing has its own wanted contrast, its own load, and its own eye for edges."""

from __future__ import annotations

from dataclasses import dataclass, fields
from functools import lru_cache

from nabrel.core.errors import Fault
from nabrel.core.house import House
from nabrel.core.house.tables import VIEWING_CONTRAST, VIEWING_LOAD
from nabrel.core.terms.ids import Viewing


@dataclass(frozen=True)
class SeenHouse(House):
    """The house parameters as one viewing judges them. Made from the plain house by :func:`seen`, once."""

    viewing: Viewing = "in_person"


@lru_cache(maxsize=64)
def seen(viewing: Viewing, house: House) -> SeenHouse:
    """The house as a viewing judges it. A house that is judged already is not judged twice: our own mistake."""
    if isinstance(house, SeenHouse):
        raise Fault(f"this house is judged already, for {house.viewing}")
    contrast = VIEWING_CONTRAST[viewing]
    own = {each.name: getattr(house, each.name) for each in fields(house)}
    own["wanted_shade_drop"] *= contrast
    own["wanted_light_lift"] *= contrast
    own["film_limit_um"] *= VIEWING_LOAD[viewing]
    return SeenHouse(**own, viewing=viewing)
