"""Write the OpenAPI document: ``python -m nabrel.web.openapi_build``. TypeScript types are generated from it."""

from __future__ import annotations

import json
import re
from collections.abc import Iterable
from http import HTTPStatus
from inspect import getdoc
from typing import Any

from flask import Response
from pydantic import TypeAdapter
from pydantic.json_schema import GenerateJsonSchema, JsonSchemaMode

from nabrel import __version__
from nabrel.formats.schemas_build import whole
from nabrel.web.app import DOCUMENT, ROOMS
from nabrel.web.shared.endpoints import Operation
from nabrel.web.shared.signing_in import COOKIE
from nabrel.web.shared.uploads import UPLOADS
from nabrel.web.shared.wire import Problem

REF = "#/components/schemas/"
REFUSALS = (401, 403, 404, 405, 409, 413, 415, 421, 422, 429, 503, 507)
"""How any endpoint may refuse: each with a :class:`Problem`."""
MODES: dict[str, JsonSchemaMode] = {
    "path": "validation",
    "query": "validation",
    "body": "validation",
    "return": "serialization",
}


class WireSchema(GenerateJsonSchema):
    """Schemas as other programs read them: an answer holds all its fields, tuples are arrays of their one kind."""

    def field_is_required(self, field: Any, total: bool) -> bool:  # noqa: D102 - as its base
        literal = field["schema"].get("schema", {}).get("expected", ())
        # What tells kinds apart is required, too.
        return self.mode == "serialization" or len(literal) == 1 or super().field_is_required(field, total)

    def tuple_schema(self, schema: Any) -> dict[str, Any]:  # noqa: D102 - as its base
        found = super().tuple_schema(schema)
        if "prefixItems" in found:
            found["items"] = _any_of(found.pop("prefixItems"))
        return found


def _any_of(kinds: list[dict[str, Any]]) -> dict[str, Any]:
    """What fits any of these schemas: numbers within the widest of their limits, else one of them."""
    unlike = [each for place, each in enumerate(kinds) if each not in kinds[:place]]
    if len(unlike) == 1:
        return unlike[0]
    if {each.get("type") for each in unlike} != {"number"}:
        return {"anyOf": unlike}
    found: dict[str, Any] = {"type": "number"}
    for limit, widest in (("minimum", min), ("maximum", max)):
        if all(limit in each for each in unlike):
            found[limit] = widest(each[limit] for each in unlike)
    return found


class Schemas:
    """The schemas of all that operations ask for and answer, each kind once.

    Of a kind that is both asked for and answered, and reads otherwise where it is asked for (fields may be left out), that one has
    ``Input`` behind its name.
    """

    def __init__(self, operations: Iterable[Operation]) -> None:
        kinds = {repr(kind): kind for each in operations for kind in (*each.hints.values(), Problem)}
        wanted = {
            (repr(kind), MODES[part])
            for each in operations
            for part, kind in each.hints.items()
            if kind is not Response
        }
        wanted.add((repr(Problem), "serialization"))
        self._by_kind, found = TypeAdapter.json_schemas(
            [(key, mode, TypeAdapter(kinds[key])) for key, mode in sorted(wanted)],
            ref_template=REF + "{model}", schema_generator=WireSchema,
        )  # fmt: skip
        self.components = self._named(found["$defs"])
        # Two kinds of one name would be called by their modules.
        assert not [name for name in self.components if "__" in name], sorted(self.components)

    def of(self, kind: Any, mode: JsonSchemaMode) -> dict[str, Any]:
        """The schema of a kind: a reference where it has a name."""
        found: dict[str, Any] = self._named(self._by_kind[repr(kind), mode])
        return found

    def taken(self, kind: Any) -> dict[str, Any]:
        """The schema of a model whose fields stand by themselves in an address."""
        found: dict[str, Any] = self.components[self.of(kind, "validation")["$ref"].removeprefix(REF)]
        return found

    def _named(self, node: Any) -> Any:
        if isinstance(node, list):
            return [self._named(each) for each in node]
        if isinstance(node, dict):
            return {_name(key): self._named(value) for key, value in node.items()}
        return _name(node) if isinstance(node, str) and node.startswith(REF) else node


def _name(text: str) -> str:
    return re.sub("-Output$", "", re.sub("-Input$", "Input", text))


def described(operation: Operation, schemas: Schemas) -> dict[str, Any]:
    """One operation, as OpenAPI has it."""
    hints = operation.hints
    summary, _, more = (getdoc(operation.function) or "").partition("\n\n")
    found: dict[str, Any] = {
        "operationId": operation.name,
        "summary": " ".join(summary.split()),
        "tags": [operation.tag],
    }
    if more:
        found["description"] = " ".join(more.split())
    fields = [
        {"in": place, "name": name, "required": name in schema.get("required", []), "schema": field}
        for place in ("path", "query") if place in hints
        for schema in [schemas.taken(hints[place])]
        for name, field in schema["properties"].items()
    ]  # fmt: skip
    if fields:
        found["parameters"] = fields
    upload = UPLOADS.get(operation.address)
    if "body" in hints:
        found["requestBody"] = {"required": True, "content": _json(schemas.of(hints["body"], "validation"))}
    elif upload is not None and operation.method in ("POST", "PUT"):
        found["requestBody"] = {"required": True, "content": dict.fromkeys(upload.kinds, _BYTES)}
    problem = _json(schemas.of(Problem, "serialization"))
    answers = {} if hints["return"] is Response else {"content": _json(schemas.of(hints["return"], "serialization"))}
    found["responses"] = {
        str(operation.status): {"description": HTTPStatus(operation.status).phrase, **answers},
        **{str(code): {"description": HTTPStatus(code).phrase, "content": problem} for code in REFUSALS},
    }
    return found


_BYTES: dict[str, Any] = {"schema": {"type": "string", "format": "binary"}}


def _json(schema: dict[str, Any]) -> dict[str, Any]:
    return {"application/json": {"schema": schema}}


def document_text() -> str:
    """The OpenAPI document of the application as it stands."""
    operations = [each for room in ROOMS for each in room.operations]
    schemas = Schemas(operations)
    paths: dict[str, dict[str, Any]] = {}
    for each in operations:
        paths.setdefault(re.sub(r"<(?:\w+:)?(\w+)>", r"{\1}", each.address), {})[each.method.lower()] = described(
            each, schemas
        )
    in_addresses = {
        each.hints[place].__name__ for each in operations for place in ("path", "query") if place in each.hints
    }
    found = {
        "openapi": "3.1.0",
        "info": {"title": "Nabrel", "version": __version__},
        # A server on its own machine demands no sign-in.
        "security": [{"session": []}, {}],
        "tags": [{"name": name} for name in dict.fromkeys(each.tag for each in operations)],
        "paths": paths,
        "components": {
            "schemas": {name: schema for name, schema in schemas.components.items() if name not in in_addresses},
            "securitySchemes": {"session": {"type": "apiKey", "in": "cookie", "name": COOKIE}},
        },
    }
    return json.dumps(whole(found), indent=1, sort_keys=True, ensure_ascii=False) + "\n"


if __name__ == "__main__":
    DOCUMENT.write_text(document_text(), encoding="utf-8")
