"""A starter's short dialog: its numbers, a live picture, and the caution."""

import math

from PyQt6.QtCore import QSize
from PyQt6.QtWidgets import (
    QCheckBox,
    QDialog,
    QGridLayout,
    QHBoxLayout,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from isometron.document.document import Choices, Document
from isometron.document.edits.starters import CAUTION, Question, Starter, with_starter
from isometron.framework.modules import Module
from isometron.perspective.errors import IsometronError
from isometron.perspective.lengths import UNIT_WORDS
from isometron.ui.bench.small_picture import SmallPicture
from isometron.ui.parts.card import soft_label
from isometron.ui.parts.fields import FIELDS, LengthField, NumberField, RatioField
from isometron.ui.parts.plain import Label
from isometron.ui.parts.theme import SERIOUS, TITLE_PT, Room, font
from isometron.words import _

PICTURE = QSize(420, 330)
MOST_ROWS = 12
"""More questions than this stand in two columns."""


class StarterDialog(QDialog):
    """Asks for a starter's numbers. `values` are the answers."""

    def __init__(self, parent: QWidget, starter: Starter, room: Room, unit: str) -> None:
        super().__init__(parent)
        self.starter, self.values = starter, starter.proposal
        self.setWindowTitle(_("{name} starter").format(name=_(starter.name)))
        self.fields: dict[str, NumberField] = {}
        self._modules: tuple[Module, ...] = ()
        self.wrong = Label("")
        self.wrong.setWordWrap(True)
        self.wrong.setStyleSheet(f"color: {SERIOUS};")
        module = _(starter.module) if starter.counts else UNIT_WORDS[unit]
        title = Label(_("{name}, in {module}").format(name=_(starter.name), module=module))
        title.setFont(font(TITLE_PT, bold=True))
        grid = QGridLayout()
        grid.setVerticalSpacing(5)
        columns = math.ceil(len(starter.questions) / MOST_ROWS)
        rows = math.ceil(len(starter.questions) / columns)
        for number, question in enumerate(starter.questions):
            place, row = divmod(number, rows)
            grid.addWidget(soft_label(_(question.name)), row, 2 * place)
            asked = self._switch if question.kind == "yes" else self._field
            grid.addWidget(asked(question, room, unit), row, 2 * place + 1)
        grid.setRowStretch(rows, 1)
        self.picture = SmallPicture(PICTURE, _("Picture of the framework"))
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
        for button in (self.put, back):
            button.setAutoDefault(False)  # Return moves on; only the button sets down
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

    def _switch(self, question: Question, _room: Room, _unit: str) -> QCheckBox:
        """What is there or not."""
        box = QCheckBox()
        box.setObjectName(question.name)
        box.setAccessibleName(_(question.name))
        box.setToolTip(_(question.tip))
        box.setChecked(question.proposed > 0)
        box.toggled.connect(lambda on: self._switched(box, question.name, on=on))
        return box

    def _switched(self, box: QCheckBox, name: str, *, on: bool) -> None:
        before = self.values
        self.values = {**before, name: float(on)}
        if not self._redraw():
            self.values = before
            box.blockSignals(True)
            box.setChecked(not on)
            box.blockSignals(False)

    def _field(self, question: Question, room: Room, unit: str) -> NumberField:
        field = FIELDS[question.kind](_(question.name), _(question.tip))
        field.setObjectName(question.name)
        field.setFixedWidth(104)
        field.room = room
        if isinstance(field, LengthField):
            field.show_unit(unit)
            field.known = self._known
        if isinstance(field, RatioField):
            field.module_mm = self._module
        field.show_value(question.proposed)
        field.typed.connect(lambda value: self._answer(question.name, float(value)))
        field.refused.connect(self.wrong.setText)
        field.returnPressed.connect(self.focusNextChild)
        self.fields[question.name] = field
        return field

    def _module(self) -> float:
        return self._modules[0].mm if self._modules else 0.0

    def _known(self) -> dict[str, float]:
        """The lengths that may be spoken of by name, mm: its modules and its answers."""
        per = {"length": 1.0, "ratio": self._module()}
        known = {
            question.name: self.values[question.name] * per[question.kind]
            for question in self.starter.questions
            if question.kind in per and " " not in question.name
        }
        return known | {module.name: module.mm for module in self._modules}

    def _answer(self, name: str, value: float) -> None:
        before, field = self.values, self.fields[name]
        kept = self._lengths_kept(name, value)
        self.values = {**before, name: value, **kept}
        if self._redraw():
            for shown, answer in {name: value, **kept}.items():
                self.fields[shown].show_value(answer)
            return
        self.values = before
        self.wrong.setText(f"{_(name).capitalize()}: {self.wrong.text()}")
        field.keep_refused()

    def _lengths_kept(self, name: str, value: float) -> dict[str, float]:
        """What was typed as lengths, counted in the module as it becomes with an answer."""
        module = self._module()
        if isinstance(self.fields[name], RatioField) or self.values[name] != module or value <= 0:
            return {}
        return {
            other: self.values[other] * module / value
            for other, field in self.fields.items()
            if isinstance(field, RatioField) and field.as_length
        }

    def _redraw(self) -> bool:
        blank = Document(choices=Choices(see_through=False))
        try:
            modules = self.starter.make(self.values)[0]
            self.picture.show_sheet(with_starter(blank, self.starter, self.values))
        except IsometronError as error:
            self.wrong.setText(str(error))
            return False
        self.wrong.setText("")
        self._modules = modules
        return True
