"""What to begin with: starters as drawings, each with its name when it is pointed at."""

from PyQt6.QtCore import QEvent, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QEnterEvent, QFocusEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QGridLayout, QSizePolicy, QVBoxLayout, QWidget

from isometron.document.edits.starters import STARTERS
from isometron.render.painter import painting_on
from isometron.ui.parts.card import soft_label
from isometron.ui.parts.drawn import DrawnButton
from isometron.ui.parts.theme import scaled
from isometron.ui.parts.wishes import Wishes
from isometron.words import _

STARTER = "starter "
COLUMNS, HIGH = 5, 36
BEGIN = _("Begin with a few numbers:")


class StarterTile(DrawnButton):
    """One starter, drawn from what it proposes. Says `pointed` with its name, or with nothing."""

    pointed = pyqtSignal(str)

    def __init__(self, wishes: Wishes, number: int) -> None:
        super().__init__(wishes)
        self._key, name = f"{STARTER}{STARTERS[number].name}", _(STARTERS[number].name)
        self.words = name
        self.setAccessibleName(name)
        self.setToolTip(_("Begin a {name} from a few numbers.").format(name=name.lower()))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
        self.clicked.connect(lambda _on=False: wishes.do(f"starter {STARTERS[number].name}"))

    def sizeHint(self) -> QSize:
        return QSize(scaled(42), scaled(HIGH))

    def enterEvent(self, event: QEnterEvent | None) -> None:
        super().enterEvent(event)
        self.pointed.emit(self.words)

    def leaveEvent(self, event: QEvent | None) -> None:
        super().leaveEvent(event)
        self.pointed.emit("")

    def focusInEvent(self, event: QFocusEvent | None) -> None:
        super().focusInEvent(event)
        self.pointed.emit(self.words)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        room, face = self.wishes.room, QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5)
        with painting_on(self) as painter:
            painter.fillRect(face, QColor(room.hover if self.underMouse() else room.field))
            painter.setPen(QPen(QColor(room.field_line), 1.0))
            painter.drawRect(face)
            self.paint_when_drawn(painter, face.adjusted(3, 3, -3, -3))
            if self.hasFocus():
                painter.setPen(QPen(QColor(room.focus), 2.0))
                painter.drawRect(face.adjusted(1, 1, -1, -1))

    def work_out(self) -> None:
        from isometron.deeds.drawing import drawing_of

        drawing_of(self._key)

    def paint_drawing(self, painter: QPainter, box: QRectF) -> None:
        from isometron.deeds.drawing import drawing_of
        from isometron.render.small import paint_deed

        room = self.wishes.room
        paint_deed(painter, box, drawing_of(self._key), room.ink, room.right)


class Starters(QWidget):
    """All starters, and the name of the one that is pointed at."""

    def __init__(self, wishes: Wishes) -> None:
        super().__init__()
        self.told = soft_label(BEGIN)
        grid = QGridLayout()
        grid.setSpacing(4)
        for number in range(len(STARTERS)):
            tile = StarterTile(wishes, number)
            tile.pointed.connect(lambda name: self.told.setText(name or BEGIN))
            grid.addWidget(tile, *divmod(number, COLUMNS))
        for column in range(COLUMNS):
            grid.setColumnStretch(column, 1)
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 4, 0, 0)
        box.setSpacing(3)
        box.addWidget(self.told)
        box.addLayout(grid)
