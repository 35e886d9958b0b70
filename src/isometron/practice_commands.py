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
    parser.add_argument(
        "--by-hand",
        type=float,
        metavar="BIAS",
        help=_(
            "write a photograph (.jpg) of the page answered by the sample hand, so many times a "
            "practised hand's own error long"
        ),
    )
    parser.add_argument(
        "--read", metavar="PICTURE", help=_("print what a photograph of an answered page says")
    )
    parser.add_argument("-o", "--out", metavar="OUT", help=_("file to write: .pdf, .svg, .jpg"))
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
    """Write exercises, name the drills, or read an answered page."""
    from isometron.practice.drill import drills

    if given.list:
        for key, one in drills().items():
            sys.stdout.write(f"{key:10} {one.about}\n")
        return 0
    if given.read is not None:
        return _read(given.read)
    from isometron.files.disk import write_whole

    exercises = _asked_for(given)
    out = Path(given.out)
    write_whole(out, _written(out, exercises, given))
    return 0


def _asked_for(given: argparse.Namespace) -> "list[Exercise]":
    """The exercises that the options ask for. Raises FileError, PracticeError."""
    from isometron.practice.drill import drill_of
    from isometron.practice.paper.layout import for_paper
    from isometron.practice.paper.typed import MOST

    if given.drill is None:
        raise FileError(_("Say which drill: `isometron practice --list` names them."))
    if given.out is None:
        raise FileError(_("Say where to write the exercise: add -o OUT.pdf or -o OUT.svg."))
    if not 1 <= given.count <= MOST:
        raise FileError(_("One sheet holds 1 to {most} exercises.").format(most=MOST))
    drill = drill_of(given.drill)
    return [for_paper(drill.exercise(given.seed + n, given.difficulty)) for n in range(given.count)]


def _written(out: Path, exercises: "list[Exercise]", given: argparse.Namespace) -> bytes:
    """The exercises as the file's ending says. Raises FileError."""
    from isometron.files.practice import exercises_pdf, exercises_svg

    kind = out.suffix.lower()
    if given.by_hand is not None and kind in (".jpg", ".jpeg"):
        return _by_hand(exercises, given.by_hand, given.seed)
    writers = {".pdf": exercises_pdf, ".svg": exercises_svg}
    if kind not in writers or given.by_hand is not None:
        raise FileError(
            _("“{name}” does not say what to write: end its name in .pdf or .svg, with --by-hand "
              "in .jpg.").format(name=out.name)
        )  # fmt: skip
    return writers[kind](exercises, answers=given.answers)


def _by_hand(exercises: "list[Exercise]", bias: float, seed: int) -> bytes:
    from isometron.practice.hand import SampleHand
    from isometron.practice.paper.layout import ON_PAGE
    from isometron.practice.paper.sample import photographed
    from isometron.stand_ins.hand import Hand

    if len(exercises) > ON_PAGE or not abs(bias) <= 100:
        raise FileError(_("The sample hand answers one page of two, with a bias of up to 100."))
    person = SampleHand(bias, 1.0, seed)
    hand = Hand(unsteady_mm=0.15, searching=0, overshoot_mm=0.5, px_per_mm=6.0, seed=seed)
    return photographed(exercises, [person.answer(one) for one in exercises], hand)


def _read(picture: str) -> int:
    """Print what a photograph of an answered page says, as JSON."""
    import json

    from isometron.document.picture import MOST_BYTES
    from isometron.files.disk import read_bytes
    from isometron.practice.paper.reading import read_page

    found = []
    for one in read_page(read_bytes(picture, MOST_BYTES, _("a picture"))):
        exercise = one.exercise
        told = {"drill": exercise.drill, "seed": exercise.seed, "difficulty": exercise.difficulty}
        verdict = exercise.told(one.answer) if one.whole else None
        found.append(
            {
                **told,
                "found": one.whole,
                "places_mm": [list(place) for place in one.answer.places],
                "sure": list(one.sure),
                "misses": [] if verdict is None else [miss._asdict() for miss in verdict.misses],
            }
        )
    sys.stdout.write(json.dumps(found, indent=1, ensure_ascii=False) + "\n")
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
    for told in filter(None, (log.said, log.told_of_odd)):
        print(f"isometron: {told}", file=sys.stderr)
    sys.stdout.write(as_json(entries) if given.json else as_csv(entries))
    sys.stdout.flush()
    return 0
