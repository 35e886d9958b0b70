"""Values and shadows on the board: worked out beside the window, laid over the standing picture."""

from collections.abc import Callable
from functools import partial
from typing import NamedTuple

from PyQt6.QtCore import QObject, QPointF, QRectF
from PyQt6.QtGui import QColor, QPainter, QPixmap

from isometron.document.document import Document
from isometron.drawing.dimension_marks import Label
from isometron.drawing.layers import OBJECT, Layer
from isometron.drawing.page import Known
from isometron.drawing.pencils import Pencil
from isometron.drawing.scene import Scene
from isometron.perspective.errors import IsometronError
from isometron.perspective.eye import Array
from isometron.ui.board.desk import Surroundings, blank
from isometron.ui.board.layer_painting import SCREEN_PX_PER_MM
from isometron.ui.parts.beside import Beside
from isometron.ui.parts.wishes import Wishes

Wanted = tuple[Document, Scene]


class Shown(NamedTuple):
    """What is laid over the standing picture of a scene: washes, strokes by their pencil (lines
    (n, 4) and arcs (m, 3, 3)) and numbers; the same of the other views of the page; why there are
    none."""

    scene: Scene
    washes: list  # type: ignore[type-arg]
    strokes: list[tuple[Pencil, Array, Array]]
    numbers: list[Label]
    others: "tuple[list, list] | None" = None  # type: ignore[type-arg]
    refused: str = ""
    told: str = ""
    """What was done to the light, for the person to know."""


class ShadingLayer(QObject):
    """The washes of the document shown. Those of another eye or framework are not shown while the
    new ones are worked out; those of another light stay until then."""

    def __init__(self, parent: QObject, wishes: Wishes, changed: Callable[[], None]) -> None:
        super().__init__(parent)
        self._wishes = wishes
        self._changed = changed
        known: Known = {}  # what stays of the other views is not worked out anew
        work = partial(_worked_out, known=known)
        self._beside: Beside[Wanted, Shown] = Beside(self, "shading", work, self._take)
        self._wanted: tuple[object, ...] | None = None
        self._next: Wanted | None = None
        self._shown: Shown | None = None
        self._picture: QPixmap | None = None
        self._others: QPixmap | None = None
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
        wanted = scene, document.light, document.shading, document.finish, document.views
        if wanted == self._wanted:
            return
        self._wanted = wanted
        finish = document.finish
        if document.light is None and not (finish.weighted or finish.mirror):
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
        self._shown, self._picture, self._others = shown, None, None
        if self._next is not None:
            following, self._next = self._next, None
            self._beside.give(following, soon_s=0.0)
        if shown.refused:
            self._wishes.refuse(shown.refused)
        elif shown.told:
            self._wishes.tell(shown.told)
        self._changed()

    def paint(self, painter: QPainter, around: Surroundings, scene: Scene) -> None:
        """The washes of a scene, cut to the paper."""
        if self._shown is None or self._shown.scene is not scene:
            return
        self._bring_up(around, self._shown)
        if self._picture is not None:
            painter.drawPixmap(0, 0, self._picture)

    def paint_others(self, painter: QPainter, around: Surroundings, scene: Scene) -> None:
        """What belongs to the other views of the page."""
        if self._shown is None or self._shown.scene is not scene or self._shown.others is None:
            return
        self._bring_up(around, self._shown)
        if self._others is not None:
            painter.drawPixmap(0, 0, self._others)

    def _bring_up(self, around: Surroundings, shown: Shown) -> None:
        if self._picture is not None and around == self._around:
            return
        self._around = around
        self._picture = self._painted(around, shown)
        if shown.others is not None:
            washes, strokes = shown.others
            own = shown._replace(washes=washes, strokes=strokes, numbers=[])
            self._others = self._painted(around, own)

    def _painted(self, around: Surroundings, shown: Shown) -> QPixmap:
        from isometron.drawing.layers import STEPS
        from isometron.render.letters import paint_labels
        from isometron.render.painter import paint_arcs, paint_lines, painting_on, pen_of
        from isometron.render.shading import paint_washes

        picture = blank(around)
        picture.fill(QColor(0, 0, 0, 0))
        corner = around.view.point((0.0, around.sheet.height_mm))
        paper = QRectF(
            QPointF(corner), QPointF(around.view.point((around.sheet.width_mm, 0.0)))
        ).normalized()
        with painting_on(picture) as painter:
            painter.setClipRect(paper)
            paint_washes(painter, around.view, shown.washes)
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            for pencil, lines, arcs in shown.strokes:
                pen = pen_of(pencil, SCREEN_PX_PER_MM)
                paint_lines(painter, around.view, lines, pen)
                paint_arcs(painter, around.view, arcs, pen)
            paint_labels(painter, around.view, shown.numbers, QColor(STEPS.pencil.colour))
        return picture


def _worked_out(wanted: Wanted, known: Known) -> Shown:
    from isometron.drawing.finish.weights import weighted_lines
    from isometron.drawing.layers import HATCHING, MIRROR_IMAGE, Given, layer_in
    from isometron.drawing.shading.areas import light_in_words
    from isometron.drawing.shading.shown import numbers_of, washes_of

    document, scene = wanted
    finish = document.finish
    given = Given(document, scene, scene.pictures, document.sheet.paper)
    try:
        strokes = [
            (layer_in(layer, finish).pencil, *layer.draws(given))
            for layer in (HATCHING, MIRROR_IMAGE)
        ]
        if finish.weighted:
            strokes += [(one.pencil, one.lines, one.arcs) for one in weighted_lines(scene, finish)]
        washes, numbers = washes_of(document, scene), numbers_of(document, scene)
        told = light_in_words(document, scene)
        return Shown(scene, washes, strokes, numbers, _of_others(document, known), told=told)
    except IsometronError as error:
        return Shown(scene, [], [], [], refused=str(error))


def _finishing(layer: Layer, document: Document) -> bool:
    """Whether a layer is drawn only once all has been worked out beside the window."""
    return not layer.on_board or (layer is OBJECT and document.finish.weighted)


def _of_others(document: Document, known: Known) -> "tuple[list, list] | None":  # type: ignore[type-arg]
    """Washes and strokes of the other views that only a finished sheet has."""
    if len(document.views) == 1:
        return None
    from isometron.drawing.page import cut_to, others_shown, washes_in, with_others

    washes, strokes = [], []
    for shown in others_shown(document, known):
        if document.light is not None:
            washes += washes_in(shown)
        for one in cut_to(shown, lambda layer: with_others(layer) and _finishing(layer, document)):
            strokes.append((one.layer.pencil, one.lines, one.arcs))
    return washes, strokes
