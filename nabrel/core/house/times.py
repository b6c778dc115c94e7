"""How long layers settle, and how long they may wait."""

from __future__ import annotations

from dataclasses import dataclass

from nabrel.core.house.parameter import parameter
from nabrel.core.terms.ids import StepKind


@dataclass(frozen=True, init=False, repr=False, eq=False)
class Times:
    """How long layers settle, and how long they may wait."""

    student_pace: float = parameter(
        2.0, "times", 1.0, 4.0, "A learner takes one and a half to three times a practised hand's seconds; waits stay."
    )
    moisturiser_wait_s: float = parameter(
        900.0, "s", 600.0, 1800.0, "Moisturiser sinks in for 10 to 30 minutes; 30 for the smoothest base."
    )
    primer_wait_s: float = parameter(45.0, "s", 20.0, 90.0, "A primer is ready when it is tacky.")
    cream_wait_s: float = parameter(20.0, "s", 5.0, 60.0, "A cream settles before the next layer goes over it.")
    foundation_wait_s: float = parameter(60.0, "s", 20.0, 180.0, "Foundation sets before what goes over it.")
    crease_window_s: float = parameter(30.0, "s", 10.0, 90.0, "Powder within this time of pressing a crease flat.")
    under_eye_window_s: float = parameter(
        300.0, "s", 60.0, 600.0, "A creasing under-eye is set soon after its last wet layer, before it gathers."
    )
    clean_tool_s: float = parameter(30.0, "s", 5.0, 180.0, "A tool cleaned at the table: wiped, sprayed, wiped again.")
    bake_s: float = parameter(480.0, "s", 300.0, 900.0, "A bake sits while oil and water rise into it.")
    mist_dry_s: float = parameter(60.0, "s", 30.0, 120.0, "A mist dries before anything touches it.")
    film_sets_s: float = parameter(
        600.0, "s", 120.0, 1800.0, "By then a water- or silicone-based film has lost what evaporates, and holds."
    )
    care_between_s: float = parameter(
        60.0, "s", 10.0, 300.0, "One care follows the other once it no longer shines; all of it then sinks in together."
    )
    care_wait_s: float = parameter(
        300.0, "s", 120.0, 900.0, "Eye cream and sunscreen, which are thin, sink in faster than a moisturiser."
    )
    cleanse_s: float = parameter(
        90.0, "s", 30.0, 300.0, "Cleansing face and neck, rinsed or wiped off, and patted dry."
    )
    moisturise_s: float = parameter(60.0, "s", 20.0, 300.0, "A moisturiser pressed over the whole face.")
    eye_care_s: float = parameter(30.0, "s", 10.0, 120.0, "Eye cream patted along both bones.")
    sunscreen_s: float = parameter(90.0, "s", 30.0, 300.0, "Sunscreen laid generously, in two rounds.")
    mist_s: float = parameter(15.0, "s", 5.0, 60.0, "A few passes of a mist at arm's length.")
    clean_line_s: float = parameter(
        60.0, "s", 20.0, 300.0, "A cleaning line of powder sits a minute before it is swept."
    )
    dust_off_s: float = parameter(40.0, "s", 10.0, 120.0, "A bake whisked away until no white is left.")
    blend_all_s: float = parameter(
        60.0, "s", 20.0, 240.0, "Light and shade that were all placed first, blended in one go."
    )
    shade_edge_s: float = parameter(25.0, "s", 10.0, 90.0, "The dark tool once more along the borders of the shade.")
    brows_s: float = parameter(120.0, "s", 30.0, 900.0, "Both brows, combed and drawn in.")
    eyes_s: float = parameter(240.0, "s", 60.0, 1800.0, "Both lids, from bare to blended.")
    lashes_s: float = parameter(60.0, "s", 20.0, 600.0, "Both rows of lashes, with a wand of the sitter's own.")
    lips_s: float = parameter(60.0, "s", 20.0, 600.0, "Both lips, with the edge drawn.")
    soften_s: float = parameter(40.0, "s", 10.0, 120.0, "An emptied sponge goes over every border of the face.")
    press_back_s: float = parameter(15.0, "s", 5.0, 60.0, "After a mist, one press with the used sponge.")
    crease_check_s: float = parameter(20.0, "s", 5.0, 60.0, "Looking up, pressing the folds flat, looking again.")
    edge_check_s: float = parameter(30.0, "s", 10.0, 120.0, "Jaw, hairline, ears and neck, both sides.")
    light_check_s: float = parameter(20.0, "s", 10.0, 120.0, "A look in each light asked for.")

    def feature_s(self, kind: StepKind) -> float:
        """Active seconds for brows, eyes, lashes or lips; other kinds have none of their own. Raises KeyError."""
        return {"brows": self.brows_s, "eyes": self.eyes_s, "lashes": self.lashes_s, "lips": self.lips_s}[kind]
