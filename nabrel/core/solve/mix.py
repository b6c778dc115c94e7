"""Mixing in whole drops: the best recipe for a target colour, and the smallest that is near enough.

In a mixture absorption and scattering add in proportion to volume (Duncan 1940), so that a clear thinner lowers
cover as it should, and two foundations of unequal strength do not meet in the middle.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from itertools import combinations
from typing import Any

import numpy as np
from numpy.typing import NDArray

from nabrel.core.case.product import Product
from nabrel.core.errors import Impossible, Refused
from nabrel.core.film.difference import delta_e
from nabrel.core.film.direction import direction
from nabrel.core.film.films import over
from nabrel.core.film.spectra import SAMPLES, Floats, lab_of, luminance, surface
from nabrel.core.house import House
from nabrel.core.house.tables import FINISH_RANK
from nabrel.core.shelf.bases import beads
from nabrel.core.shelf.optics import film_for
from nabrel.core.terms.colour import Lab
from nabrel.core.terms.ids import Finish, Light
from nabrel.core.terms.words import join_words

MOST_POURED = 99
"""Drops of one item that a hand lets fall into a well, one after another."""
MOST_DROPS = 12
MOST_PRODUCTS = 3
USUAL_DROP_ML = 0.05
BLOCK = 512
"""Recipes whose spectra are worked out at once."""
MOST_TRIED = 256
"""Of so many of the nearest recipes it is worked out how drops that vary move them."""
EXACT_UP_TO = 14
"""Up to so many products every recipe is tried; of a longer shelf, those that the best pairs use."""
Drops = NDArray[np.int64]


@dataclass(frozen=True, slots=True)
class RecipePart:
    """A product and its whole drops."""

    product: Product
    drops: int


@dataclass(frozen=True, slots=True)
class Recipe:
    """A mixture and what it gives.

    lab is its own colour laid thick, de its CIEDE2000 from the target with every drop alike, usual_de how far off it
    usually comes out, since drops vary; misses that difference in words; cover its contrast ratio at the standard film;
    finish the word nearest to the mixed finishes; warnings what speaks against it.
    """

    parts: tuple[RecipePart, ...]
    lab: Lab
    de: float
    usual_de: float
    misses: str
    cover: float
    finish: Finish
    warnings: tuple[str, ...]

    @property
    def drops(self) -> int:
        """Drops in all."""
        return sum(part.drops for part in self.parts)


@dataclass(frozen=True, slots=True)
class MixAnswer:
    """The recipe that usually comes out nearest, and the one with the fewest drops that is near enough.

    Both are the same where none is nearer.
    """

    target: Lab
    best: Recipe
    smallest: Recipe
    near_enough: bool


def solve_mix(
    target: Lab,
    products: Sequence[Product],
    house: House,
    *,
    most_drops: int = 8,
    most_products: int = MOST_PRODUCTS,
    finish: Finish | None = None,
) -> MixAnswer:
    """The best and the smallest good-enough recipe for a target L*a*b*, judged as drops really fall.

    A drop varies (``drop_varies``), so a recipe is judged by how far off it usually comes out; of recipes that come out
    alike, the one with the fewest drops is given; and a shade far from the target is used only for a gain that is seen.
    ``products`` are foundations and adjusters; items without colour (a thinner) count as clear. With ``finish`` a
    recipe whose mixed finish is another pays for it. Mixtures of bases that separate are only given where nothing
    else is, and warned of. From a shelf of more than EXACT_UP_TO products, recipes of three are sought among those that
    the best recipes of one or two use. Refuses limits that contradict each other, and a kit with nothing to mix.
    """
    _check(target, most_drops, most_products)
    usable = [item for item in products if not item.dry]
    if not any(item.tinted for item in usable):
        raise Impossible("kit", "no liquid or cream foundation", "at least one foundation or mixer with a colour")
    if len(usable) > EXACT_UP_TO and most_products > 2:
        usable = _promising(target, usable, house, most_drops)
    drops, share = _tinted(usable, most_drops, most_products)
    k, s = _bank(usable, house)
    labs = _labs(share, k, s)
    off = delta_e(labs, np.array(target))
    cost = off + house.mix_base_cost * (_clashes(drops, usable) > 0)
    if finish is not None:
        ranks = np.array([FINISH_RANK[item.finish] for item in usable])
        cost = cost + house.mix_finish_cost * np.abs(share @ ranks - FINISH_RANK[finish])
    cost = cost + house.mix_far_gain_de * (drops @ _far(usable, target, house) > 0)
    # What drops add by varying is never negative: a recipe that is dearer than the best with it cannot win.
    nearest = _nearest(cost, MOST_TRIED)
    spread = np.full(len(cost), np.inf)
    spread[nearest] = _spread(drops[nearest], share[nearest], k, s, labs[nearest], house)
    usual = np.hypot(off, spread)
    judged = cost - off + usual
    total = drops.sum(axis=1)
    kinds = (drops > 0).sum(axis=1)
    best = _first(judged <= judged.min() + house.mix_alike_de, total, kinds, judged)
    smallest = _first(judged <= max(house.mix_close_de, float(judged[best])), total, kinds, judged)

    def told(row: int) -> Recipe:
        lab = (float(labs[row, 0]), float(labs[row, 1]), float(labs[row, 2]))
        parts = tuple(RecipePart(item, int(count)) for item, count in zip(usable, drops[row], strict=True) if count)
        return Recipe(
            parts=parts,
            lab=lab,
            de=float(off[row]),
            usual_de=float(usual[row]),
            misses=direction(lab, target),
            cover=_cover(share[row] @ k, share[row] @ s, house),
            finish=_finish(parts),
            warnings=_warnings(parts),
        )

    return MixAnswer(target, told(best), told(smallest), float(usual[best]) <= house.mix_close_de)


def pour(parts: Sequence[RecipePart], target: Lab, house: House, light: Light = "daylight") -> tuple[Recipe, Floats]:
    """What drops taken by hand give: the recipe against the target, and its L*a*b* under a light.

    Refuses an empty well, drops that are not from 1 to 99, and a well without anything coloured in it.
    """
    for index, part in enumerate(parts):
        if not 1 <= part.drops <= MOST_POURED:
            raise Refused(f"parts[{index}].drops", part.drops, f"1 to {MOST_POURED} drops")
    if not any(part.product.tinted for part in parts):
        raise Impossible("parts", "nothing coloured", "at least one drop of something with a colour")
    counts = np.array([part.drops for part in parts], dtype=np.float64)
    k, s = _bank([part.product for part in parts], house)
    mixed_k, mixed_s = counts @ k / counts.sum(), counts @ s / counts.sum()
    masstone = _masstone(mixed_k, mixed_s)
    seen = lab_of(masstone)
    lab = (float(seen[0]), float(seen[1]), float(seen[2]))
    off = delta_e(seen, np.array(target))
    varies = _spread(counts[None], counts[None] / counts.sum(), k, s, seen[None], house)[0]
    recipe = Recipe(
        parts=tuple(parts),
        lab=lab,
        de=float(off),
        usual_de=float(np.hypot(off, varies)),
        misses=direction(lab, target),
        cover=_cover(mixed_k, mixed_s, house),
        finish=_finish(tuple(parts)),
        warnings=_warnings(tuple(parts)),
    )
    return recipe, lab_of(masstone, light)


def batch(recipe: Recipe, ml_per_face: float, faces: int) -> tuple[tuple[Product, float], ...]:
    """Millilitres of each product for a class: the recipe's proportions times faces times what one face takes."""
    if faces < 1:
        raise Refused("faces", faces, "1 or more")
    if not ml_per_face > 0:
        raise Refused("ml_per_face", ml_per_face, "more than 0 ml")
    whole = ml_per_face * faces
    return tuple((part.product, whole * part.drops / recipe.drops) for part in recipe.parts)


def _check(target: Lab, most_drops: int, most_products: int) -> None:
    surface(target, "target")
    if not 1 <= most_drops <= MOST_DROPS:
        raise Refused("drops", most_drops, f"1 to {MOST_DROPS} drops")
    if not 1 <= most_products <= MOST_PRODUCTS:
        raise Refused("products", most_products, f"1 to {MOST_PRODUCTS} products")


@lru_cache(maxsize=8)
def _recipes(count: int, most_drops: int, most_products: int) -> Drops:
    """Every way to take up to so many drops of up to so many of ``count`` products, (recipes, count), in lowest terms.

    A recipe that is a multiple of a smaller one gives the same colour and is left out.
    """
    rows: list[Drops] = []
    for size in range(1, min(most_products, count) + 1):
        shapes = np.array(list(np.ndindex(*(most_drops,) * size)), dtype=np.int64) + 1
        shapes = shapes[(shapes.sum(axis=1) <= most_drops) & (np.gcd.reduce(shapes, axis=1) == 1)]
        for chosen in combinations(range(count), size):
            block = np.zeros((len(shapes), count), dtype=np.int64)
            block[:, list(chosen)] = shapes
            rows.append(block)
    return np.concatenate(rows)


def _tinted(products: Sequence[Product], most_drops: int, most_products: int) -> tuple[Drops, Floats]:
    """The recipes of these products that have any colour, and the share of each product in them, (recipes, products)."""
    drops = _recipes(len(products), most_drops, most_products)
    clear = [place for place, item in enumerate(products) if not item.tinted]
    if clear:
        drops = drops[drops.sum(axis=1) > drops[:, clear].sum(axis=1)]
    return drops, drops / drops.sum(axis=1, keepdims=True)


def _labs(share: Floats, k: Floats, s: Floats) -> Floats:
    """L*a*b* of every mixture, (recipes, 3), in blocks that stay in the processor's cache."""
    blocks = (share[start : start + BLOCK] for start in range(0, len(share), BLOCK))
    return np.concatenate([lab_of(_masstone(block @ k, block @ s)) for block in blocks])


def _far(products: Sequence[Product], target: Lab, house: House) -> NDArray[np.int64]:
    """1 for each shade that is too many steps from the target to be a natural choice, (products,); adjusters are meant to be."""
    most = house.mix_steps_most * house.shade_step_l
    return np.array(
        [
            int(item.role != "mixer" and item.lab is not None and abs(item.lab[0] - target[0]) > most)
            for item in products
        ]
    )


def _nearest(cost: Floats, most: int) -> NDArray[np.int64]:
    """The rows of so many of the nearest recipes."""
    if len(cost) <= most:
        return np.arange(len(cost))
    return np.asarray(np.argpartition(cost, most)[:most])


def _spread(drops: NDArray[Any], share: Floats, k: Floats, s: Floats, labs: Floats, house: House) -> Floats:
    """How far drops that vary usually move each recipe, root mean square ΔE00, (recipes,).

    n drops vary by one drop's share over √n; each product's error is taken by itself.
    """
    squares = np.zeros(len(drops))
    for place in range(min(MOST_PRODUCTS, drops.shape[1])):
        # The place-th product of each recipe, by its drops; recipes with fewer products have none there.
        own = np.argsort(-drops, axis=1, kind="stable")[:, place]
        rows = np.flatnonzero(np.take_along_axis(drops, own[:, None], axis=1)[:, 0] > 0)
        if not len(rows):
            break
        counts = drops[rows, own[rows]]
        moved = share[rows].copy()
        moved[np.arange(len(rows)), own[rows]] *= 1.0 + house.drop_varies / np.sqrt(counts)
        moved /= moved.sum(axis=1, keepdims=True)
        squares[rows] += delta_e(_labs(moved, k, s), labs[rows]) ** 2
    return np.asarray(np.sqrt(squares))


def _first(among: NDArray[np.bool_], *by: NDArray[Any]) -> int:
    """The first row among some, in the order of these columns, the first column before all others."""
    rows = np.flatnonzero(among)
    return int(rows[np.lexsort([column[rows] for column in reversed(by)])[0]])


def _promising(target: Lab, products: list[Product], house: House, most_drops: int) -> list[Product]:
    """The products that the best recipes of one or two use: of a long shelf only these are tried three at a time."""
    drops, share = _tinted(products, most_drops, 2)
    k, s = _bank(products, house)
    off = delta_e(_labs(share, k, s), np.array(target))
    used: list[int] = []
    for row in np.argsort(off, kind="stable"):
        used.extend(int(index) for index in np.flatnonzero(drops[row]) if index not in used)
        if len(used) >= EXACT_UP_TO:
            break
    return [products[index] for index in sorted(used[:EXACT_UP_TO])]


def _bank(products: Sequence[Product], house: House) -> tuple[Floats, Floats]:
    """K and S of each product, (products, 31); clear items have none."""
    k, s = np.zeros((len(products), SAMPLES)), np.zeros((len(products), SAMPLES))
    for row, item in enumerate(products):
        if item.tinted:
            film = film_for(item, house)
            k[row], s[row] = film.k, film.s
    return k, s


def _masstone(k: Floats, s: Floats) -> Floats:
    """Reflectance of an opaque layer: 1 + K/S - √(K/S (K/S + 2)). In place, to make fewer arrays."""
    ratio = k / s
    root = ratio + 2.0
    root *= ratio
    np.sqrt(root, out=root)
    ratio += 1.0
    ratio -= root
    return np.asarray(ratio)


def _cover(k: Floats, s: Floats, house: House) -> float:
    power = s * house.standard_film_um
    dark = luminance(over(np.zeros(SAMPLES), k / s, power))
    light = luminance(over(np.full(SAMPLES, house.white_ground), k / s, power))
    return float(dark / light)


def _clashes(drops: Drops, products: Sequence[Product]) -> Floats:
    """How many pairs of products in each recipe have bases that separate, (recipes,)."""
    apart = np.array([[_separate(one, other) for other in products] for one in products], dtype=np.float64)
    if not apart.any():
        return np.zeros(len(drops))
    present = (drops > 0).astype(np.float64)
    return np.asarray(((present @ apart) * present).sum(axis=1) / 2.0)


def _separate(one: Product, other: Product) -> bool:
    return beads(one.base, other.base) or beads(other.base, one.base)


def _finish(parts: tuple[RecipePart, ...]) -> Finish:
    mean = sum(FINISH_RANK[part.product.finish] * part.drops for part in parts) / sum(part.drops for part in parts)
    names: tuple[Finish, ...] = ("matte", "satin", "dewy")
    return min(names, key=lambda name: abs(FINISH_RANK[name] - mean))


def _warnings(parts: tuple[RecipePart, ...]) -> tuple[str, ...]:
    pairs = [
        f"{one.product.name} ({one.product.base}) and {other.product.name} ({other.product.base})"
        for one, other in combinations(parts, 2)
        if _separate(one.product, other.product)
    ]
    return (f"These separate in the mix: {join_words(pairs)}.",) if pairs else ()
