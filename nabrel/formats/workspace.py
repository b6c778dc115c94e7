"""The whole workspace, or one sitter of it, as one zip of Nabrel's files, written and read back without loss.

In it stand ``workspace.json`` (who is in it), ``house.json``, ``kit.csv``, ``kits.json``, ``tools.json``, ``classes.json``, a folder ``practice`` with a file a
student, a folder ``drill_sets`` with a file a set, and a folder
a sitter with ``case.json`` (no kit of its own), ``readings.csv``, ``runs.json``, ``wears.json``, ``trials.json``, ``photos`` and a folder a plan: ``plan.json`` and
every revision as a sequence file. What could not be read stands in a folder ``damaged``, as it is kept.
"""

from __future__ import annotations

import io
import zipfile
from collections import Counter
from collections.abc import Iterable, Iterator, Mapping
from contextlib import contextmanager
from dataclasses import dataclass, field, replace
from datetime import date, datetime
from hashlib import sha256
from typing import IO, Annotated, Literal, TypeVar

from pydantic import AfterValidator, BaseModel, Field

from nabrel.core.case.case import Case
from nabrel.core.case.intent import Intent
from nabrel.core.case.product import Product
from nabrel.core.case.sitter import Sitter
from nabrel.core.case.tool import OwnedTool
from nabrel.core.errors import Refused
from nabrel.core.face.measuring import SkinReading
from nabrel.core.learn.record import MOST_LOOKS, Look, WornBase, checked_looks
from nabrel.core.learn.wear_trial import How
from nabrel.core.lesson.room import MOST_STUDENTS, Name
from nabrel.core.pace.run import Log
from nabrel.core.pace.tasks import Pace
from nabrel.core.plan.sequence import Sequence, Timing
from nabrel.core.shelf.tools import NamedKit
from nabrel.core.terms.ids import Tool, Zone
from nabrel.core.terms.limits import MOST_CLASSES, MOST_SITTERS, MOST_TOOLS, Ident, one_line
from nabrel.formats.checks import check_case, check_kit, check_sequence, house_of
from nabrel.formats.classes import RoomFile
from nabrel.formats.files import CaseFile, Document, HouseFile, KitFile, KitsFile, SequenceFile, Started, ToolsFile
from nabrel.formats.kit_csv import read_kit, write_kit
from nabrel.formats.loader import read
from nabrel.formats.practice import (
    MOST_DRILL_STUDENTS,
    MOST_SETS,
    DrillSetFile,
    PracticeFile,
    check_practice,
    check_set,
)
from nabrel.formats.skin_readings import read_readings, write_readings
from nabrel.formats.wear import TrialSide, Verdict, Worn, WornForecast

EARLIEST = date(2000, 1, 1)
"""The day of a reading in a workspace that names none, which no Nabrel wrote."""


def _a_day(text: str) -> str:
    date.fromisoformat(text)
    return text


def _a_moment(text: str) -> str:
    datetime.fromisoformat(text)
    return text


Day = Annotated[str, Field(pattern=r"^\d{4}-\d{2}-\d{2}$"), AfterValidator(_a_day)]


Number = Annotated[int, Field(ge=1, le=2**53)]
MOST_ZIP_BYTES = 256_000_000
MOST_FILE_BYTES = 8_000_000
MADE_WITH = "made_with"
"""The folder of the kits that plans were made with."""
PRACTICE, DRILL_SETS = "practice", "drill_sets"
"""The folders of students' practice and of sets of exercises."""
DAMAGED = "damaged"
"""The folder of records that could not be read."""
PARTS_OF_A_PLAN = 5
MOST_UNPACKED_BYTES = 1_000_000_000
MOST_FILES = 40_000
ENCRYPTED = 0x1
"""The flag of a file in a zip that needs a password."""
STAMP = (2000, 1, 1, 0, 0, 0)
"""Every file in the zip carries this time: the same workspace gives the same bytes."""
Model = TypeVar("Model", bound=BaseModel)
Moment = Annotated[str, Field(pattern=r"^\d{4}-\d\d-\d\dT\d\d:\d\d:\d\d(\.\d{1,6})?$"), AfterValidator(_a_moment)]


class WorkedRun(Document):
    """How a plan was worked to the clock: since when, by whose hands and with which tools, and what was done when."""

    id: Ident
    started: Started
    pace: Pace = 1.0
    hands: Annotated[int, Field(ge=1, le=2)] = 1
    spare: tuple[Tool, ...] = ()
    timing: Timing | None = None
    log: Log = Field(default_factory=Log)
    finished: bool = False


class Run(Document):
    """One time that a plan was done: which revision, on which day, and what it took from the packs."""

    plan: Ident
    revision: Number
    day: Day
    taken: dict[Ident, Annotated[float, Field(ge=0, le=100000)]] = Field(default_factory=dict)
    worked: WorkedRun | None = None


class RunsFile(Document):
    """``runs``: the runs of one sitter's plans."""

    nabrel: Literal["runs"] = "runs"
    version: Literal[1] = 1
    runs: list[Run]


class StoredWear(Document):
    """How one base wore, of which revision of which plan; the forecast is the one of the day it was put on."""

    id: Annotated[str, Field(pattern="^[0-9a-f]{32}$")]
    plan: Ident
    revision: Number
    worn: Worn
    looks: Annotated[tuple[Look, ...], Field(max_length=MOST_LOOKS)] = ()
    verdict: Verdict | None = None
    forecast: dict[Zone, WornForecast]
    run: Ident | None = None
    trial: TrialSide | None = None

    def wearing(self, sequence: Sequence) -> WornBase:
        """It as learning reads it, with the plan as it was worked."""
        return WornBase(
            sequence.case.sitter.nickname,
            sequence,
            {z: each.hours for z, each in self.forecast.items()},
            self.looks,
            datetime.fromisoformat(self.worn.from_),
        )


class StoredTrial(Document):
    """Two ways of one plan on trial: on the halves of a face or on two days, which revision each is, and what each is called."""

    id: Annotated[str, Field(pattern="^[0-9a-f]{32}$")]
    plan: Ident
    how: How
    revisions: tuple[Number, Number]
    words: tuple[Annotated[str, one_line(120)], Annotated[str, one_line(120)]]
    made: Started


class TrialsFile(Document):
    """``trials``: what is on trial with one sitter."""

    nabrel: Literal["trials"] = "trials"
    version: Literal[1] = 1
    trials: list[StoredTrial]


class WearsFile(Document):
    """``wears``: how the bases of one sitter wore."""

    nabrel: Literal["wears"] = "wears"
    version: Literal[1] = 1
    wears: list[StoredWear]


class StoredStudent(Document):
    """One student of a class: whose face they have where it is kept here, and which named kit they bring."""

    name: Name
    pace: Pace = 2.0
    sitter: Ident | None = None
    kit: Ident | None = None
    tools: Annotated[tuple[Tool, ...], Field(max_length=MOST_TOOLS)] | None = None


class StoredClass(RoomFile):
    """A class of a plan, of its newest revision until it begins; ``taken`` is what it took from the packs once it was held."""

    id: Annotated[str, Field(pattern="^[0-9a-f]{32}$")]
    plan: Ident
    revision: Number | None = None
    course: Annotated[str, one_line(120)] = ""
    students: Annotated[tuple[StoredStudent, ...], Field(min_length=1, max_length=MOST_STUDENTS)]
    taken: dict[Ident, Annotated[float, Field(ge=0, le=100000)]] = Field(default_factory=dict)


class ClassesFile(Document):
    """``classes``: the classes of a workspace."""

    nabrel: Literal["classes"] = "classes"
    version: Literal[1] = 1
    classes: Annotated[list[StoredClass], Field(max_length=MOST_CLASSES)]


class Revision(Document):
    """One revision of a plan as the zip lists it; the sequence stands in a file of its own, its kit among ``made_with``."""

    number: Number
    parent: Number | None = None
    says: Annotated[str, one_line(300)]
    name: Annotated[str, one_line(80)] | None = None
    made: Moment
    kit: Ident | None = None


class PlanFile(Document):
    """``plan``: one plan with its revisions; ``head`` is the one that stands."""

    nabrel: Literal["plan"] = "plan"
    version: Literal[2] = 2
    id: Ident
    title: Annotated[str, one_line(120)]
    head: int
    made: Moment
    changed: Moment
    favourite: bool = False
    revisions: list[Revision]


class WorkspaceFile(Document):
    """``workspace``: who is in the zip, in order."""

    nabrel: Literal["workspace"]
    version: Literal[1]
    sitters: Annotated[list[Ident], Field(max_length=MOST_SITTERS)]


@dataclass(frozen=True, slots=True)
class StoredPlan:
    """A plan with every revision's sequence, in the order of their numbers."""

    plan: PlanFile
    sequences: list[Sequence]


@dataclass(frozen=True, slots=True)
class StoredPerson:
    """All that is kept of one sitter."""

    id: str
    sitter: Sitter
    intent: Intent
    readings: tuple[SkinReading, ...] = ()
    plans: list[StoredPlan] = field(default_factory=list)
    runs: list[Run] = field(default_factory=list)
    wears: list[StoredWear] = field(default_factory=list)
    trials: list[StoredTrial] = field(default_factory=list)
    photos: Mapping[str, bytes] = field(default_factory=dict)
    """The photographs beside looks, by the name that the look has for them."""


@dataclass(frozen=True, slots=True)
class Workspace:
    """Everything that a workspace keeps."""

    house: HouseFile
    kit: tuple[Product, ...] = ()
    kits: list[NamedKit] = field(default_factory=list)
    tools: tuple[OwnedTool, ...] = ()
    classes: list[StoredClass] = field(default_factory=list)
    students: list[PracticeFile] = field(default_factory=list)
    sets: list[DrillSetFile] = field(default_factory=list)
    people: list[StoredPerson] = field(default_factory=list)
    damaged: Mapping[str, str] = field(default_factory=dict)
    """What could not be read, as it stands, by the name of its file: for a person to look at, never read back."""


@dataclass(frozen=True, slots=True)
class Counts:
    """How much a workspace holds."""

    nicknames: tuple[str, ...] = ()
    plans: int = 0
    revisions: int = 0
    readings: int = 0
    runs: int = 0
    wears: int = 0
    items: int = 0
    kits: int = 0
    tools: int = 0
    classes: int = 0
    students: int = 0
    sets: int = 0


class Counting:
    """Counts people as they go by, so that they need not all be held."""

    def __init__(self, shared: Workspace, people: Iterable[StoredPerson]) -> None:
        self._people = people
        self.counts = Counts(
            items=len(shared.kit),
            kits=len(shared.kits),
            tools=len(shared.tools),
            classes=len(shared.classes),
            students=len(shared.students),
            sets=len(shared.sets),
        )

    def __iter__(self) -> Iterator[StoredPerson]:
        for person in self._people:
            now = self.counts
            self.counts = replace(
                now,
                nicknames=(*now.nicknames, person.sitter.nickname),
                plans=now.plans + len(person.plans),
                revisions=now.revisions + sum(len(stored.sequences) for stored in person.plans),
                readings=now.readings + len(person.readings),
                runs=now.runs + len(person.runs),
                wears=now.wears + len(person.wears),
            )
            yield person

    def to_the_end(self) -> Counts:
        """The counts once all have gone by."""
        for _ in self:
            pass
        return self.counts


_KIND_OF: dict[type[BaseModel], str] = {
    CaseFile: "case", SequenceFile: "sequence", HouseFile: "house", ToolsFile: "tools", KitsFile: "kits",
    RunsFile: "runs", WearsFile: "wears", TrialsFile: "trials", ClassesFile: "classes", PlanFile: "plan", PracticeFile: "practice", DrillSetFile: "drill_set", KitFile: "kit", WorkspaceFile: "workspace",
}  # fmt: skip


def write_workspace(workspace: Workspace) -> bytes:
    """The zip of a workspace. The same workspace gives the same bytes."""
    out = io.BytesIO()
    write_workspace_to(out, workspace, [person.id for person in workspace.people], workspace.people)
    return out.getvalue()


def write_workspace_to(out: IO[bytes], shared: Workspace, ids: list[str], people: Iterable[StoredPerson]) -> None:
    """Write a zip piece by piece: what all share from a workspace, and its people as they come, one in memory at a time."""
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED, compresslevel=6) as folder:
        for name, text in _files(shared, ids, people):
            folder.writestr(zipfile.ZipInfo(name, STAMP), text, zipfile.ZIP_DEFLATED)


def _text(model: BaseModel) -> str:
    return model.model_dump_json(indent=1, exclude_none=True) + "\n"


def _files(workspace: Workspace, ids: list[str], people: Iterable[StoredPerson]) -> Iterator[tuple[str, str | bytes]]:
    yield "workspace.json", _text(WorkspaceFile(nabrel="workspace", version=1, sitters=ids))
    yield "house.json", _text(workspace.house)
    yield "kit.csv", write_kit(workspace.kit)
    yield "kits.json", _text(KitsFile(kits=tuple(workspace.kits)))
    yield "tools.json", _text(ToolsFile(tools=workspace.tools))
    if workspace.classes:
        yield "classes.json", _text(ClassesFile(classes=workspace.classes))
    for student in workspace.students:
        yield f"{PRACTICE}/{student.id}.json", _text(student)
    for made in workspace.sets:
        yield f"{DRILL_SETS}/{made.id}.json", _text(made)
    for name, raw in workspace.damaged.items():
        yield f"{DAMAGED}/{name}", raw
    kits = _MadeWith()
    for person in people:
        here = f"sitters/{person.id}"
        yield f"{here}/case.json", _text(CaseFile.of(Case(person.sitter, person.intent)))
        yield f"{here}/readings.csv", write_readings(person.readings)
        yield f"{here}/runs.json", _text(RunsFile(runs=person.runs))
        if person.wears:
            yield f"{here}/wears.json", _text(WearsFile(wears=person.wears))
        if person.trials:
            yield f"{here}/trials.json", _text(TrialsFile(trials=person.trials))
        for name, picture in person.photos.items():
            yield f"{here}/photos/{name}", picture
        for stored in person.plans:
            names = [kits.name(sequence.case.kit) for sequence in stored.sequences]
            yield from kits.new()
            rows = zip(stored.plan.revisions, names, strict=True)
            told = [row.model_copy(update={"kit": name}) for row, name in rows]
            yield f"{here}/plans/{stored.plan.id}/plan.json", _text(stored.plan.model_copy(update={"revisions": told}))
            for row, sequence in zip(stored.plan.revisions, stored.sequences, strict=True):
                bare = replace(sequence, case=replace(sequence.case, kit=()))
                yield _revision_name(person.id, stored.plan.id, row.number), _text(SequenceFile.of(bare))


class _MadeWith:
    """The kits that plans were made with: each is written once, by its content."""

    def __init__(self) -> None:
        # A kit that was seen is held, so that no other can be taken for it by its place in memory.
        self._seen: dict[int, tuple[tuple[Product, ...], str]] = {}
        self._written: dict[str, str] = {}
        self._new: list[str] = []

    def name(self, kit: tuple[Product, ...]) -> str | None:
        """The name of a kit; None for no kit."""
        if not kit:
            return None
        if id(kit) not in self._seen:
            text = _text(KitFile(items=kit))
            name = sha256(text.encode()).hexdigest()[:32]
            self._seen[id(kit)] = (kit, name)
            if name not in self._written:
                self._written[name] = text
                self._new.append(name)
        return self._seen[id(kit)][1]

    def new(self) -> Iterator[tuple[str, str]]:
        """The files of kits that were not written yet."""
        for name in self._new:
            yield f"{MADE_WITH}/{name}.json", self._written[name]
            self._written[name] = ""
        self._new.clear()


def _revision_name(person: str, plan: str, number: int) -> str:
    return f"sitters/{person}/plans/{plan}/{number:05d}.sequence.json"


class _Folder:
    """The files of a zip, each read once; refusals name the file."""

    def __init__(self, data: bytes | IO[bytes]) -> None:
        size = len(data) if isinstance(data, bytes) else data.seek(0, io.SEEK_END)
        if size > MOST_ZIP_BYTES:
            raise Refused("file", f"{size:,} bytes", f"at most {MOST_ZIP_BYTES:,} bytes")
        try:
            self._zip = zipfile.ZipFile(io.BytesIO(data) if isinstance(data, bytes) else data)
        except (zipfile.BadZipFile, ValueError, OSError) as error:
            raise Refused("file", "no zip", f"a Nabrel workspace (zip; {error})") from None
        entries = self._zip.infolist()
        if len(entries) > MOST_FILES:
            raise Refused("file", f"{len(entries)} files", f"at most {MOST_FILES} files")
        if sum(entry.file_size for entry in entries) > MOST_UNPACKED_BYTES:
            raise Refused("file", "more when unpacked", f"at most {MOST_UNPACKED_BYTES:,} bytes unpacked")
        for entry in entries:
            # Other kinds of compression unpack to much more at once than anybody asked for.
            if entry.compress_type not in (zipfile.ZIP_STORED, zipfile.ZIP_DEFLATED) or entry.flag_bits & ENCRYPTED:
                raise Refused(entry.filename[:120], "another kind of compression", "a file that is stored or deflated")
        self._unpacked = 0
        self._names = {entry.filename for entry in entries}
        self._within: dict[str, list[str]] = {}
        for name in dict.fromkeys(entry.filename for entry in entries):
            self._within.setdefault(name.partition("/")[0], []).append(name)
        self._kits: dict[str, tuple[Product, ...]] = {}
        self._plans: dict[str, dict[str, None]] = {}
        for entry in entries:
            parts = entry.filename.split("/")
            if (
                len(parts) == PARTS_OF_A_PLAN
                and parts[0] == "sitters"
                and parts[2] == "plans"
                and parts[4] == "plan.json"
            ):
                self._plans.setdefault(parts[1], {})[parts[3]] = None

    def read(self, name: str) -> bytes:
        """The bytes of a file. Refuses one that is missing, damaged, or larger than any of ours."""
        if name not in self._names:
            raise Refused(name, "nothing", "this file in the zip")
        try:
            # A zip may say less of a file than it unpacks to: no more than this is ever unpacked.
            with self._zip.open(name) as file:
                found = file.read(MOST_FILE_BYTES + 1)
        except (zipfile.BadZipFile, RuntimeError, NotImplementedError, OSError, EOFError, ValueError) as error:
            raise Refused(name, "a damaged file", f"a whole one ({error})") from None
        except Exception as error:  # zlib.error has no common base with the rest
            raise Refused(name, "a damaged file", f"a whole one ({type(error).__name__})") from None
        if len(found) > MOST_FILE_BYTES:
            raise Refused(name, f"more than {MOST_FILE_BYTES:,} bytes", f"at most {MOST_FILE_BYTES:,} bytes in a file")
        # What a zip says of itself is not what comes out of it.
        self._unpacked += len(found)
        if self._unpacked > MOST_UNPACKED_BYTES:
            raise Refused("file", "more when unpacked", f"at most {MOST_UNPACKED_BYTES:,} bytes unpacked")
        return found

    def within(self, folder: str, most: int) -> list[str]:
        """The files of a folder, in the order of the zip. Refuses more than there may be."""
        found = [name for name in self._within.get(folder, []) if name.endswith(".json")]
        if len(found) > most:
            raise Refused(folder, f"{len(found)} files", f"at most {most}")
        return found

    def holds(self, name: str) -> bool:
        """Whether there is a file of this name."""
        return name in self._names

    def kit(self, kit_id: str) -> tuple[Product, ...]:
        """A kit that plans were made with, read and checked once."""
        if kit_id not in self._kits:
            name = f"{MADE_WITH}/{kit_id}.json"
            items = self.model(name, KitFile).items
            with self.naming(name):
                self._kits[kit_id] = check_kit(items, "items")
        return self._kits[kit_id]

    def model(self, name: str, kind: type[Model]) -> Model:
        """A file as a document of its kind, whatever version it has. Refusals name the file."""
        with self.naming(name):
            return read(self.read(name), kind, _KIND_OF[kind])

    @contextmanager
    def naming(self, name: str) -> Iterator[None]:
        """Whatever is refused within names the file."""
        try:
            yield
        except Refused as refused:
            field = refused.field if refused.field == name else f"{name}: {refused.field}"
            raise Refused(field, refused.found, refused.allowed) from None

    def plans_of(self, person: str) -> list[str]:
        """Ids of the plans of a sitter, in the order of the zip."""
        return list(self._plans.get(person, {}))


def read_workspace(data: bytes | IO[bytes]) -> Workspace:
    """A workspace from its zip. Refuses, naming the file and the field, whatever is missing, damaged or not allowed."""
    shared, _, people = open_workspace(data)
    return replace(shared, people=list(people))


def open_workspace(data: bytes | IO[bytes]) -> tuple[Workspace, list[str], Iterator[StoredPerson]]:
    """What all share in a workspace's zip, read at once, the ids of its people, and the people, each read when asked for.

    Refusals are those of :func:`read_workspace`; of people when they come.
    """
    folder = _Folder(data)
    listed = folder.model("workspace.json", WorkspaceFile).sitters
    if len(set(listed)) < len(listed):
        raise Refused("workspace.json: sitters", "an id twice", "each sitter once")
    house = folder.model("house.json", HouseFile)
    house_of(house)
    kit = _all_good("kit.csv", ((row.line, row.item, row.refused) for row in read_kit(folder.read("kit.csv"))))
    kits = folder.model("kits.json", KitsFile).kits
    _each_once("kits.json: kits", [each.id for each in kits])
    tools = folder.model("tools.json", ToolsFile).tools
    _each_once("tools.json: tools", [tool.id for tool in tools])
    # Workspaces written before there were classes have none.
    classes = folder.model("classes.json", ClassesFile).classes if folder.holds("classes.json") else []
    _each_once("classes.json: classes", [each.id for each in classes])
    for each in classes:
        for student in each.students:
            if student.sitter is not None and student.sitter not in listed:
                raise Refused("classes.json: students.sitter", student.sitter, "a sitter who is in the zip")
            if student.kit is not None and student.kit not in [named.id for named in kits]:
                raise Refused("classes.json: students.kit", student.kit, "a named kit that is in the zip")
    students, sets = _drilled(folder, listed)
    shared = Workspace(
        house=house, kit=kit, kits=list(kits), tools=tools, classes=classes, students=students, sets=sets
    )
    return shared, listed, _people(folder, listed, classes)


def _drilled(folder: _Folder, listed: list[str]) -> tuple[list[PracticeFile], list[DrillSetFile]]:
    """Students' practice and sets of exercises, each checked."""
    students, sets = [], []
    for name in folder.within(PRACTICE, MOST_DRILL_STUDENTS):
        with folder.naming(name):
            student = check_practice(folder.model(name, PracticeFile))
            if student.sitter is not None and student.sitter not in listed:
                raise Refused("sitter", student.sitter, "a sitter who is in the zip")
            students.append(student)
    for name in folder.within(DRILL_SETS, MOST_SETS):
        with folder.naming(name):
            found = check_set(folder.model(name, DrillSetFile))
            for face in found.faces:
                if face not in listed:
                    raise Refused("faces", face, "a sitter who is in the zip")
            sets.append(found)
    _each_once(f"{PRACTICE}: id", [each.id for each in students])
    _each_once(f"{PRACTICE}: student", [each.student.casefold() for each in students])
    _each_once(f"{DRILL_SETS}: id", [each.id for each in sets])
    _each_once(f"{DRILL_SETS}: code", [each.code for each in sets])
    known = {each.id for each in sets}
    for each in students:
        for answer in each.answers:
            if answer.set is not None and answer.set not in known:
                raise Refused(f"{PRACTICE}/{each.id}.json: answers.set", answer.set, "a set that is in the zip")
    return students, sets


def _people(folder: _Folder, listed: list[str], classes: Iterable[StoredClass]) -> Iterator[StoredPerson]:
    plans: set[str] = set()
    numbers: set[tuple[str, int | None]] = set()
    for person in listed:
        found = _person(folder, person)
        for stored in found.plans:
            if stored.plan.id in plans:
                raise Refused("plans", stored.plan.id, "each id once")
            plans.add(stored.plan.id)
        numbers |= {(stored.plan.id, row.number) for stored in found.plans for row in stored.plan.revisions}
        numbers |= {(stored.plan.id, None) for stored in found.plans}
        yield found
    for each in classes:
        if (each.plan, each.revision) not in numbers:
            raise Refused("classes.json: plan", each.plan, "a plan, and a revision of it, that is in the zip")


Good = TypeVar("Good")


def _all_good(name: str, rows: Iterable[tuple[int, Good | None, Refused | None]]) -> tuple[Good, ...]:
    good: list[Good] = []
    for line, found, refused in rows:
        if refused is not None:
            raise Refused(f"{name}, line {line}: {refused.field}", refused.found, refused.allowed)
        if found is not None:
            good.append(found)
    return tuple(good)


def _each_once(field: str, ids: list[str]) -> None:
    twice = next((each for each, count in Counter(ids).items() if count > 1), None)
    if twice is not None:
        raise Refused(field, twice, "each id once")


def _person(folder: _Folder, person: str) -> StoredPerson:
    here = f"sitters/{person}"
    with folder.naming(f"{here}/case.json"):
        case = check_case(folder.model(f"{here}/case.json", CaseFile).case)
    rows = read_readings(folder.read(f"{here}/readings.csv"), EARLIEST)
    plans = [_plan(folder, person, plan) for plan in folder.plans_of(person)]
    runs = folder.model(f"{here}/runs.json", RunsFile).runs
    # Workspaces written before there were wear records have none.
    wears = folder.model(f"{here}/wears.json", WearsFile).wears if folder.holds(f"{here}/wears.json") else []
    known = {
        (stored.plan.id, row.number): sequence
        for stored in plans
        for row, sequence in zip(stored.plan.revisions, stored.sequences, strict=True)
    }
    trials = folder.model(f"{here}/trials.json", TrialsFile).trials if folder.holds(f"{here}/trials.json") else []
    named = [
        *(("runs", run.plan, run.revision) for run in runs),
        *(("wears", wear.plan, wear.revision) for wear in wears),
        *(("trials", trial.plan, revision) for trial in trials for revision in trial.revisions),
    ]
    for name, plan, revision in named:
        if (plan, revision) not in known:
            raise Refused(f"{here}/{name}.json", f"{plan}, revision {revision}", "a revision that is in the zip")
    with folder.naming(f"{here}/wears.json"):
        wears = [
            each.model_copy(update={"looks": checked_looks(each.looks, known[each.plan, each.revision])})
            for each in wears
        ]
    pictures = dict.fromkeys(look.photo for each in wears for look in each.looks if look.photo)
    photos = {name: _photo(folder, f"{here}/photos/{name}") for name in pictures}
    return StoredPerson(
        id=person,
        sitter=case.sitter,
        intent=case.intent,
        readings=_all_good(f"{here}/readings.csv", ((row.line, row.reading, row.refused) for row in rows)),
        plans=plans,
        runs=runs,
        wears=wears,
        trials=trials,
        photos=photos,
    )


def _photo(folder: _Folder, name: str) -> bytes:
    """A photograph of the zip, as it may be kept. Refuses one that is missing, and what is no photograph."""
    from nabrel.formats.photo import re_encoded  # noqa: PLC0415 - Pillow is loaded only where there are pictures

    with folder.naming(name):
        return re_encoded(folder.read(name))


def _plan(folder: _Folder, person: str, plan: str) -> StoredPlan:
    name = f"sitters/{person}/plans/{plan}/plan.json"
    model = folder.model(name, PlanFile)
    if model.id != plan:
        raise Refused(f"{name}: id", model.id, f"the id of its folder, {plan}")
    numbers = [row.number for row in model.revisions]
    if numbers != sorted(set(numbers)) or model.head not in numbers:
        raise Refused(f"{name}: revisions", numbers, "revisions in order, each once, the head among them")
    for row in model.revisions:
        if row.parent is not None and (row.parent not in numbers or row.parent >= row.number):
            raise Refused(f"{name}: revisions", row.parent, "a parent that came before")
    sequences = []
    for row in model.revisions:
        kit = folder.kit(row.kit) if row.kit is not None else None
        file = _revision_name(person, plan, row.number)
        with folder.naming(file):
            sequence = folder.model(file, SequenceFile).sequence
            if kit is not None:
                sequence = replace(sequence, case=replace(sequence.case, kit=kit))
            sequences.append(check_sequence(sequence, kit_checked=kit is not None))
    rows = [row.model_copy(update={"kit": None}) for row in model.revisions]
    return StoredPlan(plan=model.model_copy(update={"revisions": rows}), sequences=sequences)
