"""The server as a process of its own, on a data folder of its own."""

from __future__ import annotations

import json
import os
import socket
import subprocess
import sys
import urllib.error
import urllib.request
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from pathlib import Path


def free_port() -> int:
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        return int(free.getsockname()[1])


def command(folder: Path, port: int, *more: str, under: Sequence[str] = ()) -> subprocess.Popen[str]:
    """``under`` is a command that runs the server, such as one that writes down what it asks of the system."""
    return subprocess.Popen(
        [*under, sys.executable, "-m", "nabrel.cli", "serve", "--port", str(port), *_alone(more), *more],
        env={**os.environ, "NABREL_DATA": str(folder)},
        stdout=subprocess.PIPE,
        stderr=subprocess.PIPE,
        text=True,
    )


def _alone(more: tuple[str, ...]) -> list[str]:
    """Open to every account of this computer, where nothing else is said: most tests are about something else."""
    said = {"--only-me", "--sign-in", "--demo"} & {*more}
    return [] if said else ["--no-only-me"]


@contextmanager
def serving(folder: Path, *more: str, under: Sequence[str] = ()) -> Iterator[tuple[subprocess.Popen[str], str]]:
    port = free_port()
    process = command(folder, port, *more, under=under)
    address = f"http://127.0.0.1:{port}"
    try:
        # Its own word that it is open: on the same port somebody else might answer.
        for line in process.stdout or ():
            if f"is open at {address}/" in line:
                break
        else:
            raise AssertionError(process.communicate())
        yield process, address
    finally:
        if process.poll() is None:
            process.kill()
        process.wait()
        for pipe in (process.stdout, process.stderr):
            if pipe is not None:
                pipe.close()


def asked(address: str, path: str, body: object = None, timeout: float = 30, method: str | None = None) -> dict:
    data = None if body is None else json.dumps(body).encode()
    request = urllib.request.Request(address + path, data, {"Content-Type": "application/json"}, method=method)
    return json.load(urllib.request.urlopen(request, timeout=timeout))
