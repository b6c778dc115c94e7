"""One lesson, many faces: plans, differences, what must stop, half faces, stand-ins, savings, branches and named mistakes."""

from __future__ import annotations

from dataclasses import replace
from datetime import date
from itertools import pairwise

import pytest

from nabrel.core.ask.branches import branches, on_skin, skins, skins_words
from nabrel.core.ask.mistakes import MISTAKES, all_made, made, mistake_of
from nabrel.core.ask.recommend import plan
from nabrel.core.base.spending import taken
from nabrel.core.case.sitter import ZoneSkin
from nabrel.core.documents.camps import ABOUT, camps
from nabrel.core.errors import Refused
from nabrel.core.film.difference import delta_e
from nabrel.core.house import House
from nabrel.core.judge.evaluate import course_of, evaluate
from nabrel.core.lesson.blocks import blocks_of, held_together, parts_like
from nabrel.core.lesson.clock import hours_s, moment_at
from nabrel.core.lesson.duties import SETTING_UP
from nabrel.core.lesson.faces import half_of
from nabrel.core.lesson.lesson import lesson, rounds
from nabrel.core.lesson.room import Room, Student, checked_room
from nabrel.core.lesson.tools import stand_ins
from nabrel.core.lesson.weigh_out import buying
from nabrel.core.pace.tasks import UNSPLIT
from nabrel.core.shelf.doses import passed_on
from nabrel.core.terms.hands import STAND_INS, TOOLS
from nabrel.core.terms.steps import STEP_INFO
from nabrel.core.terms.zones import ZONE_INFO

HOUSE = House()
DAY = date(2026, 11, 20)


@pytest.fixture(scope="module")
def taught(people):
    return plan(people["Wren"], HOUSE)


def faced(people, *names, kit=()):
    return tuple(Student(name, 1.5, replace(people[name], kit=kit)) for name in names)


def broken(people, name):
    """The same face with broken skin on one cheek."""
    case = replace(people[name], kit=())
    zones = {**case.sitter.zones, "cheek_apple_l": ZoneSkin({"broken_skin": 1})}
    return replace(case, sitter=replace(case.sitter, zones=zones))


def test_every_face_is_planned_in_the_school_of_the_lesson_with_its_own_differences(taught, people):
    room = Room(
        title="Faces",
        date=DAY,
        start="18:30",
        sequence=taught,
        students=faced(people, "Bram", "Merrick", "Posy"),
        stations=3,
    )
    found = lesson(room, HOUSE)
    assert {face.plan.school for face in found.faces.values()} == {taught.school}
    for name, face in found.faces.items():
        assert face.of == name
        assert face.plan.case.sitter.nickname == name
        assert face.changes
        kinds = {step.kind for step in (*face.plan.steps, *taught.steps)}
        assert {change.kind for change in face.changes} <= kinds
        items = {part.item for step in face.plan.steps for part in step.mix}
        assert items <= {item.id for item in taught.case.kit}
    # Deep skin gets another foundation than pale skin, and is told which.
    said = " ".join(change.says for change in found.faces["Merrick"].changes)
    assert "Foundation:" in said
    assert "instead of" in said


def test_a_students_own_kit_plans_their_face_and_is_not_weighed_out(taught, people):
    own = tuple(replace(item, id=f"own-{item.id}") for item in taught.case.kit)
    room = Room(
        title="Own kit",
        date=DAY,
        start="18:30",
        sequence=taught,
        students=(*faced(people, "Posy", kit=own), Student("Pike")),
        stations=2,
    )
    found = lesson(room, HOUSE)
    used = {part.item for step in found.faces["Posy"].plan.steps for part in step.mix}
    assert used
    assert all(item.startswith("own-") for item in used)
    weighed = {each.item: each.amount for each in found.weigh_out}
    assert weighed
    assert not any(item.startswith("own-") for item in weighed)
    for item, (amount, _) in taken(course_of(taught, HOUSE)).items():
        assert weighed[item] == pytest.approx(amount * 1.15), "Pike alone takes from the class"


def test_pairs_work_on_each_other_with_their_own_kit_and_what_the_other_must_not_have(taught, people):
    used = {part.item for step in taught.steps for part in step.mix}
    kit = tuple(replace(i, contains=("fragrance",) if i.id in used else (), ingredients=()) for i in taught.case.kit)
    sequence = replace(taught, case=replace(taught.case, kit=kit))
    one, other = faced(people, "Bram", "Posy")
    room = Room(
        title="Pairs",
        date=DAY,
        start="18:30",
        sequence=sequence,
        students=(one, other),
        stations=1,
        pairs=(("Bram", "Posy"),),
    )
    found = lesson(room, HOUSE)
    assert (found.faces["Bram"].of, found.faces["Posy"].of) == ("Posy", "Bram")
    assert "fragrance" in people["Posy"].sitter.avoid
    on_posy = {part.item for step in found.faces["Bram"].plan.steps for part in step.mix}
    assert on_posy
    assert not on_posy & used, "whoever works on Posy has none of it"
    assert [each.student for each in found.allergies] == ["Posy"]


def test_nobody_works_on_broken_skin_and_who_observes_is_offered(taught, people):
    students = (Student("Oda", 1.5, broken(people, "Isolde")), *faced(people, "Bram"), Student("Pike"))
    found = lesson(Room(title="Stop", date=DAY, start="18:30", sequence=taught, students=students, stations=3), HOUSE)
    face = found.faces["Oda"]
    assert face.of is None
    assert "the skin is broken" in face.stop
    assert "pharmacist or clinician" in face.stop
    assert face.observes in {"Bram", "Pike"}
    assert any("observes" in offer for offer in face.offers)
    doings = {each.doing for each in found.students["Oda"]}
    assert "observe" in doings
    assert not doings & {"practise", "check", "turn"}
    assert any(face.stop in duty.says for duty in found.before_class)
    # Alone in the room there is nobody to watch but the educator.
    alone = lesson(
        Room(title="Stop", date=DAY, start="18:30", sequence=taught, students=students[:1], stations=1), HOUSE
    )
    assert alone.faces["Oda"].offers == ("Oda observes the demonstration.",)
    assert alone.weigh_out == ()


def test_a_partner_of_a_face_that_must_stop_practises_on_their_own(taught, people):
    students = (Student("Oda", 1.5, broken(people, "Isolde")), *faced(people, "Bram"))
    found = lesson(
        Room(
            title="Stop",
            date=DAY,
            start="18:30",
            sequence=taught,
            students=students,
            stations=2,
            pairs=(("Oda", "Bram"),),
        ),
        HOUSE,
    )
    assert (found.faces["Bram"].of, found.faces["Oda"].of) == ("Bram", "Bram")
    assert found.faces["Bram"].offers == ("Bram practises on their own face.",)


def test_half_a_face_is_the_right_side_with_the_middle_and_takes_and_lasts_less(taught):
    half = half_of(taught)
    whole = {step.id: step for step in taught.steps}
    halved = [step for step in half.steps if STEP_INFO[step.kind].nature not in UNSPLIT and step.zones]
    assert halved
    for step in halved:
        assert all(ZONE_INFO[zone].side != "l" for zone in step.zones)
        assert set(step.zones) == {zone for zone in whole[step.id].zones if ZONE_INFO[zone].side != "l"}
    room = Room(
        title="Half", date=DAY, start="18:30", sequence=taught, students=(Student("A"), Student("B")), stations=2
    )
    full, less = lesson(room, HOUSE), lesson(replace(room, half="one_half"), HOUSE)
    assert less.length_s < full.length_s
    amounts = {each.item: each.amount for each in full.weigh_out}
    shade = next(step.item for step in taught.steps if step.kind == "shade")
    assert next(e.amount for e in less.weigh_out if e.item == shade) < 0.7 * amounts[shade]


def test_who_has_no_such_tool_is_told_what_stands_in_and_how_much_to_take(taught):
    student = Student("Pike", tools=("fluffy_brush",))
    found = stand_ins(student, taught, HOUSE)
    used = {tool for step in taught.steps for tool in step.tools}
    assert {each.tool for each in found} == used - {"fingers", "fluffy_brush"}
    for each in found:
        assert each.by in {"fingers", "fluffy_brush"}
        ratio = passed_on(each.tool, HOUSE) / passed_on(each.by, HOUSE)
        assert ("% less" in each.says) == (ratio < 0.9)
        assert ("% more" in each.says) == (ratio > 1.1)
    assert any("% less" in each.says for each in found), "fingers keep less than a sponge"
    assert stand_ins(Student("Quill"), taught, HOUSE) == ()
    assert set(STAND_INS) == set(TOOLS)


def test_what_is_too_little_on_the_shelf_is_bought_in_whole_packs(taught):
    room = Room(
        title="Buy",
        date=DAY,
        start="18:30",
        sequence=taught,
        students=tuple(Student(f"S{n}") for n in range(20)),
        stations=20,
    )
    weighed = lesson(room, HOUSE).weigh_out
    first = weighed[0]
    known = {item.id: item for item in taught.case.kit}
    content = known[first.item].ml if first.unit == "ml" else known[first.item].g
    nearly = replace(known[first.item], left=0.5 * first.amount / content)
    found = {each.item: each for each in buying(weighed, [nearly, *(i for i in taught.case.kit if i.id != first.item)])}
    assert found[first.item].packs == 1
    assert found[first.item].left == pytest.approx(0.5 * first.amount)
    assert sum(each.packs for each in found.values() if each.item != first.item) == 0
    missing = {each.item: each for each in buying(weighed, [])}
    assert all(each.packs == 1 and each.left is None for each in missing.values())


def test_a_thinner_way_saves_what_it_says_on_every_face(people):
    baked = plan(people["Bram"], HOUSE)
    assert any(step.kind == "bake" for step in baked.steps)
    room = Room(
        title="Savings", date=DAY, start="18:30", sequence=baked, students=(Student("A"), Student("B")), stations=2
    )
    found = lesson(room, HOUSE)
    bake = next(each for each in found.savings if each.kind == "bake")
    assert "Press the powder on instead of baking" in bake.says
    steps = tuple(
        replace(s, portions=tuple(replace(p, amount=min(p.amount, 0.2)) for p in s.portions)) if s.kind == "bake" else s
        for s in baked.steps
    )
    before, after = (course_of(replace(baked, steps=each), HOUSE) for each in (baked.steps, steps))
    items = {part.item for step in baked.steps if step.kind == "bake" for part in step.mix}
    saved = sum(taken(before)[item][0] - taken(after)[item][0] for item in items) * 2 * 1.15
    assert bake.saves == pytest.approx(saved)


def test_educators_check_everybody_once_a_block_and_are_never_in_two_places(taught):
    students = tuple(Student(f"S{n}", 1.5 + 0.3 * (n % 3)) for n in range(7))
    found = lesson(
        Room(title="Rounds", date=DAY, start="18:30", sequence=taught, students=students, stations=4, educators=2),
        HOUSE,
    )
    own = rounds(found.timed, 2)
    assert len(own) == 2
    for educator in own:
        for one, other in pairwise(educator):
            assert other.start_s >= one.end_s
    checks = [(each.student, each.block) for educator in own for each in educator if each.doing == "check"]
    assert sorted(checks) == sorted((s.name, b) for s in students for b in range(len(found.timed.parts)))


def test_cuts_may_lie_wherever_nothing_must_follow_soon_and_are_refused_elsewhere_with_the_reason(taught):
    held = held_together(taught, HOUSE)
    assert held
    free = [step.id for step in taught.steps[1:] if step.id not in held]
    cuts = tuple(free[:3])
    blocks = blocks_of(taught, HOUSE, cuts)
    assert [block.id for block in blocks] == [taught.steps[0].id, *cuts]
    for step, reason in held.items():
        with pytest.raises(Refused) as refused:
            blocks_of(taught, HOUSE, (step,))
        assert reason in refused.value.allowed
    with pytest.raises(Refused) as unknown:
        blocks_of(taught, HOUSE, ("nothing",))
    assert unknown.value.field == "cuts[0]"


def test_a_block_begins_at_its_fixed_moment_and_one_too_early_is_refused(taught):
    room = Room(
        title="Pins", date=DAY, start="18:30", sequence=taught, students=(Student("A"), Student("B")), stations=2
    )
    free = lesson(room, HOUSE)
    last = free.timed.parts[-1].block
    begins = next(p.start_s for p in free.blocks if p.phase == "demonstrate" and p.steps == last.steps)
    later = lesson(replace(room, pins={last.id: begins + 1200}), HOUSE)
    assert next(p.start_s for p in later.blocks if p.phase == "demonstrate" and p.steps == last.steps) == begins + 1200
    with pytest.raises(Refused) as refused:
        lesson(replace(room, pins={last.id: begins - 600}), HOUSE)
    assert refused.value.field == f"pins.{last.id}"
    assert f"{moment_at(DAY, '18:30', None, begins):%H:%M}" in refused.value.allowed
    with pytest.raises(Refused):
        lesson(replace(room, pins={"nothing": 600}), HOUSE)


def test_a_plan_for_another_face_is_cut_like_the_one_that_is_taught(taught, people):
    blocks = blocks_of(taught, HOUSE)
    own = plan(replace(people["Bram"], intent=replace(people["Bram"].intent, school=taught.school)), HOUSE)
    parts = parts_like(own, taught, blocks)
    assert [step for part in parts for step in part.steps] == list(own.steps)


def test_hours_count_across_midnight_and_where_clocks_change():
    autumn, spring = date(2026, 10, 25), date(2027, 3, 28)
    assert hours_s(DAY, "22:00", "00:30", None) == 9000
    assert hours_s(autumn, "00:30", "02:30", "Europe/London") == 3 * 3600, "an hour is lived twice"
    assert hours_s(spring, "00:30", "02:30", "Europe/London") == 3600
    assert f"{moment_at(spring, '00:30', 'Europe/London', 3600):%H:%M}" == "02:30"
    assert f"{moment_at(autumn, '00:30', None, 7200):%H:%M}" == "02:30", "without a zone it floats"


@pytest.mark.parametrize(("change", "field"), [
    ({"date": date(2027, 3, 28), "start": "01:30", "zone": "Europe/London"}, "start"),
    ({"zone": "Kestrel/Quay"}, "zone"),
    ({"zone": "../../etc/passwd"}, "zone"),
    ({"half": "mistake"}, "mistake"),
    ({"half": "mistake", "mistake": "nothing"}, "mistake"),
])  # fmt: skip
def test_an_hour_that_no_clock_shows_and_unknown_zones_and_mistakes_are_refused(taught, change, field):
    with pytest.raises(Refused) as refused:
        checked_room(
            replace(
                Room(title="Clocks", date=DAY, start="18:30", sequence=taught, students=(Student("A"),), stations=1),
                **change,
            )
        )
    assert refused.value.field == field


def test_duties_stand_in_time_and_setting_up_comes_half_an_hour_before(taught):
    found = lesson(
        Room(
            title="Duties",
            date=DAY,
            start="18:30",
            sequence=taught,
            students=tuple(Student(f"S{n}") for n in range(6)),
            stations=3,
        ),
        HOUSE,
    )
    timed = [each for each in found.before_class if each.at_s is not None]
    assert {each.at_s for each in timed} == {-SETTING_UP}
    assert {each.when for each in timed} == {"18:00"}
    during = [each.at_s for each in found.during_class]
    assert during == sorted(during)
    assert during, "stations change hands"
    assert all(0 < at < found.length_s for at in during)
    assert {each.at_s for each in found.after_class} == {found.length_s}


def test_branches_say_of_every_skin_what_the_planner_would_do_there(taught):
    model = evaluate(taught, HOUSE, try_fixes=False)
    found = branches(model, HOUSE)
    assert found
    for branch in found:
        named = [skin for other in branch.otherwise for skin in other.skins]
        assert len(named) == len(set(named))
        assert branch.as_shown == skins_words(skin for skin in skins() if skin not in named)
    for skin in skins():
        changed = {change.kind for change in on_skin(model, skin, HOUSE).changes}
        told = {branch.kind for branch in found if any(skin in other.skins for other in branch.otherwise)}
        assert told == changed
    oily = on_skin(model, "oily", HOUSE)
    assert "Clear gel" in " ".join(change.says for change in oily.changes)


@pytest.mark.parametrize("name", ["Wren", "Bram", "Merrick", "Posy"])
def test_named_mistakes_do_to_a_plan_what_they_say(people, name):
    now = evaluate(plan(people[name], HOUSE), HOUSE, try_fixes=False)
    found = all_made(now, HOUSE)
    assert len(found) >= 6
    for each in found:
        assert each.edits
        assert each.trial.after.sequence.steps != now.sequence.steps
        seen = delta_e(each.trial.after.appearance.lab[-1], now.appearance.lab[-1]).max()
        assert each.trial.look_de == pytest.approx(float(seen))
        assert each.shows


def test_mistakes_break_the_rules_that_students_are_taught(taught):
    now = evaluate(taught, HOUSE, try_fixes=False)
    expected = {
        "corrector_too_thick": "corrector-hidden",
        "whole_under_eye": "corrector-within-patch",
        "shade_to_the_mouth": "shade-short-of-the-mouth",
        "shade_on_the_jowl": "no-shade-on-the-jowl",
        "one_sponge": "shade-and-light-apart",
        "over_creases": "crease-check-before-powder",
        "glow_on_texture": "no-shimmer-on-texture",
        "no_waits": "let-it-settle",
        "dry_sponge": "no-dry-sponge-for-cream",
    }
    for mistake, rule in expected.items():
        found = made(now, mistake_of(mistake), HOUSE)
        assert found is not None, mistake
        assert rule in {each.rule for each in found.trial.come}, mistake
    assert set(expected) <= set(MISTAKES)


def test_cards_show_the_side_that_the_plan_takes_and_every_other(taught):
    found = {card.question: card for card in camps(taught)}
    order = found["Light or shade first"]
    assert order.here.words == "Light first"
    assert [other.words for other in order.others] == ["Shade first"]
    assert "dark out of light" in order.one_reason
    other_way = replace(taught, case=replace(taught.case, intent=replace(taught.case.intent, order="shade_first")))
    assert {c.question: c.here.words for c in camps(other_way)}["Light or shade first"] == "Shade first"
    bare = replace(taught, steps=tuple(s for s in taught.steps if s.kind not in ("light", "shade")))
    assert "Light or shade first" not in {card.question for card in camps(bare)}
    assert found["Setting"].here.words == "Press"
    assert set(ABOUT) >= {"order", "corrector", "spot"}
