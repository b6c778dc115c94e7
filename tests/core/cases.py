"""Generated cases: sitters, wishes and kits as they may come."""

from __future__ import annotations

from hypothesis import strategies as st

from nabrel.core.case.case import Case
from nabrel.core.case.intent import OPTIONS, Intent, Options
from nabrel.core.case.sitter import Colour, Measures, Sitter, ZoneSkin
from nabrel.core.terms.conditions import CONDITIONS
from nabrel.core.terms.looks import PRESETS, SETTING_POLICIES
from nabrel.core.terms.schools import SCHOOLS
from nabrel.core.terms.steps import FEATURES
from nabrel.core.terms.zones import ZONES
from nabrel.demo.kit import TONES, kit

SKINS = [(tone[0] + 1.0, float(tone[1]), float(tone[2]) - 1) for tone in TONES]
conditions = st.dictionaries(st.sampled_from(CONDITIONS), st.integers(0, 3), max_size=4)
zone_skins = st.dictionaries(st.sampled_from(ZONES), conditions.map(ZoneSkin), max_size=8)
measures = st.builds(
    Measures,
    face_length_mm=st.none() | st.floats(150, 210),
    cheekbone_width_mm=st.none() | st.floats(110, 160),
    jaw_width_mm=st.none() | st.floats(85, 145),
    forehead_fingers=st.none() | st.floats(1, 5),
)
skins = st.sampled_from(SKINS)
sitters = st.builds(
    Sitter,
    nickname=st.just("Someone"),
    skin=st.builds(Colour, skins),
    neck=st.none() | st.builds(Colour, skins),
    preset=st.sampled_from(PRESETS),
    zones=zone_skins,
    measures=measures,
    avoid=st.sampled_from([(), ("fragrance",)]),
)
options = st.builds(
    Options,
    **{
        info.name: st.booleans()
        if info.ways[0].value in ("true", "false")
        else st.sampled_from([w.value for w in info.ways])
        for info in OPTIONS
        if info.name not in ("order", "blend")
    },
)
intents = st.builds(
    Intent,
    school=st.sampled_from([*SCHOOLS, None]),
    cover=st.sampled_from(["sheer", "light", "medium", "full", "opaque"]),
    finish=st.sampled_from(["matte", "satin", "dewy"]),
    wear_hours=st.floats(1, 14),
    setting=st.sampled_from(SETTING_POLICIES),
    order=st.sampled_from(["light_first", "shade_first"]),
    blend=st.sampled_from(["one_at_a_time", "place_all"]),
    viewing=st.sampled_from(["in_person", "camera", "stage", "dim_room"]),
    options=options,
    features=st.lists(st.sampled_from(FEATURES), unique=True, max_size=4).map(tuple),
)
BOX = kit()
kits = st.one_of(
    st.just(()),
    st.just(BOX),
    st.lists(st.sampled_from(BOX), unique=True, max_size=20).map(tuple),
)
cases = st.builds(Case, sitter=sitters, intent=intents, kit=kits)
