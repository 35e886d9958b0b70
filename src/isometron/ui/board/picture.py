"""The board as it is shown: desk, sheet, and what lies over it. Nothing here takes hold of it."""

from dataclasses import dataclass, field
from typing import TYPE_CHECKING

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import (
    QPainter,
    QPaintEvent,
)

from isometron.document.document import Document
from isometron.drawing.picks.pick import Pick
from isometron.drawing.scene import Scene, bare
from isometron.framework.dimensions import Dimension
from isometron.perspective.eye import Array
from isometron.perspective.places import Place
from isometron.render.painter import painting_on
from isometron.render.view import View
from isometron.ui.board.desk import Surroundings
from isometron.ui.board.flags import flags_of
from isometron.ui.board.handles.handle import Handle
from isometron.ui.board.handles.table import handles_of, load
from isometron.ui.board.marks import Marks
from isometron.ui.board.old_view import OldView
from isometron.ui.board.other_views import OtherViews
from isometron.ui.board.shading_layer import ShadingLayer
from isometron.ui.board.standing_layer import StandingLayer
from isometron.ui.board.tools import MEASURE, Tool
from isometron.ui.board.touch import Touch
from isometron.ui.board.view import BoardView
from isometron.ui.parts.theme import font
from isometron.ui.parts.wishes import Wishes
from isometron.words import _

if TYPE_CHECKING:
    from isometron.construction.stages import Stage

NOTHING = np.empty((0, 4))

load()


@dataclass
class Grip:
    """A press on the board that may become a drag."""

    at: QPointF
    handle: Handle | None = None
    pick: Pick | None = None
    pans: View | None = None
    moved: bool = False
    tool: Tool | None = None
    path: list[Place] = field(default_factory=list)
    """Places of the sheet the pointer has passed with a tool."""
    copies: bool = False
    """Whether what is dragged are copies, the old ones staying."""
    typed: str = ""
    """How many there will be in all, as it has been typed while copies are dragged."""


class BoardPicture(BoardView):
    """The board: shows a document, what is picked and what is being done."""

    def __init__(self, wishes: Wishes) -> None:
        super().__init__(wishes)
        self.setObjectName("board")
        self.setAccessibleName(_("Board"))
        self.setAccessibleDescription(
            _(
                "The sheet on its desk. Page Down and Page Up choose a handle, "
                "the arrow keys move it."
            )
        )
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.setMinimumSize(320, 240)
        self._standing, self._bare = StandingLayer(), StandingLayer()
        self._old_view = OldView()
        self.shading = ShadingLayer(self, wishes, self.update)
        self._others = OtherViews()
        self._scene: Scene | None = None
        self._grip: Grip | None = None
        self._hot: str | None = None
        self._keyed: str | None = None
        self._pick: Pick | None = None
        self._spot: Place | None = None
        self._tool: Tool | None = None
        self._stroke = 0
        self._aim: Pick | None = None
        self._measured: tuple[Pick, ...] = ()
        self._preview: Dimension | None = None
        self._space = False
        self._unpaintable: Scene | None = None
        self._pointer = QPointF()
        self._ghost: Array = NOTHING
        self._stage: Stage | None = None
        self._stopped_at = ""

    # What is shown

    def show_document(
        self, document: Document, scene: Scene, pick: Pick | None, ghost: Array = NOTHING
    ) -> None:
        """Show another document with what is picked; `ghost` are lines of what has just been
        changed."""
        self._ghost, self._pick = ghost, pick
        resized = self._document is None or self._document.sheet != document.sheet
        self._document, self._scene = document, scene
        self._handles = handles_of(document, scene)
        self.shading.show_document(document, scene)
        self._others.show_document(document)
        if resized and self._fitted is not None:
            self._fitted()
        self.flags = flags_of(document, self._handles, self._view, self.size(), self.foot())
        self.update()

    def show_stage(self, stage: "Stage | None") -> None:
        """Show a stage of the build order instead of the finished lines; None shows those again."""
        if stage is not self._stage:
            self._stage = stage
            self.update()

    def show_spot(self, place: Place | None) -> None:
        """Circle a place that a remark speaks of, bringing it into view."""
        self._spot = place
        if place is not None and not self.rect().contains(self._view.point(place).toPoint()):
            self.fit_board()
        self.update()

    def show_measured(self, measured: "tuple[Pick, ...]", mark: Dimension | None) -> None:
        """Show what is being measured between, and the mark that could be pinned."""
        self._measured, self._preview = measured, mark
        self.update()

    # Painting

    def paintEvent(self, event: QPaintEvent | None) -> None:
        if self._document is None or self._scene is None:
            return
        if self._unpaintable is self._scene:
            return
        try:
            with painting_on(self) as painter:
                self.paint(painter, self._document, self._scene)
        except Exception:
            self._unpaintable = self._scene  # said once, not at every frame
            raise

    def paint(self, painter: QPainter, document: Document, scene: Scene) -> None:
        """Everything on the board."""
        around = Surroundings(
            self._view,
            QSize(self.width(), self.height()),
            self.devicePixelRatioF(),
            document.sheet,
            document.choices.unit,
            document.choices.cone_deg,
            self.wishes.room,
        )
        if self._stage is not None:
            self._paint_stage(painter, self._stage, around, document, scene)
            return
        painter.drawPixmap(0, 0, self._standing.picture(around, document, scene))
        self.shading.paint(painter, around, scene)
        self._others.veil(painter, around, document)
        self.shading.paint_others(painter, around, scene)
        self._others.paint(painter, around)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        marks = Marks(around.room, self._view, self.size(), document)
        self._old_view.paint(painter, marks.on, document)
        pick = self._pick if self._pick and self._pick.is_there(scene) else None
        measuring = self._tool is MEASURE
        picked = [*self._measured, self._aim] if measuring or self._measured else [pick]
        for one in picked:
            if one is not None and one.is_there(scene):
                marks.pick(painter, scene, one)
        marks.layers(painter, scene)
        marks.framework(painter, scene, self._ghost)
        marks.meant(painter)
        if self._preview is not None:
            marks.measure(painter, self._preview)
        self._paint_handles(painter, marks)
        if self._spot is not None:
            marks.spot(painter, self._spot)
        if self._tool is not None:
            marks.armed(painter)
        if self._grip and self._grip.moved and self._grip.handle:
            words = self._grip.handle.number(document, scene)
            marks.tag(painter, self._pointer, words, self._stopped_at)
        elif self._grip and self._grip.moved and self._grip.tool and self._stopped_at:
            marks.tag(painter, self._pointer, self._stopped_at)
        elif pick is not None and not self._measured and not measuring:
            marks.pick_tag(painter, scene, pick)

    def _paint_handles(self, painter: QPainter, marks: Marks) -> None:
        flagged = {flag.handle.key for flag in self.flags}
        hot = self._grip.handle.key if self._grip and self._grip.handle else self._hot
        hot = hot or (self._keyed if self.hasFocus() else None)
        for handle in reversed(self._handles):
            if handle.key not in flagged:
                handle.paint(painter, marks.on, hot=handle.key == hot)
        for flag in self.flags:
            flag.paint(painter, marks.on, hot=flag.handle.key == hot)

    def _paint_stage(
        self,
        painter: QPainter,
        stage: "Stage",
        around: Surroundings,
        document: Document,
        scene: Scene,
    ) -> None:
        """A stage of the build order on the bare sheet."""
        from isometron.render.stage import paint_on_desk

        painter.drawPixmap(0, 0, self._bare.picture(around, document, bare(scene)))
        painter.setFont(font(bold=True))
        paint_on_desk(painter, self._view, stage, around.paper, QRectF(self.rect()))

    def _touch(self) -> Touch:
        """What lies where on the board just now."""
        assert self._document is not None and self._scene is not None
        return Touch(self._document, self._scene, self._view, self._handles, self.flags)
