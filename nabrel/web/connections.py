"""Connections before a request has come whole: how many there may be, from where, and how long one may take to say what it wants.

Whoever connects is let in; where the places are taken, the one goes that has been silent longest without having been heard. A connection
is heard once a whole request has come on it (where a sign-in is demanded: from a browser that has signed in here), so that
those who say nothing cannot shut anybody out.
"""

from __future__ import annotations

import asyncio
from collections import OrderedDict
from collections.abc import Callable, Iterable
from dataclasses import dataclass, field
from typing import Any

from uvicorn.protocols.http.httptools_impl import HttpToolsProtocol

MOST_CONNECTIONS, MOST_OF_ADDRESS = 600, 300
"""Connections at once, and of those from one address: a class behind one address has six of each browser."""
HEAD_S = 15.0
"""So long the head of a request may take, from its first byte or from the connecting to its last."""
DRAIN_S = 5.0
MOST_HEAD_BYTES = 64_000

Headers = Iterable[tuple[bytes, bytes]]


@dataclass
class Places:
    """The connections of a server: those that were not heard yet, oldest first, and how many come from each address."""

    is_known: Callable[[Headers], bool] = lambda _: True
    """Whether a request comes from somebody who may stay whoever else comes."""
    trusted: str | None = None
    """The proxy in front: everybody comes from its address."""
    unheard: OrderedDict[int, Connection] = field(default_factory=OrderedDict)
    by_address: dict[str, set[int]] = field(default_factory=dict)
    count: int = 0

    def enter(self, connection: Connection, address: str) -> bool:
        """Let a connection in; whether there was a place for it, or one could be made."""
        own = self.by_address.setdefault(address, set())
        if address != self.trusted and len(own) >= MOST_OF_ADDRESS and not self._drop(own):
            return False
        if self.count >= MOST_CONNECTIONS and not self._drop(self.unheard):
            return False
        own.add(id(connection))
        self.unheard[id(connection)] = connection
        self.count += 1
        return True

    def _drop(self, among: Iterable[int]) -> bool:
        keys = set(among)
        oldest = next((each for key, each in self.unheard.items() if key in keys), None)
        if oldest is None:
            return False
        self.leave(oldest, oldest.address)
        oldest.transport.abort()
        return True

    def leave(self, connection: Connection, address: str) -> None:
        """A connection is no more."""
        own = self.by_address.get(address, set())
        if id(connection) not in own:
            return
        own.discard(id(connection))
        if not own:
            del self.by_address[address]
        self.unheard.pop(id(connection), None)
        self.count -= 1

    def hear(self, connection: Connection) -> None:
        """A whole request came on a connection of somebody who is known."""
        self.unheard.pop(id(connection), None)


class Connection(HttpToolsProtocol):
    """One connection: its place, and its time to say what it wants."""

    places: Places
    """Those of the server; set by :func:`protocol_for`."""

    def connection_made(self, transport: asyncio.Transport) -> None:  # type: ignore[override]
        """Take a place, or be gone."""
        peer = transport.get_extra_info("peername")
        self.address = str(peer[0]) if peer else ""
        self._deadline: asyncio.TimerHandle | None = None
        self._head_bytes = 0
        self._in_head = True
        super().connection_made(transport)
        if not self.places.enter(self, self.address):
            transport.abort()
            return
        self._give(HEAD_S)

    def connection_lost(self, exc: Exception | None) -> None:
        """Give the place back."""
        self._stop_waiting()
        self.places.leave(self, self.address)
        super().connection_lost(exc)

    def data_received(self, data: bytes) -> None:
        """Count what comes before a head is whole, and the time it takes: no head is as long as a file."""
        if self._in_head:
            self._head_bytes += len(data)
            if self._deadline is None:
                self._give(HEAD_S)
        super().data_received(data)
        if self._in_head and self._head_bytes > MOST_HEAD_BYTES:
            self.transport.abort()

    def on_headers_complete(self) -> None:
        """The head of a request is whole."""
        self._stop_waiting()
        self._in_head, self._head_bytes = False, 0
        if self.places.is_known(self.headers):
            self.places.hear(self)
        super().on_headers_complete()

    def on_message_complete(self) -> None:
        """A request is whole: what comes next is another head."""
        self._stop_waiting()
        self._in_head, self._head_bytes = True, 0
        super().on_message_complete()

    def on_response_complete(self) -> None:
        """Answered; where the body was refused and is still coming, it is passed over for a moment, so that the answer is read."""
        super().on_response_complete()
        if not self._in_head and not self.transport.is_closing():
            self._give(DRAIN_S)

    def _give(self, seconds: float) -> None:
        self._stop_waiting()
        self._deadline = self.loop.call_later(seconds, self._too_late)

    def _stop_waiting(self) -> None:
        if self._deadline is not None:
            self._deadline.cancel()
            self._deadline = None

    def _too_late(self) -> None:
        self._deadline = None
        self.transport.abort()


def protocol_for(places: Places) -> type[Any]:
    """The kind of connection of a server with these places."""
    return type("PlacedConnection", (Connection,), {"places": places})
