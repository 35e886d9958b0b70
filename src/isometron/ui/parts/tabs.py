"""Index tabs down the left edge, in the order of the work, cut slanting like a card index; their
words run upward, as on the tab of an upright card."""

from collections.abc import Sequence

from PyQt6.QtCore import QPointF, QRect, QRectF, QSize, Qt
from PyQt6.QtGui import QColor, QFontMetrics, QPainter, QPaintEvent, QPen, QPolygonF
from PyQt6.QtWidgets import QSizePolicy, QTabBar

from isometron.ui.parts.shell import TAB_WIDTH
from isometron.ui.parts.theme import font
from isometron.ui.parts.wishes import Wishes
from isometron.words import _

GAP, SLANT, BACK = 4, 5, 4
"""Room between tabs, how far their ends slant, and how far closed ones stand back, px."""

ROOM, LEAST_ROOM = 16, 3
"""Room before and behind the words, px: usually, and where there is little height."""


SHORTEST, LONGEST = 24, 10_000
"""Words are cut to no less, px, and at first to no more."""


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
        self._bold = QFontMetrics(font(bold=True))
        self._room, self._longest = ROOM, LONGEST
        self._wide = max(TAB_WIDTH, self._bold.height() + 2 * BACK + 4)
        for number, (name, tip) in enumerate(tabs):
            self.addTab(name)
            self.setTabToolTip(number, tip)
            self.setTabWhatsThis(number, tip)
        self.setFixedWidth(self._wide)
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Preferred)

    def tabSizeHint(self, index: int) -> QSize:
        words = self._bold.horizontalAdvance(self.tabText(index))
        return QSize(self._wide, min(words, self._longest) + 2 * self._room + GAP)

    def fit_into(self, high: int) -> None:
        """Leave as much room round the words as a height has for all tabs; where it has not even
        the least, the longest words are cut."""
        words = [self._bold.horizontalAdvance(self.tabText(i)) for i in range(self.count())]
        free = high - self.count() * GAP
        spare = (free - sum(words)) // (2 * max(self.count(), 1))
        room = max(min(spare, ROOM), LEAST_ROOM)
        longest = max(words, default=0)
        free -= 2 * room * len(words)
        while longest > SHORTEST and sum(min(w, longest) for w in words) > free:
            longest -= 1
        if (room, longest) != (self._room, self._longest):
            self._room, self._longest = room, longest
            for number in range(self.count()):
                self.setTabText(number, self.tabText(number))  # lays the tabs out anew

    def minimumSizeHint(self) -> QSize:
        return QSize(self._wide, 0)

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
            painter.setPen(QPen(QColor(room.focus), 2.0))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawPolygon(shape)
        painter.setPen(QColor(room.ink if open_now else room.tab_ink))
        painter.setFont(font(bold=open_now))
        painter.save()
        painter.translate(left + (right - left) / 2, at.center().y())
        painter.rotate(-90)
        along = QRectF(-at.height() / 2, -(right - left) / 2, at.height(), right - left)
        words = self.tabText(number)
        if self._bold.horizontalAdvance(words) > self._longest:
            words = self._bold.elidedText(words, Qt.TextElideMode.ElideRight, self._longest)
        painter.drawText(along, Qt.AlignmentFlag.AlignCenter, words)
        painter.restore()
