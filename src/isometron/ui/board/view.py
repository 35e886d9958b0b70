"""How the sheet lies on the board: fitted, zoomed, panned; and the flags of what lies beyond."""

from collections.abc import Callable

from PyQt6.QtCore import QPointF
from PyQt6.QtGui import QResizeEvent, QWheelEvent
from PyQt6.QtWidgets import QWidget

from isometron.document.document import Document
from isometron.render.view import View
from isometron.ui.board.fit import Foot, fitted, round_places, zoomed
from isometron.ui.board.flags import Flag, flags_of
from isometron.ui.board.handles.handle import Handle
from isometron.ui.parts.wishes import Wishes


class BoardView(QWidget):
    """A widget that looks at a sheet and its handles."""

    def __init__(self, wishes: Wishes) -> None:
        super().__init__()
        self.wishes = wishes
        self._document: Document | None = None
        self._handles: list[Handle] = []
        self.flags: list[Flag] = []
        self._view = View(1.0, 0.0, 0.0)
        self._fitted: Callable[[], None] | None = self.fit_sheet

    @property
    def view(self) -> View:
        """How the sheet lies on the board now."""
        return self._view

    @property
    def handles(self) -> list[Handle]:
        """The handles of the document shown."""
        return self._handles

    def fit_sheet(self) -> None:
        """The whole sheet in view."""
        self._fitted = self.fit_sheet
        if self._document is not None:
            turn = self._view.turn_deg
            self._look(fitted(self._document.sheet.paper, self.size(), self.foot(), turn))

    def fit_board(self) -> None:
        """The sheet and every vanishing point in view."""
        self._fitted = self.fit_board
        if self._document is not None:
            places = [h.place for h in self._handles if h.flies_flag or h.key in BEYOND]
            round_all = round_places(self._document.sheet, places)
            self._look(fitted(round_all, self.size(), turn_deg=self._view.turn_deg))

    def foot(self) -> Foot:
        """What the switches at the foot take."""
        return Foot()

    def zoom(self, factor: float, about: QPointF | None = None) -> None:
        """Closer or further, about a place of the board (its middle if none is given)."""
        self._fitted = None
        self._look(zoomed(self._view, factor, about or QPointF(self.rect().center())))

    def turn(self, by_deg: float | None) -> None:
        """The sheet turned under the hand, counter-clockwise, about the middle of the board; None
        lays it straight again."""
        by = -self._view.turn_deg if by_deg is None else by_deg
        middle = QPointF(self.rect().center())
        self._view = self._view.turned(by, middle)
        if self._fitted is not None:
            self._fitted()
        else:
            self._look(self._view)

    def _look(self, view: View) -> None:
        self._view = view
        if self._document is not None:
            self.flags = flags_of(self._document, self._handles, view, self.size(), self.foot())
        self.update()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        if self._fitted is not None:
            self._fitted()

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        if event is not None:
            self.zoom(1.0015 ** event.angleDelta().y(), event.position())


BEYOND = ("centre of vision",)
"""Handles that belong to the whole board besides those that fly a flag."""
