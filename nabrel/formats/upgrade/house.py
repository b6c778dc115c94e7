"""House parameters that older versions had and that nothing reads any more."""

from __future__ import annotations

RETIRED_PARAMETERS = frozenset({"least_fresh_ml", "conceal_film_um"})
"""A decision about one of them is left aside: takes are derived, and concealer is searched on the ladder."""
