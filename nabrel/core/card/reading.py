"""What a picture of a card says: the colour of every film over black and over white, its masstone and cover, and of the skin in the window."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from nabrel.core.card.layout import Box, Card, CardCell
from nabrel.core.card.markers import Flat, Picture, Unreadable, flattened
from nabrel.core.card.tone import LEAST, Floats, Tone, fitted, lab_of_linear
from nabrel.core.errors import Impossible, Refused
from nabrel.core.film.difference import delta_e
from nabrel.core.film.spectra import ratio_of_lab
from nabrel.core.house import House
from nabrel.core.shelf.drawdown import read_drawdown
from nabrel.core.terms.colour import Lab
from nabrel.core.terms.limits import LIMITS
from nabrel.core.terms.statistics import SD_FROM_MAD

BRIGHTEST, DARKEST_WHITE = 0.985, 0.30
"""Written values: paper above the first is clipped, below the second too dark."""
MOST_OFF, MOST_SPREAD = 0.22, 0.085
"""How far a grey may be off what it should be, and all of them in the mean, in ln reflectance."""
MOST_UNEVEN = 0.5
"""The least light on the card as a share of the most; less is another lamp, or a shadow."""
MOST_PATCHY = 0.10
"""Robust spread within a half, in ln of what is written: more is glare, or a film with holes."""
SHARE_OF_GLARE = 0.05
BARE = 3.0
"""A half this near to bare paper or ink, ΔE00, has nothing on it."""
PRIMARIES = 0.012
"""How far a camera's own primaries are off those it writes for, a standard deviation a coefficient: no grey tells it."""
FIT_COUNTS, PATCHY_COUNTS = 2.0, 0.1
"""The fit is surer than one grey by the first; of a film's patchiness so much is left in its median."""
LEAST_SD = 0.45
"""What JPEG, rounding and the lens add to every colour, ΔE00."""
WHITE_SD, DOTS_SD, INK_SD = 0.022, 0.05, 0.20
"""How far white papers, grown dots and blacks of ordinary printers are off what is assumed, in ln reflectance."""
AVERAGED_MM, DISPLAY = 1.6, 2.2
"""Greys are averaged over so much; what is written is light to about this power."""
EDGE = 0.14
"""So much of a box is left off at every side."""
FILM_EDGE, SKIN_EDGE = 0.04, 0.2
"""The same of a film, whose box is within its half already, and of the window, whose edge throws a shadow."""
SHARED_SD = 0.7
"""Share of the surest picture's standard deviation that every picture of that camera has."""
NEAR_WHITE, MOST_WHITES = 0.6, 0.6
"""Paper further off the others, in ln of what is written, is covered or shines; fewer white squares than this share are too few."""
GLARE_FROM, GLARE_TIMES, GLARE_OVER = 0.97, 1.35, 0.06
"""Written values that are glare: the first, or so many times and so much above the middle of what is read."""
LEAST_LIGHT = 1e-4
"""Reflectances are taken for no less."""
SD_MEASURED = 1.15
"""How much wider readings of made-up cards lie than their own standard deviation says."""


@dataclass(frozen=True, slots=True)
class SeenColour:
    """A colour that was read, L*a*b* (D65, 2°), and how unsure it is: the standard deviation, ΔE00."""

    lab: Lab
    sd: float


@dataclass(frozen=True, slots=True)
class CellReading:
    """What one cell says. Without figures where nothing is on it, or it cannot be read, with the reason.

    ``contrast_ratio`` is of the film as it was drawn, ``cover`` at the standard film, from the thickness it was drawn at.
    """

    id: str
    filled: bool
    over_white: SeenColour | None = None
    over_black: SeenColour | None = None
    contrast_ratio: float | None = None
    masstone: Lab | None = None
    masstone_sd: float | None = None
    cover: float | None = None
    cover_sd: float | None = None
    because: str = ""


@dataclass(frozen=True, slots=True)
class CardReading:
    """What a picture of a card says, cell by cell; ``because`` why it says less than it might."""

    cells: tuple[CellReading, ...]
    window: SeenColour | None
    because: tuple[str, ...] = ()


@dataclass(frozen=True)
class _Patch:
    """One box of the flat picture: the median of what is written, its robust spread (ln), and the share that glares."""

    written: Floats
    spread: float
    glare: float
    place: tuple[float, float]


def read_card(picture: Picture, card: Card, house: House, film_um: float | None = None) -> CardReading:
    """What a picture (height, width, 3; red green blue) of a card says. Refuses a picture that cannot be read well, and says what to do.

    ``film_um`` is how thick the films were drawn, dry, in µm; the house's where it is not given.
    """
    return read_flat(flattened(picture, card), card, house, film_um)


def read_flat(flat: Flat, card: Card, house: House, film_um: float | None = None) -> CardReading:
    """What a card that was laid flat says, as :func:`read_card` does."""
    film_um = _thickness(film_um, house)
    tone = _tone(flat, card)
    bare = {"paper": card.paper, "ink": card.ink}
    grounds = {name: _lab_of_grey(value) for name, value in bare.items()}
    cells = tuple(_cell(each, flat, tone, card, grounds, film_um, house) for each in card.cells)
    window, said = _window(flat, tone, card)
    return CardReading(cells, window, said)


def pooled(readings: tuple[CardReading, ...], card: Card, house: House, film_um: float | None = None) -> CardReading:
    """Several pictures of one card as one reading: each colour weighted by how sure it is. Refuses none."""
    if not readings:
        raise Refused("photos", "none", "at least one picture")
    film_um = _thickness(film_um, house)
    cells = []
    for place, cell in enumerate(card.cells):
        own = [each.cells[place] for each in readings if each.cells[place].over_white is not None]
        if not own:
            cells.append(readings[0].cells[place])
            continue
        white = together([each.over_white for each in own if each.over_white])
        black = together([each.over_black for each in own if each.over_black])
        cells.append(_said(cell.id, black, white, card, film_um, house))
    windows = [each.window for each in readings if each.window is not None]
    said = dict.fromkeys(line for each in readings for line in each.because)
    return CardReading(tuple(cells), together(windows) if windows else None, tuple(said) if not windows else ())


def _thickness(film_um: float | None, house: House) -> float:
    if film_um is None:
        return house.card_film_um
    most = LIMITS.drawdown_um
    if not most.low <= film_um <= most.high:
        raise Refused("film_um", film_um, f"{most.low:g} to {most.high:g} µm, dry")
    return film_um


def together(seen: Sequence[SeenColour]) -> SeenColour:
    """One colour read in several pictures: each weighted by how sure it is. At least one."""
    labs = np.array([each.lab for each in seen])
    weights = np.array([1.0 / each.sd**2 for each in seen])
    mean = (labs * weights[:, None]).sum(axis=0) / weights.sum()
    # What a camera gets wrong it gets wrong in every picture: that part is no smaller for many.
    shared = min(each.sd for each in seen) * SHARED_SD
    apart = float(np.sqrt(max(0.0, 1.0 / weights.sum() - shared**2 / len(seen))))
    return SeenColour(_lab(mean), round(float(np.hypot(shared, apart)), 2))


def _tone(flat: Flat, card: Card) -> Tone:
    greys = [_patch(flat, each.box, halftone=True) for each in card.greys]
    whites = [_patch(flat, box) for box in card.whites]
    pale = np.array([each.written for each in whites])
    level = np.median(pale, axis=0)
    if float(level.min()) < DARKEST_WHITE and float(level.max()) < 0.5:
        raise Unreadable(
            "The picture is too dark.",
            "Use more light, or touch the card on the screen so that the camera sets itself by it.",
        )
    if float(np.quantile(pale.max(axis=1), 0.5)) > BRIGHTEST:
        raise Unreadable(
            "The white paper is too bright: it is clipped.", "Let the camera take it darker, by half a stop to one."
        )
    # Paper that something lies on, or a lamp shines back from, is not taken for white.
    near = np.abs(np.log(np.clip(pale, LEAST, None)) - np.log(level)).max(axis=1) < NEAR_WHITE
    good = [each for each, so in zip(whites, near, strict=True) if so and each.spread < MOST_PATCHY]
    if len(good) < MOST_WHITES * len(whites):
        raise Unreadable(
            "Much of the white paper is covered or in shadow.",
            "Take everything off the card but the films, and light it from one side.",
        )
    written = np.array([each.written for each in (*greys, *good)])
    places = np.array([each.place for each in (*greys, *good)])
    known = np.array([*(each.reflectance for each in card.greys), *([card.paper] * len(good))])
    weights = np.array([*([1.0] * len(greys)), *([len(greys) / 3 / len(good)] * len(good))])
    tone, off = fitted(written, places, known, weights, card.size_mm)
    worst = np.abs(off[: len(greys)]).max(axis=1)
    bad = [place for place, each in enumerate(worst) if each > MOST_OFF or greys[place].glare > SHARE_OF_GLARE]
    if bad:
        rows = {"upper" if card.greys[place].box[1] < card.size_mm[1] / 2 else "lower" for place in bad}
        raise Unreadable(
            f"{'Glare or a shadow' if len(bad) < len(greys) / 2 else 'The greys are not what they should be'} on the {' and '.join(sorted(rows))} row of greys.",
            "Turn the card away from the lamp, and keep your shadow off it.",
        )
    if float(np.sqrt((off[: len(greys)] ** 2).mean())) > MOST_SPREAD or tone.evenness() < MOST_UNEVEN:
        raise Unreadable("The light is too uneven, as from two lamps.", "Use one lamp or a window, some way off.")
    return tone


def _patch(flat: Flat, box: Box, edge: float = EDGE, *, halftone: bool = False) -> _Patch:
    x, y, width, height = box
    less = edge * min(width, height)
    scale = flat.px_per_mm
    left, top = round((x + less) * scale), round((y + less) * scale)
    right, bottom = round((x + width - less) * scale), round((y + height - less) * scale)
    inner = flat.values[top:bottom, left:right].astype(np.float64)
    if halftone:
        from scipy.ndimage import uniform_filter  # noqa: PLC0415 - only a photograph needs it

        # Lines that the camera still tells apart are averaged as light, not as what is written.
        reach = round(AVERAGED_MM * scale)
        inner = uniform_filter(inner**DISPLAY, (reach, reach, 0), mode="nearest") ** (1 / DISPLAY)
    part = inner.reshape(-1, 3)
    middle = np.median(part, axis=0)
    logs = np.log(np.clip(part.mean(axis=1), LEAST, None))
    spread = float(np.median(np.abs(logs - np.median(logs))) * SD_FROM_MAD)
    glare = float((part.max(axis=1) > np.minimum(GLARE_FROM, middle.max() * GLARE_TIMES + GLARE_OVER)).mean())
    return _Patch(middle, spread, glare, (x + width / 2, y + height / 2))


def _seen(patch: _Patch, tone: Tone, card: Card) -> SeenColour:
    written, place = patch.written[None], np.array([patch.place])
    lab = lab_of_linear(tone.reflectance(written, place))[0]
    rgb = tone.reflectance(written, place)[0]
    # The fit's own error and the film's patchiness; and primaries that are off, which leave greys as they are and move a channel by
    # what the others differ from it.
    sure = rgb * np.sqrt((tone.spread / FIT_COUNTS) ** 2 + (PATCHY_COUNTS * patch.spread) ** 2)
    shared = 0.0 if card.calibrated else _printer_sd(float(rgb.mean()), card)
    apart = np.sqrt(((rgb[None, :] - rgb[:, None]) ** 2).sum(axis=1))
    moved = lab_of_linear(np.clip(rgb + np.diag(np.hypot(sure, PRIMARIES * apart)), LEAST_LIGHT, None))
    lighter = lab_of_linear((rgb * np.exp(shared))[None])[0]
    sd = float(np.sqrt((delta_e(np.repeat(lab[None], 3, axis=0), moved) ** 2).sum() + delta_e(lab, lighter) ** 2))
    return SeenColour(_lab(lab), round(float(np.hypot(SD_MEASURED * sd, LEAST_SD)), 2))


def _printer_sd(reflectance: float, card: Card) -> float:
    """How unsure the ladder itself is near a reflectance, in ln, of a printer that was not calibrated: its white, its dots, its black."""
    share = min(1.0, max(0.0, (reflectance - card.ink) / (card.paper - card.ink)))
    return float(
        np.sqrt(
            WHITE_SD**2
            + (DOTS_SD * 4 * share * (1 - share)) ** 2
            + (INK_SD * (1 - share) * card.ink / max(reflectance, card.ink)) ** 2
        )
    )


def _cell(
    cell: CardCell, flat: Flat, tone: Tone, card: Card, grounds: dict[str, Floats], film_um: float, house: House
) -> CellReading:
    halves = {
        name: _patch(flat, box, FILM_EDGE) for name, box in (("black", cell.over_black), ("white", cell.over_white))
    }
    black, white = (_seen(halves[name], tone, card) for name in ("black", "white"))
    if float(delta_e(white.lab, grounds["paper"])) < BARE and float(delta_e(black.lab, grounds["ink"])) < BARE + 2.0:
        return CellReading(cell.id, False)
    for name, patch in halves.items():
        if patch.glare > SHARE_OF_GLARE:
            return CellReading(cell.id, True, because=f"Glare over {name}: turn the card away from the lamp.")
        if patch.spread > MOST_PATCHY * (2.0 if name == "black" else 1.0):
            return CellReading(cell.id, True, because=f"The film is uneven over {name}: draw it again in one stroke.")
    return _said(cell.id, black, white, card, film_um, house)


def _said(name: str, black: SeenColour, white: SeenColour, card: Card, film_um: float, house: House) -> CellReading:
    ratio = min(1.0, luminance_of(black.lab) / luminance_of(white.lab))
    try:
        found = read_drawdown(black.lab, white.lab, film_um, house, (card.ink, card.paper), (black.sd, white.sd))
    except Impossible:
        # Nothing beneath shows through: what is seen is the masstone, and cover cannot be told.
        return CellReading(
            name,
            True,
            white,
            black,
            round(ratio, 3),
            white.lab,
            white.sd,
            because="The film is opaque: draw it thinner to tell its cover.",
        )
    return CellReading(
        name, True, white, black, round(ratio, 3), found.lab, found.lab_sd, found.cover, found.cover_sd,
    )  # fmt: skip


def _window(flat: Flat, tone: Tone, card: Card) -> tuple[SeenColour | None, tuple[str, ...]]:
    patch = _patch(flat, card.window, SKIN_EDGE)
    seen = _seen(patch, tone, card)
    if float(delta_e(seen.lab, _lab_of_grey(card.paper))) < BARE:
        return None, ()
    if patch.glare > SHARE_OF_GLARE:
        return None, ("Shine on the skin in the window: turn the face a little, or blot it.",)
    if patch.spread > MOST_PATCHY:
        return None, ("The window does not lie flat on skin of one colour: hold the card against cheek, jaw or neck.",)
    return seen, ()


def _lab_of_grey(reflectance: float) -> Floats:
    found: Floats = lab_of_linear(np.full((1, 3), reflectance))[0]
    return found


def luminance_of(lab: Lab) -> float:
    """The luminance of a colour, that of a perfect diffuser being 1: of a grey, its reflectance."""
    return float(ratio_of_lab(np.array(lab))[1])


def _lab(found: Floats) -> Lab:
    return (round(float(found[0]), 1), round(float(found[1]), 1), round(float(found[2]), 1))
