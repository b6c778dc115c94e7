"""What an entry of an avoid list means on a pack: the words under which ingredient lists hide it."""

from __future__ import annotations

from collections.abc import Iterable, Mapping

from nabrel.core.case.product import Product

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
