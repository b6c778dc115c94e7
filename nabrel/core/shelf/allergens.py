"""What an entry of an avoid list means on a pack: the words under which ingredient lists hide it."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from nabrel.core.case.product import Product
from nabrel.core.terms.words import counted, join_words

SYNONYMS: Mapping[str, frozenset[str]] = {
    "fragrance": frozenset({
        "fragrance", "parfum", "perfume", "aroma", "linalool", "limonene", "geraniol", "citronellol", "citral", "eugenol",
        "coumarin", "benzyl salicylate", "hexyl cinnamal", "hydroxycitronellal", "scent",
    }),
    "lanolin": frozenset({"lanolin", "wool wax", "wool fat", "wool alcohol", "wool alcohols", "adeps lanae", "lanolin alcohol"}),
    "nuts": frozenset({
        "nuts", "nut", "tree nuts", "nut oil", "almond oil", "prunus amygdalus dulcis oil", "macadamia oil",
        "macadamia ternifolia seed oil", "hazelnut oil", "corylus avellana seed oil", "walnut oil",
    }),
    "peanut": frozenset({"peanut", "peanuts", "peanut oil", "arachis oil", "arachis hypogaea oil"}),
    "soya": frozenset({"soya", "soy", "soybean", "soybean oil", "glycine soja oil", "glycine max oil"}),
    "latex": frozenset({"latex", "natural rubber", "natural rubber latex", "rubber latex"}),
    "nickel": frozenset({"nickel", "nickel sulfate", "nickel sulphate"}),
    "carmine": frozenset({"carmine", "cochineal", "carminic acid", "ci 75470", "natural red 4", "e120"}),
    "parabens": frozenset({"parabens", "paraben", "methylparaben", "ethylparaben", "propylparaben", "butylparaben"}),
    "formaldehyde": frozenset({
        "formaldehyde", "formalin", "dmdm hydantoin", "imidazolidinyl urea", "diazolidinyl urea", "quaternium 15",
        "bronopol",
    }),
    "isothiazolinones": frozenset({
        "isothiazolinones", "isothiazolinone", "methylisothiazolinone", "methylchloroisothiazolinone", "mi", "mci",
    }),
    "propylene glycol": frozenset({"propylene glycol", "1 2 propanediol", "propane 1 2 diol"}),
    "alcohol": frozenset({"alcohol", "alcohol denat", "ethanol", "sd alcohol", "denatured alcohol"}),
    "silicone": frozenset({"silicone", "silicones", "dimethicone", "cyclopentasiloxane", "cyclomethicone", "trimethicone"}),
    "talc": frozenset({"talc", "talcum", "magnesium silicate"}),
    "bismuth": frozenset({"bismuth", "bismuth oxychloride", "ci 77163"}),
    "beeswax": frozenset({"beeswax", "cera alba", "cera flava", "propolis"}),
    "gluten": frozenset({"gluten", "wheat", "wheat protein", "triticum vulgare germ oil", "hydrolyzed wheat protein"}),
    "mica": frozenset({"mica", "ci 77019"}),
    "oxybenzone": frozenset({"oxybenzone", "benzophenone 3"}),
}  # fmt: skip
"""Words on packs by what an avoid list calls it; all in plain form (lower case, spaces)."""


def plain(text: str) -> str:
    """Lower case, with hyphens, underscores, commas and double spaces as single spaces."""
    for mark in "_-,.()/":
        text = text.replace(mark, " ")
    return " ".join(text.lower().split())


def meant_by(entry: str) -> frozenset[str]:
    """Every word on a pack that an entry of an avoid list covers; an entry that is a synonym covers its whole group."""
    wanted = plain(entry)
    groups = [words for name, words in SYNONYMS.items() if wanted == name or wanted in words]
    return frozenset({wanted}).union(*groups)


def contains(product: Product, entry: str) -> bool:
    """Whether a product contains what an avoid entry means, by its contents or its ingredient list."""
    words = meant_by(entry)
    return any(plain(each) in words for each in (*product.contains, *product.ingredients))


def avoided(product: Product, avoid: Iterable[str]) -> tuple[str, ...]:
    """Those entries of an avoid list that the product contains, under any of their names."""
    return tuple(entry for entry in avoid if contains(product, entry))


def contents_known(product: Product) -> bool:
    """Whether anybody recorded what is in a product, by its contents or its ingredient list."""
    return bool(product.contains or product.ingredients)


MOST_NAMED = 6
"""Items named in a sentence; of more the rest are counted."""


def named(items: Iterable[Product]) -> str:
    """Items by name: "Rich cream, Matt hold and 3 more"."""
    names = list(dict.fromkeys(item.name for item in items))
    rest = len(names) - MOST_NAMED
    return join_words(names if rest <= 0 else [*names[:MOST_NAMED], f"{rest} more"])


@dataclass(frozen=True, slots=True)
class AvoidNotice:
    """What a sitter avoids, the items in use that contain it, and those of which nobody recorded what is in them.

    ``chosen``: the items stand for what is to be chosen, so none has a label yet.
    """

    avoids: tuple[str, ...]
    barred: tuple[Product, ...]
    unknown: tuple[Product, ...]
    chosen: bool = True

    @property
    def lead(self) -> str:
        """What is avoided, as it is said first and in bold."""
        return f"Avoid {join_words(self.avoids)}."

    @property
    def says(self) -> str:
        """What that means for the items in use."""
        if not self.chosen:
            return f"Choose products without {join_words(self.avoids)}: read their labels."
        barred = f"Not to be used: {named(self.barred)}." if self.barred else ""
        said = " ".join(each for each in (barred, self.says_unknown) if each)
        return said or "By what is recorded of them, no item in use contains that."

    @property
    def says_unknown(self) -> str:
        """Which items are to be looked at, and for what; empty where all are known."""
        if not self.unknown:
            return ""
        labels = "its label" if len(self.unknown) == 1 else "their labels"
        return (
            f"Contents of {counted(len(self.unknown), 'item')} unknown ({named(self.unknown)}): "
            f"read {labels} for {join_words(self.avoids, by='or')}."
        )


def avoid_notice(avoid: Iterable[str], used: Iterable[Product], *, chosen: bool = True) -> AvoidNotice | None:
    """What is to be said of an avoid list and the items in use; None where nothing is avoided."""
    avoids, items = tuple(avoid), tuple(used)
    if not avoids:
        return None
    return AvoidNotice(
        avoids,
        tuple(item for item in items if avoided(item, avoids)),
        tuple(item for item in items if not contents_known(item)) if chosen else (),
        chosen,
    )
