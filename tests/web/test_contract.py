"""A sample of the contract fuzzing of ``make torture``: calls drawn from the document, as everybody who may knock."""

from __future__ import annotations

import re
from collections import Counter

import pytest
import schemathesis
from hypothesis import HealthCheck, Phase, given, settings

from nabrel.store.accounts import Accounts
from nabrel.web.app import create_app
from tests.torture.contract import ENDS_IT
from tests.web.test_signing_in import PASSWORD, signed_in

NO_ROOM = (503, 507)
"""Answers of 500 and more that tell of no fault."""
MET = {"nobody": {200, 404, 422}, "unsigned": {401}, "student": {200, 403}, "educator": {200, 404, 422}}
"""What each must have met among others: something was let in, and something refused."""
METHODS = {"GET", "POST", "PUT", "DELETE", "PATCH"}
OPEN_TO_STUDENTS = "^/api/(drill/sessions|waiting)"
SOME = settings(
    max_examples=50, deadline=None, derandomize=True, database=None, phases=[Phase.generate], suppress_health_check=list(HealthCheck)
)  # fmt: skip
NAMES = {"student": "Ned", "educator": "Mira"}


@pytest.mark.parametrize("role", MET)
def test_no_call_of_the_document_fails_whoever_makes_it(demo_database, role):
    with demo_database.session() as session:
        for kind, name in NAMES.items():
            Accounts(session).add(name, kind, PASSWORD)
    app = create_app(demo_database, sign_in=role != "nobody")
    held = signed_in(app, NAMES[role])._cookies.values() if role in NAMES else ()
    cookies = {each.decoded_key: each.value for each in held}
    # The document is read where it is open to everybody; called is the application.
    schema = schemathesis.openapi.from_wsgi("/api/openapi.json", create_app(demo_database))
    schema.app = app
    if role in NAMES:
        schema = schema.exclude(operation_id=list(ENDS_IT))
    seen: Counter[int] = Counter()
    failed = []

    def call(case):
        answer = case.call(cookies=cookies)
        seen[answer.status_code] += 1
        if answer.status_code >= 500 and answer.status_code not in NO_ROOM:
            failed.append((case.method, case.formatted_path, answer.status_code))

    # Most is closed to students: what is open to them is called besides.
    for drawn in [schema, *([schema.include(path_regex=OPEN_TO_STUDENTS)] if role == "student" else [])]:
        SOME(given(case=drawn.as_strategy())(call))()
    assert failed == []
    assert {*seen} >= MET[role], seen


def test_every_address_refuses_other_methods_than_its_own_and_names_those(demo_database):
    """Also where its last part could be read as an id of something else."""
    client = create_app(demo_database).test_client()
    wrong, refused = [], 0
    for path, operations in client.get("/api/openapi.json").json["paths"].items():
        own = {each.upper() for each in operations} & METHODS
        asked = client.options(re.sub(r"\{\w+\}", "1", path))
        if {each.strip() for each in asked.headers.get("Allow", "").split(",")} & METHODS != own:
            wrong.append(("OPTIONS", path, asked.status_code, asked.headers.get("Allow")))
        for method in sorted(METHODS - own):
            answer = client.open(re.sub(r"\{\w+\}", "1", path), method=method)
            allowed = {each.strip() for each in answer.headers.get("Allow", "").split(",")} & METHODS
            refused += 1
            if (answer.status_code, allowed) != (405, own):
                wrong.append((method, path, answer.status_code, allowed))
    assert wrong == []
    assert refused > 300
