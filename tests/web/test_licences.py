"""Every licence of what ships is named, and its words come along."""

from __future__ import annotations

from importlib import metadata

from packaging.requirements import Requirement

from nabrel.web.app import create_app
from nabrel.web.home.licences import shipped


def test_all_that_the_server_needs_is_named_with_its_licence(database):
    parts = {each.name.casefold(): each for each in shipped()}
    needed = [Requirement(each) for each in metadata.requires("nabrel") or ()]
    names = {each.name.casefold() for each in needed if each.marker is None or each.marker.evaluate({"extra": "all"})}
    own = sorted(names - {"nabrel"})
    assert len(own) > 18, "what the core and the application ask for themselves"
    assert [name for name in own if name not in parts] == []
    assert {"nabrel", "python", "click", "werkzeug"} <= set(parts), "what packages need in turn, and Python itself"
    assert [each.name for each in parts.values() if not each.licence or "\n" in each.licence] == []
    about = create_app(database).test_client().get("/api/about").json
    assert [each["name"] for each in about["parts"]] == [each.name for each in shipped()]


def test_the_file_of_licences_holds_their_words(database):
    answer = create_app(database).test_client().get("/api/licences")
    assert answer.status_code == 200
    assert "attachment" in answer.headers["Content-Disposition"]
    text = answer.get_data(as_text=True)
    silent = [each.name for each in shipped() if each.text and each.text not in text]
    assert silent == []
    told = [each for each in shipped() if each.text]
    assert len(told) > 0.7 * len(shipped())
    assert "Copyright (c) 2026 the makers of Nabrel" in text
