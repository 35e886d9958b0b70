"""The command `begin`: a sheet begun with a starter, without a window."""

import argparse
import contextlib
from pathlib import Path

from isometron.perspective.errors import FileError, IsometronError
from isometron.words import _

BEGIN = "begin"


def add_begin(parser: argparse.ArgumentParser) -> None:
    """The options of `begin`."""
    parser.add_argument("starter", metavar="STARTER", nargs="?", help=_("which; see --list"))
    parser.add_argument(
        "answers", metavar="name=value", nargs="*", help=_("answers, as in its form")
    )
    parser.add_argument("--list", action="store_true", help=_("name starters and their questions"))
    parser.add_argument("--on", metavar="SHEET", help=_("a sheet to begin it on; else a blank one"))
    parser.add_argument("-o", "--out", metavar="OUT", help=_("sheet file to write"))
    parser.set_defaults(run=begin)


def begin(given: argparse.Namespace) -> int:
    """Begin a sheet, or name the starters."""
    from isometron.document.document import Document
    from isometron.document.edits.starters import STARTERS, with_starter
    from isometron.document.edits.starters.answering import (
        answer_in_words,
        answers_from,
        plain_name,
    )
    from isometron.document.edits.starters.from_sheet import with_own
    from isometron.files.own_starters import own_starters, read_starter
    from isometron.files.sheet_file import SUFFIX, read_sheet, write_sheet

    if given.list or given.starter is None:
        mine = []
        for path in own_starters():
            with contextlib.suppress(IsometronError):  # damaged: it says so when it is begun
                mine.append(read_starter(path))
        for one in (*STARTERS, *mine):
            print(plain_name(one.name.lower()))
            for asked in one.questions:
                value = answer_in_words(asked, asked.proposed, "mm")
                print(f"  {plain_name(asked.name)}={value}  {_(asked.tip)}")
        return 0
    wanted = plain_name(given.starter.lower())
    starter = next((one for one in STARTERS if plain_name(one.name.lower()) == wanted), None)
    own = next((one for one in own_starters() if plain_name(one.stem.lower()) == wanted), None)
    if starter is None and own is None and given.starter.endswith(SUFFIX):
        own = Path(given.starter)
    if starter is None and own is not None:
        starter = read_starter(own)
    if starter is None:
        raise FileError(
            _("There is no starter “{name}”: see isometron begin --list.").format(name=wanted)
        )
    if given.out is None:
        raise FileError(_("Say where the sheet goes: -o OUT.isometron."))
    document = Document() if given.on is None else read_sheet(given.on)
    said = {}
    for one in given.answers:
        name, equals, words = one.partition("=")
        if not equals:
            raise FileError(_("“{words}” is no answer: say name=value.").format(words=one))
        said[name] = words
    values = answers_from(starter, said, document.choices.unit)
    begun = with_starter if own is None else with_own
    write_sheet(begun(document, starter, values), Path(given.out))
    return 0
