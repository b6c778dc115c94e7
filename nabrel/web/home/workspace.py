"""The whole workspace out as one zip, and back in: one at a time, through a file in the data folder that nobody else sees."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from tempfile import TemporaryFile
from threading import Lock
from typing import IO

from flask import Response, current_app, request, send_file
from flask_openapi3.blueprint import APIBlueprint
from flask_openapi3.models.tag import Tag

from nabrel.core.errors import Refused
from nabrel.formats.workspace import MOST_ZIP_BYTES, Counting, open_workspace, read_workspace, write_workspace_to
from nabrel.store.folder import Unusable
from nabrel.store.repositories import Kit, Sitters, forget_read
from nabrel.store.workspace import counted, gather_shared, replace_all, take_in_people
from nabrel.web.read import answers as wf
from nabrel.web.read import present as present_face
from nabrel.web.shared.remembered import Remembered
from nabrel.web.shared.requests import REFUSALS, database
from nabrel.web.shared.uploads import streamed_to

workspace = APIBlueprint(
    "workspace", __name__, url_prefix="/api/workspace", abp_tags=[Tag(name="home")], abp_responses=REFUSALS
)
_UNDER_WAY = Lock()


@contextmanager
def _alone() -> Iterator[IO[bytes]]:
    """A file of its own for one export or import; a second at the same time is refused, and may be tried again."""
    if not _UNDER_WAY.acquire(blocking=False):
        raise Unusable("Another export or import is under way.", "Wait until it has ended, then try again.")
    try:
        # Personal, so it lies in the data folder, and is gone once it is closed: an export only after it was sent.
        file = TemporaryFile(dir=database().folder)  # noqa: SIM115
        try:
            yield file
        except BaseException:
            file.close()
            raise
    finally:
        _UNDER_WAY.release()


@workspace.get("", operation_id="export_workspace", responses={200: None})
def get_workspace() -> Response:
    """Everything that is kept, as a zip that was read back before it is handed over."""
    with _alone() as file:
        with database().session() as session:
            write_workspace_to(file, *gather_shared(session))
            kept = counted(session)
        shared, people = open_workspace(file)
        if Counting(shared, people).to_the_end() != kept:
            raise Unusable(
                "The export could not be read back whole.", "Try again; a backup is whole: nabrel backup FILE."
            )
        file.seek(0)
        return send_file(file, "application/zip", as_attachment=True, download_name="nabrel-workspace.zip")


@workspace.post("/preview", operation_id="preview_workspace", responses={200: wf.WorkspacePreviewWire})
def post_preview() -> wf.WorkspacePreviewWire:
    """What a workspace zip holds, and what would go for it; nothing is changed."""
    with _taken() as file:
        comes = Counting(*open_workspace(file)).to_the_end()
    with database().session() as session:
        goes = counted(session)
    return wf.WorkspacePreviewWire(comes=present_face.workspace(comes), goes=present_face.workspace(goes))


@workspace.put("", operation_id="import_workspace", responses={200: wf.WorkspaceWire})
def put_workspace() -> wf.WorkspaceWire:
    """Put a workspace zip in the place of everything that is kept: all of it, or nothing."""
    with _taken() as file:
        shared, people = open_workspace(file)
        comes = Counting(shared, people)
        with database().session() as session:
            gone = [plan for kept in Sitters(session).all() for plan in kept.sequence_ids]
            replace_all(session, shared, comes)
            # All of it was read and is allowed, and nothing has gone for it yet: this is what would go.
            database().back_up("replace")
    database().checkpoint()
    forget_read()
    remembered: Remembered = current_app.extensions["nabrel_remembered"]
    remembered.forget(gone)
    return present_face.workspace(comes.counts)


@workspace.post("/people", operation_id="import_people", responses={200: wf.WorkspaceWire})
def post_people() -> wf.WorkspaceWire:
    """Add the sitters of a zip to those already here, with kit items that the shelf lacks."""
    with _taken() as file:
        held = read_workspace(file)
    with database().session() as session:
        here = {kept.id: kept.sitter.nickname for kept in Sitters(session).all()}
        for person in held.people:
            if person.id in here:
                raise Refused("sitters", here[person.id], "sitters who are not here already: erase this one first")
        Kit(session).take_in(held.kit)
        take_in_people(session, held.people)
    return present_face.workspace(Counting(held, held.people).to_the_end())


@contextmanager
def _taken() -> Iterator[IO[bytes]]:
    """The zip that is sent, in a file."""
    request.max_content_length = MOST_ZIP_BYTES
    with _alone() as file, file:
        streamed_to(file)
        yield file
