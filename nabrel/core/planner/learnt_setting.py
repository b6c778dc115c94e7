"""Setting by what wear records taught: where it shone sooner or later than forecast, as much powder as lasts as long as was meant."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from nabrel.core.case.product import Product
from nabrel.core.house.factors import Factor, factor_of, learnt_from, looks_of
from nabrel.core.planner.draft import Draft
from nabrel.core.shelf.ladder import powder_ladder
from nabrel.core.terms.ids import Zone
from nabrel.core.terms.zones import COMPLEXION_ZONES
from nabrel.core.wear.climate import climate_oil
from nabrel.core.wear.forecast import matte_by_zone, shine_hours
from nabrel.core.wear.learnt import BARE, factors_on, laid_by
from nabrel.core.wear.touch_up import shine_is_minded


def shines_sooner(draft: Draft) -> list[Zone]:
    """Zones that were read quiet and still, by what was learnt, shine long before the hours wanted if no powder comes on them."""
    if not draft.house.factors:
        return []
    intent = draft.case.intent
    late = draft.house.short_shine_share * intent.wear_hours
    return [
        zone
        for zone in COMPLEXION_ZONES
        if shine_is_minded(draft.reading.zones[zone], intent.finish)
        and (factor := factor_of(_factors(draft, zone))) < 1.0
        and _hours(draft, zone, 0.0) * factor < late
    ]


def by_learnt_amount(
    draft: Draft, powder: Product, zones: Iterable[Zone], usual_mg: float
) -> Iterator[tuple[tuple[Zone, ...], float, tuple[Factor, ...]]]:
    """The zones by how much is pressed there: as usual where nothing was learnt or nobody minds a sheen, else the least rung
    that lasts as long as was meant (or the most that is pressed), with the factors that ask for it.
    """
    finish = draft.case.intent.finish
    found: dict[float, tuple[list[Zone], tuple[Factor, ...]]] = {}
    for zone in zones:
        minded = bool(draft.house.factors) and shine_is_minded(draft.reading.zones[zone], finish)
        factors = _factors(draft, zone, powder) if minded else ()
        mg = _enough(draft, zone, usual_mg, factor_of(factors)) if factors else usual_mg
        own, _ = found.setdefault(mg, ([], factors if mg != usual_mg else ()))
        own.append(zone)
    for mg, (own, factors) in found.items():
        yield tuple(own), mg, factors


def why_so_much(usual_mg: float, mg: float, factors: tuple[Factor, ...]) -> str:
    """Why it is not the usual amount."""
    more = mg > usual_mg
    return (
        f"{'More' if more else 'Less'} powder than usual, folds aside: by wear records it shines {'sooner' if more else 'later'} here than forecast, "
        f"{learnt_from(looks_of(factors))}."
    )


def _factors(draft: Draft, zone: Zone, powder: Product | None = None) -> tuple[Factor, ...]:
    wet, colour, lies = laid_by(draft.steps).get(zone, BARE)
    laid = (wet, colour, powder.id if powder is not None else lies)
    return factors_on(draft.house, "shine_hours", draft.case.sitter.nickname, laid)


def _hours(draft: Draft, zone: Zone, mg: float) -> float:
    """Hours to shine with so much powder, without anything learnt."""
    rate = draft.reading.zones[zone].oil_rate * climate_oil(draft.case.intent.climate, draft.house)
    matte = matte_by_zone(draft.base.done).get(zone, draft.house.bare_matte)
    return shine_hours(rate, mg, matte, draft.house)


def _enough(draft: Draft, zone: Zone, usual_mg: float, factor: float) -> float:
    here = draft.reading.zones[zone]
    meant = min(draft.case.intent.wear_hours, _hours(draft, zone, usual_mg))
    # Lined and dry skin shows every grain: there never more than usual, and less only down to a light press.
    most = usual_mg if here.lined >= 2 or here.dry >= 2 else draft.house.rung_full_mg
    ladder = [float(mg) for mg in powder_ladder(draft.house) if min(draft.house.press_mg, usual_mg) <= mg <= most]
    lasting = (mg for mg in ladder if _hours(draft, zone, mg) * factor >= meant)
    return next(lasting, ladder[-1] if ladder else usual_mg)
