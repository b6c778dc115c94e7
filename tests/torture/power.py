"""Power loss, replayed: what a serving process writes and syncs is written down, and every moment of it played back.

At each moment three disks are made of what was written so far: one where everything reached it (as after a kill), one where
nothing did that was not synced, and one where of that some did, in part, and names changed up to some point. The application opens each; what was
acknowledged by then must stand, and every file open.
"""

from __future__ import annotations

import os
import random
import re
import shutil
import signal
import sqlite3
import subprocess
from collections import deque
from collections.abc import Iterator
from concurrent.futures import Future, ProcessPoolExecutor
from contextlib import closing, suppress
from dataclasses import dataclass, field
from pathlib import Path

from nabrel.store.backup import all_of
from nabrel.store.database import ERASING, SENT, Database
from nabrel.store.folder import BACKUPS, FILE_NAME, Unusable
from tests.served import asked, serving
from tests.torture.figures import Found
from tests.torture.work import KINDS, Work

CALLS = (
    "openat,write,pwrite64,ftruncate,fsync,fdatasync,rename,renameat,renameat2,unlink,unlinkat,sendto,lseek,"
    "writev,pwritev,pwritev2,fallocate,copy_file_range,sendfile,link,linkat,mmap"
)
SECTOR = 512
AHEAD, ENOUGH = 8, 5
"""So many disks wait to be opened; and after so much that is wrong there is no need of more."""
NAMED = ("openat", "rename", "renameat", "renameat2", "unlink", "unlinkat")
LOCKS = (".lock", "-shm")
"""Names that say nothing after a start: locks, and the index of a log that SQLite makes anew."""
LINE = re.compile(r"^(\d+) +(\w+)\((.*)\) += (-?\d+)")
BEGUN = re.compile(r"^(\d+) +(\w+)\((.*) <unfinished \.\.\.>$")
RESUMED = re.compile(r"^(\d+) +<\.\.\. (\w+) resumed>(.*)\) += (-?\d+)")


@dataclass(eq=False)
class Inode:
    """A file whatever its name: what is on the disk for sure, and what was written since."""

    sure: bytes = b""
    now: bytearray = field(default_factory=bytearray)
    pending: list[tuple[int, bytes | None]] = field(default_factory=list)
    """From where what was written; None cuts the file off there."""

    def write(self, at: int, data: bytes) -> None:
        """Written, and not synced."""
        self.pending.append((at, data))
        _put(self.now, at, data)

    def cut(self, at: int) -> None:
        """Cut off, or made longer with nothing."""
        self.pending.append((at, None))
        _put(self.now, at, None)

    def sync(self) -> None:
        """What was written is on the disk."""
        self.sure, self.pending = bytes(self.now), []

    def torn(self, chance: random.Random) -> bytes:
        """What is on the disk for sure, and of what was written since some, in sectors."""
        found = bytearray(self.sure)
        for at, data in self.pending:
            if chance.random() < 0.4:
                continue
            if data is None:
                _put(found, at, None)
                continue
            end = len(data) if chance.random() < 0.5 else chance.randrange(0, len(data) + 1, SECTOR)
            _put(found, at, data[:end])
        return bytes(found)


def _put(into: bytearray, at: int, data: bytes | None) -> None:
    if len(into) < at:
        into.extend(bytes(at - len(into)))
    if data is None:
        del into[at:]
    else:
        into[at : at + len(data)] = data


class Disk:
    """A data folder as it is written to."""

    def __init__(self, folder: Path) -> None:
        self.root = folder
        self.now: dict[str, Inode] = {}
        for file in folder.rglob("*"):
            if file.is_file():
                self.now[str(file)] = Inode(file.read_bytes(), bytearray(file.read_bytes()))
        self.sure = dict(self.now)
        self.names: list[tuple[str, str, Inode | None]] = []
        """Names that changed since their folder was synced, in order: the folder, the name, and what it names (None: nothing)."""
        self.places: dict[tuple[str, int], int] = {}

    def name(self, path: str, inode: Inode | None) -> None:
        """A name names something else, or nothing."""
        self.names.append((str(Path(path).parent), path, inode))
        _name(self.now, path, inode)

    def sync_folder(self, folder: str) -> None:
        """The names of a folder are on the disk."""
        for of, path, inode in self.names:
            if of == folder:
                _name(self.sure, path, inode)
        self.names = [each for each in self.names if each[0] != folder]

    def whole(self) -> dict[str, bytes]:
        """Everything reached the disk."""
        return {path: bytes(inode.now) for path, inode in self.now.items()}

    def dropped(self) -> dict[str, bytes]:
        """Nothing did that was not synced."""
        return {path: inode.sure for path, inode in self.sure.items()}

    def torn(self, chance: random.Random) -> dict[str, bytes]:
        """Some of it did; of the names those that changed first."""
        names = dict(self.sure)
        for _, path, inode in self.names[: chance.randint(0, len(self.names))]:
            _name(names, path, inode)
        return {path: inode.torn(chance) for path, inode in names.items()}


def _name(names: dict[str, Inode], path: str, inode: Inode | None) -> None:
    if inode is None:
        names.pop(path, None)
    else:
        names[path] = inode


class Unmodelled(Exception):
    """The server asked for something that is not played back."""


@dataclass(frozen=True, slots=True)
class Call:
    """One call of the system that ended well."""

    process: str
    name: str
    told: str
    result: int


def calls(trace: Path) -> Iterator[Call]:
    """What was asked of the system, in the order in which it was done."""
    begun: dict[tuple[str, str], str] = {}
    with trace.open(encoding="ascii", errors="replace") as lines:
        for line in lines:
            if (found := BEGUN.match(line)) is not None:
                begun[found[1], found[2]] = found[3]
            elif (found := RESUMED.match(line)) is not None:
                told = begun.pop((found[1], found[2]), "") + found[3]
                if int(found[4]) >= 0:
                    yield Call(found[1], found[2], told, int(found[4]))
            elif (found := LINE.match(line)) is not None and int(found[4]) >= 0:
                yield Call(found[1], found[2], found[3], int(found[4]))


FILE = re.compile(r"^(\d+)<([^>]*)>")
QUOTED = re.compile(r'"((?:\\x[0-9a-f]{2})*)"(\.\.\.)?')


def _bytes(told: str) -> list[bytes]:
    found = QUOTED.findall(told)
    if any(cut for _, cut in found):
        raise Unmodelled(f"a text that was cut off: {told[:60]}")
    return [bytes.fromhex(text.replace("\\x", "")) for text, _ in found]


def play(disk: Disk, each: Call) -> bool:
    """Do to a disk what was done. Whether anything of it changed."""
    if each.name in NAMED:
        return _play_name(disk, each)
    at = FILE.match(each.told)
    path = "" if at is None else bytes.fromhex(at[2].replace("\\x", "")).decode() if at[2].startswith("\\x") else at[2]
    if at is None or not _ours(disk, path):
        return False
    if each.name in ("fsync", "fdatasync"):
        if path in disk.now:
            disk.now[path].sync()
        else:
            disk.sync_folder(path)
        return True
    inode = disk.now.get(path)
    if inode is None:
        # Unlinked and still open: nobody finds it again.
        return False
    numbers = [int(number) for number in re.findall(r", (\d+)", QUOTED.sub("", each.told))]
    key = (path, int(at[1]))
    if each.name == "pwrite64":
        inode.write(numbers[-1], _bytes(each.told)[0][: each.result])
    elif each.name == "write":
        place = disk.places.get(key, 0)
        inode.write(place, _bytes(each.told)[0][: each.result])
        disk.places[key] = place + each.result
    elif each.name == "ftruncate":
        inode.cut(numbers[-1])
    elif each.name == "lseek":
        disk.places[key] = each.result
        return False
    elif each.name == "mmap":
        if "MAP_SHARED" in each.told and "PROT_WRITE" in each.told:
            raise Unmodelled(f"a file that is written in memory: {path}")
        return False
    else:
        raise Unmodelled(f"{each.name} of {path}")
    return True


def _play_name(disk: Disk, each: Call) -> bool:
    named = [text.decode() for text in _bytes(each.told)]
    inside = [_ours(disk, path) for path in named]
    if not any(inside):
        return False
    if not all(Path(path).is_absolute() for path in named):
        raise Unmodelled(f"a name that depends on where one is: {named}")
    if each.name == "openat":
        return _opened(disk, named[0], each)
    if each.name.startswith("unlink"):
        disk.name(named[0], None)
        return True
    inode = disk.now.get(named[0])
    if inode is None or not all(inside):
        raise Unmodelled(f"{named[0]} was renamed and never made")
    disk.name(named[1], inode)
    disk.name(named[0], None)
    return True


def _opened(disk: Disk, path: str, each: Call) -> bool:
    disk.places[path, each.result] = 0
    inode = disk.now.get(path)
    if inode is None:
        if "O_CREAT" not in each.told:
            return False
        disk.name(path, Inode())
        return True
    if "O_APPEND" in each.told:
        disk.places[path, each.result] = len(inode.now)
    if "O_TRUNC" in each.told and inode.now:
        inode.cut(0)
        return True
    return False


def _ours(disk: Disk, path: str) -> bool:
    """Whether a file is one of the folder that anybody looks for after a start."""
    if not path.startswith(str(disk.root)) or path.endswith(LOCKS) or path.endswith("(deleted)"):
        return False
    return not Path(path).name.startswith(SENT)


@dataclass
class Recorded:
    """A served folder as it stood, what was asked of the system, and what was acknowledged after how many answers."""

    before: Path
    trace: Path
    works: list[Work] = field(default_factory=list)
    acknowledged: list[tuple[int, list[frozenset[str]]]] = field(default_factory=list)

    def required(self, answers: int) -> list[frozenset[str]] | None:
        """What must stand after so many answers: all that was acknowledged, but what the change on its way may take away."""
        place = sum(count <= answers for count, _ in self.acknowledged) - 1
        if place < 0:
            return None
        now, after = (self.acknowledged[min(at, len(self.acknowledged) - 1)][1] for at in (place, place + 1))
        return [one & other for one, other in zip(now, after, strict=True)]


def record(folder: Path, changes: int) -> Recorded:
    """Serve a filled folder and make so many changes one after the other, with what the server writes written down."""
    data, told = folder / "data", Recorded(folder / "before", folder / "trace.txt")
    with serving(data, "--demo") as (process, _):
        process.send_signal(signal.SIGTERM)
        process.wait()
    shutil.copytree(data, told.before)
    under = ("strace", "-f", "-q", "-y", "-xx", "-s", "1000000", "-e", f"trace={CALLS}", "-o", str(told.trace))
    with serving(data, "--no-only-me", under=under) as (process, address):
        answers = AnswerCounter()
        with answers:
            told.works = [kind(address) for kind in KINDS]
            for number in range(changes):
                told.works[number % len(told.works)].go_on(address)
                told.acknowledged.append((answers.count, [work.done for work in told.works]))
        children = Path(f"/proc/{process.pid}/task/{process.pid}/children").read_text(encoding="ascii").split()
        subprocess.run(["kill", "-TERM", *children], check=False)
        process.wait(60)
    return told


class AnswerCounter:
    """Counts the answers that this process got."""

    def __enter__(self) -> AnswerCounter:
        import tests.served
        from tests.torture import work

        self.count = 0

        def counted(*given, **more):
            # Written down as it goes, everything takes several times as long.
            found = asked(*given, **{"timeout": 300, **more})
            self.count += 1
            return found

        self._restore = [(module, module.asked) for module in (tests.served, work)]
        for module, _ in self._restore:
            module.asked = counted
        return self

    def __exit__(self, *_: object) -> None:
        for module, function in self._restore:
            module.asked = function


def power_loss(folder: Path, changes: int, seed: int = 13) -> Found:
    """Play back every moment, and open what is found."""
    found = Found("power loss, replayed")
    if shutil.which("strace") is None:
        found.figures = "not tried: strace is not here"
        return found
    told = record(folder, changes)
    chance = random.Random(seed)
    shown = folder / "data"
    shutil.rmtree(shown)
    shutil.copytree(told.before, shown)
    disk = Disk(shown)
    answers = moments = opened = syncs = 0
    dropped: object = None
    with ProcessPoolExecutor(os.cpu_count()) as pool:
        opening: deque[tuple[str, Future[list[str]]]] = deque()
        for number, each in enumerate(calls(told.trace)):
            if each.name == "sendto":
                answers += _begins_answer(each)
                continue
            changed = play(disk, each)
            syncs += each.name in ("fsync", "fdatasync")
            if not changed:
                continue
            moments += 1
            disks = {"whole": disk.whole(), "torn": disk.torn(chance)}
            done = told.required(answers)
            # The same until something is synced or acknowledged.
            if (syncs, answers) != dropped:
                dropped, disks["dropped"] = (syncs, answers), disk.dropped()
            for how, files in disks.items():
                opened += 1
                place = folder / f"found-{number}-{how}"
                opening.append((f"call {number}, {how}", pool.submit(_opens, place, shown, files, told.works, done)))
            while len(opening) > AHEAD:
                found.wrong += _wrong(*opening.popleft())
            if len(found.wrong) > ENOUGH:
                break
        found.wrong += [wrong for each in opening for wrong in _wrong(*each)]
    if answers < told.acknowledged[-1][0] and not found.wrong:
        found.wrong.append(f"{answers} answers were sent, {told.acknowledged[-1][0]} came")
    found.figures = (
        f"{changes} changes of {len(KINDS)} kinds: {moments:,} writes, names and {syncs:,} syncs, each played back up to there with "
        f"all that was not synced there, dropped, and torn: {opened:,} disks opened, {len(found.wrong)} with something missing or damaged"
    )
    return found


def _wrong(where: str, opened: Future[list[str]]) -> list[str]:
    return [f"{where}: {each}" for each in opened.result()]


def _begins_answer(each: Call) -> bool:
    return '"\\x48\\x54\\x54\\x50\\x2f\\x31\\x2e\\x31\\x20' in each.told


def _opens(
    place: Path, shown: Path, files: dict[str, bytes], works: list[Work], done: list[frozenset[str]] | None
) -> list[str]:
    """What is wrong with a folder of these files once it was opened."""
    shutil.rmtree(place, ignore_errors=True)
    (place / BACKUPS).mkdir(parents=True)
    for path, held in files.items():
        file = place / Path(path).relative_to(shown)
        file.parent.mkdir(parents=True, exist_ok=True)
        file.write_bytes(held)
    try:
        Database(place).close()
    except (Unusable, sqlite3.Error, OSError, ValueError) as error:
        return [f"it does not open: {error}"]
    wrong = [f"{ERASING} stands"] if (place / ERASING).exists() else []
    for file in [place / FILE_NAME, *all_of(place)]:
        with closing(sqlite3.connect(file)) as raw:
            try:
                if raw.execute("PRAGMA integrity_check").fetchone() != ("ok",):
                    wrong.append(f"{file.name} is damaged")
            except sqlite3.Error as error:
                wrong.append(f"{file.name}: {error}")
                continue
            if file.name == FILE_NAME and done is not None:
                for work, sets in zip(works, done, strict=True):
                    wrong += [f"{work.name}: {each} is missing" for each in work.missing(raw, sets)[:2]]
    with suppress(OSError):
        shutil.rmtree(place)
    return wrong
