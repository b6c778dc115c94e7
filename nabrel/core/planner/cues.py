"""What the sitter is asked to do during a step: it follows from what is done where."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from nabrel.core.plan.step import Cue
from nabrel.core.terms.ids import StepKind, Zone
from nabrel.core.terms.steps import MIST_KINDS, STEP_INFO
from nabrel.core.terms.zones import both

_UNDER_EYES = frozenset(both("under_eye", "inner_corner"))
_LIDS = frozenset(both("eyelid", "lash"))
_MOUTH: frozenset[Zone] = frozenset({"upper_lip", "below_lip", "lips"})
_BELOW = frozenset(both("jaw", "under_jaw", "neck"))


def cues_for(kind: StepKind, portions: Iterable[tuple[Zone, ...]]) -> tuple[Cue, ...]:
    """The cues of a step, in the order of its portions, each once.

    A portion that works one place alone asks for that place; what goes all over asks for nothing. Before a mist the eyes are
    closed and shielded, the hollow of the cheek is found by sucking it in, and its apple by a smile.
    """
    if kind in MIST_KINDS:
        return ("eyes_closed", "shield_eyes")
    if STEP_INFO[kind].nature == "check" and kind != "crease_check":
        return ()
    return tuple(dict.fromkeys(cue for zones in portions for cue in _asked(kind, frozenset(zones))))


def _asked(kind: StepKind, zones: frozenset[Zone]) -> Iterator[Cue]:
    if not zones:
        return
    if kind == "shade" and zones & set(both("cheek_hollow")):
        yield "suck_cheeks"
    if kind in ("shade", "clean_edge") and zones & _BELOW:
        yield "tilt_head"
    if kind == "colour" and zones & set(both("cheek_apple")):
        yield "smile_relax"
    if zones <= _LIDS:
        yield "look_down"
    elif zones <= _UNDER_EYES or (kind in ("light", "crease_check") and zones & _UNDER_EYES):
        yield "look_up"
    elif zones <= _MOUTH and kind != "lips":
        yield "lips_together"
