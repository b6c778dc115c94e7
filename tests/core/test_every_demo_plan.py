"""What the trade holds true, asked of every sitter of the demo in every school: forty-eight plans."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import replace
from functools import cache, wraps
from typing import Any

from nabrel.core.ask.recommend import plan
from nabrel.core.base.possible import apply_edits
from nabrel.core.case.intent import Climate
from nabrel.core.documents.tell import tell
from nabrel.core.face.reading import ZoneReading
from nabrel.core.house import House
from nabrel.core.judge.evaluate import Evaluation, evaluate
from nabrel.core.plan.edits import SetAmount
from nabrel.core.plan.step import Step
from nabrel.core.planner.planner import plan_in
from nabrel.core.terms.conditions import condition_groups
from nabrel.core.terms.hands import MOTION_INFO, TOOLS
from nabrel.core.terms.ids import School, Zone
from nabrel.core.terms.products import ROLES
from nabrel.core.terms.schools import SCHOOLS
from nabrel.core.terms.steps import STEP_INFO
from nabrel.core.terms.zones import ZONES
from nabrel.demo.kestrel_quay import sitters
from nabrel.formats.files import SequenceFile
from nabrel.formats.loader import read_sequence
from tests.conftest import in_school

HOUSE = House()
PEOPLE = {case.sitter.nickname: case for case in sitters()}
CARE = ("cleanse", "moisturise", "eye_care", "sunscreen", "prime")
DISCOLOURED = (*condition_groups()["Colour"], *condition_groups()["Blemishes"])


@cache
def seen(name: str, school: School) -> Evaluation:
    """A demo sitter in a school, evaluated once for all tests."""
    return evaluate(plan(in_school(PEOPLE[name], school), HOUSE), HOUSE)


Law = Callable[[Any], Iterator[tuple[object, object]]]


def _law(law: Law, cases: Callable[[], Iterator[tuple[str, Any]]]) -> Callable[[], None]:
    """A law as a test: it is asked of every case, every offender is told, and it must have looked at something."""

    @wraps(law)
    def asked() -> None:
        looked, offenders = 0, []
        for name, case in cases():
            for holds, told in law(case):
                looked += 1
                if not holds:
                    offenders.append(f"{name}: {told}")
        assert looked > 0, "the law looked at nothing"
        assert not offenders, f"{len(offenders)} of {looked}: " + "; ".join(offenders[:10])

    del asked.__wrapped__
    return asked


def of_every_plan(law: Law) -> Callable[[], None]:
    """The law, asked of every demo sitter in every school."""
    return _law(law, lambda: ((f"{n} {s}", seen(n, s)) for n in PEOPLE for s in SCHOOLS))


def of_every_sitter(law: Law) -> Callable[[], None]:
    """The law, asked of every demo sitter."""
    return _law(law, lambda: iter(PEOPLE.items()))


def steps(one: Evaluation, *kinds: str) -> list[Step]:
    return [step for step in one.sequence.steps if step.kind in kinds]


def first(one: Evaluation, *kinds: str) -> int:
    """The place of the first step of these kinds; after the last where there is none."""
    return next((n for n, step in enumerate(one.sequence.steps) if step.kind in kinds), len(one.sequence.steps))


def zone_of(one: Evaluation, zone: Zone) -> ZoneReading:
    return one.reading.zones[zone]


# Order


@of_every_plan
def test_clean_skin_is_the_first_step_and_a_look_in_each_light_the_last(one):
    yield (one.sequence.steps[0].kind == "cleanse"), ("")
    yield (one.sequence.steps[-1].kind == "light_check"), ("")


@of_every_plan
def test_skin_is_fed_before_anything_covers_it(one):
    covering = first(one, "correct", "conceal", "light", "shade", "foundation", "colour", "glow", "set")
    for place, step in enumerate(one.sequence.steps):
        if step.kind in CARE:
            yield (place < covering), (step.kind)


@of_every_plan
def test_moisturiser_has_time_to_sink_in(one):
    """From its end to the first layer over it, on each of its zones: other care in between sinks in with it."""
    states, starts = one.course.states, one.course.starts
    for place, step in enumerate(one.sequence.steps):
        if step.kind != "moisturise":
            continue
        for zone in step.zones:
            over = next(
                (at for at, later in enumerate(one.sequence.steps) if at > place and zone in later.zones
                 and STEP_INFO[later.kind].nature not in ("care", "feature")), None,
            )  # fmt: skip
            if over is not None:
                yield (600 <= starts[over] - states[place + 1][zone].done_at <= 2400), (zone)


@of_every_plan
def test_a_melting_mist_dries_before_it_is_judged(one):
    for step in steps(one, "melting_mist", "setting_mist"):
        yield (step.wait_s >= 60), ("")


@of_every_plan
def test_what_is_baked_is_dusted_off_later(one):
    for place, step in enumerate(one.sequence.steps):
        if step.kind == "bake":
            off = [later for later in one.sequence.steps[place + 1 :] if later.kind == "dust_off"]
            dusted = {zone for later in off for zone in later.zones}
            yield (set(step.zones) <= dusted), ("")
            yield (300 <= step.wait_s <= 900), ("")


@of_every_plan
def test_creases_are_smoothed_right_before_powder_where_it_creases(one):
    for place, step in enumerate(one.sequence.steps):
        if step.kind != "crease_check":
            continue
        powders = [later for later in one.sequence.steps[place + 1 :] if later.kind in ("set", "bake")]
        yield (powders), ("smoothed for nothing")
        yield (set(powders[0].zones) & set(step.zones) or set(step.zones) & {z for p in powders for z in p.zones}), ("")


@of_every_plan
def test_correctors_come_before_what_covers_them(one):
    for step in steps(one, "correct"):
        later = [each for each in one.sequence.steps if each.kind in ("foundation", "conceal", "spot_conceal")]
        for zone in step.zones:
            over = [each for each in later if zone in each.zones]
            yield (not over or one.sequence.steps.index(over[-1]) > one.sequence.steps.index(step)), ("")


# Where


@of_every_plan
def test_correctors_go_only_where_there_is_something_to_correct(one):
    for step in steps(one, "correct"):
        for zone in step.zones:
            yield (zone_of(one, zone).severity(*DISCOLOURED) > 0), (zone)


@of_every_plan
def test_no_step_touches_broken_skin_or_an_inflamed_eye(one):
    for step in one.sequence.steps:
        if step.item is not None:
            yield (not [zone for zone in step.zones if zone_of(one, zone).left_alone]), ("")


@of_every_plan
def test_nothing_shimmers_on_texture_blemishes_or_lines(one):
    for step in steps(one, "glow"):
        for zone in step.zones:
            yield (zone_of(one, zone).severity("raised_texture", "active_blemish", "pitted_scar") < 2), (zone)
            yield (zone_of(one, zone).severity("fine_lines", "creping") < 2), (zone)


@of_every_plan
def test_light_and_shade_never_share_a_zone(one):
    lit = {zone for step in steps(one, "light") for zone in step.zones}
    shaded = {zone for step in steps(one, "shade") for zone in step.zones}
    yield (not lit & shaded), ("")


@of_every_sitter
def test_no_bake_under_lined_or_dry_eyes(case):
    for school in SCHOOLS:
        one = evaluate(plan(in_school(case, school, setting="bake_wide"), HOUSE), HOUSE, try_fixes=False)
        for step in steps(one, "bake"):
            for zone in step.zones:
                yield (zone_of(one, zone).severity("fine_lines", "creping", "dry") < 2), f"{school}: {zone}"


@of_every_plan
def test_foundation_reaches_the_neck_or_it_says_why_not(one):
    reached = {zone for step in steps(one, "foundation") for zone in step.zones}
    bare = {each.zone for each in one.sequence.left_bare}
    yield ("neck" in reached | bare), ("")


@of_every_plan
def test_what_was_left_bare_says_why_in_a_sentence(one):
    for each in one.sequence.left_bare:
        yield (len(each.why) > 15), ("")
        yield (each.zone in ZONES), ("")


# How


@of_every_plan
def test_no_motion_pulls_harder_than_the_skin_allows(one):
    for step in one.sequence.steps:
        if step.kind in ("cleanse", "brows", "lashes", "lips", "eyes"):
            continue
        for _, motion, zones in step.hands:
            for zone in zones if motion else ():
                yield (MOTION_INFO[motion].shear <= zone_of(one, zone).shear_limit + 1e-9), ((step.kind, motion, zone))


@of_every_plan
def test_every_tool_and_product_is_one_that_is_there(one):
    kit = {item.id for item in one.sequence.case.kit}
    for step in one.sequence.steps:
        yield (set(step.tools) <= set(TOOLS)), ("")
        yield (step.item is None or step.item in kit), ("")
        if step.item is not None:
            yield (one.products[step.item].role in ROLES), ("")


@of_every_plan
def test_powder_is_pressed_thin_and_a_bake_is_thick(one):
    for step in steps(one, "set"):
        yield (0.02 <= step.powder_mg <= 0.35), ("")
    for step in steps(one, "bake"):
        yield (0.5 <= step.powder_mg <= 1.2), ("")


@of_every_plan
def test_films_are_as_thin_as_a_hand_can_lay_them(one):
    for step in one.sequence.steps:
        if step.film_um is not None and step.kind not in CARE:
            yield (0.0 < step.film_um <= 16.0), (step.kind)


@of_every_plan
def test_what_is_taken_is_told_in_the_hands_words(one):
    for done in one.course.done:
        if done.take is not None:
            yield (done.take.amount > 0), ("")
            yield (done.take.words), ("")
            yield (not done.take.words[0].isupper()), ("")


@of_every_plan
def test_no_zone_carries_more_than_it_can(one):
    for row in one.forecast:
        yield (row.cake <= 1.0 + 1e-9), (row.zone)


@of_every_plan
def test_a_base_is_no_sun_protection(one):
    yield (one.totals.tested_dose_share is not None), ("")
    yield (one.totals.tested_dose_share < 1.0), ("")


# Said


@of_every_plan
def test_every_step_says_why_and_every_covering_one_what_to_look_for(one):
    for step in one.sequence.steps:
        yield (step.why), (step.kind)
        yield (all(each.rstrip().endswith((".", "!", "?")) for each in step.why)), ("")
        if step.lays and step.kind not in CARE:
            yield (step.check), (step.kind)


@of_every_plan
def test_no_school_plans_what_must_stop(one):
    yield ([each.says for each in one.findings if each.severity == "stop"] == []), ("")


@of_every_sitter
def test_in_the_school_that_suits_best_nothing_is_left_to_mend(sitter):
    best = evaluate(plan(in_school(sitter, None), HOUSE), HOUSE)
    yield ([each.says for each in best.findings if each.severity != "advice"] == []), ("")


@of_every_plan
def test_the_whole_sequence_can_be_told(one):
    told = tell(one)
    for place, step in enumerate(one.sequence.steps, start=1):
        yield (f"{place}. " in told), ("")
        yield (STEP_INFO[step.kind].words in told), ("")
    yield ("{" not in told), ("")
    yield ("None" not in told), ("")


@of_every_plan
def test_a_sequence_goes_to_a_file_and_comes_back_as_it_was(one):
    text = SequenceFile.of(one.sequence).model_dump_json(exclude_none=True)
    yield (read_sequence(text.encode()) == one.sequence), ("")


@of_every_plan
def test_the_look_ends_nearer_to_its_aim_than_bare_skin(one):
    bare, done = one.appearance.de[0], one.appearance.de[-1]
    judged = [n for n, zone in enumerate(ZONES) if zone_of(one, zone).severity(*DISCOLOURED) >= 2]
    covered = [n for n in judged if any(ZONES[n] in step.zones for step in steps(one, "foundation", "conceal"))]
    if covered:
        yield (done[covered].mean() < bare[covered].mean()), ("")


# What follows from weather, viewing and amount


@of_every_sitter
def test_a_hot_day_brings_the_shine_sooner(sitter):
    cool, hot = (replace(sitter, intent=replace(sitter.intent, climate=Climate(each, 50.0))) for each in (15.0, 34.0))
    early, late = (
        evaluate(plan_in("overpainted", each, HOUSE), HOUSE).totals.least_shine_hours for each in (hot, cool)
    )
    yield (early < late), ("")


@of_every_sitter
def test_more_powder_keeps_the_shine_away_longer(sitter):
    sequence = plan(in_school(sitter, "overpainted", setting="whole_face"), HOUSE)
    kit = {item.id: item for item in sitter.kit}
    powders = [step for step in sequence.steps if step.kind == "set"]
    zone = powders[0].zones[0]
    hours = []
    for mass in (0.05, 0.15, 0.3):
        edited = apply_edits(
            sequence, [SetAmount(step.id, mass, n) for step in powders for n in range(len(step.portions))], kit
        )
        row = next(each for each in evaluate(edited, HOUSE, try_fixes=False).forecast if each.zone == zone)
        hours.append(row.shine_hours)
    yield (hours == sorted(hours)), ("")
    yield (hours[0] < hours[-1]), ("")


@of_every_sitter
def test_a_thicker_foundation_loads_and_creases_more_and_hides_more_shade(sitter):
    sequence = plan(in_school(sitter, "underpainted"), HOUSE)
    kit = {item.id: item for item in sitter.kit}
    own = [step for step in sequence.steps if step.kind == "foundation"]
    found = []
    for film in (2.0, 6.0, 12.0):
        edited = apply_edits(
            sequence, [SetAmount(step.id, film, n) for step in own for n in range(len(step.portions))], kit
        )
        found.append(evaluate(edited, HOUSE, try_fixes=False))
    loads = [one.totals.worst_cake for one in found]
    creases = [max(row.crease for row in one.forecast) for one in found]
    shades = [[abs(row.share) for row in one.appearance.read_through if row.kind == "shade"] for one in found]
    yield (loads == sorted(loads)), ("")
    yield (creases == sorted(creases)), ("")
    for thin, middle, thick in zip(*shades, strict=True):
        yield (thin >= middle >= thick), ("")


@of_every_sitter
def test_a_stage_wants_a_deeper_shade_than_an_arm_s_length(sitter):
    near, far = (
        replace(in_school(sitter, "overpainted"), intent=replace(sitter.intent, school="overpainted", viewing=viewing))
        for viewing in ("in_person", "stage")
    )
    shades = []
    for case in (near, far):
        found = evaluate(plan(case, HOUSE), HOUSE).appearance.read_through
        shades.append([row.visible_step for row in found if row.kind == "shade"])
    yield (bool(shades[0]) == bool(shades[1])), ("")
    if shades[0]:
        yield (sum(shades[1]) / len(shades[1]) < sum(shades[0]) / len(shades[0])), ("")
