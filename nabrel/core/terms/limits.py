"""What a value may be, where more than one kind of value asks for it: read by the files, the API and the schemas alike."""

from __future__ import annotations

from typing import Annotated, Literal

from annotated_types import Ge, Gt, Le, MaxLen, MinLen
from pydantic import StringConstraints

MOST_FILM_UM = 40.0
MOST_POWDER_MG = 2.0
MOST_SECONDS = 7200.0
MOST_WAIT_S = 2 * MOST_SECONDS
MOST_STEPS = 80
MOST_HOURS = 24.0
MOST_PORTIONS = 12
MOST_MIXED = 6
MOST_REASONS = 20
MOST_ACCEPTED = 200
MOST_ITEMS = 500

Ident = Annotated[str, StringConstraints(min_length=1, max_length=60, pattern=r"^[A-Za-z0-9][A-Za-z0-9._-]*$")]
Text = Annotated[str, MinLen(1), MaxLen(120)]
Sentence = Annotated[str, MaxLen(600)]
Share = Annotated[float, Ge(0), Le(1)]
Seconds = Annotated[float, Ge(0), Le(MOST_SECONDS)]
LongWait = Annotated[float, Ge(0), Le(MOST_WAIT_S)]
Amount = Annotated[float, Ge(0), Le(MOST_FILM_UM)]
"""µm of dry film, or mg/cm² of powder, of which a step takes at most :data:`MOST_POWDER_MG`."""
Contrast = Annotated[float, Ge(0.01), Le(0.995)]
Content = Annotated[float, Gt(0), Le(100_000)]
Severity3 = Annotated[int, Ge(0), Le(3)]
Source = Literal["measured", "photo", "stripe", "eye", "guessed"]
"""Where a colour comes from."""
