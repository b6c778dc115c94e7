"""Write the OpenAPI document: ``python -m nabrel.web.openapi_build``. TypeScript types are generated from it.

Endpoints describe themselves only in a process that is told to, before they are imported; so it is made in one of its own.
"""

from __future__ import annotations

import json
import os
import subprocess
import sys
import tempfile
from pathlib import Path

from nabrel.formats.schemas_build import whole
from nabrel.store.database import Database
from nabrel.web.app import DOCUMENT, create_app, document
from nabrel.web.shared.requests import DESCRIBE


def document_text() -> str:
    """The OpenAPI document of the application as it stands."""
    made = subprocess.run(
        [sys.executable, "-m", "nabrel.web.openapi_build"],
        env={**os.environ, DESCRIBE: "1"}, capture_output=True, encoding="utf-8", check=True,
    )  # fmt: skip
    return made.stdout


def _described() -> str:
    with tempfile.TemporaryDirectory() as folder:
        database = Database(Path(folder))
        try:
            found = document(create_app(database))
        finally:
            database.close()
    return json.dumps(whole(found), indent=1, sort_keys=True, ensure_ascii=False) + "\n"


if __name__ == "__main__":
    if DESCRIBE in os.environ:
        sys.stdout.reconfigure(encoding="utf-8")  # type: ignore[union-attr]
        sys.stdout.write(_described())
    else:
        DOCUMENT.write_text(document_text(), encoding="utf-8")
