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

    def __reduce__(self) -> tuple[object, ...]:
        """The same refusal where it is told in another process."""
        return _told_again, (type(self), self.args, self.__dict__)


def _told_again(kind: type[Refused], said: tuple[object, ...], fields: dict[str, object]) -> Refused:
    refused = kind.__new__(kind, *said)
    refused.args = said
    refused.__dict__.update(fields)
    return refused


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
