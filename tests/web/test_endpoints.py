"""What an endpoint asks for and answers is its signature."""

from __future__ import annotations

import json
from dataclasses import dataclass
from typing import Annotated

import pytest
from flask import Flask
from pydantic import BaseModel, Field, TypeAdapter

from nabrel.core.terms.rounding import Rounded
from nabrel.web.openapi_build import Schemas, WireSchema, described
from nabrel.web.shared import failures
from nabrel.web.shared.endpoints import Endpoints


@dataclass(frozen=True)
class Drop:
    """A value of the core: part of what is asked for, and of what is answered."""

    ml: Annotated[float, Field(ge=0, le=5), Rounded(1)]
    zones: tuple[str, ...] = ()
    tint: str | None = None


@dataclass(frozen=True)
class Well:
    drops: tuple[Drop, ...]
    total_ml: Annotated[float, Rounded(2)]


class WellPath(BaseModel):
    id: Annotated[str, Field(max_length=8)]


class WellQuery(BaseModel):
    of: list[str] = []
    most: Annotated[int, Field(ge=1, le=9)] = 3


wells = Endpoints("wells", __name__, url_prefix="/api", tag="well")


@wells.put("/wells/<id>", "drop_into", 201)
def put_well(path: WellPath, query: WellQuery, body: Drop) -> Well:
    """Drop something into a well.

    As often as is liked.
    """
    zones = (path.id, *query.of)[: query.most]
    return Well((body, Drop(0.123, zones)), body.ml + 0.1234)


@pytest.fixture(scope="module")
def wells_client():
    app = Flask("wells")
    app.register_blueprint(wells.blueprint)
    failures.install(app)
    return app.test_client()


def test_what_stands_in_address_and_body_comes_in_and_a_value_goes_out_rounded(wells_client):
    answer = wells_client.put("/api/wells/a?of=b&of=c&unknown=1", json={"ml": 2.25})
    assert answer.status_code == 201
    assert answer.json == {
        "drops": [{"ml": 2.2, "zones": [], "tint": None}, {"ml": 0.1, "zones": ["a", "b", "c"], "tint": None}],
        "total_ml": 2.37,
    }


@pytest.mark.parametrize(
    ("address", "body", "field"),
    [
        ("/api/wells/a", '{"ml": 9}', "ml"),
        ("/api/wells/a", '{"ml": "2"}', "ml"),
        ("/api/wells/a", '{"ml": NaN}', "ml"),
        ("/api/wells/a", '{"ml": 1, "mm": 2}', "mm"),
        ("/api/wells/a", "{}", "ml"),
        ("/api/wells/a", "[]", "body"),
        ("/api/wells/a", "null", "body"),
        ("/api/wells/a", "{", "request"),
        ("/api/wells/a?most=0", '{"ml": 1}', "most"),
        ("/api/wells/a?most=x", '{"ml": 1}', "most"),
        ("/api/wells/much-too-long", '{"ml": 1}', "id"),
    ],
)
def test_what_is_not_allowed_is_refused_by_its_field(wells_client, address, body, field):
    answer = wells_client.put(address, data=body, content_type="application/json")
    assert answer.status_code == 422
    assert answer.json["field"] == field
    assert answer.json["allowed"]


def test_the_signature_is_the_description():
    (operation,) = wells.operations
    schemas = Schemas([operation])
    found = json.loads(json.dumps(described(operation, schemas)))
    assert (found["operationId"], found["summary"]) == ("drop_into", "Drop something into a well.")
    assert found["description"] == "As often as is liked."
    assert [(each["in"], each["name"], each["required"]) for each in found["parameters"]] == [
        ("path", "id", True),
        ("query", "of", False),
        ("query", "most", False),
    ]
    asked = found["requestBody"]["content"]["application/json"]["schema"]["$ref"].rpartition("/")[2]
    answered = found["responses"]["201"]["content"]["application/json"]["schema"]["$ref"].rpartition("/")[2]
    assert schemas.components[asked]["required"] == ["ml"]
    assert schemas.components[asked]["properties"]["ml"]["maximum"] == 5
    # An answer holds all its fields, also those that may be left out where they are asked for.
    assert schemas.components[answered]["required"] == ["drops", "total_ml"]
    assert (asked, answered) == ("DropInput", "Well")
    assert schemas.components["Drop"]["required"] == ["ml", "zones", "tint"]


@dataclass(frozen=True)
class Pair:
    hues: tuple[Annotated[float, Field(ge=0, le=360)], Annotated[float, Field(ge=0, le=100)]]
    kind: tuple[str, int]


def test_tuples_are_described_as_arrays_of_what_fits_any_of_their_kinds():
    found = TypeAdapter(Pair).json_schema(schema_generator=WireSchema)["properties"]
    assert found["hues"]["items"] == {"type": "number", "minimum": 0, "maximum": 360}
    assert found["kind"]["items"] == {"anyOf": [{"type": "string"}, {"type": "integer"}]}
