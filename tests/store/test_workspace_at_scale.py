"""A zip keeps every kit once, reads what the first layout wrote, and is not fooled by what a zip says of itself."""

from __future__ import annotations

import io
import zipfile
from dataclasses import replace

import pytest

from nabrel.core.errors import Refused
from nabrel.formats import workspace as module
from nabrel.formats.workspace import MADE_WITH, read_workspace, write_workspace
from nabrel.store.repositories import Sequences, Sitters
from nabrel.store.workspace import gather
from nabrel.web.app import create_app
from nabrel.web.home import workspace as web


@pytest.fixture
def held(demo_database):
    with demo_database.session() as session:
        for stored in Sitters(session).all()[:3]:
            sequences = Sequences(session)
            sequence = sequences.get(stored.sequence_ids[0]).sequence
            for turn in range(4):
                sequence = replace(sequence, title=f"Turn {turn}")
                sequences.save(stored.sequence_ids[0], turn + 1, sequence, f"Turn {turn}")
        return gather(session)


def names(data: bytes) -> list[str]:
    return zipfile.ZipFile(io.BytesIO(data)).namelist()


def test_a_kit_is_kept_once_whatever_number_of_revisions_was_made_with_it(held):
    data = write_workspace(held)
    kits = {sequence.case.kit for person in held.people for stored in person.plans for sequence in stored.sequences}
    assert len([name for name in names(data) if name.startswith(MADE_WITH)]) == len(kits)
    assert len(names(data)) == len(set(names(data)))
    sizes = [
        entry.file_size for entry in zipfile.ZipFile(io.BytesIO(data)).infolist() if "sequence.json" in entry.filename
    ]
    assert len(sizes) >= 20
    assert max(sizes) < 60_000
    assert read_workspace(data) == held
    assert read_workspace(io.BytesIO(data)) == held


def test_revisions_that_hold_their_own_kit_are_read_as_before(held):
    """As version 1 of a plan wrote them."""
    source = zipfile.ZipFile(io.BytesIO(write_workspace(held)))
    from nabrel.formats.files import SequenceFile

    whole = {}
    for person in held.people:
        for stored in person.plans:
            for row, sequence in zip(stored.plan.revisions, stored.sequences, strict=True):
                name = f"sitters/{person.id}/plans/{stored.plan.id}/{row.number:05d}.sequence.json"
                whole[name] = SequenceFile.of(sequence).model_dump_json(exclude_none=True).encode()
    out, changed = io.BytesIO(), 0
    with zipfile.ZipFile(out, "w") as older:
        for name in source.namelist():
            text = whole.get(name, source.read(name))
            if name.endswith("/plan.json"):
                lines = [line for line in text.decode().splitlines() if '"kit":' not in line]
                text = "\n".join(lines).replace('"version": 2', '"version": 1').replace('",\n  }', '"\n  }').encode()
                text = __import__("re").sub(rb",(\s*[}\]])", rb"\1", text)
                changed += 1
            if not name.startswith(MADE_WITH):
                older.writestr(name, text)
    assert changed >= 8
    assert read_workspace(out.getvalue()) == held


def test_a_kit_that_is_missing_or_wrong_is_named(held):
    source = zipfile.ZipFile(io.BytesIO(write_workspace(held)))
    kit = next(name for name in source.namelist() if name.startswith(MADE_WITH))

    def changed(change):
        out = io.BytesIO()
        with zipfile.ZipFile(out, "w") as wrong:
            for name in source.namelist():
                text = source.read(name)
                text = change(text) if name == kit else text
                if text is not None:
                    wrong.writestr(name, text)
        return out.getvalue()

    with pytest.raises(Refused, match=kit):
        read_workspace(changed(lambda text: None))
    with pytest.raises(Refused, match=rf"{kit}.*items\[\d+\]"):
        read_workspace(changed(lambda text: text.replace(b'"cover": 0.', b'"cover": 7.', 1)))


def test_no_more_of_a_file_is_unpacked_than_it_may_hold(held, monkeypatch):
    monkeypatch.setattr(module, "MOST_FILE_BYTES", 5_000)
    with pytest.raises(Refused, match="at most 5,000 bytes in a file"):
        read_workspace(write_workspace(held))


def _lying_in(folder):
    """The files of a data folder, but for what SQLite lays beside an open database."""
    return {file.name for file in folder.iterdir() if not file.name.endswith(("-wal", "-shm"))}


class TestOverHttp:
    def test_one_export_or_import_runs_at_a_time_and_leaves_no_file(self, demo_database):
        app = create_app(demo_database)
        client = app.test_client()
        before = _lying_in(demo_database.folder)
        data = client.get("/api/workspace").data
        with app.extensions["nabrel_under_way"].begin("export"):
            asked = [
                client.get("/api/workspace"),
                client.post("/api/workspace/preview", data=data, content_type="application/zip"),
                client.put("/api/workspace", data=data, content_type="application/zip"),
            ]
            assert client.get("/api/sitters").status_code == 200
        assert [answer.status_code for answer in asked] == [503] * 3
        assert all("under way" in answer.json["says"] for answer in asked)
        assert client.post("/api/workspace/preview", data=data, content_type="application/zip").status_code == 200
        assert client.post("/api/workspace/preview", data=b"no zip", content_type="application/zip").status_code == 422
        assert client.get("/api/workspace").data == data
        assert _lying_in(demo_database.folder) == before

    def test_what_is_exported_counts_as_what_is_kept_and_comes_back_the_same(self, held, demo_database):
        client = create_app(demo_database).test_client()
        data = client.get("/api/workspace").data
        told = client.post("/api/workspace/preview", data=data, content_type="application/zip").json
        assert told["comes"] == told["goes"]
        assert told["comes"]["revisions"] >= 20
        assert client.put("/api/workspace", data=data, content_type="application/zip").json == told["comes"]
        assert client.get("/api/workspace").data == data

    def test_an_export_that_does_not_read_back_is_not_handed_over(self, demo_database, monkeypatch):
        client = create_app(demo_database).test_client()
        monkeypatch.setattr(web, "counted", lambda session: None)
        answer = client.get("/api/workspace")
        assert answer.status_code == 503
        assert "could not be read back" in answer.json["says"]
