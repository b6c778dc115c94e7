"""Killing, restoring, and a disk without room: nothing that was acknowledged may be lost, and what stands is always whole."""

from __future__ import annotations

import json
import os
import random
import shutil
import signal
import sqlite3
import subprocess
import sys
import time
import urllib.error
from collections import Counter
from contextlib import closing
from pathlib import Path
from xml.etree import ElementTree

from nabrel.store.folder import BACKUPS, FILE_NAME
from tests.served import asked, serving
from tests.torture.figures import Found
from tests.torture.work import ITEM, KINDS, Whole, Work, Worker, put

EVERY_TENTH = 10
BEGUN_WITHIN_S = 60


def kills(folder: Path, times: int, seed: int = 13) -> Found:
    """Kill the server while six people do what is done all day, start it again, and look for all that it had acknowledged.

    At every tenth turn the whole workspace is exported and taken in again, over and over, until it is killed at that.
    """
    found = Found("kills during work")
    chance = random.Random(seed)
    data = folder / "kills"
    works: list[Work] = []
    changes: Counter[str] = Counter()
    for turn in range(times + 1):
        with serving(data, *(["--demo"] if turn == 0 else [])) as (process, address):
            with closing(sqlite3.connect(f"file:{data / FILE_NAME}?mode=ro", uri=True)) as raw:
                lost = [f"{each.name}: {one}" for each in works for one in each.missing(raw, each.done)]
                found.wrong += [f"turn {turn}: {each} was acknowledged, and is not so" for each in lost[:3]]
            if turn == times:
                break
            if works:
                for each in works:
                    each.again(address)
            else:
                works = [kind(address) for kind in KINDS]
            apart = turn % EVERY_TENTH == EVERY_TENTH - 1
            workers = [Worker(address, each) for each in ([Whole(address)] if apart else works)]
            for each in workers:
                each.start()
            if turn % 2 == 0 and not apart:
                _until_all_have_begun(workers)
            time.sleep(chance.uniform(3, 20) if apart else chance.uniform(0.05, 9.0))
            process.send_signal(signal.SIGKILL)
            process.wait()
            for each in workers:
                each.join(20)
                changes[each.work.name] += each.changes
                found.wrong += [f"turn {turn}: {each.refused}"] if each.refused else []
        with closing(sqlite3.connect(data / FILE_NAME)) as raw:
            if raw.execute("PRAGMA integrity_check").fetchone() != ("ok",):
                found.wrong.append(f"turn {turn}: the database is damaged")
        if len(found.wrong) > 5:
            break
    told = ", ".join(f"{count:,} {name}" for name, count in changes.items())
    found.figures = f"{times} kills; acknowledged and looked for: {told}; {len(found.wrong)} lost"
    idle = {kind.name for kind in (*KINDS, Whole)} - {name for name, count in changes.items() if count}
    if idle and times >= EVERY_TENTH:
        found.wrong.append(f"nothing was done of {sorted(idle)}")
    return found


def _until_all_have_begun(workers: list[Worker]) -> None:
    """Wait until each has had something acknowledged: a class, or an exercise, takes its time on a slow machine."""
    until = time.monotonic() + BEGUN_WITHIN_S
    while time.monotonic() < until and not all(each.changes or not each.is_alive() for each in workers):
        time.sleep(0.1)


def migrations_killed(folder: Path) -> Found:
    """Kill a start at every statement of every migration, from every older version that is stored: the test, with nothing left out."""
    found = Found("kills during migrations")
    report = folder / "report.xml"
    tests = "tests/store/test_migrations_killed.py"
    ran = subprocess.run(
        [sys.executable, "-m", "pytest", "-q", "-p", "no:cacheprovider", f"--junitxml={report}", "-n", "2", tests],
        env={**os.environ, "NABREL_KILL_EVERY": "1"},
        capture_output=True,
        text=True,
        check=False,
    )
    times = (
        [int(each.get("value", "0")) for each in ElementTree.parse(report).iter("property")] if report.exists() else []
    )
    found.figures = f"{sum(times):,} kills from {len(times)} beginnings, one at every statement: the next start had every row, and one backup"
    if ran.returncode or not times:
        found.wrong.append((ran.stdout + ran.stderr)[-300:])
    return found


def restores(folder: Path, times: int, seed: int = 13) -> Found:
    """Back up, change, restore; every other restore is killed on its way. What stands is what was, or what was backed up."""
    found = Found("restores")
    chance = random.Random(seed)
    data = folder / "restores"
    environment = {**os.environ, "NABREL_DATA": str(data)}
    killed = whole = old = 0
    with serving(data, "--demo"):
        pass

    def command(*words: str) -> subprocess.Popen[bytes]:
        return subprocess.Popen(
            [sys.executable, "-m", "nabrel.cli", *words],
            env=environment,
            stdout=subprocess.PIPE,
            stderr=subprocess.PIPE,
        )

    def name() -> str:
        with closing(sqlite3.connect(data / FILE_NAME)) as raw:
            if raw.execute("PRAGMA integrity_check").fetchone() != ("ok",):
                return "damaged"
            return str(raw.execute("SELECT name FROM kit_item ORDER BY position").fetchone()[0])

    def call(new: str) -> None:
        with closing(sqlite3.connect(data / FILE_NAME)) as raw, raw:
            raw.execute("UPDATE kit_item SET name = ? WHERE position = (SELECT min(position) FROM kit_item)", (new,))

    for turn in range(times):
        backup = folder / f"turn-{turn}.sqlite"
        call(f"Backed up {turn}")
        if command("backup", str(backup)).wait():
            found.wrong.append(f"turn {turn}: no backup")
            continue
        call(f"Changed {turn}")
        process = command("restore", str(backup))
        if turn % 2:
            time.sleep(chance.uniform(0.2, 1.2))
            process.kill()
            killed += 1
        process.communicate()
        current = name()
        whole += current == f"Backed up {turn}"
        old += current == f"Changed {turn}"
        if current not in (f"Backed up {turn}", f"Changed {turn}"):
            found.wrong.append(f"turn {turn}: {current} stands")
        if not turn % 2 and current != f"Backed up {turn}":
            found.wrong.append(f"turn {turn}: the restore that was let end did nothing")
        backup.unlink()
    left = [file.name for file in data.iterdir() if "restoring" in file.name]
    with serving(data) as (_, address):
        if not asked(address, "/api/sitters")["sitters"]:
            found.wrong.append("no sitters at the end")
    found.figures = (
        f"{times} restores, {killed} of them killed: {whole} times the backup stood after it, {old} times what was before; "
        f"{len(list((data / BACKUPS).iterdir()))} automatic backups kept, {len(left)} unfinished copies left behind"
    )
    return found


def full_disk(folder: Path) -> Found:
    """Serve from a disk of 24 MB and fill it up: writes are refused with 507, reading goes on, and with room again so do writes."""
    found = Found("full disk")
    place = folder / "small"
    place.mkdir()
    mounted = subprocess.run(
        ["mount", "-t", "tmpfs", "-o", "size=24m", "tmpfs", str(place)], capture_output=True, text=True, check=False
    )
    if mounted.returncode:
        found.figures = f"not tried: this machine mounts no small disk ({mounted.stderr.strip()[:80]})"
        return found
    try:
        with serving(place / "data", "--demo") as (_, address):
            filler = place / "filler"
            _fill(filler)
            acknowledged, answers = 0, []
            for number in range(1, 400):
                try:
                    _put(address, "probe", f"Number {number} " + "x" * 80)
                    acknowledged = number
                except urllib.error.HTTPError as error:
                    answers.append((error.code, json.load(error)["says"]))
                    break
            if not answers or answers[0][0] != 507:
                found.wrong.append(f"a full disk was answered {answers[:1] or 'as if there were room'}")
            reads = [asked(address, path) for path in ("/api/sitters", "/api/kit", "/api/house")]
            names = {each["id"]: each["name"] for each in reads[1]["items"]}
            if acknowledged and not names["probe"].startswith(f"Number {acknowledged} "):
                found.wrong.append("an acknowledged write is gone")
            filler.unlink()
            _put(address, "probe", "Number 1000")
            found.figures = f"{acknowledged} writes until it was full, then “{answers[0][1] if answers else ''}”; reading went on, and writing with room again"
    finally:
        subprocess.run(["umount", "-l", str(place)], check=False)
    return found


def _put(address: str, item_id: str, name: str) -> None:
    put(address, f"/api/kit/items/{item_id}", {"id": item_id, "name": name, **ITEM})


def _fill(file: Path) -> None:
    with file.open("wb", buffering=0) as filler:
        try:
            while filler.write(b"\0" * 65536):
                pass
        except OSError:
            pass
    # A little room, so that writing begins well and ends badly.
    with file.open("r+b") as filler:
        filler.truncate(max(0, file.stat().st_size - 400_000))


def tidy(folder: Path) -> None:
    """Take the folder away."""
    shutil.rmtree(folder, ignore_errors=True)
