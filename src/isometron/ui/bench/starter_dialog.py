"""A starter's short dialog: its numbers, a live picture, and the caution."""

from PyQt6.QtCore import QRectF, QSize
from PyQt6.QtGui import QColor, QPainter, QPaintEvent
from PyQt6.QtWidgets import (
    QDialog,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from isometron.document.document import Choices, Document
from isometron.document.edits.starters import CAUTION, Question, Starter, with_starter
from isometron.drawing.layers import HIDDEN, OBJECT
from isometron.drawing.scene import Scene, scene_of
from isometron.perspective.errors import IsometronError
from isometron.render.painter import paint_arcs, paint_lines, pen_of
from isometron.render.view import View
from isometron.ui.parts.card import soft_label
from isometron.ui.parts.fields import FIELDS, LengthField, NumberField
from isometron.ui.parts.theme import PAPER, SERIOUS, TITLE_PT, Room, font
from isometron.words import _

PICTURE = QSize(420, 330)
PX_PER_MM = 2.2


class StarterPicture(QWidget):
    """What the answers give, drawn small on paper."""

    def __init__(self) -> None:
        super().__init__()
        self.setFixedSize(PICTURE)
        self.setAccessibleName(_("Picture of the framework"))
        self._scene: Scene | None = None

    def show_scene(self, scene: Scene) -> None:
        """Show a scene, filling the paper."""
        self._scene = scene
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), QColor(PAPER))
        if self._scene is not None and self._scene.pictures:
            bounds = [p.bounds for p in self._scene.pictures]
            left, bottom = min(b[0] for b in bounds), min(b[1] for b in bounds)
            right, top = max(b[2] for b in bounds), max(b[3] for b in bounds)
            across, down = round(0.06 * self.width()), round(0.06 * self.height())
            box = QRectF(self.rect()).adjusted(across, down, -across, -down)
            view = View.fit((left, bottom, right, top), box)
            for picture in self._scene.pictures:
                hidden, seen = pen_of(HIDDEN.pencil, 3.0), pen_of(OBJECT.pencil, 3.0)
                paint_lines(painter, view, picture.hidden_lines, hidden)
                paint_lines(painter, view, picture.seen_lines, seen)
                paint_arcs(painter, view, picture.curves_drawn("hidden"), hidden)
                paint_arcs(painter, view, picture.curves_drawn("seen"), seen)
        painter.end()


class StarterDialog(QDialog):
    """Asks for a starter's numbers. `values` are the answers."""

    def __init__(self, parent: QWidget, starter: Starter, room: Room, unit: str) -> None:
        super().__init__(parent)
        self.starter, self.values = starter, starter.proposal
        self.setWindowTitle(_("{name} starter").format(name=_(starter.name)))
        self.fields: dict[str, NumberField] = {}
        self.wrong = QLabel("")
        self.wrong.setWordWrap(True)
        self.wrong.setStyleSheet(f"color: {SERIOUS};")
        title = QLabel(
            _("{name}, in {module}").format(name=_(starter.name), module=_(starter.module))
        )
        title.setFont(font(TITLE_PT, bold=True))
        grid = QGridLayout()
        grid.setVerticalSpacing(5)
        for row, question in enumerate(starter.questions):
            grid.addWidget(soft_label(_(question.name)), row, 0)
            grid.addWidget(self._field(question, room, unit), row, 1)
        grid.setRowStretch(len(starter.questions), 1)
        self.picture = StarterPicture()
        body = QHBoxLayout()
        body.setSpacing(16)
        body.addLayout(grid)
        body.addWidget(self.picture)
        caution = soft_label(_(CAUTION))
        caution.setWordWrap(True)
        caution.setFont(font(italic=True))
        self.put = QPushButton(_("Put it on the sheet"))
        self.put.setToolTip(_("Set these volumes on the ground; each can then be edited freely."))
        self.put.clicked.connect(self.accept)
        back = QPushButton(_("Go back"))
        back.setToolTip(_("Leave the sheet as it is."))
        back.clicked.connect(self.reject)
        self.put.setDefault(True)
        foot = QHBoxLayout()
        foot.addWidget(self.wrong, 1)
        foot.addWidget(back)
        foot.addWidget(self.put)
        column = QVBoxLayout(self)
        column.setContentsMargins(18, 14, 18, 14)
        column.setSpacing(10)
        column.addWidget(title)
        column.addLayout(body)
        column.addWidget(caution)
        column.addLayout(foot)
        self._redraw()

    def _field(self, question: Question, room: Room, unit: str) -> NumberField:
        field = FIELDS[question.kind](_(question.name), _(question.tip))
        field.setObjectName(question.name)
        field.setFixedWidth(104)
        field.room = room
        if isinstance(field, LengthField):
            field.show_unit(unit)
        field.show_value(question.proposed)
        field.typed.connect(lambda value: self._answer(question.name, float(value)))
        field.refused.connect(self.wrong.setText)
        self.fields[question.name] = field
        return field

    def _answer(self, name: str, value: float) -> None:
        before = self.values
        self.values = {**before, name: value}
        if not self._redraw():
            self.values = before
        self.fields[name].show_value(self.values[name])

    def _redraw(self) -> bool:
        blank = Document(choices=Choices(see_through=False))
        try:
            self.picture.show_scene(scene_of(with_starter(blank, self.starter, self.values)))
        except IsometronError as error:
            self.wrong.setText(str(error))
            return False
        self.wrong.setText("")
        return True
