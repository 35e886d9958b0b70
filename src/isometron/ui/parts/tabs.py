"""Index tabs down the left edge, in the order of the work, cut slanting like a card index."""

from collections.abc import Sequence

from PyQt6.QtCore import QPointF, QRect, QSize, Qt
from PyQt6.QtGui import QColor, QFontMetrics, QPainter, QPaintEvent, QPen, QPolygonF
from PyQt6.QtWidgets import QTabBar

from isometron.ui.parts.shell import TAB_WIDTH
from isometron.ui.parts.theme import font
from isometron.ui.parts.wishes import Wishes
from isometron.words import _

HEIGHT, GAP = 40, 4
INDENT, SLANT, BACK = 9, 5, 6
"""Room before the words, how far the ends slant, and how far closed tabs stand back, px."""


class TabRail(QTabBar):
    """The rail the tabs stand on; its current tab is the open one."""

    def __init__(self, wishes: Wishes, tabs: Sequence[tuple[str, str]]) -> None:
        super().__init__()
        self.wishes = wishes
        self.setShape(QTabBar.Shape.RoundedWest)
        self.setExpanding(False)
        self.setDrawBase(False)
        self.setUsesScrollButtons(False)
        self.setElideMode(Qt.TextElideMode.ElideNone)
        self.setAccessibleName(_("Index tabs"))
        bold = QFontMetrics(font(bold=True))
        widest = max((bold.horizontalAdvance(name) for name, _tip in tabs), default=0)
        self._wide = max(TAB_WIDTH, widest + INDENT + SLANT)
        for number, (name, tip) in enumerate(tabs):
            self.addTab(name)
            self.setTabToolTip(number, tip)
            self.setTabWhatsThis(number, tip)
        self.setFixedWidth(self._wide)

    def tabSizeHint(self, index: int) -> QSize:
        return QSize(self._wide, HEIGHT + GAP)

    def minimumTabSizeHint(self, index: int) -> QSize:
        return self.tabSizeHint(index)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        for number in range(self.count()):
            self._paint(painter, number, self.tabRect(number).adjusted(0, GAP, 0, 0))
        painter.end()

    def _paint(self, painter: QPainter, number: int, at: QRect) -> None:
        open_now, room = number == self.currentIndex(), self.wishes.room
        left = at.left() + (0 if open_now else BACK)
        right, top, bottom = at.right() + 1, at.top(), at.bottom() + 1
        corners = ((left, top + SLANT), (right, top), (right, bottom), (left, bottom - SLANT))
        shape = QPolygonF([QPointF(x, y) for x, y in corners])
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(room.card if open_now else room.tab))
        painter.drawPolygon(shape)
        if open_now and self.hasFocus():
            painter.setPen(QPen(QColor(room.lamp), 2.0))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawPolygon(shape)
        painter.setPen(QColor(room.ink if open_now else room.tab_ink))
        painter.setFont(font(bold=open_now))
        inner = at.adjusted((0 if open_now else BACK) + INDENT, 0, 0, 0)
        painter.drawText(inner, Qt.AlignmentFlag.AlignVCenter, self.tabText(number))
