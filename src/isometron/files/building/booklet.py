"""The build order as a printable booklet."""

from collections.abc import Iterator
from dataclasses import replace
from functools import partial

import numpy as np

from isometron.construction.moves import Mark
from isometron.construction.stages import Spot, Stage, Stages
from isometron.construction.steps import Chapter
from isometron.construction.strokes import FINISHED, KEPT, NEW, OLD, RUB
from isometron.construction.telling import Teller
from isometron.document.document import Document
from isometron.drawing.pencils import Pencil
from isometron.files.building.booklet_pages import Block, Blocks
from isometron.files.building.order_words import CAUTION, built, heading_of, paper_of, words_of
from isometron.files.building.stage_items import framed
from isometron.pages.flow import MM_PER_POINT, paper_of_unit
from isometron.pages.page import Lines, Page, Pages
from isometron.pages.pdf import pdf_of
from isometron.perspective.lengths import write_length
from isometron.perspective.places import Rectangle
from isometron.perspective.watching import part_of_whole, tick
from isometron.words import _, many

MOST_TOLD = 4
"""So many moves of a step are one paragraph of the booklet."""

CROSS_MM, CROSS = 1.5, Pencil("#7a2e29", 0.3 * MM_PER_POINT)
"""Size and pencil of the cross at a measured place of the sheet at 1 : 1."""

COVER_TITLE_MM = 20.0 * MM_PER_POINT

PLANNED = 0.5
"""The share of the whole work that planning the order takes, more or less."""

COVER_SHARE = 0.42
"""The finished drawing on the cover takes no more than this share of the page's height."""


def booklet_of(document: Document, *, per_chapter: bool = False) -> bytes:
    """The order as a booklet: a cover with the finished drawing; every step (or chapter) with a
    picture and its words, as many to a page as fit; last the sheet at 1 : 1 with every mark. Pages
    are A4 upright, or letter for who works in inches; the last one is the sheet's own size."""
    with part_of_whole(0.0, PLANNED):
        order = built(document)
    stages = Stages(order, document.sheet)
    size = paper_of_unit(document.choices.unit)
    blocks = Blocks(size, stages, _around(document))
    _cover(blocks, document, stages)
    for block in (_chapters if per_chapter else _steps)(document, stages):
        blocks.block(block)
    pages = (*blocks.flow.pages(), _true_size(document, stages))
    return pdf_of(Pages(_("Isometron build order"), pages))


def _chapters(document: Document, stages: Stages) -> Iterator[Block]:
    """Every chapter with the words of all its steps."""
    begin, hidden = 0, document.building.hidden
    for chapter in stages.order.chapters:
        _so_far(stages, begin)
        end = begin + len(chapter.steps) - 1
        words = [
            f"{begin + i + 1}. {words_of(step)}"
            for i, step in enumerate(chapter.steps)
            if step.key not in hidden
        ]
        stage = _all_new(stages, begin, end, document)
        yield Block(chapter.key, chapter.title, words, stage)
        begin = end + 1


def _steps(document: Document, stages: Stages) -> Iterator[Block]:
    """Every step with its moves."""
    teller, around = Teller(stages.order, document.choices.unit), _around(document)
    number = -1
    for chapter in stages.order.chapters:
        for step in chapter.steps:
            number += 1
            _so_far(stages, number)
            if step.key in document.building.hidden:
                continue
            behind = stages.chapter_of[number] if number < stages.rubs_from else 0
            stage = (stages.own if behind else stages.after)(number, around)
            words = [f"{number + 1}. {words_of(step)}", *_moves(teller.step(step))]
            closer = partial(_other_look, stages, stage)
            yield Block(chapter.key, chapter.title, words, stage, closer, behind)


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


def _cover(blocks: Blocks, document: Document, stages: Stages) -> None:
    """The finished drawing, what the order is, its chapters and its bounds."""
    order, sheet, flow = stages.order, document.sheet, blocks.flow
    flow.words(_("Build order"), COVER_TITLE_MM, bold=True)
    flow.gap()
    blocks.picture(_finished(stages, document), COVER_SHARE * flow.high)
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
    shown = {chapter.key for chapter in order.chapters if _is_shown(chapter, document)}
    for chapter in order.chapters:
        told = many("{title}: {n} step", "{title}: {n} steps", len(chapter.steps))
        flow.words(
            told.format(title=chapter.title, n=len(chapter.steps)),
            leads_to=chapter.key if chapter.key in shown else "",
        )
    flow.gap()
    flow.words(CAUTION)
    flow.over()


def _is_shown(chapter: Chapter, document: Document) -> bool:
    """Whether a chapter has a step that is not hidden from reading."""
    return any(step.key not in document.building.hidden for step in chapter.steps)


def _finished(stages: Stages, document: Document) -> Stage:
    """The finished drawing; of a framework its lines."""
    last = stages.after(len(stages.steps) - 1, paper_of(document))
    shown = (s if s.age in FINISHED else replace(s, age=KEPT) for s in last.strokes)
    return Stage(tuple(shown), ())


def _true_size(document: Document, stages: Stages) -> Page:
    """The sheet at 1 : 1 with every light line, a cross at each measured place, and the letters."""
    sheet = document.sheet
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
    wide, high = sheet.width_mm, sheet.height_mm
    whole = framed(Stage(strokes, spots), paper_of(document), (0.0, 0.0, wide, high))
    places = [move.place for move in marks if 0 <= move.place[0] <= wide]
    ends = [
        ends
        for x, y in places
        if 0 <= y <= high
        for ends in ((x - CROSS_MM, y, x + CROSS_MM, y), (x, y - CROSS_MM, x, y + CROSS_MM))
    ]
    return Page((wide, high), (whole, Lines(CROSS, np.array(ends).reshape(-1, 4))))
