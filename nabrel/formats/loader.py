"""Reading a JSON file: from bytes to a model, or one clear refusal that names the field."""

from __future__ import annotations

from base64 import b85decode, b85encode
from dataclasses import replace
from typing import TypeVar
from zlib import compress, decompress

from pydantic import BaseModel, ValidationError
from pydantic_core import from_json, to_json

from nabrel.core.case.case import Case
from nabrel.core.case.product import Product
from nabrel.core.case.sitter import Sitter
from nabrel.core.errors import Refused
from nabrel.core.pace.run import checked_log
from nabrel.core.plan.sequence import Sequence
from nabrel.formats.checks import check_case, check_sequence
from nabrel.formats.files import CaseFile, HouseFile, RunFile, SequenceFile
from nabrel.formats.refusing import refusal, refuse_deep
from nabrel.formats.upgrade import newest
from nabrel.formats.upgrade.case import case_1_as_written
from nabrel.formats.values import value_of

Model = TypeVar("Model", bound=BaseModel)
MOST_BYTES = 4_000_000


def read_case(data: bytes) -> Case:
    """The case of a ``case`` file."""
    return check_case(read(data, CaseFile, "case").case)


def read_sequence(data: bytes) -> Sequence:
    """The sequence of a ``sequence`` file of any version."""
    return check_sequence(read(data, SequenceFile, "sequence").sequence)


def read_run(data: bytes) -> RunFile:
    """A ``run`` file; its log is one that can be, of the plan it holds."""
    found = read(data, RunFile, "run")
    check_sequence(found.sequence.sequence)
    checked_log(found.sequence.sequence, found.log)
    return found


def read_house(data: bytes) -> HouseFile:
    """A ``house`` file."""
    return read(data, HouseFile, "house")


def read(data: bytes, model: type[Model], kind: str) -> Model:
    """A file of a kind, of any version, from its bytes: the one way in for files, zips, stored revisions and commands."""
    if len(data) > MOST_BYTES:
        raise Refused("file", f"{len(data):,} bytes", f"at most {MOST_BYTES:,} bytes")
    text = data.removeprefix(b"\xef\xbb\xbf")
    if not text.strip():
        raise Refused("file", "nothing", f"a Nabrel {kind} file (JSON)")
    if text[:2] == b"PK" or text[:2] == b"\x1f\x8b":
        raise Refused("file", "a compressed archive", f"a Nabrel {kind} file (plain JSON)")
    refuse_deep(text, kind)
    try:
        document = from_json(text, allow_inf_nan=False)
        if isinstance(document, dict):
            lifted = newest(document, kind)
            text = text if lifted is document else to_json(lifted)
        return model.model_validate_json(text)
    except ValidationError as error:
        raise refusal(error, kind) from None
    except ValueError as error:
        if isinstance(error, Refused):
            raise
        raise Refused(kind, "text that is not JSON", f"JSON ({error})") from None


def stored_text(sequence: Sequence) -> str:
    """A sequence as the store keeps it: without its kit, which is kept by itself, and without what is usual.

    Zones left bare for one reason stand together: their sentence is written once.
    """
    bare = replace(sequence, case=replace(sequence.case, kit=()), left_bare=())
    document = SequenceFile.of(bare).model_dump(mode="json", exclude_defaults=True)
    by_reason: dict[tuple[str, str], list[str]] = {}
    for each in sequence.left_bare:
        by_reason.setdefault((each.kind, each.why), []).append(each.zone)
    document[LEFT_BARE] = [[kind, why, *zones] for (kind, why), zones in by_reason.items()]
    return PACKED + b85encode(compress(to_json(document), level=PACKING)).decode()


PACKED = "zlib:"
"""What a packed document starts with; documents of version 1 are plain JSON."""
PACKING = 6
"""How hard to pack, 0 to 9: beyond this it takes longer and saves nothing."""
LEFT_BARE = "left_bare_by_reason"
"""What the store calls zones left bare: rows of a kind, the reason and the zones."""


def read_stored(document: str, kit: tuple[Product, ...]) -> Sequence:
    """A sequence from what the store keeps, of any version, with its kit. It was checked when it was kept."""
    stored = from_json(unpacked(document))
    rows = stored.pop(LEFT_BARE, None)
    if rows is not None:
        stored["left_bare"] = [{"zone": zone, "kind": kind, "why": why} for kind, why, *zones in rows for zone in zones]
    sequence = SequenceFile.model_validate_json(to_json(newest(stored, "sequence"))).sequence
    return replace(sequence, case=replace(sequence.case, kit=kit))


def unpacked(document: str) -> str:
    """What the store keeps, as JSON."""
    if not document.startswith(PACKED):
        return document
    return decompress(b85decode(document[len(PACKED) :])).decode()


def stored_sitter(document: str) -> Sitter:
    """A sitter from what the store keeps, however their colours were written."""
    found = case_1_as_written({"sitter": from_json(document)})["sitter"]
    return value_of(Sitter, found, "sitter")
