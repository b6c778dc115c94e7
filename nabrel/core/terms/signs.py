"""What may be seen of a base hours after it was put on, from nothing (0) to plain (3)."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from nabrel.core.terms.ids import WearSign
from nabrel.core.terms.table import table


@dataclass(frozen=True, slots=True)
class SignInfo:
    """One sign: its words, what is looked for, and what 1, 2 and 3 mean."""

    id: WearSign
    words: str
    looks: str
    grades: tuple[str, str, str]


SIGN_INFO: Mapping[WearSign, SignInfo] = table(
    (
        SignInfo("shine", "Shine", "Oil shines through.", ("a gleam", "shines", "wet with oil")),
        SignInfo("crease", "Creases", "The base lies in lines and folds.", ("a hairline", "a line", "gathered in folds")),
        SignInfo("fade", "Faded", "Colour, shade or glow is weaker than it was laid.", ("a little", "by a third", "gone")),
        SignInfo("lift", "Lifts", "The base separates or flakes off.", ("at a spot", "in patches", "bare skin shows")),
        SignInfo("cake", "Cakes", "Powder or film shows as a layer.", ("from close up", "from an arm's length", "from across the room")),
        SignInfo("shift", "Shifted", "It turned darker or warmer than it was laid.", ("just seen", "plain", "another shade")),
        SignInfo("transfer", "Comes off", "It came off on cloth, cup or hand.", ("a trace", "a print", "most of it")),
    )
)  # fmt: skip
