"""Schools of order, a row a school: what each is made of, which skin and wishes speak for or against it, what it is exempt from."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

from nabrel.core.terms.ids import School
from nabrel.core.terms.table import Term, table

Met = Literal[
    "oily", "lined", "rough", "dry", "no glow plane", "light works", "heavy cover", "lets it glow", "matte", "dewy", "camera", "near",
    "long wear",
]  # fmt: skip
"""What is met on a face or asked for, as :mod:`nabrel.core.ask.recommend` finds it."""
Essential = Literal["painted beneath", "a shade", "two foundations", "a glow", "a powder shade", "both shades"]
"""What a school may be made of: found in a plan by :mod:`nabrel.core.ask.recommend`."""


@dataclass(frozen=True, slots=True)
class Leaning:
    """A reason for or against a school wherever something is met: the name of its weight, and the sentence.

    Braces stand for what is met: its zones, their number, the wish.
    """

    met: Met
    weight: str
    says: str
    speaks_for: bool = False
    whole: bool = False
    """It weighs in full wherever it is met, else by the share of the face."""


@dataclass(frozen=True, slots=True)
class SchoolInfo(Term):
    """A school of order by its traits; its stages stand in the planner.

    ``lacking`` is the sentence where it lacks its ``essential``. ``sculpts_beneath``: its light and shade lie under the foundation and are
    to show through it; ``sculpts_on_top``: they never do. ``frames``: a deeper foundation takes the place of shade, and spots may be
    concealed first; ``leaves_shade_out``: light does the work. ``sets_as_it_goes``: it powders whatever was asked for.
    """

    id: School
    essential: Essential
    lacking: str
    leanings: tuple[Leaning, ...] = ()
    sculpts_beneath: bool = False
    sculpts_on_top: bool = False
    frames: bool = False
    leaves_shade_out: bool = False
    sets_as_it_goes: bool = False


_LINES = Leaning("lined", "powder on lines", "lines {places} show powder and second films")

SCHOOL_INFO: Mapping[School, SchoolInfo] = table(
    (
        SchoolInfo(
            "underpainted", "Underpainted", "painted beneath", "nothing could be painted beneath its foundation",
            (
                Leaning("oily", "oil rises", "oil is clear on {count} zones, and oil rises through what lies beneath a foundation"),
                Leaning("lined", "least film", "lined skin is spared a film over its sculpting", speaks_for=True, whole=True),
                Leaning("heavy cover", "hidden", "{cover} cover hides what is painted beneath it"),
                Leaning("lets it glow", "glows through", "{cover} cover lets the sculpting glow through", speaks_for=True),
            ),
            sculpts_beneath=True,
        ),
        SchoolInfo(
            "overpainted", "Overpainted", "a shade", "no shade to lay over the foundation",
            (Leaning("heavy cover", "glows through", "it works with {cover} cover", speaks_for=True),),
            sculpts_on_top=True,
        ),
        SchoolInfo("two_tone", "Two-tone", "two foundations", "no second, deeper foundation", frames=True),
        SchoolInfo(
            "light_led", "Light-led", "a glow", "no glow to lead the light",
            (
                Leaning("oily", "oil slides", "oil is clear on {count} zones, where cream glow slides"),
                Leaning("no glow plane", "no plane", "no plane of this face bears glow"),
                Leaning("light works", "deep skin", "on deep skin shade does little and light does the work", speaks_for=True),
                Leaning("matte", "hidden", "a matte finish was asked for, and it lives by shine"),
            ),
            leaves_shade_out=True, sets_as_it_goes=True,
        ),
        SchoolInfo(
            "powder_sculpted", "Powder-sculpted", "a powder shade", "no shade in powder",
            (
                Leaning("oily", "powder lasts", "oil is clear on {count} zones, and powder lasts there", speaks_for=True),
                _LINES,
                Leaning("rough", "powder on lines", "a brown powder shows the texture on {count} zones"),
                Leaning("dry", "powder on dry", "dry skin on {count} zones looks dusty"),
                Leaning("matte", "glows through", "a matte finish was asked for", speaks_for=True),
                Leaning("dewy", "hidden", "a dewy finish was asked for"),
            ),
            sets_as_it_goes=True,
        ),
        SchoolInfo(
            "doubled", "Doubled", "both shades", "no shade in both cream and powder",
            (
                _LINES,
                Leaning("camera", "for camera", "two films carry for {viewing}", speaks_for=True),
                Leaning("near", "heavy in person", "two films on every sculpted zone show at arm's length"),
                Leaning("long wear", "least film", "the longest wear, for {hours:g} hours", speaks_for=True),
            ),
            sets_as_it_goes=True,
        ),
    )
)  # fmt: skip
SCHOOLS: tuple[School, ...] = tuple(SCHOOL_INFO)
BENEATH: tuple[School, ...] = tuple(each.id for each in SCHOOL_INFO.values() if each.sculpts_beneath)
LIGHT_ALONE: tuple[School, ...] = tuple(each.id for each in SCHOOL_INFO.values() if each.leaves_shade_out)
