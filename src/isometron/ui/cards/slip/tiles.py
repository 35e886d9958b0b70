"""Deeds side by side, two in a row; the fields of the one that is open lie below its row."""

from collections.abc import Callable, Sequence

from PyQt6.QtWidgets import QGridLayout, QWidget

from isometron.deeds.deed import Deed, Given
from isometron.ui.cards.slip.panel import DeedPanel
from isometron.ui.cards.slip.tile import DeedTile
from isometron.ui.parts.card import Shown
from isometron.ui.parts.wishes import Wishes

COLUMNS = 2


class Tiles(QWidget):
    """The tiles of some deeds. `opened` is called when fields are opened here, with these tiles."""

    def __init__(
        self, wishes: Wishes, deeds: Sequence[Deed], opened: Callable[["Tiles"], object]
    ) -> None:
        super().__init__()
        self.wishes, self._opened = wishes, opened
        self._shown: Shown | None = None
        self.panel: DeedPanel | None = None
        self._last: dict[str, Given] = {}
        """What each was done with last on this sheet."""
        self.tiles = {deed.key: DeedTile(wishes, deed) for deed in deeds}
        self._grid = QGridLayout(self)
        self._grid.setContentsMargins(0, 0, 0, 0)
        self._grid.setSpacing(4)
        for column in range(COLUMNS):
            self._grid.setColumnStretch(column, 1)
        for number, tile in enumerate(self.tiles.values()):
            row, column = divmod(number, COLUMNS)
            self._grid.addWidget(tile, 2 * row, column)  # every other row is for fields
            tile.clicked.connect(lambda _on=False, t=tile: self.press(t))

    def show_document(self, shown: Shown) -> None:
        """Which of them can be done now."""
        self._shown = shown
        for tile in self.tiles.values():
            tile.setEnabled(tile.deed.ready(shown.document, shown.picked))
        if self.panel is not None:
            if self.panel.deed.ready(shown.document, shown.picked):
                self.panel.show_document(shown)
            else:
                self.close_panel()

    def press(self, tile: DeedTile) -> None:
        """Do a deed that asks for nothing; open or close the fields of another."""
        if self._shown is None:
            return
        if not tile.deed.parameters:
            self.wishes.deed(tile.deed, Given(pick=self._shown.picked))
        elif self.panel is not None and self.panel.deed is tile.deed:
            self.panel.give_up()
        else:
            self.open(tile.deed.key)

    def open(self, key: str, *, whole: bool = False) -> DeedPanel:
        """Open the fields of a deed, the keyboard in the first; whole: all that may be given."""
        assert self._shown is not None
        self.close_panel()
        self._opened(self)
        tile = self.tiles[key]
        number, last = list(self.tiles).index(key), self._last.get(key)
        deed = tile.deed.asking_all if whole else tile.deed
        panel = self.panel = DeedPanel(
            self.wishes, deed, self._shown, last.values if last and not whole else None
        )
        panel.closed.connect(self._done)
        self._grid.addWidget(panel, 2 * (number // COLUMNS) + 1, 0, 1, COLUMNS)
        tile.setChecked(True)
        panel.show()
        panel.focus()
        return panel

    def _done(self) -> None:
        known = self.panel is not None and self.panel.deed is self.tiles[self.panel.deed.key].deed
        if self.panel is not None and self.panel.given is not None and known:
            self._last[self.panel.deed.key] = self.panel.given
        self.close_panel()
        self.wishes.back_to_board()

    def forget(self) -> None:
        """Another sheet: nothing that was given lives on."""
        self.close_panel()
        self._last.clear()

    def close_panel(self) -> None:
        """Close the fields that are open."""
        panel, self.panel = self.panel, None
        if panel is not None:
            self.tiles[panel.deed.key].setChecked(False)
            panel.leave()
            self._grid.removeWidget(panel)
            panel.hide()
            panel.deleteLater()
