"""The command line: the bench, `measure`, `draw`, `mesh`, `dimensions` and `steps`."""

import argparse
import os
import sys
from collections.abc import Sequence
from pathlib import Path
from typing import NoReturn

from isometron import __version__
from isometron.perspective.errors import IsometronError

BAD_INPUT = 2
"""Exit code for anything the person can put right."""


class _Parser(argparse.ArgumentParser):
    """A parser that says what is wrong in one sentence."""

    def error(self, message: str) -> NoReturn:
        sentence = message[:1].upper() + message[1:]
        print(f"isometron: {sentence}; see {self.prog} --help.", file=sys.stderr)
        raise SystemExit(BAD_INPUT)


def _parser(command: str) -> _Parser:
    about = {
        "": (
            "A framework bench for product sketchers. Commands: isometron [FILE] opens the bench, "
            "isometron measure FILE prints every measure of a sheet as JSON, "
            "isometron draw FILE -o OUT draws it to a file, "
            "isometron mesh FILE -o OUT sends its volumes out as a mesh, "
            "isometron dimensions FILE writes and takes tables of dimensions, "
            "isometron steps FILE writes its build order.",
            "isometron",
        ),
        "measure": ("Print everything the bench knows about a sheet as JSON.", "isometron measure"),
        "draw": (
            "Draw a sheet at true size to an SVG, PDF, PNG or DXF file.",
            "isometron draw",
        ),
        "mesh": ("Send the volumes of a sheet out as OBJ, glTF or STL.", "isometron mesh"),
        "steps": (
            "Write the build order of a sheet: the ruler moves, in the order a hand makes them.",
            "isometron steps",
        ),
        "dimensions": (
            "Print the dimensions of every volume as CSV, or take them from a CSV file.",
            "isometron dimensions",
        ),
    }
    description, program = about[command]
    parser = _Parser(prog=program, description=description)
    parser.add_argument("--version", action="version", version=f"isometron {__version__}")
    sheet = "sheet file" if not command else "sheet file, or - for standard input"
    parser.add_argument("file", metavar="FILE", nargs="?" if not command else None, help=sheet)
    return parser


def main(arguments: Sequence[str] | None = None) -> int:
    """Run one command; gives the exit code (0 done, 2 something to put right)."""
    given = list(sys.argv[1:] if arguments is None else arguments)
    commands = {
        "measure": _measure,
        "draw": _draw,
        "mesh": _mesh,
        "dimensions": _dimensions,
        "steps": _steps,
    }
    try:
        if given and given[0] in commands:
            return commands[given[0]](given[1:])
        return _bench(given)
    except IsometronError as error:
        print(f"isometron: {error}", file=sys.stderr)
        return BAD_INPUT
    except BrokenPipeError:
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        return 0


def _measure(arguments: list[str]) -> int:
    from isometron.files.report import report_text
    from isometron.files.sheet_file import read_sheet

    given = _parser("measure").parse_args(arguments)
    sys.stdout.write(report_text(read_sheet(given.file)))
    sys.stdout.flush()
    return 0


def _draw(arguments: list[str]) -> int:
    from isometron.files.export import draw_to
    from isometron.files.sheet_file import read_sheet

    parser = _parser("draw")
    parser.add_argument(
        "-o", "--out", metavar="OUT", required=True, help="file to draw: its ending says the kind"
    )
    parser.add_argument(
        "--dpi", type=float, default=300.0, help="dots per inch of a PNG (default 300)"
    )
    parser.add_argument("--no-paper", action="store_true", help="leave a PNG's paper transparent")
    given = parser.parse_args(arguments)

    from isometron.document.document import Document

    def png(document: Document) -> bytes:
        from isometron.render.picture import png_of

        return png_of(document, dpi=given.dpi, paper=not given.no_paper)

    draw_to(read_sheet(given.file), Path(given.out), png)
    return 0


def _mesh(arguments: list[str]) -> int:
    from isometron.files.mesh import write_mesh
    from isometron.files.sheet_file import read_sheet

    parser = _parser("mesh")
    parser.add_argument(
        "-o", "--out", metavar="OUT", required=True, help="mesh file: .obj, .glb or .stl"
    )
    given = parser.parse_args(arguments)
    write_mesh(read_sheet(given.file), Path(given.out))
    return 0


def _dimensions(arguments: list[str]) -> int:
    from isometron.files.sheet_file import read_sheet, write_sheet
    from isometron.files.table import read_table, table_of, take_table
    from isometron.perspective.errors import FileError

    parser = _parser("dimensions")
    parser.add_argument("--take", metavar="TABLE.csv", help="take dimensions from this table")
    parser.add_argument("-o", "--out", metavar="OUT", help="sheet file to write what was taken to")
    given = parser.parse_args(arguments)
    document = read_sheet(given.file)
    if given.take is None:
        sys.stdout.write(table_of(document).decode())
        sys.stdout.flush()
        return 0
    if given.out is None:
        raise FileError("Say where to write the sheet: add -o OUT.isometron.")
    table = Path(given.take)
    write_sheet(take_table(document, read_table(table), f"“{table}”"), Path(given.out))
    return 0


def _steps(arguments: list[str]) -> int:
    from isometron.document.building import METHODS
    from isometron.document.edits.building_edits import build_by
    from isometron.files.sheet_file import read_sheet

    parser = _parser("steps")
    parser.add_argument(
        "--method",
        choices=[method.replace(" ", "-") for method in METHODS],
        help="how lengths in depth are found (default: as the sheet says)",
    )
    parser.add_argument(
        "--first", choices=["points", "station"], help="what is laid first (default: as it says)"
    )
    parser.add_argument("--per-chapter", action="store_true", help="a booklet page per chapter")
    parser.add_argument(
        "-o",
        "--out",
        metavar="OUT",
        help="file to write: .txt, .pdf (booklet), .svg or .ora (layers) or .json; else text is "
        "printed",
    )
    given = parser.parse_args(arguments)
    document = read_sheet(given.file)
    method = None if given.method is None else given.method.replace("-", " ")
    first = None if given.first is None else given.first == "points"
    document = build_by(document, method, first)

    from isometron.construction.stages import Stage
    from isometron.document.document import Document
    from isometron.files.orders import text_of, write_order

    if given.out is None:
        sys.stdout.write(text_of(document).decode())
        sys.stdout.flush()
        return 0

    def png(document: Document, stage: Stage) -> bytes:
        from isometron.render.stage import stage_png

        return stage_png(document, stage)

    write_order(document, Path(given.out), png, per_chapter=given.per_chapter)
    return 0


def _bench(arguments: list[str]) -> int:
    parser = _parser("")
    parser.add_argument("--sample", action="store_true", help="open the sample sheet")
    parser.add_argument(
        "--picture", metavar="OUT.png", help="write a picture of the bench and exit (no display)"
    )
    given = parser.parse_args(arguments)
    if given.picture:
        os.environ["QT_QPA_PLATFORM"] = "offscreen"

    from isometron.files.sheet_file import SAMPLE_NAME, read_sheet, sample_sheet

    called = SAMPLE_NAME if given.sample and not given.file else ""
    document = read_sheet(given.file) if given.file else None
    if document is None and given.sample:
        document = sample_sheet()

    from isometron.ui.bench.app import picture_of_bench, run_bench

    path = Path(given.file) if given.file and given.file != "-" else None
    if given.picture:
        picture_of_bench(document, path, Path(given.picture), called=called)
        return 0
    return run_bench(document, path, called=called)


if __name__ == "__main__":
    raise SystemExit(main())
