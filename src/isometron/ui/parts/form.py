"""Rows of a card: a label and one or two number fields, each wired to an edit."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtWidgets import QGridLayout, QLabel, QWidget

from isometron.document.document import Document
from isometron.ui.parts.card import soft_label
from isometron.ui.parts.fields import (
    AngleField,
    CountField,
    DimensionField,
    LeanField,
    LengthField,
    NumberField,
    RatioField,
    ScaleField,
    ShareField,
)
from isometron.ui.parts.theme import Room, font

LABEL_WIDTH = 98
FIELDS: dict[str, type[NumberField]] = {
    "length": LengthField,
    "angle": AngleField,
    "scale": ScaleField,
    "dimension": DimensionField,
    "lean": LeanField,
    "count": CountField,
    "share": ShareField,
    "ratio": RatioField,
}


@dataclass(frozen=True)
class Entry:
    """One field: its name for assistive technology, a whole-sentence tip, its kind in FIELDS, how
    its number is read from a document, and the edit that a typed number means."""

    name: str
    tip: str
    kind: str
    value: Callable[[Document], float | None]
    edit: Callable[[Document, Any], Document]


class Form(QObject):
    """Labelled rows of entries. Emits `wanted` (name, edit) and `refused` (sentence)."""

    wanted = pyqtSignal(str, object)
    refused = pyqtSignal(str)

    def __init__(self) -> None:
        super().__init__()
        self.grid = QGridLayout()
        self.grid.setHorizontalSpacing(5)
        self.grid.setVerticalSpacing(4)
        self.grid.setColumnMinimumWidth(0, LABEL_WIDTH)
        self.grid.setColumnStretch(1, 1)
        self.grid.setColumnStretch(2, 1)
        self._fields: list[tuple[Entry, NumberField]] = []

    def heading(self, words: str) -> None:
        """Add a small heading between rows."""
        label = QLabel(words)
        label.setFont(font(bold=True))
        label.setContentsMargins(0, 7, 0, 0)
        self.grid.addWidget(label, self.grid.rowCount(), 0, 1, 3)

    def row(
        self,
        label: str,
        *entries: Entry,
        beside: QWidget | None = None,
        spacious: bool = False,
    ) -> list[NumberField]:
        """Add a row of one or two entries.

        A single entry spans both field columns unless something stands beside it. Two lengths leave
        their unit out unless the row is spacious.
        """
        at = self.grid.rowCount()
        fields: list[NumberField] = []
        self.grid.addWidget(soft_label(label), at, 0)
        for column, entry in enumerate(entries, start=1):
            field = FIELDS[entry.kind](entry.name, entry.tip)
            field.setObjectName(entry.name)
            field.refused.connect(self.refused)
            field.typed.connect(
                lambda value, entry=entry: self.wanted.emit(
                    entry.name, lambda document: entry.edit(document, value)
                )
            )
            if isinstance(field, LengthField):
                field.terse = len(entries) == 2 and not spacious
            wide = len(entries) == 1 and beside is None
            self.grid.addWidget(field, at, column, 1, 2 if wide else 1)
            self._fields.append((entry, field))
            fields.append(field)
        if beside is not None:
            self.grid.addWidget(beside, at, 2)
        return fields

    def show_document(self, document: Document, room: Room) -> None:
        """Show the numbers of a document."""
        for entry, field in self._fields:
            if isinstance(field, LengthField):
                field.show_unit(document.choices.unit)
            field.room = room
            field.show_value(entry.value(document))
