"""What a candidate of the Weigh room means: the sequence, and what it is called."""

from __future__ import annotations

from nabrel.core.ask.weigh import with_foundation
from nabrel.core.base.possible import apply_edits
from nabrel.core.face.reading import read
from nabrel.core.judge.evaluate import products_of
from nabrel.core.plan.sequence import Sequence
from nabrel.core.terms.looks import LIGHT_INFO
from nabrel.core.terms.schools import SCHOOL_INFO
from nabrel.store.repositories import Sequences, StoredSequence
from nabrel.web.layer.endpoints import replanned
from nabrel.web.shared import wire as w
from nabrel.web.shared.requests import database, house
from nabrel.web.weigh import answers as ww


def meant(stored: StoredSequence, spec: ww.CandidateSpec) -> Sequence:
    """The sequence that a candidate means: a version or the plan as it stands, in a school, with a foundation."""
    sequence = stored.sequence
    if spec.version is not None:
        with database().session() as session:
            sequence = Sequences(session).at(stored.id, spec.version)
    if spec.school is not None and spec.school != sequence.school:
        sequence = replanned(sequence, w.IntentChange(school=spec.school))
    if spec.foundation is not None:
        products = products_of(sequence, read(sequence.case, house()))
        sequence = apply_edits(sequence, with_foundation(sequence, spec.foundation), products)
    return sequence


def words_for(stored: StoredSequence, spec: ww.CandidateSpec) -> str:
    """What a candidate is called, by what it differs in from the plan that stands."""
    said = []
    if spec.version is not None:
        with database().session() as session:
            versions = {each.number: each.name for each in Sequences(session).versions(stored.id)}
        said.append(versions.get(spec.version) or f"Revision {spec.version}")
    if spec.school is not None and (spec.school != stored.sequence.school or spec.version is not None):
        said.append(SCHOOL_INFO[spec.school].words)
    if spec.foundation is not None:
        item = stored.sequence.case.product(spec.foundation)
        said.append(item.name if item is not None else spec.foundation)
    if not said:
        said.append("Current version")
    if spec.light != "daylight":
        said.append(LIGHT_INFO[spec.light].words.lower())
    return ", ".join(said)
