"""The days of half a year as a ruled page: weeks as columns, pencil strokes for what was done."""

from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from isometron.drawing.pencils import GRAPHITE, OXBLOOD, TEAL
from isometron.practice.pages import Day
from isometron.render.painter import painting_on
from isometron.render.picture import PAPER
from isometron.ui.parts.theme import GRID, INK, SOFT, font, scaled
from isometron.ui.parts.touching import arrow_of
from isometron.ui.parts.wishes import Wishes
from isometron.words import _, many

PAD = 14.0
WEEKDAYS = (_("Mo"), _("Tu"), _("We"), _("Th"), _("Fr"), _("Sa"), _("Su"))
MONTHS = (
    _("January"), _("February"), _("March"), _("April"), _("May"), _("June"), _("July"),
    _("August"), _("September"), _("October"), _("November"), _("December"),
)  # fmt: skip
LEAST_WIDE = 22
MOST_STROKES, EXERCISES_A_STROKE = 5, 5


class CalendarView(QWidget):
    """Emits `chose` with a day (ISO), "" when none is chosen any more. A stroke stands for five
    exercises, a dot for work on sheets and pictures, a short level line for a note."""

    chose = pyqtSignal(str)

    def __init__(self, wishes: Wishes) -> None:
        super().__init__()
        self.wishes = wishes
        self.setAccessibleName(_("Calendar of work"))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMinimumHeight(scaled(170))
        self.setMouseTracking(True)
        self.days: list[Day] = []
        self.chosen: int | None = None

    def show_days(self, days: list[Day]) -> None:
        """Show other days, from a Monday on."""
        self.days, self.chosen = days, None
        self._describe()
        self.update()

    def _describe(self) -> None:
        worked = sum(bool(day.words) for day in self.days)
        told = many(
            "{n} day of work in {weeks} weeks.", "{n} days of work in {weeks} weeks.", worked
        ).format(n=worked, weeks=-(-len(self.days) // 7))
        if self.chosen is not None:
            day = self.days[self.chosen]
            told = f"{day.date.isoformat()}: {day.words or _('nothing')}. {told}"
        self.setAccessibleDescription(told)

    # Where days lie

    @property
    def _grid(self) -> QRectF:
        """Where the days lie: below the months, right of the weekdays, above what is told."""
        left, top, below = scaled(30) + PAD, scaled(26) + PAD, scaled(26) + PAD
        return QRectF(self.rect()).adjusted(left, top, -PAD, -below)

    @property
    def first(self) -> int:
        """The first day shown: as many of the last weeks as there is room for."""
        weeks = -(-len(self.days) // 7)
        return 7 * max(weeks - max(int(self._grid.width() // scaled(LEAST_WIDE)), 1), 0)

    def cell(self, number: int) -> QRectF:
        """Where a day lies; those before the first one shown lie left of the page."""
        grid, weeks = self._grid, max(-(-(len(self.days) - self.first) // 7), 1)
        wide = min(grid.width() / weeks, scaled(46))
        high = min(grid.height() / 7, scaled(30))
        week, weekday = divmod(number - self.first, 7)
        return QRectF(grid.left() + week * wide, grid.top() + weekday * high, wide, high)

    def _day_at(self, at: QPointF) -> int | None:
        shown = range(self.first, len(self.days))
        return next((n for n in shown if self.cell(n).contains(at)), None)

    # Painting

    def paintEvent(self, event: QPaintEvent | None) -> None:
        with painting_on(self) as painter:
            painter.fillRect(self.rect(), QColor(PAPER))
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            self._ruled(painter)
            for number in range(self.first, len(self.days)):
                self._day(painter, self.cell(number), self.days[number])
            if self.chosen is not None and self.chosen >= self.first:
                painter.setPen(QPen(QColor(INK), 1.6))
                painter.drawRect(self.cell(self.chosen))
            self._told(painter)

    def _ruled(self, painter: QPainter) -> None:
        """Rules, weekdays and months."""
        if not self.days:
            return
        painter.setFont(font())
        last = self.cell(7 * ((len(self.days) - 1) // 7))
        for weekday, name in enumerate(WEEKDAYS):
            cell = self.cell(self.first + weekday)
            painter.setPen(QPen(QColor(GRID), 1.0))
            painter.drawLine(cell.bottomLeft(), QPointF(last.right(), cell.bottom()))
            painter.setPen(QColor(SOFT))
            box = QRectF(PAD, cell.top(), scaled(28), cell.height())
            painter.drawText(box, Qt.AlignmentFlag.AlignVCenter, name)
        metrics, clear = painter.fontMetrics(), -1.0
        for number in range(self.first, len(self.days), 7):
            date, cell = self.days[number].date, self.cell(number)
            name = MONTHS[date.month - 1]
            new = date.day <= 7 or (number == self.first and date.day < 20)
            if not new or cell.left() < clear:
                continue
            wide = metrics.horizontalAdvance(name)
            room = QRectF(cell.left(), PAD, wide + 4.0, scaled(24))
            if room.right() <= self.rect().right():
                painter.drawText(room, Qt.AlignmentFlag.AlignVCenter, name)
                clear = room.right() + 2.0

    def _day(self, painter: QPainter, cell: QRectF, day: Day) -> None:
        drills = day.counts.get("drill", 0)
        strokes = min(-(-drills // EXERCISES_A_STROKE), MOST_STROKES)
        painter.setPen(QPen(QColor(GRAPHITE), 1.6))
        for n in range(strokes):
            x = cell.left() + 3.0 + n * min(cell.width() / 8, 4.5)
            painter.drawLine(QPointF(x, cell.top() + 4), QPointF(x + 1.5, cell.bottom() - 4))
        if any(day.counts.get(kind) for kind in ("sheet", "reading", "remark")):
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(QColor(TEAL))
            painter.drawEllipse(QPointF(cell.right() - 7, cell.top() + 8), 2.6, 2.6)
            painter.setBrush(Qt.BrushStyle.NoBrush)
        if day.counts.get("note"):
            painter.setPen(QPen(QColor(OXBLOOD), 1.6))
            y = cell.bottom() - 6
            painter.drawLine(QPointF(cell.right() - 11, y), QPointF(cell.right() - 3, y))

    def _told(self, painter: QPainter) -> None:
        """What the chosen day holds, or what the marks mean."""
        box = QRectF(self.rect()).adjusted(PAD, PAD, -PAD, -PAD)
        painter.setPen(QColor(SOFT))
        words = _("stroke: 5 exercises · dot: a sheet · dash: a note")
        if self.chosen is not None:
            day = self.days[self.chosen]
            painter.setPen(QColor(INK))
            words = f"{day.date.isoformat()}: {day.words or _('nothing')}"
        flags = Qt.AlignmentFlag.AlignBottom | Qt.AlignmentFlag.AlignLeft
        wide = int(box.width())
        told = painter.fontMetrics().elidedText(words, Qt.TextElideMode.ElideRight, wide)
        painter.drawText(box, int(flags), told)

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
        if arrow is None or not self.days:
            super().keyPressEvent(event)
            return
        across, up = arrow
        now = len(self.days) - 1 if self.chosen is None else self.chosen + 7 * across - up
        if 0 <= now < len(self.days) and now != self.chosen:
            self._choose(now)
