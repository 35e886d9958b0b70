"""What to begin with: starters as drawings, each with its name when it is pointed at."""

from PyQt6.QtCore import QEvent, QSize, pyqtSignal
from PyQt6.QtGui import QEnterEvent, QFocusEvent, QPaintEvent
from PyQt6.QtWidgets import QGridLayout, QVBoxLayout, QWidget

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
        name = _(STARTERS[number].name)
        tip = _("Begin a {name} from a few numbers.").format(name=name.lower())
        super().__init__(wishes, f"{STARTER}{STARTERS[number].name}", name, tip)
        self.words = name
        self.clicked.connect(lambda _on=False: wishes.do(f"starter {STARTERS[number].name}"))

    def sizeHint(self) -> QSize:
        """A drawing needs no more room where the text is larger."""
        return QSize(scaled(42), HIGH)

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
        room = self.wishes.room
        with painting_on(self) as painter:
            face = self.paint_card(painter, room.hover if self.underMouse() else room.field)
            self.paint_drawing(painter, face.adjusted(3, 3, -3, -3))
            self.paint_focus(painter, face)


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
