"""Pictures that the simulated camera takes of Kestrel Quay's own kit and a sitter, shipped to try it with.

``python -m nabrel.demo.pictures`` makes them anew.
"""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path

from nabrel.core.card.layout import CardSize, card
from nabrel.core.case.product import Product
from nabrel.core.house import House
from nabrel.demo.kestrel_quay import sitters
from nabrel.demo.kit import kit
from nabrel.devices.camera import Drawn, Fault, photograph


@dataclass(frozen=True, slots=True)
class Picture:
    """One picture: its file, the card, what is on it in words, the items drawn on its cells in turn or whose skin is in its window."""

    name: str
    size: CardSize
    words: str
    seed: int
    items: tuple[str, ...] = ()
    of: str = ""
    fault: Fault | None = None


FRESH: dict[str, tuple[float, float, float]] = {
    "bronze-balm-1": (-10.0, 4.0, 5.0), "bronze-balm-2": (1.0, -0.5, -1.0), "thin-satin-3": (-1.5, 0.5, 3.0),
}  # fmt: skip
"""What their packs really hold, against what the shelf has: a guess that was off, one that was good, a batch that came out yellower."""
PICTURES = (
    Picture(
        "kit-card.jpg", "kit", "Ten products of the course's kit, drawn on the card", 4,
        ("bronze-balm-1", "bronze-balm-2", "thin-satin-3", "silk-veil-3", "full-matt-3", "shade-2", "light-1", "col-rose",
         "cor-peach", "cor-green"),
    ),
    Picture(
        "kit-card-again.jpg", "kit", "The same card, taken a second time by another lamp", 11,
        ("bronze-balm-1", "bronze-balm-2", "thin-satin-3", "silk-veil-3", "full-matt-3", "shade-2", "light-1", "col-rose",
         "cor-peach", "cor-green"),
    ),
    Picture("skin-card.jpg", "skin", "Wren's cheek in the window of the small card", 7, of="Wren"),
)  # fmt: skip
FOLDER = Path(__file__).parent / "pictures"


def drawn(item: Product) -> Drawn:
    """An item as its pack really holds it, drawn between two strips of tape. Full cover is opaque so thick."""
    assert item.lab is not None, "an item with a colour"
    assert item.cover is not None, "an item with a cover"
    off = FRESH.get(item.id, (0.0, 0.0, 0.0))
    lab = (item.lab[0] + off[0], item.lab[1] + off[1], item.lab[2] + off[2])
    return Drawn(lab, item.cover, House().card_film_um)


def taken(picture: Picture) -> bytes:
    """The picture as the simulated camera takes it."""
    on = card(picture.size)
    owned = {item.id: item for item in kit()}
    films = {cell.id: drawn(owned[key]) for cell, key in zip(on.cells, picture.items, strict=False)}
    skin = next((each.sitter.skin.lab for each in sitters() if each.sitter.nickname == picture.of), None)
    return photograph(on, films, skin, picture.seed, House(), picture.fault)


def main() -> None:
    """Make every picture."""
    FOLDER.mkdir(exist_ok=True)
    for each in PICTURES:
        (FOLDER / each.name).write_bytes(taken(each))


if __name__ == "__main__":
    main()
