"""Files that come as the whole body of a request: where, and as which kinds of content. None is one that any page may send."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import IO

from flask import Flask, request
from werkzeug.exceptions import HTTPException

from nabrel.core.errors import Refused
from nabrel.formats.wear_csv import MOST_BYTES as MOST_LOOKS_BYTES
from nabrel.formats.workspace import MOST_ZIP_BYTES

PIECE_BYTES = 1_000_000
MOST_BYTES = 4_000_000
"""The body of a change, and of a file that says nothing else."""
MOST_PICTURE_BYTES = 25_000_000
"""A photograph as a camera writes it."""
MOST_ASKED_BYTES = 64_000
"""The body of a request that should have none."""


@dataclass(frozen=True, slots=True)
class Upload:
    """A kind of file: as which kinds of content it may come, and how large it may be."""

    kinds: tuple[str, ...]
    most: int = MOST_BYTES


JSON = Upload(("application/json",))
TABLE = Upload(("text/csv", "application/octet-stream"))
LOOKS = Upload(TABLE.kinds, MOST_LOOKS_BYTES)
ZIP = Upload(("application/zip", "application/octet-stream"), MOST_ZIP_BYTES)
PICTURE = Upload(
    ("image/jpeg", "image/png", "image/webp", "image/heic", "image/heif", "application/octet-stream"),
    MOST_PICTURE_BYTES,
)
UPLOADS: Mapping[str, Upload] = {
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
    "/api/wears/preview": LOOKS,
    "/api/wears/table": LOOKS,
    "/api/wears/<id>/photo": PICTURE,
    "/api/workspace/preview": ZIP,
    "/api/workspace": ZIP,
    "/api/workspace/people": ZIP,
}
"""Addresses that take a file and read it themselves."""


def limit_of(app: Flask) -> Callable[[str, str], int]:
    """The most bytes of a body, by method and path: known before any of it is read."""
    rules = app.url_map.bind("")

    def limit(method: str, path: str) -> int:
        if method not in ("POST", "PUT", "PATCH"):
            return MOST_ASKED_BYTES
        try:
            rule, _ = rules.match(path, method, return_rule=True)
        except HTTPException:
            return MOST_ASKED_BYTES
        return UPLOADS[rule.rule].most if rule.rule in UPLOADS else MOST_BYTES

    return limit


def install(app: Flask) -> None:
    """Hold every body to its limit."""
    limit = limit_of(app)

    @app.before_request
    def hold() -> None:
        request.max_content_length = limit(request.method, request.path)


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


def _check_kind() -> None:
    kinds = UPLOADS[here()].kinds
    if request.mimetype not in kinds:
        raise UnsupportedType("Content-Type", request.mimetype or "nothing", " or ".join(kinds))
    if request.headers.get("Content-Encoding", "identity") != "identity":
        raise UnsupportedType("Content-Encoding", request.headers["Content-Encoding"], "no compression")
