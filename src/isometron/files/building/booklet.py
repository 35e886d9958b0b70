"""The build order as a printable booklet."""

import io
from dataclasses import replace
from functools import partial
from typing import Any

from isometron.construction.moves import Mark
from isometron.construction.stages import Rectangle, Spot, Stage, Stages
from isometron.construction.strokes import FINISHED, KEPT, NEW, OLD, RUB
from isometron.construction.telling import Teller
from isometron.document.document import Document
from isometron.files.building.booklet_pages import Block, Flow, frame
from isometron.files.building.order_words import CAUTION, built, heading_of, paper_of, words_of
from isometron.files.pdf import POINTS_PER_MM
from isometron.perspective.lengths import write_length
from isometron.perspective.watching import part_of_whole, tick
from isometron.words import _, many

MOST_TOLD = 4
"""So many moves of a step are one paragraph of the booklet."""

CROSS_MM, CROSS_INK = 1.5, (0.48, 0.18, 0.16)
"""Size and colour of the cross at a measured place of the sheet at 1 : 1."""

PLANNED = 0.5
"""The share of the whole work that planning the order takes, more or less."""

COVER_SHARE = 0.42
"""The finished drawing on the cover takes no more than this share of the page's height."""


def booklet_of(document: Document, *, per_chapter: bool = False) -> bytes:
    """The order as a booklet: a cover with the finished drawing; every step (or chapter) with a
    picture and its words, as many to a page as fit; last the sheet at 1 : 1 with every mark. Pages
    are A4 upright, or letter for who works in inches; the last one is the sheet's own size."""
    from reportlab import rl_config
    from reportlab.lib.pagesizes import A4, LETTER
    from reportlab.pdfgen.canvas import Canvas

    rl_config.useA85 = 0  # streams as they are: a quarter smaller, and quicker
    with part_of_whole(0.0, PLANNED):
        order = built(document)
    stages = Stages(order, document.sheet)
    teller = Teller(order, document.choices.unit)
    file = io.BytesIO()
    size = LETTER if document.choices.unit == "in" else A4
    canvas = Canvas(file, pagesize=size, invariant=1, pageCompression=1)
    canvas.setTitle(_("Isometron build order"))
    canvas.setViewerPreference("PrintScaling", "None")
    around = _around(document)
    flow = Flow(canvas, size, stages, around)
    _cover(flow, document, stages, size)
    number = -1
    hidden = document.building.hidden
    for chapter in order.chapters:
        begin = number + 1
        _so_far(stages, begin)
        number += len(chapter.steps)
        if per_chapter:
            words = [
                f"{begin + i + 1}. {words_of(step)}"
                for i, step in enumerate(chapter.steps)
                if step.key not in hidden
            ]
            flow.block(Block(chapter.title, words, _all_new(stages, begin, number, document)))
            continue
        for i, step in enumerate(chapter.steps):
            _so_far(stages, begin + i)
            if step.key not in hidden:
                behind = stages.chapter_of[begin + i] if begin + i < stages.rubs_from else 0
                stage = (stages.own if behind else stages.after)(begin + i, around)
                words = [f"{begin + i + 1}. {words_of(step)}", *_moves(teller.step(step))]
                closer = partial(_other_look, stages, stage)
                flow.block(Block(chapter.title, words, stage, closer, behind))
    flow.end()
    _true_size(canvas, document, stages)
    canvas.save()
    return file.getvalue()


def _so_far(stages: Stages, done: int) -> None:
    tick(PLANNED + (1 - PLANNED) * done / len(stages.steps))


def _other_look(stages: Stages, stage: Stage, shape: float) -> Rectangle | None:
    """What a second picture of a step shows: what lies beside the sheet, or a closer look."""
    return stages.beside(stage, shape) or stages.closer(stage, shape)


def _moves(told: list[str]) -> list[str]:
    """The moves of a step in paragraphs of a few."""
    return ["  ".join(told[i : i + MOST_TOLD]) for i in range(0, len(told), MOST_TOLD)]


def _all_new(stages: Stages, begin: int, end: int, document: Document) -> Stage:
    """The stage after step `end` with everything since `begin` new."""
    names = {move.name for step in stages.steps[begin : end + 1] for move in step.moves}
    stage = stages.after(end, _around(document))
    return Stage(
        tuple(
            replace(s, age=NEW) if s.name in names and s.age != RUB else s for s in stage.strokes
        ),
        tuple(replace(s, new=s.name in names) for s in stage.spots),
    )


def _around(document: Document) -> tuple[float, float, float, float]:
    """The paper and half as much again on every side: where strips and the plan lie."""
    width, height = document.sheet.width_mm, document.sheet.height_mm
    return (-0.5 * width, -0.25 * height, 1.5 * width, 1.4 * height)


def _cover(flow: Flow, document: Document, stages: Stages, size: tuple[float, float]) -> None:
    """The finished drawing, what the order is, its chapters and its bounds."""
    order, sheet = stages.order, document.sheet
    flow.words(_("Build order"), 20.0, bold=True)
    flow.gap()
    flow.picture(_finished(stages, document), COVER_SHARE * size[1])
    flow.gap()
    unit = document.choices.unit
    flow.words(
        _("Sheet {width} by {height}. Reach: {reach}.").format(
            width=write_length(sheet.width_mm, unit),
            height=write_length(sheet.height_mm, unit),
            reach=_(document.building.reach),
        )
    )
    flow.words(heading_of(document, order))
    flow.gap()
    for chapter in order.chapters:
        flow.words(
            many("{title}: {n} step", "{title}: {n} steps", len(chapter.steps)).format(
                title=chapter.title, n=len(chapter.steps)
            )
        )
    flow.gap()
    flow.words(CAUTION)
    flow.over()


def _finished(stages: Stages, document: Document) -> Stage:
    """The finished drawing; of a framework its lines."""
    last = stages.after(len(stages.steps) - 1, paper_of(document))
    shown = (s if s.age in FINISHED else replace(s, age=KEPT) for s in last.strokes)
    return Stage(tuple(shown), ())


def _true_size(canvas: Any, document: Document, stages: Stages) -> None:
    """The sheet at 1 : 1 with every light line, a cross at each measured place, and the letters."""
    sheet = document.sheet
    size = (sheet.width_mm * POINTS_PER_MM, sheet.height_mm * POINTS_PER_MM)
    canvas.setPageSize(size)
    before = next((i for i, step in enumerate(stages.steps) if step.rubs), len(stages.steps)) - 1
    strokes = tuple(
        replace(s, age=KEPT if s.name in stages.kept else OLD)
        for s in stages.after(before, paper_of(document)).strokes
    )
    marks = [move for move in stages.order.moves() if isinstance(move, Mark)]
    named = {move.name for move in marks} | set(stages.order.labels)
    spots = tuple(
        Spot(name, stages.drawn.place(name), stages.order.label_of(name), False)
        for name in stages.drawn.points
        if name in named
    )
    frame(canvas, Stage(strokes, spots), paper_of(document), (0.0, 0.0, *size))
    canvas.setStrokeColorRGB(*CROSS_INK)
    canvas.setLineWidth(0.3)
    arm = CROSS_MM * POINTS_PER_MM
    for move in marks:
        x, y = (mm * POINTS_PER_MM for mm in move.place)
        if 0 <= x <= size[0] and 0 <= y <= size[1]:
            canvas.line(x - arm, y, x + arm, y)
            canvas.line(x, y - arm, x, y + arm)
    canvas.showPage()
