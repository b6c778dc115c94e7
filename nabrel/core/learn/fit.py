"""The fit: effects on the logarithm of observed over forecast, from observations that are known only to lie between two bounds.

ln(observed) = ln(forecast) + the sum of effects + noise. Each effect has a normal prior about none, the noise is normal, and what is
seen says only low < ln(observed/forecast) < high: the likelihood Φ((high − μ)/σ) − Φ((low − μ)/σ) is log-concave in the
effects, so Newton's method from none finds the one maximum in a few steps. The curvature there gives the covariance (Laplace), and σ is
the one of a grid that the Laplace evidence prefers.

Observations with the same effects are summed before the normal equations are built (a pattern each), so that their cost grows
with the number of patterns. Leaving one record out is one Newton step from the whole fit, by Woodbury's identity on its patterns.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from nabrel.core.learn.seen import Observation

Floats = npt.NDArray[np.float64]
Ints = npt.NDArray[np.intp]

PRIOR_SD: Mapping[str, float] = {"house": 0.3, "zone_group": 0.25, "sitter": 0.35, "item": 0.3, "school": 0.2}
"""Standard deviations of the effects before anything is seen, in logarithms: 0.3 is a third longer or a quarter shorter."""
NOISE = (0.1, 0.15, 0.2, 0.27, 0.36, 0.48, 0.64, 0.85)
"""The grid of standard deviations of what nothing explains."""
STEPS, CLOSE, LEAST_SHARE = 30, 1e-6, 1e-4
LEAST_CURVATURE = 1e-10
LEAST_WIDTH = 1e-4
"""Bounds nearer each other than this (a second in three hours) are as good as a point, and are taken this far apart."""


@dataclass(frozen=True)
class Fitted:
    """Effects by name: their best values and the covariance about them; the noise; and what each observation is expected at.

    ``without`` is the expectation of each observation from a fit without its record. ``names`` are in the order of ``effects``.
    """

    names: tuple[tuple[str, str], ...]
    effects: Floats
    covariance: Floats
    noise: float
    expected: Floats
    without: Floats

    def sd(self, place: int) -> float:
        """The standard deviation of one effect."""
        return float(np.sqrt(self.covariance[place, place]))


@dataclass(frozen=True)
class _Grouped:
    """Observations as arrays. ``patterns`` holds the places of effects, padded with one past the last; ``of`` the pattern of each."""

    low: Floats
    high: Floats
    record: Ints
    patterns: Ints
    of: Ints
    precision: Floats
    pairs: Ints

    @property
    def size(self) -> int:
        return len(self.precision)

    def expected(self, effects: Floats) -> Floats:
        padded = np.append(effects, 0.0)
        summed: Floats = padded[self.patterns].sum(axis=1)[self.of]
        return summed

    def summed(self, values: Floats) -> Floats:
        """Values of observations, summed by pattern."""
        return _summed(self.of, values, len(self.patterns))


def fitted(seen: Sequence[Observation], prior_sd: Mapping[str, float] = PRIOR_SD) -> Fitted:
    """The effects that these observations of one measure speak for, with the spread of each kind of effect before anything is seen.

    Refuses no observations.
    """
    if not seen:
        raise ValueError("nothing was seen")
    names = tuple(dict.fromkeys(effect for each in seen for effect in each.effects))
    grouped = _grouped(seen, names, prior_sd)
    noise, effects, hessian = _by_evidence(grouped)
    covariance: Floats = np.linalg.inv(hessian).astype(np.float64)
    expected = grouped.expected(effects)
    return Fitted(names, effects, covariance, noise, expected, _without(grouped, expected, covariance, noise))


def _grouped(seen: Sequence[Observation], names: Sequence[tuple[str, str]], prior_sd: Mapping[str, float]) -> _Grouped:
    place = {name: number for number, name in enumerate(names)}
    widest = max(len(each.effects) for each in seen)
    rows = np.full((len(seen), widest), len(names), dtype=np.intp)
    for number, each in enumerate(seen):
        rows[number, : len(each.effects)] = [place[effect] for effect in each.effects]
    patterns, of = np.unique(rows, axis=0, return_inverse=True)
    side = len(names) + 1
    low = np.array([each.low for each in seen])
    return _Grouped(
        low=low,
        high=np.maximum(np.array([each.high for each in seen]), low + LEAST_WIDTH),
        record=np.array([each.record for each in seen], dtype=np.intp),
        patterns=patterns,
        of=of.reshape(-1),
        precision=np.array([prior_sd[of_what] ** -2 for of_what, _ in names]),
        pairs=patterns[:, :, None] * side + patterns[:, None, :],
    )


def _by_evidence(grouped: _Grouped) -> tuple[float, Floats, Floats]:
    """The noise of the grid that the evidence prefers, with its effects and curvature: uphill from the middle, it has one top."""
    place, tried = len(NOISE) // 2, dict[int, tuple[float, Floats, Floats]]()

    def at(number: int) -> float:
        if not 0 <= number < len(NOISE):
            return -np.inf
        if number not in tried:
            near = tried[place][1] if tried else np.zeros(grouped.size)
            tried[number] = _climbed(grouped, near, NOISE[number])
        return tried[number][0]

    at(place)
    while at(better := max((place - 1, place + 1), key=at)) > at(place):
        place = better
    _, effects, hessian = tried[place]
    return NOISE[place], effects, hessian


def _climbed(grouped: _Grouped, effects: Floats, noise: float) -> tuple[float, Floats, Floats]:
    """The evidence, the effects at the maximum and the curvature there: Newton's method, halving a step that would go down."""
    likelihood = _likelihood(grouped, grouped.expected(effects), noise)
    height = _height(grouped, effects, likelihood[2])
    for _ in range(STEPS):
        hessian = _hessian(grouped, likelihood[1])
        gradient = _gradient(grouped, likelihood[0]) - grouped.precision * effects
        step = np.linalg.solve(hessian, gradient)
        if float(gradient @ step) < CLOSE:
            break
        share = 1.0
        while True:
            moved = effects + share * step
            likelihood = _likelihood(grouped, grouped.expected(moved), noise)
            higher = _height(grouped, moved, likelihood[2])
            if higher >= height or share < LEAST_SHARE:
                break
            share /= 2
        effects, height = moved, higher
    hessian = _hessian(grouped, likelihood[1])
    return height - 0.5 * float(np.linalg.slogdet(hessian)[1]), effects, hessian


def _height(grouped: _Grouped, effects: Floats, logs: Floats) -> float:
    """The logarithm of likelihood and prior, without what is the same for every noise."""
    return float(logs.sum() - 0.5 * (grouped.precision * effects * effects).sum())


def _gradient(grouped: _Grouped, slope: Floats) -> Floats:
    by_pattern = grouped.summed(slope)
    weights = np.broadcast_to(by_pattern[:, None], grouped.patterns.shape)
    return _summed(grouped.patterns.ravel(), weights.ravel(), grouped.size + 1)[:-1]


def _hessian(grouped: _Grouped, curvature: Floats) -> Floats:
    """The normal equations: curvatures summed by pattern, then by the pairs of effects in it, and the prior."""
    side = grouped.size + 1
    weights = np.broadcast_to(grouped.summed(curvature)[:, None, None], grouped.pairs.shape)
    whole = _summed(grouped.pairs.ravel(), weights.ravel(), side * side).reshape(side, side)
    hessian: Floats = whole[:-1, :-1] + np.diag(grouped.precision)
    return hessian


def _summed(places: Ints, values: Floats, count: int) -> Floats:
    """Values summed by their places, of which there are so many."""
    return np.bincount(places, weights=values, minlength=count).astype(np.float64)


def _likelihood(grouped: _Grouped, expected: Floats, noise: float) -> tuple[Floats, Floats, Floats]:
    """Slope, curvature (the second derivative with its sign turned) and logarithm of each observation's likelihood.

    Where both bounds lie in the right tail they are turned to the left one, in which the logarithm of Φ is exact.
    """
    from scipy.special import log_ndtr  # noqa: PLC0415 - a tenth of a second, and only for learning

    above, below = (grouped.high - expected) / noise, (grouped.low - expected) / noise
    turned = below > 0
    up, down = np.where(turned, -below, above), np.where(turned, -above, below)
    log_up, log_down = log_ndtr(up), log_ndtr(down)
    with np.errstate(divide="ignore"):
        logs = log_up + np.log1p(-np.exp(np.minimum(log_down - log_up, -1e-300)))
    density_up, density_down = _over(up, logs), _over(down, logs)
    slope = np.where(turned, density_up - density_down, density_down - density_up) / noise
    lean = _times(up, density_up) - _times(down, density_down)
    curvature = ((density_up - density_down) ** 2 + lean) / noise**2
    return slope, np.maximum(curvature, LEAST_CURVATURE), logs


def _over(at: Floats, logs: Floats) -> Floats:
    """The normal density at some place over a likelihood that is given by its logarithm."""
    there = np.isfinite(at)
    exponent = -0.5 * np.where(there, at, 0.0) ** 2 - 0.5 * np.log(2 * np.pi) - logs
    found: Floats = np.exp(np.where(there, exponent, -np.inf))
    return found


def _times(at: Floats, density: Floats) -> Floats:
    return np.where(np.isfinite(at), at, 0.0) * density


def _without(grouped: _Grouped, expected: Floats, covariance: Floats, noise: float) -> Floats:
    """What each observation is expected at by a fit without its record: one Newton step from the whole fit.

    With A the covariance between a record's patterns, S their curvatures and s their slopes, leaving the record out moves its
    own expectations by −(I − A S)⁻¹ A s.
    """
    slope, curvature, _ = _likelihood(grouped, expected, noise)
    padded = np.zeros((grouped.size + 1, grouped.size + 1))
    padded[:-1, :-1] = covariance
    # A cell is what one record shows of one pattern; cells are numbered record by record.
    cells, cell_of = np.unique(grouped.record * len(grouped.patterns) + grouped.of, return_inverse=True)
    cell_of = cell_of.reshape(-1)
    record, pattern = np.divmod(cells, len(grouped.patterns))
    slopes, curves = _summed(cell_of, slope, len(cells)), _summed(cell_of, curvature, len(cells))
    moved = np.zeros(len(cells))
    starts = np.flatnonzero(np.diff(record, prepend=-1))
    counts = np.diff(np.append(starts, len(cells)))
    # Records with as many cells are solved at once.
    for count in np.unique(counts):
        own = starts[counts == count][:, None] + np.arange(count)
        rows = grouped.patterns[pattern[own]]
        between = padded[rows[:, :, None, :, None], rows[:, None, :, None, :]].sum(axis=(3, 4))
        left = np.eye(count) - between * curves[own][:, None, :]
        moved[own] = np.linalg.solve(left, between @ slopes[own][:, :, None])[:, :, 0]
    found: Floats = expected - moved[cell_of]
    return found
