"""Serving the application with waitress."""

from __future__ import annotations

import gc
import logging

import waitress

from nabrel.core.film.spectra import weights
from nabrel.core.terms.looks import LIGHTS
from nabrel.demo.fill import fill
from nabrel.store.database import Database, data_folder
from nabrel.web.app import create_app


def serve(host: str, port: int, *, demo: bool) -> None:
    """Open the data folder, fill it with the demo where asked and empty, and serve until stopped."""
    logging.basicConfig(level=logging.INFO, format="%(levelname)s %(message)s")
    folder = data_folder()
    database = Database(folder)
    if demo and fill(database):
        print(f"Filled {folder} with Kestrel Quay.")
    for light in LIGHTS:
        weights(light)
    print(f"Nabrel is open at http://{host}:{port}/   (stop with Ctrl-C)", flush=True)
    application = create_app(database)
    # What stands now stands until the end: never to be looked through for garbage again, which would cost a request
    # a tenth of a second every now and then.
    gc.collect()
    gc.freeze()
    waitress.serve(application, host=host, port=port, threads=4, ident="nabrel")
