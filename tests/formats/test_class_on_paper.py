"""What a class is written as: its file back and forth, its handouts page by page, its calendar read back."""

from __future__ import annotations

import io
import json
from dataclasses import replace
from datetime import UTC, date, datetime

import pytest
from icalendar import Calendar
from pypdf import PdfReader

from nabrel.core.ask.recommend import plan
from nabrel.core.documents.handout import half_and_half, handouts
from nabrel.core.house import House
from nabrel.core.lesson.lesson import lesson, rounds
from nabrel.core.lesson.room import AskedQuestion, CheckDone, ClassLog, PhaseDone, Room, Shared, Student
from nabrel.core.terms.zones import ZONE_INFO, ZONES
from nabrel.formats.class_calendar import class_calendar
from nabrel.formats.classes import ClassFile, read_class
from nabrel.formats.sheet import Print
from nabrel.formats.sheet.handout import handouts_pdf
from tests.commands import run

HOUSE = House()
LONG = "Wilhelmina-Araminta of the lamp room, second from the left"


@pytest.fixture(scope="module")
def room(people):
    """A class with everything: faces known and not, a pair, a mistake, a log, and a name as long as names may be."""
    taught = plan(people["Wren"], HOUSE)
    students = (
        *(Student(name, 1.5, replace(people[name], kit=())) for name in ("Bram", "Merrick")),
        Student(LONG, 2.0),
        Student("Pike", 2.5, tools=("fluffy_brush",)),
    )
    first = taught.steps[0].id
    return Room(
        title="Evening", date=date(2026, 10, 24), start="23:30", sequence=taught, students=students, stations=2, shared=(Shared("sink"),), until="03:30",
        zone="Europe/London", pairs=(("Bram", "Merrick"),), half="mistake", mistake="shade_too_deep",
        cuts=(taught.steps[4].id,), pins={taught.steps[4].id: 5400},
        log=ClassLog(
            "2026-10-24T22:30:00+00:00", (PhaseDone("demonstrate", first, 0.0, 400.0),),
            (CheckDone("Bram", first, 500.0), CheckDone("Pike", first, 620.0, again=True)), (AskedQuestion(30.0, "Why?", first),), (LONG,),
        ),
    )  # fmt: skip


@pytest.fixture(scope="module")
def found(room):
    return lesson(replace(room, log=ClassLog(), pins={}), HOUSE)


def test_a_class_is_read_back_as_it_was_written(room):
    written = ClassFile.of(room)
    back = read_class(written.model_dump_json().encode())
    assert back.room == room
    assert back.checked == {"Bram": (room.sequence.steps[0].id,)}
    # Who only stands in the list of an older file was checked too, at no known time.
    older = json.loads(written.model_dump_json())
    older["log"]["checks"] = []
    assert read_class(json.dumps(older).encode()).room.log.checks == (CheckDone("Bram", room.sequence.steps[0].id),)


def squeezed(text):
    """Without what a long name is broken at."""
    return "".join(text.split())


@pytest.mark.parametrize(("paper", "large", "mirrored"), [("a4", False, False), ("letter", False, True)])
def test_every_students_sheet_is_one_page_and_names_only_nicknames(found, paper, large, mirrored):
    made = handouts(found, HOUSE)
    reader = PdfReader(io.BytesIO(handouts_pdf(made, Print(paper, large, mirrored=mirrored))))
    text = [page.extract_text() for page in reader.pages]
    assert reader.trailer["/Root"]["/MarkInfo"]["/Marked"]
    for student in made.students:
        sheet, own, slip = (
            [n for n, page in enumerate(text) if squeezed(student.title) in squeezed(page) and word in page]
            for word in ("Lay out:", "A face to mark", "how it wears")
        )
        assert len(sheet) == len(own) == 1
        assert own[0] == sheet[0] + 1, "a sheet is one page"
        assert slip, "the slip follows"
    whole = " ".join(text)
    for words in (
        "Weigh out",
        "Two camps, one reason",
        "If your skin is",
        "One half right, one half wrong",
        "By the clock",
    ):
        assert words in whole
    assert ("as your mirror shows them" in whole) == mirrored
    for weighed in found.weigh_out:
        assert weighed.name in whole
    for duty in found.during_class:
        assert duty.when in whole


def test_large_type_says_the_same_on_more_pages(found):
    made = handouts(found, HOUSE)
    small, large = (len(PdfReader(io.BytesIO(handouts_pdf(made, Print(large=each)))).pages) for each in (False, True))
    assert large > small


def test_handouts_say_what_the_lesson_says(found):
    called = []
    made = handouts(found, HOUSE, lambda: called.append(1))
    assert len(called) == len(found.room.students)
    by_name = {each.name: each for each in made.students}
    assert by_name["Bram"].title == "Bram, on Merrick"
    assert not by_name["Bram"].mirrored
    assert by_name["Pike"].mirrored
    assert len(by_name["Pike"].tools) > 0
    assert [row.cells for row in by_name["Bram"].differs] == [(c.says, c.why) for c in found.faces["Bram"].changes]
    assert len(made.rounds) == 1
    assert len(made.rounds[0]) == len(rounds(found.timed, 1)[0])


def test_half_and_half_shows_the_right_way_on_one_side_and_the_mistake_on_the_other(found):
    both = half_and_half(found.model, "shade_too_deep", HOUSE)
    right = dict(zip(ZONES, found.model.appearance.hexes[-1], strict=True))
    differs = {zone for zone in ZONES if both.colours[zone] != right[zone]}
    assert differs
    assert {ZONE_INFO[zone].side for zone in differs} == {"l"}
    assert both.says


def test_the_calendar_is_read_back_in_its_zone_across_the_change_of_clocks(found):
    events = {str(e["uid"]): e for e in Calendar.from_ical(class_calendar(found, "key")).walk("VEVENT")}
    taught = events["key-class@nabrel"]
    assert taught["dtstart"].dt == datetime(2026, 10, 24, 22, 30, tzinfo=UTC)
    assert (taught["dtend"].dt - taught["dtstart"].dt).total_seconds() == found.length_s
    assert str(taught["summary"]) == "Evening"
    assert "23:30 Show" in str(taught["description"])
    assert events["key-second-look@nabrel"]["dtstart"].dt > taught["dtend"].dt
    assert events["key-set-up@nabrel"]["dtend"].dt == taught["dtstart"].dt
    assert "allergies" in str(events["key-prepare@nabrel"]["description"])
    floating = lesson(replace(found.room, zone=None), HOUSE)
    first = Calendar.from_ical(class_calendar(floating)).walk("VEVENT")[0]
    assert first["dtstart"].dt == datetime(2026, 10, 24, 23, 30)


def test_the_command_writes_calendar_and_handouts(room, tmp_path):
    file = tmp_path / "c.class.json"
    file.write_text(ClassFile.of(replace(room, pins={})).model_dump_json(), encoding="utf-8")
    ics, pdf = tmp_path / "c.ics", tmp_path / "c.pdf"
    said = run("class", str(file), "--ics", str(ics), "--handouts", str(pdf), "--paper", "letter", "--mirrored")
    assert said.returncode == 0, said.stderr
    printed = json.loads(said.stdout)
    assert {each["name"]: each["face"] for each in printed["students"]}["Bram"] == "Merrick"
    assert ics.read_bytes().startswith(b"BEGIN:VCALENDAR")
    assert PdfReader(pdf).pages[0].mediabox.width == pytest.approx(612, abs=1)
    wrong = run("class", str(file), "--ics", str(tmp_path / "no" / "c.ics"))
    assert (wrong.returncode, wrong.stdout) == (2, "")
    assert "--ics" in wrong.stderr
