"""The card to print: one PDF in black ink alone, laid out by ``card.typ``."""

from __future__ import annotations

import json

from nabrel.core.card.layout import RULER_MM, Box, Card, ink_share
from nabrel.core.card.markers import marker_bits
from nabrel.formats.sheet import Paper, pdf_of, png_of

CARD = "card.typ"
PITCH_MM, FINEST_MM = 0.3, 0.085
"""From one line of a halftone to the next, and the thinnest line or gap that a printer of 600 dots an inch keeps open: a grey that is
nearly black or nearly white has its lines further apart.
"""


def card_pdf(card: Card, paper: Paper) -> bytes:
    """A card on a page of A4 or Letter, as a tagged PDF. What is printed is black; greys are lines so near that they average."""
    return pdf_of(_said(card, paper), CARD)


def card_png(card: Card, paper: Paper, ppi: int) -> bytes:
    """The same page as a picture of pixels."""
    return png_of(_said(card, paper), CARD, ppi)


def _said(card: Card, paper: Paper) -> str:
    said = {
        "paper": paper,
        "size": card.size_mm,
        "drawing": card_svg(card),
        "cells": [{"id": each.id, "x": each.black[0], "y": each.black[1] + each.black[3]} for each in card.cells],
        "window": card.window,
        "ruler": RULER_MM,
        "skin": not card.cells,
    }
    return json.dumps(said)


def card_svg(card: Card) -> str:
    """What of a card is black, as SVG in millimetres: markers, cells, and the lines of the greys."""
    width, height = card.size_mm
    shapes: list[str] = []
    for marker in card.markers:
        side = marker.size / len(marker_bits(marker.id))
        for row, bits in enumerate(marker_bits(marker.id)):
            begun = None
            for column, black in enumerate([*bits, False]):
                if black and begun is None:
                    begun = column
                elif not black and begun is not None:
                    # A hair taller and wider, so that no white shows between neighbours.
                    shapes.append(
                        _rect((marker.x + begun * side, marker.y + row * side, (column - begun) * side, side + 0.02))
                    )
                    begun = None
    shapes += [_rect(each.black) for each in card.cells]
    for grey in card.greys:
        shapes += [_rect(each) for each in _lines(grey.box, ink_share(grey))]
    x, y, w, h = card.window
    shapes.append(
        f'<rect x="{x}" y="{y}" width="{w}" height="{h}" fill="none" stroke="#000" stroke-width="0.2" stroke-dasharray="1 1"/>'
    )
    return f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {width:g} {height:g}">{"".join(shapes)}</svg>'


def _lines(box: Box, share: float) -> list[Box]:
    x, y, width, height = box
    if share >= 0.999:
        return [box]
    if share <= 0.001:
        return []
    count = max(4, round(height / max(PITCH_MM, FINEST_MM / min(share, 1 - share))))
    pitch = height / count
    return [(x, round(y + row * pitch, 3), width, round(pitch * share, 3)) for row in range(count)]


def _rect(box: Box) -> str:
    x, y, width, height = box
    return f'<rect x="{x:g}" y="{y:g}" width="{width:g}" height="{height:g}"/>'
