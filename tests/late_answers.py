"""Every answer of the server comes late, by a chance of its own, so that answers overtake each other.

``make late-answers`` runs the browser tests so (a plugin of pytest, not part of the tests): what only works while
the server answers at once, in the application or in a test, fails. ``NABREL_SEED`` draws other delays.
"""

from __future__ import annotations

import os
import random
import time
from typing import Any

import pytest
from werkzeug.serving import WSGIRequestHandler

DELAYS_S = (0, 0.05, 0.2, 0.6, 1.2)


@pytest.fixture(autouse=True)
def late_answers(monkeypatch: pytest.MonkeyPatch, request: pytest.FixtureRequest) -> None:
    chance = random.Random(f"{os.environ.get('NABREL_SEED', '1')} {request.node.nodeid}")
    answer = WSGIRequestHandler.run_wsgi

    def late(handler: WSGIRequestHandler) -> Any:
        if handler.path.startswith("/api/"):
            time.sleep(chance.choice(DELAYS_S))
        return answer(handler)

    monkeypatch.setattr(WSGIRequestHandler, "run_wsgi", late)
