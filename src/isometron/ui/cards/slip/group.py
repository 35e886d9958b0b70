"""One matter of a slip: a line that folds, and below it values, pads and deeds."""

from collections.abc import Callable, Sequence

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QColor, QPaintEvent, QPen, QPolygonF
from PyQt6.QtWidgets import QAbstractButton, QGridLayout, QSizePolicy, QVBoxLayout, QWidget

from isometron.deeds.deed import Deed, Matter
from isometron.render.painter import painting_on
from isometron.ui.cards.slip.tiles import Tiles
from isometron.ui.cards.slip.value_row import ValueRow
from isometron.ui.parts.card import Shown
from isometron.ui.parts.page import Page
from isometron.ui.parts.theme import font, scaled
from isometron.ui.parts.wishes import Wishes

HIGH = 26


class FoldLine(QAbstractButton):
    """The line that folds a matter away or brings it back."""

    def __init__(self, wishes: Wishes, words: str) -> None:
        super().__init__()
        self.wishes = wishes
        self.setText(words)
        self.setAccessibleName(words)
        self.setCheckable(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def sizeHint(self) -> QSize:
        return QSize(scaled(120), scaled(HIGH))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        room, face = self.wishes.room, QRectF(self.rect())
        with painting_on(self) as painter:
            if self.underMouse():
                painter.fillRect(face, QColor(room.hover))
            painter.setPen(QPen(QColor(room.field_line), 1.0))
            painter.drawLine(face.topLeft(), face.topRight())
            painter.setPen(QColor(room.ink))
            painter.setFont(font(bold=self.isChecked()))
            words = face.adjusted(16, 0, 0, 0)
            painter.drawText(words, Qt.AlignmentFlag.AlignVCenter, self.text())
            at = QPointF(6.0, face.center().y())
            way = (
                [QPointF(-4, -2), QPointF(4, -2), QPointF(0, 4)]
                if self.isChecked()
                else [QPointF(-2, -4), QPointF(-2, 4), QPointF(4, 0)]
            )
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(QColor(room.soft_ink))
            painter.drawPolygon(QPolygonF([at + step for step in way]))
            if self.hasFocus():
                painter.setBrush(Qt.BrushStyle.NoBrush)
                painter.setPen(QPen(QColor(room.focus), 2.0))
                painter.drawRect(face.adjusted(1, 1, -1, -1))


class Group(QWidget):
    """A matter and what can be done about it. Made when it is first unfolded."""

    def __init__(
        self,
        wishes: Wishes,
        matter: Matter,
        deeds: Sequence[Deed],
        pad: type[Page] | None,
        opened: Callable[[Tiles], object],
    ) -> None:
        super().__init__()
        self.wishes, self.matter = wishes, matter
        self._deeds, self._pad, self._opened = deeds, pad, opened
        self._shown: Shown | None = None
        self.rows: list[ValueRow] = []
        self.tiles: Tiles | None = None
        self.page: Page | None = None
        self._held: QWidget | None = None
        self.line = FoldLine(wishes, matter.value)
        self.line.toggled.connect(self._fold)
        self._column = QVBoxLayout(self)
        self._column.setContentsMargins(0, 0, 0, 0)
        self._column.setSpacing(4)
        self._column.addWidget(self.line)

    @property
    def open(self) -> bool:
        """Whether it is unfolded."""
        return self.line.isChecked()

    def unfold(self) -> None:
        """Unfold it."""
        self.line.setChecked(True)

    def _fold(self, on: bool) -> None:
        if on and self._held is None:
            self._make()
        if self._held is not None:
            if not on and self.tiles is not None:
                self.tiles.close_panel()
            self._held.setVisible(on)
        if on and self._shown is not None:
            self.show_document(self._shown, another=True)

    def _make(self) -> None:
        held = self._held = QWidget()
        column = QVBoxLayout(held)
        column.setContentsMargins(0, 0, 0, 6)
        column.setSpacing(5)
        grid = QGridLayout()
        grid.setHorizontalSpacing(6)
        grid.setVerticalSpacing(3)
        grid.setColumnStretch(1, 1)
        values = [deed for deed in self._deeds if deed.in_place]
        self.rows = [ValueRow(self.wishes, deed, grid, at) for at, deed in enumerate(values)]
        column.addLayout(grid)
        if self._pad is not None:
            self.page = self._pad(self.wishes)
            column.addWidget(self.page)
        others = [deed for deed in self._deeds if not deed.in_place]
        if others:
            self.tiles = Tiles(self.wishes, others, self._opened)
            column.addWidget(self.tiles)
        self._column.addWidget(held)

    def show_document(self, shown: Shown, *, another: bool) -> None:
        """Show what is so now, where it is unfolded."""
        self._shown = shown
        if not self.open:
            return
        for row in self.rows:
            row.show_document(shown, another=another)
        if self.page is not None:
            self.page.show_document(shown)
        if self.tiles is not None:
            self.tiles.show_document(shown)
