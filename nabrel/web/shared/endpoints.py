"""What an endpoint asks for and answers is its signature: read from the request, checked, written as JSON, and described.

An endpoint takes ``path`` and ``query`` (models whose fields stand in the address) and ``body`` (a model, or any value of the core),
and returns a model, a value of the core, or a finished response. Nothing of it is said a second time.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from functools import cached_property, wraps
from typing import Any, TypeVar, get_type_hints

from flask import Blueprint, Response, request
from pydantic import BaseModel, TypeAdapter, ValidationError

from nabrel.formats.refusing import refusal
from nabrel.formats.values import value_from_text

View = TypeVar("View", bound=Callable[..., Any])


@dataclass(frozen=True)
class Operation:
    """One endpoint: its method and address, by which name programs know it, and the function that answers."""

    method: str
    address: str
    name: str
    tag: str
    status: int
    function: Callable[..., Any]

    @cached_property
    def hints(self) -> dict[str, Any]:
        """What is asked for, and under ``return`` what is answered."""
        return get_type_hints(self.function, include_extras=True)

    @cached_property
    def _lists(self) -> frozenset[str]:
        """The fields of the query that may stand there more than once."""
        fields = self.hints["query"].model_fields
        return frozenset(
            name for name, field in fields.items() if re.search(r"\b(list|tuple)\[", str(field.annotation))
        )

    @cached_property
    def _writer(self) -> TypeAdapter[Any]:
        return TypeAdapter(self.hints["return"])

    def answer(self, in_path: dict[str, str]) -> Response:
        """Answer the request. Raises Refused where what it asks for is not allowed."""
        try:
            given = dict(self._given(in_path))
        except ValidationError as error:
            raise refusal(error, "request") from None
        answer = self.function(**given)
        if isinstance(answer, Response):
            return answer
        return Response(self._writer.dump_json(answer), status=self.status, mimetype="application/json")

    def _given(self, in_path: dict[str, str]) -> Iterator[tuple[str, Any]]:
        if "path" in self.hints:
            yield "path", self.hints["path"].model_validate(in_path)
        if "query" in self.hints:
            found = {
                name: request.args.getlist(name) if name in self._lists else text for name, text in request.args.items()
            }
            yield "query", self.hints["query"].model_validate(found)
        if "body" in self.hints:
            kind, text = self.hints["body"], request.get_data()
            model = isinstance(kind, type) and issubclass(kind, BaseModel)
            yield "body", kind.model_validate_json(text) if model else value_from_text(kind, text, "body")


class Endpoints:
    """Endpoints that belong together."""

    def __init__(self, name: str, import_name: str, *, url_prefix: str, tag: str) -> None:
        self.blueprint = Blueprint(name, import_name, url_prefix=url_prefix)
        self.operations: list[Operation] = []
        self._prefix, self._tag = url_prefix, tag

    def _of(self, method: str, address: str, name: str, status: int) -> Callable[[View], View]:
        def declared(function: View) -> View:
            operation = Operation(method, self._prefix + address, name, self._tag, status, function)

            @wraps(function)
            def view(**in_path: str) -> Response:
                return operation.answer(in_path)

            self.operations.append(operation)
            self.blueprint.add_url_rule(address, function.__name__, view, methods=[method])
            return function

        return declared

    def get(self, address: str, name: str, status: int = 200) -> Callable[[View], View]:
        """Declare what answers a GET."""
        return self._of("GET", address, name, status)

    def post(self, address: str, name: str, status: int = 200) -> Callable[[View], View]:
        """Declare what answers a POST."""
        return self._of("POST", address, name, status)

    def put(self, address: str, name: str, status: int = 200) -> Callable[[View], View]:
        """Declare what answers a PUT."""
        return self._of("PUT", address, name, status)

    def delete(self, address: str, name: str, status: int = 200) -> Callable[[View], View]:
        """Declare what answers a DELETE."""
        return self._of("DELETE", address, name, status)
