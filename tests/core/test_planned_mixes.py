"""A foundation is mixed where one alone is plainly off, or where none has the finish asked for; and only for a gain that is seen."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from nabrel.core.ask.recommend import plan
from nabrel.core.case.case import Case
from nabrel.core.case.intent import Intent
from nabrel.core.case.product import Product
from nabrel.core.case.sitter import Colour, Sitter
from nabrel.core.film.difference import delta_e
from nabrel.core.house import House
from nabrel.core.judge.evaluate import evaluate
from nabrel.core.terms.schools import SCHOOLS
from nabrel.formats.files import SequenceFile
from nabrel.formats.loader import read_sequence

HOUSE = House()
CREAM = Product("cream", "moisturiser", "Cream", "cream", "water")


def foundation(name, lab, finish="satin", cover=0.5, base="silicone"):
    return Product(name, "foundation", name.capitalize(), "liquid", base, finish=finish, lab=lab, cover=cover, ml=30)


def planned(*kit, skin=(60, 11, 17), school="overpainted", **wish):
    wish = {"finish": "satin", "setting": "none", **wish}
    return plan(Case(Sitter("A", Colour(skin)), Intent(school=school, **wish), (CREAM, *kit)), HOUSE)


def taken(sequence):
    return {part.item: part.share for s in sequence.steps if s.kind == "foundation" for part in s.mix}


PALE, DEEP = foundation("pale", (66, 10.5, 16.5)), foundation("deep", (54, 12, 18))


@pytest.mark.parametrize("school", SCHOOLS)
def test_between_two_shades_both_are_mixed_and_it_is_said(school):
    sequence = planned(PALE, DEEP, school=school, cover="medium")
    if school == "two_tone":
        assert set(taken(sequence)) == {"pale", "deep"}
        # Two are laid beside each other, and nothing is mixed.
        assert not any("mixed" in note for note in sequence.notes)
        assert all(len(step.mix) < 2 for step in sequence.steps if step.kind == "foundation")
        return
    shares = taken(sequence)
    assert set(shares) == {"pale", "deep"}
    assert sum(shares.values()) == pytest.approx(1.0)
    assert any(note.startswith("The foundation is mixed: ") for note in sequence.notes)
    alone = planned(PALE, school=school, cover="medium")
    off = [float(evaluate(each, HOUSE).appearance.de[-1].mean()) for each in (sequence, alone)]
    assert off[0] < off[1]


def test_a_shade_that_is_near_is_not_mixed():
    assert set(taken(planned(PALE, DEEP, foundation("right", (60, 11, 17.5))))) == {"right"}


def test_bases_that_separate_are_not_mixed():
    assert len(taken(planned(PALE, replace(DEEP, base="water")))) == 1


def test_a_mix_that_gains_nothing_seen_is_not_made():
    near = foundation("near", (64.5, 10.5, 16.5))
    shares = taken(planned(PALE, near, skin=(60, 11, 17)))
    assert len(shares) == 1


def test_satin_is_mixed_from_matt_and_dewy_of_one_shade():
    lab = (60, 11, 17.5)
    sequence = planned(foundation("matt", lab, "matte"), foundation("dew", lab, "dewy"))
    assert taken(sequence) == {"matt": 0.5, "dew": 0.5}
    assert any("satin, which no foundation of the kit is" in note for note in sequence.notes)


def test_what_is_planned_of_the_mix_is_what_the_base_shows_and_it_reads_back():
    sequence = planned(PALE, DEEP, cover="full")
    done = evaluate(sequence, HOUSE)
    cheek = done.appearance.last_lab("cheekbone_l")
    assert float(delta_e(np.asarray(cheek), np.array(done.appearance.target))) < HOUSE.close_enough_de
    text = SequenceFile.of(sequence).model_dump_json(exclude_none=True)
    assert read_sequence(text.encode()).steps == sequence.steps
