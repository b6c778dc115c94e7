"""Finding the card in a picture: its four markers, and what they say of how it lies. OpenCV is loaded here alone."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass
from functools import cache
from typing import Any, TypeAlias

import numpy as np
from numpy.typing import NDArray

from nabrel.core.card.layout import Card
from nabrel.core.errors import Told

Picture: TypeAlias = NDArray[np.uint8]
CORNERS = ("upper left", "upper right", "lower left", "lower right")
LEAST_PX_PER_MM = 3.0
"""Fewer pixels a millimetre, and a half of a cell has too few to tell its colour."""
PX_PER_MM = 6.0
"""The picture is laid flat at so many."""
MOST_OFF_MM = 0.06
"""Markers further from where the others put them: the paper is bent."""
OTHER_CARD_MM = 0.8
"""So far off, no bent paper: the markers of another card."""
MOST_BLUR_MM = 0.9
"""An edge of a marker wider than this, from a tenth to nine tenths, is blurred."""


LEAST_CONTRAST, SHARP = 40, 0.12
"""Of grey levels: a picture with less between dark and pale shows nothing; edges less steep than this share of it are soft."""
DARK_SHARE, STEEP_SHARE = 0.02, 0.995
"""Quantiles: of pixels taken for the darkest and the palest, and of slopes taken for the steepest."""
MARKER_CELLS = 6
"""Cells along a marker of this family, its black border too."""
SPARE_PX = 1.25
"""A picture with more than so many times the pixels wanted is averaged first."""
SEARCHED_PX = 1600
"""Pixels along the longer side of the picture in which markers are looked for."""
MOST_REACH_PX, REACH_SHARE, CORNER_ROUNDS, CORNER_PX = 11, 24, 40, 0.01
"""A corner is refined within a 24th of a marker's side, 11 pixels at most; so many rounds, or until it moves by no more."""
EDGE_CELLS, EDGE_REACH_MM, EDGE_SAMPLES, EDGE_FROM = (0.5, 1.5, 4.5), 1.6, 64, 0.1
"""An edge is looked at across these cells, so far to either side, in so many samples; it is what lies between a tenth and nine."""
WHITE_LEVEL, JUST_OVER_ONE = 255.0, 1.001
"""The brightest that a picture writes; and what keeps a sample, with its neighbour, within it."""
TOO_SMALL, BLURRED = "The card is too small in the picture.", "The picture is blurred."


class Unreadable(Told):
    """A picture of which no colour can be told, and what to do."""

    def __init__(self, says: str, do: str) -> None:
        super().__init__("photo", says, do)


@dataclass(frozen=True)
class Flat:
    """The card laid flat: values (height, width, 3; 0 to 1, red green blue), and how many pixels a millimetre has."""

    values: NDArray[np.float32]
    px_per_mm: float
    seen_px_per_mm: float


@cache
def _cv() -> Any:
    import cv2  # noqa: PLC0415 - 60 MB that only a photograph needs

    return cv2


def dictionary() -> Any:
    """The family of markers."""
    return _cv().aruco.getPredefinedDictionary(_cv().aruco.DICT_4X4_50)


def marker_bits(number: int) -> list[list[bool]]:
    """A marker as it is printed, row by row: True is black."""
    drawn = _cv().aruco.generateImageMarker(dictionary(), number, MARKER_CELLS)
    return [[bool(bit == 0) for bit in row] for row in drawn]


def flattened(picture: Picture, card: Card) -> Flat:
    """The card in a picture (red green blue), laid flat. Refuses one in which it cannot be found whole, sharp and once."""
    cv = _cv()
    corners = _found(picture, card)
    on_card, in_picture = [], []
    for marker in card.markers:
        x, y, size = marker.x, marker.y, marker.size
        on_card += [(x, y), (x + size, y), (x + size, y + size), (x, y + size)]
        in_picture += corners[marker.id].tolist()
    source, target = np.array(on_card, dtype=np.float64), np.array(in_picture, dtype=np.float64)
    home, _ = cv.findHomography(source, target, 0)
    if home is None or np.linalg.det(home[:2, :2]) <= 0:
        raise Unreadable("The card is seen as in a mirror.", "Take the picture without mirroring it.")
    back = cv.perspectiveTransform(target[None], np.linalg.inv(home))[0]
    # A marker as a whole: blur draws its own four corners inward alike.
    off = np.linalg.norm((back - source).reshape(-1, 4, 2).mean(axis=1), axis=1)
    if float(off.max()) > OTHER_CARD_MM:
        raise Unreadable(
            "This is another card than the one chosen.", "Choose the kit's card or the small one, as it was printed."
        )
    if float(off.max()) > MOST_OFF_MM:
        raise Unreadable(
            f"The card is bent: a corner is {off.max():.1f} mm off.", "Lay it flat on a table, or tape it down."
        )
    sides = np.linalg.norm(np.diff(target.reshape(-1, 4, 2), axis=1), axis=2)
    seen = float(sides.min() / card.markers[0].size)
    if seen < LEAST_PX_PER_MM:
        raise Unreadable(TOO_SMALL, "Go nearer, until it fills most of the picture.")
    width, height = (round(each * PX_PER_MM) for each in card.size_mm)
    less = min(1.0, SPARE_PX * PX_PER_MM / seen)
    if less < 1.0:
        # Averaged before it is laid flat: otherwise most pixels of a large picture would not be looked at.
        picture = cv.resize(picture, None, fx=less, fy=less, interpolation=cv.INTER_AREA)
        home = np.diag([less, less, 1.0]) @ home
    scale = np.diag([1 / PX_PER_MM, 1 / PX_PER_MM, 1.0])
    flat = cv.warpPerspective(picture, np.linalg.inv(home @ scale), (width, height), flags=cv.INTER_LINEAR)
    found = Flat(flat.astype(np.float32) / WHITE_LEVEL, PX_PER_MM, seen)
    blur = _blur_mm(found, card)
    if blur > MOST_BLUR_MM:
        raise Unreadable(BLURRED, "Hold the camera still, wait until it is sharp, and use more light.")
    return found


def _found(picture: Picture, card: Card) -> dict[int, NDArray[np.float64]]:
    cv = _cv()
    grey = cv.cvtColor(picture, cv.COLOR_RGB2GRAY)
    # Markers are looked for in a smaller picture, which is fast; their corners are then found in the whole one.
    scale = max(1.0, max(grey.shape) / SEARCHED_PX)
    small = cv.resize(grey, None, fx=1 / scale, fy=1 / scale, interpolation=cv.INTER_AREA) if scale > 1 else grey
    wanted = cv.aruco.DetectorParameters()
    wanted.cornerRefinementMethod = cv.aruco.CORNER_REFINE_SUBPIX
    found, ids, _ = cv.aruco.ArucoDetector(dictionary(), wanted).detectMarkers(small)
    numbers = [] if ids is None else [int(each) for each in np.ravel(ids)]
    counts = Counter(each for each in numbers if each < len(card.markers))
    if counts and max(counts.values()) > 1:
        raise Unreadable("There is more than one card in this picture.", "Take a picture of one card at a time.")
    hidden = [CORNERS[marker.id] for marker in card.markers if marker.id not in counts]
    if hidden:
        _say_why_hidden(small, hidden, [each.reshape(4, 2) * scale for each in found] if counts else [], card)
    corners = {}
    for each, number in zip(found, numbers, strict=True):
        if number < len(card.markers):
            place = (each.reshape(-1, 1, 2).astype(np.float32) + 0.5) * scale - 0.5
            side = float(np.linalg.norm(place[0] - place[1]))
            reach = max(2, min(MOST_REACH_PX, round(side / REACH_SHARE)))
            stop = (cv.TERM_CRITERIA_EPS + cv.TERM_CRITERIA_COUNT, CORNER_ROUNDS, CORNER_PX)
            corners[number] = (
                cv.cornerSubPix(grey, place, (reach, reach), (-1, -1), stop).reshape(4, 2).astype(np.float64)
            )
    return corners


def _say_why_hidden(small: Any, hidden: list[str], found: list[Any], card: Card) -> None:
    """Refuse a picture in which markers are not found, with the likeliest reason."""
    sides = [float(np.linalg.norm(each[0] - each[1])) for each in found]
    if sides and min(sides) / card.markers[0].size < LEAST_PX_PER_MM:
        raise Unreadable(TOO_SMALL, "Go nearer, until it fills most of the picture.")
    cv = _cv()
    low, high = np.quantile(small, (DARK_SHARE, 1.0 - DARK_SHARE))
    steepest = float(np.quantile(np.abs(cv.Laplacian(small, cv.CV_64F)), STEEP_SHARE))
    if high - low > LEAST_CONTRAST and steepest < SHARP * (high - low):
        raise Unreadable(BLURRED, "Hold the camera still, wait until it is sharp, and use more light.")
    if not found:
        _, ids, _ = cv.aruco.ArucoDetector(dictionary()).detectMarkers(cv.flip(small, 1))
        if ids is not None and len(ids) > 1:
            raise Unreadable("The card is seen as in a mirror.", "Take the picture without mirroring it.")
        raise Unreadable("There is no card in this picture.", "Get the whole card into it, and into focus.")
    raise Unreadable(
        f"{'A marker is' if len(hidden) == 1 else 'Markers are'} not seen: {', '.join(hidden)}.",
        "Take your hand off, and get the whole card into the picture.",
    )


def _blur_mm(flat: Flat, card: Card) -> float:
    """How wide the outer edges of the markers are, mm: the median over their four sides."""
    widths = []
    grey = flat.values.mean(axis=2)
    for marker in card.markers:
        cell = marker.size / MARKER_CELLS
        for share in EDGE_CELLS:
            across = marker.y + share * cell
            widths.append(_edge(grey, flat, (marker.x - EDGE_REACH_MM, across), (marker.x + EDGE_REACH_MM, across)))
            widths.append(
                _edge(
                    grey,
                    flat,
                    (marker.x + share * cell, marker.y - EDGE_REACH_MM),
                    (marker.x + share * cell, marker.y + EDGE_REACH_MM),
                )
            )
    return float(np.median(widths))


def _edge(grey: NDArray[np.float32], flat: Flat, one: tuple[float, float], other: tuple[float, float]) -> float:
    places = np.linspace(one, other, EDGE_SAMPLES + 1) * flat.px_per_mm
    x = np.clip(places[:, 0], 0, grey.shape[1] - JUST_OVER_ONE)
    y = np.clip(places[:, 1], 0, grey.shape[0] - JUST_OVER_ONE)
    left, top = x.astype(int), y.astype(int)
    fx, fy = x - left, y - top
    line = (grey[top, left] * (1 - fx) + grey[top, left + 1] * fx) * (1 - fy) + (
        grey[top + 1, left] * (1 - fx) + grey[top + 1, left + 1] * fx
    ) * fy
    high, low = line.max(), line.min()
    between = np.flatnonzero((line < low + (1.0 - EDGE_FROM) * (high - low)) & (line > low + EDGE_FROM * (high - low)))
    length = float(np.linalg.norm(np.array(other) - np.array(one)))
    return len(between) / EDGE_SAMPLES * length
