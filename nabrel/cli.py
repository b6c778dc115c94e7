"""The command line: questions to the core (plan, check, learn and others), keeping and serving. Files in, JSON out, one line when wrong."""

from __future__ import annotations

import argparse
import getpass
import json
import sys
from collections.abc import Callable, Sequence
from dataclasses import replace
from datetime import date
from pathlib import Path
from typing import TYPE_CHECKING, TypeAlias, get_args

from pydantic import BaseModel

from nabrel import __version__
from nabrel.core.errors import Refused, Told
from nabrel.core.house import House
from nabrel.core.terms.colour import Lab
from nabrel.core.terms.ids import DrillKind
from nabrel.core.terms.looks import LIGHTS
from nabrel.core.terms.products import FINISHES
from nabrel.core.terms.zones import ZONES

if TYPE_CHECKING:
    from nabrel.core.card.layout import CardSize
    from nabrel.core.case.case import Case
    from nabrel.core.drill.exercise import Exercise
    from nabrel.core.plan.sequence import Sequence as Plan
    from nabrel.formats.practice import DrillSetFile
    from nabrel.formats.sheet import Paper

Commands: TypeAlias = "argparse._SubParsersAction[argparse.ArgumentParser]"
EXIT_FINE, EXIT_FINDINGS, EXIT_REFUSED = 0, 1, 2
EXTRAS = {
    "ortools": "timetables",
    "cv2": "pictures",
    "PIL": "pictures",
    "pi_heif": "pictures",
    "segno": "sheets",
    "typst": "sheets",
}
"""Which extra of the package brings what a command may want beyond its base; everything else is in ``all``."""
MOST_EXERCISES, MOST_SEED = 200, 2**31


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
    except ModuleNotFoundError as missing:
        module = (missing.name or "").partition(".")[0]
        if module in ("", __package__):
            raise
        extra = EXTRAS.get(module, "all")
        print(
            f"nabrel: {given.command} needs {module}, which is not installed here: pip install 'nabrel[{extra}]'",
            file=sys.stderr,
        )
        return EXIT_REFUSED
    except BrokenPipeError:
        return EXIT_FINE


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="nabrel", description="Plan, check and see base layering.")
    parser.add_argument("--version", action="version", version=f"nabrel {__version__}")
    commands = parser.add_subparsers(dest="command", metavar="COMMAND")

    _add_questions(commands)
    _add_keeping(commands)
    return parser


def _add_questions(commands: Commands) -> None:
    """Files in, an answer out: no database, no server."""
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

    correct = commands.add_parser("correct", help="the corrector question for one zone: prints a correction")
    correct.add_argument("file", metavar="CASE.json", help="a case file, or - for standard input")
    correct.add_argument("--zone", required=True, metavar="ZONE", help="a zone id, such as under_eye_l")
    correct.set_defaults(run=_correct)

    mix = commands.add_parser("mix", help="foundations in whole drops for a target colour: prints a mix")
    mix.add_argument("file", metavar="CASE.json", help="a case file, or - for standard input")
    mix.add_argument("--target", metavar="L,a,b", help="L*a*b* to mix to; the sitter's complexion if left out")
    mix.add_argument("--drops", type=int, default=8, metavar="N", help="at most so many drops (8)")
    mix.add_argument("--products", type=int, default=3, metavar="N", help="at most so many products (3)")
    mix.add_argument("--finish", metavar="FINISH", help="matte, satin or dewy")
    mix.set_defaults(run=_mix)

    tell = commands.add_parser("tell", help="a sequence as numbered text to work from: prints Markdown")
    tell.add_argument("file", metavar="SEQUENCE.json", help="a sequence file, or - for standard input")
    tell.set_defaults(run=_tell)

    sheet = commands.add_parser("sheet", help="a sequence as a one-page sheet to work from: writes a PDF")
    sheet.add_argument("file", metavar="SEQUENCE.json", help="a sequence file, or - for standard input")
    sheet.add_argument(
        "-o", "--output", required=True, metavar="FILE.pdf", help="where to write it, or - for standard output"
    )
    sheet.add_argument("--paper", default="a4", metavar="PAPER", help="a4 (the usual) or letter")
    sheet.add_argument("--large", action="store_true", help="large type, on as many pages as it takes")
    sheet.add_argument("--left-handed", action="store_true", help="faces at the right, tools turned round")
    sheet.add_argument("--mirrored", action="store_true", help="faces as the mirror shows them")
    sheet.set_defaults(run=_sheet)

    pace = commands.add_parser("pace", help="when each thing is done, the shortest there is: prints a timetable")
    pace.add_argument("file", metavar="SEQUENCE.json", help="a sequence file, or - for standard input")
    pace.add_argument("--hands", type=int, default=1, metavar="N", help="pairs of hands, 1 or 2")
    pace.add_argument(
        "--spare", action="append", default=[], metavar="TOOL", help="one more of this tool; may be repeated"
    )
    pace.set_defaults(run=_pace)

    schools = commands.add_parser("schools", help="which school suits: prints all six, ranked, with reasons")
    schools.add_argument("file", metavar="CASE.json", help="a case file, or - for standard input")
    schools.set_defaults(run=_schools)

    learnt = commands.add_parser("learn", help="what wear records teach: prints effects with their intervals")
    learnt.add_argument("files", nargs="+", metavar="WEAR.json", help="wear files, or - for standard input")
    learnt.set_defaults(run=_learn)

    for each in (tell, sheet, pace):
        each.add_argument(
            "--pace", type=float, default=1.0, metavar="N", help="times a practised hand's seconds (a student: 2)"
        )
    taught = _add_class(commands)
    drilled, marked = _add_drills(commands)
    printed, seen = _add_cards(commands)
    for each in (
        plan,
        check,
        film,
        correct,
        mix,
        tell,
        sheet,
        pace,
        schools,
        learnt,
        taught,
        drilled,
        marked,
        printed,
        seen,
    ):
        each.add_argument("--house", metavar="HOUSE.json", help="house rules to go by (a house file)")


def _add_class(commands: Commands) -> argparse.ArgumentParser:
    taught = commands.add_parser("class", help="a class in time: prints its lesson")
    taught.add_argument("file", metavar="CLASS.json", help="a class file, or - for standard input")
    taught.add_argument("--ics", metavar="FILE", help="also write it as an iCalendar file")
    taught.add_argument("--handouts", metavar="FILE.pdf", help="also write the handouts of the room as a PDF")
    taught.add_argument("--paper", default="a4", metavar="PAPER", help="a4 (the usual) or letter")
    taught.add_argument("--large", action="store_true", help="large type, on as many pages as it takes")
    taught.add_argument(
        "--mirrored", action="store_true", help="faces as the mirror shows them, for who works on themselves"
    )
    taught.set_defaults(run=_class)
    return taught


def _add_cards(commands: Commands) -> tuple[argparse.ArgumentParser, argparse.ArgumentParser]:
    """The card for colours from a photograph, and what a picture of it says."""
    made = commands.add_parser(
        "card", help="a card to print for colours from a photograph, or where everything lies on it"
    )
    made.add_argument("-o", "--output", metavar="FILE.pdf", help="the card to print; - for standard output")
    made.add_argument("--layout", action="store_true", help="print the card as a file: where everything lies on it")
    made.add_argument("--paper", default="a4", metavar="PAPER", help="a4 (the usual) or letter")
    made.add_argument("--skin", action="store_true", help="the small card, for skin alone")
    made.add_argument("--white", type=float, metavar="R", help="what this printer's white paper gives back, 0 to 1")
    made.add_argument("--black", type=float, metavar="R", help="what its black gives back")
    made.add_argument("--middle", type=float, metavar="R", help="what its middle grey, the fifth of a row, gives back")
    made.set_defaults(run=_card)
    seen = commands.add_parser("read-card", help="what photographs of one card say: prints a card_reading")
    seen.add_argument("files", nargs="+", metavar="PHOTO", help="photographs, or - for standard input")
    seen.add_argument(
        "--card", metavar="CARD.json", help="the card that was printed, from card --layout; the kit's if left out"
    )
    seen.add_argument("--skin", action="store_true", help="the small card, for skin alone")
    seen.add_argument(
        "--thickness-um",
        type=float,
        metavar="UM",
        help="how thick the films were drawn, dry, in µm (25, or as the house decided)",
    )
    seen.set_defaults(run=_read_card)
    return made, seen


def _add_drills(commands: Commands) -> tuple[argparse.ArgumentParser, argparse.ArgumentParser]:
    """Exercises, and marks for answers to them."""
    drilled = commands.add_parser(
        "drill", help="exercises whose answers are computed: prints a list, the same for the same seed"
    )
    drilled.add_argument("--kind", metavar="KIND", help="one of " + ", ".join(get_args(DrillKind)))
    drilled.add_argument(
        "--set", metavar="SET.json", help="a drill_set file in place of a kind: its exercises, on drawn faces"
    )
    drilled.add_argument("--about", metavar="JUDGEMENT", help="the judgement they practise, such as hue-redness")
    drilled.add_argument("--seed", type=int, default=1, metavar="N", help="what they are drawn from (1)")
    drilled.add_argument("--count", type=int, default=1, metavar="N", help=f"how many, 1 to {MOST_EXERCISES} (1)")
    drilled.add_argument("--level", type=int, default=1, metavar="N", help="1 to 5: how much can be confused (1)")
    drilled.add_argument("--case", metavar="CASE.json", help="a case file to make them from; drawn faces if left out")
    drilled.add_argument(
        "-o", "--output", metavar="FILE.pdf", help="also write them as a paper, with the answers at the end"
    )
    drilled.add_argument("--paper", default="a4", metavar="PAPER", help="a4 (the usual) or letter")
    drilled.set_defaults(run=_drill)
    marked = commands.add_parser("mark", help="what an answer is worth: prints a mark")
    marked.add_argument("file", metavar="EXERCISE.json", help="one exercise, or - for standard input")
    marked.add_argument(
        "answer", metavar="ANSWER.json", help='the answer, such as {"choice": "a"}, or - for standard input'
    )
    marked.set_defaults(run=_mark)
    return drilled, marked


def _add_keeping(commands: Commands) -> None:
    """The database, who may sign in, and the server."""
    copied = commands.add_parser("backup", help="copy the database, verified: to FILE, or among the automatic backups")
    copied.add_argument("file", metavar="FILE", nargs="?", help="where to copy it; it must not be there yet")
    copied.set_defaults(run=_backup)

    restored = commands.add_parser(
        "restore", help="put a backup in the place of the database, which is backed up first"
    )
    restored.add_argument("file", metavar="FILE", help="a backup that Nabrel made")
    restored.set_defaults(run=_restore)

    account = commands.add_parser("account", help="who may sign in where Nabrel is served to other machines")
    doing = account.add_subparsers(dest="doing", metavar="DOING", required=True)
    added = doing.add_parser("add", help="make an account; the password is typed, or read from standard input")
    added.add_argument("name", metavar="NAME")
    added.add_argument("--role", default="educator", help="educator (everything) or student (what is shown to them)")
    doing.add_parser("list", help="every account and its role")
    for name, says in (
        ("password", "set another password, and sign out everywhere"),
        ("sign-out", "sign out in every browser"),
        ("remove", "remove an account"),
    ):
        doing.add_parser(name, help=says).add_argument("name", metavar="NAME")
    account.set_defaults(run=_account)

    serve = commands.add_parser("serve", help="start the application on this machine")
    serve.add_argument("--port", type=int, default=8765)
    serve.add_argument("--host", default="127.0.0.1", help="loopback unless you say otherwise")
    serve.add_argument("--public-name", action="append", default=[], metavar="NAME", help="a name others know it by")
    serve.add_argument(
        "--trusted-proxy", metavar="ADDRESS", help="the proxy in front of it, whose word on Host is taken"
    )
    serve.add_argument(
        "--sign-in", action="store_true", help="demand a sign-in; on another --host than loopback it always is"
    )
    serve.add_argument(
        "--only-me",
        action=argparse.BooleanOptionalAction,
        default=None,
        help="answer its owner alone, by a link that works once; the usual without --demo and accounts",
    )
    serve.add_argument("--certificate", metavar="FILE.pem", help="serve over TLS with this certificate")
    serve.add_argument("--key", metavar="FILE.pem", help="the key of the certificate")
    serve.add_argument("--demo", action="store_true", help="fill an empty data folder with the demo scenario")
    serve.set_defaults(run=_serve)

    link = commands.add_parser("link", help="a new link to a server that answers its owner alone")
    link.set_defaults(run=_link)


def _house(given: argparse.Namespace) -> House:
    """The house to go by: the file given, else the book as it is."""
    if not given.house:
        return House()
    from nabrel.formats.checks import house_of  # noqa: PLC0415
    from nabrel.formats.loader import read_house  # noqa: PLC0415

    return house_of(read_house(_bytes(given.house)))


def _dated(sequence: Plan) -> Plan:
    """The sequence as done today, where it names no day: products are judged too old by it."""
    intent = sequence.case.intent
    if intent.day is not None:
        return sequence
    return replace(sequence, case=replace(sequence.case, intent=replace(intent, day=date.today())))


def _bytes(name: str) -> bytes:
    if name == "-":
        return sys.stdin.buffer.read()
    try:
        return Path(name).read_bytes()
    except OSError as error:
        raise Refused("file", name, f"a file that can be read ({error.strerror})") from None


def _print(model: BaseModel) -> None:
    print(json.dumps(model.model_dump(mode="json", exclude_none=True), indent=2, ensure_ascii=False))


def _print_whole(model: BaseModel) -> None:
    """With what is null: there it says something."""
    print(json.dumps(model.model_dump(mode="json"), indent=2, ensure_ascii=False))


def _plan(given: argparse.Namespace) -> int:
    from nabrel.core.ask.recommend import plan  # noqa: PLC0415 - each command pays only for what it needs
    from nabrel.core.judge.evaluate import course_of  # noqa: PLC0415
    from nabrel.formats.files import SequenceFile  # noqa: PLC0415
    from nabrel.formats.loader import read_case  # noqa: PLC0415

    house = _house(given)
    sequence = plan(read_case(_bytes(given.file)), house)
    takes = {done.step.id: done.take for done in course_of(sequence, house).done}
    _print(SequenceFile.of(sequence, takes))
    return EXIT_FINE


def _check(given: argparse.Namespace) -> int:
    from nabrel.core.judge.evaluate import evaluate  # noqa: PLC0415
    from nabrel.formats.files import FindingsFile  # noqa: PLC0415
    from nabrel.formats.loader import read_sequence  # noqa: PLC0415

    evaluation = evaluate(_dated(read_sequence(_bytes(given.file))), _house(given))
    _print(FindingsFile(findings=evaluation.findings))
    grave = any(finding.severity in ("stop", "problem") and not finding.accepted for finding in evaluation.findings)
    return EXIT_FINDINGS if grave else EXIT_FINE


def _film(given: argparse.Namespace) -> int:
    from nabrel.core.judge.evaluate import evaluate  # noqa: PLC0415
    from nabrel.formats.answers import appearance_to  # noqa: PLC0415
    from nabrel.formats.loader import read_sequence  # noqa: PLC0415

    if given.light not in LIGHTS:
        raise Refused("--light", given.light, "one of " + ", ".join(LIGHTS))
    sequence = read_sequence(_bytes(given.file))
    _print(appearance_to(evaluate(sequence, _house(given), given.light)))
    return EXIT_FINE


def _tell(given: argparse.Namespace) -> int:
    from nabrel.core.documents.tell import tell  # noqa: PLC0415
    from nabrel.core.judge.evaluate import evaluate  # noqa: PLC0415
    from nabrel.formats.loader import read_sequence  # noqa: PLC0415

    print(tell(evaluate(_dated(read_sequence(_bytes(given.file))), _house(given)), given.pace))
    return EXIT_FINE


def _sheet(given: argparse.Namespace) -> int:
    from nabrel.core.documents.sheet import sheet_of  # noqa: PLC0415
    from nabrel.core.judge.evaluate import evaluate  # noqa: PLC0415
    from nabrel.formats.loader import read_sequence  # noqa: PLC0415
    from nabrel.formats.sheet import Print, sheet_pdf  # noqa: PLC0415

    paper = _paper(given)
    house = _house(given)
    sequence = _dated(read_sequence(_bytes(given.file)))
    made = sheet_pdf(
        sheet_of(evaluate(sequence, house), given.pace), Print(paper, given.large, given.left_handed, given.mirrored)
    )
    if given.output == "-":
        sys.stdout.buffer.write(made)
        return EXIT_FINE
    _write(given.output, made, "--output")
    return EXIT_FINE


def _paper(given: argparse.Namespace) -> Paper:
    from nabrel.formats.sheet import PAPERS  # noqa: PLC0415

    paper = next((each for each in PAPERS if each == given.paper), None)
    if paper is None:
        raise Refused("--paper", given.paper, "one of " + ", ".join(PAPERS))
    return paper


def _write(name: str, made: bytes, option: str) -> None:
    try:
        Path(name).write_bytes(made)
    except OSError as error:
        raise Refused(option, name, f"a file that can be written ({error.strerror})") from None


def _pace(given: argparse.Namespace) -> int:
    from nabrel.core.pace.tasks import work_of  # noqa: PLC0415
    from nabrel.core.pace.timetable import timetable  # noqa: PLC0415
    from nabrel.formats.answers import timetable_to  # noqa: PLC0415
    from nabrel.formats.loader import read_sequence  # noqa: PLC0415

    sequence = read_sequence(_bytes(given.file))
    work = work_of(sequence, _house(given), pace=given.pace, hands=given.hands, spare=given.spare)
    found = timetable_to(timetable(work))
    _print_whole(found)
    return EXIT_FINE if found.possible else EXIT_FINDINGS


def _learn(given: argparse.Namespace) -> int:
    from nabrel.core.learn.learnt import learn  # noqa: PLC0415
    from nabrel.formats.wear import learnt_to, read_wear  # noqa: PLC0415

    house = _house(given)
    wearings = []
    for file in given.files:
        try:
            wearings.append(read_wear(_bytes(file)).wearing(house))
        except Refused as refused:
            # Of many files, the one that is wrong.
            raise Told(refused.field, f"{file}:", str(refused)) from None
    _print_whole(learnt_to(learn(wearings, house.factors)))
    return EXIT_FINE


def _class(given: argparse.Namespace) -> int:
    from nabrel.core.lesson.lesson import lesson  # noqa: PLC0415
    from nabrel.formats.classes import lesson_to, read_class  # noqa: PLC0415

    house = _house(given)
    found = lesson(read_class(_bytes(given.file)).room, house)
    if given.ics:
        from nabrel.formats.class_calendar import class_calendar  # noqa: PLC0415

        _write(given.ics, class_calendar(found), "--ics")
    if given.handouts:
        from nabrel.core.documents.handout import handouts  # noqa: PLC0415
        from nabrel.formats.sheet import Print  # noqa: PLC0415
        from nabrel.formats.sheet.handout import handouts_pdf  # noqa: PLC0415

        how = Print(_paper(given), given.large, mirrored=given.mirrored)
        _write(given.handouts, handouts_pdf(handouts(found, house), how), "--handouts")
    _print_whole(lesson_to(found))
    return EXIT_FINE


def _drill(given: argparse.Namespace) -> int:
    from nabrel.core.drill.sets import questions  # noqa: PLC0415
    from nabrel.formats.drills import ExerciseFile  # noqa: PLC0415
    from nabrel.formats.files import dumped  # noqa: PLC0415
    from nabrel.formats.loader import read_case  # noqa: PLC0415

    paper, title, minutes = _paper(given), "Exercises", None
    case = read_case(_bytes(given.case)) if given.case else None
    if given.set is not None:
        file = _drill_set(given)
        title, minutes = file.title, file.minutes
        found = list(questions(file.parts, file.seed, _house(given), (case,) if case is not None else ()))
    else:
        found = _of_kind(given, case)
    if given.output:
        from nabrel.formats.sheet.paper import write_paper  # noqa: PLC0415

        _write(given.output, write_paper(title, found, minutes, paper), "--output")
    print(json.dumps([dumped(ExerciseFile.of(each)) for each in found], indent=1, ensure_ascii=False))
    return EXIT_FINE


def _drill_set(given: argparse.Namespace) -> DrillSetFile:
    from nabrel.formats.loader import read  # noqa: PLC0415
    from nabrel.formats.practice import DrillSetFile, check_set  # noqa: PLC0415

    if given.kind is not None:
        raise Refused("--set", given.set, "a set, or --kind: not both")
    return check_set(read(_bytes(given.set), DrillSetFile, "drill_set"))


def _of_kind(given: argparse.Namespace, case: Case | None) -> list[Exercise]:
    from nabrel.core.drill.making import LEVELS, exercises  # noqa: PLC0415

    kind = next((each for each in get_args(DrillKind) if each == given.kind), None)
    if kind is None:
        raise Refused("--kind", given.kind, "one of " + ", ".join(get_args(DrillKind)))
    if given.level not in LEVELS:
        raise Refused("--level", given.level, "1 to 5")
    if not 1 <= given.count <= MOST_EXERCISES:
        raise Refused("--count", given.count, f"1 to {MOST_EXERCISES}")
    if not 0 <= given.seed <= MOST_SEED:
        raise Refused("--seed", given.seed, f"0 to {MOST_SEED}")
    return exercises(kind, given.seed, given.count, given.level, _house(given), case, given.about)


def _mark(given: argparse.Namespace) -> int:
    from nabrel.core.drill.making import mark  # noqa: PLC0415
    from nabrel.formats.drills import MarkFile, read_answer, read_exercise  # noqa: PLC0415

    asked = read_exercise(_bytes(given.file))
    _print(MarkFile.of(mark(asked, read_answer(_bytes(given.answer)), _house(given))))
    return EXIT_FINE


def _card(given: argparse.Namespace) -> int:
    from nabrel.core.card.layout import Printer, card, house_card  # noqa: PLC0415
    from nabrel.formats.card import CardFile  # noqa: PLC0415

    size: CardSize = "skin" if given.skin else "kit"
    if any(each is not None for each in (given.white, given.black, given.middle)):
        for name in ("white", "black"):
            if getattr(given, name) is None:
                raise Refused(
                    f"--{name}", None, "a reflectance, 0 to 1: a printer is calibrated by its white and its black"
                )
        found = card(size, Printer(given.white, given.black, given.middle))
    else:
        found = house_card(size, _house(given))
    if not given.output and not given.layout:
        raise Refused("--output", None, "a file to print to, such as card.pdf; or --layout")
    if given.output:
        from nabrel.formats.sheet.card import card_pdf  # noqa: PLC0415

        made = card_pdf(found, _paper(given))
        if given.output == "-":
            sys.stdout.buffer.write(made)
        else:
            _write(given.output, made, "--output")
    if given.layout:
        _print_whole(CardFile.of(found))
    return EXIT_FINE


def _read_card(given: argparse.Namespace) -> int:
    from nabrel.core.card.layout import house_card  # noqa: PLC0415
    from nabrel.core.card.markers import Unreadable  # noqa: PLC0415
    from nabrel.core.card.reading import pooled, read_card  # noqa: PLC0415
    from nabrel.formats.card import CardReadingFile, read_card_file  # noqa: PLC0415
    from nabrel.formats.photo import opened_picture  # noqa: PLC0415

    house = _house(given)
    printed = read_card_file(_bytes(given.card)) if given.card else house_card("skin" if given.skin else "kit", house)
    readings = []
    for each in given.files:
        picture = opened_picture(_bytes(each))
        try:
            readings.append(read_card(picture, printed, house, given.thickness_um))
        except Unreadable as told:
            _print_whole(CardReadingFile.refused(printed, str(told)))
            return EXIT_FINDINGS
    found = readings[0] if len(readings) == 1 else pooled(tuple(readings), printed, house, given.thickness_um)
    _print_whole(CardReadingFile.of(found))
    return EXIT_FINE


def _schools(given: argparse.Namespace) -> int:
    from nabrel.core.ask.recommend import rank_schools  # noqa: PLC0415
    from nabrel.formats.answers import schools_to  # noqa: PLC0415
    from nabrel.formats.loader import read_case  # noqa: PLC0415

    _print(schools_to(rank_schools(read_case(_bytes(given.file)), _house(given))))
    return EXIT_FINE


def _correct(given: argparse.Namespace) -> int:
    from nabrel.core.ask.correction import correct_zone  # noqa: PLC0415
    from nabrel.formats.answers import correction_to  # noqa: PLC0415
    from nabrel.formats.loader import read_case  # noqa: PLC0415

    zone = next((each for each in ZONES if each == given.zone), None)
    if zone is None:
        raise Refused("--zone", given.zone, "one of " + ", ".join(ZONES))
    house = _house(given)
    _print(correction_to(correct_zone(read_case(_bytes(given.file)), zone, house), house))
    return EXIT_FINE


def _mix(given: argparse.Namespace) -> int:
    from nabrel.core.face.skin import intended_complexion  # noqa: PLC0415
    from nabrel.core.solve.mix import solve_mix  # noqa: PLC0415
    from nabrel.formats.answers import mix_to  # noqa: PLC0415
    from nabrel.formats.loader import read_case  # noqa: PLC0415

    finish = next((each for each in FINISHES[:3] if each == given.finish), None)
    if given.finish is not None and finish is None:
        raise Refused("--finish", given.finish, "matte, satin or dewy")
    case = read_case(_bytes(given.file))
    target = _target(given.target) if given.target else intended_complexion(case.sitter, _house(given))
    mixable = [item for item in case.kit if item.role in ("foundation", "mixer", "thinning_balm")]
    answer = solve_mix(
        target, mixable, _house(given), most_drops=given.drops, most_products=given.products, finish=finish
    )
    _print(mix_to(answer))
    return EXIT_FINE


def _target(text: str) -> Lab:
    try:
        lightness, red, yellow = (float(part) for part in text.split(","))
    except ValueError:
        raise Refused("--target", text, "three numbers, L*,a*,b*, such as 62,11,17") from None
    if not (0 <= lightness <= 100 and abs(red) <= 128 and abs(yellow) <= 128):
        raise Refused("--target", text, "L* from 0 to 100, a* and b* from -128 to 128")
    return (lightness, red, yellow)


def _backup(given: argparse.Namespace) -> int:
    from nabrel.store import backup  # noqa: PLC0415
    from nabrel.store.folder import FILE_NAME, data_folder  # noqa: PLC0415

    database = data_folder() / FILE_NAME
    if not database.is_file():
        raise Refused("data folder", str(database.parent), "a folder with a database of Nabrel, by NABREL_DATA")
    if given.file is None:
        made = backup.automatic(database, "daily")
    else:
        target = Path(given.file)
        if target.exists():
            raise Refused("FILE", given.file, "a name that is not taken yet")
        if not target.absolute().parent.is_dir():
            raise Refused("FILE", given.file, "a name in a folder that is there")
        made = backup.copy(database, target)
    print(f"Backed up to {made}.")
    return EXIT_FINE


def _restore(given: argparse.Namespace) -> int:
    from nabrel.store.database import restore  # noqa: PLC0415
    from nabrel.store.folder import data_folder, held  # noqa: PLC0415

    folder = data_folder()
    with held(folder):
        before = restore(Path(given.file), folder)
    print(f"Restored {given.file}." + (f" What stood there is in {before}." if before else ""))
    return EXIT_FINE


def _account(given: argparse.Namespace) -> int:
    from nabrel.store.accounts import ROLES, Accounts  # noqa: PLC0415
    from nabrel.store.database import Database  # noqa: PLC0415
    from nabrel.store.folder import data_folder  # noqa: PLC0415

    role = next((each for each in ROLES if each == getattr(given, "role", ROLES[0])), None)
    if role is None:
        raise Refused("--role", given.role, "one of " + ", ".join(ROLES))
    password = _password() if given.doing in ("add", "password") else ""
    database = Database(data_folder())
    try:
        with database.session() as session:
            accounts = Accounts(session)
            if given.doing == "add":
                made = accounts.add(given.name, role, password)
                print(f"{made.name} may sign in as {made.role}.")
            elif given.doing == "list":
                print("\n".join(f"{each.name} ({each.role})" for each in accounts.all()) or "No accounts yet.")
            elif given.doing == "password":
                accounts.set_password(given.name, password)
                print(f"{given.name} has another password, and is signed out everywhere.")
            elif given.doing == "sign-out":
                accounts.sign_out_everywhere(accounts.named(given.name).id)
                print(f"{given.name} is signed out everywhere.")
            else:
                accounts.remove(given.name)
                print(f"{given.name} may not sign in any more.")
    finally:
        database.close()
    return EXIT_FINE


def _password() -> str:
    """The password as typed twice without showing it, or the first line of standard input where nobody types."""
    if not sys.stdin.isatty():
        return sys.stdin.readline().rstrip("\r\n")
    typed = getpass.getpass("Password: ")
    if typed != getpass.getpass("Once more: "):
        raise Refused("password", "two that differ", "the same one twice")
    return typed


def _link(given: argparse.Namespace) -> int:  # noqa: ARG001 - every command is given its words
    from nabrel.store.folder import data_folder  # noqa: PLC0415
    from nabrel.web.shared.only_me import new_link  # noqa: PLC0415

    print(new_link(data_folder()))
    return EXIT_FINE


def _serve(given: argparse.Namespace) -> int:
    from nabrel.web.serving import Address, serve  # noqa: PLC0415

    if not 1 <= given.port <= 65535:
        raise Refused("--port", given.port, "1 to 65535")
    if (given.certificate is None) != (given.key is None):
        raise Refused("--key", given.key, "a certificate and its key, both or neither")
    for option in ("certificate", "key"):
        name = getattr(given, option)
        if name is not None and not Path(name).is_file():
            raise Refused(f"--{option}", name, "a file that can be read")
    address = Address(
        given.host,
        given.port,
        tuple(given.public_name),
        given.trusted_proxy,
        given.sign_in,
        given.only_me,
        given.certificate,
        given.key,
    )
    serve(address, demo=given.demo)
    return EXIT_FINE


if __name__ == "__main__":
    sys.exit(main())
