"""Write the OpenAPI document: ``python -m nabrel.web.openapi_build``. TypeScript types are generated from it."""

from __future__ import annotations

import json
import tempfile
from pathlib import Path

from nabrel.formats.schemas_build import whole
from nabrel.store.database import Database
from nabrel.web.app import create_app, document

DOCUMENT = Path(__file__).parent / "openapi.json"


def document_text() -> str:
    """The OpenAPI document of the application as it stands."""
    with tempfile.TemporaryDirectory() as folder:
        database = Database(Path(folder))
        try:
            found = document(create_app(database))
        finally:
            database.close()
    return json.dumps(whole(found), indent=1, sort_keys=True, ensure_ascii=False) + "\n"


if __name__ == "__main__":
    DOCUMENT.write_text(document_text(), encoding="utf-8")
