"""The list of volumes: names, sizes, and small switches for show, see-through and lock."""

from collections.abc import Callable

from PyQt6.QtCore import (
    QAbstractListModel,
    QEvent,
    QItemSelection,
    QItemSelectionModel,
    QModelIndex,
    QPointF,
    QRect,
    Qt,
    pyqtSignal,
)
from PyQt6.QtGui import (
    QColor,
    QHelpEvent,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
)
from PyQt6.QtWidgets import (
    QAbstractItemView,
    QListView,
    QToolTip,
    QWidget,
)

from isometron.document.document import Document
from isometron.framework.volume import Volume
from isometron.perspective.lengths import write_short
from isometron.render.painter import painting_on
from isometron.ui.cards.volumes.volume_row import BAR, SWITCH, SWITCHES, Told, VolumeRow, about
from isometron.ui.parts.plain import plain_tip
from isometron.ui.parts.theme import ROW, font, scaled
from isometron.ui.parts.touching import apart
from isometron.ui.parts.wishes import Wishes
from isometron.words import _

TIPS = {
    "show": _("Shown or hidden (Shift+S)."),
    "see-through": _("See-through, solid, or as the sheet is (Shift+T)."),
    "lock": _("Pinned in its place, or free (Shift+L)."),
}
DRAG_PX = 4.0
BETWEEN = 0.3
"""What is dropped on this share of a row, at its top or foot, goes between rows."""

KEYS = {Qt.Key.Key_S: "show", Qt.Key.Key_T: "see-through", Qt.Key.Key_L: "lock"}


class VolumeModel(QAbstractListModel):
    """The volumes of a document, in its order."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self._volumes: tuple[Volume, ...] = ()
        self._selected: int | None = None
        self._unit = "mm"

    def show_volumes(self, document: Document) -> None:
        """Show the volumes of a document; only rows that differ are said to have changed."""
        before = (self._volumes, self._selected, self._unit)
        volumes, unit = document.volumes, document.choices.unit
        if len(volumes) != len(self._volumes):
            self.beginResetModel()
            self._volumes, self._selected, self._unit = volumes, document.selected, unit
            self.endResetModel()
            return
        self._volumes, self._selected, self._unit = volumes, document.selected, unit
        if unit != before[2] and volumes:
            self.dataChanged.emit(self.index(0), self.index(len(volumes) - 1))
            return
        changed = {
            row
            for row, (now, then) in enumerate(zip(volumes, before[0], strict=True))
            if now is not then
        }
        if document.selected != before[1]:
            changed |= {row for row in (document.selected, before[1]) if row is not None}
        for row in changed:
            self.dataChanged.emit(self.index(row), self.index(row))

    def rowCount(self, parent: QModelIndex = QModelIndex()) -> int:  # noqa: B008
        return 0 if parent.isValid() else len(self._volumes)

    def data(self, index: QModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        volume = self._volumes[index.row()]
        roles = Qt.ItemDataRole
        answers: dict[int, Callable[[], object]] = {
            roles.DisplayRole: lambda: volume.name,
            roles.AccessibleTextRole: lambda: f"{volume.name}, {self._size(volume)} {self._unit}",
            roles.AccessibleDescriptionRole: lambda: about(volume),
            Told.VOLUME: lambda: volume,
            Told.SIZE: lambda: self._size(volume),
            Told.ROUGHLY: lambda: self._roughly(volume),
            Told.LEAD: lambda: index.row() == self._selected,
        }
        answer = answers.get(role)
        return None if answer is None else answer()

    def _size(self, volume: Volume, *, whole: bool = False) -> str:
        sides = (write_short(side, self._unit, whole=whole) for side in volume.sides)
        return "×".join(sides)

    def _roughly(self, volume: Volume) -> str:
        """Its sides in whole numbers, said to be rounded where they are."""
        exact, whole = self._size(volume), self._size(volume, whole=True)
        return whole if whole == exact else f"≈{whole}"


def _selection(view: QAbstractItemView) -> QItemSelectionModel:
    model = view.selectionModel()
    assert model is not None
    return model


class VolumeList(QListView):
    """The volumes by name and size. Emits `switched` (switch, volume), `moved` (by), and `dropped`
    (row, into): the chosen ones were dragged before a row, or into the group of what stands there.

    Up and Down choose, with Shift more of them; letters find a name; Shift with S, T or L works the
    switches, Ctrl+Up and Ctrl+Down move the volume in the list.
    """

    switched = pyqtSignal(str, int)
    moved = pyqtSignal(int)
    dropped = pyqtSignal(int, bool)

    def __init__(self, wishes: Wishes) -> None:
        super().__init__()
        self.wishes = wishes
        self._document: Document | None = None
        self._pressed: QPointF | None = None
        self._drop: tuple[int, bool] | None = None
        self.setAccessibleName(_("Volumes on this sheet"))
        self.setSelectionMode(QAbstractItemView.SelectionMode.ExtendedSelection)
        self.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setVerticalScrollMode(QAbstractItemView.ScrollMode.ScrollPerPixel)
        self.setUniformItemSizes(True)
        self.setProperty("bare", True)
        self.rows = VolumeModel(self)
        self._row = VolumeRow(wishes, self)
        self.setModel(self.rows)
        self.setItemDelegate(self._row)

    def show_volumes(self, document: Document) -> None:
        """Show the volumes of a document, what is chosen and what is in work."""
        known, self._document = self._document, document
        self.rows.show_volumes(document)
        same = known is not None and known.chosen == document.chosen
        if same and known is not None and len(known.volumes) == len(document.volumes):
            return
        chosen = QItemSelection()
        for row in document.chosen:
            index = self.rows.index(row)
            chosen.select(index, index)
        flags = QItemSelectionModel.SelectionFlag
        _selection(self).select(chosen, flags.ClearAndSelect)
        if document.selected is not None:
            lead = self.rows.index(document.selected)
            _selection(self).setCurrentIndex(lead, flags.NoUpdate)
            self.scrollTo(lead)

    def volume_at(self, at: QPointF) -> int | None:
        """The volume whose row lies at a place of the list."""
        index = self.indexAt(at.toPoint())
        return index.row() if index.isValid() else None

    def switch_at(self, at: QPointF) -> str | None:
        """The switch under a place of the list."""
        port = self.viewport()
        from_right = int(((port.width() if port else 0) - BAR - at.x()) // SWITCH)
        return SWITCHES[2 - from_right] if 0 <= from_right < 3 else None

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        index = self.indexAt(event.position().toPoint()) if event is not None else None
        if event is None or index is None or not index.isValid():
            return
        if event.button() != Qt.MouseButton.LeftButton:
            return
        switch = self.switch_at(event.position())
        if switch is not None:
            self.switched.emit(switch, index.row())
            return
        keys = Qt.KeyboardModifier
        more = bool(event.modifiers() & (keys.ControlModifier | keys.ShiftModifier))
        self._pressed = event.position()
        chosen = () if self._document is None else self._document.chosen
        if more or index.row() not in chosen:
            self.wishes.choose(index.row(), besides=more)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is None or self._pressed is None:
            return
        if self._drop is None and apart(self._pressed, event.position()) < DRAG_PX:
            return
        self._drop = self._drop_at(event.position())
        self.wishes.hint(
            _("Let go: into the group of this volume.")
            if self._drop[1]
            else _("Let go: moved to here in the list.")
        )
        self._repaint()

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        pressed, drop = self._pressed, self._drop
        self._pressed = self._drop = None
        if event is None or pressed is None:
            return
        if drop is not None:
            self.wishes.hint("")
            self._repaint()
            self.dropped.emit(*drop)
            return
        index = self.indexAt(event.position().toPoint())
        plain = event.modifiers() == Qt.KeyboardModifier.NoModifier
        if plain and index.isValid() and self._document and len(self._document.chosen) > 1:
            self.wishes.choose(index.row())

    def _drop_at(self, at: QPointF) -> tuple[int, bool]:
        """Before which row, or onto which, something dropped at a place goes."""
        count, high = self.rows.rowCount(), scaled(ROW)
        index = self.indexAt(at.toPoint())
        if not index.isValid():
            return (0 if at.y() < 0 else count), False
        share = (at.y() - self.visualRect(index).top()) / high
        if BETWEEN < share < 1 - BETWEEN:
            return index.row(), True
        return index.row() + (share >= 0.5), False

    def _paint_drop(self, painter: QPainter, drop: tuple[int, bool], wide: int) -> None:
        """Where what is dragged would go: a line between rows, or a frame round one."""
        row, into = drop
        painter.setPen(QPen(QColor(self.wishes.room.ink), 2.0))
        if into:
            painter.drawRect(self.visualRect(self.rows.index(row)).adjusted(1, 1, -2, -2))
            return
        last = self.rows.rowCount() - 1
        rect = self.visualRect(self.rows.index(min(row, last)))
        y = rect.top() + 1 if row <= last else rect.bottom()
        painter.drawLine(0, y, wide, y)

    def _repaint(self) -> None:
        port = self.viewport()
        if port is not None:
            port.update()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is None or self._document is None:
            return
        document, keys = self._document, Qt.KeyboardModifier
        count = len(document.volumes)
        step = {Qt.Key.Key_Down: 1, Qt.Key.Key_Up: -1}.get(Qt.Key(event.key()), 0)
        switch = KEYS.get(Qt.Key(event.key()))
        if step and count and event.modifiers() & keys.ControlModifier:
            self.moved.emit(step)
        elif step and count:
            at = -1 if document.selected is None else document.selected
            more = bool(event.modifiers() & keys.ShiftModifier)
            self.wishes.choose(min(max(at + step, 0), count - 1), besides=more)
        elif switch and event.modifiers() & keys.ShiftModifier and document.selected is not None:
            self.switched.emit(switch, document.selected)
        else:
            super().keyPressEvent(event)

    def currentChanged(self, current: QModelIndex, previous: QModelIndex) -> None:
        super().currentChanged(current, previous)
        document, row = self._document, current.row()
        if document is not None and current.isValid() and row not in document.chosen:
            self.wishes.choose(row)  # found by its letters

    def viewportEvent(self, event: QEvent | None) -> bool:
        if isinstance(event, QHelpEvent):
            index = self.indexAt(event.pos())
            switch = self.switch_at(QPointF(event.pos()))
            words = (
                f"{about(index.data(Told.VOLUME))} {index.data(Told.SIZE)}"
                if index.isValid()
                else ""
            )
            QToolTip.showText(event.globalPos(), TIPS[switch] if switch else plain_tip(words), self)
            return True
        return super().viewportEvent(event)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        super().paintEvent(event)
        port = self.viewport()
        still = self.rows.rowCount() and not self.hasFocus() and self._drop is None
        if port is None or still:
            return
        with painting_on(port) as painter:
            if not self.rows.rowCount():
                painter.setPen(QColor(self.wishes.room.soft_ink))
                painter.setFont(font(italic=True))
                line = QRect(0, 0, port.width(), scaled(ROW))
                painter.drawText(line, Qt.AlignmentFlag.AlignVCenter, _("None yet."))
            if self.hasFocus():
                painter.setPen(QPen(QColor(self.wishes.room.focus), 1.0))
                painter.drawRect(port.rect().adjusted(0, 0, -1, -1))
            if self._drop is not None:
                self._paint_drop(painter, self._drop, port.width())
