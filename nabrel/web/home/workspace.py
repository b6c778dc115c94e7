"""The whole workspace exported as one zip, and imported: one at a time, through a file in the data folder that nobody else sees."""

from __future__ import annotations

import os
from collections.abc import Iterable, Iterator, Mapping
from contextlib import contextmanager
from dataclasses import replace
from pathlib import Path
from tempfile import mkstemp
from typing import IO

from flask import Response, current_app, send_file
from sqlalchemy import select
from sqlalchemy.orm import Session

from nabrel.core.errors import Refused
from nabrel.formats.workspace import (
    Counting,
    Counts,
    StoredPerson,
    Workspace,
    open_workspace,
    write_workspace_to,
)
from nabrel.store import backup
from nabrel.store.damaged import left_out
from nabrel.store.database import SENT, joined
from nabrel.store.folder import FILE_NAME, Unusable
from nabrel.store.house_rules import HouseRules
from nabrel.store.practice import Students
from nabrel.store.repositories import Kit, Sitters
from nabrel.store.sound import Damaged, noting_left_out
from nabrel.store.tables import SequenceRow
from nabrel.store.workspace import counted, gather_shared, replace_all, take_in_people
from nabrel.web.read import answers as wf
from nabrel.web.read import present as present_face
from nabrel.web.shared.endpoints import Endpoints
from nabrel.web.shared.requests import database, forget, heavy
from nabrel.web.shared.under_way import ProgressReport, UnderWay, Work, WorkProgress, follow
from nabrel.web.shared.uploads import streamed_to

workspace = Endpoints("workspace", __name__, url_prefix="/api/workspace", tag="home")


@contextmanager
def _alone(what: Work) -> Iterator[tuple[Path, UnderWay]]:
    """A file of its own for one export or import, and the word of how far it has come; the file is gone at the end."""
    way = under_way()
    with way.begin(what):
        # Personal, so it lies in the data folder, for its owner alone.
        handle, name = mkstemp(".zip", SENT, database().folder)
        os.close(handle)
        try:
            yield Path(name), way
        finally:
            Path(name).unlink(missing_ok=True)


def under_way() -> UnderWay:
    """What the application has under way with the workspace."""
    found: UnderWay = current_app.extensions["nabrel_under_way"]
    return found


@workspace.get("", "export_workspace")
def get_workspace() -> Response:
    """Everything that is kept, as a zip that was read back before it is handed over."""
    with _alone("export") as (path, way):
        heavy("export", _export, database().folder, path, way=way)
        # It is gone from the folder at once, and from the disk when it was sent.
        return send_file(path.open("rb"), "application/zip", as_attachment=True, download_name="nabrel-workspace.zip")


def _export(folder: Path, path: Path, step: ProgressReport) -> None:
    """Write everything to a file, and read it back."""
    with path.open("w+b") as file:
        with joined(folder) as session:
            stored = _write(session, file, step)
        back, _, read = open_workspace(file)
        if Counting(back, follow(read, step)).to_the_end() != stored:
            raise Unusable(
                "The export could not be read back whole.", "Try again; a backup is whole: nabrel backup FILE."
            )


def _write(session: Session, file: IO[bytes], step: ProgressReport) -> Counts:
    """Write everything; how much that was. Where something is damaged the rest is written, and that as it stands beside it."""
    with noting_left_out() as noted:
        try:
            shared, ids, people = gather_shared(session)
            # Each goes by twice: written, and read back.
            step(of=2 * len(ids))
            write_workspace_to(file, shared, ids, follow(people, step))
            if not noted:
                return counted(session)
        except Damaged:
            pass
    file.seek(0)
    file.truncate()
    shared, ids, people = gather_shared(session, left_out(session))
    step(of=len(ids))
    written = Counting(shared, follow(people, step))
    write_workspace_to(file, shared, ids, written)
    return written.counts


@workspace.get("/progress", "workspace_progress")
def get_progress() -> WorkProgress:
    """How far the export or import has come that is under way."""
    return under_way().progress


@workspace.delete("/progress", "cancel_workspace")
def delete_progress() -> WorkProgress:
    """Cancel what is under way: its own request is then refused, and nothing is changed."""
    under_way().cancel()
    return under_way().progress


@workspace.post("/preview", "preview_workspace")
def post_preview() -> wf.WorkspacePreviewWire:
    """What a workspace zip holds, and what would go for it; nothing is changed."""
    with _taken("preview") as (path, way):
        comes = heavy("preview", _look_into, path, way=way)
    with database().session() as session:
        goes = counted(session)
    return wf.WorkspacePreviewWire(comes=present_face.workspace(comes), goes=present_face.workspace(goes))


def _look_into(path: Path, step: ProgressReport) -> Counts:
    with _opened(path, step) as (shared, people):
        return Counting(shared, people).to_the_end()


@workspace.put("", "import_workspace")
def put_workspace() -> wf.WorkspaceWire:
    """Put a workspace zip in the place of everything that is kept: all of it, or nothing."""
    with _taken("import") as (path, way):
        counts, gone = heavy("import", _replace, database().folder, path, way=way)
    database().checkpoint()
    forget(gone)
    return present_face.workspace(counts)


def _replace(folder: Path, path: Path, step: ProgressReport) -> tuple[Counts, list[str]]:
    """Put a zip in the place of everything; how much came, and the ids of the plans that went."""
    with _opened(path, step) as (shared, people):
        comes = Counting(shared, people)
        with joined(folder) as session:
            gone = list(session.scalars(select(SequenceRow.id)))
            replace_all(session, shared, comes)
            # All of it was read and is allowed, and nothing has gone for it yet: this is what would go.
            backup.automatic(folder / FILE_NAME, "replace")
    return comes.counts, gone


@workspace.post("/people", "import_people")
def post_people() -> wf.WorkspaceWire:
    """Add the sitters of a zip to those already here, with what they practised, and kit items that the shelf lacks."""
    with _taken("import") as (path, way):
        counts = heavy("import", _add, database().folder, path, way=way)
    return present_face.workspace(counts)


def _add(folder: Path, path: Path, step: ProgressReport) -> Counts:
    with _opened(path, step) as (shared, people), joined(folder) as session:
        here = {stored.id: stored.sitter.nickname for stored in Sitters(session).all()}
        students = Students(session)
        practise = [each for each in shared.students if each.sitter is not None and not students.named(each.student)]
        comes = Counting(replace(shared, students=practise, sets=[]), _not_here(people, here))
        Kit(session).take_in(shared.kit)
        take_in_people(session, comes)
        for each in practise:
            students.bring(each)
        HouseRules(session).take_over_of(comes.counts.nicknames, shared.house.decisions)
    return comes.counts


def _not_here(people: Iterable[StoredPerson], here: Mapping[str, str]) -> Iterator[StoredPerson]:
    for person in people:
        if person.id in here:
            raise Refused("sitters", here[person.id], "sitters who are not here already: erase this one first")
        yield person


@contextmanager
def _taken(what: Work) -> Iterator[tuple[Path, UnderWay]]:
    """The zip that is sent, in a file."""
    with _alone(what) as (path, way):
        with path.open("wb") as file:
            streamed_to(file)
        yield path, way


@contextmanager
def _opened(path: Path, step: ProgressReport) -> Iterator[tuple[Workspace, Iterator[StoredPerson]]]:
    """What all share in a zip, and its people as they are read."""
    with path.open("rb") as file:
        shared, ids, people = open_workspace(file)
        if ids:
            step(of=len(ids))
        yield shared, follow(people, step)
