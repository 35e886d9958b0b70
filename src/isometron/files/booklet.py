"""The build order as a printable booklet."""

import io
from collections.abc import Callable
from dataclasses import replace
from functools import partial

import numpy as np

from isometron.construction.labels import label_centres
from isometron.construction.moves import Mark
from isometron.construction.stages import Rectangle, Spot, Stage, Stages
from isometron.construction.steps import Order
from isometron.construction.strokes import DASHED, KEPT, NEW, OBJECT, OLD, PAST, RUB, THIN
from isometron.construction.telling import Teller
from isometron.document.document import Document
from isometron.files.order_words import CAUTION, LOOKS, built, heading_of, paper_of, words_of
from isometron.files.pdf import POINTS_PER_MM
from isometron.words import _

MOST_TOLD = 4
"""So many moves of a step are one paragraph of the booklet."""


MARGIN_MM, LABEL_PT = 15.0, 9.0
CROSS_MM, CROSS_INK = 1.5, (0.48, 0.18, 0.16)


CLOSER_MM, LEAST_MM = 90.0, 40.0
"""Height of the closer look under the words, and the least there must be room for."""

Closer = Callable[[float], Rectangle | None]
"""Gives the part of the sheet to show closer, for a width over height."""

TEXT_MM = 62.0
"""Height left for words under the picture on a page of the booklet."""


def booklet_of(document: Document, *, per_chapter: bool = False) -> bytes:
    """The order as a booklet: a picture and its words to a page (one per step, or per chapter), and
    last the sheet at 1 : 1 with every mark. Pages are A4 upright; the last one is the sheet's own
    size."""
    from reportlab import rl_config
    from reportlab.lib.pagesizes import A4
    from reportlab.pdfgen.canvas import Canvas

    rl_config.useA85 = 0  # streams as they are: a quarter smaller, and quicker
    order = built(document)
    stages = Stages(order, document.sheet)
    teller = Teller(order, document.choices.unit)
    file = io.BytesIO()
    canvas = Canvas(file, pagesize=A4, invariant=1, pageCompression=1)
    canvas.setTitle(_("Isometron build order"))
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
                words = [f"{begin + i + 1}. {words_of(step)}", *_moves(teller.step(step))]
                _page(canvas, document, chapter.title, words, stage, partial(stages.closer, stage))
    _true_size(canvas, document, stages)
    canvas.save()
    return file.getvalue()


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


def _cover(canvas, document: Document, order: Order, size: tuple[float, float]) -> None:  # type: ignore[no-untyped-def]
    from isometron.files.type_family import register

    register()
    canvas.setFont("B612-Bold", 20)
    top = size[1] - 30 * POINTS_PER_MM
    canvas.drawString(MARGIN_MM * POINTS_PER_MM, top, _("Build order"))
    y = _paragraph(canvas, heading_of(document, order), top - 12 * POINTS_PER_MM, size[0])
    for chapter in order.chapters:
        y = _paragraph(canvas, f"{chapter.title}  —  {len(chapter.steps)} steps", y - 4, size[0])
    _paragraph(canvas, CAUTION, y - 8 * POINTS_PER_MM, size[0])
    canvas.showPage()


def _paragraph(canvas, text: str, y: float, width: float, size: float = 11.0) -> float:  # type: ignore[no-untyped-def]
    """Words set in lines from a height down; gives the height below them."""
    from reportlab.lib.utils import simpleSplit

    canvas.setFont("B612", size)
    margin = MARGIN_MM * POINTS_PER_MM
    for line in simpleSplit(text, "B612", size, width - 2 * margin):
        canvas.drawString(margin, y, line)
        y -= 1.4 * size
    return y


def _page(  # type: ignore[no-untyped-def]
    canvas,
    document: Document,
    title: str,
    words: list[str],
    stage: Stage,
    closer: Closer | None = None,
) -> None:
    """A page: the sheet at a stage, its words, and a closer look when the step is small."""
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
    box = (margin / 2, bottom - 4, width - margin, scale * sheet.height_mm + 8)
    spare = ((left - box[0]) / scale, 4 / scale)
    _frame(
        canvas,
        stage,
        (-spare[0], -spare[1], sheet.width_mm + spare[0], sheet.height_mm + spare[1]),
        box,
    )
    canvas.setStrokeColorRGB(0.65, 0.6, 0.5)
    canvas.setLineWidth(0.5)
    canvas.rect(left, bottom, scale * sheet.width_mm, scale * sheet.height_mm)
    size = 11.0 if sum(map(len, words)) < 900 else 8.5
    y = bottom - 0.8 * margin
    for text in words:
        if y < margin:
            canvas.showPage()
            y = height - margin
        y = _paragraph(canvas, text, y, width, size) - 0.35 * size
    high = min(y - margin, CLOSER_MM * POINTS_PER_MM)
    if closer is not None and high > LEAST_MM * POINTS_PER_MM:
        box = (margin, y - high, width - 2 * margin, high)
        part = closer(box[2] / box[3])
        if part is not None:
            _frame(canvas, stage, part, box)
            canvas.rect(*box)
            times = box[2] / (part[2] - part[0]) / POINTS_PER_MM
            _paragraph(canvas, f"Closer, {times:.1f} : 1", y - high - 12, width, 9.0)
    canvas.showPage()


def _frame(canvas, stage: Stage, part: Rectangle, box: Rectangle) -> None:  # type: ignore[no-untyped-def]
    """A part of the sheet (mm) in a frame of the page (left, bottom, width, height, points)."""
    left, bottom, width, height = box
    scale = min(width / (part[2] - part[0]), height / (part[3] - part[1]))
    canvas.saveState()
    path = canvas.beginPath()
    path.rect(*box)
    canvas.clipPath(path, stroke=0, fill=0)
    left, bottom = left - scale * part[0], bottom - scale * part[1]
    _draw_stage(canvas, stage, scale, left, bottom)
    _draw_spots(canvas, stage.spots, scale, (left, bottom), box)
    canvas.restoreState()


def _draw_stage(canvas, stage: Stage, scale: float, left: float, bottom: float) -> None:  # type: ignore[no-untyped-def]
    from reportlab.lib.colors import HexColor

    canvas.setLineCap(1)
    for age in (PAST, OLD, RUB, THIN, DASHED, KEPT, OBJECT, NEW):
        colour, wide = LOOKS[age]
        canvas.setStrokeColor(HexColor(colour))
        canvas.setLineWidth(max(wide * POINTS_PER_MM, 0.4))
        canvas.setDash([3, 2] if age in (RUB, DASHED) else [])
        for stroke in stage.strokes:
            if stroke.age == age:
                path = canvas.beginPath()
                if stroke.ends is not None:
                    start, end = stroke.ends * scale + (left, bottom)
                    path.moveTo(*start.tolist())
                    path.lineTo(*end.tolist())
                elif stroke.cubics is not None:
                    cubics = stroke.cubics * scale + (left, bottom)
                    path.moveTo(*cubics[0, 0].tolist())
                    for cubic in cubics[:, 1:].reshape(-1, 6).tolist():
                        path.curveTo(*cubic)
                canvas.drawPath(path)
    canvas.setDash([])


def _draw_spots(  # type: ignore[no-untyped-def]
    canvas, spots: tuple[Spot, ...], scale: float, origin: tuple[float, float], box: Rectangle
) -> None:
    """The points inside a frame with their letters, new ones first served."""
    from reportlab.lib.colors import HexColor
    from reportlab.pdfbase.pdfmetrics import stringWidth

    low, high = np.array(box[:2]), np.array(box[:2]) + box[2:]
    drawn = []
    for spot in sorted(spots, key=lambda spot: not spot.new):
        place = np.array(spot.place) * scale + origin
        if (place >= low).all() and (place <= high).all():
            drawn.append((spot, place, "B612-Bold" if spot.new else "B612"))
    if not drawn:
        return
    sizes = [(stringWidth(spot.label, face, LABEL_PT), LABEL_PT) for spot, _unused, face in drawn]
    places = np.array([place for _spot, place, _face in drawn])
    centres = label_centres(places, np.array(sizes), 6.0, np.concatenate([low, high]))
    for (spot, place, face), (x, y) in zip(drawn, centres.tolist(), strict=True):
        canvas.setFillColor(HexColor(LOOKS[NEW if spot.new else OLD][0]))
        canvas.circle(*place.tolist(), 1.8 if spot.new else 1.0, stroke=0, fill=1)
        canvas.setFont(face, LABEL_PT)
        canvas.drawCentredString(x, y - 0.36 * LABEL_PT, spot.label)


def _true_size(canvas, document: Document, stages: Stages) -> None:  # type: ignore[no-untyped-def]
    """The sheet at 1 : 1 with every mark and light line, and a cross at each measured place."""
    sheet = document.sheet
    canvas.setPageSize((sheet.width_mm * POINTS_PER_MM, sheet.height_mm * POINTS_PER_MM))
    before = next((i for i, step in enumerate(stages.steps) if step.rubs), len(stages.steps)) - 1
    strokes = tuple(
        replace(s, age=KEPT if s.name in stages.kept else OLD)
        for s in stages.after(before, paper_of(document)).strokes
    )
    _draw_stage(canvas, Stage(strokes, ()), POINTS_PER_MM, 0.0, 0.0)
    size = (sheet.width_mm * POINTS_PER_MM, sheet.height_mm * POINTS_PER_MM)
    canvas.setStrokeColorRGB(*CROSS_INK)
    canvas.setLineWidth(0.3)
    arm = CROSS_MM * POINTS_PER_MM
    for move in stages.order.moves():
        if isinstance(move, Mark):
            x, y = (mm * POINTS_PER_MM for mm in move.place)
            if 0 <= x <= size[0] and 0 <= y <= size[1]:
                canvas.line(x - arm, y, x + arm, y)
                canvas.line(x, y - arm, x, y + arm)
    canvas.showPage()
