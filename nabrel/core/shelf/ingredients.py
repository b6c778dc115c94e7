"""What an ingredient list says about a product: its base, from the first five, with the evidence; and its allergens."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable
from dataclasses import dataclass

from nabrel.core.case.product import Product
from nabrel.core.shelf.allergens import SYNONYMS, contains, plain
from nabrel.core.terms.ids import Base

LEADING = 5
"""The base is read from so many ingredients at the head of the list, which are ordered by weight."""
SILICONE_ENDINGS = ("cone", "siloxane", "methicone", "silsesquioxane")
WAXES = frozenset({
    "cera alba", "beeswax", "candelilla cera", "euphorbia cerifera cera", "carnauba", "copernicia cerifera cera",
    "ozokerite", "microcrystalline wax", "cera microcristallina", "paraffin", "synthetic wax", "polyethylene", "ceresin",
})  # fmt: skip
OILS = frozenset({
    "paraffinum liquidum", "mineral oil", "squalane", "caprylic capric triglyceride", "isopropyl myristate",
    "isopropyl palmitate", "ethylhexyl palmitate", "octyldodecanol", "isononyl isononanoate", "petrolatum",
    "isohexadecane", "isododecane",
})  # fmt: skip
ALCOHOLS = frozenset({"alcohol", "alcohol denat", "ethanol", "sd alcohol 40 b", "denatured alcohol"})
POWDERS = frozenset(
    {"talc", "mica", "silica", "kaolin", "zea mays starch", "oryza sativa starch", "nylon 12", "boron nitride"}
)
WATERS = frozenset({"aqua", "water", "eau", "rosa damascena flower water"})


@dataclass(frozen=True, slots=True)
class ReadList:
    """What a list says: the ingredients in order, the base with the ingredients it was read from, allergen groups."""

    ingredients: tuple[str, ...]
    base: Base | None
    evidence: tuple[str, ...]
    says: str
    allergens: tuple[str, ...]


def split_list(text: str) -> tuple[str, ...]:
    """The ingredients of a pasted list, in order; separators are commas, semicolons, bullets and new lines."""
    body = re.sub(r"^\s*(ingredients|ingrédients|inci)\s*[:.]", "", text, flags=re.IGNORECASE)
    parts = re.split(r"[,;•·\n\r]+(?![^()]*\))", body)
    return tuple(part.strip(" .\t*") for part in parts if part.strip(" .\t*"))


def read_list(text: str) -> ReadList:
    """Read a pasted ingredient list. The base is None where the leading ingredients say nothing."""
    ingredients = split_list(text)
    base, evidence = base_of(ingredients)
    first = f"the first {min(LEADING, len(ingredients))} ingredients" if ingredients else "an empty list"
    said = (
        f"{_A[base]}, read from {', '.join(evidence)} among {first}."
        if base is not None
        else f"No base could be read from {first}; choose it by hand."
    )
    product = Product("read", "foundation", "read", "liquid", base or "water", ingredients=ingredients)
    groups = tuple(name for name in SYNONYMS if name not in ("silicone", "mica", "talc") and contains(product, name))
    return ReadList(ingredients, base, evidence, said[:1].upper() + said[1:], groups)


def base_of(ingredients: Iterable[str]) -> tuple[Base | None, tuple[str, ...]]:
    """The base by the ingredients in the lead, and which of them say so.

    Silicones in the lead mean silicone, even behind water; powders without a liquid mean powder; waxes with oils and no
    water mean anhydrous; alcohol first means alcohol; oils in the lead without water mean oil; water first means water.
    """
    lead = tuple(ingredients)[:LEADING]
    silicones = _which(lead, lambda name: name.split(" ")[-1].endswith(SILICONE_ENDINGS))
    waxes, oils = _which(lead, WAXES.__contains__), _which(lead, _is_oil)
    waters, alcohols, powders = (_which(lead, group.__contains__) for group in (WATERS, ALCOHOLS, POWDERS))
    if silicones:
        return "silicone", silicones
    if alcohols and lead and alcohols[0] == lead[0]:
        return "alcohol", alcohols
    if waters:
        return ("oil", oils) if len(oils) >= 2 and waters[0] != lead[0] else ("water", waters)
    if waxes:
        return "anhydrous", waxes
    if powders and powders[0] == lead[0]:
        return "powder", powders
    if oils:
        return "oil", oils
    return None, ()


def _which(lead: tuple[str, ...], holds: Callable[[str], bool]) -> tuple[str, ...]:
    return tuple(name for name in lead if holds(plain(re.sub(r"\(.*?\)", " ", name))))


def _is_oil(name: str) -> bool:
    return name in OILS or name.endswith((" oil", " butter", "seed oil", " triglyceride"))


_A: dict[Base, str] = {
    "water": "water-based",
    "silicone": "silicone-based",
    "oil": "oil-based",
    "anhydrous": "anhydrous, of wax and oil",
    "powder": "a powder",
    "alcohol": "alcohol-based",
}
