"""What may be read on a zone of skin, with severities from 0 (none) to 3 (strong)."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType
from typing import Literal

from nabrel.core.terms.ids import Condition
from nabrel.core.terms.table import Term, table

DepthClass = Literal["very light", "light", "intermediate", "tan", "brown", "dark"]
SEVERITY_WORDS: Mapping[int, str] = MappingProxyType({0: "none", 1: "slight", 2: "clear", 3: "strong"})


@dataclass(frozen=True, slots=True)
class ConditionInfo(Term):
    """One condition: its words in a sentence, and the group it is looked for in, a layer of a reading.

    ``fills`` says that it discolours its zone, so that a corrector or concealer is asked to even the zone out;
    ``marks`` that it sits on spots, which are concealed one by one.
    """

    id: Condition
    group: str
    fills: bool = False
    marks: bool = False


CONDITION_INFO: Mapping[Condition, ConditionInfo] = table(
    (
        ConditionInfo("oily", "oil", "Oil and water"),
        ConditionInfo("dry", "dryness", "Oil and water"),
        ConditionInfo("dehydrated", "dehydration", "Oil and water"),
        ConditionInfo("flaking", "flaking", "Oil and water"),
        ConditionInfo("enlarged_pores", "enlarged pores", "Texture"),
        ConditionInfo("raised_texture", "raised texture", "Texture"),
        ConditionInfo("pitted_scar", "pitted scars", "Texture"),
        ConditionInfo("active_blemish", "active blemishes", "Blemishes", marks=True),
        ConditionInfo("healing_blemish", "healing blemishes", "Blemishes", marks=True),
        ConditionInfo("broken_skin", "broken skin", "Blemishes"),
        ConditionInfo("post_blemish_mark", "marks left by blemishes", "Blemishes", marks=True),
        ConditionInfo("redness", "redness", "Colour", fills=True),
        ConditionInfo("visible_vessels", "visible vessels", "Colour", fills=True),
        ConditionInfo("dark_circle_blue", "blue darkness", "Colour", fills=True),
        ConditionInfo("dark_circle_violet", "violet darkness", "Colour", fills=True),
        ConditionInfo("dark_circle_brown", "brown darkness", "Colour", fills=True),
        ConditionInfo("brown_spot", "brown spots", "Colour", marks=True),
        ConditionInfo("mouth_darkness", "darkness around the mouth", "Colour", fills=True),
        ConditionInfo("outer_eye_pigment", "pigment at the outer eye", "Colour", fills=True),
        ConditionInfo("sallow", "a dull yellow cast", "Colour", fills=True),
        ConditionInfo("fine_lines", "fine lines", "Lines"),
        ConditionInfo("creping", "creping", "Lines"),
        ConditionInfo("deep_fold", "a deep fold", "Lines"),
        ConditionInfo("puffiness", "puffiness", "Shape and care"),
        ConditionInfo("hollow", "hollowness", "Shape and care"),
        ConditionInfo("jowl", "a soft jowl", "Shape and care"),
        ConditionInfo("full_under_chin", "fullness under the chin", "Shape and care"),
        ConditionInfo("asymmetry", "asymmetry", "Shape and care"),
        ConditionInfo("facial_hair", "facial hair", "Texture"),
        ConditionInfo("sensitive", "sensitivity", "Shape and care"),
    )
)
CONDITIONS: tuple[Condition, ...] = tuple(CONDITION_INFO)
MARKS: tuple[Condition, ...] = tuple(each.id for each in CONDITION_INFO.values() if each.marks)
"""Spots and marks: concealed one by one, not as a zone."""
DISCOLORATIONS: tuple[Condition, ...] = tuple(each.id for each in CONDITION_INFO.values() if each.fills)
"""Conditions of colour that fill a zone."""


def condition_groups() -> Mapping[str, tuple[Condition, ...]]:
    """Conditions as they are looked for together: the layers of a reading, in their order."""
    order = ("Oil and water", "Texture", "Blemishes", "Lines", "Colour", "Shape and care")
    return {group: tuple(each.id for each in CONDITION_INFO.values() if each.group == group) for group in order}
