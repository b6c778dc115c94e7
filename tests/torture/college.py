"""A college's workspace goes out, comes in elsewhere, and goes out again the same."""

from __future__ import annotations

import hashlib
import io
import time
import zipfile
from dataclasses import replace
from pathlib import Path

from sqlalchemy import func, select

from bench.at_scale import grow
from nabrel.core.shelf.tools import NamedKit
from nabrel.demo.fill import fill
from nabrel.store.database import Database
from nabrel.store.repositories import Kit
from nabrel.store.shelf import NamedKits
from nabrel.store.tables import RevisionRow, SitterRow
from nabrel.web.app import create_app
from tests.torture.figures import Found

SITTERS, PLANS, REVISIONS, ITEMS, KITS = 400, 2000, 5, 2000, 50


def college(folder: Path, share: float) -> Found:
    """Fill a database as a college does, export it, import it into an empty one, and export that."""
    found = Found("a college's workspace")
    sitters, plans, items = (round(each * share) for each in (SITTERS, PLANS, ITEMS))
    here, there = Database(folder / "here"), Database(folder / "there")
    fill(here)
    with here.session() as session:
        grow(session, sitters, plans, REVISIONS)
        kit = Kit(session)
        owned = kit.all()
        for place in range(max(0, items - len(owned))):
            kit.put(replace(owned[place % len(owned)], id=f"more-{place}", name=f"Item {place}"))
        for place in range(KITS):
            NamedKits(session).put(NamedKit(id=f"kit-{place}", name=f"Kit {place}", items=(owned[place].id,)))
    client = create_app(here).test_client()
    out, out_s = _timed(lambda: client.get("/api/workspace"))
    elsewhere = create_app(there).test_client()
    put, in_s = _timed(lambda: elsewhere.put("/api/workspace", data=out.data, content_type="application/zip"))
    if (out.status_code, put.status_code) != (200, 200):
        found.wrong.append(f"answered {out.status_code} and {put.status_code}")
    again = elsewhere.get("/api/workspace")
    one, other = _contents(out.data), _contents(again.data)
    differ = sorted(name for name in {*one, *other} if one.get(name) != other.get(name))
    if differ:
        found.wrong.append(f"{len(differ)} files differ, {differ[0]} first")
    with there.session() as session:
        people = session.scalar(select(func.count()).select_from(SitterRow))
        revisions = session.scalar(select(func.count()).select_from(RevisionRow))
        shelf = len(Kit(session).all())
    here.close()
    there.close()
    if (people or 0) < sitters or (revisions or 0) < plans:
        found.wrong.append(f"{people} sitters and {revisions} revisions came")
    found.figures = (
        f"{people:,} sitters, {shelf:,} items, {KITS} kits, {revisions:,} revisions: out in {out_s:.0f} s, in within "
        f"{in_s:.0f} s, and out again the same in all {len(one):,} files"
    )
    return found


def _timed(call):
    began = time.monotonic()
    return call(), time.monotonic() - began


def _contents(data: bytes) -> dict[str, str]:
    """Every file of a zip by its name, as a digest of its bytes."""
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        return {name: hashlib.sha256(archive.read(name)).hexdigest() for name in archive.namelist()}
