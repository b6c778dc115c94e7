"""Every reason of many plans is known here by its words, and what it claims is checked against the state, not the planner."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
import pytest

from nabrel.core.ask.recommend import plan
from nabrel.core.base.appearance import zones_with
from nabrel.core.film.difference import delta_e
from nabrel.core.house import House
from nabrel.core.judge.evaluate import Evaluation, evaluate
from nabrel.core.plan.sequence import LeftBare
from nabrel.core.plan.step import Step
from nabrel.core.terms.conditions import CONDITION_INFO
from nabrel.core.terms.looks import LIGHT_INFO, VIEWING_INFO
from nabrel.core.terms.schools import SCHOOLS
from nabrel.core.terms.words import apart
from nabrel.core.terms.zones import COMPLEXION_ZONES, T_ZONE, ZONE_INDEX, both
from nabrel.core.wear.forecast import crease_index, crease_strains
from nabrel.core.wear.touch_up import BLOT, BLOT_ONLY
from tests.conftest import in_school
from tests.core.made_up import wild

HOUSE = House()
SUN = {"hairline", "nose_bridge", *both("temple", "cheekbone")}
CITED = re.compile(
    r"(?:^|\band )((?:[A-Za-z][a-z ]*? [123](?:, | and )?)+) (?:on|at|in|under|along|beside|above|below|all|down)\b"
)
CONDITION = {info.words.lower(): each for each, info in CONDITION_INFO.items()}


@dataclass(frozen=True)
class Claim:
    """A reason where it stands: the step, its place, and the zones it speaks of."""

    said: str
    step: Step
    index: int
    zones: tuple[str, ...]
    all: Evaluation

    @property
    def earlier(self) -> tuple[Step, ...]:
        return self.all.sequence.steps[: self.index]

    @property
    def intent(self):
        return self.all.sequence.case.intent

    @property
    def before(self):
        return self.all.course.states[self.index]

    def laid(self, *kinds: str) -> set[str]:
        """The zones that earlier steps of these kinds laid."""
        return {zone for step in self.earlier if step.kind in kinds for zone in step.zones}

    def read(self, *conditions: str, least: int = 1) -> set[str]:
        return {zone for zone in self.zones if self.all.reading.zones[zone].severity(*conditions) >= least}

    def off(self, labs) -> np.ndarray:
        return np.asarray(delta_e(np.asarray(labs), np.array(self.all.appearance.target)))


def always(_claim: Claim, _found: re.Match[str]) -> bool:
    """What holds for anybody, as the trade teaches it."""
    return True


def kind(*kinds: str) -> Callable[[Claim, re.Match[str]], bool]:
    return lambda claim, _: claim.step.kind in kinds


def over_foundation(claim, _):
    return bool(claim.laid("foundation")) or not any(s.kind == "foundation" for s in claim.all.sequence.steps)


def reads_through(claim, found):
    """Bare, share and what is seen agree with one another, and a foundation comes over it."""
    bare, share, seen = (float(found[n]) for n in (1, 2, 3))
    later = claim.all.sequence.steps[claim.index + 1 :]
    return any(s.kind == "foundation" for s in later) and abs(bare * share / 100 - seen) < 0.12 and share <= 130


def glow_moment(moment):
    def check(claim, _):
        foundation = [n for n, s in enumerate(claim.all.sequence.steps) if s.kind == "foundation"]
        if moment == "under":
            return not foundation or claim.index < foundation[-1]
        return moment == "last" or not foundation or claim.index > foundation[0]

    return check


def tone(claim, found):
    return found[1].lower() == claim.all.reading.undertone and found[2] == claim.all.reading.depth


def bare_apart(claim, found):
    person = claim.all.reading.sitter
    if person.neck is None:
        return False
    de = float(delta_e(np.array(person.skin.lab), np.array(person.neck.lab)))
    return (found[1] == "near" and de < 4) or found[1].removesuffix(" apart") == apart(de)


def improves(claim, found):
    """Some zone is nearer right after the step than right before it; a patch is judged on its own ground elsewhere."""
    columns = [ZONE_INDEX[zone] for zone in claim.zones]
    before, after = claim.all.appearance.de[claim.index : claim.index + 2, columns]
    small = any(portion.patch < 1 for portion in claim.step.portions)
    return small or bool((after < before).any())


def ends_nearer(claim, found):
    """Without the corrector some zone ends further off, once all lies over it."""
    now = claim.off([claim.all.appearance.last_lab(zone) for zone in claim.zones])
    without = claim.off(zones_with(claim.all.course.after, [(zone, {claim.step.id: 0.0}) for zone in claim.zones]))
    return bool((now <= without + 0.5).any())


def saves(claim, found):
    return 0 < float(found[1]) <= 100 and claim.step.kind == "correct"


def misted(claim, found):
    items = claim.all.products.values()
    tools = [p for p in claim.step.portions if p.tool_dampened]
    return (
        bool(tools)
        and any("mist" in item.role for item in items)
        and (claim.intent.wear_hours == float(found[1]) if found.re.groups else claim.intent.finish == "dewy")
    )


def clear(claim, _):
    """Nothing was left off for what the plane is like."""
    return not claim.all.reading.placement.glow.left_off


def left_off(claim, found):
    """Why it was left off a plane: what is named there was read, on it or beside it."""
    return bool(claim.all.reading.placement.glow.left_off) and any(
        found[1].lower() in each.why.lower() for each in claim.all.reading.placement.glow.left_off
    )


def powder_beneath(claim, _):
    return all(claim.before[zone].powder_mg > 0 for zone in claim.zones)


def some_powder(claim, _):
    return any(done.powder_mg is not None for done in claim.earlier)


def asked(policy):
    return lambda claim, _: claim.intent.setting == policy


def creases(claim, zone):
    """Whether the film there would crease without powder, by what was read or by the forecast, at some moment before this one."""
    here, house = claim.all.reading.zones[zone], claim.all.house
    if zone in both("under_eye", "smile_line") and (here.lined or here.severity("deep_fold")):
        return True
    for state in claim.all.course.states[: claim.index + 1][-8:]:
        lying, film = state[zone], float(state.load_film[ZONE_INDEX[zone]])
        if lying.wet_um > 0:
            strains = crease_strains(here, lying, film, house)
            if crease_index(zone, strains, powdered=lying.powder_mg > 0, house=house) > house.crease_limit:
                return True
    return False


def shines(claim, zone):
    return claim.all.reading.zones[zone].oily >= 2 or bool(claim.all.house.factors)


def rough(claim, zone):
    return claim.all.reading.zones[zone].severity("active_blemish", "raised_texture") >= 1


def wanted(claim, zone):
    return creases(claim, zone) or shines(claim, zone) or rough(claim, zone)


def pan_comes(claim, zone):
    """A powder of colour may go over it: one is laid there next, or was placed there."""
    pans = ("shade", "bronze", "colour", "glow")
    placed = claim.all.reading.placement
    return zone in SUN | {*placed.shade.zones, *placed.colour.zones, *placed.glow.zones} and (
        any(s.kind in pans and s.unit == "mg_cm2" for s in claim.all.sequence.steps[claim.index + 1 :])
    )


def not_baked(claim, zone):
    no_bake = any(note.startswith("No bake:") for note in claim.all.sequence.notes)
    return no_bake or any(each.kind == "bake" and each.zone == zone for each in claim.all.sequence.left_bare)


FOLDS = {*both("under_eye", "inner_corner", "smile_line"), "upper_lip"}


def of_zones(check):
    """True of every zone; of one of several reasons of a portion, each for its own places, true of some."""

    def holds(claim, _):
        portion = next((each for each in claim.step.portions if claim.said in each.why), None)
        each_its_own = portion is not None and sum(each.lower().endswith(ENDS) for each in portion.why) > 1
        met = [check(claim, zone) for zone in claim.zones]
        return any(met) if each_its_own else all(met)

    return holds


PRESSED: dict[str, Callable[[Claim, str], bool]] = {
    "a light press where a pan will go, so that it glides instead of grabbing.": pan_comes,
    "a light press, so that it does not catch the light.": rough,
    "a light press against shine.": shines,
    "a light press, so that it stays flat.": creases,
    "a light press, as asked.": lambda claim, zone: True,
    "pressed, not baked.": not_baked,
    "only so that it stays flat.": lambda claim, zone: zone in FOLDS,
}
"""How the reasons of a light press end, and what each says of a zone."""
ENDS = tuple(PRESSED)


def only_where(claim, found):
    """Zone by zone: each has something that asks for powder, and each thing that is named is met."""
    usual = {*both("nose_side"), *both("under_eye")} if "a face creases and shines first" in found[1] else set()
    pans = "where a pan goes next" in found[1]
    named = {"creases": creases, "shines": shines, "catch the light on texture": rough}
    return all(
        wanted(claim, zone) or zone in usual or (pans and pan_comes(claim, zone)) or not_baked(claim, zone)
        for zone in claim.zones
    ) and all(
        any(check(claim, zone) for zone in claim.zones)
        for word, check in named.items()
        if word in found[1].replace("where a face creases and shines first", "")
    )


def bake_refused(claim, _):
    bakes = any(step.kind == "bake" for step in claim.all.sequence.steps)
    return not bakes and any(note.startswith("No bake:") for note in claim.all.sequence.notes)


def policy_on(policy, zones):
    """Powder where it was asked for; on other zones only what is named beside it."""

    def check(claim, _):
        others = set(claim.zones) - zones(claim)
        return claim.intent.setting == policy and (
            not others or "also" in claim.said or all(not_baked(claim, zone) for zone in others)
        )

    return check


def bakes(claim, found):
    wanted = {"brows", "eyes"} & set(re.findall(r"\w+", found[1]))
    later = {s.kind for s in claim.all.sequence.steps[claim.index :]}
    return bool(wanted) and wanted <= set(claim.intent.features) and wanted <= later


def serves(claim, found):
    role = claim.all.products[claim.step.mix[0].item].role.replace("_", " ")
    return found[1].lower() == role and role != claim.step.kind


def hand_rests(claim, _):
    """A colour does come after it."""
    later = claim.all.sequence.steps[claim.index + 1 :]
    return any(s.kind in ("colour", "bronze", "glow") for s in later) or not any(
        s.kind == "colour" for s in claim.all.sequence.steps
    )


def dusts(claim, _):
    return any(step.swept and set(step.zones) & set(claim.zones) for step in claim.earlier)


REASONS: tuple[tuple[str, Callable[[Claim, re.Match[str]], bool]], ...] = (
    (r"What is left on the tool is rolled onto", lambda c, _: all(p.left_over for p in c.step.portions if c.said in p.why)),
    (r"Too little is left on the tool: a little more", lambda c, _: not any(p.left_over for p in c.step.portions)),
    (r"Last, so that no hand smudges them", lambda c, _: not c.laid("colour")),
    (r"Nothing lies wet here, so this one is a powder", lambda c, _: not all(c.before[z].powder_mg for z in c.zones)),
    (r"Along the hairline, for (\d) finger-widths", lambda c, f: "hairline" in c.zones
        and c.all.reading.sitter.measures.forehead_fingers == float(f[1])),
    (r"Along the jaw from the back forward, since the face is square", lambda c, _: {"jaw_l", "jaw_r"} <= set(c.zones)),
    (r"Thin it on the back of the hand with eye cream", lambda c, _: bool(c.read("fine_lines", "creping", least=2))),
    (r"the paler of two, brings the middle|sets the sides back; where the two meet", lambda c, _: len(
        {s.item for s in c.all.sequence.steps if s.kind == "foundation"}) == 2),
    (r"water only, since oil would sit on the blemishes", lambda c, _: bool(c.read("active_blemish"))),
    (r"The middle of the face comes forward", kind("light")),
    (r"Over the foundation all of it shows", over_foundation),
    (r"^([\d.]+) hours were asked for: a film over all", lambda c, f: float(f[1]) == c.intent.wear_hours),
    (r"Bare it would show a (?:drop|lift) of ([\d.]+) L\*; .* (\d+) % of that reads through, ([\d.]+) L\*", reads_through),
    (r"Below the cheekbone from the ear", lambda c, _: bool({"cheek_hollow_l", "cheek_hollow_r"} & set(c.zones))),
    (r"At the temples, blended up", lambda c, _: bool({"temple_l", "temple_r"} & set(c.zones))),
    (r"By day: a base holds far too little", lambda c, _: "daylight" in c.intent.lights),
    (r"Dotted on the face: quick", lambda c, _: c.intent.options.laid_from == "face" and c.step.unit == "um"),
    (r"owder fixes whatever crease it finds", lambda c, _: c.step.kind == "crease_check"),
    (r"^Before the colour, which a resting hand would smudge", hand_rests),
    (r"In one family of hue with the colour on the cheeks", lambda c, _: bool(c.laid("colour"))),
    (r"Before the base, while the skin is bare|before the base, while the skin is bare", lambda c, _: not c.laid("foundation")),
    (r"while the bake sits", lambda c, _: bool(c.laid("bake"))),
    (r"after setting, over a film|After setting, over a film", some_powder),
    (r"after the base; nothing is powdered", lambda c, _: not some_powder(c, _)),
    (r"^Lift the lid, never pull", kind("eyes")),
    (r"^After everything that could fall on them", kind("lashes")),
    (r"about .* fades within hours", lambda c, _: c.intent.wear_hours >= HOUSE.colour_lasts_from_h),
    (r"ilm on oil or old product slides", kind("cleanse")),
    (r"gently, without rubbing", lambda c, _: bool(c.read("sensitive", "active_blemish", least=2))),
    (r"Only the highest planes, where real light", kind("glow")),
    (r"As planned, it saves (\d+) % of the film", saves),
    (r"Without it the zone stays (.+) off the complexion, with it (.+)\.", ends_nearer),
    (r"^Fed skin takes a thinner film", kind("moisturise")),
    (r"Matched to the foundation, never lighter", kind("spot_conceal")),
    (r"comes out (.+) off the complexion; most where it is needed", kind("foundation")),
    (r"[Ff]ace and neck are ([a-z ]+); a line shows first", bare_apart),
    (r"Joins powder to skin: dry or lined skin", lambda c, _: bool(c.read("dry", "dehydrated", "flaking", "fine_lines", "creping"))),
    (r"^Joins powder to skin\. At arm's length", some_powder),
    (r"^Seen (.+): every border soft", lambda c, f: VIEWING_INFO[c.intent.viewing].seen == f[1]),
    (r"Worn for ([\d.]+) h: the tool is dampened", misted),
    (r"Dewy was asked for: the brush is dampened", misted),
    (r"^Every high plane of this face is smooth enough", clear),
    (r"^Left off (?:.+?): (.+?)[;.]", left_off),
    (r"filled level, so that no film sinks", lambda c, _: bool(c.read("enlarged_pores", "pitted_scar", "raised_texture"))),
    (r"held matt from below", lambda c, _: bool(c.read("oily", "pitted_scar", "active_blemish"))),
    (r"slip and water, so that the film bends", lambda c, _: bool(c.read("dry", "dehydrated", "flaking", "fine_lines", "creping"))),
    (r"^Look in (.+)\. Judge powder", lambda c, f: all(LIGHT_INFO[each].words.lower() in f[1] for each in c.intent.lights)),
    (r"Tapped on last, it stays clear", glow_moment("last")),
    (r"Tapped on while the colour is still wet", glow_moment("after")),
    (r"Under the foundation it looks like the skin's own", glow_moment("under")),
    (r"Stirred into what comes next", glow_moment("under")),
    (r"Powder lies here, so this one is a powder", powder_beneath),
    (r"oily skin needs water too, and a gel adds no oil", lambda c, _: bool(c.read("oily"))),
    (r"On and just above the shade rather than on the apple", lambda c, _: c.intent.colour_effect == "slim"),
    (r"On the apple of the cheek, which keeps it round", lambda c, _: c.intent.colour_effect == "full"),
    (r"From below the outer corner of the eye, up", lambda c, _: c.intent.colour_effect == "lift"),
    (r"Starts below the outer corner of the eye", lambda c, _: c.intent.colour_effect is None),
    (r"^(\w+) undertone on ([\w ]+) skin: a (?:cool|warm)", tone),
    (r"moisturised skin creases less", lambda c, _: bool(c.read("dry", "dehydrated", "flaking", "fine_lines", "creping"))),
    (r"Before the foundation, for an even canvas", lambda c, _: not c.laid("foundation")),
    (r"Everything was placed first to see the whole map", lambda c, _: c.intent.blend == "place_all"),
    (r"A thin clean line below the shade|A line of powder below the shade", lambda c, _: bool(c.laid("shade"))),
    (r"The line is swept away downwards", dusts),
    (r"What has not taken up oil is swept away", dusts),
    (r"Placed with a brush, then pressed with a damp sponge", lambda c, _: c.step.then is not None),
    (r"In powder, two light passes", lambda c, _: c.step.unit == "mg_cm2"),
    (r"brings back the life that powder took", some_powder),
    (r"Warmth where the sun would reach", lambda c, _: set(c.zones) <= SUN),
    (r"A tone between skin and shade", kind("bronze")),
    (r"A warm tone between skin and shade", lambda c, _: bool(c.laid("shade"))),
    (r"^Only (.+): elsewhere powder dulls", only_where),
    (r"^In place of the bake that was asked for", bake_refused),
    (r"^What is not baked is pressed, as asked", asked("bake_wide")),
    (r"^T-zone, as asked", policy_on("t_zone", lambda c: set(T_ZONE))),
    (r"^Whole face, as asked, where a film lies", asked("whole_face")),
    (r"^Whole face, as asked[.;]", policy_on("whole_face", lambda c: set(c.zones) if set(COMPLEXION_ZONES) <= set(c.zones) else set())),
    (r"^Wherever light was laid, as asked", policy_on("on_light", lambda c: c.laid("light"))),
    (r"light press where a pan will go", of_zones(pan_comes)),
    (r"nly so that it stays flat", kind("set")),
    (r"(?i)a light press, so that it does not catch the light", of_zones(rough)),
    (r"(?i)a light press against shine", of_zones(shines)),
    (r"(?i)a light press, so that it stays flat", of_zones(creases)),
    (r"(?i)a light press, as asked", lambda c, _: c.intent.setting not in ("none", "bake_points") and not (
        c.intent.setting == "spot" and any(wanted(c, z) for z in c.all.reading.zones if z in COMPLEXION_ZONES))),
    (r"ressed, not baked", of_zones(not_baked)),
    (r"so that oil is taken up before it shines", lambda c, _: bool(c.read("oily", least=2))),
    (r"a thick press sits while oil and water rise", kind("bake")),
    (r"^Use the wait for (.+)\.", bakes),
    (r"^Smooth the flakes", lambda c, _: bool(c.read("flaking"))),
    (r"swipe leaves film on the high points", lambda c, _: bool(c.read("raised_texture", "pitted_scar", "enlarged_pores", least=2))),
    (r"light taps, with a sponge kept for this sitter", lambda c, _: bool(c.read("active_blemish"))),
    (r"^A ([\w ]+) serves as \w+: its depth", serves),
    (r"is sold as ([\w ]+); it corrects here", serves),
    (r"the recesses go quiet|The recesses go quiet", kind("mute_shine")),
    (r"A gel moisturises this skin without weight", kind("moisturise")),
    (r"dry skin grabs product unevenly", lambda c, _: bool(c.read("dry", "dehydrated", "flaking"))),
    (r"Doubled lightly in powder", lambda c, _: bool(c.laid(c.step.kind))),
    (r"film gathers where skin moves or lifts", lambda c, _: bool(c.read("creping", "fine_lines", "deep_fold", "flaking", least=2))),
    (r"thinner here", lambda c, _: bool(c.read("creping", "fine_lines", "deep_fold", "flaking", least=2))),
    (r"^Less foundation lies over it here", kind("light", "shade")),
    (r"^Lighter on the nose than on the cheek", lambda c, _: any(zone.startswith("nose") for zone in c.zones)),
    (r"Over what was painted beneath, only pressed", lambda c, _: bool(c.laid("shade", "light", "glow", "bronze"))),
    (r"still (.+) off the complexion, with it (.+)", improves),
    (r"cancelled first, so that less must cover it", lambda c, _: not c.laid("foundation")),
    (r"cancelled where it still shows", lambda c, _: bool(c.laid("foundation"))),
    (r"Under the soft jowl and down towards", lambda c, _: bool(c.all.reading.zones["jaw_l"].severity("jowl"))),
    (r"in cream before the powder, since the kit has no pan", lambda c, _: not any(
        item.role == "bronzer" and item.dry for item in c.all.products.values())),
    (r"second thin press, only where it is still needed", lambda c, _: c.intent.options.second_pass),
    (r"a light press keeps the lid base from gathering", lambda c, _: any("eyelid_l" in s.zones for s in c.earlier if s.kind == "prime")),
)  # fmt: skip


def claims(done):
    for index, step in enumerate(done.sequence.steps):
        for said in step.why:
            yield Claim(said, step, index, step.zones, done)
        for portion in step.portions:
            for said in portion.why:
                yield Claim(said, step, index, portion.zones, done)


@pytest.fixture(scope="module")
def told(people):
    """Every reason of plans for the demo's people in all schools, and for anything made up."""
    plans = [plan(in_school(case, school), HOUSE) for case in people.values() for school in SCHOOLS]
    plans += [plan(case, HOUSE) for case in wild(90, seed=11)]
    return [claim for each in plans for claim in claims(evaluate(each, HOUSE, try_fixes=False))]


def test_every_reason_is_one_that_is_checked_here(told):
    unknown = Counter(
        (claim.step.kind, claim.said)
        for claim in told
        if not any(re.search(pattern, claim.said) for pattern, _ in REASONS)
    )
    assert not unknown, unknown.most_common(30)
    assert len(told) > 3000


def test_what_a_reason_claims_is_so(told):
    wrong, met = Counter(), Counter()
    for claim in told:
        for pattern, check in REASONS:
            found = re.search(pattern, claim.said)
            if found is not None:
                met[pattern] += 1
                if not check(claim, found):
                    wrong[claim.all.sequence.school, claim.step.kind, claim.said] += 1
    assert not wrong, wrong.most_common(40)
    assert len(met) > 0.8 * len(REASONS), [pattern for pattern, _ in REASONS if pattern not in met]


def test_every_zone_of_a_light_press_has_a_reason_that_is_so(told):
    """Where a press has several reasons, each for its own places, none of its zones is without one that holds there."""
    met = 0
    for claim in told:
        portion = next((each for each in claim.step.portions if claim.said in each.why), None)
        if portion is None or claim.step.kind != "set":
            continue
        checks = [check for why in portion.why for end, check in PRESSED.items() if why.lower().endswith(end)]
        if len(checks) > 1:
            met += 1
            assert all(any(check(claim, zone) for check in checks) for zone in portion.zones), portion
    assert met > 20


def test_what_was_read_is_cited_as_it_was_read(told):
    """A condition and its severity in a reason are those of a zone that the reason speaks of."""
    met = 0
    for claim in told:
        for words, severity in re.findall(
            r"([A-Za-z][a-z ]*?) ([123])(?= (?:on|at|in|under|along|beside|above|below|all|down|and)\b)", claim.said
        ):
            name = words.lower().strip()
            name = name.rsplit(" and ", 1)[-1].removeprefix("and ")
            condition = next((each for own, each in CONDITION.items() if name.endswith(own)), None)
            if condition is None:
                continue
            met += 1
            highest = max(claim.all.reading.zones[zone].conditions.get(condition, 0) for zone in claim.zones)
            assert highest == int(severity), (claim.said, condition, highest)
    assert met > 300


LEFT: tuple[tuple[str, Callable[[Evaluation, LeftBare], bool]], ...] = (
    (r"^Neither creases nor shines here\.$", lambda done, bare: not comes(done, bare.zone)),
    (r"^Left without powder under this way of setting: it (.+)\.$", lambda done, bare: told_to_come(done, bare)),
    (r"^No powder was asked for\.(?: It (.+)\.)?$", lambda done, bare: done.sequence.case.intent.setting == "none" and told_to_come(done, bare)),
    (r"^Nothing lies here that could crease\.$", lambda done, bare: row_of(done, bare.zone).film_um <= 0),
    (r"^Glow lies here: powder would only dull it\.$", lambda done, bare: laid_on(done, bare.zone, "glow")),
    (r"^Powder lies here by now, and the kit has no powder glow", lambda done, bare: no_pan(done, "glow") and row_of(done, bare.zone).powder_mg > 0),
    (r"glow in cream would slide on it\.$", lambda done, bare: no_pan(done, "glow") and done.reading.zones[bare.zone].oily >= 2),
    (r"glow in cream would slide on it; a pan glides", lambda done, bare: not no_pan(done, "glow") and row_of(done, bare.zone).powder_mg == 0),
    (r"^The kit has no concealer that could lie here", lambda done, bare: True),
    (r"^No concealer of the kit brings it nearer: it stays (.+) off", lambda done, bare: True),
    (r"^It carries no more film by now\.$", lambda done, bare: row_of(done, bare.zone).film_um > 0),
    (r"^(.+) off the complexion by now: nothing left to hide", lambda done, bare: True),
)  # fmt: skip
"""What is said of a zone that was left without a layer, by what it claims; other sentences say what was read or asked for."""


def row_of(done, zone):
    return next(row for row in done.forecast if row.zone == zone)


def comes(done, zone):
    """What the finished plan has coming on a zone: a crease past the limit, a blot."""
    row = row_of(done, zone)
    found = []
    if row.film_um > 0 and row.crease > done.house.crease_limit:
        found.append("is likely to crease")
    blots = [each.hour for each in done.touch_ups if each.does in (BLOT, BLOT_ONLY) and zone in each.zones]
    if blots:
        found.append(f"shines after about {min(blots):g} h and is blotted then")
    return found


def told_to_come(done, bare):
    found = comes(done, bare.zone)
    return (" and ".join(found) in bare.why) if found else ("crease" not in bare.why and "shines" not in bare.why)


def laid_on(done, zone, kind):
    return any(step.kind == kind and zone in step.zones for step in done.sequence.steps)


def no_pan(done, role):
    return not any(item.role == role and item.dry and item.tinted for item in done.products.values())


@pytest.fixture(scope="module")
def evaluations(people):
    plans = [plan(in_school(case, school), HOUSE) for case in people.values() for school in SCHOOLS]
    plans += [plan(case, HOUSE) for case in wild(90, seed=12)]
    return [evaluate(each, HOUSE, try_fixes=False) for each in plans]


def test_why_a_zone_was_left_bare_is_so_in_the_finished_plan(evaluations):
    wrong, met = Counter(), Counter()
    for done in evaluations:
        for bare in done.sequence.left_bare:
            for pattern, holds in LEFT:
                if re.search(pattern, bare.why):
                    met[pattern] += 1
                    if not holds(done, bare):
                        wrong[done.sequence.school, bare.kind, bare.zone, bare.why] += 1
    assert not wrong, wrong.most_common(30)
    assert len(met) >= 0.7 * len(LEFT), [pattern for pattern, _ in LEFT if pattern not in met]


def test_no_zone_is_told_to_be_left_without_what_lies_on_it(evaluations):
    met = 0
    for done in evaluations:
        for bare in done.sequence.left_bare:
            met += 1
            assert not laid_on(done, bare.zone, bare.kind), (done.sequence.school, bare)
            if bare.kind == "set":
                assert row_of(done, bare.zone).powder_mg == 0, bare
    assert met > 500


def test_nothing_is_said_to_be_missing_of_what_the_kit_has(evaluations):
    """A powder glow, a bronzer or a setting powder is called missing only where the shelf has none that could serve."""
    met = 0
    for done in evaluations:
        avoid = set(done.sequence.case.sitter.avoid)
        for note in done.sequence.notes:
            if note.startswith("Nothing in the kit serves as glow on oily skin"):
                met += 1
                assert no_pan(done, "glow") or avoid, note
    assert met
