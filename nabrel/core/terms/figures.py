"""Figures that screens show: what each is, and how it is computed, in two sentences."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from nabrel.core.terms.table import table


@dataclass(frozen=True, slots=True)
class FigureInfo:
    """One figure: its name, what it is, and how it is computed."""

    id: str
    words: str
    what: str
    how: str


FIGURE_INFO: Mapping[str, FigureInfo] = table(
    (
        FigureInfo(
            "time", "Time", "How long the whole base takes one pair of hands, waits included.",
            "Every step starts once its own zones are ready, so a wait in one place is used elsewhere; a chapter's own minutes count "
            "every wait in full.",
        ),
        FigureInfo(
            "product", "Product", "How much wet product is taken in all, without care and mists.",
            "For every step the area of its zones times the film that dries there, divided by what the tool passes on.",
        ),
        FigureInfo(
            "shade_shows", "Shade shows", "How much darker the shade still looks through all that lies over it, in L*.",
            "The finished stack of films is computed with the shade and without it; the figure is the mean difference in "
            "lightness over its zones.",
        ),
        FigureInfo(
            "light_shows", "Light shows", "How much lighter the light still looks through all that lies over it, in L*.",
            "The finished stack of films is computed with the light and without it; the figure is the mean difference in "
            "lightness over its zones.",
        ),
        FigureInfo(
            "steps", "Steps", "How many times the hand begins anew.",
            "Every step of the plan counts once, care, checks and waits between them included; portions of one step do not.",
        ),
        FigureInfo(
            "film", "Film", "How thick what was laid lies once it is dry, in µm: a hair is about 70.",
            "What a tool passes on, spread over the area of its zones; the mean is over the zones that carry any.",
        ),
        FigureInfo(
            "powder", "Powder", "How much powder is taken in all, in mg.",
            "For every step the area of its zones times what is to lie there, divided by what the tool passes on.",
        ),
        FigureInfo(
            "off_aim", "Off its aim", "How far the finished colours are from those that were meant, in ΔE00.",
            "On every zone the colour computed for the whole stack is held against the complexion, darker or lighter where shade "
            "and light are wanted; zones that differ on purpose are left out, and the mean is weighted by area.",
        ),
        FigureInfo(
            "hue_shows", "Its hue shows", "From which film on a corrector is seen as a colour of its own.",
            "More and more of it is computed under what lies over it, until the result stands off the complexion towards its hue: "
            "a heavy hand is safe below that.",
        ),
        FigureInfo(
            "findings", "Findings", "How many times the rule book speaks against the plan.",
            "Every rule is asked about every step and zone; what was accepted with a reason is not counted.",
        ),
        FigureInfo(
            "load", "Load, % of limit", "How near the fullest zone is to looking like makeup.",
            "Dry film and powder on a zone, divided by what that zone carries: less where lines, flaking or texture were read.",
        ),
        FigureInfo(
            "shine", "First shine", "After how many hours the first zone shines.",
            "The oil that film (more, the more matte) and powder hold, divided by what the zone gives off on such a day.",
        ),
        FigureInfo(
            "crease", "Crease", "How likely the base gathers in a moving fold, from 0 to 1.",
            "It grows with film in the fold, wetness when set and dryness, and falls with care, thin layers and powder in time.",
        ),
        FigureInfo(
            "colour_hours", "Colour", "After how many hours blush, glow or sculpting has faded enough to be renewed.",
            "The house's hours for colour, longer over powder and under a setting mist, shorter the more oil the zone gives off.",
        ),
        FigureInfo(
            "flare", "Flare", "How white a zone turns in a photograph with flash, from 0 to 1.",
            "It grows with the powder that lies there and with how much paler it is than the skin; reflective powder counts more.",
        ),
        FigureInfo(
            "ashiness", "Grey", "How far what is seen has turned ashen from the complexion meant, in a*b* units; from about 2 it shows.",
            "The chroma that the finished colour has lost along the complexion's own hue: pale, titania-rich films take it away "
            "on deeper skin.",
        ),
        FigureInfo(
            "read_through", "Reads through", "The share of a shade's or light's step that still shows at the end.",
            "The step in L* with nothing over it is held against the step through everything that lies over it.",
        ),
        FigureInfo(
            "delta_e", "ΔE00", "How far two colours are apart as an eye sees it: below 1 they pass as one.",
            "The published CIEDE2000 formula on L*a*b*, for daylight or the light that was chosen.",
        ),
        FigureInfo(
            "cover", "Cover", "How well a film hides what lies beneath.",
            "The brightness of a film of 9 µm over black, divided by its brightness over white (the contrast ratio).",
        ),
        FigureInfo(
            "scattering", "Scattering", "How much more a film scatters blue light than red: the more, the greyer a pale film looks on deep skin.",
            "It scatters as (550 nm / wavelength) to this power; where an item says nothing, what is usual for pigment, pearl or "
            "mineral filters is taken (House rules).",
        ),
        FigureInfo(
            "sure", "How sure", "How far a colour may be from the true one, as one spread in ΔE00.",
            "It follows from how it was found: by eye, by a stripe or guessed from words, a house number for each; in a photograph, "
            "what card, printer, light and camera leave open.",
        ),
        FigureInfo(
            "cost", "Cost", "What the product on one face costs.",
            "What is taken of every item, divided by its content, times its price.",
        ),
        FigureInfo(
            "factor", "Times forecast", "How many times as long, or as much, as the model alone would forecast.",
            "It is what makes all that was seen at worn bases likeliest, with house, products, sitters and parts of the face "
            "told apart; few looks leave it near 1, and its interval wide.",
        ),
        FigureInfo(
            "skill", "Level", "How hard the exercises are that a student is asked now, from 1 to 5.",
            "Ability is estimated from the newest answers, each by how hard it was (an item-response model); the level is the hardest "
            "at which the student is right about as often as is wanted.",
        ),
        FigureInfo(
            "recall", "Recalled", "The share of what was practised that the student would know today.",
            "For every judgement the memory that its answers have left, fading by the day since the last; the mean of all.",
        ),
        FigureInfo(
            "tested_dose", "Sun protection", "How little of a tested sunscreen layer a foundation is.",
            "The thickest foundation film is held against the 2 mg/cm² at which a label's factor is tested.",
        ),
    )
)  # fmt: skip
