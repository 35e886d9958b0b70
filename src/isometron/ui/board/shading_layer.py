"""Values and shadows on the board: worked out beside the window, laid over the standing picture."""

from collections.abc import Callable
from typing import NamedTuple

import numpy as np
from PyQt6.QtCore import QObject, QPointF, QRectF
from PyQt6.QtGui import QColor, QPainter, QPixmap

from isometron.document.document import Document
from isometron.document.light import Light, Shading
from isometron.drawing.dimension_marks import Label
from isometron.drawing.scene import Scene
from isometron.perspective.errors import IsometronError
from isometron.perspective.eye import Array
from isometron.ui.board.desk import Surroundings, blank
from isometron.ui.parts.beside import Beside
from isometron.ui.parts.wishes import Wishes

Wanted = tuple[Document, Scene]


class Shown(NamedTuple):
    """What is laid over the standing picture of a scene: of which light and ways, washes, hatch
    strokes (n, 4) and numbers; why there are none."""

    scene: Scene
    light: Light | None
    shading: Shading
    washes: list  # type: ignore[type-arg]
    hatching: Array
    numbers: list[Label]
    refused: str = ""


class ShadingLayer(QObject):
    """The washes of the document shown. Those of another eye or framework are not shown while the
    new ones are worked out; those of another light stay until then."""

    def __init__(self, parent: QObject, wishes: Wishes, changed: Callable[[], None]) -> None:
        super().__init__(parent)
        self._wishes = wishes
        self._changed = changed
        self._beside: Beside[Wanted, Shown] = Beside(self, "shading", _worked_out, self._take)
        self._wanted: tuple[Scene, Light | None, Shading] | None = None
        self._next: Wanted | None = None
        self._shown: Shown | None = None
        self._picture: QPixmap | None = None
        self._around: Surroundings | None = None

    @property
    def working(self) -> bool:
        """Whether washes are being worked out."""
        return self._beside.working

    def finish(self) -> None:
        """Wait for them."""
        self._beside.finish()

    def show_document(self, document: Document, scene: Scene) -> None:
        """Another document: its washes are worked out, if it has a light."""
        wanted = scene, document.light, document.shading
        if wanted == self._wanted:
            return
        self._wanted = wanted
        if document.light is None:
            self._beside.drop()
            self._next = self._shown = self._picture = None
        elif not self._wishes.dragging:
            self._next = None
            self._beside.give((document, scene))
        elif self._beside.working:
            self._next = document, scene  # the hand is not kept waiting
        else:
            self._beside.give((document, scene), soon_s=0.0)

    def _take(self, _given: Wanted, shown: Shown) -> None:
        self._shown, self._picture = shown, None
        if self._next is not None:
            following, self._next = self._next, None
            self._beside.give(following, soon_s=0.0)
        if shown.refused:
            self._wishes.refuse(shown.refused)
        self._changed()

    def paint(self, painter: QPainter, around: Surroundings, scene: Scene) -> None:
        """The washes of a scene, cut to the paper."""
        if self._shown is None or self._shown.scene is not scene:
            return
        if self._picture is None or around != self._around:
            self._around, self._picture = around, self._painted(around, self._shown)
        painter.drawPixmap(0, 0, self._picture)

    def _painted(self, around: Surroundings, shown: Shown) -> QPixmap:
        from isometron.drawing.layers import HATCHING, STEPS
        from isometron.render.letters import paint_labels
        from isometron.render.painter import paint_lines, painting_on, pen_of
        from isometron.render.shading import paint_washes

        picture = blank(around)
        picture.fill(QColor(0, 0, 0, 0))
        corner = around.view.point((0.0, around.sheet.height_mm))
        scale = around.view.scale
        paper = QRectF(
            QPointF(corner), QPointF(around.view.point((around.sheet.width_mm, 0.0)))
        ).normalized()
        with painting_on(picture) as painter:
            painter.setClipRect(paper)
            paint_washes(painter, around.view, shown.washes)
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            paint_lines(painter, around.view, shown.hatching, pen_of(HATCHING.pencil, scale))
            paint_labels(painter, around.view, shown.numbers, QColor(STEPS.pencil.colour))
        return picture


def _worked_out(wanted: Wanted) -> Shown:
    from isometron.drawing.shading.shown import hatching_of, numbers_of, washes_of

    document, scene = wanted
    own = scene, document.light, document.shading
    try:
        return Shown(
            *own,
            washes_of(document, scene),
            hatching_of(document, scene),
            numbers_of(document, scene),
        )
    except IsometronError as error:
        return Shown(*own, [], np.empty((0, 4)), [], str(error))
