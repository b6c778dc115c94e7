"""The whole workspace out as one zip, and back in."""

from __future__ import annotations

from flask import Response, current_app, request
from flask_openapi3.blueprint import APIBlueprint
from flask_openapi3.models.tag import Tag

from nabrel.core.errors import Refused
from nabrel.formats.workspace import MOST_ZIP_BYTES, Workspace, read_workspace, write_workspace
from nabrel.store.repositories import Kit, Sitters, forget_read
from nabrel.store.workspace import gather, replace_all, take_in_people
from nabrel.web.read import answers as wf
from nabrel.web.read import present as present_face
from nabrel.web.shared.remembered import Remembered
from nabrel.web.shared.requests import REFUSALS, database, download
from nabrel.web.shared.uploads import taken_file

workspace = APIBlueprint(
    "workspace", __name__, url_prefix="/api/workspace", abp_tags=[Tag(name="home")], abp_responses=REFUSALS
)


@workspace.get("", operation_id="export_workspace", responses={200: None})
def get_workspace() -> Response:
    """Everything that is kept, as a zip."""
    with database().session() as session:
        held = gather(session)
    return download(write_workspace(held), "nabrel-workspace.zip", "application/zip")


@workspace.post("/preview", operation_id="preview_workspace", responses={200: wf.WorkspacePreviewWire})
def post_preview() -> wf.WorkspacePreviewWire:
    """What a workspace zip holds, and what would go for it; nothing is changed."""
    comes = _taken()
    with database().session() as session:
        goes = gather(session)
    return wf.WorkspacePreviewWire(comes=present_face.workspace(comes), goes=present_face.workspace(goes))


@workspace.put("", operation_id="import_workspace", responses={200: wf.WorkspaceWire})
def put_workspace() -> wf.WorkspaceWire:
    """Put a workspace zip in the place of everything that is kept: all of it, or nothing."""
    held = _taken()
    database().back_up("replace")
    with database().session() as session:
        gone = [plan for kept in Sitters(session).all() for plan in kept.sequence_ids]
        replace_all(session, held)
    database().checkpoint()
    forget_read()
    remembered: Remembered = current_app.extensions["nabrel_remembered"]
    remembered.forget(gone)
    return present_face.workspace(held)


@workspace.post("/people", operation_id="import_people", responses={200: wf.WorkspaceWire})
def post_people() -> wf.WorkspaceWire:
    """Add the sitters of a zip to those already here, with kit items that the shelf lacks."""
    held = _taken()
    with database().session() as session:
        here = {kept.id: kept.sitter.nickname for kept in Sitters(session).all()}
        for person in held.people:
            if person.id in here:
                raise Refused("sitters", here[person.id], "sitters who are not here already: erase this one first")
        Kit(session).take_in(held.kit)
        take_in_people(session, held.people)
    return present_face.workspace(held)


def _taken() -> Workspace:
    request.max_content_length = MOST_ZIP_BYTES
    return read_workspace(taken_file())
