"""A deed as a small card to press: its drawing and its words."""

from PyQt6.QtCore import QRectF, QSize, Qt
from PyQt6.QtGui import QColor, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy

from isometron.deeds.deed import Deed
from isometron.render.painter import painting_on
from isometron.ui.parts.drawn import DrawnButton
from isometron.ui.parts.theme import DARK, TEAL_INK, font, scaled
from isometron.ui.parts.wishes import Wishes

HIGH, PICTURE = 42, 34
"""Height of a tile, and the square its drawing takes, px."""

PAD = 3


class DeedTile(DrawnButton):
    """One deed. It is down while its fields are open."""

    def __init__(self, wishes: Wishes, deed: Deed) -> None:
        super().__init__(wishes)
        self.deed = deed
        self.setText(deed.text)
        self.setObjectName(deed.key)
        told = f"{deed.tip} ({deed.keys[0]})" if deed.keys else deed.tip
        self.setToolTip(told)
        self.setStatusTip(told)
        self.setAccessibleName(deed.text)
        self.setAccessibleDescription(told)
        self.setCheckable(bool(deed.parameters))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)

    def nextCheckState(self) -> None:
        """It is down while its fields are open, which is not for a press to say."""

    def sizeHint(self) -> QSize:
        return QSize(scaled(112), scaled(HIGH))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        room, face = self.wishes.room, QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5)
        with painting_on(self) as painter:
            back = room.lamp if self.isChecked() else room.field
            if not self.isEnabled():
                back = room.card
            elif (self.isDown() or self.underMouse()) and not self.isChecked():
                back = room.hover
            painter.fillRect(face, QColor(back))
            painter.setPen(QPen(QColor(room.field_line), 1.0))
            painter.drawRect(face)
            side = min(scaled(PICTURE), self.height() - 2 * PAD)
            self.paint_when_drawn(painter, QRectF(PAD + 1, (self.height() - side) / 2, side, side))
            ink = room.soft_ink if not self.isEnabled() else DARK if self.isChecked() else room.ink
            painter.setPen(QColor(ink))
            painter.setFont(font(bold=self.isChecked()))
            words = face.adjusted(side + 2 * PAD + 2, 0, -PAD, 0)
            flags = Qt.AlignmentFlag.AlignVCenter | Qt.TextFlag.TextWordWrap
            painter.drawText(words, int(flags), self.text())
            if self.hasFocus():
                painter.setPen(QPen(QColor(room.focus), 2.0))
                painter.drawRect(face.adjusted(1, 1, -1, -1))

    def work_out(self) -> None:
        from isometron.deeds.drawing import drawing_of

        drawing_of(self.deed.key)

    def paint_drawing(self, painter: QPainter, box: QRectF) -> None:
        from isometron.deeds.drawing import drawing_of
        from isometron.render.small import paint_deed

        room = self.wishes.room
        painter.setOpacity(1.0 if self.isEnabled() else 0.45)
        ink = DARK if self.isChecked() else room.ink
        new = TEAL_INK if self.isChecked() else room.right
        paint_deed(painter, box, drawing_of(self.deed.key), ink, new)
