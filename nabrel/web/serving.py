"""Serving the application with waitress."""

from __future__ import annotations

import gc
import logging
from dataclasses import dataclass

import waitress

from nabrel.core.film.spectra import weights
from nabrel.core.terms.looks import LIGHTS
from nabrel.demo.fill import fill
from nabrel.store.database import Database, data_folder
from nabrel.web.app import create_app
from nabrel.web.shared.guard import Names


@dataclass(frozen=True, slots=True)
class Address:
    """Where to listen, the names that others know the server by, and the proxy in front of it whose word is taken."""

    host: str = "127.0.0.1"
    port: int = 8765
    public: tuple[str, ...] = ()
    proxy: str | None = None


def serve(address: Address, *, demo: bool) -> None:
    """Open the data folder, fill it with the demo where asked and empty, and serve until stopped."""
    logging.basicConfig(level=logging.INFO, format="%(levelname)s %(message)s")
    folder = data_folder()
    database = Database(folder)
    if demo and fill(database):
        print(f"Filled {folder} with Kestrel Quay.")
    for light in LIGHTS:
        weights(light)
    print(f"Nabrel is open at http://{address.host}:{address.port}/   (stop with Ctrl-C)", flush=True)
    application = create_app(database, Names.of(address.host, address.public))
    # What stands now stands until the end: never to be looked through for garbage again, which would cost a request
    # a tenth of a second every now and then.
    gc.collect()
    gc.freeze()
    told = {"x-forwarded-for", "x-forwarded-host", "x-forwarded-proto"} if address.proxy else set()
    waitress.serve(
        application,
        host=address.host,
        port=address.port,
        threads=4,
        ident="nabrel",
        trusted_proxy=address.proxy,
        trusted_proxy_headers=told,
        clear_untrusted_proxy_headers=True,
    )
