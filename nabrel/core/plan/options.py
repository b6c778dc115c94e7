"""Ways of working inside a school: what each option offers, and the reason for each side of it."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Way:
    """One side of an option: its value, what the screens call it, and why somebody works so."""

    value: str
    words: str
    why: str


@dataclass(frozen=True, slots=True)
class OptionInfo:
    """One option of :class:`nabrel.core.case.Options`, or of the intent, with its ways; the first is the usual one."""

    name: str
    words: str
    ways: tuple[Way, ...]


OPTIONS: tuple[OptionInfo, ...] = (
    OptionInfo(
        "order",
        "Light or shade first",
        (
            Way("light_first", "Light first", "Pale shades are blended while the tools are still clean of dark."),
            Way("shade_first", "Shade first", "Structure first; its edge is then cleaned up with light."),
        ),
    ),
    OptionInfo(
        "blend",
        "Place and blend",
        (
            Way("one_at_a_time", "One at a time", "Creams dry, and late blending needs force."),
            Way("place_all", "Place all, then blend", "The whole map is seen first; only with slow creams."),
        ),
    ),
    OptionInfo(
        "corrector",
        "Corrector",
        (
            Way("before_sculpt", "Before light and shade", "A hue cancelled first lets every layer above be thinner."),
            Way("after_sculpt", "After shade", "The sculpting shows how much darkness may stay as form."),
            Way("after_foundation", "After foundation", "Only what the foundation left is corrected."),
        ),
    ),
    OptionInfo(
        "spot",
        "Marks and spots",
        (
            Way("after_foundation", "After foundation", "Only what still shows gets concealer."),
            Way("before_foundation", "Before foundation", "An even canvas lets the foundation be thin everywhere."),
        ),
    ),
    OptionInfo(
        "second_pass",
        "Second targeted pass",
        (
            Way("false", "One pass", "What is even enough after one thin press needs no more."),
            Way("true", "Look, then a second pass", "Two thin passes beat one thick, only where still needed."),
        ),
    ),
    OptionInfo(
        "bronzer",
        "Bronzer",
        (
            Way("none", "None", "Warmth was not asked for."),
            Way("bridge", "As a bridging tone", "A tone between skin and shade makes the step gentle."),
            Way("last", "Last", "Warmth where the sun would reach brings life back at the end."),
        ),
    ),
    OptionInfo(
        "shade_edge",
        "Edge of the shade",
        (
            Way("faded", "Faded to nothing", "A believable shadow has no lower edge."),
            Way("crisp", "Crisp, with a cleaning line", "A clean line below the shade sharpens the form for camera."),
        ),
    ),
    OptionInfo(
        "border_pass",
        "Border pass",
        (
            Way("false", "None", "Every pass over a border adds or lifts film."),
            Way("true", "The dark tool once more", "Where light meets shade, one more pass marries the two."),
        ),
    ),
    OptionInfo(
        "glow",
        "Glow",
        (
            Way("school", "Where the school puts it", "Each school has its place for it."),
            Way("under", "Under the foundation", "It looks like the skin's own."),
            Way("mixed", "Mixed into the foundation", "An all-over sheen, for smooth dry skin only."),
            Way("after_colour", "After colour", "It joins the colour while both are still wet."),
            Way("last", "Last", "It stays clearest when nothing goes over it."),
            Way("none", "None", "Shine was not asked for."),
        ),
    ),
    OptionInfo(
        "melting_mist",
        "Melting mist",
        (
            Way("school", "Where powder asks for it", "Powder on dry or lined skin looks dusty until it melts in."),
            Way("before_glow", "Before glow", "The glow grips damp powder."),
            Way("between_powders", "Between powders", "Each powder joins the skin before the next."),
            Way("last", "Last", "One mist joins everything."),
            Way("none", "None", "On oily skin a mist wakes the shine."),
        ),
    ),
    OptionInfo(
        "laid_from",
        "Laid on",
        (
            Way("hand", "From the hand", "Less is taken, and it is spread before it touches the face."),
            Way("face", "Dotted on the face", "Quick; but dots must be spread at once."),
        ),
    ),
    OptionInfo(
        "powder_sculpt",
        "Powder sculpting",
        (
            Way("after_setting", "After setting", "Powder glides over a set film."),
            Way("before_setting", "Before setting", "A veil over it softens every edge; needs a light hand."),
        ),
    ),
    OptionInfo(
        "powder_foundation",
        "Powder foundation",
        (
            Way("none", "None", "More powder than needed dulls skin."),
            Way("veil", "As a veil over everything", "Brings the skin's value back after sculpting."),
            Way("set", "As the setting powder", "Sets and covers a little in one."),
        ),
    ),
    OptionInfo(
        "evenness",
        "How much skin shows",
        (
            Way("let_stand", "Freckles and flush may stand", "Only marks are covered; skin looks like skin."),
            Way("even_out", "Even everything first", "Powder sculpting shows every unevenness beneath it."),
        ),
    ),
    OptionInfo(
        "brows",
        "Brows",
        (
            Way("helps", "Where it helps", "Before the colour, which a resting hand would smudge."),
            Way("before_base", "Before the base", "They frame every later decision."),
            Way("in_wait", "In a wait", "No minute is lost."),
            Way("after_setting", "After setting", "Nothing wet is smudged by the resting hand."),
            Way("last", "Last", "Over a finished base they stay crisp."),
        ),
    ),
    OptionInfo(
        "eyes",
        "Eyes",
        (
            Way("helps", "Where it helps", "Dark eyes go before the base; else in a wait."),
            Way("before_base", "Before the base", "Fallout of dark shadow falls on skin that is still bare."),
            Way("in_wait", "In a wait", "No minute is lost."),
            Way("after_setting", "After setting", "Fallout sweeps off a powdered under-eye."),
            Way("last", "Last", "The base frames them."),
        ),
    ),
)
"""Every option in the order of work."""
