"""Lists and searches in a workspace of a busy school: 200 sitters, 2,000 plans of 4 revisions each."""

from __future__ import annotations

import json
import resource
import statistics
import tempfile
import time
from pathlib import Path

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from bench.timing import Figure, times
from nabrel.demo.fill import fill
from nabrel.store.database import FILE_NAME, Database
from nabrel.store.tables import RevisionRow, SequenceRow, SitterRow
from nabrel.web.app import create_app

SITTERS, PLANS, REVISIONS = 200, 2000, 4


def grow(session: Session, people: int = SITTERS, all_plans: int = PLANS, revisions: int = REVISIONS) -> None:
    """Copy the demo's sitters and plans until there are as many, by default as a busy school has."""
    sitters = session.scalars(select(SitterRow)).all()
    plans = session.scalars(select(SequenceRow)).all()
    kits = {
        plan.id: session.scalars(select(RevisionRow).where(RevisionRow.sequence_id == plan.id)).first()
        for plan in plans
    }
    for place in range(people - len(sitters)):
        own = sitters[place % len(sitters)]
        session.add(
            SitterRow(
                id=f"more{place}", nickname=f"{own.nickname} {place}", position=100 + place,
                sitter=json.dumps({**json.loads(own.sitter), "nickname": f"{own.nickname} {place}"}),
                intent=own.intent, created_at=own.created_at, changed_at=own.changed_at, version=1,
            )
        )  # fmt: skip
    session.flush()
    owners = session.scalars(select(SitterRow.id)).all()
    for place in range(all_plans - len(plans)):
        plan = plans[place % len(plans)]
        first = kits[plan.id]
        assert first is not None
        sequence = f"plan{place}"
        session.add(
            SequenceRow(
                id=sequence, sitter_id=owners[place % len(owners)], title=plan.title, school=plan.school, head=revisions,
                created_at=plan.created_at, changed_at=plan.changed_at,
            )
        )  # fmt: skip
        for number in range(1, revisions + 1):
            session.add(
                RevisionRow(
                    sequence_id=sequence, number=number, parent=number - 1 or None, says="Planned", document=first.document,
                    kit=first.kit, created_at=first.created_at,
                )
            )  # fmt: skip


def at_scale() -> list[Figure]:
    """The list of sitters, a plan's versions and a face, and what a revision takes on the disk."""
    with tempfile.TemporaryDirectory() as folder:
        database = Database(Path(folder))
        fill(database)
        with database.session() as session:
            grow(session)
        client = create_app(database).test_client()
        asked = {
            "the list of 200 sitters with 2,000 plans": "/api/sitters",
            "the versions of one of 2,000 plans": "/api/sequences/plan7/versions",
            "one of 200 sitters, opened": "/api/sitters/more7",
        }
        found = []
        for what, address in asked.items():
            answer = client.get(address)
            assert answer.status_code == 200, (address, answer.status_code)
            found.append(Figure(what, statistics.median(times(lambda at=address: client.get(at), 30)), 50))  # type: ignore[misc]
        start = time.perf_counter()
        answer = client.get("/api/workspace")
        assert answer.status_code == 200
        data = answer.data
        found.append(Figure("workspace out, written and read back", time.perf_counter() - start, 20, "s"))
        start = time.perf_counter()
        assert client.put("/api/workspace", data=data, content_type="application/zip").status_code == 200
        found.append(Figure("workspace in, checked and taken in", time.perf_counter() - start, 20, "s"))
        most = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
        found.append(Figure("memory of this process after that, peak", most, 400, "MB"))
        with database.session() as session:
            revisions = session.scalar(select(func.count()).select_from(RevisionRow)) or 1
        database.close()
        kilobytes = (Path(folder) / FILE_NAME).stat().st_size / 1000
        found.append(Figure("a revision on the disk, all else shared out over it", kilobytes / revisions, 8, "kB"))
    return found
