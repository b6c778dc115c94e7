"""Serving the application with waitress, until it is told to stop."""

from __future__ import annotations

import gc
import logging
import signal
import sys
import threading
import time
from dataclasses import dataclass
from datetime import UTC, datetime
from logging.handlers import RotatingFileHandler
from pathlib import Path
from types import FrameType
from typing import Any

import waitress
from waitress.channel import HTTPChannel

from nabrel.core.film.spectra import weights
from nabrel.core.terms.looks import LIGHTS
from nabrel.demo.fill import fill
from nabrel.store import backup
from nabrel.store.accounts import Accounts
from nabrel.store.database import Database
from nabrel.store.folder import LOGS, OWN_FILE, Unusable, data_folder, held, made_folder
from nabrel.web.app import create_app
from nabrel.web.shared import trail
from nabrel.web.shared.guard import Names, is_loopback

STOP_WITHIN_S = 10.0
"""What is under way when the server is told to stop may take so long to end."""
LOOK_EVERY_S = 600.0
"""How often it is looked whether the day's backup is due."""
MOST_LOG_BYTES, LOG_FILES = 1_000_000, 5
MOST_CONNECTIONS, IDLE_S = 500, 30
"""Connections at once, and the seconds after which a silent one is closed: slow ones leave room for other people."""

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

    @property
    def demands_sign_in(self) -> bool:
        """Whether whoever asks must be signed in: always where other machines reach the server."""
        return self.sign_in or not is_loopback(self.host)


def serve(address: Address, *, demo: bool) -> None:
    """Open the data folder, fill it with the demo where asked and empty, and serve until stopped by a signal.

    Refuses a port that is in use and a data folder that cannot be used.
    """
    folder = data_folder()
    with held(folder):
        _log_to(made_folder(folder / LOGS))
        database = Database(folder)
        try:
            if demo and fill(database):
                print(f"Filled {folder} with Kestrel Quay.")
            _guarded(address, database)
            for light in LIGHTS:
                weights(light)
            channels: dict[int, Any] = {}
            names = Names.of(address.host, address.public)
            application = create_app(database, names, sign_in=address.demands_sign_in)
            server = _listening(address, application, channels)
            print(f"Nabrel is open at http://{address.host}:{address.port}/   (stop with Ctrl-C)", flush=True)
            # What stands now stands until the end: never to be looked through for garbage again, which would cost a
            # request a tenth of a second every now and then.
            gc.collect()
            gc.freeze()
            stopping = threading.Event()
            daily = threading.Thread(target=_back_up_daily, args=(database, stopping), daemon=True)
            daily.start()
            _run(server, channels, stopping)
            daily.join(STOP_WITHIN_S)
        finally:
            database.close()
    print("Nabrel is closed.", flush=True)


def _guarded(address: Address, database: Database) -> None:
    """Refuse to serve other machines while nobody can sign in, and say what they could read on the way."""
    if not address.demands_sign_in:
        if address.proxy or address.public:
            print("Whoever reaches the proxy reads everything. To have people sign in, add --sign-in.", file=sys.stderr)
        return
    with database.session() as session:
        if not Accounts(session).any_educator():
            raise Unusable(
                "This server demands a sign-in, and there is no educator's account yet.",
                "Make one first: nabrel account add NAME.",
            )
    if address.proxy is None and not is_loopback(address.host):
        print(
            "Passwords and skin records cross the network unencrypted. Serve it behind a proxy with TLS: docs/security.md.",
            file=sys.stderr,
        )


def _listening(address: Address, application: Any, channels: dict[int, Any]) -> Any:
    told = {"x-forwarded-for", "x-forwarded-host", "x-forwarded-proto"} if address.proxy else set()
    try:
        return waitress.create_server(
            application,
            map=channels,
            host=address.host,
            port=address.port,
            threads=4,
            ident="nabrel",
            connection_limit=MOST_CONNECTIONS,
            channel_timeout=IDLE_S,
            cleanup_interval=5,
            trusted_proxy=address.proxy,
            trusted_proxy_headers=told,
            clear_untrusted_proxy_headers=True,
        )
    except OSError as error:
        where = f"{address.host}:{address.port}"
        raise Unusable(
            f"Nabrel cannot listen on {where} ({error.strerror or error}).", "Name another: --port."
        ) from None


def _run(server: Any, channels: dict[int, Any], stopping: threading.Event) -> None:
    """Answer requests until a signal comes; then take no new ones, and end what is under way."""

    def stop(_number: int, _frame: FrameType | None) -> None:
        stopping.set()
        for each in list(channels.values()):
            if hasattr(each, "pull_trigger"):
                each.pull_trigger()

    for number in (signal.SIGTERM, signal.SIGINT):
        signal.signal(number, stop)
    while not stopping.is_set():
        server.asyncore.loop(timeout=1.0, map=channels, count=1)
    for each in list(channels.values()):
        if not isinstance(each, HTTPChannel) and hasattr(each, "accepting") and each.accepting:
            each.accepting = False
            each.del_channel()
            each.socket.close()
    until = time.monotonic() + STOP_WITHIN_S
    while time.monotonic() < until and any(_busy(each) for each in list(channels.values())):
        server.asyncore.loop(timeout=0.05, map=channels, count=1)
    server.task_dispatcher.shutdown(timeout=1)
    log.info("stopped")


def _busy(channel: Any) -> bool:
    """Whether a connection has a request that was received whole and not yet answered whole."""
    return isinstance(channel, HTTPChannel) and bool(channel.requests or channel.total_outbufs_len)


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
    # That requests wait for their turn is no news: many of them would fill the terminal, or a pipe that nobody empties.
    logging.getLogger("waitress.queue").setLevel(logging.ERROR)
    shown = logging.StreamHandler()
    shown.setLevel(logging.WARNING)
    shown.setFormatter(logging.Formatter("%(levelname)s %(message)s"))
    logging.basicConfig(level=logging.INFO, handlers=[stored, shown], force=True)


def _rotating(file: Path, line: str) -> RotatingFileHandler:
    file.touch(mode=OWN_FILE)
    stored = RotatingFileHandler(file, maxBytes=MOST_LOG_BYTES, backupCount=LOG_FILES, encoding="utf-8")
    stored.setFormatter(logging.Formatter(line))
    return stored
