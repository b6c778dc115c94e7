"""For whom it is seen: every viewing has its own wanted contrast, its own load, and its own eye for edges."""

from __future__ import annotations

from dataclasses import replace

from nabrel.core.house import House
from nabrel.core.house.tables import VIEWING_CONTRAST, VIEWING_LOAD
from nabrel.core.terms.ids import Viewing


def house_for(viewing: Viewing, house: House) -> House:
    """The house parameters as this viewing judges them."""
    contrast = VIEWING_CONTRAST[viewing]
    return replace(
        house,
        wanted_shade_drop=house.wanted_shade_drop * contrast,
        wanted_light_lift=house.wanted_light_lift * contrast,
        film_limit_um=house.film_limit_um * VIEWING_LOAD[viewing],
    )
