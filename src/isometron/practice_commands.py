"""The commands `practice` and `log`."""

import argparse
import sys
from datetime import date
from pathlib import Path
from typing import TYPE_CHECKING

from isometron.perspective.errors import FileError
from isometron.words import _

if TYPE_CHECKING:
    from isometron.practice.drill import Exercise

PRACTICE, LOG = "practice", "log"
MOST = 40
"""Exercises on one printed sheet: twenty pages."""


def add_practice(parser: argparse.ArgumentParser) -> None:
    """The options of `practice`."""
    parser.add_argument("drill", metavar="DRILL", nargs="?", help=_("which drill; see --list"))
    parser.add_argument("--list", action="store_true", help=_("name the drills and stop"))
    parser.add_argument("--seed", type=int, default=1, metavar="N", help=_("seed of the exercise"))
    parser.add_argument(
        "--difficulty", type=float, default=0.3, metavar="D", help=_("0 (easy) to 1 (hard)")
    )
    parser.add_argument(
        "--count", type=int, default=1, metavar="N", help=_("so many, with seeds from there on")
    )
    parser.add_argument("--answers", action="store_true", help=_("write the answers instead"))
    parser.add_argument("-o", "--out", metavar="OUT", help=_("file to write: .pdf, .svg"))
    parser.set_defaults(run=practise)


def add_log(parser: argparse.ArgumentParser) -> None:
    """The options of `log`."""
    form = parser.add_mutually_exclusive_group()
    form.add_argument("--csv", action="store_true", help=_("as a table (default)"))
    form.add_argument("--json", action="store_true", help=_("as JSON"))
    parser.add_argument(
        "--since", metavar="DATE", default="", help=_("entries since then: 2026-01-31")
    )
    parser.set_defaults(run=print_log)


def practise(given: argparse.Namespace) -> int:
    """Write exercises, or name the drills."""
    from isometron.files.disk import write_whole
    from isometron.files.practice import exercises_pdf, exercises_svg
    from isometron.practice.drill import drill_of, drills

    if given.list:
        for key, one in drills().items():
            sys.stdout.write(f"{key:10} {one.about}\n")
        return 0
    if given.drill is None:
        raise FileError(_("Say which drill: `isometron practice --list` names them."))
    if given.out is None:
        raise FileError(_("Say where to write the exercise: add -o OUT.pdf or -o OUT.svg."))
    if not 1 <= given.count <= MOST:
        raise FileError(_("One sheet holds 1 to {most} exercises.").format(most=MOST))
    drill = drill_of(given.drill)
    exercises: list[Exercise] = [
        drill.exercise(given.seed + n, given.difficulty) for n in range(given.count)
    ]
    out = Path(given.out)
    writers = {".pdf": exercises_pdf, ".svg": exercises_svg}
    write = writers.get(out.suffix.lower())
    if write is None:
        raise FileError(
            _("“{name}” does not say what to write: end its name in .pdf or .svg.").format(
                name=out.name
            )
        )
    write_whole(out, write(exercises, answers=given.answers))
    return 0


def print_log(given: argparse.Namespace) -> int:
    """Print the log."""
    from isometron.practice.log import Log, as_csv, as_json

    try:
        since = date.fromisoformat(given.since).isoformat() if given.since else ""
    except ValueError as error:
        raise FileError(
            _("“{since}” is no date: write it as 2026-01-31.").format(since=given.since)
        ) from error
    log = Log()
    entries = log.entries(since=since)
    if log.said:
        print(f"isometron: {log.said}", file=sys.stderr)
    sys.stdout.write(as_json(entries) if given.json else as_csv(entries))
    sys.stdout.flush()
    return 0
