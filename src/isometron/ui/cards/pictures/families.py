"""The families of a picture as rows: their pencil, how many lines run with them, taken or left."""

from PyQt6.QtCore import QPointF, QRectF, QSize
from PyQt6.QtGui import QColor, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from isometron.document.edits.pictures.marking import leave_family
from isometron.document.marks import FAMILIES
from isometron.document.picture import SheetPicture
from isometron.reading.of_picture import STRAY
from isometron.ui.board.pictures.painting import PENCILS, mark_at_end
from isometron.ui.parts.card import Shown
from isometron.ui.parts.theme import FELT_OBJECT, ROW, family_colour, scaled
from isometron.ui.parts.wishes import Wishes
from isometron.words import _, many


def families_of(picture: SheetPicture) -> list[str]:
    """Families that edges of a picture run with: those of the thing first, stray lines left out."""
    names = {edge.family for edge in picture.edges} - {STRAY}
    return [n for n in FAMILIES if n in names] + sorted(names - set(FAMILIES))


class Swatch(QWidget):
    """The pencil of a family with its end mark."""

    def __init__(self, wishes: Wishes, family: str) -> None:
        super().__init__()
        self._wishes, self._family = wishes, family
        self.setFixedSize(scaled(34), scaled(20))

    def sizeHint(self) -> QSize:
        return QSize(scaled(34), scaled(20))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        pencil = PENCILS.get(self._family)
        colour = QColor(FELT_OBJECT) if pencil is None else family_colour(self._wishes.room, pencil)
        painter.setPen(QPen(colour, 2.0))
        box = QRectF(self.rect())
        middle = box.center().y()
        painter.drawLine(QPointF(2, middle), QPointF(box.right() - 12, middle))
        for x0, y0, x1, y1 in (mark_at_end(self._family) * 8.0).tolist():
            end = QPointF(box.right() - 7, middle)
            painter.drawLine(end + QPointF(x0, -y0), end + QPointF(x1, -y1))
        painter.end()


class FamilyList(QWidget):
    """One row for each family; a press takes or leaves it."""

    def __init__(self, wishes: Wishes) -> None:
        super().__init__()
        self.wishes = wishes
        self.buttons: dict[str, QPushButton] = {}
        self._column = QVBoxLayout(self)
        self._column.setContentsMargins(0, 0, 0, 0)
        self._column.setSpacing(3)
        self._rows: list[QWidget] = []

    def show_document(self, shown: Shown) -> None:
        """The families of the picture in work."""
        picture = shown.document.photograph
        names = [] if picture is None else families_of(picture)
        if names != list(self.buttons):
            self._lay(names)
        if picture is None:
            return
        for name, button in self.buttons.items():
            every = [edge for edge in picture.edges if edge.family == name]
            taken = sum(not edge.left for edge in every)
            words = many("{n} line", "{n} lines", taken).format(n=taken)
            button.setText(f"{_(name)}   {words}")
            button.setChecked(taken > 0)

    def _lay(self, names: list[str]) -> None:
        for row in self._rows:
            self._column.removeWidget(row)
            row.hide()
            row.deleteLater()
        self._rows, self.buttons = [], {}
        for name in names:
            row = QWidget()
            line = QHBoxLayout(row)
            line.setContentsMargins(0, 0, 0, 0)
            line.setSpacing(6)
            line.addWidget(Swatch(self.wishes, name))
            button = QPushButton()
            button.setCheckable(True)
            button.setMinimumHeight(scaled(ROW - 2))
            tip = _("Take the whole family into the reading, or leave it out.")
            button.setToolTip(tip)
            button.setAccessibleDescription(tip)
            button.clicked.connect(lambda on, n=name: self._leave(n, not on))
            line.addWidget(button, 1)
            self.buttons[name] = button
            self._rows.append(row)
            self._column.addWidget(row)

    def _leave(self, family: str, left: bool) -> None:
        name = _("leave a family out") if left else _("take a family in")
        self.wishes.edit(name, lambda d: leave_family(d, family, left))


def choices_of(picture: SheetPicture) -> list[str]:
    """Families a mark can be given: those of the thing, and those there are."""
    return [*FAMILIES, *(n for n in families_of(picture) if n not in FAMILIES)]
