"""One row of the list of volumes: name, size, and the small switches."""

from enum import IntEnum

from PyQt6.QtCore import QModelIndex, QPoint, QPointF, QRect, QRectF, QSize, Qt
from PyQt6.QtGui import QColor, QFont, QFontMetrics, QPainter, QPen, QPolygon, QPolygonF
from PyQt6.QtWidgets import (
    QAbstractItemView,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QWidget,
)

from isometron.framework.volume import Volume
from isometron.ui.parts.theme import DARK, DIM, MARKER, ROW, font, scaled
from isometron.ui.parts.wishes import Wishes
from isometron.words import _

SWITCH = 19
"""Width of one switch, px."""

BAR = 8
"""Room kept free for the scroll bar, px."""

SWITCHES = ("show", "see-through", "lock")


class Told(IntEnum):
    """What a row tells besides its words."""

    VOLUME = Qt.ItemDataRole.UserRole
    SIZE = Qt.ItemDataRole.UserRole + 1
    LEAD = Qt.ItemDataRole.UserRole + 2
    ROUGHLY = Qt.ItemDataRole.UserRole + 3


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
        selection = view.selectionModel()
        chosen = selection is not None and selection.isSelected(index)
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        volume: Volume = index.data(Told.VOLUME)
        _paint_row(painter, self.wishes, option.rect, index, chosen=chosen)
        for place, switch in enumerate(SWITCHES):
            x = option.rect.right() + 1 - BAR - (2.5 - place) * SWITCH
            middle = QPointF(x, option.rect.center().y())
            _paint_switch(painter, self.wishes, switch, middle, volume)
        painter.restore()


def _name_font(volume: Volume, *, lead: bool) -> QFont:
    return font(bold=lead, italic=volume.ghost or volume.like is not None)


def _paint_row(
    painter: QPainter, wishes: Wishes, row: QRect, index: QModelIndex, *, chosen: bool
) -> None:
    volume: Volume = index.data(Told.VOLUME)
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
    metrics, wide = painter.fontMetrics(), QFontMetrics(font()).horizontalAdvance
    size: str = index.data(Told.SIZE)
    if wide(size) + 8 + metrics.horizontalAdvance(volume.name) > inner.width():
        size = index.data(Told.ROUGHLY)
    needed = metrics.horizontalAdvance(volume.name)
    if needed + wide(size) + 8 > inner.width():  # the name matters more; the tip tells the size
        size = ""
    short = metrics.elidedText(volume.name, Qt.TextElideMode.ElideMiddle, inner.width())
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
