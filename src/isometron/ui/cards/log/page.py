"""The Log board: the journal, a curve of errors, or an exercise again above, rows below."""

from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QPainter, QPaintEvent, QPen, QPixmap
from PyQt6.QtWidgets import (
    QAbstractItemView,
    QHeaderView,
    QLineEdit,
    QStackedWidget,
    QTableWidget,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)

from isometron.drawing.pencils import OXBLOOD, PALE_GRAPHITE, TEAL
from isometron.practice.asks import Answer
from isometron.practice.drill import Exercise, counted_in
from isometron.practice.pages import Curve, Day, Line
from isometron.render.painter import painting_on
from isometron.render.picture import PAPER
from isometron.ui.cards.log.journal import LEGEND, JournalView, turned_to_end
from isometron.ui.cards.practice.sheet import PracticeSheet
from isometron.ui.parts.card import soft_label
from isometron.ui.parts.plain import Label, scrolled
from isometron.ui.parts.theme import GRID, INK, MARKER, SOFT, font, scaled
from isometron.ui.parts.wishes import Wishes
from isometron.words import _

HEADS = (_("day"), _("hour"), _("what"), _("in words"), _("seconds"))
PAD = 12.0
RULED = (
    f"QTableWidget {{ background: {PAPER}; gridline-color: {GRID};"
    f" selection-background-color: {MARKER}; selection-color: {INK}; }}"
    f"QHeaderView::section {{ background: {PAPER}; color: {SOFT}; border: 0; padding: 3px; }}"
)
"""A ruled journal page."""


class CurveView(QWidget):
    """The errors of one measure in their order: ticks round a line, their mean and spread."""

    def __init__(self, wishes: Wishes) -> None:
        super().__init__()
        self.wishes = wishes
        self.curve: Curve | None = None
        self.setAccessibleName(_("Errors in their order"))
        self.setMinimumHeight(scaled(150))

    def show_curve(self, curve: Curve | None) -> None:
        """Show another measure."""
        self.curve = curve
        self.setAccessibleDescription("" if curve is None else f"{curve.name}. {curve.words}")
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        with painting_on(self) as painter:
            painter.fillRect(self.rect(), QColor(PAPER))
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            box = QRectF(self.rect()).adjusted(PAD, PAD, -PAD, -PAD)
            painter.setFont(font(bold=True))
            painter.setPen(QColor(INK))
            if self.curve is None:
                painter.drawText(box, Qt.AlignmentFlag.AlignCenter, _("No answers yet."))
                return
            painter.drawText(box, Qt.AlignmentFlag.AlignTop, self.curve.name)
            painter.setFont(font())
            painter.setPen(QColor(SOFT))
            painter.drawText(box, Qt.AlignmentFlag.AlignBottom, self.curve.words)
            self._curve(painter, box.adjusted(scaled(40), scaled(22), 0, -scaled(22)), self.curve)

    def _curve(self, painter: QPainter, box: QRectF, curve: Curve) -> None:
        high = max(float(abs(curve.errors).max()), float(curve.hands.max()), 1e-9) * 1.1
        count = len(curve.errors)

        def at(number: float, value: float) -> QPointF:
            across = box.left() + box.width() * (number + 0.5) / count
            return QPointF(across, box.center().y() - value / high * box.height() / 2)

        painter.setPen(QPen(QColor(PALE_GRAPHITE), 1.0))
        painter.drawLine(at(-0.5, 0.0), at(count - 0.5, 0.0))
        painter.drawText(
            QPointF(self.rect().left() + PAD, at(0, high * 0.9).y() + 8),
            f"{high:.0f}{counted_in(curve.unit)}",
        )
        dotted = QPen(QColor(SOFT), 1.0)
        dotted.setDashPattern([2.0, 3.0])
        painter.setPen(dotted)
        hand = float(curve.hands.mean())
        for value in (hand, -hand):
            painter.drawLine(at(-0.5, value), at(count - 0.5, value))
        painter.setPen(QPen(QColor(INK), 1.6))
        for number, error in enumerate(curve.errors.tolist()):
            painter.drawLine(at(number, 0.0), at(number, error))
        painter.setPen(QPen(QColor(OXBLOOD), 1.6))
        for number in range(1, count):
            painter.drawLine(
                at(number - 1, float(curve.means[number - 1])),
                at(number, float(curve.means[number])),
            )
        painter.setPen(QPen(QColor(TEAL), 1.2))
        for sign in (1.0, -1.0):
            edges = (curve.means + sign * curve.spreads).tolist()
            for number in range(1, count):
                painter.drawLine(at(number - 1, edges[number - 1]), at(number, edges[number]))


class LogPage(QWidget):
    """The curve (or an exercise, shown again), a field to look for words, and the rows."""

    chose = pyqtSignal(int)
    """Another row, by its number in the lines shown."""

    opened = pyqtSignal(int)
    """A row was opened: by a double click or Return."""

    def __init__(self, wishes: Wishes) -> None:
        super().__init__()
        self.setAccessibleName(_("Log"))
        self.curve = CurveView(wishes)
        self.looking = QLineEdit()
        self.looking.setPlaceholderText(_("find in the log"))
        self.looking.setAccessibleName(_("find in the log"))
        self.setFocusProxy(self.looking)
        self.looking.textChanged.connect(self._filter)
        self._lay_rows()
        column = QVBoxLayout(self)
        column.setContentsMargins(8, 14, 8, 8)
        self.sheet = PracticeSheet(wishes)
        self.above = QStackedWidget()
        self.journal = JournalView(wishes)
        self.journal_pane = scrolled(self.journal)
        self.journal_pane.setFocusProxy(self.journal)
        self.legend = soft_label(LEGEND)
        self.legend.setWordWrap(True)
        self.legend.setStyleSheet(f"background: {PAPER}; color: {SOFT}; padding: 4px 14px;")
        self.wrongs = Label("")
        self.wrongs.setWordWrap(True)
        self.wrongs.setMargin(round(PAD))
        self.wrongs.setAlignment(Qt.AlignmentFlag.AlignTop)
        self.wrongs.setStyleSheet(f"background: {PAPER}; color: {INK};")
        self.wrong_pane = scrolled(self.wrongs, _("What I get wrong"))
        self.picture = Label("")
        self.picture.setAlignment(Qt.AlignmentFlag.AlignCenter)
        for shown in (self.curve, self.picture, self.wrong_pane):
            shown.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.picture.setAccessibleName(_("Small picture of the sheet"))
        for widget in (self.journal_pane, self.wrong_pane, self.curve, self.sheet, self.picture):
            self.above.addWidget(widget)
        column.setSpacing(6)
        column.addWidget(self.legend)
        column.addWidget(self.above, 5)
        column.addWidget(self.looking)
        column.addWidget(self.rows, 3)

    def _lay_rows(self) -> None:
        """The rows, sorted by any of their heads."""
        self.rows = QTableWidget(0, len(HEADS))
        self.rows.setHorizontalHeaderLabels(list(HEADS))
        self.rows.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
        self.rows.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
        self.rows.setSortingEnabled(True)
        self.rows.itemSelectionChanged.connect(self._choose)
        self.rows.itemActivated.connect(lambda item: self.opened.emit(_row_of(item)))
        self.rows.setAccessibleName(_("Log"))
        self.rows.setStyleSheet(RULED)
        across = self.rows.horizontalHeader()
        down = self.rows.verticalHeader()
        if across is not None and down is not None:
            down.setVisible(False)
            across.setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
            across.setSectionResizeMode(3, QHeaderView.ResizeMode.Stretch)

    def show_lines(self, lines: list[Line]) -> None:
        """Show the rows of the log."""
        self.rows.setSortingEnabled(False)
        self.rows.setRowCount(len(lines))
        for row, line in enumerate(lines):
            for column, told in enumerate(
                (*line[:4], f"{line.seconds:.0f}" if line.seconds else "")
            ):
                item = QTableWidgetItem()
                shown = line.seconds if column == 4 and line.seconds else told
                item.setData(Qt.ItemDataRole.DisplayRole, shown)
                item.setData(Qt.ItemDataRole.UserRole, row)
                self.rows.setItem(row, column, item)
        self.rows.setSortingEnabled(True)
        self._filter(self.looking.text())

    def _choose(self) -> None:
        chosen = self.rows.selectedItems()
        if chosen:
            self.chose.emit(_row_of(chosen[0]))

    def show_exercise(self, exercise: Exercise, answer: Answer) -> None:
        """An exercise again, with the answer given then."""
        self.sheet.show_again(exercise, answer)
        self._front(self.sheet)

    def show_days(self, days: list[Day]) -> None:
        """The days of work."""
        self.journal.show_days(days)
        turned_to_end(self.journal_pane)

    def show_journal(self) -> None:
        """The days of work, in front."""
        self._front(self.journal_pane)
        turned_to_end(self.journal_pane)

    def show_wrongs(self, wrongs: list[str]) -> None:
        """What a person gets wrong, in sentences."""
        told = wrongs or [_("Nothing has been judged often enough to say anything.")]
        self.wrongs.setText("\n".join(told))
        self._front(self.wrong_pane)

    def show_picture(self, content: bytes, words: str) -> None:
        """The small picture of a sheet, or words where there is none."""
        self.picture.setText(words)
        picture = QPixmap()
        if content and picture.loadFromData(content):
            self.picture.setPixmap(picture)
        self.picture.setAccessibleDescription(words)
        self._front(self.picture)

    @property
    def chart(self) -> QWidget | None:
        """The chart in front, None where there is none."""
        front = self.above.currentWidget()
        if front is self.journal_pane:
            return self.journal
        return front if front is self.curve else None

    def show_curve(self, curve: Curve | None) -> None:
        """The errors of a measure."""
        self.curve.show_curve(curve)
        self._front(self.curve)

    def _front(self, widget: QWidget) -> None:
        """Bring what is looked at to the front; the marks of the journal are told beside it."""
        self.above.setCurrentWidget(widget)
        self.legend.setVisible(widget is self.journal_pane)

    def _filter(self, words: str) -> None:
        """Show the rows that hold the words looked for."""
        wanted = words.casefold()
        for row in range(self.rows.rowCount()):
            cells = [item.text() for n in range(4) if (item := self.rows.item(row, n)) is not None]
            self.rows.setRowHidden(row, wanted not in " ".join(cells).casefold())


def _row_of(item: QTableWidgetItem) -> int:
    """The number of the line that an item belongs to."""
    return int(item.data(Qt.ItemDataRole.UserRole))


def drawn_svg(chart: QWidget) -> str:
    """A chart as an SVG drawing, as large as it is shown."""
    from PyQt6.QtCore import QBuffer
    from PyQt6.QtSvg import QSvgGenerator

    content, made = QBuffer(), QSvgGenerator()
    made.setOutputDevice(content)
    made.setSize(chart.size())
    made.setViewBox(chart.rect())
    made.setTitle(chart.accessibleName())
    made.setDescription(chart.accessibleDescription())
    content.open(QBuffer.OpenModeFlag.WriteOnly)
    chart.render(made)
    return bytes(content.data().data()).decode()
