"""The two exception families of the core: the person's mistake, and ours."""

from __future__ import annotations


class Refused(ValueError):
    """Something a person gave cannot be used.

    field: dotted path of what is wrong (``kit[2].cover``); found: what stood there, shortened;
    allowed: what would be accepted, as a phrase.
    """

    def __init__(self, field: str, found: object, allowed: str) -> None:
        self.field = field
        self.found = shorten(found)
        self.allowed = allowed
        super().__init__(f"{field}: found {self.found}; allowed: {allowed}")


class Told(Refused):
    """A refusal in sentences of its own: what is so, and what to do about it."""

    def __init__(self, field: str, what: str, do: str) -> None:
        self.field, self.found, self.allowed = field, what, do
        ValueError.__init__(self, f"{what} {do}")


class Impossible(Refused):
    """A well-formed request that the trade itself rules out, such as dusting off before baking."""


class OutOfOrder(Impossible):
    """An order of steps that cannot be worked; ``why`` says which step is in the way, and of what."""

    def __init__(self, field: str, found: object, why: str) -> None:
        self.why = why
        super().__init__(field, found, f"an order that can be worked. {why}")


class Fault(RuntimeError):
    """Our own mistake: a state the code should never reach."""


def shorten(found: object, most: int = 60) -> str:
    """A short, single-line rendering of any value for a message."""
    text = " ".join(repr(found).split())
    return text if len(text) <= most else text[: most - 1] + "…"
