"""Exercises about what is seen: which corrector, how dark under this foundation, what went wrong with a finished face."""

from __future__ import annotations

from collections.abc import Mapping
from random import Random
from typing import Any

import numpy as np

from nabrel.core.ask.correction import correct_zone
from nabrel.core.ask.mistakes import MISTAKES, made
from nabrel.core.drill.exercise import Exercise, Mark, alike, knows_only, lettered
from nabrel.core.drill.steps import reads
from nabrel.core.drill.world import World
from nabrel.core.errors import Impossible, Refused
from nabrel.core.film.difference import delta_e
from nabrel.core.film.films import over
from nabrel.core.film.spectra import lab_of, surface, to_hex
from nabrel.core.house import House
from nabrel.core.shelf.optics import film_for
from nabrel.core.solve.corrector import Covering
from nabrel.core.terms.ids import Zone
from nabrel.core.terms.limits import LIMITS
from nabrel.core.terms.zones import ZONE_INFO, ZONES, both

WANTED = 4.0
"""How many L* a shade is to show under the foundation."""
MOST_DROP, TOLERANCE = LIMITS.drop_l.high, 0.5
APART = (3.0, 2.2, 1.5, 1.0, 0.6)
"""How far two mistakes must look apart on the zone that tells them best, ΔE00, by level."""


def corrector(world: World, level: int, rng: Random) -> Exercise | None:
    """A discoloured zone on this skin: which hue. What each would leave is what the film model shows."""
    zones = [z for z in (*both("under_eye"), *both("inner_corner"), "upper_lip", *both("nose_side")) if _asks(world, z)]
    rng.shuffle(zones)
    for zone in zones:
        try:
            found = correct_zone(world.case, zone, world.house)
        except Impossible:
            continue
        answer, best = found.answer, found.answer.best
        if best.corrector is None or not found.worth_it:
            continue
        as_good = {each.corrector.id for each in answer.nearly_as_good(world.house) if each.corrector is not None}
        rows: dict[str, Covering] = {each.corrector.name: each for each in answer.each if each.corrector is not None}
        rows[best.corrector.name] = best
        right = best.corrector.name
        wrong = [n for n, row in rows.items() if row.corrector and n != right and row.corrector.id not in as_good]
        wrong.sort(key=lambda name: (rows[name].de, name))
        if len(wrong) < 3:
            continue
        # What leaves it nearly as well is confusable.
        begin = round((len(wrong) - 3) * (5 - level) / 4)
        choices, letter = lettered(rng, right, wrong[begin : begin + 3])
        hexes = to_hex(np.array([rows[c.says].lab for c in choices]))
        skin, target = to_hex(np.array([found.skin, found.target]))
        return Exercise(
            "", "corrector", f"hue-{_worst(world, zone)}", level, 0,
            f"This zone is {ZONE_INFO[zone].place}. Which corrector, so that least must cover it?",
            {"choice": letter},
            (found.says,),
            choices,
            {
                "zone": zone, "reads": reads(world), "skin": skin, "complexion": target},
            {
                "leaves": {c.id: {"hex": h, "de": round(float(rows[c.says].de), 2), "says": found.misses(rows[c.says])}
                           for c, h in zip(choices, hexes, strict=True)},
            },
        )  # fmt: skip
    return None


def _asks(world: World, zone: Zone) -> bool:
    return bool(world.reading.zones[zone].discolorations) and not world.reading.zones[zone].left_alone


def _worst(world: World, zone: Zone) -> str:
    return world.reading.zones[zone].discolorations[0]


def depth(world: World, level: int, rng: Random) -> Exercise | None:
    """How dark must a shade go on to show so many L* under this foundation: a drop in L*, scored by what would be seen."""
    foundations = [
        item for item in world.now.products.values() if item.role == "foundation" and item.tinted and not item.dry
    ]
    if not foundations:
        return None
    item = rng.choice(foundations)
    film_um = rng.choice((2.0, 3.0, 4.5) if level < 4 else (3.0, 4.5, 6.5))
    drop = _drop_for(world, item.id, film_um)
    if drop is None:
        return None
    return Exercise(
        "", "depth", "read-through", level, 0,
        f"A shade goes on under {film_um:g} µm of {item.name} (cover {item.cover:.2f}). By how many L* must it be darker than the skin "
        f"to show {WANTED:g} L* through it?",
        {"drop": round(drop, 1)},
        (f"{item.name} at {film_um:g} µm lets {100 * WANTED / drop:.0f} % of the step through: what is under it must be darker by so much more.",),
        shows={"skin": [round(each, 2) for each in world.reading.complexion], "foundation": item.id, "film_um": film_um,
               "wanted": WANTED},
        sequence=world.plan,
    )  # fmt: skip


def _visible(world_skin: Any, cover: Any, film_um: float, drop: float) -> float:
    """The step in L* that shows once the foundation is on, for a shade darker by ``drop`` L* beneath it."""
    # A deeper shade of the same hue: chroma falls with lightness.
    left = max(1.0, world_skin[0] - drop) / world_skin[0]
    dark = tuple(each * left for each in world_skin)
    seen = [lab_of(over(surface(lab), cover.ratio, cover.s * film_um))[0] for lab in (tuple(world_skin), dark)]
    return float(seen[0] - seen[1])


def _drop_for(world: World, item: str, film_um: float) -> float | None:
    skin, cover = world.reading.complexion, film_for(world.now.products[item], world.house)
    low, high = 0.0, min(MOST_DROP, skin[0] - 6)
    if _visible(skin, cover, film_um, high) < WANTED:
        return None
    for _ in range(40):
        middle = (low + high) / 2
        low, high = (middle, high) if _visible(skin, cover, film_um, middle) < WANTED else (low, middle)
    return high


def mark_depth(exercise: Exercise, answer: Mapping[str, Any], house: House) -> Mark:
    """By what would be seen: all within half an L*, nothing where it shows twice too much or not at all."""
    knows_only(answer, "drop")
    given = answer.get("drop")
    if given is None:
        return Mark(0.0, exercise.answer, ("Nothing was set.",), exercise.why)
    if isinstance(given, bool) or not isinstance(given, int | float) or not 0 <= given <= MOST_DROP:
        raise Refused("drop", given, f"a number of L*, 0 to {MOST_DROP:g}")
    assert exercise.sequence is not None
    item = next(each for each in exercise.sequence.case.kit if each.id == exercise.shows["foundation"])
    shows = _visible(exercise.shows["skin"], film_for(item, house), exercise.shows["film_um"], float(given))
    off = abs(shows - exercise.shows["wanted"])
    score = max(0.0, 1.0 - max(0.0, off - TOLERANCE) / (exercise.shows["wanted"] - TOLERANCE))
    told = "as wanted" if off <= TOLERANCE else "a stripe" if shows > exercise.shows["wanted"] else "hardly seen"
    return Mark(round(score, 3), exercise.answer, (f"{shows:.1f} L* would show: {told}.",), exercise.why)


def diagnose(world: World, level: int, rng: Random) -> Exercise | None:
    """A finished face with one mistake in it: what happened, how it is mended."""
    right = world.now.appearance.lab[-1]
    looks = {}
    for mistake in MISTAKES.values():
        found = made(world.now, mistake, world.house)
        if found is not None and found.trial.look_de >= APART[0]:
            looks[mistake.id] = (found, found.trial.after.appearance.lab[-1])
    names = list(looks)
    rng.shuffle(names)
    for name in names:
        found, lab = looks[name]
        # Another mistake is a fair choice where the face shows plainly that it is not the one.
        others = [
            other for other in MISTAKES.values()
            if other.id != name and (other.id not in looks or float(delta_e(looks[other.id][1], lab).max()) >= APART[level - 1])
        ]  # fmt: skip
        possible = [other.words for other in others if other.id in looks] + [
            o.words for o in others if o.id not in looks and _seen(o.id)
        ]
        wrong = possible[:1] + alike(found.mistake.words, possible[1:], 2) if possible else []
        if len(wrong) < 3:
            continue
        choices, letter = lettered(rng, found.mistake.words, wrong)
        return Exercise(
            "", "diagnose", f"diagnose-{name}", level, 0,
            f"Something went wrong with this face; most is to be seen {ZONE_INFO[found.trial.look_zone].place}. What happened?",
            {"choice": letter},
            (found.mistake.comes_of_it, *(each.says for each in found.trial.come[:1])),
            choices,
            {
                "face": dict(zip(ZONES, found.trial.after.appearance.hexes[-1], strict=True)),
            },
            {
                "as_planned": dict(zip(ZONES, to_hex(right), strict=True)),
                "mend": next((each.fix.says for each in found.trial.come if each.fix), "Take it off there and lay it as planned."),
                "says": found.mistake.comes_of_it,
            },
            found.trial.after.sequence,
        )  # fmt: skip
    return None


def _seen(name: str) -> bool:
    """Whether a mistake is one that a finished face shows."""
    return name not in ("no_waits", "dry_sponge", "over_creases", "swiped")
