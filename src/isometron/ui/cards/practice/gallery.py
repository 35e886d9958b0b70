"""All drills as drawings: what is given, and in teal what is asked for."""

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtGui import QResizeEvent
from PyQt6.QtWidgets import QGridLayout, QWidget

from isometron.practice.drill import drills
from isometron.practice.small import drawing_of_drill
from isometron.ui.parts.drawn import DrawnTile
from isometron.ui.parts.theme import scaled
from isometron.ui.parts.wishes import Wishes

WIDE, HIGH, PICTURE = 168, 74, 50
"""The least width of a tile, its height, and that of its drawing, px."""


MOST_COLUMNS = 6


class DrillGallery(QWidget):
    """A tile for every drill. Says `chosen` with its number."""

    chosen = pyqtSignal(int)

    def __init__(self, wishes: Wishes) -> None:
        super().__init__()
        self.tiles = []
        for number, drill in enumerate(drills().values()):
            tile = DrawnTile(
                wishes, drill.key, drill.title, drill.about, high=HIGH, picture=PICTURE
            )
            tile.beneath, tile.drawing = True, drawing_of_drill
            tile.clicked.connect(lambda _on=False, n=number: self.chosen.emit(n))
            self.tiles.append(tile)
        self._grid = QGridLayout(self)
        self._grid.setContentsMargins(0, 0, 0, 0)
        self._grid.setSpacing(5)
        self._columns = 0

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        columns = min(max(self.width() // scaled(WIDE), 2), MOST_COLUMNS)
        if columns == self._columns:
            return
        for column in range(max(columns, self._columns)):
            self._grid.setColumnStretch(column, int(column < columns))
        self._columns = columns
        for number, tile in enumerate(self.tiles):
            self._grid.addWidget(tile, *divmod(number, columns))
        self._grid.setRowStretch(len(self.tiles), 1)  # all of them at the head of the sheet
