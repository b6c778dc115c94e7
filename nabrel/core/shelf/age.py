"""How old a product is: months since it was opened, against the months it keeps."""

from __future__ import annotations

from calendar import monthrange
from dataclasses import dataclass
from datetime import date
from typing import Literal

from nabrel.core.case.product import Product
from nabrel.core.house import House

MONTHS_A_YEAR = 12


def months_open(opened_on: date, day: date) -> int:
    """Whole months from opening to a day, 0 upwards."""
    months = (day.year - opened_on.year) * MONTHS_A_YEAR + day.month - opened_on.month - (day.day < opened_on.day)
    return max(0, months)


def past_its_months(product: Product, day: date) -> int | None:
    """Months by which a product is past the time it keeps, at least 1; None where it is within it or not known."""
    if product.opened_on is None or product.keeps_months is None:
        return None
    over = months_open(product.opened_on, day) - product.keeps_months
    return over + 1 if over >= 0 else None


def ends_on(product: Product) -> date | None:
    """The day on which an opened product's months are over; None where it is not opened or its months are not known."""
    if product.opened_on is None or product.keeps_months is None:
        return None
    years, month = divmod(product.opened_on.month - 1 + product.keeps_months, MONTHS_A_YEAR)
    year = product.opened_on.year + years
    return date(year, month + 1, min(product.opened_on.day, monthrange(year, month + 1)[1]))


@dataclass(frozen=True, slots=True)
class ItemStanding:
    """How an item of the shelf stands on a day: ``over`` and ``soon`` are about its months, ``low`` about what is left."""

    state: Literal["good", "soon", "over"]
    low: bool
    says: str


def standing(product: Product, day: date, house: House) -> ItemStanding:
    """Whether an item is still good, ends soon or is over, and whether it runs low, in words."""
    said: list[str] = []
    state: Literal["good", "soon", "over"] = "good"
    end = ends_on(product)
    if end is not None:
        days = (end - day).days
        if days <= 0:
            state = "over"
            said.append(
                f"Expired: use within {product.keeps_months} months of opening, which ended on {end.isoformat()}."
            )
        elif days <= house.warn_before_end_days:
            state = "soon"
            said.append(
                f"Use within {product.keeps_months} months of opening: ends on {end.isoformat()}, "
                f"in {days} {'day' if days == 1 else 'days'}."
            )
    low = product.left is not None and product.left < house.running_low_share
    if product.left is not None and low:
        said.append("Empty." if product.left == 0 else f"Running low: {product.left * 100:.0f} % left.")
    return ItemStanding(state, low, " ".join(said))
