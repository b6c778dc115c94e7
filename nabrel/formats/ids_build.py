"""Write ``core/terms/ids.py``: the ids of every table of terms as types, so that a wrong id is found before it runs."""

from __future__ import annotations

from collections.abc import Iterable
from pathlib import Path

from nabrel.core.case.intent import OPTIONS
from nabrel.core.drill.kinds import KINDS
from nabrel.core.terms import conditions, effects, hands, looks, products, schools, signs, steps, zones
from nabrel.core.terms import ids as written

OUT = Path(written.__file__)


def types() -> dict[str, tuple[str, ...]]:
    """The ids of every type, by its name."""
    found: dict[str, Iterable[str]] = {
        "Zone": zones.ZONE_INFO,
        "Region": zones.REGION_INFO,
        "Condition": conditions.CONDITION_INFO,
        "Preset": looks.PRESET_INFO,
        "Hair": looks.HAIR_INFO,
        "Covered": looks.COVERED_INFO,
        "Role": products.ROLE_INFO,
        "Texture": products.TEXTURE_INFO,
        "Base": products.BASE_INFO,
        "Finish": products.FINISH_INFO,
        "CoverClass": products.COVER_INFO,
        "StepKind": steps.STEP_INFO,
        "Feature": (each.id for each in steps.STEP_INFO.values() if each.nature == "feature"),
        "Tool": hands.TOOL_INFO,
        "PassesOn": dict.fromkeys(each.passes for each in hands.TOOL_INFO.values()),
        "Motion": hands.MOTION_INFO,
        "Light": looks.LIGHT_INFO,
        "Viewing": looks.VIEWING_INFO,
        "School": schools.SCHOOL_INFO,
        "SettingPolicy": looks.SETTING_INFO,
        "WearSign": signs.SIGN_INFO,
        "EffectAbout": effects.ABOUT_INFO,
        "EffectOf": effects.OF_INFO,
        "Severity": looks.SEVERITY_INFO,
        "DrillKind": KINDS,
    }
    for option in OPTIONS:
        sides = [way.value for way in option.ways]
        if sides != ["false", "true"]:
            found["".join(part.title() for part in option.name.split("_")) + "Option"] = sides
    return {name: tuple(ids) for name, ids in found.items()}


def text() -> str:
    """The module."""
    lines = [
        '"""The ids of every table of terms as types. Written by ``make generate``: change the tables, not this."""',
        "",
        "from __future__ import annotations",
        "",
        "from typing import Literal",
        "",
    ]
    for name, ids in types().items():
        lines += [f"{name} = Literal["] + [f'    "{each}",' for each in ids] + ["]"]
    return "\n".join(lines) + "\n"


def main() -> None:
    """Write the module."""
    OUT.write_text(text(), encoding="utf-8")


if __name__ == "__main__":
    main()
