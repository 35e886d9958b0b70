"""What a starter was told, changed: all of it in its form, or one answer in the finder."""

from functools import partial

from isometron.document.edits.starters import STARTERS, Starter
from isometron.document.edits.starters.again import Opened, begin_again, open_again
from isometron.document.edits.starters.answering import answer_in_words, answers_from
from isometron.perspective.errors import IsometronError
from isometron.ui.bench.finder import Entry
from isometron.ui.bench.work import Work
from isometron.words import _


def opened(work: Work) -> tuple[Starter, Opened] | None:
    """The starter that the volume in work was begun with, as it stands."""
    document = work.session.document
    begun = document.begun_with
    starter = next((one for one in STARTERS if begun and one.name == begun.starter), None)
    if begun is None or starter is None:
        return None
    try:
        return starter, open_again(document, begun, starter)
    except IsometronError:  # a file that somebody has written tells what gives no framework
        return None


def open_starter(work: Work) -> None:
    """Ask for the numbers of what the volume in work was begun with, as they stand, and change its
    parts by them."""
    found = opened(work)
    if found is None:
        work.refuse(_("What is picked was not begun with a starter: it has no numbers to open."))
        return
    starter, there = found
    again = work.session.document, there
    values = work.keeping.asking.starter_again(starter, work.room, again)
    if values is not None and values != there.answers:
        change(work, starter, there, values)


def change(work: Work, starter: Starter, there: Opened, values: dict[str, float]) -> None:
    """Change its parts by other answers, and say what a hand had done to them and is kept."""
    name = _("{name}, opened again").format(name=_(starter.name).lower())
    done = work.session.edit(name, lambda d: begin_again(d, there.begun, starter, values))
    if done and there.own:
        work.board.tell(_("Kept as you changed it: {all}.").format(all="; ".join(there.own)))


def answer(work: Work, question: str, words: str) -> None:
    """Answer one question anew, in words."""
    found = opened(work)
    if found is None:
        return
    starter, there = found
    unit = work.session.document.choices.unit
    try:
        values = answers_from(starter, {question: words}, unit, there.answers)
    except IsometronError as error:
        work.refuse(str(error))
        return
    change(work, starter, there, values)


def answers_found(work: Work) -> list[Entry]:
    """The questions of what the volume in work was begun with, as the finder finds them."""
    found = opened(work)
    if found is None:
        return []
    starter, there = found
    unit = work.session.document.choices.unit
    return [
        Entry(
            _(one.name).capitalize(),
            _("{tip} Of the {name}.").format(tip=_(one.tip), name=_(starter.name).lower()),
            "",
            _("of the {name}").format(name=_(starter.name).lower()),
            True,
            partial(open_starter, work),
            (
                _("{value} now, of the {name}").format(
                    value=answer_in_words(one, there.answers[one.name], unit),
                    name=_(starter.name).lower(),
                ),
            ),
            partial(answer, work, one.name),
        )
        for one in starter.questions
    ]
