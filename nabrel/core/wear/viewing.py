"""For whom it is seen: every viewing has its own wanted contrast, its own load, and its own eye for edges."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from types import MappingProxyType

from nabrel.core.house import House
from nabrel.core.vocabulary import Viewing


@dataclass(frozen=True, slots=True)
class Seen:
    """How a viewing differs from arm's length in person.

    contrast multiplies the wanted shade and light, load the film a zone carries; edge is the steepest border, in
    ΔE00 per mm, that passes unseen (all house).
    """

    contrast: float
    load: float
    edge: float
    why: str


SEEN: Mapping[Viewing, Seen] = MappingProxyType(
    {
        "in_person": Seen(1.0, 1.0, 0.6, "At arm's length every film and edge is seen: least film, soft edges."),
        "camera": Seen(1.35, 1.25, 0.9, "A camera's light washes colour out, and hides fine texture of film."),
        "stage": Seen(2.0, 1.6, 1.6, "From the seats only strong contrast carries; nobody is near."),
        "dim_room": Seen(1.3, 1.2, 1.1, "Dim light flattens; depth and colour must be stronger to be seen."),
    }
)


def house_for(viewing: Viewing, house: House) -> House:
    """The house parameters as this viewing judges them."""
    seen = SEEN[viewing]
    return replace(
        house,
        wanted_shade_drop=house.wanted_shade_drop * seen.contrast,
        wanted_light_lift=house.wanted_light_lift * seen.contrast,
        film_limit_um=house.film_limit_um * seen.load,
    )
