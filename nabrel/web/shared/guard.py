"""Who may ask: the application's own pages and the command line. No other page on the web, and under no other name.

A page anywhere can make a browser send requests to a server on the same machine, and a name of its own can be made to lead
there. So before anything else every request must name this server, and none that a foreign page caused reaches the API.
"""

from __future__ import annotations

import re
import socket
from collections.abc import Iterable
from dataclasses import dataclass
from ipaddress import ip_address
from urllib.parse import urlsplit

from flask import Flask, Request, request

from nabrel.core.errors import Refused

WILDCARDS = frozenset({"0.0.0.0", "::", ""})
"""Addresses that mean every address of the machine."""
_HOST = re.compile(r"(?P<name>\[[0-9a-f:.]+\]|[a-z0-9._-]+)(?::\d{1,5})?", re.ASCII)


def is_loopback(host: str) -> bool:
    """Whether an address to listen on is reached from this machine alone."""
    if host == "localhost":
        return True
    try:
        return ip_address(host.strip("[]")).is_loopback
    except ValueError:
        return False


class OtherHost(Refused):
    """The request was meant for another server: its Host is none of this one's names."""


class OtherPage(Refused):
    """A page of another origin caused the request."""


@dataclass(frozen=True, slots=True)
class Names:
    """The names this server answers to, beside loopback; ``everywhere`` where it listens on every address of the machine."""

    own: frozenset[str] = frozenset()
    everywhere: bool = False

    @classmethod
    def of(cls, host: str, public: Iterable[str] = ()) -> Names:
        """The names of a server that listens on an address and is known to others by some names."""
        everywhere = host in WILDCARDS
        here = {socket.gethostname()} if everywhere else {host}
        return cls(frozenset(name.lower().rstrip(".") for name in (*here, *public)), everywhere)

    def hold(self, host: str) -> bool:
        """Whether a Host header names this server. An address cannot be made to lead elsewhere, as a name can."""
        found = _HOST.fullmatch(host.lower())
        if found is None:
            return False
        name = found["name"].rstrip(".")
        if name == "localhost" or name in self.own:
            return True
        try:
            address = ip_address(name.strip("[]"))
        except ValueError:
            return False
        return address.is_loopback or self.everywhere or str(address) in self.own


def _of_another_page(asked: Request) -> str:
    """The header by which a request tells that another page caused it; empty where none does.

    Browsers say so by Sec-Fetch-Site, older ones by Origin, and for pictures and links by Referer. The command line sends none.
    """
    site = asked.headers.get("Sec-Fetch-Site")
    if site is not None and site not in ("same-origin", "none"):
        return "Sec-Fetch-Site"
    for header in ("Origin", "Referer"):
        said = asked.headers.get(header)
        if said is None or (header == "Referer" and site is not None):
            continue
        try:
            own = urlsplit(said).netloc.lower() == asked.host.lower()
        except ValueError:
            own = False
        if not own:
            return header
    return ""


def install(app: Flask, names: Names) -> None:
    """Hold every request to its Host, and those to the API to pages of this server."""

    @app.before_request
    def hold() -> None:
        host = request.headers.get("Host", "")
        if not names.hold(host):
            raise OtherHost("Host", host[:120], "localhost, or a name given with --public-name when Nabrel was started")
        if request.path.startswith("/api"):
            header = _of_another_page(request)
            if header:
                raise OtherPage(header, request.headers[header][:120], "a page of this server, or none")
