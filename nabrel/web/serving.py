"""Serving the application with uvicorn, until it is told to stop."""

from __future__ import annotations

import gc
import logging
import os
import signal
import socket
import ssl
import sys
import threading
import webbrowser
from collections.abc import Callable
from dataclasses import dataclass
from datetime import UTC, datetime
from logging.handlers import RotatingFileHandler
from pathlib import Path
from typing import Any

import uvicorn

from nabrel.core.errors import Refused
from nabrel.core.film.spectra import weights
from nabrel.core.terms.looks import LIGHTS
from nabrel.demo.fill import fill
from nabrel.store import backup
from nabrel.store.accounts import Accounts
from nabrel.store.database import Database, unfinished
from nabrel.store.folder import LOGS, OWN_FILE, Unusable, data_folder, held, made_folder
from nabrel.web.app import Application, create_app
from nabrel.web.connections import MOST_CONNECTIONS, Places, protocol_for
from nabrel.web.doors import Doors, behind
from nabrel.web.shared import only_me, signing_in, trail, uploads
from nabrel.web.shared.guard import Names, is_loopback
from nabrel.web.shared.heavy import Processes

STOP_WITHIN_S = 10
"""What is under way when the server is told to stop may take so long to end."""
ANSWER_WITHIN_S = 2
"""So long before that, what is still worked on is refused, so that its request is answered."""
LOOK_EVERY_S = 600.0
"""How often it is looked whether the day's backup is due."""
WARM_UP_AFTER_S = 3.0
MOST_LOG_BYTES, LOG_FILES = 1_000_000, 5
IDLE_S = 15
"""A connection that asks for nothing is closed after so many seconds."""

log = logging.getLogger("nabrel")


@dataclass(frozen=True, slots=True)
class Address:
    """Where to listen, the names that others know the server by, and the proxy in front of it whose word is taken."""

    host: str = "127.0.0.1"
    port: int = 8765
    public: tuple[str, ...] = ()
    proxy: str | None = None
    sign_in: bool = False
    """Whether a sign-in is demanded where it would not have to be; beyond this machine it always is."""
    alone: bool | None = None
    """Whether it is open to its owner alone; where nothing is said, it is unless it is filled with the demo."""
    certificate: str | None = None
    """The files of a certificate and its key, to serve over TLS."""
    key: str | None = None

    @property
    def scheme(self) -> str:
        """What its address begins with."""
        return "http" if self.certificate is None else "https"

    def is_alone(self, *, demo: bool) -> bool:
        """Whether only its owner is answered; where people sign in they are."""
        if self.demands_sign_in:
            return False
        return not demo if self.alone is None else self.alone

    @property
    def demands_sign_in(self) -> bool:
        """Whether whoever asks must be signed in: always where other machines reach the server."""
        return self.sign_in or not is_loopback(self.host)


def serve(address: Address, *, demo: bool) -> None:
    """Open the data folder, fill it with the demo where asked and empty, and serve until stopped by a signal.

    Refuses a port that is in use and a data folder that cannot be used.
    """
    _check_certificate(address)
    folder = data_folder()
    with held(folder):
        _log_to(made_folder(folder / LOGS))
        for left in unfinished(folder):
            left.unlink(missing_ok=True)
        database = Database(folder)
        try:
            if demo and fill(database):
                print(f"Filled {folder} with Kestrel Quay.")
            _guarded(address, database, alone=address.is_alone(demo=demo))
            for light in LIGHTS:
                weights(light)
            names = Names.of(address.host, address.public)
            heavy = Processes()
            alone = address.is_alone(demo=demo)
            application = create_app(database, names, sign_in=address.demands_sign_in, alone=alone, heavy=heavy)
            if alone:
                only_me.open_at(folder, only_me.ServedAt(address.scheme, address.host, address.port))
            # What stands now stands until the end: never to be looked through for garbage again, which would cost a
            # request a tenth of a second every now and then.
            gc.collect()
            gc.freeze()
            stopping = threading.Event()
            daily = threading.Thread(target=_back_up_daily, args=(database, stopping), daemon=True)
            daily.start()
            threading.Thread(target=_warm_up, args=(heavy, stopping), daemon=True).start()
            try:
                _run(address, application, folder, only_me.new_link(folder) if alone else "", heavy.refuse)
            finally:
                stopping.set()
                heavy.close()
                if alone:
                    only_me.close(folder)
            daily.join(STOP_WITHIN_S)
        finally:
            database.close()
    print("Nabrel is closed.", flush=True)


def _check_certificate(address: Address) -> None:
    """Refuse a certificate and a key that cannot be read, or do not belong together."""
    if address.certificate is None:
        return
    try:
        ssl.create_default_context(ssl.Purpose.CLIENT_AUTH).load_cert_chain(address.certificate, address.key)
    except (ssl.SSLError, OSError):
        raise Refused(
            "--certificate", address.certificate, "a certificate as PEM, with the key that belongs to it"
        ) from None


def _guarded(address: Address, database: Database, *, alone: bool) -> None:
    """Refuse to serve other machines while nobody can sign in, and say what they could read on the way."""
    if not address.demands_sign_in:
        if not alone and (address.proxy or address.public):
            print("Whoever reaches the proxy reads everything. To have people sign in, add --sign-in.", file=sys.stderr)
        return
    with database.session() as session:
        if not Accounts(session).any_educator():
            raise Unusable(
                "This server demands a sign-in, and there is no educator's account yet.",
                "Make one first: nabrel account add NAME.",
            )
    if address.proxy is None and address.certificate is None and not is_loopback(address.host):
        print(
            "Passwords and skin records cross the network unencrypted. Serve it behind a proxy with TLS: docs/security.md.",
            file=sys.stderr,
        )


def _listening(address: Address) -> socket.socket:
    where = f"{address.host}:{address.port}"
    try:
        family = socket.getaddrinfo(address.host, address.port, type=socket.SOCK_STREAM)[0][0]
        return socket.create_server((address.host, address.port), family=family, backlog=1024)
    except OSError as error:
        raise Unusable(
            f"Nabrel cannot listen on {where} ({error.strerror or error}).", "Name another: --port."
        ) from None


class _Server(uvicorn.Server):
    """Says that it is open once it is, and has what is still worked on refused in time when it closes."""

    def __init__(self, config: uvicorn.Config, words: str, link: str, refuse: Callable[[], None]) -> None:
        super().__init__(config)
        self._words, self._link, self._refuse = words, link, refuse

    async def startup(self, sockets: list[socket.socket] | None = None) -> None:
        """Listen, and say so."""
        await super().startup(sockets)
        print(self._words, flush=True)
        if self._link and _has_browser():
            threading.Thread(target=webbrowser.open, args=(self._link,), daemon=True).start()

    async def shutdown(self, sockets: list[socket.socket] | None = None) -> None:
        """Take nothing new, and end what is under way."""
        late = threading.Timer(STOP_WITHIN_S - ANSWER_WITHIN_S, self._refuse)
        late.daemon = True
        late.start()
        await super().shutdown(sockets)
        late.cancel()


def _has_browser() -> bool:
    """Whether somebody sits at a screen of this computer."""
    if sys.platform in ("win32", "darwin"):
        return sys.stdout.isatty()
    return sys.stdout.isatty() and bool(os.environ.get("DISPLAY") or os.environ.get("WAYLAND_DISPLAY"))


def _run(address: Address, application: Application, folder: Path, link: str, refuse: Callable[[], None]) -> None:
    """Answer requests until a signal comes; then take no new ones, and end what is under way."""
    _allow_connections()
    known = signing_in.known_by_cookie(application)
    doors: Any = Doors(application, folder, uploads.limit_of(application), known)
    places = Places(lambda headers: known(headers) is not None, address.proxy)
    config = uvicorn.Config(
        doors if address.proxy is None else behind(address.proxy, doors),
        http=protocol_for(places),
        ws="none",
        lifespan="off",
        proxy_headers=False,
        server_header=False,
        access_log=False,
        log_config=None,
        timeout_keep_alive=IDLE_S,
        timeout_graceful_shutdown=STOP_WITHIN_S,
        ssl_certfile=address.certificate,
        ssl_keyfile=address.key,
    )
    words = f"Nabrel is open at {address.scheme}://{address.host}:{address.port}/   (stop with Ctrl-C)"
    if link:
        words += f"\nOpen it with this link, which works once (a new one: nabrel link):\n{link}"
    elif not address.demands_sign_in:
        words += "\nEvery account of this computer can read what it keeps; --only-me keeps others out."
    for number in (signal.SIGTERM, signal.SIGINT):
        # The server ends by itself, and raises the signal once more when it has: by then everything is in order.
        signal.signal(number, lambda *_: None)
    _Server(config, words, link, refuse).run([_listening(address)])
    log.info("stopped")


def _allow_connections() -> None:
    """Let the process have as many files open as there are places for connections."""
    if sys.platform == "win32":
        return
    import resource  # noqa: PLC0415 - only where there is such a limit

    soft, hard = resource.getrlimit(resource.RLIMIT_NOFILE)
    wanted = 2 * MOST_CONNECTIONS + 512
    if soft < wanted:
        resource.setrlimit(resource.RLIMIT_NOFILE, (min(wanted, hard) if hard > 0 else wanted, hard))


def _warm_up(heavy: Processes, stopping: threading.Event) -> None:
    """Have the processes for heavy work ready once the first pages were answered."""
    if not stopping.wait(WARM_UP_AFTER_S):
        heavy.warm_up()


def _back_up_daily(database: Database, stopping: threading.Event) -> None:
    """Back up once a day. What keeps it from doing so is logged and tried again."""
    while not stopping.is_set():
        try:
            if backup.due(database.folder, datetime.now(UTC)):
                made = database.back_up("daily")
                log.info("backed up to %s", made.name)
        except Unusable as unusable:
            log.warning("no backup: %s", unusable)
        stopping.wait(LOOK_EVERY_S)


def _log_to(folder: Path) -> None:
    """Log to files that are let go when they grow, and warnings to the terminal too. Nothing logged is personal.

    The trail of what was changed has a file of its own, a line of JSON after the time.
    """
    stored = _rotating(folder / "nabrel.log", "%(asctime)s %(levelname)s %(name)s: %(message)s")
    trail.log.handlers = [_rotating(folder / "trail.log", "%(asctime)s %(message)s")]
    trail.log.propagate = False
    # Requests that are none are no news: many of them would fill the terminal, or a pipe that nobody empties.
    logging.getLogger("uvicorn").setLevel(logging.CRITICAL)
    shown = logging.StreamHandler()
    shown.setLevel(logging.WARNING)
    shown.setFormatter(logging.Formatter("%(levelname)s %(message)s"))
    logging.basicConfig(level=logging.INFO, handlers=[stored, shown], force=True)


def _rotating(file: Path, line: str) -> RotatingFileHandler:
    file.touch(mode=OWN_FILE)
    stored = RotatingFileHandler(file, maxBytes=MOST_LOG_BYTES, backupCount=LOG_FILES, encoding="utf-8")
    stored.setFormatter(logging.Formatter(line))
    return stored
