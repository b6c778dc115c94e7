"""How old a product is: months since it was opened, against the months it keeps."""

from __future__ import annotations

from datetime import date

from nabrel.core.case import Product


def months_open(opened_on: date, day: date) -> int:
    """Whole months from opening to a day, 0 upwards."""
    months = (day.year - opened_on.year) * 12 + day.month - opened_on.month - (day.day < opened_on.day)
    return max(0, months)


def past_its_months(product: Product, day: date) -> int | None:
    """Months by which a product is past the time it keeps, at least 1; None where it is within it or not known."""
    if product.opened_on is None or product.keeps_months is None:
        return None
    over = months_open(product.opened_on, day) - product.keeps_months
    return over + 1 if over >= 0 else None
