"""The whole workspace exported as one zip, and imported: one at a time, through a file in the data folder that nobody else sees."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from contextlib import contextmanager
from dataclasses import replace
from tempfile import TemporaryFile
from typing import IO

from flask import Response, current_app, request, send_file
from sqlalchemy.orm import Session

from nabrel.core.errors import Refused
from nabrel.formats.workspace import (
    MOST_ZIP_BYTES,
    Counting,
    Counts,
    StoredPerson,
    Workspace,
    open_workspace,
    write_workspace_to,
)
from nabrel.store.damaged import left_out
from nabrel.store.folder import Unusable
from nabrel.store.house_rules import HouseRules
from nabrel.store.practice import Students
from nabrel.store.repositories import Kit, Sitters
from nabrel.store.sound import Damaged, noting_left_out
from nabrel.store.workspace import counted, gather_shared, replace_all, take_in_people
from nabrel.web.read import answers as wf
from nabrel.web.read import present as present_face
from nabrel.web.shared.requests import Endpoints, database, forget
from nabrel.web.shared.under_way import UnderWay, Work
from nabrel.web.shared.uploads import streamed_to

workspace = Endpoints("workspace", __name__, url_prefix="/api/workspace", tag="home")


@contextmanager
def _alone(what: Work) -> Iterator[tuple[IO[bytes], UnderWay]]:
    """A file of its own for one export or import, and the word of how far it has come."""
    way = under_way()
    with way.begin(what):
        # Personal, so it lies in the data folder, and is gone once it is closed: an export only after it was sent.
        file = TemporaryFile(dir=database().folder)  # noqa: SIM115
        try:
            yield file, way
        except BaseException:
            file.close()
            raise


def under_way() -> UnderWay:
    """What the application has under way with the workspace."""
    found: UnderWay = current_app.extensions["nabrel_under_way"]
    return found


@workspace.get("", operation_id="export_workspace", responses={200: None})
def get_workspace() -> Response:
    """Everything that is kept, as a zip that was read back before it is handed over."""
    with _alone("export") as (file, way):
        with database().session() as session:
            stored = _write(session, file, way)
        back, _, read = open_workspace(file)
        if Counting(back, way.follow(read)).to_the_end() != stored:
            raise Unusable(
                "The export could not be read back whole.", "Try again; a backup is whole: nabrel backup FILE."
            )
        file.seek(0)
        return send_file(file, "application/zip", as_attachment=True, download_name="nabrel-workspace.zip")


def _write(session: Session, file: IO[bytes], way: UnderWay) -> Counts:
    """Write everything; how much that was. Where something is damaged the rest is written, and that as it stands beside it."""
    with noting_left_out() as noted:
        try:
            shared, ids, people = gather_shared(session)
            # Each goes by twice: written, and read back.
            way.expect(2 * len(ids))
            write_workspace_to(file, shared, ids, way.follow(people))
            if not noted:
                return counted(session)
        except Damaged:
            pass
    file.seek(0)
    file.truncate()
    shared, ids, people = gather_shared(session, left_out(session))
    way.expect(len(ids))
    written = Counting(shared, way.follow(people))
    write_workspace_to(file, shared, ids, written)
    return written.counts


@workspace.get("/progress", operation_id="workspace_progress", responses={200: wf.ProgressWire})
def get_progress() -> wf.ProgressWire:
    """How far the export or import has come that is under way."""
    return _told(under_way())


@workspace.delete("/progress", operation_id="cancel_workspace", responses={200: wf.ProgressWire})
def delete_progress() -> wf.ProgressWire:
    """Cancel what is under way: its own request is then refused, and nothing is changed."""
    under_way().cancel()
    return _told(under_way())


@workspace.post("/preview", operation_id="preview_workspace", responses={200: wf.WorkspacePreviewWire})
def post_preview() -> wf.WorkspacePreviewWire:
    """What a workspace zip holds, and what would go for it; nothing is changed."""
    with _taken("preview") as (shared, people):
        comes = Counting(shared, people).to_the_end()
    with database().session() as session:
        goes = counted(session)
    return wf.WorkspacePreviewWire(comes=present_face.workspace(comes), goes=present_face.workspace(goes))


@workspace.put("", operation_id="import_workspace", responses={200: wf.WorkspaceWire})
def put_workspace() -> wf.WorkspaceWire:
    """Put a workspace zip in the place of everything that is kept: all of it, or nothing."""
    with _taken("import") as (shared, people):
        comes = Counting(shared, people)
        with database().session() as session:
            gone = [plan for stored in Sitters(session).all() for plan in stored.sequence_ids]
            replace_all(session, shared, comes)
            # All of it was read and is allowed, and nothing has gone for it yet: this is what would go.
            database().back_up("replace")
    database().checkpoint()
    forget(gone)
    return present_face.workspace(comes.counts)


@workspace.post("/people", operation_id="import_people", responses={200: wf.WorkspaceWire})
def post_people() -> wf.WorkspaceWire:
    """Add the sitters of a zip to those already here, with what they practised, and kit items that the shelf lacks."""
    with _taken("import") as (shared, people), database().session() as session:
        here = {stored.id: stored.sitter.nickname for stored in Sitters(session).all()}
        students = Students(session)
        practise = [each for each in shared.students if each.sitter is not None and not students.named(each.student)]
        comes = Counting(replace(shared, students=practise, sets=[]), _not_here(people, here))
        Kit(session).take_in(shared.kit)
        take_in_people(session, comes)
        for each in practise:
            students.bring(each)
        HouseRules(session).take_over_of(comes.counts.nicknames, shared.house.decisions)
    return present_face.workspace(comes.counts)


def _not_here(people: Iterable[StoredPerson], here: Mapping[str, str]) -> Iterator[StoredPerson]:
    for person in people:
        if person.id in here:
            raise Refused("sitters", here[person.id], "sitters who are not here already: erase this one first")
        yield person


@contextmanager
def _taken(what: Work) -> Iterator[tuple[Workspace, Iterator[StoredPerson]]]:
    """The zip that is sent, through a file: what all share in it, and its people as they are read."""
    request.max_content_length = MOST_ZIP_BYTES
    with _alone(what) as (file, way), file:
        streamed_to(file)
        shared, ids, people = open_workspace(file)
        way.expect(len(ids))
        yield shared, way.follow(people)


def _told(way: UnderWay) -> wf.ProgressWire:
    return wf.ProgressWire(what=way.progress.what, done=way.progress.done, of=way.progress.of)
