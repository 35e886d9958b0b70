"""A starter's short dialog: its numbers, a live picture, and the caution."""

import math
from collections.abc import Mapping
from dataclasses import replace

from PyQt6.QtCore import QSize, Qt
from PyQt6.QtWidgets import (
    QCheckBox,
    QDialog,
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QPushButton,
    QScrollArea,
    QStyle,
    QVBoxLayout,
    QWidget,
)

from isometron.deeds.drawing import STARTER, choice_key
from isometron.deeds.line import one_of
from isometron.document.document import Choices, Document
from isometron.document.edits.starters import CAUTION, Question, Starter, with_starter
from isometron.document.edits.starters.again import Opened, begin_again
from isometron.document.errors import ChoiceError
from isometron.framework.modules import Module
from isometron.perspective.errors import IsometronError
from isometron.perspective.lengths import UNIT_WORDS
from isometron.ui.bench.small_picture import SmallPicture
from isometron.ui.parts.card import soft_label
from isometron.ui.parts.drawn import DrawnChoice, InRoom
from isometron.ui.parts.fields import FIELDS, LengthField, NumberField, RatioField
from isometron.ui.parts.plain import Label
from isometron.ui.parts.shell import within_screen
from isometron.ui.parts.theme import SERIOUS, TITLE_PT, Room, font
from isometron.words import _, quoted

PICTURE = QSize(420, 330)
SMALLEST_PX = 110
"""The picture is at least so wide."""

FOOT_PX = 170
"""What title, caution and buttons take of a small screen at most."""

MOST_ROWS = 12
"""More questions than this stand in two columns."""


class StarterDialog(QDialog):
    """Asks for a starter's numbers. `values` are the answers."""

    def __init__(
        self,
        parent: QWidget,
        starter: Starter,
        room: Room,
        unit: str,
        again: tuple[Document, Opened] | None = None,
    ) -> None:
        """again: the sheet and what was begun on it, to be opened again."""
        super().__init__(parent)
        self.starter, self._again = starter, again
        self.values = starter.proposal if again is None else dict(again[1].answers)
        called = _("{name} starter") if again is None else _("{name}, opened again")
        self.setWindowTitle(called.format(name=_(starter.name)))
        self.fields: dict[str, NumberField] = {}
        self.choices: dict[str, DrawnChoice] = {}
        self._modules: tuple[Module, ...] = ()
        self.wrong = Label("")
        self.wrong.setWordWrap(True)
        self.wrong.setStyleSheet(f"color: {SERIOUS};")
        module = _(starter.module) if starter.counts else UNIT_WORDS[unit]
        title = Label(_("{name}, in {module}").format(name=_(starter.name), module=module))
        title.setFont(font(TITLE_PT, bold=True))
        body = self._body(self._form(room, unit))
        caution = soft_label(_(CAUTION))
        caution.setWordWrap(True)
        caution.setFont(font(italic=True))
        self.put = QPushButton(_("Put it on the sheet") if again is None else _("Change it"))
        self.put.setToolTip(
            _("Set these volumes on the ground; each can then be edited freely.")
            if again is None
            else _("Its parts follow these numbers; what you changed by hand stays.")
        )
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
        column.addWidget(body, 1)
        if again is not None and again[1].own:
            own = _("Changed by hand, and kept: {all}.").format(all="; ".join(again[1].own))
            kept = soft_label(own)
            kept.setWordWrap(True)
            column.addWidget(kept)
        column.addWidget(caution)
        column.addLayout(foot)
        self._redraw()
        self.resize(within_screen(self, self.sizeHint()))

    def _body(self, form: QGridLayout) -> QScrollArea:
        """The form with the live picture beside it, as large as the screen has room for; on a small
        one the form scrolls, and the buttons stay in sight."""
        held = QWidget()
        row = QHBoxLayout(held)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(16)
        row.addLayout(form)
        bar = self.style().pixelMetric(QStyle.PixelMetric.PM_ScrollBarExtent)  # type: ignore[union-attr]
        room = within_screen(self, QSize(10_000, 10_000))
        left = room.width() - form.sizeHint().width() - bar - 56
        wide = max(SMALLEST_PX, min(PICTURE.width(), left))
        size = QSize(wide, wide * PICTURE.height() // PICTURE.width())
        self.picture = SmallPicture(size, _("Picture of the framework"))
        row.addWidget(self.picture, 0, Qt.AlignmentFlag.AlignTop)
        area = QScrollArea()
        area.setFrameShape(QFrame.Shape.NoFrame)
        area.setWidgetResizable(True)
        area.setWidget(held)
        hint = held.sizeHint()
        high = min(hint.height(), room.height() - FOOT_PX)
        area.setMinimumHeight(min(high, hint.height()))
        area.setMinimumWidth(hint.width() + (bar if high < hint.height() else 0))
        area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        return area

    def _form(self, room: Room, unit: str) -> QGridLayout:
        """Its questions with their fields: what it is comes first, drawn."""
        grid = QGridLayout()
        grid.setVerticalSpacing(5)
        kinds = [question for question in self.starter.questions if question.choices]
        others = [question for question in self.starter.questions if not question.choices]
        columns = math.ceil(len(others) / MOST_ROWS)
        rows = math.ceil(len(others) / columns)
        for row, question in enumerate(kinds):
            grid.addWidget(self._choice(question, room), row, 0, 1, 2 * columns)
        for number, question in enumerate(others):
            place, row = divmod(number, rows)
            grid.addWidget(soft_label(_(question.name)), len(kinds) + row, 2 * place)
            asked = self._switch if question.kind == "yes" else self._field
            grid.addWidget(asked(question, room, unit), len(kinds) + row, 2 * place + 1)
        grid.setRowStretch(len(kinds) + rows, 1)
        return grid

    def _switch(self, question: Question, _room: Room, _unit: str) -> QCheckBox:
        """What is there or not."""
        box = QCheckBox()
        box.setObjectName(question.name)
        box.setAccessibleName(_(question.name))
        box.setToolTip(_(question.tip))
        box.setChecked(self.values[question.name] > 0)
        box.toggled.connect(lambda on: self._switched(box, question.name, on=on))
        return box

    def _choice(self, question: Question, room: Room) -> DrawnChoice:
        """One of a few kinds, each by its drawing."""
        key = f"{STARTER}{self.starter.name}"
        every = [
            (choice_key(key, question.name, number), _(words))
            for number, words in enumerate(question.choices)
        ]
        choice = DrawnChoice(InRoom(room), _(question.name), _(question.tip), every)
        choice.setObjectName(question.name)
        choice.show_chosen(round(self.values[question.name]) - 1)
        choice.chosen.connect(lambda number: self._chosen(choice, question.name, number))
        self.choices[question.name] = choice
        return choice

    def _chosen(self, choice: DrawnChoice, name: str, number: int) -> None:
        before = self.values
        self.values = {**before, name: number + 1.0}
        if not self._redraw():
            self.values = before
            choice.show_chosen(round(before[name]) - 1)

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
        field.show_value(self.values[question.name])
        field.typed.connect(lambda value: self._answer(question.name, float(value)))
        field.refused.connect(self.wrong.setText)
        field.returnPressed.connect(self.focusNextChild)
        self.fields[question.name] = field
        return field

    def fill(self, said: Mapping[str, str]) -> bool:
        """Fill in what is said in words, by the names of the questions; gives whether all of it
        can be, and says what cannot."""
        asked = {question.name: question for question in self.starter.questions}
        answers: dict[str, float] = {}
        for name in sorted(said, key=lambda name: asked[name].kind != "length"):
            try:
                answers[name] = self._read(asked[name], said[name])
                if asked[name].kind == "length" and self.values[name] == self._module():
                    first, *others = self._modules
                    self._modules = (replace(first, mm=answers[name]), *others)
            except IsometronError as error:
                field = self.fields.get(name)
                if field is not None:
                    field.setText(said[name])
                    field.keep_refused()
                self.wrong.setText(f"{_(name).capitalize()}: {error}")
                return False
        before, self.values = self.values, {**self.values, **answers}
        fits = self._redraw()
        for name, answer in answers.items():
            if name in self.fields:
                self.fields[name].show_value(answer)
            elif name in self.choices:
                self.choices[name].show_chosen(round(answer) - 1)
            else:
                box = self.findChild(QCheckBox, name)
                assert box is not None
                box.blockSignals(True)
                box.setChecked(answer > 0)
                box.blockSignals(False)
        if not fits:  # nothing of it is taken until it is mended
            self.values = before
            for name in answers.keys() & self.fields.keys():
                self.fields[name].setText(said[name])
                self.fields[name].keep_refused()
        return fits

    def _read(self, question: Question, words: str) -> float:
        if question.kind in FIELDS:
            return float(self.fields[question.name].read(words))  # type: ignore[arg-type]
        every = [_(one) for one in question.choices] or [_("no"), _("yes")]
        found = one_of(every, words)
        if found is None:
            told = _("“{value}” is none of these: {every}.")
            raise ChoiceError(told.format(value=quoted(words), every=", ".join(every)))
        return found + (1.0 if question.choices else 0.0)

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
            if self._again is None:
                shown = with_starter(blank, self.starter, self.values)
            else:
                document, opened = self._again
                shown = begin_again(document, opened.begun, self.starter, self.values)
            self.picture.show_sheet(shown)
        except IsometronError as error:
            self.wrong.setText(str(error))
            return False
        self.wrong.setText("")
        self._modules = modules
        return True
