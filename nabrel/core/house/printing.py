"""What a printed card gives back, and how thick a film is drawn on it."""

from __future__ import annotations

from dataclasses import dataclass

from nabrel.core.house.parameter import parameter


@dataclass(frozen=True, init=False, repr=False, eq=False)
class Printing:
    """What a printed card gives back, and how thick a film is drawn on it."""

    card_film_um: float = parameter(
        25.0,
        "µm",
        1.0,
        400.0,
        "Two strips of tape as rails and a straight edge leave about half the tape's thickness on the card.",
    )
    card_white: float = parameter(
        0.86,
        "reflectance",
        0.70,
        0.95,
        "What the paper of the printed card gives back. Decide it for your printer, and colours are told more surely.",
    )
    card_black: float = parameter(
        0.045, "reflectance", 0.02, 0.12, "What the black of the printed card gives back: toner 0.03 to 0.06, ink more."
    )
    card_middle: float = parameter(
        0.30,
        "reflectance",
        0.12,
        0.60,
        "What the middle grey of the printed card, the fifth of a row, gives back: dots grow in printing.",
    )
