"""How the answers of the API look: every path into every answer over the demo, with its kind and to how many digits it is rounded.

``python -m tests.golden.wire`` writes it anew after a change on purpose.
"""

from __future__ import annotations

import re
import tempfile
from collections.abc import Iterator
from decimal import Decimal
from pathlib import Path
from typing import Any

from flask.testing import FlaskClient

from nabrel.core.terms.zones import ZONES
from nabrel.demo.fill import fill
from nabrel.store.database import Database
from nabrel.web.app import create_app

FILE = Path(__file__).with_name("wire.txt")
KEYS = re.compile(r"^([0-9a-f]{32}|[a-z]+(-[a-z0-9]+)+|s\d+(\+\w+)?|\d+)$")
"""Keys that are ids: which there are is no matter of the wire."""
IDS = ("id", "key", "zone")


def shape() -> list[str]:
    """Every path into every answer: ``get /plans: plans[].minutes: number to 1``."""
    with tempfile.TemporaryDirectory() as folder:
        database = Database(Path(folder))
        fill(database)
        client = create_app(database).test_client()
        found: dict[str, set[str]] = {}
        for method, path, body in _questions(client):
            answer = client.open(path, method=method, json=body)
            assert answer.status_code < 300, (method, path, answer.get_data(as_text=True)[:300])
            name = re.sub(r"[0-9a-f]{32}|(?<=/)(s\d+|\d+)(?=/|$)", "{id}", path.partition("?")[0].removeprefix("/api"))
            _walk(answer.json, f"{method} {name}:", found)
        database.close()
    return sorted(f"{path} {_told(kinds)}" for path, kinds in found.items())


def _questions(client: FlaskClient) -> Iterator[tuple[str, str, Any]]:
    """What is asked: everything that is read, and what is told by asking with a body."""
    sitters = client.get("/api/sitters").json["sitters"]
    ida, plan = sitters[0]["id"], f"/api/sequences/{sitters[0]['sequence_id']}"
    shown = client.get(plan).json
    foundation = next(step["id"] for step in shown["steps"] if step["kind"] == "foundation")
    edit = {"edit": "wait", "step": foundation, "wait_s": 45.0}
    for path in ("about", "card", "card/samples", "classes", "damaged?whole=true", "drill", "drill/results", "drill/sets",
                 "drill/students", "house", "kit", "kit/tools", "learnt", "plans", "search?q=a", "session", "sitters", "trials",
                 "vocabulary", "waiting", "wears", "wears/season", "workspace/progress", "handouts/progress"):  # fmt: skip
        yield "get", f"/api/{path}", None
    for each in sitters:
        yield "get", f"/api/sequences/{each['sequence_id']}", None
        yield "get", f"/api/sitters/{each['id']}", None
    for path in ("belongings", "face", "everything"):
        yield "get", f"/api/sitters/{ida}/{path}", None
    for path in ("adapting", "aim", "corrector/nose_side_l", "head", "how-sure", "mix", "next-time", "palette", "schools", "sheet",
                 f"steps/{foundation}/candidates", f"steps/{foundation}/gaps", "telling", "told", "versions"):  # fmt: skip
        yield "get", f"{plan}/{path}", None
    for step in shown["steps"]:
        if step["kind"] in ("shade", "light") and step["unit"] == "um":
            yield "get", f"{plan}/steps/{step['id']}/reach", None
    yield "post", f"{plan}/try", {"edits": [edit]}
    yield "post", f"{plan}/preview", {"school": "overpainted"}
    yield "post", f"{plan}/weigh", {"candidates": [{}, {"school": "overpainted"}]}
    yield "post", f"{plan}/timetable", {}
    yield "post", f"{plan}/timetable/what-if", {"hands": 2}
    yield "post", f"{plan}/late", {"kind": "glow", "zones": ["cheekbone_l", "cheekbone_r"]}
    yield "post", f"{plan}/well", {"parts": [{"product": "thin-satin-2", "drops": 3}]}
    yield "post", "/api/by-eye", {}
    yield "post", "/api/kit/described", {"name": "Something", "role": "foundation"}
    yield "post", f"{plan}/run", {}
    yield "post", f"{plan}/edits", {"revision": shown["revision"], "edits": [edit]}
    yield "get", f"{plan}/versions/1/difference", None
    yield "get", f"{plan}/versions/1/look", None
    lists = client.get("/api/classes").json
    for path in ("", "/now"):
        yield "get", f"/api/classes/{lists['next']}{path}", None
    yield "get", f"/api/classes/{lists['courses'][0]['classes'][0]['id']}/recap", None
    for each in client.get("/api/wears").json["wears"][:12]:
        yield "get", f"/api/wears/{each['wear_id']}", None
    yield "get", f"/api/drill/students/{client.get('/api/drill/students').json['members'][0]['id']}", None


def _walk(value: Any, path: str, found: dict[str, set[str]]) -> None:
    if isinstance(value, dict):
        for key, each in value.items():
            name = "{}" if key in ZONES or (KEYS.match(key) and key not in IDS) else key
            _walk(each, f"{path}.{name}", found)
    elif isinstance(value, list):
        for each in value:
            _walk(each, f"{path}[]", found)
    else:
        found.setdefault(path.replace(":.", ": ").replace(":[", ": ["), set()).add(_kind(value))


def _kind(value: Any) -> str:
    match value:
        case None:
            return "null"
        case bool():
            return "yes or no"
        case float():
            return f"number to {max(0, -int(Decimal(str(value)).normalize().as_tuple().exponent))}"
        case int():
            return "whole number"
    return "text"


def _told(kinds: set[str]) -> str:
    """The kinds in a line: of numbers the one with the most digits."""
    digits = [int(each.rsplit(" ", 1)[1]) for each in kinds if each.startswith("number")]
    rest = {each for each in kinds if not each.startswith("number")}
    if digits:
        rest = {*rest - {"whole number"}, f"number to {max(digits)}"}
    return " or ".join(sorted(rest))


def text() -> str:
    """The whole file."""
    return "\n".join(shape()) + "\n"


if __name__ == "__main__":
    FILE.write_text(text(), encoding="utf-8")
