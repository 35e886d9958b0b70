"""The build order on one page: six to eight pictures with a sentence each, for a class."""

from dataclasses import replace

from isometron.construction.economy import clause
from isometron.construction.moves import draws
from isometron.construction.stages import Stage, Stages
from isometron.construction.strokes import FINISHED, KEPT, NEW, RUB
from isometron.document.document import Document
from isometron.files.building.order_words import CAUTION, built, paper_of, words_of
from isometron.files.building.stage_items import edge_of, framed
from isometron.pages.flow import (
    GAP_MM,
    LEADING,
    MARGIN_MM,
    MM_PER_POINT,
    broken,
    lines_of,
    paper_of_unit,
)
from isometron.pages.page import Box, Item, Page, Pages, Words
from isometron.pages.pdf import pdf_of
from isometron.words import _

COLUMNS, ROWS = 2, 4
HEAD_MM, WORDS_MM = 9.5 * MM_PER_POINT, 8.5 * MM_PER_POINT
TITLE_MM, CAUTION_MM = 16.0 * MM_PER_POINT, 6.5 * MM_PER_POINT
TOLD_LINES = 2
"""Lines of words under a picture."""


def step_sheet_of(document: Document) -> bytes:
    """The order as one page: pictures that each show what is new since the one before, the last one
    the finished drawing. Raises OrderError."""
    stages = Stages(built(document), document.sheet)
    size = paper_of_unit(document.choices.unit)
    top = size[1] - MARGIN_MM - TITLE_MM
    title = _("Step sheet, {method}").format(method=_(stages.order.method))
    items: list[Item] = [
        Words(title, (MARGIN_MM, top), TITLE_MM),
        Words(CAUTION, (MARGIN_MM, MARGIN_MM - WORDS_MM), CAUTION_MM),
    ]
    top -= GAP_MM
    wide = (size[0] - 2 * MARGIN_MM - (COLUMNS - 1) * GAP_MM) / COLUMNS
    high = (top - MARGIN_MM - (ROWS - 1) * GAP_MM) / ROWS
    begin = 0
    for number, end in enumerate(pictured(stages)):
        row, column = divmod(number, COLUMNS)
        left, upper = MARGIN_MM + column * (wide + GAP_MM), top - row * (high + GAP_MM)
        heading, words = told(stages, begin, end)
        box = (left, upper - high, wide, high)
        items += _picture(document, _shown(stages, begin, end, document), box)
        items += _words(f"{number + 1}. {heading}", words, box)
        begin = end + 1
    return pdf_of(Pages(_("Isometron step sheet"), (Page(size, tuple(items)),)))


def pictured(stages: Stages) -> list[int]:
    """The steps after which a picture is shown: so that each has about as many new lines, at the
    end of a chapter where one is near; the last is the finished drawing."""
    last = len(stages.steps) - 1
    drawn = [sum(draws(move) for move in step.moves) for step in stages.steps[: stages.rubs_from]]
    total, most = sum(drawn), COLUMNS * ROWS - 1
    share, count = total / most, 0
    found: list[int] = []
    for number, lines in enumerate(drawn):
        count += lines
        ends = number + 1 == len(drawn)
        chapter = ends or stages.chapter_of[number] != stages.chapter_of[number + 1]
        due = (len(found) + 1) * share
        near = count >= due or (chapter and count >= due - share / 3)
        if ends or (len(found) < most - 1 and near):
            found.append(number)
    return [*found, last]


def told(stages: Stages, begin: int, end: int) -> tuple[str, str]:
    """The heading and the sentence of a picture that shows some steps."""
    if end + 1 == len(stages.steps):
        return stages.order.chapters[-1].title, words_of(stages.steps[min(stages.inked, end)])
    most = max(range(begin, end + 1), key=lambda i: sum(draws(m) for m in stages.steps[i].moves))
    key = stages.steps[most].key.partition(".part-")[0]
    whole = next(step for step in stages.steps if step.key == key)
    return stages.order.chapters[stages.chapter_of[most]].title, f"{clause(words_of(whole))}."


def _shown(stages: Stages, begin: int, end: int, document: Document) -> Stage:
    """The stage after a step with everything since another new."""
    names = {move.name for step in stages.steps[begin : end + 1] for move in step.moves}
    strokes = []
    for stroke in stages.after(end, paper_of(document)).strokes:
        age = stroke.age
        if age not in FINISHED:
            age = NEW if stroke.name in names and age != RUB else age
        strokes.append(replace(stroke, age=KEPT if age == RUB else age))
    return Stage(tuple(strokes), ())


def _picture(document: Document, stage: Stage, box: Box) -> list[Item]:
    left, bottom, wide, high = box
    room = high - (LEADING * (TOLD_LINES * WORDS_MM + HEAD_MM))
    part = paper_of(document)
    scale = min(wide / (part[2] - part[0]), room / (part[3] - part[1]))
    size = scale * (part[2] - part[0]), scale * (part[3] - part[1])
    place = (left, bottom + high - size[1], *size)
    return [framed(stage, part, place), edge_of(place)]


def _words(heading: str, words: str, box: Box) -> list[Item]:
    left, bottom, wide, _unused = box
    y = bottom + LEADING * TOLD_LINES * WORDS_MM
    head = broken(heading, wide, HEAD_MM, bold=True)[:1]
    return [
        *(Words(line, (left, y), HEAD_MM, bold=True) for line in head),
        *lines_of(broken(words, wide, WORDS_MM), left, y, WORDS_MM),
    ]
