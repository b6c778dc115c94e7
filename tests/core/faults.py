"""One seeded fault a rule: a demo plan with one thing wrong, and the kind of step it is found on."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field, replace
from datetime import date
from typing import Any

from nabrel.core.ask.recommend import plan
from nabrel.core.base.possible import apply_edits
from nabrel.core.case.case import Case
from nabrel.core.case.sitter import ZoneSkin
from nabrel.core.case.tool import OwnedTool
from nabrel.core.face.reading import read
from nabrel.core.house import House
from nabrel.core.judge.evaluate import products_of
from nabrel.core.plan.edits import Add, Edit, Move, Remove, SetAmount, SetHand, SetProduct, SetWait, SetZones
from nabrel.core.plan.sequence import Sequence

HOUSE = House()
SOUND: dict[tuple[str, str], Sequence] = {}


@dataclass(frozen=True)
class Fault:
    """Whose plan, the kind of step the fault is found on, and what goes wrong.

    ``wish`` changes the intent before planning; ``skin`` what is read, ``day`` the day and ``packs`` what is known of
    products, ``tools`` what is owned, after it.
    """

    who: str
    kind: str
    edits: Callable[[Sequence], list[Edit]]
    wish: Mapping[str, Any] = field(default_factory=dict)
    skin: Mapping[str, Mapping[str, int]] = field(default_factory=dict)
    day: date | None = None
    packs: Mapping[str, Mapping[str, Any]] = field(default_factory=dict)
    tools: tuple[OwnedTool, ...] = ()

    def sound(self, people: Mapping[str, Case]) -> Sequence:
        """The plan before anything went wrong: planned once, however many faults are made in it."""
        asked = (self.who, repr(sorted(self.wish.items())))
        if asked not in SOUND:
            case = people[self.who]
            SOUND[asked] = plan(replace(case, intent=replace(case.intent, **self.wish)), HOUSE)
        return SOUND[asked]

    def seeded(self, people: Mapping[str, Case]) -> Sequence:
        """The plan with the fault in it."""
        sequence = self.sound(people)
        edits = self.edits(sequence)
        if edits:
            sequence = apply_edits(sequence, edits, products_of(sequence, read(sequence.case, HOUSE)))
        return replace(sequence, case=self._as_found(sequence.case))

    def _as_found(self, case: Case) -> Case:
        zones = {**case.sitter.zones, **{zone: ZoneSkin(found) for zone, found in self.skin.items()}}
        kit = tuple(replace(item, **self.packs.get(item.id, {})) for item in case.kit)
        return Case(replace(case.sitter, zones=zones), replace(case.intent, day=self.day), kit, self.tools)


def step_id(sequence: Sequence, kind: str, zone: str | None = None) -> str:
    return next(s.id for s in sequence.steps if s.kind == kind and (zone is None or zone in s.zones))


def portion_on(sequence: Sequence, kind: str, zone: str) -> tuple[str, int]:
    """The step of a kind that lies on a zone, and the place of the portion that does."""
    return next(
        (s.id, n) for s in sequence.steps if s.kind == kind for n, p in enumerate(s.portions) if zone in p.zones
    )


def amount_on(sequence: Sequence, kind: str, zone: str, amount: float) -> SetAmount:
    step, portion = portion_on(sequence, kind, zone)
    return SetAmount(step, amount, portion)


def hand_on(sequence: Sequence, kind: str, zone: str, *, tool: str | None = None, motion: str | None = None) -> SetHand:
    step, portion = portion_on(sequence, kind, zone)
    return SetHand(step, tool, motion, portion=portion)


def last_id(sequence: Sequence, kind: str) -> str:
    return [s.id for s in sequence.steps if s.kind == kind][-1]


def all_of(sequence: Sequence, kind: str) -> list[str]:
    return [s.id for s in sequence.steps if s.kind == kind]


FAULTS: dict[str, Fault] = {
    "wet-over-powder": Fault("Wren", "colour", lambda s: [
        Add("set", ("cheek_apple_l",), step_id(s, "colour"), "pow-fine", amount=0.2, tool="puff", motion="press")]),
    "correct-before-cover": Fault("Wren", "correct", lambda s: [Move(step_id(s, "correct", "under_eye_r"), step_id(s, "colour"))]),
    "clean-first": Fault("Wren", "light", lambda s: [Remove("s1"), *(Remove(i) for i in all_of(s, "correct"))]),
    "fed-first": Fault("Wren", "light", lambda s: [
        Remove(step_id(s, "moisturise")), Remove(step_id(s, "eye_care")), Remove(step_id(s, "sunscreen")),
        *(Remove(i) for i in all_of(s, "correct"))]),
    "prime-on-bare-skin": Fault("Wren", "prime", lambda s: [Move(step_id(s, "prime"), step_id(s, "colour"))]),
    "crease-check-before-powder": Fault("Wren", "set", lambda s: [Remove(step_id(s, "crease_check"))]),
    "bake-then-dust": Fault("Bram", "bake", lambda s: [Remove(step_id(s, "dust_off"))]),
    "bases-agree": Fault("Wren", "foundation", lambda s: [SetProduct(i, "water-veil-2") for i in all_of(s, "foundation")]),
    "no-shimmer-on-texture": Fault("Tamsin", "glow", lambda s: [SetZones(step_id(s, "glow"), ("cheek_apple_l",))]),
    "no-oil-on-blemishes": Fault("Isolde", "moisturise", lambda s: [SetProduct(step_id(s, "moisturise"), "moi-rich")]),
    "gentle-on-fragile": Fault("Wren", "foundation", lambda s: [
        hand_on(s, "foundation", "under_eye_l", motion="sweep")]),
    "press-over-wet": Fault("Bram", "colour", lambda s: [SetHand(step_id(s, "colour"), tool="buffing_brush", motion="buff")]),
    "shade-and-light-apart": Fault("Tamsin", "shade", lambda s: [
        SetHand(step_id(s, "shade"), tool="damp_sponge"), SetHand(step_id(s, "light"), tool="damp_sponge")]),
    "clean-brush-for-powder": Fault("Bram", "set", lambda s: [
        SetHand(step_id(s, "colour"), tool="stippling_brush"), SetHand(step_id(s, "set"), tool="stippling_brush")]),
    "single-use-wand": Fault("Wren", "lashes", lambda s: [Add("lashes", ("eyelid_l",), tool="detail_brush", motion="feather")]),
    "within-what-it-carries": Fault("Wren", "foundation", lambda s: [
        amount_on(s, "foundation", "under_eye_l", 14.0)]),
    "thin-passes": Fault("Tamsin", "foundation", lambda s: [SetAmount(step_id(s, "foundation"), 12.0)]),
    "let-it-settle": Fault("Wren", "moisturise", lambda s: [
        SetWait(step_id(s, each), 20.0) for each in ("moisturise", "eye_care", "sunscreen")]),
    "set-in-time": Fault("Wren", "crease_check", lambda s: [Move(step_id(s, "crease_check"), step_id(s, "colour"))]),
    "no-bake-on-lines": Fault("Wren", "bake", lambda s: [
        Add("bake", ("under_eye_l", "under_eye_r"), step_id(s, "set"), "pow-fine", amount=0.8, tool="puff",
            motion="press", wait_s=480.0)]),
    "shine-before-time": Fault("Bram", "bake", lambda s: [
        *(Remove(i) for i in all_of(s, "set")), SetZones(step_id(s, "bake"), ("chin",)),
        SetZones(step_id(s, "dust_off"), ("chin",))]),
    "placed-for-this-face": Fault("Posy", "shade", lambda s: [
        SetZones(step_id(s, "shade"), ("cheek_hollow_l", "cheek_hollow_r", "temple_l"))]),
    "colour-off-blemishes": Fault("Isolde", "colour", lambda s: [
        Add("colour", ("cheek_apple_l",), step_id(s, "set"), "col-brick", amount=2.5, tool="fingers", motion="press")]),
    "corrector-within-patch": Fault("Dunstan", "correct", lambda s: [
        SetZones(step_id(s, "correct"), ("nose_tip", "temple_l"))]),
    "corrector-hidden": Fault("Wren", "correct", lambda s: [
        SetProduct(step_id(s, "correct", "nose_side_l"), "cor-orange"),
        SetAmount(step_id(s, "correct", "nose_side_l"), 9.0)]),
    "spot-not-lighter": Fault("Tamsin", "spot_conceal", lambda s: [
        SetProduct(step_id(s, "spot_conceal"), "press-2"), SetAmount(step_id(s, "spot_conceal"), 7.0)]),
    "sculpt-reads-through": Fault("Tamsin", "shade", lambda s: [
        *(SetProduct(i, "full-matt-3") for i in all_of(s, "foundation")), SetAmount(step_id(s, "shade"), 1.0)]),
    "no-stripes": Fault("Dunstan", "shade", lambda s: [
        SetProduct(step_id(s, "shade"), "shade-6"), SetAmount(step_id(s, "shade"), 8.0)]),
    "face-meets-neck": Fault("Tamsin", "foundation", lambda s: [
        SetProduct(last_id(s, "foundation"), "full-matt-1"),
        SetZones(last_id(s, "foundation"), ("jaw_l", "jaw_r"), portion_on(s, "foundation", "jaw_l")[1]),
        amount_on(s, "foundation", "jaw_l", 8.0)]),
    "edges-fade": Fault("Dunstan", "shade", lambda s: [
        Remove(step_id(s, "soften_edges")), SetHand(step_id(s, "shade"), motion="press"),
        SetProduct(step_id(s, "shade"), "shade-3"), SetAmount(step_id(s, "shade"), 6.0)]),
    "flash-flare": Fault("Merrick", "set", lambda s: [
        SetProduct(last_id(s, "set"), "pow-silica"), SetAmount(last_id(s, "set"), 0.5)]),
    "care-under-colour": Fault("Tamsin", "moisturise", lambda s: [Move(step_id(s, "moisturise"), step_id(s, "colour"))]),
    "sunscreen-over-care": Fault("Posy", "sunscreen", lambda s: [Move(step_id(s, "sunscreen"), step_id(s, "moisturise"))]),
    "sunscreen-by-day": Fault("Tamsin", "moisturise", lambda s: [Remove(step_id(s, "sunscreen"))]),
    "pore-filler-first": Fault("Tamsin", "prime", lambda s: [
        Add("prime", ("nose_tip", "chin"), step_id(s, "prime"), "pri-matte", amount=1.5, tool="fingers", motion="press")]),
    "sculpted-beneath": Fault("Tamsin", "shade", lambda s: [Move(step_id(s, "shade"), step_id(s, "colour"))]),
    "light-or-shade-as-asked": Fault("Tamsin", "light", lambda s: [Move(step_id(s, "shade"), step_id(s, "light"))]),
    "spots-after-foundation": Fault("Tamsin", "spot_conceal", lambda s: [
        Move(step_id(s, "spot_conceal"), step_id(s, "foundation"))]),
    "place-all-needs-slow-creams": Fault(
        "Tamsin", "shade", lambda s: [SetProduct(step_id(s, "shade"), "liquid-shade-2")], wish={"blend": "place_all"}),
    "powder-colour-over-set-film": Fault("Tamsin", "shade", lambda s: [
        Add("shade", ("cheek_hollow_l", "cheek_hollow_r"), step_id(s, "crease_check"), "pan-shade-2", amount=0.1,
            tool="angled_brush", motion="feather")]),
    "no-powder-over-glow": Fault("Tamsin", "set", lambda s: [
        Add("set", ("brow_bone_l", "brow_bone_r"), step_id(s, "setting_mist"), "pow-tan", amount=0.1,
            tool="puff", motion="press")]),
    "soften-while-wet": Fault("Tamsin", "soften_edges", lambda s: [
        Add("soften_edges", s.step(step_id(s, "shade")).zones, step_id(s, "setting_mist"), tool="damp_sponge", motion="bounce")],
        wish={"setting": "whole_face"}),
    "brows-before-blush": Fault("Tamsin", "brows", lambda s: [Move(step_id(s, "brows"), step_id(s, "glow"))]),
    "eyes-and-fallout": Fault("Halcyon", "eyes", lambda s: [
        Add("eyes", ("eyelid_l", "eyelid_r"), step_id(s, "crease_check"))]),
    "shimmer-on-mature-lids": Fault("Wren", "glow", lambda s: [
        Add("glow", ("eyelid_l", "eyelid_r"), step_id(s, "crease_check"), "glow-pearl", amount=1.0, tool="fingers",
            motion="press")]),
    "no-dewy-on-oil": Fault("Bram", "foundation", lambda s: [
        SetProduct(i, "silk-veil-5") for i in all_of(s, "foundation")]),
    "satin-on-texture": Fault("Tamsin", "foundation", lambda s: [
        SetProduct(i, "silk-veil-3") for i in all_of(s, "foundation")]),
    "no-flat-matte-on-lines": Fault("Wren", "foundation", lambda s: [
        SetProduct(i, "full-matt-2") for i in all_of(s, "foundation")]),
    "sheer-on-lines": Fault("Wren", "foundation", lambda s: [
        SetProduct(step_id(s, "foundation", "under_eye_l"), "full-matt-2"),
        amount_on(s, "foundation", "under_eye_l", 5.0)]),
    "powder-on-even-ground": Fault("Tamsin", "colour", lambda s: [
        Add("colour", ("cheek_apple_l",), step_id(s, "eyes"), "pan-rose", amount=0.1, tool="fluffy_brush",
            motion="press")]),
    "no-fragrance-on-sensitive-skin": Fault("Dunstan", "melting_mist", lambda s: [
        SetProduct(step_id(s, "melting_mist"), "mist-scented")]),
    "little-powder-on-dry-skin": Fault("Wren", "set", lambda s: [SetAmount(step_id(s, "set"), 0.3)]),
    "large-zone-large-tool": Fault("Tamsin", "foundation", lambda s: [
        SetHand(step_id(s, "foundation"), tool="detail_brush", motion="press")]),
    "small-spot-small-tool": Fault("Tamsin", "spot_conceal", lambda s: [
        SetHand(step_id(s, "spot_conceal"), tool="stippling_brush", motion="stipple")]),
    "no-dry-sponge-for-cream": Fault("Tamsin", "foundation", lambda s: [
        SetHand(step_id(s, "foundation"), tool="dry_sponge")]),
    "powder-with-a-dry-tool": Fault("Tamsin", "set", lambda s: [SetHand(step_id(s, "set"), tool="damp_sponge")]),
    "values-stay-apart": Fault("Bram", "light", lambda s: [
        Move(step_id(s, "shade"), step_id(s, "light")), SetHand(step_id(s, "light"), tool="angled_brush")]),
    "mists-are-misted": Fault("Tamsin", "setting_mist", lambda s: [SetHand(step_id(s, "setting_mist"), motion="sweep")]),
    "empty-tool-softens": Fault("Tamsin", "soften_edges", lambda s: [
        Add("soften_edges", ("cheek_apple_l",), step_id(s, "set"), "thin-satin-3", amount=1.0, tool="damp_sponge",
            motion="press")]),
    "what-a-hand-can-lay": Fault("Tamsin", "colour", lambda s: [SetAmount(step_id(s, "colour"), 0.2)]),
    "nothing-laid-by-nothing": Fault("Tamsin", "colour", lambda s: [SetAmount(step_id(s, "colour"), 0.0)]),
    "thin-glow": Fault("Tamsin", "glow", lambda s: [SetAmount(step_id(s, "glow"), 5.0)]),
    "few-films-on-a-zone": Fault("Tamsin", "foundation", lambda s: [
        Add("foundation", ("cheek_apple_l",), step_id(s, "set"), "silk-veil-3", amount=0.5, tool="fingers", motion="press")
        for _ in range(6)]),
    "set-is-not-a-bake": Fault("Tamsin", "set", lambda s: [SetAmount(step_id(s, "set"), 0.7)]),
    "bake-to-its-time": Fault("Bram", "bake", lambda s: [SetWait(step_id(s, "bake"), 1800.0)]),
    "what-creases-is-set": Fault("Wren", "conceal", lambda s: [Remove(step_id(s, "set")), Remove(step_id(s, "crease_check")),
        amount_on(s, "foundation", "under_eye_l", 5.0)]),
    "powder-matches-value": Fault("Merrick", "set", lambda s: [
        SetProduct(last_id(s, "set"), "pow-silica"), SetAmount(last_id(s, "set"), 0.3)]),
    "powder-as-asked": Fault("Posy", "set", lambda s: [
        Add("set", ("chin",), step_id(s, "lips"), "pow-fine", amount=0.1, tool="puff", motion="press")]),
    "mist-for-long-wear": Fault("Tamsin", "foundation", lambda s: [Remove(step_id(s, "setting_mist"))],
        wish={"wear_hours": 10.0}),
    "mute-where-light-rests": Fault("Halcyon", "mute_shine", lambda s: [
        SetZones(step_id(s, "mute_shine"), ("cheekbone_l", "cheekbone_r"))], wish={"school": "light_led"}),
    "shade-short-of-the-mouth": Fault("Tamsin", "shade", lambda s: [
        SetZones(step_id(s, "shade"), ("cheek_hollow_l", "cheek_hollow_r", "smile_line_l", "smile_line_r"))]),
    "no-shade-on-the-jowl": Fault("Wren", "shade", lambda s: [
        SetZones(step_id(s, "shade"), ("cheek_hollow_l", "cheek_hollow_r", "jaw_l", "jaw_r"))]),
    "no-shade-in-hollows": Fault("Tamsin", "shade", lambda s: [], skin={"cheek_hollow_l": {"hollow": 2}}),
    "light-off-what-is-raised": Fault("Tamsin", "light", lambda s: [], skin={"nose_bridge": {"raised_texture": 3}}),
    "light-off-lines": Fault("Tamsin", "light", lambda s: [], skin={"forehead_centre": {"fine_lines": 3}}),
    "glow-on-high-planes": Fault("Halcyon", "glow", lambda s: [SetZones(step_id(s, "glow"), ("chin", "cheekbone_l", "cheekbone_r"))]),
    "both-sides-alike": Fault("Bram", "shade", lambda s: [SetZones(step_id(s, "shade"), ("cheek_hollow_l", "temple_l", "temple_r"))]),
    "corrector-helps": Fault("Tamsin", "correct", lambda s: [
        Add("correct", ("chin",), step_id(s, "foundation"), "cor-green", amount=4.0, tool="fingers", motion="press")]),
    "corrector-earns-its-step": Fault("Isolde", "correct", lambda s: [
        Add("correct", ("upper_lip",), step_id(s, "foundation"), "cor-salmon", amount=0.5, tool="fingers", motion="press")]),
    "turns-grey": Fault("Merrick", "set", lambda s: [SetProduct(step_id(s, "set"), "pow-fine")]),
    "thin-corrector": Fault("Wren", "correct", lambda s: [SetAmount(step_id(s, "correct"), 7.0)]),
    "lavender-judged-by-eye": Fault("Wren", "correct", lambda s: [
        SetProduct(step_id(s, "correct", "under_eye_l"), "cor-lilac"),
        SetAmount(step_id(s, "correct", "under_eye_l"), 3.0)]),
    "spot-on-the-spot": Fault("Tamsin", "spot_conceal", lambda s: [
        SetZones(step_id(s, "spot_conceal"), ("temple_l", "chin"))]),
    "complexion-is-met": Fault("Bram", "foundation", lambda s: [
        SetProduct(i, "thin-satin-2") for i in all_of(s, "foundation")]),
    "shade-is-believable": Fault("Tamsin", "shade", lambda s: [
        SetProduct(step_id(s, "shade"), "col-brick"), SetAmount(step_id(s, "shade"), 9.0)]),
    "light-lifts": Fault("Merrick", "light", lambda s: [
        SetProduct(step_id(s, "light"), "cor-lilac"), SetAmount(step_id(s, "light"), 7.0)]),
    "bronzer-near-the-skin": Fault("Tamsin", "bronze", lambda s: [
        Add("bronze", ("temple_l", "temple_r"), step_id(s, "setting_mist"), "pan-bronze-4", amount=0.1,
            tool="fluffy_brush", motion="whisk")]),
    "not-past-its-months": Fault("Tamsin", "foundation", lambda s: [], day=date(2026, 11, 23),
        packs={"thin-satin-3": {"opened_on": date(2025, 1, 1), "keeps_months": 12}}),
    "enough-is-left": Fault("Tamsin", "foundation", lambda s: [], packs={"thin-satin-3": {"left": 0.001}}),
    "tools-are-clean": Fault("Tamsin", "foundation", lambda s: [], day=date(2026, 11, 23),
        tools=(OwnedTool("a", "damp_sponge", state="used"), OwnedTool("b", "buffing_brush", state="used"))),
    "contents-are-known": Fault("Dunstan", "foundation", lambda s: [], packs={"thin-satin-2": {"ingredients": ()}}),
    "new-to-sensitive-skin": Fault("Dunstan", "foundation", lambda s: [], day=date(2026, 11, 23),
        packs={"thin-satin-2": {"opened_on": date(2026, 11, 22), "keeps_months": 12}}),
    "no-work-by-inflamed-eyes": Fault("Tamsin", "light", lambda s: [], skin={"under_eye_l": {"active_blemish": 2}}),
    "clean-tool-after-blemishes": Fault("Isolde", "light", lambda s: [
        SetHand(step_id(s, "conceal"), tool="dense_small_brush"),
        Move(step_id(s, "light"), step_id(s, "brows"))]),
}  # fmt: skip
