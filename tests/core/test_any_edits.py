"""Whatever is done to whatever plan: it is refused by field, or what follows from it is sound and comes back whole."""

from __future__ import annotations

import re
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import HealthCheck, assume, event, given, settings
from hypothesis import strategies as st
from pydantic import ValidationError
from pydantic_core import to_json

from nabrel.core.ask.compare import compare
from nabrel.core.ask.recommend import plan
from nabrel.core.ask.trial import against, try_edits
from nabrel.core.base.possible import apply_edits, impossible_steps
from nabrel.core.errors import Refused
from nabrel.core.house import House
from nabrel.core.judge.evaluate import Evaluation, evaluate
from nabrel.core.plan.edits import Accept, Move, Remove, SetAmount, say
from nabrel.core.terms.limits import MOST_FILM_UM, MOST_POWDER_MG, MOST_STEPS
from nabrel.core.terms.schools import SCHOOLS
from nabrel.core.terms.zones import ZONES
from nabrel.formats.files import SequenceFile
from nabrel.formats.loader import read_sequence
from nabrel.formats.values import dumped_value
from nabrel.web.shared.wire import EditsBody
from tests.conftest import in_school
from tests.core.cases import cases
from tests.core.edits import accepting, edits_of

HOUSE = House()
SOME = settings(max_examples=22, deadline=None, suppress_health_check=[HealthCheck.data_too_large])


def sound(now: Evaluation) -> None:
    """What holds of every evaluated sequence, whatever was done to it."""
    steps = now.sequence.steps
    ids = [step.id for step in steps]
    assert len(set(ids)) == len(ids) <= MOST_STEPS
    film, powder = now.course.after.film, now.course.after.powder
    for array in (now.appearance.lab, now.appearance.de, film, powder):
        assert np.isfinite(array).all()
    assert now.appearance.lab.shape == (len(steps) + 1, len(ZONES), 3)
    assert min(film.min(initial=0), powder.min(initial=0)) == 0
    assert [done.step for done in now.course.done] == list(steps)
    assert all(done.start >= 0 for done in now.course.done)
    assert all(done.take is None or done.take.amount >= 0 for done in now.course.done)
    for row in now.forecast:
        assert min(row.film_um, row.powder_mg, row.cake, row.crease, row.flare) >= 0
        assert max(row.crease, row.flare) < 1
        assert 0 < row.shine_hours <= now.house.most_hours
    for found in now.findings:
        assert {*found.steps, *found.against} <= set(ids)
        assert set(found.zones) <= set(ZONES)
        assert found.why
        assert re.match(r"[^a-z].*[.?!]$", found.says, re.DOTALL), found.says
    for step in steps:
        most = MOST_POWDER_MG if step.unit == "mg_cm2" else MOST_FILM_UM
        amounts = [portion.amount for portion in step.portions if portion.amount is not None]
        assert all(0 <= amount <= most for amount in amounts)
        assert step.unit or not amounts
    assert now.totals.minutes >= now.totals.active_minutes >= 0 or not steps


@SOME
@given(cases, st.data())
def test_any_edits_are_refused_by_field_or_leave_a_sound_plan(case, data):
    now = evaluate(plan(case, HOUSE), HOUSE, try_fixes=False)
    for turn in range(data.draw(st.integers(1, 4), label="edits")):
        if not now.sequence.steps:
            break
        edit = data.draw(edits_of(now.sequence, sorted(now.products)), label=f"edit {turn}")
        before = now.sequence
        try:
            after = apply_edits(before, [edit], now.products)
        except Refused as refused:
            event(f"refused {edit.edit}")
            said = str(refused)
            assert re.match(r"edits\[0\].*: found .*; allowed: .+", said, re.DOTALL), said
            continue
        event(f"taken {edit.edit}")
        assert say(before, edit, now.products).strip()
        assert now.sequence == before
        now = evaluate(after, HOUSE, try_fixes=False)
        sound(now)
        assert read_sequence(SequenceFile.of(after).model_dump_json(exclude_none=True).encode()) == after


@SOME
@given(cases, st.data())
def test_an_edit_comes_back_from_the_wire_as_it_went(case, data):
    sequence = plan(case, HOUSE)
    assume(sequence.steps)
    edit = data.draw(edits_of(sequence, ["soft-rose", "generic-foundation"]))
    told = {"revision": 1, "edits": [dumped_value(edit)]}
    try:
        body = EditsBody.model_validate_json(to_json(told))
    except ValidationError:
        assume(False)
    assert body.edits == (edit,)


@SOME
@given(cases, st.data())
def test_trying_tells_what_keeping_brings(case, data):
    now = evaluate(plan(case, HOUSE), HOUSE, try_fixes=False)
    assume(now.sequence.steps)
    edit = data.draw(edits_of(now.sequence, sorted(now.products)))
    try:
        trial = try_edits(now, [edit], HOUSE)
    except Refused:
        assume(False)
    stored = evaluate(apply_edits(now.sequence, [edit], now.products), HOUSE, try_fixes=False)
    assert trial.difference == compare(now, stored)
    assert len(now.findings) + len(trial.come) - len(trial.gone) == len(stored.findings)
    back = against(stored, now)
    assert (back.come, back.gone) == (trial.gone, trial.come)
    assert back.look_de == pytest.approx(trial.look_de)


@SOME
@given(cases)
def test_a_plan_has_no_difference_from_itself(case):
    now = evaluate(plan(case, HOUSE), HOUSE, try_fixes=False)
    same = against(now, now)
    assert (same.come, same.gone, same.look_de) == ((), (), 0.0)
    assert same.difference.says == same.difference.figures == ()


@SOME
@given(cases, st.data())
def test_an_edit_touches_no_stage_before_its_step_and_no_other_zone(case, data):
    """What was laid before the changed step looks as it did; zones that the step does not lie on keep their film."""
    now = evaluate(plan(case, HOUSE), HOUSE, try_fixes=False)
    laying = [index for index, step in enumerate(now.sequence.steps) if step.unit == "um"]
    assume(laying)
    index = data.draw(st.sampled_from(laying))
    step = now.sequence.steps[index]
    portion = data.draw(st.integers(0, len(step.portions) - 1))
    then = try_edits(now, [SetAmount(step.id, data.draw(st.floats(0, 40)), portion)], HOUSE).after
    assert np.array_equal(then.appearance.lab[: index + 1], now.appearance.lab[: index + 1])
    for then_state, state in zip(then.course.states[: index + 1], now.course.states[: index + 1], strict=True):
        assert np.array_equal(then_state.film, state.film)
    away = [place for place, zone in enumerate(ZONES) if zone not in step.zones]
    film, as_before = then.course.states[index + 1].load_film, now.course.states[index + 1].load_film
    assert np.array_equal(film[away], as_before[away])


@SOME
@given(cases, st.data())
def test_taking_steps_out_one_by_one_ends_at_bare_skin(case, data):
    now = evaluate(plan(case, HOUSE), HOUSE, try_fixes=False)
    bare = now.appearance.lab[0]
    sequence = now.sequence
    while sequence.steps:
        out = data.draw(st.sampled_from([step.id for step in sequence.steps]))
        sequence = apply_edits(sequence, [Remove(out)], now.products)
    empty = evaluate(sequence, HOUSE)
    sound(empty)
    assert np.allclose(empty.appearance.lab[-1], bare, atol=1e-9)
    assert empty.totals.minutes == empty.totals.film_ml == empty.totals.powder_g == 0
    assert all(row.film_um == row.powder_mg == 0 for row in empty.forecast)


@pytest.mark.parametrize("school", SCHOOLS)
def test_every_fix_offered_mends_its_finding(people, school):
    """On every demo face, heavily covered so that there is something to mend: the fix takes the finding away or lessens it."""
    mended = 0
    for case in people.values():
        wish = in_school(case, school, cover="opaque", wear_hours=12.0)
        now = evaluate(plan(wish, HOUSE), HOUSE)
        heavy = [
            SetAmount(step.id, min(MOST_FILM_UM, portion.amount * 2), place)
            for step in now.sequence.steps
            if step.unit == "um"
            for place, portion in enumerate(step.portions)
        ]
        now = evaluate(apply_edits(now.sequence, heavy, now.products), HOUSE)
        for found in now.findings:
            if found.fix is None:
                continue
            trial = try_edits(now, found.fix.edits, HOUSE)
            still = [
                each
                for each in trial.after.findings
                if each.rule == found.rule and set(each.zones) >= set(found.zones) and each.steps == found.steps
            ]
            assert not any(each.says == found.says for each in still), (case.sitter.nickname, found.rule, found.says)
            mended += 1
    assert mended > 3


@SOME
@given(cases, st.text("abc .", min_size=1, max_size=12))
def test_an_accepted_finding_is_kept_on_file_and_changes_nothing_else(case, note):
    now = evaluate(replace(plan(case, HOUSE), accepted=()), HOUSE, try_fixes=False)
    loud = [each for each in now.findings if each.severity != "stop"]
    assume(loud and note.strip())
    then = try_edits(now, [accepting(loud[0], note)], HOUSE).after
    assert SequenceFile.of(then.sequence).sequence == then.sequence
    assert [replace(each, accepted="") for each in then.findings] == sorted(
        (replace(each, accepted="") for each in now.findings), key=list(map(_unaccepted, then.findings)).index
    )
    assert np.array_equal(then.appearance.lab, now.appearance.lab)
    again = try_edits(then, [Accept(loud[0].rule, loud[0].zones)], HOUSE).after
    assert again.sequence.accepted == now.sequence.accepted


def _unaccepted(finding):
    return replace(finding, accepted="")


@SOME
@given(cases, st.data())
def test_moving_into_an_order_that_cannot_be_worked_is_refused_and_any_other_is_taken(case, data):
    now = evaluate(plan(case, HOUSE), HOUSE, try_fixes=False)
    assume(len(now.sequence.steps) > 2)
    ids = [step.id for step in now.sequence.steps]
    moved, before = data.draw(st.sampled_from(ids)), data.draw(st.none() | st.sampled_from(ids))
    assume(moved != before)
    others = [step for step in now.sequence.steps if step.id != moved]
    place = next((index for index, step in enumerate(others) if step.id == before), len(others))
    wanted = [*others[:place], now.sequence.step(moved), *others[place:]]
    stuck = {each.step for each in impossible_steps(wanted) if not each.check or each.step == moved}
    known = {each.step for each in impossible_steps(now.sequence.steps)}
    try:
        after = apply_edits(now.sequence, [Move(moved, before)], now.products)
    except Refused:
        assert stuck - known
    else:
        assert not stuck - known
        assert list(after.steps) == wanted
