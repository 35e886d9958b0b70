"""The command line: the bench, and a command for everything that leaves as a file."""

import argparse
import contextlib
import os
import sys
from collections.abc import Sequence
from pathlib import Path
from typing import TYPE_CHECKING, NoReturn

from isometron import __version__
from isometron.perspective.errors import FileError, IsometronError
from isometron.words import _

if TYPE_CHECKING:
    from isometron.files.formats import Outgoing

BAD_INPUT = 2
"""Exit code for anything the person can put right."""

READ = "read"
"""The command that reads marks on pictures."""

INTERRUPTED = 130
"""Exit code after Ctrl+C."""


class _Parser(argparse.ArgumentParser):
    """A parser that says what is wrong in one sentence."""

    def error(self, message: str) -> NoReturn:
        sentence = message[:1].upper() + message[1:]
        print(f"isometron: {sentence}; see {self.prog} --help.", file=sys.stderr)
        raise SystemExit(BAD_INPUT)


def _parser() -> _Parser:
    parser = _Parser(
        prog="isometron",
        description=_("A framework bench for product sketchers."),
        usage="isometron [FILE] [--sample] [--picture OUT.png] | isometron COMMAND FILE ...",
        epilog=_("Without a command the bench opens, with FILE on it when one is named."),
    )
    _version(parser)
    commands = parser.add_subparsers(dest="command", metavar="COMMAND")
    for one in _outgoing():
        _add_outgoing(commands.add_parser(one.key, description=one.about, help=one.about), one)
    about = _(
        "Read marks on a picture: eye level, vanishing points, station distance, proportions."
    )
    _add_reading(commands.add_parser(READ, description=about, help=about))
    return parser


def _bench_parser() -> _Parser:
    parser = _Parser(prog="isometron", add_help=False)
    _add_bench(parser)
    return parser


def _version(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("--version", action="version", version=f"isometron {__version__}")


def _add_outgoing(parser: argparse.ArgumentParser, one: "Outgoing") -> None:
    _version(parser)
    parser.add_argument("file", metavar="FILE", help=_("sheet file, or - for standard input"))
    if one.takes is not None:
        parser.add_argument("--take", metavar="TABLE", help=_("take dimensions from this table"))
        told = _("sheet file to write what was taken to, or table to write")
    elif one.prints is not None:
        told = _("file to write: {endings}; else it is printed").format(endings=one.endings)
    else:
        told = _("file to write: {endings}").format(endings=one.endings)
    parser.add_argument("-o", "--out", metavar="OUT", required=one.prints is None, help=told)
    for option in one.options:
        parser.add_argument(option.flag, **option.settings)
    parser.set_defaults(run=lambda given: _send(one, given))


def _add_reading(parser: argparse.ArgumentParser) -> None:
    _version(parser)
    parser.add_argument(
        "files",
        metavar="FILE",
        nargs="+",
        help=_("marks as JSON, one object or one on each line; - for standard input"),
    )
    parser.set_defaults(run=_read)


def _add_bench(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("file", metavar="FILE", nargs="?", help=_("sheet file"))
    parser.add_argument("--sample", action="store_true", help=_("open the sample sheet"))
    parser.add_argument(
        "--picture",
        metavar="OUT.png",
        help=_("write a picture of the bench and exit (no display)"),
    )
    parser.set_defaults(run=_bench)


def _names_a_command(given: list[str]) -> bool:
    """Whether another command than the bench is meant: then all of them are loaded."""
    if not given or given[0] in ("-h", "--help", "--version"):
        return bool(given)
    if given[0] == READ:
        return True
    return given[0].isidentifier() and any(one.key == given[0] for one in _outgoing())


def _outgoing() -> "list[Outgoing]":
    from isometron.files.formats import OUTGOING

    return OUTGOING


def main(arguments: Sequence[str] | None = None) -> int:
    """Run one command; gives the exit code (0 done, 2 something to put right)."""
    given = list(sys.argv[1:] if arguments is None else arguments)
    parsed = (_parser() if _names_a_command(given) else _bench_parser()).parse_args(given)
    try:
        return int(parsed.run(parsed))
    except BrokenPipeError:
        _drop_output()
        return 0
    except KeyboardInterrupt:
        return INTERRUPTED
    except (IsometronError, OSError, UnicodeError, MemoryError, RecursionError, ImportError) as bad:
        print(f"isometron: {_sentence(bad)}", file=sys.stderr)
        return BAD_INPUT


def _sentence(error: BaseException) -> str:
    """What went wrong and what to change, in one sentence."""
    from isometron.files.disk import reason

    if isinstance(error, IsometronError):
        return str(error)
    if isinstance(error, OSError):
        _drop_output()
        return _("This cannot be written: {error}.").format(error=reason(error))
    if isinstance(error, ImportError):
        name = error.name or str(error)
        return _("This needs {name}, which is not installed here.").format(name=name)
    if isinstance(error, UnicodeError):
        return _("A text holds half a letter: type it again.")
    return _("This sheet is too much for the memory here: use fewer volumes or less detail.")


def _drop_output() -> None:
    """Let nothing more be written to an output that takes nothing."""
    with contextlib.suppress(OSError, ValueError):
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())


def _send(one: "Outgoing", given: argparse.Namespace) -> int:
    """Write or print something of a sheet, or take a table into it."""
    from isometron.files.formats import Asked
    from isometron.files.sheet_file import read_sheet, write_sheet
    from isometron.render.painting import QtPainting

    document = read_sheet(given.file)
    if one.takes is not None and given.take is not None:
        if given.out is None:
            raise FileError(_("Say where to write the sheet: add -o OUT.isometron."))
        write_sheet(one.takes(document, Path(given.take)), Path(given.out))
        return 0
    names = [option.flag.lstrip("-").replace("-", "_") for option in one.options]
    asked = Asked(QtPainting(), **{name: getattr(given, name) for name in names})
    if given.out is not None or one.prints is None:
        one.write(document, Path(given.out), asked)
        return 0
    sys.stdout.buffer.write(one.prints.write(document, asked))
    sys.stdout.flush()
    return 0


def _read(given: argparse.Namespace) -> int:
    """Print a reading for every set of marks, one on each line."""
    from isometron.files.disk import read_bytes
    from isometron.files.marks_form import LONGEST, marks_in, reading_as_text
    from isometron.reading.reading import read_marks

    for name in given.files:
        called = _("standard input") if name == "-" else name
        for marks in marks_in(read_bytes(name, LONGEST, _("marks")), called):
            sys.stdout.write(reading_as_text(read_marks(marks)) + "\n")
    sys.stdout.flush()
    return 0


def _bench(given: argparse.Namespace) -> int:
    if given.picture:
        os.environ["QT_QPA_PLATFORM"] = "offscreen"

    from isometron.ui.bench.app import Sheet, picture_of_bench, run_bench

    sheet = Sheet(given.file, sample=given.sample)
    if given.picture:
        picture_of_bench(sheet, Path(given.picture))
        return 0
    return run_bench(sheet)


if __name__ == "__main__":
    raise SystemExit(main())
