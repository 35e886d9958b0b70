"""One page of the Volumes card: rows that show the volume in work, and acts with their measures."""

from collections.abc import Callable

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QComboBox, QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from isometron.document.document import Document
from isometron.drawing.readings import Pick
from isometron.drawing.scene import Scene
from isometron.framework.volume import Volume
from isometron.perspective.errors import IsometronError
from isometron.ui.parts.card import soft_label
from isometron.ui.parts.fields import Choice, LengthField, NumberField
from isometron.ui.parts.form import FIELDS, LABEL_WIDTH, Form
from isometron.ui.parts.theme import Room, font

Edit = Callable[[Document], Document]

SIDES = ("front", "back", "left", "right", "top", "base")
FACE_OF = {"left": 0, "right": 1, "front": 2, "back": 3, "base": 4, "top": 5}
"""Sides of a volume by their words, as faces of its box."""


class Page(QWidget):
    """A page: emits `wanted` (name, edit) and `refused` (sentence), and while something on it is
    dragged, `dragged` (edit) and `dropped` (name)."""

    wanted = pyqtSignal(str, object)
    refused = pyqtSignal(str)
    dragged = pyqtSignal(object)
    dropped = pyqtSignal(str)

    def __init__(self) -> None:
        super().__init__()
        self.column = QVBoxLayout(self)
        self.column.setContentsMargins(0, 2, 0, 0)
        self.column.setSpacing(4)
        self.form = Form()
        self.form.wanted.connect(self.wanted)
        self.form.refused.connect(self.refused)
        self.pick: Pick | None = None
        self.needs_volume: list[QWidget] = []
        self._own: list[NumberField] = []

    def act(self, text: str, tip: str, name: str, edit: Callable[[], Edit]) -> QPushButton:
        """A button that does one edit; `edit` is asked for when it is pressed."""
        button = QPushButton(text)
        button.setToolTip(tip)
        button.setAccessibleDescription(tip)
        button.clicked.connect(lambda: self._do(name, edit))
        self.needs_volume.append(button)
        return button

    def _do(self, name: str, edit: Callable[[], Edit]) -> None:
        try:
            done = edit()
        except IsometronError as error:
            self.refused.emit(str(error))
            return
        self.wanted.emit(name, done)

    def measure(self, kind: str, name: str, tip: str, value: float) -> NumberField:
        """A field whose number belongs to an act of this page, not to the sheet."""
        field = FIELDS[kind](name, tip)
        field.setObjectName(name)
        field.show_value(value)
        field.refused.connect(self.refused)
        field.typed.connect(field.show_value)
        self._own.append(field)
        self.needs_volume.append(field)
        return field

    def choice(self, name: str, tip: str, items: list[str]) -> Choice:
        """A choice that belongs to an act of this page."""
        made = Choice(name, tip, items)
        self.needs_volume.append(made)
        return made

    def row(self, label: str, *widgets: QWidget) -> None:
        """A labelled row of widgets."""
        row = QHBoxLayout()
        row.setSpacing(5)
        if label:
            words = soft_label(label)
            words.setFixedWidth(LABEL_WIDTH)
            row.addWidget(words)
        for widget in widgets:
            row.addWidget(widget, 1)
        self.column.addLayout(row)

    def heading(self, words: str) -> QLabel:
        """A small heading."""
        label = QLabel(words)
        label.setFont(font(bold=True))
        label.setContentsMargins(0, 5, 0, 0)
        self.column.addWidget(label)
        return label

    def show_document(
        self, document: Document, scene: Scene, families: tuple[str, str, str], room: Room
    ) -> None:
        """Show the numbers of a document."""
        self.form.show_document(document, room)
        for field in self._own:
            field.room = room
            if isinstance(field, LengthField):
                field.show_unit(document.choices.unit)
                field.show_value(field.value)
        for widget in self.needs_volume:
            widget.setEnabled(document.volume is not None)


def list_others(choice: QComboBox, document: Document, first: str | None) -> None:
    """The volumes that are not in work, to choose from; the choice made is kept."""
    items: list[tuple[str, int | None]] = [(first, None)] if first else []
    items += [(v.name, i) for i, v in enumerate(document.volumes) if i != document.selected]
    if [(choice.itemText(i), choice.itemData(i)) for i in range(choice.count())] == items:
        return
    before = choice.currentText()
    choice.clear()
    for words, data in items:
        choice.addItem(words, data)
    choice.setCurrentIndex(max(choice.findText(before), 0))


def proportion_of(volume: Volume) -> str:
    """Width : depth : height, the height being 1."""
    return " : ".join(f"{side / volume.height_mm:.3g}" for side in volume.sides)
