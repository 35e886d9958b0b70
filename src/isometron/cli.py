"""The command line: the bench, and a command for everything that leaves as a file."""

import argparse
import contextlib
import os
import sys
from collections.abc import Sequence
from pathlib import Path
from typing import TYPE_CHECKING, NoReturn

from isometron import __version__
from isometron.begin_command import BEGIN, add_begin
from isometron.perspective.errors import FileError, IsometronError
from isometron.practice_commands import LOG, PRACTICE, add_log, add_practice
from isometron.words import _

if TYPE_CHECKING:
    from isometron.document.marks import Marks
    from isometron.files.formats import Outgoing
    from isometron.reading.finding import Bend

BAD_INPUT = 2
"""Exit code for anything the person can put right."""

READ = "read"
"""The command that reads marks on pictures."""

CAMERA, HAND = "sample-camera", "sample-hand"
"""The commands of the stand-ins: one takes photographs, one draws."""

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
    about = _("Take a photograph of the things on a sheet with the sample camera.")
    _add_camera(commands.add_parser(CAMERA, description=about, help=about))
    about = _("Draw a sheet as a person would, with known mistakes, and take a picture of it.")
    _add_hand(commands.add_parser(HAND, description=about, help=about))
    about = _("Write an exercise, or its answer, at true size to a file.")
    practice = commands.add_parser(PRACTICE, description=about, help=about)
    about = _("Print the log of work, if it is kept.")
    log = commands.add_parser(LOG, description=about, help=about)
    about = _("Begin a sheet with a starter, from a few numbers.")
    start = commands.add_parser(BEGIN, description=about, help=about)
    for own, add in ((practice, add_practice), (log, add_log), (start, add_begin)):
        _version(own)
        add(own)
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
        help=_("marks as JSON, one object or one on each line, or a picture; - for standard input"),
    )
    parser.add_argument(
        "--thing",
        metavar="X0,Y0,X1,Y1",
        help=_("read only lines within this box of a picture: px, from its lower left corner"),
    )
    parser.add_argument(
        "--whole", action="store_true", default=None, help=_("a picture is all the camera saw")
    )
    parser.add_argument(
        "--part",
        action="store_false",
        dest="whole",
        help=_("a picture is cut from a larger one"),
    )
    parser.set_defaults(run=_read)


def _add_camera(parser: argparse.ArgumentParser) -> None:
    _version(parser)
    parser.add_argument("file", metavar="FILE", help=_("sheet file, or - for standard input"))
    told = _("picture to write: .jpg, .png, .tif or .webp")
    parser.add_argument("-o", "--out", metavar="OUT", required=True, help=told)
    numbers = {
        "--width": ("width_px", int, _("width of the whole sheet's picture, px")),
        "--roll": ("roll_deg", float, _("roll in degrees, positive: the right end higher")),
        "--distortion": ("distortion", float, _("radial distortion of the lens")),
        "--blur": ("blur_px", float, _("blur, px")),
        "--grain": ("grain", float, _("grain, of 256 levels")),
        "--exposure": ("exposure", float, _("exposure in stops")),
        "--seed": ("seed", int, _("seed of the grain")),
    }
    for flag, (name, kind, about) in numbers.items():
        parser.add_argument(flag, dest=name, type=kind, metavar="N", help=about)
    parser.add_argument(
        "--crop",
        nargs=4,
        type=float,
        metavar=("LEFT", "BOTTOM", "RIGHT", "TOP"),
        help=_("the part of the sheet that is kept, as shares of it"),
    )
    parser.add_argument(
        "--no-aim",
        dest="aim",
        action="store_false",
        help=_("take the sheet's own view, and not one aimed at the middle of the things"),
    )
    parser.add_argument(
        "--no-exif", dest="exif", action="store_false", help=_("do not tell the focal length")
    )
    parser.add_argument("--truth", metavar="OUT.json", help=_("write what it truly shows as JSON"))
    parser.set_defaults(run=_photograph)


def _add_hand(parser: argparse.ArgumentParser) -> None:
    _version(parser)
    parser.add_argument("file", metavar="FILE", help=_("sheet file, or - for standard input"))
    told = _("picture to write: .jpg, .png, .tif or .webp; its truth goes beside it as JSON")
    parser.add_argument("-o", "--out", metavar="OUT", required=True, help=told)
    parser.add_argument(
        "--mistake",
        action="append",
        default=[],
        metavar="KIND:VOLUME:PART:BY",
        help=_("a known mistake: miss, long, swell and others, of which part, how far"),
    )
    numbers = {
        "--unsteady": ("unsteady_mm", float, _("how far a line wanders, mm")),
        "--searching": ("searching", int, _("lines more that are drawn along each edge")),
        "--overshoot": ("overshoot_mm", float, _("how far lines run on, mm")),
        "--px-per-mm": ("px_per_mm", float, _("px of the picture to a mm of the sheet")),
        "--grain": ("grain", float, _("grain, of 256 levels")),
        "--seed": ("seed", int, _("seed of the hand")),
    }
    for flag, (name, kind, about) in numbers.items():
        parser.add_argument(flag, dest=name, type=kind, metavar="N", help=about)
    parser.add_argument("--scan", action="store_true", help=_("scanned, not photographed"))
    told = _("draw what is hidden too, faint")
    parser.add_argument("--construction", action="store_true", help=told)
    parser.set_defaults(run=_drawn_by_hand)


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
    if given[0] in (READ, CAMERA, HAND, PRACTICE, LOG, BEGIN):
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
    return _(
        "This is too much for the memory here: take a smaller sheet or picture, or fewer marks."
    )


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
    from isometron.files.sheet_file import is_sheet
    from isometron.reading.pictures import is_picture
    from isometron.reading.reading import read_marks

    for name in given.files:
        called = _("standard input") if name == "-" else name
        content = read_bytes(name, LONGEST, _("marks or a picture"))
        if is_picture(content):
            marks, bend = _found_in(content, called, _box(given.thing), given.whole)
            sys.stdout.write(reading_as_text(read_marks(marks), marks, bend) + "\n")
            continue
        if is_sheet(content):
            _read_sheet_pictures(content, called)
            continue
        for marks in marks_in(content, called):
            sys.stdout.write(reading_as_text(read_marks(marks)) + "\n")
    sys.stdout.flush()
    return 0


def _read_sheet_pictures(content: bytes, called: str) -> None:
    """Print the reading of every picture of a sheet. Raises FileError when it has none."""
    from isometron.document.edits.pictures.bringing import choose_picture
    from isometron.files.marks_form import reading_as_text
    from isometron.files.sheet_file import sheet_from_text
    from isometron.reading.of_picture import reading_of
    from isometron.reading.sketch.judging import faults_in

    document = sheet_from_text(content, f"“{called}”")
    pictures = document.pictures
    if not pictures:
        told = _("No picture lies with “{name}”: give a sheet that has one, marks or a picture.")
        raise FileError(told.format(name=Path(called).name))
    for number, picture in enumerate(pictures):
        read = reading_of(picture)
        faults = faults_in(choose_picture(document, number))
        told = reading_as_text(read.reading, read.marks, name=picture.name, faults=faults)
        sys.stdout.write(told + "\n")


def _box(typed: str | None) -> tuple[float, float, float, float] | None:
    """A box as it is typed. Raises FileError for what is none."""
    if typed is None:
        return None
    try:
        x0, y0, x1, y1 = (float(word) for word in typed.split(","))
    except ValueError:
        raise FileError(_("A box is four numbers, px: --thing 120,80,640,410.")) from None
    return x0, y0, x1, y1


def _found_in(
    content: bytes,
    called: str,
    box: tuple[float, float, float, float] | None,
    whole: bool | None,
) -> "tuple[Marks, Bend]":
    """The lines of a picture as marks, and how the lens bends them. Raises PictureError when there
    are none, or when they are in doubt."""
    from isometron.document.picture import CUT, WAYS
    from isometron.reading.finding import marks_in_picture
    from isometron.reading.pictures import PictureError, read_picture

    found = marks_in_picture(read_picture(content, Path(called).name), box, whole)
    told = {
        WAYS: _(
            "“{name}” can be seen in more than one way: say where the thing lies with --thing, or "
            "give marks instead."
        ),
        CUT: _(
            "The lines of “{name}” do not tell whether it is all that the camera saw: say --whole "
            "or --part."
        ),
        "": _("“{name}” shows no lines that run together: give marks instead."),
    }
    if not found.marks.edges:
        raise PictureError(told[found.doubt].format(name=Path(called).name))
    return found.marks, found.bend


PICTURE_KINDS = {".jpg": "JPEG", ".jpeg": "JPEG", ".png": "PNG", ".tif": "TIFF", ".webp": "WEBP"}


def _photograph(given: argparse.Namespace) -> int:
    """Take a photograph of a sheet's things."""
    import json

    from isometron.files.disk import write_whole
    from isometron.files.sheet_file import read_sheet
    from isometron.stand_ins.camera import Camera, photograph, truth

    out = Path(given.out)
    kind = _picture_kind(out)
    names = (
        "width_px",
        "roll_deg",
        "distortion",
        "blur_px",
        "grain",
        "exposure",
        "seed",
        "exif",
        "aim",
    )
    asked = {name: getattr(given, name) for name in names if getattr(given, name) is not None}
    if given.crop is not None:
        asked["crop"] = tuple(given.crop)
    camera, document = Camera(**asked), read_sheet(given.file)
    write_whole(out, photograph(document, camera, kind))
    if given.truth is not None:
        content = json.dumps(truth(document, camera), indent=1, ensure_ascii=False) + "\n"
        write_whole(Path(given.truth), content.encode())
    return 0


def _drawn_by_hand(given: argparse.Namespace) -> int:
    """Draw a sheet by the sample hand, its truth beside it."""
    import json

    from isometron.files.disk import write_whole
    from isometron.files.sheet_file import read_sheet
    from isometron.stand_ins.hand import Hand, mistake_of, sketch, truth_of_sketch

    out = Path(given.out)
    kind = _picture_kind(out)
    names = ("unsteady_mm", "searching", "overshoot_mm", "px_per_mm", "grain", "seed")
    asked = {name: getattr(given, name) for name in names if getattr(given, name) is not None}
    if given.scan:
        asked["slant"] = None
    mistakes = tuple(mistake_of(text) for text in given.mistake)
    hand = Hand(**asked, mistakes=mistakes, construction=given.construction)
    document = read_sheet(given.file)
    write_whole(out, sketch(document, hand, kind))
    content = json.dumps(truth_of_sketch(document, hand), indent=1, ensure_ascii=False) + "\n"
    write_whole(out.with_suffix(".json"), content.encode())
    return 0


def _picture_kind(out: Path) -> str:
    """The kind of picture that a name's ending says. Raises FileError for another one."""
    kind = PICTURE_KINDS.get(out.suffix.lower())
    if kind is None:
        endings = ", ".join(PICTURE_KINDS)
        told = _("“{name}” does not say what picture: end its name in {endings}.")
        raise FileError(told.format(name=out.name, endings=endings))
    return kind


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
