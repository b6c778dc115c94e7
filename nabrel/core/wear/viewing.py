"""For whom it is seen: every viewing has its own wanted contrast, its own load, and its own eye for edges."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from types import MappingProxyType

from nabrel.core.house import House
from nabrel.core.house.tables import VIEWING_CONTRAST, VIEWING_LOAD
from nabrel.core.vocabulary import Viewing

SEEN_WHY: Mapping[Viewing, str] = MappingProxyType(
    {
        "in_person": "At arm's length every film and edge is seen: least film, soft edges.",
        "camera": "A camera's light washes colour out, and hides fine texture of film.",
        "stage": "From the seats only strong contrast carries; nobody is near.",
        "dim_room": "Dim light flattens; depth and colour must be stronger to be seen.",
    }
)
"""How each viewing differs from arm's length in person."""


def house_for(viewing: Viewing, house: House) -> House:
    """The house parameters as this viewing judges them."""
    contrast = VIEWING_CONTRAST[viewing]
    return replace(
        house,
        wanted_shade_drop=house.wanted_shade_drop * contrast,
        wanted_light_lift=house.wanted_light_lift * contrast,
        film_limit_um=house.film_limit_um * VIEWING_LOAD[viewing],
    )
