"""The six schools: each in its own order, with every way of working, and which of them suits whom."""

from __future__ import annotations

from dataclasses import replace
from itertools import product
from pathlib import Path

import pytest
from hypothesis import given, settings

from nabrel.core.ask.recommend import plan, rank_schools
from nabrel.core.case.intent import OPTIONS, Intent, Options
from nabrel.core.house import House
from nabrel.core.judge.evaluate import evaluate
from nabrel.core.planner import planner
from nabrel.core.planner.planner import SCHOOLS, plan_in
from nabrel.core.terms.schools import SCHOOL_INFO
from nabrel.core.terms.schools import SCHOOLS as SCHOOL_IDS
from tests.conftest import in_school
from tests.core.cases import cases
from tests.making import takes

HOUSE = House()


def kinds(sequence):
    return [step.kind for step in sequence.steps]


def first(sequence, kind, dry=None):
    for index, step in enumerate(sequence.steps):
        if step.kind == kind and (dry is None or (step.powder_mg is not None) == dry):
            return index
    raise AssertionError(f"no {kind} in {kinds(sequence)}")


def last(sequence, kind):
    return max(i for i, step in enumerate(sequence.steps) if step.kind == kind)


def asked(case, school, **options):
    return in_school(case, school, options=replace(Options(), **options))


def test_underpainted_sculpts_beneath_and_overpainted_on_top(people):
    beneath, over = (plan(in_school(people["Tamsin"], s), HOUSE) for s in ("underpainted", "overpainted"))
    assert first(beneath, "shade") < first(beneath, "foundation")
    assert first(over, "shade") > last(over, "foundation")


def test_two_tone_lays_a_paler_foundation_in_the_middle_and_a_deeper_one_around_it(people):
    sequence = plan(in_school(people["Bram"], "two_tone"), HOUSE)
    by_zone = {z: sequence.case.product(s.item) for s in sequence.steps if s.kind == "foundation" for z in s.zones}
    assert by_zone["forehead_centre"].lab[0] > by_zone["cheek_hollow_l"].lab[0]
    assert by_zone["neck"] == by_zone["cheek_hollow_l"] == by_zone["jaw_r"]
    assert by_zone["forehead_centre"].base == by_zone["neck"].base
    assert "shade" not in kinds(sequence)


def test_two_tone_conceals_before_it_lays_foundation(people):
    sequence = plan(in_school(people["Isolde"], "two_tone"), HOUSE)
    assert first(sequence, "conceal") < first(sequence, "foundation")


def test_light_led_has_glow_and_muted_recesses_and_no_shade(people):
    sequence = plan(in_school(people["Halcyon"], "light_led"), HOUSE)
    assert "shade" not in kinds(sequence)
    assert first(sequence, "glow") < first(sequence, "mute_shine")
    assert any(bare.kind == "shade" and "Light-led" in bare.why for bare in sequence.left_bare)


def test_powder_sculpted_sets_and_then_sculpts_in_powder(people):
    sequence = plan(in_school(people["Bram"], "powder_sculpted"), HOUSE)
    assert first(sequence, "light") < first(sequence, "set") < first(sequence, "shade", dry=True)
    assert not [s for s in sequence.steps if s.kind in ("shade", "colour") and s.film_um]


def test_powder_shade_is_left_off_uneven_skin(people):
    sequence = plan(in_school(people["Tamsin"], "powder_sculpted"), HOUSE)
    assert not {"cheek_apple_l"} & {z for s in sequence.steps if s.kind == "colour" for z in s.zones}
    assert any("unevenness" in bare.why for bare in sequence.left_bare)


def test_doubled_lays_the_sculpt_in_cream_and_again_in_powder(people):
    sequence = plan(in_school(people["Bram"], "doubled"), HOUSE)
    assert first(sequence, "shade", dry=False) < first(sequence, "set") < first(sequence, "shade", dry=True)
    single = plan(in_school(people["Bram"], "overpainted"), HOUSE)
    rows = {school: evaluate(s, HOUSE).appearance.read_through for school, s in (("d", sequence), ("o", single))}
    shows = {key: sum(r.visible_step for r in found if r.kind == "shade") for key, found in rows.items()}
    assert shows["d"] == pytest.approx(shows["o"], rel=0.45)


# Ways of working


@pytest.mark.parametrize("school", ["underpainted", "overpainted", "doubled"])
def test_light_or_shade_first(people, school):
    light = plan(in_school(people["Tamsin"], school, order="light_first"), HOUSE)
    shade = plan(in_school(people["Tamsin"], school, order="shade_first"), HOUSE)
    assert first(light, "light") < first(light, "shade")
    assert first(shade, "shade") < first(shade, "light")


def test_place_all_blends_once_at_the_end(people):
    sequence = plan(in_school(people["Tamsin"], "overpainted", blend="place_all"), HOUSE)
    assert first(sequence, "shade") < first(sequence, "soften_edges")
    assert any("placed first" in why for s in sequence.steps if s.kind == "soften_edges" for why in s.why)


def test_the_corrector_may_wait_for_the_shade_or_the_foundation(people):
    wren = people["Wren"]
    before = plan(asked(wren, "underpainted", corrector="before_sculpt"), HOUSE)
    later = plan(asked(wren, "underpainted", corrector="after_sculpt"), HOUSE)
    assert first(before, "correct") < first(before, "light")
    assert first(later, "correct") > first(later, "shade")
    last_of_all = plan(asked(wren, "overpainted", corrector="after_foundation"), HOUSE)
    if "correct" in kinds(last_of_all):
        assert first(last_of_all, "correct") > last(last_of_all, "foundation")


def test_spots_are_concealed_on_the_side_of_the_foundation_that_was_asked(people):
    after = plan(asked(people["Isolde"], "overpainted", spot="after_foundation"), HOUSE)
    before = plan(asked(people["Isolde"], "overpainted", spot="before_foundation"), HOUSE)
    on_marks = [
        next(
            n
            for n, step in enumerate(each.steps)
            if "conceal" in step.kind and any(p.patch < 1.0 for p in step.portions)
        )
        for each in (after, before)
    ]
    assert on_marks[0] > last(after, "foundation")
    assert on_marks[1] < first(before, "foundation")


def test_a_second_pass_goes_only_where_it_is_still_needed(people):
    sequence = plan(asked(people["Posy"], "overpainted", second_pass=True), HOUSE)
    passes = [s for s in sequence.steps if s.kind == "foundation" and any("second thin press" in w for w in s.why)]
    told = any("No second pass" in note for note in sequence.notes)
    assert bool(passes) != told
    for step in passes:
        assert step.film_um <= HOUSE.second_pass_um


def test_a_bronzer_bridges_before_the_shade_or_comes_last_in_powder(people):
    bridge = plan(asked(people["Bram"], "overpainted", bronzer="bridge"), HOUSE)
    assert first(bridge, "bronze") < first(bridge, "shade")
    late = plan(asked(people["Bram"], "powder_sculpted", bronzer="last"), HOUSE)
    assert first(late, "bronze", dry=True) > first(late, "set")


def test_a_crisp_edge_gets_its_cleaning_line_and_a_border_pass_the_dark_tool(people):
    sequence = plan(asked(people["Tamsin"], "overpainted", shade_edge="crisp", border_pass=True), HOUSE)
    edge = sequence.steps[first(sequence, "clean_edge")]
    assert set(edge.zones) <= {"jaw_l", "jaw_r"}
    assert any("dark tool" in why for s in sequence.steps if s.kind == "soften_edges" for why in s.why)


@pytest.mark.parametrize("where", ["under", "mixed", "after_colour", "last"])
def test_glow_goes_where_it_was_asked(people, where):
    sequence = plan(asked(people["Halcyon"], "overpainted", glow=where), HOUSE)
    at = first(sequence, "glow")
    if where in ("under", "mixed"):
        assert at < first(sequence, "foundation")
    elif where == "after_colour":
        assert first(sequence, "colour") < at < first(sequence, "crease_check")
    else:
        assert at > first(sequence, "crease_check")


def test_no_glow_and_no_melting_mist_where_none_were_asked(people):
    found = kinds(plan(asked(people["Wren"], "overpainted", glow="none", melting_mist="none"), HOUSE))
    assert "glow" not in found
    assert "melting_mist" not in found


def test_a_melting_mist_before_the_glow(people):
    sequence = plan(asked(people["Halcyon"], "doubled", melting_mist="before_glow", glow="last"), HOUSE)
    if "glow" in kinds(sequence):
        assert first(sequence, "melting_mist") < first(sequence, "glow")


def test_dots_on_the_face_take_more_than_the_hand(people):
    hand = plan(asked(people["Tamsin"], "overpainted", laid_from="hand"), HOUSE)
    dots = plan(asked(people["Tamsin"], "overpainted", laid_from="face"), HOUSE)
    (more,), (less,) = (
        [t for step, t in takes(each).items() if each.step(step).kind == "foundation"] for each in (dots, hand)
    )
    assert more.amount > less.amount


def test_powder_foundation_veils_or_sets(people):
    veil = plan(asked(people["Bram"], "powder_sculpted", powder_foundation="veil"), HOUSE)
    assert any("veil of powder foundation" in why for s in veil.steps for why in s.why)
    setting = plan(asked(people["Bram"], "overpainted", powder_foundation="set"), HOUSE)
    powders = {setting.case.product(s.item).role for s in setting.steps if s.kind in ("set", "bake")}
    assert powders == {"powder_foundation", "setting_powder"}
    by_kind = {(s.kind, setting.case.product(s.item).role) for s in setting.steps if s.kind in ("set", "bake")}
    assert by_kind == {("set", "powder_foundation"), ("bake", "setting_powder")}, (
        "nothing but loose powder is baked with"
    )


@pytest.mark.parametrize(
    ("when", "anchor", "before"),
    [("before_base", "foundation", True), ("after_setting", "set", False), ("last", "set", False)],
)
def test_brows_come_when_they_were_asked(people, when, anchor, before):
    sequence = plan(asked(people["Tamsin"], "overpainted", brows=when), HOUSE)
    assert (first(sequence, "brows") < first(sequence, anchor)) == before


def test_an_option_that_finds_no_wait_says_so(people):
    sequence = plan(asked(people["Tamsin"], "overpainted", brows="in_wait"), HOUSE)
    assert any("asked for in a wait" in note for note in sequence.notes)


def test_every_option_is_told_with_a_reason_for_each_side():
    names = set(Options.__dataclass_fields__) | {"order", "blend"}
    assert {info.name for info in OPTIONS} == names
    for info in OPTIONS:
        usual = getattr(Options(), info.name, None)
        usual = getattr(Intent(), info.name) if usual is None else usual
        assert info.ways[0].value == (str(usual).lower() if isinstance(usual, bool) else usual)
        assert all(way.why.endswith(".") and len(way.why) > 15 for way in info.ways)


WAYS = [(info, way) for info in OPTIONS for way in info.ways[1:]]


def by_pairs(faces):
    """Ways, schools and faces so that every two of them meet, and not every three: (number of the way, school, face)."""
    for number in range(len(WAYS)):
        for place, face in enumerate(faces):
            yield number, SCHOOL_IDS[(number + place) % len(SCHOOL_IDS)], face


def test_every_two_of_a_way_a_school_and_a_face_meet(people):
    met = list(by_pairs(list(people)))
    numbers = range(len(WAYS))
    assert {(number, school) for number, school, _ in met} == set(product(numbers, SCHOOL_IDS))
    assert {(number, face) for number, _, face in met} == set(product(numbers, people))
    assert {(school, face) for _, school, face in met} == set(product(SCHOOL_IDS, people))
    assert len(met) < len(WAYS) * len(SCHOOL_IDS) * len(people) / 5


@pytest.mark.parametrize("school", SCHOOL_IDS)
def test_every_way_of_working_can_be_asked_of_every_school(people, school):
    asked_for = [(WAYS[number], face) for number, of, face in by_pairs(list(people)) if of == school]
    assert len(asked_for) >= len(WAYS)
    for (info, way), name in asked_for:
        if info.name in ("order", "blend"):
            case = in_school(people[name], school, **{info.name: way.value})
        else:
            case = asked(people[name], school, **{info.name: True if way.value == "true" else way.value})
        sequence = plan_in(school, case, HOUSE)
        assert "foundation" in kinds(sequence)
        assert kinds(sequence)[-1] == "light_check"


# Which school suits


def test_oily_skin_that_wants_matte_is_sculpted_in_powder(people):
    best = rank_schools(in_school(people["Bram"], None), HOUSE)[0]
    assert best.school == "powder_sculpted"
    assert any("oil is clear" in reason for reason in best.speaks_for)


def test_full_cover_is_sculpted_on_top(people):
    ranked = rank_schools(in_school(people["Merrick"], None), HOUSE)
    assert ranked[0].school in ("overpainted", "powder_sculpted")
    # His kit has one foundation of his depth, so two-tone lacks what it is made of.
    assert {each.school for each in ranked[-2:]} == {"underpainted", "two_tone"}
    against = {each.school: " ".join(each.speaks_against) for each in ranked}
    assert "hides what is painted beneath" in against["underpainted"]
    assert "deeper foundation" in against["two_tone"]


def test_lined_skin_is_not_sent_to_powder(people):
    ranked = [each.school for each in rank_schools(in_school(people["Wren"], None), HOUSE)]
    assert ranked[0] == "underpainted"
    assert set(ranked[-2:]) == {"powder_sculpted", "doubled"}


def test_doubled_rises_on_stage(people):
    def place(viewing):
        case = in_school(people["Bram"], None, viewing=viewing, wear_hours=12.0)
        return [each.school for each in rank_schools(case, HOUSE)].index("doubled")

    assert place("stage") < place("in_person")


@settings(max_examples=8, deadline=None)
@given(cases)
def test_a_ranking_names_each_school_once_and_never_a_bare_number(case):
    ranked = rank_schools(case, HOUSE)
    assert {each.school for each in ranked} == set(SCHOOLS)
    assert [each.weight for each in ranked] == sorted(each.weight for each in ranked)
    for each in ranked:
        assert each.says.endswith(".")
        assert any(ch.isalpha() for ch in each.says)


def test_the_recommendation_is_told_in_the_plans_notes(people):
    sequence = plan(in_school(people["Bram"], None), HOUSE)
    assert "Powder-sculpted suits best here" in sequence.notes[0]
    assert "Then " in sequence.notes[1]
    assert sequence.case.intent.school is None


@pytest.mark.parametrize("school", SCHOOL_IDS)
def test_a_way_of_working_is_followed_or_said_to_be_left_out(people, school):
    options = {"bronzer": "bridge", "melting_mist": "between_powders", "shade_edge": "crisp", "border_pass": True,
               "powder_foundation": "veil"}  # fmt: skip
    sequence = plan(asked(in_school(people["Bram"], school, blend="place_all"), school, **options), HOUSE)
    said = " ".join(note for note in sequence.notes if note.startswith("Asked for, and left out"))
    for kind, name in (("bronze", "a bronzer"), ("melting_mist", "a melting mist"), ("clean_edge", "a crisp edge")):
        assert (kind in kinds(sequence)) != (name in said)
    assert "melting_mist" in kinds(sequence)
    if school in ("two_tone", "light_led"):
        assert "placing all before blending" in said


def test_nothing_is_said_to_be_left_out_where_nothing_was_asked(people):
    for case in people.values():
        assert not [note for note in plan(case, HOUSE).notes if note.startswith("Asked for, and left out")]


def test_shade_in_powder_asked_for_before_setting_lies_over_a_light_press_and_under_the_rest(people):
    met = 0
    for case in people.values():
        own = in_school(case, "powder_sculpted")
        asked = replace(own.intent, options=replace(own.intent.options, powder_sculpt="before_setting"))
        made = plan(replace(own, intent=asked), House())
        kinds = [step.kind for step in made.steps if step.unit == "mg_cm2"]
        if "shade" not in kinds:
            continue
        met += 1
        at = kinds.index("shade")
        assert kinds[at - 1] == "set"
        assert "set" in kinds[at + 1 :] or "bake" in kinds[at + 1 :]
        assert not any("over a wet base" in note for note in made.notes)
    assert met >= 6


def test_a_school_is_at_home_in_its_row_and_its_stages():
    core = Path(planner.__file__).parents[1]
    home = {core / "terms" / "ids.py", core / "terms" / "schools.py"}
    named = {
        f"{file.relative_to(core)}: {school}"
        for file in core.rglob("*.py")
        if file not in home and file.parent.name != "schools"
        for school in SCHOOL_INFO
        if f'"{school}"' in file.read_text(encoding="utf-8")
    }
    assert len(SCHOOL_INFO) == 6
    assert named == set()
