"""The build order on one page: six to eight pictures with a sentence each, for a class."""

import io
from dataclasses import replace
from typing import Any

from isometron.construction.economy import clause
from isometron.construction.moves import draws
from isometron.construction.stages import Stage, Stages
from isometron.construction.strokes import FINISHED, KEPT, NEW, RUB
from isometron.document.document import Document
from isometron.files.building.booklet_pages import LEADING, MARGIN_MM, frame, paper_edge
from isometron.files.building.order_words import CAUTION, built, paper_of, words_of
from isometron.files.pdf import POINTS_PER_MM
from isometron.files.type_family import register
from isometron.words import _

COLUMNS, ROWS = 2, 4
GAP_MM = 5.0
HEAD_PT, WORDS_PT, TITLE_PT = 9.5, 8.5, 16.0
TOLD_LINES = 2
"""Lines of words under a picture."""


def step_sheet_of(document: Document) -> bytes:
    """The order as one page: pictures that each show what is new since the one before, the last one
    the finished drawing. Raises OrderError."""
    from reportlab.lib.pagesizes import A4, LETTER
    from reportlab.pdfgen.canvas import Canvas

    register()
    order = built(document)
    stages = Stages(order, document.sheet)
    file = io.BytesIO()
    size = LETTER if document.choices.unit == "in" else A4
    canvas = Canvas(file, pagesize=size, invariant=1, pageCompression=1)
    canvas.setTitle(_("Isometron step sheet"))
    margin, gap = MARGIN_MM * POINTS_PER_MM, GAP_MM * POINTS_PER_MM
    top = size[1] - margin - TITLE_PT
    _line(canvas, _("Step sheet, {method}").format(method=_(order.method)), margin, top, TITLE_PT)
    _line(canvas, CAUTION, margin, margin - WORDS_PT, 6.5)
    top -= gap
    wide = (size[0] - 2 * margin - (COLUMNS - 1) * gap) / COLUMNS
    high = (top - margin - (ROWS - 1) * gap) / ROWS
    begin = 0
    for number, end in enumerate(pictured(stages)):
        column, row = number % COLUMNS, number // COLUMNS
        left, upper = margin + column * (wide + gap), top - row * (high + gap)
        heading, words = told(stages, begin, end)
        shown = _shown(stages, begin, end, document)
        _picture(canvas, document, shown, (left, upper - high, wide, high))
        _words(canvas, f"{number + 1}. {heading}", words, (left, upper - high, wide, high))
        begin = end + 1
    canvas.showPage()
    canvas.save()
    return file.getvalue()


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


Box = tuple[float, float, float, float]


def _picture(canvas: Any, document: Document, stage: Stage, box: Box) -> None:
    left, bottom, wide, high = box
    room = high - (LEADING * (TOLD_LINES * WORDS_PT + HEAD_PT))
    part = paper_of(document)
    scale = min(wide / (part[2] - part[0]), room / (part[3] - part[1]))
    size = scale * (part[2] - part[0]), scale * (part[3] - part[1])
    place = (left, bottom + high - size[1], *size)
    frame(canvas, stage, part, place)
    paper_edge(canvas, place)


def _words(canvas: Any, heading: str, words: str, box: Box) -> None:
    from reportlab.lib.utils import simpleSplit

    left, bottom, wide, _unused = box
    y = bottom + LEADING * TOLD_LINES * WORDS_PT
    for line in simpleSplit(heading, "B612-Bold", HEAD_PT, wide)[:1]:
        _line(canvas, line, left, y, HEAD_PT, "B612-Bold")
    for line in simpleSplit(words, "B612", WORDS_PT, wide):
        y -= LEADING * WORDS_PT
        _line(canvas, line, left, y, WORDS_PT)


def _line(canvas: Any, text: str, x: float, y: float, size: float, face: str = "B612") -> None:
    canvas.setFillColorRGB(0.12, 0.14, 0.15)
    canvas.setFont(face, size)
    canvas.drawString(x, y, text)
