"""The list of volumes: names, sizes, and small switches for show, see-through and lock."""

from collections.abc import Callable
from enum import IntEnum

from PyQt6.QtCore import (
    QAbstractListModel,
    QEvent,
    QItemSelection,
    QItemSelectionModel,
    QModelIndex,
    QPoint,
    QPointF,
    QRect,
    QRectF,
    QSize,
    Qt,
    pyqtSignal,
)
from PyQt6.QtGui import (
    QColor,
    QFont,
    QFontMetrics,
    QHelpEvent,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPolygon,
    QPolygonF,
)
from PyQt6.QtWidgets import (
    QAbstractItemView,
    QListView,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QToolTip,
    QWidget,
)

from isometron.document.document import Document
from isometron.framework.volume import Volume
from isometron.perspective.lengths import write_short
from isometron.render.painter import painting_on
from isometron.ui.parts.plain import plain_tip
from isometron.ui.parts.theme import DARK, DIM, MARKER, ROW, font, scaled
from isometron.ui.parts.wishes import Wishes
from isometron.words import _

SWITCH = 19
"""Width of one switch, px."""

BAR = 8
"""Room kept free for the scroll bar, px."""

TIPS = {
    "show": _("Shown or hidden (Shift+S)."),
    "see-through": _("See-through, solid, or as the sheet is (Shift+T)."),
    "lock": _("Pinned in its place, or free (Shift+L)."),
}
SWITCHES = tuple(TIPS)
KEYS = {Qt.Key.Key_S: "show", Qt.Key.Key_T: "see-through", Qt.Key.Key_L: "lock"}


class Told(IntEnum):
    """What a row tells besides its words."""

    VOLUME = Qt.ItemDataRole.UserRole
    SIZE = Qt.ItemDataRole.UserRole + 1
    LEAD = Qt.ItemDataRole.UserRole + 2


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
            Told.LEAD: lambda: index.row() == self._selected,
        }
        answer = answers.get(role)
        return None if answer is None else answer()

    def _size(self, volume: Volume) -> str:
        sides = (write_short(side, self._unit) for side in volume.sides)
        return "×".join(sides)


class VolumeRow(QStyledItemDelegate):
    """Paints one row: a marker swipe under chosen ones, the one in work in bold."""

    def __init__(self, wishes: Wishes, parent: QWidget) -> None:
        super().__init__(parent)
        self.wishes = wishes

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex) -> QSize:
        return QSize(120, scaled(ROW))

    def paint(
        self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex
    ) -> None:
        view = option.widget
        if painter is None or not isinstance(view, QAbstractItemView):
            return
        chosen = _selection(view).isSelected(index)
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        volume: Volume = index.data(Told.VOLUME)
        _paint_row(painter, self.wishes, option.rect, index, chosen=chosen)
        for place, switch in enumerate(SWITCHES):
            x = option.rect.right() + 1 - BAR - (2.5 - place) * SWITCH
            middle = QPointF(x, option.rect.center().y())
            _paint_switch(painter, self.wishes, switch, middle, volume)
        painter.restore()


def _selection(view: QAbstractItemView) -> QItemSelectionModel:
    model = view.selectionModel()
    assert model is not None
    return model


class VolumeList(QListView):
    """The volumes by name and size. Emits `switched` (switch, volume) and `moved` (by).

    Up and Down choose, with Shift more of them; letters find a name; Shift with S, T or L works the
    switches, Ctrl+Up and Ctrl+Down move the volume in the list.
    """

    switched = pyqtSignal(str, int)
    moved = pyqtSignal(int)

    def __init__(self, wishes: Wishes) -> None:
        super().__init__()
        self.wishes = wishes
        self._document: Document | None = None
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
        self.wishes.choose(index.row(), besides=more)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        pass  # a choice is made by pressing; nothing is swept over

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        pass

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
            words = about(index.data(Told.VOLUME)) if index.isValid() else ""
            QToolTip.showText(event.globalPos(), TIPS[switch] if switch else plain_tip(words), self)
            return True
        return super().viewportEvent(event)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        super().paintEvent(event)
        port = self.viewport()
        if port is None or (self.rows.rowCount() and not self.hasFocus()):
            return
        with painting_on(port) as painter:
            if not self.rows.rowCount():
                painter.setPen(QColor(self.wishes.room.soft_ink))
                painter.setFont(font(italic=True))
                line = QRect(0, 0, port.width(), scaled(ROW))
                painter.drawText(line, Qt.AlignmentFlag.AlignVCenter, _("None yet."))
            if self.hasFocus():
                painter.setPen(QPen(QColor(self.wishes.room.field_line), 1.0, Qt.PenStyle.DotLine))
                painter.drawRect(port.rect().adjusted(0, 0, -1, -1))


def _name_font(volume: Volume, *, lead: bool) -> QFont:
    return font(bold=lead, italic=volume.ghost or volume.like is not None)


def _paint_row(
    painter: QPainter, wishes: Wishes, row: QRect, index: QModelIndex, *, chosen: bool
) -> None:
    volume: Volume = index.data(Told.VOLUME)
    size: str = index.data(Told.SIZE)
    if chosen:
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(MARKER))
        painter.drawPolygon(_swipe(row.adjusted(0, 0, -3 * SWITCH - BAR - 2, 0)))
    ink = QColor(DARK if chosen else wishes.room.ink)
    soft = QColor(DIM if chosen else wishes.room.soft_ink)
    painter.setPen(ink if volume.shown else soft)
    painter.setFont(_name_font(volume, lead=bool(index.data(Told.LEAD))))
    indent = 14 if volume.on is not None or volume.like is not None else 6
    inner = row.adjusted(indent, 0, -3 * SWITCH - BAR - 6, 0)
    metrics = painter.fontMetrics()
    for_name = inner.width() - QFontMetrics(font()).horizontalAdvance(size) - 8
    short = metrics.elidedText(volume.name, Qt.TextElideMode.ElideRight, for_name)
    painter.drawText(inner, Qt.AlignmentFlag.AlignVCenter, short)
    painter.setFont(font())
    painter.setPen(soft)
    right = Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight
    painter.drawText(inner, right, size)


def _paint_switch(
    painter: QPainter, wishes: Wishes, switch: str, at: QPointF, volume: Volume
) -> None:
    room = wishes.room
    on, off = QPen(QColor(room.ink), 1.5), QPen(QColor(room.field_line), 1.2)
    painter.setBrush(Qt.BrushStyle.NoBrush)
    if switch == "show":
        painter.setPen(on if volume.shown else off)
        painter.drawArc(QRectF(at.x() - 6, at.y() - 4, 12, 12), 30 * 16, 120 * 16)
        painter.drawArc(QRectF(at.x() - 6, at.y() - 8, 12, 12), 210 * 16, 120 * 16)
        if volume.shown:
            painter.setBrush(QColor(room.ink))
            painter.drawEllipse(at, 1.6, 1.6)
    elif switch == "see-through":
        pen = off if volume.see_through is None else QPen(on)
        if volume.see_through:
            pen.setDashPattern([2.0, 1.6])
        painter.setPen(pen)
        painter.drawRect(QRectF(at.x() - 5, at.y() - 5, 10, 10))
    else:
        _paint_pin(painter, at, on if volume.locked else off, pinned=volume.locked)


def _paint_pin(painter: QPainter, at: QPointF, pen: QPen, *, pinned: bool) -> None:
    """A drawing pin: pressed into the paper, or lying loose."""
    painter.save()
    painter.translate(at)
    if not pinned:
        painter.rotate(55.0)
    painter.setPen(pen)
    painter.setBrush(pen.color() if pinned else QColor(Qt.GlobalColor.transparent))
    painter.drawRect(QRectF(-5, -6, 10, 3))
    painter.drawPolygon(
        QPolygonF([QPointF(*p) for p in ((-2.5, -3), (2.5, -3), (3.5, 2), (-3.5, 2))])
    )
    painter.drawLine(QPointF(0, 2), QPointF(0, 7))
    painter.restore()


def about(volume: Volume) -> str:
    """What a volume is, in a sentence."""
    words = [f"{volume.name}: {_(volume.called)}"]
    words += [_("in {group}").format(group=volume.group)] if volume.group else []
    words += [_("follows another")] if volume.on is not None else []
    words += [_("follows its source")] if volume.like is not None else []
    words += [_("ghost")] if volume.ghost else []
    return ", ".join(words) + "."


def _swipe(row: QRect) -> QPolygon:
    top, bottom = row.top() + 3, row.bottom() - 2
    return QPolygon(
        [
            QPoint(row.left(), top + 1),
            QPoint(row.right(), top - 1),
            QPoint(row.right() - 2, bottom),
            QPoint(row.left() + 1, bottom + 1),
        ]
    )
