"""What folds away: bars that fold cards, and cards that scroll when there is no room for all."""

from PyQt6 import sip
from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, QTimer
from PyQt6.QtGui import (
    QColor,
    QPainter,
    QPaintEvent,
    QPalette,
    QPen,
    QPolygonF,
    QResizeEvent,
)
from PyQt6.QtWidgets import QAbstractButton, QFrame, QScrollArea, QSizePolicy, QWidget

from isometron.ui.parts.card import EditCard
from isometron.ui.parts.wishes import Wishes

BAR = 10
"""Width of a fold bar, px."""

AROUND = 12
"""Room round what is brought into view, px."""

HALF = 4.0
"""Half the side of its triangle, px."""


class FoldBar(QAbstractButton):
    """A strip of felt at the border of cards: a press folds them away or brings them back. Its
    triangle points to where the cards go, or come from."""

    def __init__(self, wishes: Wishes, name: str, tip: str, side: Qt.Edge) -> None:
        super().__init__()
        self.wishes, self._side = wishes, side
        self.setCheckable(True)
        self.setAccessibleName(name)
        self.setToolTip(tip)
        self.setStatusTip(tip)
        if side in (Qt.Edge.LeftEdge, Qt.Edge.RightEdge):
            self.setFixedWidth(BAR)
            self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Expanding)
        else:
            self.setFixedHeight(BAR)
            self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.toggled.connect(lambda _on: self.update())

    def turn(self, side: Qt.Edge) -> None:
        """What it folds goes to another side."""
        self._side = side
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter, room = QPainter(self), self.wishes.room
        lit = self.underMouse() or self.hasFocus()
        if lit:
            painter.fillRect(self.rect(), QColor(room.felt_line))
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        middle = QRectF(self.rect()).center()
        away = {
            Qt.Edge.LeftEdge: QPointF(-1, 0),
            Qt.Edge.RightEdge: QPointF(1, 0),
            Qt.Edge.BottomEdge: QPointF(0, 1),
        }[self._side]
        if self.isChecked():
            away = -away
        across = QPointF(-away.y(), away.x())
        tip = middle + away * HALF * 0.8
        back = middle - away * HALF * 0.8
        painter.setPen(QPen(QColor(room.felt_soft), 1.0))
        painter.setBrush(QColor(room.lamp if lit else room.felt_soft))
        painter.drawPolygon(QPolygonF([tip, back + across * HALF, back - across * HALF]))
        if self.hasFocus():
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(QColor(room.felt_focus), 2.0))
            painter.drawRect(self.rect().adjusted(1, 1, -1, -1))
        painter.end()


class Scroller(QScrollArea):
    """Holds a card or a column of cards, so wide; scrolls upright where they would not fit."""

    def __init__(self, held: QWidget, wide: int) -> None:
        super().__init__()
        self._wide = wide
        self.setMaximumWidth(wide)
        self.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Expanding)
        self.setWidget(held)
        self.setWidgetResizable(True)
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.setProperty("onfelt", True)
        self.setBackgroundRole(QPalette.ColorRole.NoRole)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        held = self.widget()
        if isinstance(held, EditCard):
            held.fit_into(self.height())

    def sizeHint(self) -> QSize:
        return QSize(self._wide, super().sizeHint().height())

    def minimumSizeHint(self) -> QSize:
        return QSize(0, 0)


def bring_into_view(widget: QWidget) -> None:
    """Scroll the card that holds a widget until it is seen, once everything has its place."""
    holder: QWidget | None = widget
    while holder is not None and not isinstance(holder, Scroller):
        holder = holder.parentWidget()
    if holder is None:
        return
    scroller = holder

    def scroll() -> None:
        if not (sip.isdeleted(widget) or sip.isdeleted(scroller)):
            scroller.ensureWidgetVisible(widget, 0, AROUND)

    QTimer.singleShot(0, scroll)
