"""What stands between the network and the application (ASGI outside, WSGI within): no request holds a thread that is not whole yet.

The body is taken in first, on disk where it is large, within its limit and its time; then a thread answers, and what it answers is
sent from here, however slowly it is read. Whoever has more under way than their share waits, and is told so where too many wait.
"""

from __future__ import annotations

import asyncio
import contextlib
import errno
import json
from collections.abc import Awaitable, Callable, MutableMapping
from dataclasses import dataclass
from pathlib import Path
from tempfile import SpooledTemporaryFile
from threading import Event
from typing import IO, Any

from a2wsgi import WSGIMiddleware
from uvicorn.middleware.proxy_headers import ProxyHeadersMiddleware

from nabrel.web.connections import DRAIN_S, Headers

Message = MutableMapping[str, Any]
Receive = Callable[[], Awaitable[Message]]
Send = Callable[[Message], Awaitable[None]]
Scope = MutableMapping[str, Any]

THREADS = 24
MOST_UNKNOWN = 8
"""Of the threads, so many at most work for those who are not signed in, where that is demanded."""
MOST_AT_ONCE, MOST_WAITING = 12, 60
"""Requests of one account or address that are answered at once, and that wait for it."""
BODY_S, LEAST_RATE = 15.0, 32_000
"""A body, and the reading of an answer, may take so many seconds and as long as it takes at so many bytes a second."""
IN_MEMORY = 1_000_000
PIECE = 256_000
MOST_UNKNOWN_BYTES = 16_384
"""The body of somebody who is not signed in: a name and a password."""
GONE = "nabrel.gone"
"""In the scope: an event that is set when whoever asked has gone."""
OWNER = "nabrel.owner"
"""In the scope: whose share of the server the request counts to."""


@dataclass
class Doors:
    """The application behind its doors."""

    application: Any
    """The WSGI application."""
    folder: Path
    """Where bodies and answers lie that are large: personal, so in the data folder, where nobody else sees them."""
    limit_of: Callable[[str, str], int]
    """The most bytes of a body, by method and path."""
    owner: Callable[[Headers], str | None] = lambda _: ""
    """Whose request it is by its cookie: an account, an empty name where no sign-in is demanded, None for somebody unknown."""

    def __post_init__(self) -> None:
        self._within: Any = WSGIMiddleware(self.application, workers=THREADS, send_queue_size=64)
        self._shares: dict[str, _Share] = {}
        self._unknown = asyncio.Semaphore(MOST_UNKNOWN)

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Answer one request."""
        if scope["type"] != "http":
            await self._within(scope, receive, send)
            return
        # A name with an underscore would pass for one with a hyphen.
        scope["headers"] = [(name, value) for name, value in scope["headers"] if b"_" not in name]
        owner = self.owner(scope["headers"])
        most = self.limit_of(scope["method"], scope["path"])
        if owner is None:
            most = min(most, MOST_UNKNOWN_BYTES)
        address = scope["client"][0] if scope.get("client") else ""
        scope[OWNER] = owner or address
        announced = _length(scope["headers"])
        if announced > most:
            await _refuse(receive, send, 413, "a larger body", f"at most {most:,} bytes")
            return
        try:
            with SpooledTemporaryFile(max_size=IN_MEMORY, dir=str(self.folder)) as body:
                if await self._take_in(receive, send, body, most):
                    await self._answer(scope, receive, send, body, known=owner is not None)
        except OSError as error:
            if error.errno not in (errno.ENOSPC, errno.EDQUOT):
                raise
            await _refuse(None, send, 507, "a full disk", "some room: free some, then try again")

    async def _take_in(self, receive: Receive, send: Send, body: IO[bytes], most: int) -> bool:
        """Take the body in, whole; False where it was refused or nobody is there any more."""
        loop = asyncio.get_running_loop()
        begun, size = loop.time(), 0
        while True:
            left = begun + BODY_S + size / LEAST_RATE - loop.time()
            try:
                message = await asyncio.wait_for(receive(), max(0.0, left))
            except TimeoutError:
                await _refuse(receive, send, 408, "a body that came too slowly", "a faster one: try again")
                return False
            if message["type"] == "http.disconnect":
                return False
            piece = message.get("body", b"")
            size += len(piece)
            if size > most:
                await _refuse(receive, send, 413, "a larger body", f"at most {most:,} bytes")
                return False
            body.write(piece)
            if not message.get("more_body", False):
                body.seek(0)
                return True

    async def _answer(self, scope: Scope, receive: Receive, send: Send, body: IO[bytes], *, known: bool) -> None:
        share = self._shares.setdefault(scope[OWNER], _Share())
        if share.waiting >= MOST_WAITING:
            await _refuse(None, send, 503, "too many requests at once", "fewer: try again in a moment", retry_s=2)
            return
        share.waiting += 1
        try:
            async with share.places, self._unknown if not known else _FREE:
                await self._work(scope, receive, send, body)
        finally:
            share.waiting -= 1
            if not share.waiting:
                self._shares.pop(scope[OWNER], None)

    async def _work(self, scope: Scope, receive: Receive, send: Send, body: IO[bytes]) -> None:
        gone = scope[GONE] = Event()

        async def taken() -> Message:
            piece = body.read(PIECE)
            return {"type": "http.request", "body": piece, "more_body": len(piece) == PIECE}

        async def watch() -> None:
            while (await receive())["type"] != "http.disconnect":
                pass
            gone.set()

        watching = asyncio.create_task(watch())
        with SpooledTemporaryFile(max_size=IN_MEMORY, dir=str(self.folder)) as told:
            heads: list[Message] = []

            async def collect(message: Message) -> None:
                if message["type"] == "http.response.start":
                    heads.append(message)
                else:
                    told.write(message.get("body", b""))

            try:
                await self._within(scope, taken, collect)
            finally:
                watching.cancel()
            if not gone.is_set():
                await _say(send, heads[0], told)


class _Share:
    """What one account or address has under way."""

    def __init__(self) -> None:
        self.places = asyncio.Semaphore(MOST_AT_ONCE)
        self.waiting = 0


class _Free:
    """A place that is always free."""

    async def __aenter__(self) -> None:
        """Go in."""

    async def __aexit__(self, *_: object) -> None:
        """Go out."""


_FREE = _Free()


def behind(proxy: str, within: Any) -> Any:
    """An application that takes the word of a proxy on who asks, over what, and for which host; nobody else's."""
    told: Any = ProxyHeadersMiddleware(within, trusted_hosts=proxy)

    async def called(scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] == "http" and scope["client"] and scope["client"][0] == proxy:
            named = next((value for name, value in scope["headers"] if name == b"x-forwarded-host"), None)
            if named is not None:
                rest = [(name, value) for name, value in scope["headers"] if name != b"host"]
                scope["headers"] = [*rest, (b"host", named)]
        await told(scope, receive, send)

    return called


async def _say(send: Send, head: Message, told: IO[bytes]) -> None:
    """Send an answer; whoever reads it too slowly loses the connection."""
    size = told.tell()
    told.seek(0)
    async with asyncio.timeout(BODY_S + size / LEAST_RATE):
        await send(head)
        while piece := told.read(PIECE):
            await send({"type": "http.response.body", "body": piece, "more_body": True})
        await send({"type": "http.response.body", "body": b""})


async def _refuse(
    receive: Receive | None, send: Send, status: int, found: str, allowed: str, retry_s: int | None = None
) -> None:
    """Refuse a request in the words of any other refusal, and let what still comes of it go by."""
    text = {"field": "request", "found": found, "allowed": allowed, "says": f"request: {found}; allowed: {allowed}"}
    data = json.dumps(text).encode()
    headers = [
        (b"content-type", b"application/json"),
        (b"content-length", str(len(data)).encode()),
        (b"cache-control", b"no-store"),
        (b"x-content-type-options", b"nosniff"),
    ]
    if retry_s is not None:
        headers.append((b"retry-after", str(retry_s).encode()))
    await send({"type": "http.response.start", "status": status, "headers": headers})
    await send({"type": "http.response.body", "body": data, "more_body": True})
    if receive is None:
        await send({"type": "http.response.body", "body": b""})
        return
    # Whoever is still sending reads the answer only then; a connection that is closed before loses it.
    with contextlib.suppress(TimeoutError):
        async with asyncio.timeout(DRAIN_S):
            while (message := await receive())["type"] == "http.request" and message.get("more_body", False):
                pass
    await send({"type": "http.response.body", "body": b""})


def _length(headers: Headers) -> int:
    """How long the body is said to be; 0 where nothing is said."""
    said = next((value for name, value in headers if name == b"content-length"), b"0")
    return int(said) if said.isdigit() else 0
