"""Buttons that show a small drawing, worked out a little at a time after they are first seen."""

from PyQt6 import sip
from PyQt6.QtCore import QRectF, QSize, Qt, QTimer
from PyQt6.QtGui import QColor, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QAbstractButton, QSizePolicy

from isometron.render.painter import painting_on
from isometron.ui.parts.theme import DARK, TEAL_INK, font, scaled
from isometron.ui.parts.wishes import Wishes

PAD = 3
"""Room round a drawing, px."""

_waiting: list["DrawnButton"] = []


class DrawnButton(QAbstractButton):
    """A button with a drawing, known by its key (`isometron.deeds.drawing`)."""

    def __init__(self, wishes: Wishes, key: str, name: str, tip: str) -> None:
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
        from isometron.deeds.drawing import drawing_of
        from isometron.render.small import paint_deed

        room, down = self.wishes.room, self.isChecked()
        painter.save()
        painter.setOpacity(1.0 if self.isEnabled() else 0.45)
        ink, new = (DARK, TEAL_INK) if down else (room.ink, room.right)
        paint_deed(painter, box, drawing_of(self.drawing_key), ink, new)
        painter.restore()

    def draw(self) -> None:
        """Work the drawing out now."""
        from isometron.deeds.drawing import drawing_of

        drawing_of(self.drawing_key)
        self._drawn = True
        self.update()


class DrawnTile(DrawnButton):
    """A drawing with words beside it. It may be down, as while its fields are open."""

    def __init__(
        self, wishes: Wishes, key: str, words: str, tip: str, *, high: int, picture: int
    ) -> None:
        """high, picture: its height and the side of its drawing, px at the usual size of text."""
        super().__init__(wishes, key, words, tip)
        self._high, self._picture = high, picture
        self.setText(words)

    def nextCheckState(self) -> None:
        """Whether it is down is not for a press to say."""

    def sizeHint(self) -> QSize:
        return QSize(scaled(112), scaled(self._high))

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
            self.paint_drawing(painter, QRectF(PAD + 1, (self.height() - side) / 2, side, side))
            ink = room.soft_ink if not self.isEnabled() else DARK if self.isChecked() else room.ink
            painter.setPen(QColor(ink))
            painter.setFont(font(bold=self.isChecked()))
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
