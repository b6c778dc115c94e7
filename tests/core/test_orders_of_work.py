"""Orders of work as practitioners use them raise no false alarm; a fault seeded in one is found on the right step."""

from __future__ import annotations

import json
from dataclasses import replace
from pathlib import Path

import pytest

from nabrel.core.base.possible import apply_edits
from nabrel.core.case.case import Case
from nabrel.core.case.intent import Intent, Options
from nabrel.core.case.sitter import Colour, Sitter, ZoneSkin
from nabrel.core.face.reading import read
from nabrel.core.house import House
from nabrel.core.judge.evaluate import evaluate, products_of
from nabrel.core.plan.edits import Add, Move, Remove, SetAmount, SetHand, SetProduct, SetWait, SetZones
from nabrel.core.plan.sequence import Sequence
from nabrel.core.terms.schools import SCHOOLS
from nabrel.core.terms.zones import in_order
from tests.making import one_portion

HOUSE = House()
DATA = json.loads((Path(__file__).parents[1] / "data" / "orders_of_work.json").read_text(encoding="utf-8"))
GROUPS = DATA["groups"]


def zones_of(text: str):
    return in_order(zone for name in text.split() for zone in GROUPS.get(name, [name]))


def sequence(name: str) -> Sequence:
    told = DATA["sequences"][name]
    wish = dict(told["intent"])
    wish["options"] = Options(**wish.pop("options", {}))
    wish["lights"] = tuple(wish.get("lights", ["daylight"]))
    wish["features"] = tuple(wish.get("features", []))
    skins = {zone: ZoneSkin(found) for zone, found in told.get("zones", {}).items()}
    sitter = Sitter(
        "Someone", Colour(tuple(map(float, told["skin"]))), preset=told.get("preset", "normal"), zones=skins
    )
    steps = []
    for number, (kind, zones, product, amount, tool, motion, active, wait, most) in enumerate(told["steps"], start=1):
        powder = product is not None and ("powder" in product or product == "setting-powder")
        steps.append(
            one_portion(
                f"s{number}",
                kind,
                zones_of(zones),
                f"generic-{product}" if product else None,
                amount,
                unit="mg_cm2" if powder else "um",
                tool=tool,
                motion=motion,
                active_s=float(active),
                wait_s=float(wait),
                wait_at_most_s=None if most is None else float(most),
            )
        )
    return Sequence(told["school"], Case(sitter, Intent(school=told["school"], **wish)), tuple(steps))


def findings(sequence):
    return evaluate(sequence, HOUSE).findings


def test_every_school_is_among_them():
    assert {told["school"] for told in DATA["sequences"].values()} == set(SCHOOLS)
    assert len(DATA["sequences"]) >= 12


@pytest.mark.parametrize("name", DATA["sequences"])
def test_an_order_that_is_really_used_raises_no_stop_and_no_problem(name):
    grave = [(f.severity, f.rule, f.says) for f in findings(sequence(name)) if f.severity != "advice"]
    assert not grave


@pytest.mark.parametrize("name", DATA["sequences"])
def test_nor_is_it_buried_in_advice(name):
    assert len(findings(sequence(name))) <= 6


OILY = "underpainting with bake points on oily skin"
SHEER = "sheer underpainting on normal skin"
MATURE = "mature skin, placed cover and a whisper of powder"
FULL = "full cover with everything on top"
ACNE = "acne-prone, thin base and cover on the spot"
POWDER = "powder sculpting on oily skin"
STAGE = "doubled for the stage"
TEXTURED = "textured skin, pores filled and everything pressed"
RED = "red, sensitive skin with few products"
DEWY = "dewy and unset, glow under the base"
LED = "light-led on deep dry skin, unset but for the recesses"
TWO = "two shades of foundation on deep skin"
G = "generic-"
FAULTS = [
    (SHEER, [Move("s3", "s10")], "wet-over-powder", "s3"),
    (SHEER, [SetHand("s5", motion="sweep")], "press-over-wet", "s5"),
    (SHEER, [SetProduct("s5", G + "full-foundation"), SetProduct("s6", G + "full-foundation")], "sculpt-reads-through", "s4"),
    (SHEER, [SetWait("s2", 30.0)], "let-it-settle", "s2"),
    (SHEER, [SetZones("s4", ("cheek_hollow_l", "cheek_hollow_r", "smile_line_l", "smile_line_r"))],
     "shade-short-of-the-mouth", "s4"),
    (SHEER, [SetAmount("s5", 30.0)], "within-what-it-carries", "s5"),
    (SHEER, [SetProduct("s5", G + "deeper-foundation"), SetAmount("s5", 14.0)], "complexion-is-met", "s5"),
    (OILY, [Remove("s12")], "bake-then-dust", "s10"),
    (OILY, [Move("s11", "s10")], "set-in-time", "s9"),
    (OILY, [SetProduct("s2", G + "cream-moisturiser")], "no-oil-on-blemishes", "s2"),
    (OILY, [SetHand("s10", tool="stippling_brush")], "clean-brush-for-powder", "s10"),
    (MATURE, [Add("bake", ("under_eye_l", "under_eye_r"), "s10", G + "setting-powder", amount=0.8, tool="puff",
                  motion="press", wait_s=480.0)], "no-bake-on-lines", "s12"),
    (MATURE, [SetHand("s6", tool="buffing_brush", motion="drag")], "gentle-on-fragile", "s6"),
    (MATURE, [Add("glow", ("cheek_apple_l", "cheek_apple_r", "under_eye_l"), "s9", G + "glow", amount=1.5, tool="fingers",
                  motion="press")], "no-shimmer-on-texture", "s12"),
    (MATURE, [Remove("s9")], "crease-check-before-powder", "s10"),
    (MATURE, [SetAmount("s6", 16.0)], "within-what-it-carries", "s6"),
    (FULL, [SetAmount("s3", 9.0)], "thin-corrector", "s3"),
    (FULL, [SetProduct("s3", G + "green-corrector"), SetAmount("s3", 5.0)], "corrector-hidden", "s3"),
    (FULL, [SetHand("s8", tool="angled_brush")], "shade-and-light-apart", "s8"),
    (FULL, [Move("s3", "s6")], "correct-before-cover", "s3"),
    (ACNE, [Add("colour", ("cheek_apple_l", "cheek_apple_r"), "s7", G + "colour", amount=2.5, tool="fingers",
                motion="press")], "colour-off-blemishes", "s8"),
    (ACNE, [SetHand("s4", tool="buffing_brush", motion="buff")], "gentle-on-fragile", "s4"),
    (ACNE, [SetProduct("s6", G + "light"), SetAmount("s6", 7.0)], "spot-not-lighter", "s6"),
    (POWDER, [SetAmount("s9", 2.0)], "no-stripes", "s9"),
    (POWDER, [Move("s4", "s9")], "wet-over-powder", "s4"),
    (POWDER, [Move("s3", "s6")], "prime-on-bare-skin", "s3"),
    (STAGE, [SetHand("s17", tool="detail_brush")], "single-use-wand", "s17"),
    (STAGE, [SetWait("s10", 2400.0)], "bake-to-its-time", "s10"),
    (TEXTURED, [SetZones("s9", ("cheek_apple_l", "cheek_apple_r"))], "no-shimmer-on-texture", "s9"),
    (TEXTURED, [SetHand("s6", motion="sweep")], "gentle-on-fragile", "s6"),
    (MATURE, [Remove("s2"), Remove("s3")], "fed-first", "s4"),
    (RED, [Move("s2", "s5")], "care-under-colour", "s2"),
    (DEWY, [SetHand("s7", tool="dry_sponge")], "no-dry-sponge-for-cream", "s7"),
    (LED, [SetZones("s8", ("cheekbone_l", "cheekbone_r"))], "mute-where-light-rests", "s8"),
    (TWO, [SetProduct("s8", G + "setting-powder"), SetAmount("s8", 0.9)], "set-is-not-a-bake", "s8"),
    (SHEER, [Remove("s1")], "clean-first", "s3"),
]  # fmt: skip


@pytest.mark.parametrize(("name", "edits", "rule", "step"), FAULTS)
def test_a_fault_seeded_in_a_real_order_is_found_on_the_right_step(name, edits, rule, step):
    sound = sequence(name)
    before = {(f.rule, f.says) for f in findings(sound)}
    faulty = apply_edits(sound, edits, products_of(sound, read(sound.case, HOUSE)))
    new = [f for f in findings(faulty) if (f.rule, f.says) not in before]
    assert step in {s for f in new if f.rule == rule for s in f.steps}, [(f.rule, f.steps, f.says) for f in new]


def test_broken_skin_and_sore_eyes_stop_any_order():
    for name in DATA["sequences"]:
        sound = sequence(name)
        sitter = sound.case.sitter
        hurt = {**sitter.zones, "chin": ZoneSkin({"broken_skin": 1}), "under_eye_l": ZoneSkin({"active_blemish": 3})}
        found = findings(replace(sound, case=replace(sound.case, sitter=replace(sitter, zones=hurt))))
        assert {"no-work-on-broken-skin", "no-work-by-inflamed-eyes"} <= {f.rule for f in found if f.severity == "stop"}
