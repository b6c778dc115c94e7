"""The command line: ``nabrel plan``, ``check``, ``film``, and ``serve``. Files in, JSON out, one line when wrong."""

from __future__ import annotations

import argparse
import json
import sys
from collections.abc import Callable, Sequence
from pathlib import Path

from pydantic import BaseModel

from nabrel import __version__
from nabrel.core.errors import Refused
from nabrel.core.house import House
from nabrel.core.vocabulary import LIGHTS
from nabrel.formats.models import Wire

EXIT_FINE, EXIT_FINDINGS, EXIT_REFUSED = 0, 1, 2


def main(arguments: Sequence[str] | None = None) -> int:
    """Run one command. Exit 0, 1 where a check found a stop or problem, 2 for bad input."""
    parser = _parser()
    given = parser.parse_args(arguments)
    if given.command is None:
        parser.print_help()
        return EXIT_REFUSED
    command: Callable[[argparse.Namespace], int] = given.run
    try:
        return command(given)
    except Refused as refused:
        print(f"nabrel: {refused}", file=sys.stderr)
        return EXIT_REFUSED
    except BrokenPipeError:
        return EXIT_FINE


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="nabrel", description="Plan, check and see base layering.")
    parser.add_argument("--version", action="version", version=f"nabrel {__version__}")
    commands = parser.add_subparsers(dest="command", metavar="COMMAND")

    plan = commands.add_parser("plan", help="plan a case: prints a sequence")
    plan.add_argument("file", metavar="CASE.json", help="a case file, or - for standard input")
    plan.set_defaults(run=_plan)

    check = commands.add_parser("check", help="check a sequence: prints findings, exit 1 if any is a stop or problem")
    check.add_argument("file", metavar="SEQUENCE.json", help="a sequence file, or - for standard input")
    check.set_defaults(run=_check)

    film = commands.add_parser("film", help="what each layer will look like: prints an appearance")
    film.add_argument("file", metavar="SEQUENCE.json", help="a sequence file, or - for standard input")
    film.add_argument("--light", default="daylight", metavar="LIGHT", help="one of " + ", ".join(LIGHTS))
    film.set_defaults(run=_film)

    serve = commands.add_parser("serve", help="start the application on this machine")
    serve.add_argument("--port", type=int, default=8765)
    serve.add_argument("--host", default="127.0.0.1", help="loopback unless you say otherwise")
    serve.add_argument("--demo", action="store_true", help="fill an empty data folder with the demo scenario")
    serve.set_defaults(run=_serve)
    return parser


def _bytes(name: str) -> bytes:
    if name == "-":
        return sys.stdin.buffer.read()
    try:
        return Path(name).read_bytes()
    except OSError as error:
        raise Refused("file", name, f"a file that can be read ({error.strerror})") from None


def _print(model: BaseModel) -> None:
    skip_nothing = isinstance(model, Wire)
    print(json.dumps(model.model_dump(mode="json", exclude_none=skip_nothing), indent=2, ensure_ascii=False))


def _plan(given: argparse.Namespace) -> int:
    from nabrel.core.plan.planner import plan  # noqa: PLC0415 - each command pays only for what it needs
    from nabrel.formats.convert import case_from, sequence_to  # noqa: PLC0415
    from nabrel.formats.reading import read_case  # noqa: PLC0415

    _print(sequence_to(plan(case_from(read_case(_bytes(given.file))), House())))
    return EXIT_FINE


def _check(given: argparse.Namespace) -> int:
    from nabrel.core.evaluate import evaluate  # noqa: PLC0415
    from nabrel.formats.convert import findings_to, sequence_from  # noqa: PLC0415
    from nabrel.formats.reading import read_sequence  # noqa: PLC0415

    evaluation = evaluate(sequence_from(read_sequence(_bytes(given.file))), House())
    _print(findings_to(evaluation.findings))
    grave = any(finding.severity in ("stop", "problem") for finding in evaluation.findings)
    return EXIT_FINDINGS if grave else EXIT_FINE


def _film(given: argparse.Namespace) -> int:
    from nabrel.core.evaluate import evaluate  # noqa: PLC0415
    from nabrel.formats.convert import appearance_to, sequence_from  # noqa: PLC0415
    from nabrel.formats.reading import read_sequence  # noqa: PLC0415

    if given.light not in LIGHTS:
        raise Refused("--light", given.light, "one of " + ", ".join(LIGHTS))
    sequence = sequence_from(read_sequence(_bytes(given.file)))
    _print(appearance_to(evaluate(sequence, House(), given.light)))
    return EXIT_FINE


def _serve(given: argparse.Namespace) -> int:
    from nabrel.web.serving import serve  # noqa: PLC0415

    if not 1 <= given.port <= 65535:
        raise Refused("--port", given.port, "1 to 65535")
    serve(given.host, given.port, demo=given.demo)
    return EXIT_FINE


if __name__ == "__main__":
    sys.exit(main())
