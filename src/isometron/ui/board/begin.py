"""What a blank sheet says: the first moves, to be made there; gone at the first mark."""

from functools import partial

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QGridLayout, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from isometron.document.document import Document
from isometron.document.edits.places.laying import first_edge, lay_near_edge
from isometron.document.edits.starters import STARTERS
from isometron.ui.parts.drawn import DrawnTile
from isometron.ui.parts.fields import LengthField
from isometron.ui.parts.plain import Label
from isometron.ui.parts.theme import GROUND, INK, PAPER, SOFT, TITLE_PT, font, scaled
from isometron.ui.parts.wishes import Wishes
from isometron.words import _

COLUMNS = 4
TILE, PICTURE = 38, 32
"""Height of the tile of a move, and of its drawing, px."""

ROOMY = 116
"""A column of moves takes so much of the width, px."""

ABOVE, LEAST_ROWS = 168, 3
"""The words and fields over the moves are so high, px; so many rows there are at least."""


class BeginCard(QWidget):
    """A note on the paper with the first moves."""

    def __init__(self, wishes: Wishes, parent: QWidget) -> None:
        super().__init__(parent)
        self.wishes = wishes
        self.setAccessibleName(_("How to begin"))
        self._fields: list[LengthField] = []
        column = QVBoxLayout(self)
        column.setContentsMargins(18, 12, 18, 14)
        column.setSpacing(6)
        column.addWidget(self._words(_("Two moves to begin"), bold=True))
        column.addWidget(
            self._words(_("1  Where do your eyes look? Drag the red eye level, or a point on it."))
        )
        column.addWidget(
            self._words(_("2  Drag the nearest upright edge, foot to top, on the paper; or type:"))
        )
        column.addLayout(self._edge())
        column.addWidget(self._words(_("Or begin from a few numbers:")))
        self._grid = QGridLayout()
        self._grid.setSpacing(6)
        moves = [(_("Add a box"), "add box"), (_("Add a wheel"), "add wheel")]
        moves += [(f"{_(s.name)}…", f"starter {s.name}") for s in STARTERS]
        self._moves = [self._tile(text, command) for text, command in moves]
        self._shape = 0, 0
        self.arrange(COLUMNS * scaled(ROOMY), 10_000)
        column.addLayout(self._grid)

    def arrange(self, wide: int, high: int) -> None:
        """Lay the moves in as many columns and rows as find room in a width and height, px; those
        that find none stand in the card of Build."""
        columns = min(max(wide // scaled(ROOMY), 2), COLUMNS)
        rows = max((high - scaled(ABOVE)) // (scaled(TILE) + 6), LEAST_ROWS)
        if (columns, rows) == self._shape:
            return
        self._shape = columns, rows
        for number, button in enumerate(self._moves):
            self._grid.addWidget(button, *divmod(number, columns))
            button.setVisible(number < columns * rows)

    def _words(self, text: str, *, bold: bool = False) -> Label:
        label = Label(text)
        label.setFont(font(TITLE_PT, bold=True) if bold else font())
        label.setStyleSheet(f"color: {INK if bold else SOFT};")
        label.setWordWrap(True)
        return label

    def _tile(self, text: str, command: str) -> DrawnTile:
        """A move with its drawing, known by its command."""
        tip = _("Begin with this: {text}.").format(text=text.rstrip("…").lower())
        tile = DrawnTile(self.wishes, command, text, tip, high=TILE, picture=PICTURE)
        tile.clicked.connect(lambda _on=False: self.wishes.do(command))
        return tile

    def _edge(self) -> QHBoxLayout:
        row = QHBoxLayout()
        row.setSpacing(5)
        asked = (
            (_("foot"), _("The foot of the near edge, right of the paper's left edge.")),
            (_("up"), _("The foot of the near edge, above the paper's lower edge.")),
            (_("drawn"), _("How long the near edge is drawn.")),
        )
        for name, tip in asked:
            field = LengthField(name, tip)
            field.typed.connect(partial(self._typed, field))
            field.refused.connect(self.wishes.refuse)
            self._fields.append(field)
            row.addWidget(self._words(name), 0)
            row.addWidget(field, 1)
        cube = QPushButton(_("Cube on it"))
        cube.setToolTip(_("Draw this edge, and close a cube on it."))
        cube.clicked.connect(lambda _on=False: self._lay())
        row.addWidget(cube)
        return row

    def _typed(self, field: LengthField, value: float) -> None:
        field.show_value(value)

    def _lay(self) -> None:
        right, up, drawn = (field.number for field in self._fields)
        self.wishes.edit(
            _("lay down a near edge"),
            lambda d: lay_near_edge(d, (right, up), (right, up + drawn)),
        )

    def show_document(self, document: Document) -> None:
        """Show it on a blank sheet only."""
        blank = not document.volumes
        if blank and not self.isVisible():
            (x, foot), (_x, top) = first_edge(document)
            for field, value in zip(self._fields, (x, foot, top - foot), strict=True):
                field.show_unit(document.choices.unit)
                field.show_value(value)
        self.setVisible(blank)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        face = QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5)
        painter.setPen(QPen(QColor(GROUND), 1.0, Qt.PenStyle.DashLine))
        painter.setBrush(QColor(PAPER))
        painter.drawRect(face)
        painter.end()
