"""The log as a ruled journal page, read from top to bottom: a line for every day that was worked,
answers as pencil ticks about a line, small pictures of the sheets, notes in the margin."""

from collections.abc import Callable

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import (
    QColor,
    QFontMetrics,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPixmap,
)
from PyQt6.QtWidgets import QScrollArea, QWidget

from isometron.drawing.pencils import GRAPHITE, OXBLOOD, PALE_GRAPHITE
from isometron.practice.pages import MOST_HANDS, WITHIN, Day
from isometron.render.painter import painting_on
from isometron.render.picture import PAPER
from isometron.ui.parts.theme import GRID, INK, MARKER, SOFT, font, scaled
from isometron.ui.parts.touching import arrow_of
from isometron.ui.parts.wishes import Wishes
from isometron.words import _, many

PAD = 14.0
MONTHS = (
    _("January"), _("February"), _("March"), _("April"), _("May"), _("June"), _("July"),
    _("August"), _("September"), _("October"), _("November"), _("December"),
)  # fmt: skip
LINE, PICTURED = 54, 88
"""How high the line of a day is, px: with nothing to show but words and ticks, and with pictures.
"""

DATE, MARGIN = 0.14, 0.27
"""Shares of the page: where the dates stand, and the margin for notes at the right."""

TICK_PX, MOST_PICTURES, KEPT_PICTURES = 12.0, 4, 200


LEGEND = _(
    "Ticks: how far each answer lay off, up for too much; dotted: what a practised hand keeps to; "
    "×: a wrong choice."
)


class JournalView(QWidget):
    """The page itself. Emits `chose` with a day (ISO), "" when none is chosen any more. `picture`
    gives the small picture (PNG) of an entry by its number, b"" for none."""

    chose = pyqtSignal(str)

    def __init__(self, wishes: Wishes) -> None:
        super().__init__()
        self.wishes = wishes
        self.setAccessibleName(_("Journal of work"))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.days: list[Day] = []
        self.chosen: int | None = None
        self.picture: Callable[[int], bytes] = lambda number: b""
        self._pictures: dict[int, QPixmap] = {}
        self._tops: list[float] = [0.0]

    def show_days(self, days: list[Day]) -> None:
        """Show other days, the oldest at the top."""
        self.days, self.chosen = days, None
        tops = [PAD]
        for day in days:
            tops.append(tops[-1] + scaled(PICTURED if day.pictured else LINE))
        self._tops = tops
        self.setMinimumHeight(round(tops[-1] + PAD))
        self._describe()
        self.updateGeometry()
        self.update()

    def sizeHint(self) -> QSize:
        """As wide as there is room for, as high as its days."""
        return QSize(scaled(400), round(self._tops[-1] + PAD))

    def _describe(self) -> None:
        told = many("{n} day of work.", "{n} days of work.", len(self.days)).format(
            n=len(self.days)
        )
        if self.chosen is not None:
            day = self.days[self.chosen]
            words = [f"{day.date.isoformat()}: {day.words}", *day.notes]
            told = f"{'. '.join(words)}. {told}"
        self.setAccessibleDescription(told)

    # Where things lie

    def line(self, number: int) -> QRectF:
        """Where the line of a day lies."""
        top = self._tops[number]
        return QRectF(PAD, top, self.width() - 2 * PAD, self._tops[number + 1] - top)

    @property
    def _margin(self) -> float:
        """Where the margin for notes begins."""
        return PAD + (1.0 - MARGIN) * (self.width() - 2 * PAD)

    @property
    def _date_wide(self) -> float:
        """How wide dates are: their share of the page, or what the longest short one needs."""
        wide = QFontMetrics(font(bold=True)).horizontalAdvance
        longest = max(wide(f"30 {_short(name)}") for name in MONTHS)
        return max(DATE * (self.width() - 2 * PAD), longest + 12.0)

    def _day_at(self, at: QPointF) -> int | None:
        return next((n for n in range(len(self.days)) if self.line(n).contains(at)), None)

    # Painting

    def paintEvent(self, event: QPaintEvent | None) -> None:
        seen = QRectF(self.rect() if event is None else event.rect())
        with painting_on(self) as painter:
            painter.fillRect(self.rect(), QColor(PAPER))
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.setPen(QPen(QColor(OXBLOOD), 0.8))
            for off in (0.0, 2.5):
                x = self._margin + off
                painter.drawLine(QPointF(x, seen.top()), QPointF(x, seen.bottom()))
            painter.setFont(font())
            if not self.days:
                painter.setPen(QColor(SOFT))
                words = _("Nothing yet: a line is added for every day that is worked.")
                box = QRectF(self.rect()).adjusted(PAD, PAD, -PAD, -PAD)
                flags = Qt.AlignmentFlag.AlignTop | Qt.TextFlag.TextWordWrap
                painter.drawText(box, int(flags), words)
            for number, day in enumerate(self.days):
                if self.line(number).intersects(seen):
                    self._day(painter, number, day)

    def _day(self, painter: QPainter, number: int, day: Day) -> None:
        line = self.line(number)
        if number == self.chosen:
            painter.fillRect(line, QColor(MARKER))
        painter.setPen(QPen(QColor(GRID), 1.0))
        painter.drawLine(line.bottomLeft(), line.bottomRight())
        date = QRectF(line.left() + 4, line.top(), self._date_wide, line.height())
        self._date(painter, number, day, date)
        work = QRectF(date.right(), line.top(), self._margin - date.right() - 8, line.height())
        high = painter.fontMetrics().height() + 3.0
        told = work.adjusted(0.0, 0.0, 0.0, high - work.height())
        painter.setPen(QColor(INK))
        words = painter.fontMetrics().elidedText(
            day.words, Qt.TextElideMode.ElideRight, int(told.width())
        )
        painter.drawText(told, int(Qt.AlignmentFlag.AlignVCenter), words)
        left = work.adjusted(0.0, high, 0.0, -2.0)
        self._ticks(painter, day, self._laid_pictures(painter, day, left))
        beside = QRectF(line.topLeft(), line.bottomRight())
        beside.setLeft(self._margin + 10)
        self._notes(painter, day, beside.adjusted(0.0, 1.0, -2.0, -2.0))

    def _date(self, painter: QPainter, number: int, day: Day, box: QRectF) -> None:
        """The day, and its year where that is another than above."""
        told = f"{day.date.day} {MONTHS[day.date.month - 1]}"
        new = number == 0 or self.days[number - 1].date.year != day.date.year
        painter.setFont(font(bold=True))
        painter.setPen(QColor(INK))
        high = painter.fontMetrics().height() + 3.0
        first = box.adjusted(0.0, 0.0, -6.0, high - box.height())
        short = painter.fontMetrics().horizontalAdvance(told) > first.width()
        told = f"{day.date.day} {_short(MONTHS[day.date.month - 1])}" if short else told
        painter.drawText(first, int(Qt.AlignmentFlag.AlignVCenter), told)
        painter.setFont(font())
        if new:
            painter.setPen(QColor(SOFT))
            second = first.translated(0.0, high - 2.0)
            painter.drawText(second, int(Qt.AlignmentFlag.AlignVCenter), str(day.date.year))

    def _laid_pictures(self, painter: QPainter, day: Day, box: QRectF) -> QRectF:
        """The small pictures of a day at the right; gives the room that is left beside them."""
        right = box.right()
        for entry in day.pictured[-MOST_PICTURES:][::-1]:
            picture = self._pixmap(entry)
            if picture.isNull() or picture.height() == 0:
                continue
            high = box.height() - 4
            wide = high * picture.width() / picture.height()
            if right - wide < box.left() + 0.3 * box.width():
                break
            frame = QRectF(right - wide, box.top() + 1, wide, high)
            painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
            painter.drawPixmap(frame, picture, QRectF(picture.rect()))
            painter.setPen(QPen(QColor(PALE_GRAPHITE), 1.0))
            painter.drawRect(frame)
            right -= wide + 6
        return QRectF(box.left(), box.top(), right - box.left(), box.height())

    def _pixmap(self, entry: int) -> QPixmap:
        """The small picture of an entry, as many as KEPT_PICTURES kept."""
        if entry not in self._pictures:
            while len(self._pictures) >= KEPT_PICTURES:
                self._pictures.pop(next(iter(self._pictures)))
            made, content = QPixmap(), self.picture(entry)
            if content:
                made.loadFromData(content)
            self._pictures[entry] = made
        return self._pictures[entry]

    def _ticks(self, painter: QPainter, day: Day, box: QRectF) -> None:
        """Answers about a line: up for too much, down for too little, as long as they lie off for a
        practised hand; a cross for a wrong choice, a dot for a right one."""
        if not day.ticks:
            return
        middle, reach = box.center().y(), min(box.height() / 2 - 1, scaled(16)) / MOST_HANDS
        step = min(TICK_PX, (box.width() - 8) / len(day.ticks))
        end = box.left() + step * (len(day.ticks) + 0.5)
        painter.setPen(QPen(QColor(PALE_GRAPHITE), 1.0))
        painter.drawLine(QPointF(box.left(), middle), QPointF(end, middle))
        dotted = QPen(QColor(PALE_GRAPHITE), 0.8)
        dotted.setDashPattern([1.0, 3.0])
        painter.setPen(dotted)
        for sign in (WITHIN, -WITHIN):
            y = middle - sign * reach
            painter.drawLine(QPointF(box.left(), y), QPointF(end, y))
        for number, (hands, chosen) in enumerate(day.ticks):
            x = box.left() + step * (number + 0.5)
            beyond = abs(hands) > WITHIN
            painter.setPen(QPen(QColor(OXBLOOD if beyond else GRAPHITE), 1.5))
            if not chosen:
                y = middle - min(max(hands, -MOST_HANDS), MOST_HANDS) * reach
                painter.drawLine(QPointF(x, middle), QPointF(x, y - (1.0 if hands == 0 else 0.0)))
            elif beyond:
                for way in (1.0, -1.0):
                    painter.drawLine(QPointF(x - 2.5, middle - 2.5 * way),
                                     QPointF(x + 2.5, middle + 2.5 * way))  # fmt: skip
            else:
                painter.drawPoint(QPointF(x, middle - 2.0))

    def _notes(self, painter: QPainter, day: Day, box: QRectF) -> None:
        """Notes in the margin, as many words as there is room for."""
        painter.setFont(font())
        painter.setPen(QColor(OXBLOOD))
        flags = int(Qt.AlignmentFlag.AlignTop | Qt.TextFlag.TextWordWrap)
        told = " · ".join(day.notes)
        metrics = painter.fontMetrics()
        while told and metrics.boundingRect(box.toRect(), flags, told).height() > box.height():
            told = told[: max(len(told) - 8, 0)].rstrip("… ") + ("…" if len(told) > 8 else "")
        painter.drawText(box, flags, told)

    # Under the hand

    def _choose(self, number: int | None) -> None:
        self.chosen = None if number == self.chosen else number
        self._describe()
        self.update()
        day = None if self.chosen is None else self.days[self.chosen]
        self.chose.emit("" if day is None else day.date.isoformat())

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is not None:
            self._choose(self._day_at(event.position()))

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        arrow = None if event is None else arrow_of(event)
        if arrow is None or not self.days or not arrow[1]:
            super().keyPressEvent(event)
            return
        now = len(self.days) - 1 if self.chosen is None else self.chosen - arrow[1]
        if 0 <= now < len(self.days) and now != self.chosen:
            self._choose(now)
            page = self.parentWidget()
            page = None if page is None else page.parentWidget()
            if isinstance(page, QScrollArea):
                middle = self.line(now).center().toPoint()
                page.ensureVisible(0, middle.y(), 0, scaled(PICTURED))


def _short(month: str) -> str:
    return month[:3]


def turned_to_end(pane: QScrollArea) -> None:
    """Show the last days of a journal."""
    bar = pane.verticalScrollBar()
    if bar is not None:
        bar.setMaximum(max(pane.widget().minimumHeight() - pane.height(), bar.maximum()))  # type: ignore[union-attr]
        bar.setValue(bar.maximum())
