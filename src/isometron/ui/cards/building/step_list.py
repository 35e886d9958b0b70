"""The steps of a build order in chapters, each with a tick."""

from PyQt6.QtCore import QSize, Qt, pyqtSignal
from PyQt6.QtGui import QBrush, QColor
from PyQt6.QtWidgets import QListWidget, QListWidgetItem

from isometron.construction.steps import Order
from isometron.document.document import Document
from isometron.ui.parts.theme import Room, font

STEP_ROLE = Qt.ItemDataRole.UserRole
KEY_ROLE = Qt.ItemDataRole.UserRole + 1


class StepList(QListWidget):
    """Emits `turned` (number of a step) when another step is chosen, `ticked` (key, done)."""

    turned = pyqtSignal(int)
    ticked = pyqtSignal(str, bool)

    def __init__(self, room: Room) -> None:
        super().__init__()
        self.room = room
        self.setWordWrap(True)
        self.setAccessibleName(self.tr("Steps of the build order"))
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setVerticalScrollMode(QListWidget.ScrollMode.ScrollPerPixel)
        self._filling = False
        self.currentItemChanged.connect(self._turn)
        self.itemChanged.connect(self._tick)

    def show_order(self, document: Document, order: Order | None) -> None:
        """Show an order; the chosen step stays chosen by its key."""
        known = self.current_key()
        self._filling = True
        self.clear()
        number = -1
        for chapter in order.chapters if order is not None else ():
            self._heading(chapter.title, chapter.key)
            for step in chapter.steps:
                number += 1
                if step.key not in document.building.hidden:
                    text = f"{number + 1}. {step.text}"
                    self._step(text, number, step.key, step.key in document.building.done)
        self._filling = False
        self.choose_key(known)

    def _heading(self, title: str, key: str) -> None:
        item = QListWidgetItem(title)
        item.setFont(font(bold=True))
        item.setForeground(QBrush(QColor(self.room.ink)))
        item.setFlags(Qt.ItemFlag.ItemIsEnabled)
        item.setData(KEY_ROLE, key)
        self.addItem(item)

    def _step(self, text: str, number: int, key: str, done: bool) -> None:
        item = QListWidgetItem(text)
        item.setToolTip(text)
        item.setData(STEP_ROLE, number)
        item.setData(KEY_ROLE, key)
        item.setFlags(
            Qt.ItemFlag.ItemIsEnabled
            | Qt.ItemFlag.ItemIsSelectable
            | Qt.ItemFlag.ItemIsUserCheckable
        )
        item.setCheckState(Qt.CheckState.Checked if done else Qt.CheckState.Unchecked)
        item.setForeground(QBrush(QColor(self.room.soft_ink if done else self.room.ink)))
        port = self.viewport()
        width = port.width() - 34 if port is not None else 220
        rows = self.fontMetrics().boundingRect(
            0, 0, max(width, 120), 2000, Qt.TextFlag.TextWordWrap, text
        )
        item.setSizeHint(QSize(max(width, 120), rows.height() + 8))
        self.addItem(item)

    def _items(self) -> list[QListWidgetItem]:
        found = (self.item(i) for i in range(self.count()))
        return [i for i in found if i is not None and i.data(STEP_ROLE) is not None]

    def current_key(self) -> str | None:
        """The key of the chosen step."""
        item = self.currentItem()
        return None if item is None else str(item.data(KEY_ROLE))

    @property
    def number(self) -> int | None:
        """The number of the chosen step."""
        item = self.currentItem()
        return None if item is None or item.data(STEP_ROLE) is None else int(item.data(STEP_ROLE))

    def choose_key(self, key: str | None) -> None:
        """Choose a step by its key, else the first one."""
        items = self._items()
        found = next((i for i in items if i.data(KEY_ROLE) == key), items[0] if items else None)
        if found is not None:
            self.setCurrentItem(found)

    def move_on(self, step: int) -> None:
        """The next step (1) or the one before (−1)."""
        items = self._items()
        now = self.currentItem()
        at = items.index(now) if now in items else -1 if step > 0 else 0
        if items:
            self.setCurrentItem(items[min(max(at + step, 0), len(items) - 1)])

    def _turn(self, item: QListWidgetItem | None) -> None:
        if item is not None and not self._filling and item.data(STEP_ROLE) is not None:
            self.scrollToItem(item, QListWidget.ScrollHint.PositionAtCenter)
            self.turned.emit(int(item.data(STEP_ROLE)))

    def _tick(self, item: QListWidgetItem) -> None:
        if not self._filling and item.data(STEP_ROLE) is not None:
            done = item.checkState() == Qt.CheckState.Checked
            self.ticked.emit(str(item.data(KEY_ROLE)), done)
