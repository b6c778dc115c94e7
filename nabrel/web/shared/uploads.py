"""Files that come as the whole body of a request: where, and as which kinds of content. None is one that any page may send."""

from __future__ import annotations

from collections.abc import Mapping
from typing import IO

from flask import request

from nabrel.core.errors import Refused

PIECE_BYTES = 1_000_000
JSON = ("application/json",)
TABLE = ("text/csv", "application/octet-stream")
ZIP = ("application/zip", "application/octet-stream")
PICTURE = ("image/jpeg", "image/png", "image/webp", "image/heic", "image/heif", "application/octet-stream")
UPLOADS: Mapping[str, tuple[str, ...]] = {
    "/api/card/grey": PICTURE,
    "/api/card/picture": PICTURE,
    "/api/cases": JSON,
    "/api/drill/sets/file": JSON,
    "/api/drill/students/file": JSON,
    "/api/house/file": JSON,
    "/api/kit/preview": TABLE,
    "/api/kit/table": TABLE,
    "/api/sitters/<id>/readings/preview": TABLE,
    "/api/sitters/<id>/readings/table": TABLE,
    "/api/wears/file": JSON,
    "/api/wears/preview": TABLE,
    "/api/wears/table": TABLE,
    "/api/wears/<id>/photo": PICTURE,
    "/api/workspace/preview": ZIP,
    "/api/workspace": ZIP,
    "/api/workspace/people": ZIP,
}
"""Addresses that take a file and read it themselves, with the kinds of content it may come as."""


class UnsupportedType(Refused):
    """The body is of a kind this endpoint does not take."""


def here() -> str:
    """The address of the request, as its rule has it."""
    return request.url_rule.rule if request.url_rule is not None else request.path


def taken_file() -> bytes:
    """The body as the file it is. Refuses other kinds of content, and compression."""
    _check_kind()
    return request.get_data()


def streamed_to(file: IO[bytes]) -> None:
    """Put the body into a file, piece by piece. Refuses what :func:`taken_file` does."""
    _check_kind()
    while piece := request.stream.read(PIECE_BYTES):
        file.write(piece)
    file.seek(0)


def _check_kind() -> None:
    kinds = UPLOADS[here()]
    if request.mimetype not in kinds:
        raise UnsupportedType("Content-Type", request.mimetype or "nothing", " or ".join(kinds))
    if request.headers.get("Content-Encoding", "identity") != "identity":
        raise UnsupportedType("Content-Encoding", request.headers["Content-Encoding"], "no compression")
