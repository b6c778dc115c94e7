"""Generated edits of a sequence: sensible ones, odd ones, and some that cannot be."""

from __future__ import annotations

from collections.abc import Callable

from hypothesis import strategies as st

from nabrel.core.judge.book import Finding
from nabrel.core.plan.edits import (
    Accept,
    Add,
    Edit,
    Merge,
    MergePortions,
    Move,
    Remove,
    SetAmount,
    SetHand,
    SetMix,
    SetProduct,
    SetThen,
    SetWait,
    SetZones,
    Split,
    SplitPortion,
)
from nabrel.core.plan.sequence import Sequence
from nabrel.core.plan.step import MixPart
from nabrel.core.terms.hands import MOTION_INFO, TOOL_INFO
from nabrel.core.terms.steps import STEP_KINDS
from nabrel.core.terms.zones import ZONES

Draw = Callable[[st.SearchStrategy], object]
zones = st.lists(st.sampled_from(ZONES), unique=True, min_size=1).map(tuple)
odd = st.sampled_from([-1.0, 0.0, 2.0, 40.0, 7200.0, 14401.0, 1e308])
film = st.floats(0, 40) | odd
powder = st.floats(0, 2) | odd
seconds = st.floats(0, 900) | odd
place = st.integers(0, 3)
shares = st.sampled_from([1.0, 0.5, 0.25, 0.75, 0.0])


def edits_of(sequence: Sequence, products: list[str]) -> st.SearchStrategy[Edit]:
    """Edits that name steps and items of this sequence; about half of them fit the step they name."""
    ids = st.sampled_from([step.id for step in sequence.steps])
    before = st.none() | ids
    items = st.sampled_from(products)
    tools = st.none() | st.sampled_from(list(TOOL_INFO))
    motions = st.none() | st.sampled_from(list(MOTION_INFO))
    return st.one_of(
        st.builds(SetAmount, step=ids, amount=film | powder, portion=place),
        st.builds(SetHand, step=ids, tool=tools, motion=motions, dampened=st.none() | st.booleans(), portion=place),
        st.builds(SetMix, step=ids, mix=st.lists(st.builds(MixPart, items, shares), max_size=3).map(tuple)),
        st.builds(SetProduct, step=ids, product=items),
        st.builds(SetZones, step=ids, zones=zones, portion=st.none() | place),
        st.builds(SetThen, step=ids, tool=tools, motion=motions, active_s=seconds),
        st.builds(SetWait, step=ids, wait_s=seconds, wait_at_most_s=st.none() | seconds),
        st.builds(Move, step=ids, before=before),
        st.builds(Remove, step=ids),
        st.builds(Split, step=ids, zones=zones),
        st.builds(SplitPortion, step=ids, zones=zones, portion=place),
        st.builds(Merge, step=ids, other=ids),
        st.builds(MergePortions, step=ids, other=place, portion=place),
        st.builds(
            Add,
            kind=st.sampled_from(STEP_KINDS),
            zones=zones,
            before=before,
            product=items,
            amount=film,
            tool=tools,
            motion=motions,
            active_s=seconds,
            wait_s=seconds,
        ),
        st.builds(
            Add,
            kind=st.sampled_from(STEP_KINDS),
            zones=zones,
            before=before,
            product=items,
            amount=st.none() | film | powder,
            patch=st.sampled_from([1.0, 0.2, 0.0, 2.0]),
        ),
    )


def accepting(finding: Finding, note: str) -> Accept:
    """The edit that lives with a finding."""
    return Accept(finding.rule, finding.zones, note)
