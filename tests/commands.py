"""The command line as a person calls it, in this process: one of its own takes a second to start, and says the same."""

from __future__ import annotations

import io
from contextlib import redirect_stderr, redirect_stdout
from dataclasses import dataclass
from unittest.mock import patch

from nabrel.cli import main


@dataclass(frozen=True)
class Done:
    """How a command ended and what it said, in bytes and as text."""

    returncode: int
    out: bytes
    err: bytes

    @property
    def stdout(self) -> str:
        return self.out.decode()

    @property
    def stderr(self) -> str:
        return self.err.decode()


def run(*arguments: str, text: str | bytes = b"") -> Done:
    """Run a command with what is piped into it."""
    given = text.encode() if isinstance(text, str) else text
    into, out, err = (
        io.TextIOWrapper(io.BytesIO(each), encoding="utf-8", write_through=True) for each in (given, b"", b"")
    )
    with patch("sys.stdin", into), redirect_stdout(out), redirect_stderr(err):
        try:
            code = main(arguments)
        except SystemExit as refused:  # what the parser of words ends with
            code = refused.code if isinstance(refused.code, int) else 1
    return Done(code, out.buffer.getvalue(), err.buffer.getvalue())
