"""The build order as a printable booklet."""

import io
from dataclasses import replace

import numpy as np

from isometron.construction.stages import KEPT, NEW, OLD, PAST, RUB, Stage, Stages
from isometron.construction.steps import Order
from isometron.construction.telling import Teller
from isometron.document.document import Document
from isometron.files.order_words import CAUTION, LOOKS, built, heading_of, paper_of, words_of
from isometron.files.pdf import POINTS_PER_MM

MOST_TOLD = 24
"""Moves of one step told on a page of the booklet; the text tells them all."""


MARGIN_MM = 15.0


TEXT_MM = 62.0
"""Height left for words under the picture on a page of the booklet."""


def booklet_of(document: Document, *, per_chapter: bool = False) -> bytes:
    """The order as a booklet: a picture and its words to a page (one per step, or per chapter), and
    last the sheet at 1 : 1 with every mark. Pages are A4 upright; the last one is the sheet's own
    size."""
    from reportlab.lib.pagesizes import A4
    from reportlab.pdfgen.canvas import Canvas

    order = built(document)
    stages = Stages(order, document.sheet)
    teller = Teller(order, document.choices.unit)
    file = io.BytesIO()
    canvas = Canvas(file, pagesize=A4, invariant=1, pageCompression=1)
    canvas.setTitle("Isometron build order")
    canvas.setViewerPreference("PrintScaling", "None")
    _cover(canvas, document, order, A4)
    number = -1
    hidden = document.building.hidden
    for chapter in order.chapters:
        begin = number + 1
        number += len(chapter.steps)
        if per_chapter:
            words = [
                f"{begin + i + 1}. {words_of(step)}"
                for i, step in enumerate(chapter.steps)
                if step.key not in hidden
            ]
            _page(canvas, document, chapter.title, words, _all_new(stages, begin, number, document))
            continue
        for i, step in enumerate(chapter.steps):
            if step.key not in hidden:
                stage = stages.after(begin + i, _around(document))
                words = [f"{begin + i + 1}. {words_of(step)}", *_few(teller.step(step))]
                _page(canvas, document, chapter.title, words, stage)
    _true_size(canvas, document, stages)
    canvas.save()
    return file.getvalue()


def _few(told: list[str]) -> list[str]:
    """The moves of a step in one paragraph, as many as a page holds."""
    more = f" … and {len(told) - MOST_TOLD} more." if len(told) > MOST_TOLD else ""
    return ["  ".join(told[:MOST_TOLD]) + more] if told else []


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


def _cover(canvas, document: Document, order: Order, size: tuple[float, float]) -> None:  # type: ignore[no-untyped-def]
    _fonts()
    canvas.setFont("B612-Bold", 20)
    top = size[1] - 30 * POINTS_PER_MM
    canvas.drawString(MARGIN_MM * POINTS_PER_MM, top, "Build order")
    y = _paragraph(canvas, heading_of(document, order), top - 12 * POINTS_PER_MM, size[0])
    for chapter in order.chapters:
        y = _paragraph(canvas, f"{chapter.title}  —  {len(chapter.steps)} steps", y - 4, size[0])
    _paragraph(canvas, CAUTION, y - 8 * POINTS_PER_MM, size[0])
    canvas.showPage()


def _fonts() -> None:
    """The shipped type family made known to the PDF library, which takes TrueType outlines only:
    it is converted when first needed."""
    from reportlab.pdfbase import pdfmetrics

    from isometron.files.type_family import register

    if "B612" not in pdfmetrics.getRegisteredFontNames():
        register()


def _paragraph(canvas, text: str, y: float, width: float, size: float = 11.0) -> float:  # type: ignore[no-untyped-def]
    """Words set in lines from a height down; gives the height below them."""
    from reportlab.lib.utils import simpleSplit

    canvas.setFont("B612", size)
    margin = MARGIN_MM * POINTS_PER_MM
    for line in simpleSplit(text, "B612", size, width - 2 * margin):
        canvas.drawString(margin, y, line)
        y -= 1.4 * size
    return y


def _page(canvas, document: Document, title: str, words: list[str], stage: Stage) -> None:  # type: ignore[no-untyped-def]
    from reportlab.lib.pagesizes import A4

    width, height = A4
    margin = MARGIN_MM * POINTS_PER_MM
    canvas.setFont("B612-Bold", 13)
    canvas.setFillColorRGB(0.12, 0.14, 0.15)
    canvas.drawString(margin, height - margin, title)
    room = (2 * margin, TEXT_MM * POINTS_PER_MM + margin)
    sheet = document.sheet
    scale = min((width - room[0]) / sheet.width_mm, (height - room[1] - margin) / sheet.height_mm)
    left = (width - scale * sheet.width_mm) / 2
    bottom = height - 1.6 * margin - scale * sheet.height_mm
    canvas.saveState()
    canvas.setStrokeColorRGB(0.65, 0.6, 0.5)
    canvas.setLineWidth(0.5)
    canvas.rect(left, bottom, scale * sheet.width_mm, scale * sheet.height_mm)
    path = canvas.beginPath()
    path.rect(margin / 2, bottom - 4, width - margin, scale * sheet.height_mm + 8)
    canvas.clipPath(path, stroke=0, fill=0)
    _draw_stage(canvas, stage, scale, left, bottom)
    canvas.restoreState()
    size = 11.0 if sum(map(len, words)) < 900 else 8.5
    y = bottom - 0.8 * margin
    for text in words:
        if y < margin:
            canvas.showPage()
            y = height - margin
        y = _paragraph(canvas, text, y, width, size) - 0.35 * size
    canvas.showPage()


def _draw_stage(canvas, stage: Stage, scale: float, left: float, bottom: float) -> None:  # type: ignore[no-untyped-def]
    from reportlab.lib.colors import HexColor

    canvas.setLineCap(1)
    for age in (PAST, OLD, KEPT, RUB, NEW):
        colour, wide = LOOKS[age]
        canvas.setStrokeColor(HexColor(colour))
        canvas.setLineWidth(max(wide * POINTS_PER_MM, 0.4))
        canvas.setDash([3, 2] if age == RUB else [])
        for stroke in stage.strokes:
            if stroke.age == age:
                places = stroke.points * scale + (left, bottom)
                path = canvas.beginPath()
                path.moveTo(*places[0].tolist())
                for place in places[1:].tolist():
                    path.lineTo(*place)
                canvas.drawPath(path)
    canvas.setDash([])
    for spot in stage.spots:
        x, y = (float(v) for v in np.array(spot.place) * scale + (left, bottom))
        canvas.setFillColor(HexColor(LOOKS[NEW if spot.new else OLD][0]))
        canvas.circle(x, y, 1.8 if spot.new else 1.0, stroke=0, fill=1)
        if spot.label:
            canvas.setFont("B612-Bold" if spot.new else "B612", 9)
            canvas.drawString(x + 3, y + 3, spot.label)


def _true_size(canvas, document: Document, stages: Stages) -> None:  # type: ignore[no-untyped-def]
    """The sheet at 1 : 1 with every mark and light line, and a cross at each measured place."""
    sheet = document.sheet
    canvas.setPageSize((sheet.width_mm * POINTS_PER_MM, sheet.height_mm * POINTS_PER_MM))
    before = next((i for i, step in enumerate(stages.steps) if step.rubs), len(stages.steps)) - 1
    stage = stages.after(before, paper_of(document))
    _draw_stage(canvas, stage, POINTS_PER_MM, 0.0, 0.0)
    canvas.showPage()
