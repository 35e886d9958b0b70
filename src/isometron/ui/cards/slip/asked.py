"""The field in which a parameter of a deed is given."""

from collections.abc import Callable
from functools import partial
from typing import Any

from PyQt6.QtWidgets import QLineEdit, QSizePolicy, QWidget

from isometron.deeds.deed import Given, Measured, Parameter
from isometron.deeds.drawing import choice_key
from isometron.deeds.line import one_of
from isometron.document.document import Document
from isometron.document.edits import proportioning
from isometron.perspective.errors import VolumeError
from isometron.perspective.lengths import TypedAngle
from isometron.ui.parts.drawn import show_drawings
from isometron.ui.parts.fields import (
    AngleField,
    Choice,
    CountField,
    DimensionField,
    LeanField,
    LengthField,
    NumberField,
    ShareField,
    TextField,
)
from isometron.ui.parts.page import list_anew
from isometron.ui.parts.wishes import Wishes
from isometron.words import _, quoted

FIELD_OF: dict[Measured, type[NumberField]] = {
    Measured.LENGTH: LengthField,
    Measured.ANGLE: AngleField,
    Measured.COUNT: CountField,
    Measured.SHARE: ShareField,
    Measured.SIDE: DimensionField,
    Measured.LEAN: LeanField,
}

LEAST_WIDE = 40
"""A field takes what width there is, but no less than this, px."""

AXIS_OF_SIDE = {"width": 0, "depth": 1, "height": 2}


class Asked:
    """One parameter and its field. `typed` is called with every value that is given whole, `edited`
    while one is being given; keeps: whether what is given stays until the deed is done."""

    def __init__(
        self,
        parameter: Parameter,
        wishes: Wishes,
        typed: Callable[["Asked", Any], object],
        edited: Callable[[], object] = lambda: None,
        *,
        keeps: bool = False,
        of: str = "",
    ) -> None:
        """of: the key of the deed that asks for it, where its choices are to be drawn."""
        self.parameter, self._keeps, self._of = parameter, keeps, of
        self._value: Any = None
        self.widget = self._made(wishes, typed, edited)
        self.widget.setObjectName(parameter.key)
        self.widget.setMinimumWidth(LEAST_WIDE)
        self.widget.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)

    def _made(
        self,
        wishes: Wishes,
        typed: Callable[["Asked", Any], object],
        edited: Callable[[], object],
    ) -> QWidget:
        one = self.parameter
        if one.measured in (Measured.CHOICE, Measured.LISTED):
            choice = Choice(one.called, one.tip, [_(words) for words in one.choices])
            choice.activated.connect(lambda _n: typed(self, self.value))
            if self._of and one.choices:
                keys = [choice_key(self._of, one.key, n) for n in range(len(one.choices))]
                show_drawings(choice, keys, wishes.room)
            return choice
        if one.measured is Measured.WORDS:
            words = TextField(one.called, one.tip)
            words.typed.connect(lambda text: typed(self, text))
            words.textEdited.connect(lambda _text: edited())
            return words
        field = FIELD_OF[one.measured](one.called, one.tip)
        field.room = wishes.room
        if isinstance(field, LengthField):
            field.upright = one.upright
        field.refused.connect(wishes.refuse)
        field.typed.connect(partial(self._take, typed))
        field.textEdited.connect(lambda _text: edited())
        field.keeps_words = self._keeps and one.measured is Measured.LEAN
        return field

    def _take(self, typed: Callable[["Asked", Any], object], value: Any) -> None:
        self._value = value
        if self._keeps and isinstance(value, float | int) and isinstance(self.widget, NumberField):
            self.widget.show_value(float(value))
        typed(self, value)

    @property
    def value(self) -> Any:
        """What stands in the field, as a deed is given it. Raises LengthError for what cannot be
        read."""
        widget = self.widget
        if isinstance(widget, Choice):
            listed = self.parameter.measured is Measured.LISTED
            return widget.currentData() if listed else widget.currentIndex()
        if isinstance(widget, TextField):
            return widget.text()
        assert isinstance(widget, NumberField)
        if widget.isModified() or widget.kept:
            return widget.read(widget.text())
        return widget.value if self._value is None else self._value

    def write(self, text: str) -> None:
        """Fill it in as if it had been typed: one of a choice by its words or how they begin.
        Raises VolumeError for what there is none of."""
        widget = self.widget
        if isinstance(widget, Choice):
            every = [widget.itemText(n) for n in range(widget.count())]
            found = one_of(every, text)
            if found is None:
                raise VolumeError(
                    _("“{value}” is none of these: {every}.").format(
                        value=quoted(text), every=", ".join(every)
                    )
                )
            widget.setCurrentIndex(found)
        elif isinstance(widget, QLineEdit):
            widget.setText(text)
            widget.setModified(True)

    def offer(self, document: Document) -> None:
        """Offer what the sheet has now."""
        if isinstance(self.widget, Choice) and self.parameter.offers is not None:
            list_anew(self.widget, list(self.parameter.offers(document)))

    def show(self, document: Document, value: Any, family: str = "") -> None:
        """Show a value, in the terms of a document (None: there is none)."""
        widget, self._value = self.widget, None
        if isinstance(widget, NumberField):
            widget.family = family
            if isinstance(widget, LengthField):
                self._speak(widget, document)
            if isinstance(value, TypedAngle):
                return
            widget.show_value(value)
        elif isinstance(widget, TextField):
            widget.show_text(value)
        elif isinstance(widget, Choice):
            if value is not None:
                number = widget.findData(value) if self.parameter.offers else round(value)
                widget.setCurrentIndex(max(number, 0))
            widget.setEnabled(widget.count() > 0 and (value is not None or not self.parameter.now))

    def _speak(self, widget: LengthField, document: Document) -> None:
        """Lengths in the unit of a sheet, and by the names it knows."""
        widget.show_unit(document.choices.unit)
        widget.known = partial(proportioning.known_lengths, document, 2 if widget.upright else 0)
        axis = AXIS_OF_SIDE.get(self.parameter.key)
        if isinstance(widget, DimensionField) and axis is not None:
            volume = document.volume
            widget.show_count(volume.counts[axis] if volume else None)
            widget.reads = partial(proportioning.read_side, document, axis)


def proposed(parameter: Parameter, document: Document, given: Given) -> Any:
    """What a field begins with: what is so now, else what the deed proposes."""
    return parameter.default if parameter.now is None else parameter.now(document, given)
