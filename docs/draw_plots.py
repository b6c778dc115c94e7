"""Draw the plots of ``docs/model.md`` from the core: ``python docs/draw_plots.py``."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import matplotlib as mpl
import matplotlib.pyplot as plt
import numpy as np

from nabrel.core.face.skin import zone_colour
from nabrel.core.film.films import film_of, over
from nabrel.core.film.spectra import lab_of, surface
from nabrel.core.house import House
from nabrel.core.solve.corrector import solve_corrector
from nabrel.core.wear.forecast import shine_hours
from nabrel.demo.kit import kit

PLOTS = Path(__file__).parent / "plots"
HOUSE = House()
SKINS = {
    "very light": (76.0, 8.0, 14.0),
    "intermediate": (62.0, 11.0, 17.0),
    "brown": (46.0, 14.0, 19.0),
    "dark": (34.0, 12.0, 13.0),
}
GREYS = ["#111111", "#555555", "#888888", "#b5b5b5"]
mpl.rcParams.update({"svg.hashsalt": "nabrel", "font.size": 9, "figure.figsize": (6.4, 3.6), "axes.grid": True})


def read_through() -> None:
    """Read-through of a cream shade against the cover of the foundation over it, thin pass and standard film."""
    covers = np.linspace(0.05, 0.95, 40)
    figure, axes = plt.subplots()
    for (name, skin), grey in zip(SKINS.items(), GREYS, strict=True):
        shade = film_of((skin[0] - 16, skin[1] - 2, skin[2] - 4), 0.62)
        for film_um, style in ((4.5, "-"), (9.0, "--")):
            shares = []
            for cover in covers:
                base, ground = film_of(skin, float(cover)), surface(skin)
                shaded = over(ground, shade.ratio, shade.s * 4.5)
                bare = lab_of(ground)[0] - lab_of(shaded)[0]
                power = base.s * film_um
                seen = lab_of(over(ground, base.ratio, power)) - lab_of(over(shaded, base.ratio, power))
                shares.append(100 * seen[0] / bare)
            axes.plot(covers, shares, style, color=grey, label=f"{name}, {film_um:g} µm")
    axes.set(xlabel="cover of the foundation (contrast ratio at 9 µm)", ylabel="shade that reads through, %")
    axes.legend(fontsize=7)
    save(figure, "read-through")


def film_saved() -> None:
    """Film saved by each corrector over a clear blue darkness, by depth of skin."""
    box = [item for item in kit() if item.role == "corrector"]
    press = next(item for item in kit() if item.id == "press-4")
    satin = next(item for item in kit() if item.id == "thin-satin-4")
    figure, axes = plt.subplots()
    width = 0.2
    for row, (name, skin) in enumerate(SKINS.items()):
        savings = []
        for corrector in box:
            answer = solve_corrector(
                zone_colour(skin, {"dark_circle_blue": 2}), skin, [corrector], [replace(press, lab=skin)],
                ((replace(satin, lab=skin), 4.5),), HOUSE,
            )  # fmt: skip
            only = next((each for each in answer.each if each.corrector == corrector), None)
            bare = answer.without_corrector
            good = only is not None and only.near_enough and bare.near_enough and bare.total_um > 0
            savings.append(100 * max(0.0, 1 - only.total_um / bare.total_um) if good and only else 0.0)
        axes.bar(np.arange(len(box)) + (row - 1.5) * width, savings, width, color=GREYS[row], label=name)
    names = [item.name.removesuffix(" corrector").replace("-", "-\n").replace(" ", "\n") for item in box]
    axes.set_xticks(np.arange(len(box)), names, fontsize=7)
    axes.set(ylabel="film saved over blue darkness, %")
    axes.legend(fontsize=7)
    save(figure, "film-saved")


def shine() -> None:
    """Hours to shine against powder, by how much oil the zone gives off."""
    powder = np.linspace(0, 0.6, 40)
    figure, axes = plt.subplots()
    for (name, rate), grey in zip({"dry": 0.3, "balanced": 0.6, "oily": 1.5}.items(), GREYS, strict=False):
        axes.plot(powder, [shine_hours(rate, float(mg), 0.5, HOUSE) for mg in powder], color=grey, label=name)
    axes.set(xlabel="powder, mg/cm²", ylabel="hours to shine, at most 16")
    axes.legend(fontsize=7)
    save(figure, "shine-hours")


def save(figure: plt.Figure, name: str) -> None:
    """Write one plot as SVG, the same bytes every time."""
    PLOTS.mkdir(exist_ok=True)
    figure.tight_layout()
    figure.savefig(PLOTS / f"{name}.svg", metadata={"Date": None})
    plt.close(figure)


if __name__ == "__main__":
    read_through()
    film_saved()
    shine()
