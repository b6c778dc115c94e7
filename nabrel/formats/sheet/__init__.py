"""The one-page sheet on paper: PDF to keep and print, SVG pages to look at. Laid out by ``sheet.typ``."""

from __future__ import annotations

import json
from base64 import b64encode
from collections.abc import Mapping
from dataclasses import asdict, dataclass
from functools import cache, lru_cache
from pathlib import Path
from threading import Lock
from typing import Any, Literal, get_args

from nabrel.core.documents.sheet import Sheet, SheetHand, SheetStep, Swatch
from nabrel.core.documents.slip import Slip
from nabrel.core.face.drawing import face_svg, place_svg, turned
from nabrel.core.face.proportions import Proportions
from nabrel.core.terms.hands import MOTION_INFO, TOOL_INFO
from nabrel.core.terms.words import join_words, sentence

HERE = Path(__file__).parent
SHEET, SLIP, FACE = "sheet.typ", "slip.typ", "face.typ"
PICTURE_MM, PICTURE_PPI = 25, 200.0
"""How wide the finished face is drawn at most, and how finely: as finely as a printer prints."""
Paper = Literal["a4", "letter"]
PAPERS: tuple[Paper, ...] = get_args(Paper)
SIZES, LARGE_SIZES = (9.5, 9.0, 8.5, 8.0, 7.5, 7.0, 6.6, 6.2, 5.8), (13.0,)
"""Type sizes in points, the first with which the sheet is one page; large type takes the pages it needs."""
MADE = "Planned with Nabrel: an aid, colours on paper are not those on skin; foundation is not sun protection."


MIRRORED = "Faces are drawn as your mirror shows them."


@dataclass(frozen=True, slots=True)
class Print:
    """How a sheet is printed. ``left_handed`` puts faces at the right and turns the tools round.

    ``mirrored`` is for who works on themselves: faces as the mirror shows them. ``link`` is where its looks are noted, printed in words and, where ``scanned``, as a QR code.
    """

    paper: Paper = "a4"
    large: bool = False
    left_handed: bool = False
    mirrored: bool = False
    link: str = ""
    scanned: bool = False


def sheet_pdf(sheet: Sheet, how: Print) -> bytes:
    """The sheet as a tagged PDF (PDF/UA-1)."""
    return pdf_of(_said(sheet, how), SHEET)


def slip_pdf(slip: Slip, how: Print, proportions: Proportions) -> bytes:
    """The slip that a sitter fills in, as a tagged PDF (PDF/UA-1)."""
    return pdf_of(json.dumps({"paper": how.paper, **slip_said(slip, how, proportions)}), SLIP)


def slip_said(slip: Slip, how: Print, proportions: Proportions) -> dict[str, Any]:
    """What the slip says, as JSON values."""
    return {
        **asdict(slip),
        "link": how.link,
        "qr": qr_svg(how.link) if how.scanned else "",
        "face": face_for(place_svg({}, proportions), how),
    }


def qr_svg(link: str) -> str:
    """An address as a QR code (ISO 18004), as SVG."""
    import segno  # noqa: PLC0415 - only where something is printed to be scanned

    return str(segno.make(link, error="m").svg_inline(scale=4, border=2))


def pdf_of(said: str, template: str) -> bytes:
    """What is said, laid out by a template, as a tagged PDF."""
    try:
        return bytes(_compiled(said, template, format="pdf", pdf_standards="ua-1"))
    except _typst().TypstError:
        # A name in letters that no font here has cannot be PDF/UA; it is still tagged, and still printed.
        return bytes(_compiled(said, template, format="pdf"))


def png_of(said: str, template: str, ppi: int) -> bytes:
    """What is said, laid out by a template, as a picture of so many pixels an inch."""
    return bytes(_compiled(said, template, format="png", ppi=ppi))


def sheet_pages(sheet: Sheet, how: Print) -> tuple[bytes, ...]:
    """The sheet's pages as SVG documents: the very pages of the PDF."""
    return _pages(_said(sheet, how))


@lru_cache(maxsize=4)
def _pages(said: str) -> tuple[bytes, ...]:
    made = _compiled(said, SHEET, format="svg")
    return tuple(made) if isinstance(made, list) else (made,)


def let_go() -> None:
    """Give back the memory that laying out many pages took."""
    _compiler.cache_clear()


def forget_pages() -> None:
    """Forget every sheet that was laid out: one of a sitter who is gone may be among them."""
    _pages.cache_clear()
    soft_picture.cache_clear()
    _compiler.cache_clear()


def _compiled(said: str, template: str, **wanted: Any) -> Any:
    # One compiler a template serves all, one at a time: its inputs are set for each sheet.
    with _COMPILING:
        return _compiler(template).compile(sys_inputs={"sheet": said}, **wanted)


_COMPILING = Lock()


def _typst() -> Any:
    import typst  # noqa: PLC0415 - 40 MB that only a sheet needs

    return typst


@cache
def _compiler(template: str) -> Any:
    typst = _typst()
    fonts = typst.Fonts(include_system_fonts=False, include_embedded_fonts=True, font_paths=[str(HERE / "fonts")])
    return typst.Compiler(HERE / template, root=HERE, font_paths=fonts)


def _said(sheet: Sheet, how: Print) -> str:
    """The sheet as the template reads it."""
    return json.dumps(sheet_said(sheet, how))


def sheet_said(sheet: Sheet, how: Print) -> dict[str, Any]:
    """What the sheet says, as JSON values, for its own template and for the handouts of a class."""
    return {
        "paper": how.paper,
        "large": how.large,
        "left_handed": how.left_handed,
        "sizes": LARGE_SIZES if how.large else SIZES,
        "title": sheet.title,
        "aim": sheet.aim,
        "caution": None if sheet.caution is None else asdict(sheet.caution),
        "figures": sheet.figures,
        "products": [_swatch(each) for each in sheet.products],
        "tools": sentence(join_words(TOOL_INFO[tool].words for tool in sheet.tools)) + "." if sheet.tools else "",
        "clean_ends": sheet.clean_ends,
        "steps": [_step(each, sheet, how) for each in sheet.steps],
        "later": sheet.later,
        "hygiene": sheet.hygiene,
        "codes": sheet.codes,
        "made": f"{MIRRORED} {MADE}" if how.mirrored else MADE,
        "look": f"Note how it wears, from 25 minutes on: {how.link}" if how.link else "",
        "qr": qr_svg(how.link) if how.scanned else "",
        "picture": soft_picture(face_for(face_svg(sheet.face, sheet.proportions, fades=False), how)),
        "picture_alt": "The finished base",
    }


@lru_cache(maxsize=64)
def soft_picture(svg: str) -> str:
    """A drawing with soft edges as a picture of pixels, in an SVG: soft edges take a second and half a megabyte of a PDF."""
    view = svg.split('viewBox="', 1)[1].split('"', 1)[0]
    x, y, width, height = view.split()
    drawn = _compiled(json.dumps({"svg": svg, "width": PICTURE_MM}), FACE, format="png", ppi=PICTURE_PPI)
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="{view}"><image x="{x}" y="{y}" width="{width}" height="{height}" '
        f'href="data:image/png;base64,{b64encode(drawn).decode()}"/></svg>'
    )


def _swatch(swatch: Swatch) -> dict[str, str | None]:
    return {"name": swatch.name, "hex": swatch.hex}


def _step(step: SheetStep, sheet: Sheet, how: Print) -> dict[str, Any]:
    return {
        "number": step.number,
        "chapter": step.chapter,
        "title": step.title,
        "take": step.take,
        "products": [_swatch(each) for each in step.products],
        "face": face_for(place_svg(step.colours, sheet.proportions, also=step.worked), how),
        "where": sentence(step.where) or "No place",
        "hands": [_hand(each, how) for each in step.hands],
        "cues": step.cues,
        "wait": step.wait,
        "why": step.why,
        "check": step.check,
    }


def face_for(svg: str, how: Print) -> str:
    """A drawing of a face as it is printed: as the mirror shows it where that is wanted."""
    return turned(svg) if how.mirrored else svg


def _hand(hand: SheetHand, how: Print) -> dict[str, Any]:
    drawn: list[tuple[str, str, str]] = []
    if hand.tool is not None:
        drawn.append(("tools", hand.tool, TOOL_INFO[hand.tool].words))
    if hand.motion is not None:
        drawn.append(("motions", hand.motion, MOTION_INFO[hand.motion].words))
    return {
        "says": hand.says,
        "words": sentence(TOOL_INFO[hand.tool].words)
        if hand.tool and TOOL_INFO[hand.tool].words not in hand.says
        else "",
        "drawings": [
            {"svg": hand_svg(kind, each, mirrored=how.left_handed), "alt": sentence(words)}
            for kind, each, words in drawn
        ],
    }


@cache
def _hands() -> Mapping[str, Mapping[str, list[dict[str, str]]]]:
    found: Mapping[str, Mapping[str, list[dict[str, str]]]] = json.loads((HERE / "hands.json").read_text("utf-8"))
    return found


def hand_svg(kind: str, name: str, *, mirrored: bool = False) -> str:
    """A tool or motion as our own small drawing, 24 × 24, as SVG; turned round for the left hand."""
    marks = "".join(
        f'<path d="{mark["line"]}" fill="none" stroke="#1a1a1a" stroke-width="1.7" stroke-linecap="round" '
        'stroke-linejoin="round"/>'
        if "line" in mark
        else f'<path d="{mark["fill"]}" fill="#1a1a1a"/>'
        for mark in _hands()[kind][name]
    )
    turn = ' transform="matrix(-1 0 0 1 24 0)"' if mirrored else ""
    return f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 24 24"><g{turn}>{marks}</g></svg>'
