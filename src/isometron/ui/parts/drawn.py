"""Buttons that show a small drawing, worked out a little at a time after they are first seen."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING, Protocol

from PyQt6 import sip
from PyQt6.QtCore import QRectF, QSize, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QColor, QIcon, QPainter, QPaintEvent, QPen, QPixmap, QPixmapCache
from PyQt6.QtWidgets import QAbstractButton, QComboBox, QHBoxLayout, QSizePolicy, QWidget

from isometron.render.painter import painting_on
from isometron.ui.parts.theme import DARK, TEAL_INK, Room, font, scaled

if TYPE_CHECKING:
    from isometron.deeds.drawing import Drawing

ICON = 32
"""The side of a drawing in a list, px."""

PAD = 3
"""Room round a drawing, px."""

_waiting: list["DrawnButton"] = []


def drawing_pixmap(
    key: str,
    size: QSize,
    sharp: float,
    ink: str,
    new: str,
    drawing: "Callable[[str], Drawing] | None" = None,
) -> QPixmap:
    """A drawing of a size, px, at a scale of the screen; painted once, then kept by Qt. drawing:
    what gives it for its key, where that is not the table of deeds."""
    from isometron.deeds.drawing import drawing_of
    from isometron.render.small import paint_deed

    name = f"{key} {size.width()} {size.height()} {sharp} {ink} {new}"
    kept: QPixmap | None = QPixmapCache.find(name)
    if kept is not None:
        return kept
    made = QPixmap(size * sharp)
    made.setDevicePixelRatio(sharp)
    made.fill(Qt.GlobalColor.transparent)
    with painting_on(made) as painter:
        paint_deed(
            painter,
            QRectF(0.0, 0.0, size.width(), size.height()),
            (drawing or drawing_of)(key),
            ink,
            new,
        )
    QPixmapCache.insert(name, made)
    return made


class Roomed(Protocol):
    """What knows the room that is worked in."""

    @property
    def room(self) -> Room:
        """The room."""


@dataclass(frozen=True)
class InRoom:
    """A room, for what is drawn where no wishes are at hand."""

    room: Room


class DrawnButton(QAbstractButton):
    """A button with a drawing, known by its key (`isometron.deeds.drawing`, or what `drawing`
    says)."""

    drawing: "Callable[[str], Drawing] | None" = None

    def __init__(self, wishes: Roomed, key: str, name: str, tip: str) -> None:
        super().__init__()
        self.wishes, self.drawing_key = wishes, key
        self._drawn = False
        self.setAccessibleName(name)
        self.setToolTip(tip)
        self.setStatusTip(tip)
        self.setAccessibleDescription(tip)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)

    def paint_card(self, painter: QPainter, back: str) -> QRectF:
        """The card it is painted on; gives its face."""
        room, face = self.wishes.room, QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5)
        painter.fillRect(face, QColor(back))
        painter.setPen(QPen(QColor(room.field_line), 1.0))
        painter.drawRect(face)
        return face

    def paint_focus(self, painter: QPainter, face: QRectF) -> None:
        """A ring round the one that has the keyboard."""
        if self.hasFocus():
            painter.setPen(QPen(QColor(self.wishes.room.focus), 2.0))
            painter.drawRect(face.adjusted(1, 1, -1, -1))

    def paint_drawing(self, painter: QPainter, box: QRectF) -> None:
        """The drawing in a box; where it is not worked out yet that is seen to."""
        if not self._drawn:
            if self not in _waiting:
                _waiting.append(self)
                QTimer.singleShot(0, draw_one)
            return
        room, down = self.wishes.room, self.isChecked()
        painter.save()
        painter.setOpacity(1.0 if self.isEnabled() else 0.45)
        ink, new = (DARK, TEAL_INK) if down else (room.ink, room.right)
        size = QSize(round(box.width()), round(box.height()))
        sharp = self.devicePixelRatioF()
        shown = drawing_pixmap(self.drawing_key, size, sharp, ink, new, self.drawing)
        painter.drawPixmap(box.topLeft(), shown)
        painter.restore()

    def draw(self) -> None:
        """Work the drawing out now."""
        from isometron.deeds.drawing import drawing_of

        (self.drawing or drawing_of)(self.drawing_key)
        self._drawn = True
        self.update()


class DrawnChoice(QWidget):
    """One of a few, each by its drawing with a word under it. Says `chosen` with its number."""

    chosen = pyqtSignal(int)

    def __init__(
        self, wishes: Roomed, name: str, tip: str, every: Sequence[tuple[str, str]]
    ) -> None:
        """every: the key of its drawing and the word of each."""
        super().__init__()
        self.setAccessibleName(name)
        self.tiles = [DrawnTile(wishes, key, word, tip, high=76, picture=54) for key, word in every]
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(4)
        for number, tile in enumerate(self.tiles):
            tile.setCheckable(True)
            tile.beneath = True
            tile.clicked.connect(lambda _on=False, n=number: self._choose(n))
            row.addWidget(tile)

    def _choose(self, number: int) -> None:
        self.show_chosen(number)
        self.chosen.emit(number)

    def show_chosen(self, number: int) -> None:
        """Which one is chosen."""
        for at, tile in enumerate(self.tiles):
            tile.setChecked(at == number)


class DrawnTile(DrawnButton):
    """A drawing with words beside it, or beneath. It may be down, as while its fields are open."""

    beneath = False
    """Whether its words stand under the drawing."""

    def __init__(
        self, wishes: Roomed, key: str, words: str, tip: str, *, high: int, picture: int
    ) -> None:
        """high, picture: its height and the side of its drawing, px at the usual size of text."""
        super().__init__(wishes, key, words, tip)
        self._high, self._picture = high, picture
        self.setText(words)

    def nextCheckState(self) -> None:
        """Whether it is down is not for a press to say."""

    def sizeHint(self) -> QSize:
        wide = self.fontMetrics().horizontalAdvance(self.text()) + 4 * PAD
        return QSize(wide if self.beneath else scaled(112), scaled(self._high))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        room = self.wishes.room
        with painting_on(self) as painter:
            back = room.lamp if self.isChecked() else room.field
            if not self.isEnabled():
                back = room.card
            elif (self.isDown() or self.underMouse()) and not self.isChecked():
                back = room.hover
            face = self.paint_card(painter, back)
            side = min(scaled(self._picture), self.height() - 2 * PAD)
            box = QRectF(PAD + 1, (self.height() - side) / 2, side, side)
            if self.beneath:
                box = QRectF(PAD, PAD, self.width() - 2 * PAD, side)
            self.paint_drawing(painter, box)
            ink = room.soft_ink if not self.isEnabled() else DARK if self.isChecked() else room.ink
            painter.setPen(QColor(ink))
            painter.setFont(font(bold=self.isChecked()))
            if self.beneath:
                foot = Qt.AlignmentFlag.AlignBottom | Qt.AlignmentFlag.AlignHCenter
                told = painter.fontMetrics().elidedText(
                    self.text(), Qt.TextElideMode.ElideRight, int(face.width()) - 2 * PAD
                )
                painter.drawText(face.adjusted(0, 0, 0, -1), int(foot), told)
            else:
                words = face.adjusted(side + 2 * PAD + 2, 0, -PAD, 0)
                flags = Qt.AlignmentFlag.AlignVCenter | Qt.TextFlag.TextWordWrap
                painter.drawText(words, int(flags), self.text())
            self.paint_focus(painter, face)


def draw_one() -> None:
    """Work out one drawing that is waited for: one at a time, so that the hand is not held up."""
    while _waiting:
        button = _waiting.pop(0)
        if not sip.isdeleted(button):
            button.draw()
            return


def show_drawings(choice: QComboBox, keys: Sequence[str], room: Room) -> None:
    """The drawing of each beside its words, where the file of drawings has them."""
    from isometron.deeds.drawing import is_drawn

    if not all(map(is_drawn, keys)):
        return
    size = QSize(scaled(ICON), scaled(ICON))
    choice.setIconSize(size)
    choice.setFixedHeight(scaled(ICON + 4))
    for number, key in enumerate(keys):
        shown = drawing_pixmap(key, size, choice.devicePixelRatioF(), room.ink, room.right)
        choice.setItemIcon(number, QIcon(shown))
