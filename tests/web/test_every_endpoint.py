"""Every endpoint of the published API, asked well-formed, odd and hostile questions: an answer or a refusal, never a fault."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import pytest
from hypothesis import HealthCheck, Phase, given, settings
from hypothesis import strategies as st

import nabrel.web
from nabrel.core.terms.zones import ZONES
from nabrel.store.database import Database
from nabrel.web.app import create_app

DOCUMENT = json.loads((Path(nabrel.web.__file__).parent / "openapi.json").read_text(encoding="utf-8"))
SCHEMAS = DOCUMENT["components"]["schemas"]
ASKED = [(method, path, told) for path, methods in DOCUMENT["paths"].items() for method, told in methods.items()]
WITH_BODY = [
    (method, path, told)
    for method, path, told in ASKED
    if "$ref" in str(told.get("requestBody", {}).get("content", {}).get("application/json", {}))
]
KNOWN = [
    "s1",
    "s2",
    "s6",
    "s13",
    "s14",
    "thin-satin-2",
    "pow-fine",
    "cle-1",
    "shade-2",
    "film-over-limit",
    "corrector-helps",
]
HOSTILE: list[Any] = [
    None, True, -1, 0, 1e308, 10**30, "", " ", "\x00", "x" * 5000, "\u202e نبرل 肌", "'; DROP TABLE kit; --", "../../x",
    [], {}, [[]], {"a": {"b": {}}}, "NaN", "2024-02-30",
]  # fmt: skip


def named(path: str) -> str:
    return path.removeprefix("/api")


def values(schema: dict[str, Any], depth: int = 0) -> st.SearchStrategy[Any]:
    """Values that a JSON schema of our document allows, or nearly: bounds are overstepped now and then."""
    if "$ref" in schema:
        return st.deferred(lambda: values(SCHEMAS[schema["$ref"].rsplit("/", 1)[1]], depth + 1))
    if "const" in schema:
        return st.just(schema["const"])
    if "enum" in schema:
        return st.sampled_from(schema["enum"])
    choices = schema.get("anyOf") or schema.get("oneOf")
    if choices:
        return st.one_of([values(each, depth + 1) for each in choices])
    match schema.get("type"):
        case "object":
            return _objects(schema, depth)
        case "array":
            if "prefixItems" in schema:
                return st.tuples(*(values(each, depth + 1) for each in schema["prefixItems"])).map(list)
            most = min(schema.get("maxItems", 3), 3)
            return st.lists(values(schema.get("items", {}), depth + 1), min_size=schema.get("minItems", 0), max_size=max(most, schema.get("minItems", 0)))  # fmt: skip
        case "integer":
            return st.integers(schema.get("minimum", 0), schema.get("maximum", 20))
        case "number":
            return st.floats(schema.get("minimum", 0), schema.get("maximum", 100), allow_nan=False)
        case "boolean":
            return st.booleans()
        case "null":
            return st.none()
        case _:
            return st.sampled_from([*KNOWN, *ZONES[:3], "2026-03-01", "c68863", "A name"])


def _objects(schema: dict[str, Any], depth: int) -> st.SearchStrategy[Any]:
    own = schema.get("properties", {})
    needed = {name: values(each, depth) for name, each in own.items() if name in schema.get("required", ())}
    free = {name: values(each, depth) for name, each in own.items() if name not in needed}
    if not own and isinstance(schema.get("additionalProperties"), dict):
        return st.dictionaries(st.sampled_from(KNOWN), values(schema["additionalProperties"], depth + 1), max_size=2)
    return st.fixed_dictionaries(needed, optional=free)


@st.composite
def bodies(draw: st.DrawFn, schema: dict[str, Any]) -> Any:
    """A body that fits, or one with a single thing in it replaced by something hostile."""
    body = draw(values(schema))
    if draw(st.booleans()) or not isinstance(body, dict) or not body:
        return body
    name = draw(st.sampled_from(sorted(body)))
    return {**body, name: draw(st.sampled_from(HOSTILE))}


@pytest.fixture(scope="module")
def first(filled_file) -> dict[str, str]:
    """The ids of the first demo sitter and of the plan."""
    database = Database(filled_file.parent)
    found = create_app(database).test_client().get("/api/sitters").json["sitters"][0]
    database.close()
    return {"sitter": found["id"], "plan": found["sequence_id"]}


def addressed(first: dict[str, str], path: str, told: dict[str, Any]) -> str:
    """The path with ids of the demo scenario in it, and no query."""
    found = {
        "zone": ZONES[0],
        "step": "s14",
        "number": "1",
        "reading": "1",
        "page": "1",
        "name": "thin-satin-2",
        "code": "0123456789",
        "exercise": "0123456789",
        "kind": "item",
        "key": "thin-satin-2",
    }
    found["id"] = first["plan" if path.startswith("/api/sequences") else "sitter"]
    for each in told.get("parameters", []):
        if each["in"] == "path":
            path = path.replace("{" + each["name"] + "}", found[each["name"]])
    return path


def answered(answer) -> None:
    """An answer, or a refusal that names the field, what was found and what is allowed."""
    assert answer.status_code < 500, answer.get_data(as_text=True)[:600]
    if answer.status_code >= 400:
        problem = answer.json
        assert set(problem) == {"field", "found", "allowed", "says"}
        assert all(isinstance(each, str) and each for each in (problem["field"], problem["allowed"], problem["says"]))
        assert len(problem["says"]) < 2000
    elif answer.mimetype == "application/json":
        json.loads(answer.get_data(as_text=True), parse_constant=_no_number)


def _no_number(text: str) -> float:
    raise AssertionError(f"{text} is no JSON")


@pytest.mark.parametrize(("method", "path", "told"), WITH_BODY, ids=[f"{m} {named(p)}" for m, p, _ in WITH_BODY])
def test_no_body_is_a_fault(demo_database, first, method, path, told):
    client = create_app(demo_database).test_client()
    address = addressed(first, path, told)
    schema = told["requestBody"]["content"]["application/json"]["schema"]

    @settings(
        max_examples=8,
        deadline=None,
        phases=[Phase.generate],
        suppress_health_check=[HealthCheck.too_slow, HealthCheck.data_too_large],
    )
    @given(bodies(schema))
    def ask(body: Any) -> None:
        answered(client.open(address, method=method.upper(), json=body))

    ask()


@pytest.mark.parametrize(("method", "path", "told"), ASKED, ids=[f"{m} {named(p)}" for m, p, _ in ASKED])
def test_no_address_or_query_is_a_fault(demo_database, first, method, path, told):
    """Ids that are none, and queries that are none; a body that is not JSON where one is asked for."""
    client = create_app(demo_database).test_client()
    own = addressed(first, path, told)
    hostile = ["nobody", "0", "-1", "%00", "..", "x" * 300, "9" * 40, "%E2%80%AE"]
    for parameter in told.get("parameters", []):
        for value in hostile:
            if parameter["in"] == "path":
                address = path.replace("{" + parameter["name"] + "}", value)
                answered(client.open(addressed(first, address, told), method=method.upper(), json={"revision": 1}))
            else:
                answered(client.open(f"{own}?{parameter['name']}={value}", method=method.upper(), json={"revision": 1}))
    for data, kind in [(b"{", "application/json"), (b"[]", "application/json"), (b"null", "application/json"),
                       (b"x", "text/plain"), (b"\xff\xfe\x00", "application/json"), (b"", "application/zip")]:  # fmt: skip
        answered(client.open(own, method=method.upper(), data=data, content_type=kind))
