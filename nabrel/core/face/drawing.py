"""The face map drawn as SVG: the same shapes, from the same data file, as the screens draw.

Zones take colours that the core computed; the rest (hair, brows, eyes, soft modelling) is quiet and has no hue to judge by.
"""

from __future__ import annotations

import json
import math
import re
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from functools import cache
from pathlib import Path
from typing import Any, cast

from nabrel.core.face.proportions import Proportions
from nabrel.core.terms.ids import Zone

PAPER, LINE, WORKED = "#ffffff", "#5a5a5a", "#cfcfcf"
_PAIR = re.compile(r"(-?\d+(?:\.\d+)?)[ ,]+(-?\d+(?:\.\d+)?)")
_EYES = 175.0


@cache
def sheet() -> Mapping[str, Any]:
    """The data file: view, paths of zones, hair shapes and groups of marks, in drawing order."""
    found: Mapping[str, Any] = json.loads((Path(__file__).parent / "drawing.json").read_text("utf-8"))
    return found


def _between(y: float, start: float, end: float, low: float, high: float) -> float:
    return low + (high - low) * min(1.0, max(0.0, (y - start) / (end - start)))


def placed(x: float, y: float, of: Proportions) -> tuple[float, float]:
    """Where a point of the sheet lies on this face; eyes and ears stay where they are."""
    middle = float(sheet()["middle"])
    width = _between(y, 95, _EYES - 10, of.forehead, 1) if y < _EYES else _between(y, _EYES + 30, 280, 1, of.jaw)
    tall = of.length * of.brow_height if y < _EYES else of.length
    off = x - middle
    # The nose is a narrow strip between eyes and mouth; it alone grows with its length, and leans.
    nose = 1 - abs(off) / 26 if abs(off) < 26 and _EYES < y < 246 else 0.0
    lean = of.nose_leans * 4 * math.sin(math.pi * min(1.0, max(0.0, (y - _EYES) / 55))) * nose
    longer = nose * (of.nose - 1) * max(0.0, y - _EYES) * 0.5
    # An outer eye that turns down: a few units at the outer corner only.
    down = _between(abs(off), 30, 66, 0, 4) if of.eye_down and 160 < y < 200 else 0.0
    return middle + off * width + lean, _EYES + (y - _EYES) * tall + longer + down


def drawn(path: str, of: Proportions, *, mirrored: bool = False) -> str:
    """A path whose coordinates are all absolute pairs, drawn on this face."""

    def moved(found: re.Match[str]) -> str:
        left = float(found[1])
        x, y = placed(2 * sheet()["middle"] - left if mirrored else left, float(found[2]), of)
        return f"{x:.1f} {y:.1f}"

    return _PAIR.sub(moved, path)


@dataclass(frozen=True, slots=True)
class Shape:
    """A zone's outline on the sheet of this face; ``behind`` on neck and ears, below the face's own outline."""

    zone: Zone
    path: str
    behind: bool


@cache
def shapes(of: Proportions) -> tuple[Shape, ...]:
    """Every zone's outline on this face."""
    return tuple(_shapes(of))


def _shapes(of: Proportions) -> Iterator[Shape]:
    paired, single, behind = sheet()["paired"], sheet()["single"], sheet()["behind"]
    # In the order of the file: that in which they are painted over one another.
    for stem, path in paired.items():
        for side in ("r", "l"):
            yield Shape(cast("Zone", f"{stem}_{side}"), drawn(path, of, mirrored=side == "l"), stem in behind)
    for zone, path in single.items():
        yield Shape(zone, drawn(path, of), zone in behind)


def face_svg(colours: Mapping[Zone, str], of: Proportions, *, fades: bool = True) -> str:
    """The whole face in the colours given (sRGB hex by zone), as an SVG document; ``fades`` where the shoulders do."""
    x, y, width, height = sheet()["view"]
    clips = "".join(
        f'<clipPath id="{name}"><path d="{drawn(path, of)}"/></clipPath>' for name, path in sheet()["clips"].items()
    )
    blurs = {group["blur"] for group in sheet()["groups"] if "blur" in group}
    filters = "".join(
        f'<filter id="b{blur}" x="-40%" y="-40%" width="180%" height="180%"><feGaussianBlur stdDeviation="{blur}"/></filter>'
        for blur in sorted(blurs)
    )
    fade = (
        '<linearGradient id="foot" x1="0" y1="0" x2="0" y2="1"><stop offset="0.9" stop-color="#fff"/>'
        '<stop offset="1" stop-color="#000"/></linearGradient>'
        f'<mask id="fade" maskUnits="userSpaceOnUse" x="{x}" y="{y}" width="{width}" height="{height}">'
        f'<rect x="{x}" y="{y}" width="{width}" height="{height}" fill="url(#foot)"/></mask>'
    )
    body = "".join(_group(group, colours, of, fades) for group in sheet()["groups"] if _shown(group, of))
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="{x} {y} {width} {height}">'
        f"<defs>{clips}{filters}{fade}</defs>{body}</svg>"
    )


def _shown(group: Mapping[str, Any], of: Proportions) -> bool:
    if group.get("hair_front") and of.hair == "none":
        return False
    return "when" not in group or group["when"] in of.covered


def _group(group: Mapping[str, Any], colours: Mapping[Zone, str], of: Proportions, fades: bool) -> str:
    marks = "".join(_mark(mark, colours, of) for mark in group["marks"])
    blurred = f'<g filter="url(#b{group["blur"]})">{marks}</g>' if "blur" in group else marks
    clip = f' clip-path="url(#{group["clip"]})"' if "clip" in group else ""
    opacity = f' opacity="{group["opacity"]}"' if "opacity" in group else ""
    body = f"<g{clip}{opacity}>{blurred}</g>"
    return f'<g mask="url(#fade)">{body}</g>' if fades and "fade" in group else body


def _mark(mark: Mapping[str, Any], colours: Mapping[Zone, str], of: Proportions) -> str:
    if "hair" in mark:
        return "".join(_mark(each, colours, of) for each in sheet()["hair"][of.hair])
    if "zones" in mark:
        return "".join(_zone_shapes(mark, colours, of))
    style = _style(mark, colours)
    sides = (False, True) if mark.get("both") else (False,)
    return "".join(_form(mark, of, mirrored) + style for mirrored in sides)


def _zone_shapes(mark: Mapping[str, Any], colours: Mapping[Zone, str], of: Proportions) -> Iterator[str]:
    for shape in shapes(of):
        ear = shape.zone.startswith("ear")
        group = "ears" if ear else "behind" if shape.behind else "front"
        if group == mark["zones"]:
            colour = colours[shape.zone]
            edge = f' stroke="{colour}" stroke-width="{mark["width"]}"' if "width" in mark else ""
            yield f'<path d="{shape.path}" fill="{colour}"{edge}/>'


def _form(mark: Mapping[str, Any], of: Proportions, mirrored: bool) -> str:
    if "path" in mark:
        return f'<path d="{drawn(mark["path"], of, mirrored=mirrored)}"'
    x, y, wide, tall = mark["ellipse"] if "ellipse" in mark else (*mark["circle"], mark["circle"][2])
    at_x, at_y = placed(2 * sheet()["middle"] - x if mirrored else x, y, of)
    half = f"A{wide} {tall} 0 1 0"
    left, right = f"{at_x - wide:.1f} {at_y:.1f}", f"{at_x + wide:.1f} {at_y:.1f}"
    return f'<path d="M{left} {half} {right} {half} {left} Z"'


def _style(mark: Mapping[str, Any], colours: Mapping[Zone, str]) -> str:
    said = [f' fill="{_paint(mark["fill"], colours) if "fill" in mark else "none"}"']
    if "opacity" in mark:
        said.append(f' opacity="{mark["opacity"]}"')
    if "stroke" in mark:
        said.append(
            f' stroke="{_paint(mark["stroke"], colours)}" stroke-width="{mark["width"]}" stroke-linecap="round"'
        )
    if "stroke_opacity" in mark:
        said.append(f' stroke-opacity="{mark["stroke_opacity"]}"')
    if "dash" in mark:
        said.append(f' stroke-dasharray="{mark["dash"]}"')
    if mark.get("evenodd"):
        said.append(' fill-rule="evenodd"')
    return "".join(said) + "/>"


def _paint(name: str, colours: Mapping[Zone, str]) -> str:
    if name.startswith("zone:"):
        return dict(colours)[name.removeprefix("zone:")]  # type: ignore[index]
    return str(sheet()["paints"].get(name, name))


def place_svg(where: Mapping[Zone, str], of: Proportions, *, also: Iterable[Zone] = ()) -> str:
    """A small face in outline with the zones of one step filled, each in its colour; ``also`` in grey.

    Made for paper: every filled zone has a dark edge, so that a grey print still shows where it ends.
    """
    x, y, width, height = sheet()["view"]
    outline, neck = (drawn(sheet()["clips"][name], of) for name in ("face", "neck"))
    lines = [f'<path d="{path}" fill="{PAPER}" stroke="{LINE}" stroke-width="4"/>' for path in (neck, outline)]
    worked = set(also)
    for behind in (True, False):
        for shape in shapes(of):
            if shape.behind != behind:
                continue
            if shape.zone in where:
                lines.append(f'<path d="{shape.path}" fill="{where[shape.zone]}" stroke="#222222" stroke-width="4"/>')
            elif shape.zone in worked:
                lines.append(f'<path d="{shape.path}" fill="{WORKED}"/>')
    for mirrored in (False, True):
        for path, edge in (("M95 177 C103 165 132 163 142 178", 5), ("M84 153 C98 142 126 140 145 147", 5)):
            lines.append(
                f'<path d="{drawn(path, of, mirrored=mirrored)}" fill="none" stroke="{LINE}" stroke-width="{edge}"/>'
            )
    for path in ("M149 236 C154 242 166 242 171 236", "M131 266 C142 270 178 270 189 266"):
        lines.append(f'<path d="{drawn(path, of)}" fill="none" stroke="{LINE}" stroke-width="5"/>')
    return f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="{x} {y} {width} {height}">{"".join(lines)}</svg>'


def turned(svg: str) -> str:
    """One of our drawings as a mirror shows it: left and right changed over."""
    head, body = svg.split(">", 1)
    x, _, width, _ = (float(each) for each in head.split('viewBox="', 1)[1].split('"', 1)[0].split())
    return f'{head}><g transform="matrix(-1 0 0 1 {2 * x + width:g} 0)">{body.removesuffix("</svg>")}</g></svg>'
