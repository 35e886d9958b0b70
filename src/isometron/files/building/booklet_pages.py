"""Pages of a booklet: blocks of a picture and its words that flow from page to page."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import numpy as np

from isometron.construction.labels import label_centres
from isometron.construction.stages import Rectangle, Spot, Stage, Stages
from isometron.construction.strokes import (
    DASHED,
    KEPT,
    LAID,
    NEW,
    OBJECT,
    OLD,
    PAST,
    RUB,
    THIN,
)
from isometron.files.building.order_words import LOOKS
from isometron.files.pdf import POINTS_PER_MM
from isometron.words import _

MARGIN_MM, GAP_MM = 15.0, 5.0
LABEL_PT, WORDS_PT, TITLE_PT = 8.0, 10.0, 13.0
LEADING = 1.4

PICTURE_SHARE, MOST_HIGH_MM = 0.5, 80.0
"""A picture takes this share of the page's width, and no more than this height."""

AROUND = 0.04
"""Shown round the paper in a picture, as a share of its width."""

CLEARLY_CLOSER = 1.6
"""A closer look is given when it shows things so many times larger."""

GROUP = 16
"""So many earlier chapters are drawn as one."""

Closer = Callable[[float], Rectangle | None]
"""Gives the part of the sheet to show closer, for a width over height."""


@dataclass(frozen=True)
class Block:
    """A step, or a chapter, on a page: what stands over it, its words in paragraphs, the sheet (on
    top of what so many chapters before have left), and a closer look at what is drawn now."""

    title: str
    words: list[str]
    stage: Stage
    closer: Closer | None = None
    behind: int = 0


class Past:
    """What earlier chapters have left on the sheet: drawn into the file once for each chapter and
    once for every GROUP of them, so that a page costs no more late in a long order than early."""

    def __init__(self, canvas: Any, stages: Stages, around: Rectangle, scale: float) -> None:
        self._canvas, self._stages, self._around, self._scale = canvas, stages, around, scale
        self._made: set[str] = set()

    def draw(self, chapters: int, left: float, bottom: float) -> None:
        """What so many chapters have left, the sheet's corner at a place of the page."""
        whole = chapters // GROUP
        names = [self._group(number) for number in range(whole)]
        names += [self._chapter(number) for number in range(whole * GROUP, chapters)]
        self._canvas.saveState()
        self._canvas.translate(left, bottom)
        for name in names:
            self._canvas.doForm(name)
        self._canvas.restoreState()

    def _chapter(self, number: int) -> str:
        name = f"chapter-{number}"
        if name not in self._made:
            stage = Stage(tuple(self._stages.behind(number, self._around)), ())
            self._form(name, lambda: _draw_stage(self._canvas, stage, self._scale, 0.0, 0.0))
        return name

    def _group(self, number: int) -> str:
        name = f"chapters-{number}"
        if name not in self._made:
            parts = [self._chapter(number * GROUP + i) for i in range(GROUP)]
            self._form(name, lambda: [self._canvas.doForm(part) for part in parts])
        return name

    def _form(self, name: str, draw: Callable[[], object]) -> None:
        low, high = (np.array(self._around) * self._scale).reshape(2, 2).tolist()
        self._canvas.beginForm(name, *low, *high)
        draw()
        self._canvas.endForm()
        self._made.add(name)


class Flow:
    """Sets blocks one under the other, and begins a page where one does not fit. Nothing is cut
    off: words too long for a page go on overleaf."""

    def __init__(
        self, canvas: Any, size: tuple[float, float], stages: Stages, around: Rectangle
    ) -> None:
        from isometron.files.type_family import register

        register()
        sheet = stages.sheet
        self._stages = stages
        self._canvas, (self._width, self._height), self._sheet = canvas, size, sheet
        self._margin = MARGIN_MM * POINTS_PER_MM
        self._y = self._height - self._margin
        self._title = ""
        spare = AROUND * sheet.width_mm
        self._part = (-spare, -spare, sheet.width_mm + spare, sheet.height_mm + spare)
        shape = (self._part[2] - self._part[0]) / (self._part[3] - self._part[1])
        wide = PICTURE_SHARE * (self._width - 2 * self._margin)
        self._high = min(wide / shape, MOST_HIGH_MM * POINTS_PER_MM)
        self._wide = self._high * shape
        scale = self._high / (self._part[3] - self._part[1])
        self._past = Past(canvas, stages, around, scale)

    def end(self) -> None:
        """Close the last page."""
        self._canvas.showPage()

    def over(self) -> None:
        """Begin another page."""
        self._canvas.showPage()
        self._y = self._height - self._margin
        self._title = ""

    def gap(self) -> None:
        """A little room."""
        self._y -= GAP_MM * POINTS_PER_MM

    def words(self, text: str, size: float = WORDS_PT, *, bold: bool = False) -> None:
        """A paragraph right across, going on overleaf where the page ends."""
        face = "B612-Bold" if bold else "B612"
        for line in self._lines(text, self._width - 2 * self._margin, size, face):
            if self._y - size < self._margin:
                self.over()
            self._y -= LEADING * size
            self._set(line, self._margin, self._y, size, face)

    def picture(self, stage: Stage, high: float) -> None:
        """The sheet right across, no higher than so many points."""
        shape = self._wide / self._high
        wide = min(self._width - 2 * self._margin, high * shape)
        self._look(stage, self._part, (self._margin, self._y - wide / shape, wide, wide / shape))
        self._y -= wide / shape

    def block(self, block: Block) -> None:
        """A picture with its words beside it, or under it when a closer look is beside it or they
        are long."""
        gap = GAP_MM * POINTS_PER_MM
        left = self._margin + self._wide + gap
        beside = self._width - self._margin - left
        part = self._closer(block, beside)
        lines = [self._lines(text, beside, WORDS_PT) for text in block.words]
        high = sum(LEADING * len(one) + 0.4 for one in lines) * WORDS_PT
        under = part is not None or high > self._high
        whole = self._high
        if under:
            across = self._width - 2 * self._margin
            told = [len(self._lines(text, across, WORDS_PT)) for text in block.words]
            whole += sum(LEADING * n + 0.4 for n in told) * WORDS_PT
        heading = 0.0 if block.title == self._title else 2.0 * TITLE_PT
        if self._y - min(whole, 0.6 * self._height) - heading < self._margin:
            self.over()
        if block.title != self._title:
            self._title = block.title
            self.words(block.title, TITLE_PT, bold=True)
            self._y -= 0.5 * TITLE_PT
        top = self._y
        box = (self._margin, top - self._high, self._wide, self._high)
        self._look(block.stage, self._part, box, block.behind)
        if part is not None:
            shown = block.stage
            if part[3] - part[1] > self._part[3] - self._part[1]:
                shown = Stage((*shown.strokes, *self._stages.strips(shown)), shown.spots)
            self._look(shown, part, (left, top - self._high, beside, self._high))
        if not under:
            for one in lines:
                for line in one:
                    self._y -= LEADING * WORDS_PT
                    self._set(line, left, self._y, WORDS_PT)
                self._y -= 0.4 * WORDS_PT
        self._y = top - self._high
        if under:
            for text in block.words:
                self.words(text)
                self._y -= 0.4 * WORDS_PT
        self._y -= gap

    def _closer(self, block: Block, wide: float) -> Rectangle | None:
        part = None if block.closer is None else block.closer(wide / self._high)
        if part is None:
            return None
        times = (self._part[3] - self._part[1]) / (part[3] - part[1])
        return part if times >= CLEARLY_CLOSER or times < 1 else None

    def _look(self, stage: Stage, part: Rectangle, box: Rectangle, behind: int = 0) -> None:
        """A part of the sheet in a box of the page, with the edges of the paper, over what earlier
        chapters have left (in the whole sheet only)."""
        canvas, sheet = self._canvas, self._sheet
        canvas.saveState()
        _clip(canvas, box)
        if behind:
            scale = box[3] / (part[3] - part[1])
            self._past.draw(behind, box[0] - scale * part[0], box[1] - scale * part[1])
        canvas.restoreState()
        frame(canvas, stage, part, box)
        canvas.saveState()
        _clip(canvas, box)
        scale = min(box[2] / (part[2] - part[0]), box[3] / (part[3] - part[1]))
        corner = box[0] - scale * part[0], box[1] - scale * part[1]
        paper_edge(canvas, (*corner, scale * sheet.width_mm, scale * sheet.height_mm))
        canvas.restoreState()
        if part is not self._part:
            paper_edge(canvas, box)
            closer = part[3] - part[1] < self._part[3] - self._part[1]
            self._set(
                _("closer") if closer else _("beside the sheet"), box[0] + 4, box[1] + 4, LABEL_PT
            )

    def _lines(self, text: str, wide: float, size: float, face: str = "B612") -> list[str]:
        from reportlab.lib.utils import simpleSplit

        found: list[str] = simpleSplit(text, face, size, wide)
        return found

    def _set(self, line: str, x: float, y: float, size: float, face: str = "B612") -> None:
        self._canvas.setFillColorRGB(0.12, 0.14, 0.15)
        self._canvas.setFont(face, size)
        self._canvas.drawString(x, y, line)


def frame(canvas: Any, stage: Stage, part: Rectangle, box: Rectangle) -> None:
    """A part of the sheet (mm) in a frame of the page (left, bottom, width, height, points)."""
    left, bottom, width, height = box
    scale = min(width / (part[2] - part[0]), height / (part[3] - part[1]))
    canvas.saveState()
    _clip(canvas, box)
    left, bottom = left - scale * part[0], bottom - scale * part[1]
    _draw_stage(canvas, stage, scale, left, bottom)
    _draw_spots(canvas, stage.spots, scale, (left, bottom), box)
    canvas.restoreState()


def paper_edge(canvas: Any, box: Rectangle) -> None:
    """The edge of the paper, or of a part of it."""
    canvas.setStrokeColorRGB(0.65, 0.6, 0.5)
    canvas.setLineWidth(0.5)
    canvas.rect(*box)


def _clip(canvas: Any, box: Rectangle) -> None:
    path = canvas.beginPath()
    path.rect(*box)
    canvas.clipPath(path, stroke=0, fill=0)


def _draw_stage(canvas: Any, stage: Stage, scale: float, left: float, bottom: float) -> None:
    """The lines of a stage, so many points to a millimetre, the sheet's corner at a place."""
    from reportlab.lib.colors import HexColor

    canvas.setLineCap(1)
    for age in (PAST, OLD, RUB, THIN, DASHED, KEPT, OBJECT, LAID, NEW):
        colour, wide = LOOKS[age]
        canvas.setStrokeColor(HexColor(colour))
        canvas.setLineWidth(max(wide * POINTS_PER_MM, 0.4))
        canvas.setDash([3, 2] if age in (RUB, DASHED, LAID) else [])
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


def _draw_spots(
    canvas: Any, spots: tuple[Spot, ...], scale: float, origin: tuple[float, float], box: Rectangle
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
