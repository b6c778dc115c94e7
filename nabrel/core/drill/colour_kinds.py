"""Exercises about what is seen: which corrector, how dark under this foundation, what went wrong with a finished face."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from random import Random
from typing import Annotated, Any

import numpy as np
from annotated_types import Ge, Le

from nabrel.core.ask.correction import ZoneCorrection, correct_zone
from nabrel.core.ask.mistakes import MISTAKES, Made, made
from nabrel.core.drill.exercise import Answer, Exercise, Mark, Marking, Shown, knows_only, lettered
from nabrel.core.drill.judgements import SHOWN, Judgement, about
from nabrel.core.drill.step_kinds import reads
from nabrel.core.drill.world import World
from nabrel.core.errors import Impossible, Refused
from nabrel.core.film.difference import delta_e
from nabrel.core.film.films import over
from nabrel.core.film.spectra import lab_of, surface, to_hex
from nabrel.core.house import House
from nabrel.core.shelf.ladder import rung_words
from nabrel.core.shelf.optics import film_for
from nabrel.core.solve.corrector import Covering
from nabrel.core.terms.colour import Lab
from nabrel.core.terms.ids import Zone
from nabrel.core.terms.limits import LIMITS
from nabrel.core.terms.words import join_words
from nabrel.core.terms.zones import COMPLEXION_ZONES, ZONE_INFO, ZONES, both

THIN_UM, THICK_UM = (2.0, 3.0, 4.5), (3.0, 4.5, 6.5)
"""Films of foundation that a shade must show through, below the fourth level and from it on: as thin, usual and full bases lie."""
DEEPEST_L = 6
"""A shade goes no nearer to black than this L*."""
HALVINGS = 40
"""Turns of a bisection: more than a float can tell apart."""
LEVELS = 5
"""How many levels an exercise has."""

WANTED = 4.0
"""How many L* a shade is to show under the foundation."""
MOST_DROP, TOLERANCE = LIMITS.drop_l.high, 0.5
WORTH_SAYING, MOST_IN_WORDS = 1.5, 10
"""Less in L*, a* or b* is not said of a colour in words; and so many zones are."""
APART = (3.0, 2.2, 1.5, 1.0, 0.6)
"""How far two mistakes must look apart on the zone that tells them best, ΔE00, by level."""
PLAINLY_FURTHER = 0.6
"""So much further from the complexion, ΔE00, does a hue leave a zone that is plainly the wrong one."""
PLAINLY_SEEN = 2.0
"""A mistake is asked about that moves a zone by so much, ΔE00; the place is named."""
MOST_TRIED = 5
"""So many other mistakes are tried on a face for the three that are confusable."""


@dataclass(frozen=True, slots=True)
class Left:
    """What one choice leaves of a discolouration: how far off, ΔE00, in words, and as a colour, sRGB hex."""

    de: Annotated[float, Ge(0), Le(200)]
    says: str
    hex: str = ""


@dataclass(frozen=True, slots=True)
class Corrected(Marking):
    """What each choice leaves, and the item that it is, by letter."""

    leaves: Mapping[str, Left]
    items: Mapping[str, str] = field(default_factory=dict)

    def follows(self, choice: str) -> tuple[str, ...]:
        """What it leaves."""
        left = self.leaves[choice]
        return (f"It leaves the zone ΔE00 {left.de:.1f} off the complexion{': ' + left.says if left.says else ''}.",)


@dataclass(frozen=True, slots=True)
class WentWrong(Marking):
    """What happened, how it is mended, and the colours of the face as it was planned."""

    says: str
    mend: str
    as_planned: Mapping[Zone, str] = field(default_factory=dict)

    def follows(self, choice: str) -> tuple[str, ...]:  # noqa: ARG002 - whatever was chosen
        """What happened, and how it is mended."""
        return self.says, self.mend


def corrector(world: World, level: int, rng: Random, asked: Judgement | None = None) -> Exercise | None:
    """A discoloured zone on this skin: which hue. What each would leave by itself is what the film model shows.

    No concealer lies over it: under one that is opaque enough every hue looks alike, and nothing is learnt. What is asked about
    is one that the plan would take, or one as good.
    """
    zones = [
        z
        for z in (*both("under_eye"), *both("inner_corner"), "upper_lip", *both("nose_side"))
        if _asks(world, z, asked)
    ]
    rng.shuffle(zones)
    for zone in zones:
        try:
            found = correct_zone(world.case, zone, world.house)
        except Impossible:
            continue
        planned = {each.corrector.id for each in found.answer.nearly_as_good(world.house) if each.corrector is not None}
        best, *others = found.alone(world.house) or (None,)
        if best is None or not found.worth_it or best[0].id not in planned:
            continue
        wrong = [row for row in others if row[1].de >= best[1].de + PLAINLY_FURTHER]
        if len(wrong) < 3:
            continue
        rows = {item.name: (item, covering, passed_over) for item, covering, passed_over in (best, *wrong)}
        # What leaves it nearly as well is confusable.
        begin = round((len(wrong) - 3) * (LEVELS - level) / 4)
        choices, letter = lettered(rng, best[0].name, [item.name for item, *_ in wrong[begin : begin + 3]])
        hexes = to_hex(np.array([rows[c.says][1].lab for c in choices]))
        skin, target = to_hex(np.array([found.skin, found.target]))
        shows = beside(found.skin, found.target) or "the same"
        under = (
            f"under {rung_words(found.foundation_um, 'um', world.house)} of foundation"
            if found.foundation is not None
            else "by itself"
        )
        left = {c.id: round(float(rows[c.says][1].de), 2) for c in choices}
        nearest = min((each for each in left if each != letter), key=lambda each: left[each])
        return Exercise(
            "", "corrector", f"hue-{_worst(world, zone)}", level, 0,
            f"This zone is {ZONE_INFO[zone].place}. Which corrector leaves least to see, {under} and with no concealer?",
            Answer(choice=letter),
            (
                f"{_differs(found.skin, found.target)}{best[0].name} in {rung_words(best[1].corrector_um, 'um', world.house)} leaves ΔE00 "
                f"{left[letter]:.1f}; the next best here, {next(c.says for c in choices if c.id == nearest)}, {left[nearest]:.1f}.",
            ),
            choices,
            Shown(
                zone=zone, reads=reads(world), skin=skin, complexion=target, in_words=(f"The zone beside the complexion: {shows}.",)
            ),
            Corrected(
                {c.id: Left(left[c.id], _said_of(found, *rows[c.says][1:]), h) for c, h in zip(choices, hexes, strict=True)},
                {c.id: rows[c.says][0].id for c in choices},
            ),
            world.plan,
        )  # fmt: skip
    return None


def _differs(skin: Any, target: Any) -> str:
    """How the zone looks beside the complexion: "It is darker and more violet than the skin around it. "; empty where alike."""
    lightness, red, yellow = (float(one) - float(two) for one, two in zip(skin, target, strict=True))
    cold = "bluer" if red <= -WORTH_SAYING else "more violet"
    rows = ((lightness, "darker", "paler"), (red, "greener", "redder"), (yellow, cold, "yellower"))
    named = [below if off < 0 else above for off, below, above in rows if abs(off) >= WORTH_SAYING]
    return f"It is {join_words(named)} than the skin around it. " if named else ""


def _said_of(found: ZoneCorrection, covering: Covering, passed_over: str | None) -> str:
    return ": ".join(each for each in (passed_over, found.misses(covering)) if each)


def _asks(world: World, zone: Zone, asked: Judgement | None) -> bool:
    here = world.reading.zones[zone]
    return bool(here.discolorations) and not here.left_alone and about(asked, f"hue-{_worst(world, zone)}")


def _worst(world: World, zone: Zone) -> str:
    return world.reading.zones[zone].discolorations[0]


def depth(world: World, level: int, rng: Random, asked: Judgement | None = None) -> Exercise | None:  # noqa: ARG001 - as all of them
    """How dark must a shade go on to show so many L* under this foundation: a drop in L*, scored by what would be seen."""
    foundations = [
        item for item in world.now.products.values() if item.role == "foundation" and item.tinted and not item.dry
    ]
    if not foundations:
        return None
    item = rng.choice(foundations)
    film_um = rng.choice(THIN_UM if level < 4 else THICK_UM)
    drop = _drop_for(world, item.id, film_um)
    if drop is None:
        return None
    return Exercise(
        "", "depth", "read-through", level, 0,
        f"A shade goes on under {film_um:g} µm of {item.name} (cover {item.cover:.2f}). By how many L* must it be darker than the skin "
        f"to show {WANTED:g} L* through it?",
        Answer(drop=round(drop, 1)),
        (f"{item.name} at {film_um:g} µm lets {100 * WANTED / drop:.0f} % of the step through: what is under it must be darker by so much more.",),
        shows=Shown(skin=_rounded(world.reading.complexion), foundation=item.id, film_um=film_um, wanted=WANTED),
        sequence=world.plan,
    )  # fmt: skip


def beside(lab: Any, other: Any) -> str:
    """One colour beside another in words: "8 L* darker, redder"; empty where they look alike."""
    lightness, red, yellow = (float(one) - float(two) for one, two in zip(lab, other, strict=True))
    said = (
        [f"{abs(lightness):.0f} L* {'lighter' if lightness > 0 else 'darker'}"]
        if abs(lightness) >= WORTH_SAYING
        else []
    )
    said += [("redder" if red > 0 else "greener")] if abs(red) >= WORTH_SAYING else []
    said += [("yellower" if yellow > 0 else "bluer")] if abs(yellow) >= WORTH_SAYING else []
    return ", ".join(said)


def face_in_words(labs: Any, complexion: Any) -> list[str]:
    """A face for who cannot see it: the zones that differ most from the complexion, and how."""
    off = delta_e(labs, np.array([complexion] * len(ZONES)))
    order = sorted(range(len(ZONES)), key=lambda place: (-float(off[place]), place))
    found: list[str] = []
    for place in order:
        said = beside(labs[place], complexion)
        if said and ZONES[place] in COMPLEXION_ZONES and len(found) < MOST_IN_WORDS:
            found.append(f"{ZONE_INFO[ZONES[place]].words}: {said}.")
    return found


def depth_looks(exercise: Exercise, answer: Answer, house: House) -> tuple[tuple[str, str], ...]:
    """What shows through the foundation: without a shade, with the one that was set, with the right one; words and sRGB hex."""
    if exercise.sequence is None:
        return ()
    skin, cover, film_um, _ = _beneath(exercise, house)
    drops = {"no shade": 0.0, "as you set it": answer.drop or 0.0, "as it should be": exercise.answer.drop or 0.0}
    labs = [_through(skin, cover, film_um, drop) for drop in drops.values()]
    return tuple(zip(drops, to_hex(np.array(labs)), strict=True))


def _beneath(exercise: Exercise, house: House) -> tuple[Any, Any, float, float]:
    """Skin (L*a*b*), the foundation's film, its thickness in µm, and the step in L* that is to show."""
    shows, plan = exercise.shows, exercise.sequence
    assert plan is not None
    assert shows.film_um is not None
    assert shows.wanted is not None
    item = next(each for each in plan.case.kit if each.id == shows.foundation)
    return shows.skin, film_for(item, house), shows.film_um, shows.wanted


def _rounded(lab: Any) -> Lab:
    lightness, red, yellow = (round(float(each), 2) for each in lab)
    return lightness, red, yellow


def _visible(world_skin: Any, cover: Any, film_um: float, drop: float) -> float:
    """The step in L* that shows once the foundation is on, for a shade darker by ``drop`` L* beneath it."""
    plain, dark = (_through(world_skin, cover, film_um, each) for each in (0.0, drop))
    return float(plain[0] - dark[0])


def _through(world_skin: Any, cover: Any, film_um: float, drop: float) -> Any:
    """The colour that shows once the foundation is on, L*a*b*, for a shade darker by ``drop`` L* beneath it."""
    # A deeper shade of the same hue: chroma falls with lightness.
    left = max(1.0, world_skin[0] - drop) / world_skin[0]
    dark = tuple(each * left for each in world_skin)
    return lab_of(over(surface(dark), cover.ratio, cover.s * film_um))


def _drop_for(world: World, item: str, film_um: float) -> float | None:
    skin, cover = world.reading.complexion, film_for(world.now.products[item], world.house)
    low, high = 0.0, min(MOST_DROP, skin[0] - DEEPEST_L)
    if _visible(skin, cover, film_um, high) < WANTED:
        return None
    for _ in range(HALVINGS):
        middle = (low + high) / 2
        low, high = (middle, high) if _visible(skin, cover, film_um, middle) < WANTED else (low, middle)
    return high


def mark_depth(exercise: Exercise, answer: Answer, house: House) -> Mark:
    """By what would be seen: all within half an L*, nothing where it shows twice too much or not at all."""
    knows_only(answer, "drop")
    given = answer.drop
    if given is None:
        return Mark(0.0, exercise.answer, ("Nothing was set.",), exercise.why)
    if not 0 <= given <= MOST_DROP:
        raise Refused("drop", given, f"a number of L*, 0 to {MOST_DROP:g}")
    skin, cover, film_um, wanted = _beneath(exercise, house)
    shows = _visible(skin, cover, film_um, float(given))
    off = abs(shows - wanted)
    score = max(0.0, 1.0 - max(0.0, off - TOLERANCE) / (wanted - TOLERANCE))
    told = "as wanted" if off <= TOLERANCE else "a stripe" if shows > wanted else "hardly seen"
    return Mark(round(score, 3), exercise.answer, (f"{shows:.1f} L* would show: {told}.",), exercise.why)


def check_depth(exercise: Exercise) -> None:
    """Refuse an exercise about a foundation that is none of its plan's, and about a skin that is no L*a*b*."""
    shows, plan = exercise.shows, exercise.sequence
    item = plan.case.product(shows.foundation or "") if plan is not None else None
    if item is None or not item.tinted:
        raise Refused("shows.foundation", shows.foundation, "a foundation of the plan's kit")
    if not isinstance(shows.skin, tuple):
        raise Refused("shows.skin", shows.skin, "L*, a* and b*")


def diagnose(world: World, level: int, rng: Random, asked: Judgement | None = None) -> Exercise | None:
    """A finished face with one mistake in it: what happened, how it is mended."""
    right = world.now.appearance.lab[-1]
    looks: dict[str, tuple[Made, Any]] = {}

    def look(name: str) -> bool:
        found = made(world.now, MISTAKES[name], world.house)
        if found is not None and found.trial.look_de >= PLAINLY_SEEN:
            looks[name] = (found, found.trial.after.appearance.lab[-1])
        return name in looks

    names = [name for name in SHOWN if about(asked, f"diagnose-{name}")]
    rng.shuffle(names)
    first = next((name for name in names if look(name)), None)
    if first is None:
        return None
    found, lab = looks[first]
    others = [name for name in MISTAKES if name != first and _seen(name)]
    rng.shuffle(others)
    # What shows on this face too is confusable. A fair choice is one that would plainly look different.
    tried = sorted(others[:MOST_TRIED], key=lambda name: not look(name))
    wrong = [
        name for name in tried if name not in looks or float(delta_e(looks[name][1], lab).max()) >= APART[level - 1]
    ]
    if len(wrong) < 3:
        return None
    choices, letter = lettered(rng, found.mistake.words, [MISTAKES[name].words for name in wrong[:3]])
    return Exercise(
        "", "diagnose", f"diagnose-{first}", level, 0,
        f"Something went wrong with this face; most is to be seen {ZONE_INFO[found.trial.look_zone].place}. What happened?",
        Answer(choice=letter),
        (found.mistake.comes_of_it, *(each.says for each in found.trial.come[:1])),
        choices,
        Shown(
            face=dict(zip(ZONES, found.trial.after.appearance.hexes[-1], strict=True)),
            in_words=tuple(face_in_words(lab, world.reading.complexion)),
        ),
        WentWrong(
            found.mistake.comes_of_it,
            next((each.fix.says for each in found.trial.come if each.fix), "Take it off there and lay it as planned."),
            dict(zip(ZONES, to_hex(right), strict=True)),
        ),
        found.trial.after.sequence,
        world.plan,
    )  # fmt: skip


def _seen(name: str) -> bool:
    """Whether a mistake is one that a finished face shows."""
    return name not in ("no_waits", "dry_sponge", "over_creases", "swiped")
