"""A simulated phone camera over a printed card: lamps, cast, falling light, perspective, its own primaries and curve, noise, blur, JPEG."""

from __future__ import annotations

import io
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Literal, TypeAlias

import numpy as np
from numpy.typing import NDArray

from nabrel.core.card.layout import Card, ink_share
from nabrel.core.card.markers import marker_bits
from nabrel.core.card.tone import TO_XYZ
from nabrel.core.film.films import film_of, over
from nabrel.core.film.spectra import SAMPLES, lab_of
from nabrel.core.house import House
from nabrel.core.terms.colour import Lab

Fault = Literal[
    "hand", "blur", "glare", "dark", "clipped", "two_lamps", "mirrored", "half", "two_cards", "none", "bent", "small",
]  # fmt: skip
PX_PER_MM = 6.0
Pixels: TypeAlias = NDArray[Any]


@dataclass(frozen=True, slots=True)
class Drawn:
    """A film drawn over a cell: masstone, cover at the standard film, and how thick it was drawn, µm."""

    lab: Lab
    cover: float
    film_um: float = 25.0


def seen_over(film: Drawn, ground: float, house: House) -> Lab:
    """The colour of a film over a ground of this reflectance, L*a*b*."""
    optics = film_of(film.lab, film.cover, house.standard_film_um, house.white_ground, house.scatter_exponent)
    lab = lab_of(over(np.full(SAMPLES, ground), optics.ratio, optics.s * film.film_um))
    return (float(lab[0]), float(lab[1]), float(lab[2]))


def linear_of(lab: Lab) -> Pixels:
    """Linear values, red green blue, of a colour: 1 is a perfect diffuser."""
    fy = (lab[0] + 16) / 116
    f = np.array([fy + lab[1] / 500, fy, fy - lab[2] / 200])
    xyz = np.where(f > 6 / 29, f**3, 3 * (6 / 29) ** 2 * (f - 4 / 29)) * TO_XYZ.sum(axis=1)
    found: Pixels = np.linalg.inv(TO_XYZ) @ xyz
    return found


def photograph(
    card: Card, films: Mapping[str, Drawn], skin: Lab | None, seed: int, house: House, fault: Fault | None = None
) -> bytes:
    """A picture of a card as JPEG: with these films on its cells and this skin in its window, and a fault in it if one is named."""
    rng = np.random.default_rng(seed)
    paper = _paper(card, films, skin, rng, house)
    lit = _lit(paper, rng, fault)
    placed = _placed(lit, rng, fault, card)
    return _jpeg(_written(placed, rng, fault), rng, fault)


def _paper(card: Card, films: Mapping[str, Drawn], skin: Lab | None, rng: Any, house: House) -> Pixels:
    width, height = (round(each * PX_PER_MM) for each in card.size_mm)
    found = np.full((height, width, 3), card.paper, dtype=np.float32)

    def fill(box: tuple[float, float, float, float], colour: Any) -> None:
        x, y, w, h = (round(each * PX_PER_MM) for each in box)
        found[y : y + h, x : x + w] = colour

    for marker in card.markers:
        side = marker.size / 6
        for row, bits in enumerate(marker_bits(marker.id)):
            for column, black in enumerate(bits):
                if black:
                    fill((marker.x + column * side, marker.y + row * side, side + 0.06, side + 0.06), card.ink)
    for grey in card.greys:
        fill(
            grey.box,
            card.ink * ink_share(grey) + card.paper * (1 - ink_share(grey))
            if not card.calibrated
            else grey.reflectance,
        )
    for cell in card.cells:
        fill(cell.black, card.ink)
        film = films.get(cell.id)
        if film is not None:
            for box, ground in ((cell.black, card.ink), (cell.white, card.paper)):
                x, y, w, h = box
                fill((x, y + 1.2, w, h - 2.4), linear_of(seen_over(film, ground, house)))
    if skin is not None:
        fill(card.window, linear_of(skin))
        x, y, w, h = (round(each * PX_PER_MM) for each in card.window)
        found[y : y + h, x : x + w] *= np.exp(rng.normal(0, 0.02, (h, w, 1)))
    return found


def _lit(paper: Pixels, rng: Any, fault: Fault | None) -> Pixels:
    height, width, _ = paper.shape
    y, x = np.mgrid[-1 : 1 : height * 1j, -1 : 1 : width * 1j].astype(np.float32)
    fall = rng.uniform(-0.18, 0.18, 2) / 2
    light = 1 + fall[0] * x + fall[1] * y + rng.uniform(-0.03, 0.01) * (x * x + y * y)
    cast = np.exp(rng.normal(0, 0.10, 3))
    cast /= cast.mean()
    found: Pixels = paper * light[..., None] * cast
    if fault == "two_lamps":
        other = 1 / (1 + np.exp(-(x * 6 + rng.uniform(-1, 1))))
        found *= 1 + 1.2 * other[..., None] * np.exp(rng.normal(0, 0.25, 3))
    if fault == "glare":
        at = (rng.uniform(-0.6, 0.6), rng.choice([-0.86, 0.86]))
        found += 0.9 * np.exp(-(((x - at[0]) / 0.16) ** 2 + ((y - at[1]) / 0.12) ** 2))[..., None]
    return found


def _placed(lit: Pixels, rng: Any, fault: Fault | None, card: Card) -> Pixels:
    import cv2  # noqa: PLC0415

    height, width, _ = lit.shape
    frame = (1800, 1350) if fault != "small" else (800, 600)
    table = np.full((frame[1], frame[0], 3), rng.uniform(0.10, 0.5), dtype=np.float32)
    if fault == "none":
        return table
    turn = np.deg2rad(rng.uniform(-14, 14) + rng.choice([0, 180]))
    corners = np.array([[-width, -height], [width, -height], [width, height], [-width, height]]) / 2
    turned = corners @ np.array([[np.cos(turn), np.sin(turn)], [-np.sin(turn), np.cos(turn)]])
    tilt = 1 + rng.uniform(-0.07, 0.07, 2) @ (turned / np.abs(turned).max(axis=0)).T
    seen = turned / tilt[:, None]
    room = np.array(frame) / 2 * (0.52 if fault == "two_cards" else 1.0)
    scale = (
        float((room / np.abs(seen).max(axis=0)).min()) * rng.uniform(0.82, 0.96) * (0.28 if fault == "small" else 1.0)
    )
    turned = turned * scale
    centres = [(0.5, 0.5)] if fault != "two_cards" else [(0.27, 0.5), (0.75, 0.5)]
    for centre in centres:
        place = turned / tilt[:, None] + np.array(frame) * centre
        if fault == "half":
            place = place + np.array([frame[0] * 0.42, 0])
        source = np.array([[0, 0], [width, 0], [width, height], [0, height]], dtype=np.float32)
        home = cv2.getPerspectiveTransform(source, place.astype(np.float32))
        sharp = cv2.GaussianBlur(lit.astype(np.float32), (0, 0), max(0.3, 0.45 / scale))
        if fault == "bent":
            # One corner of the paper stands up: its marker is seen elsewhere.
            edge, top = round(30 * PX_PER_MM), round(30 * PX_PER_MM)
            sharp[:top, -edge:] = np.roll(sharp[:top, -edge:], round(2.4 * PX_PER_MM), axis=0)
        whole = cv2.warpPerspective(sharp, home, frame, flags=cv2.INTER_AREA)
        inside = cv2.warpPerspective(np.ones((height, width), np.float32), home, frame)
        table = table * (1 - inside[..., None]) + whole * inside[..., None]
    if fault == "hand":
        marker = card.markers[int(rng.integers(4))]
        at = np.array([[[marker.x + marker.size / 2, marker.y + marker.size / 2]]], dtype=np.float32) * PX_PER_MM
        x, y = cv2.perspectiveTransform(at, home)[0, 0]
        reach = round(marker.size * PX_PER_MM * scale * 0.8)
        cv2.circle(table, (round(float(x)), round(float(y))), reach, (0.45, 0.28, 0.2), -1)
    return table[:, ::-1] if fault == "mirrored" else table


def _written(lit: Pixels, rng: Any, fault: Fault | None) -> Pixels:
    import cv2  # noqa: PLC0415

    primaries = np.eye(3) + rng.uniform(-0.02, 0.02, (3, 3))
    primaries /= primaries.sum(axis=1, keepdims=True)
    # A camera sets itself so that little is clipped.
    sensed = np.clip(lit.astype(np.float32) @ primaries.T.astype(np.float32), 0, None)
    red, green, blue = np.moveaxis(sensed, 2, 0)
    brightest = np.maximum(np.maximum(red, green), blue)  # ten times as fast as along an axis of three
    exposure = rng.uniform(0.68, 0.92) / float(np.quantile(brightest, 0.985))
    exposure *= {"dark": 0.05, "clipped": 2.2}.get(fault or "", 1.0)
    sensed = sensed * exposure
    blur = rng.uniform(0.5, 1.0) if fault != "blur" else rng.uniform(7, 11)
    sensed = cv2.GaussianBlur(sensed, (0, 0), blur)
    sensed += rng.standard_normal(sensed.shape, dtype=np.float32) * np.sqrt(0.00004 + 0.0006 * sensed) * 0.35
    sensed = np.clip(sensed, 0, 1)
    curve = np.where(sensed > 0.0031308, 1.055 * sensed ** (1 / 2.4) - 0.055, 12.92 * sensed)
    bend = rng.uniform(-0.10, 0.16)
    found: Pixels = np.clip(curve + bend * curve * (1 - curve) * (2 * curve - 0.9), 0, 1)
    return found


def _jpeg(written: Pixels, rng: Any, fault: Fault | None) -> bytes:  # noqa: ARG001
    from PIL import Image  # noqa: PLC0415

    out = io.BytesIO()
    Image.fromarray(np.round(written * 255).astype(np.uint8)).save(out, "JPEG", quality=int(rng.integers(86, 95)))
    return out.getvalue()
