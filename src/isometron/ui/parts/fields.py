"""Fields that take numbers as people write them."""

from collections.abc import Callable, Mapping

from PyQt6.QtCore import QEvent, QPointF, Qt, pyqtSignal
from PyQt6.QtGui import (
    QColor,
    QFocusEvent,
    QKeyEvent,
    QKeySequence,
    QPainter,
    QPaintEvent,
    QPalette,
    QPolygonF,
    QResizeEvent,
)
from PyQt6.QtWidgets import QComboBox, QLineEdit

from isometron.framework.modules import Count, NewModule, read_dimension, write_count
from isometron.perspective.errors import IsometronError, LengthError
from isometron.perspective.lengths import (
    MM_PER,
    TypedAngle,
    read_angle,
    read_fraction,
    read_length,
    read_scale,
    write_angle,
    write_length,
    write_scale,
    write_share,
)
from isometron.perspective.reckoning import UnknownWordError, reckon, reckon_number
from isometron.ui.parts.theme import FIELD, Room, family_colour, scaled
from isometron.words import _, quoted

STEP_MM = 5.0
FINE_STEP_MM = 0.05
STEP_DEG = 1.0
FRAME_PX = 12


UNDOING = (QKeySequence.StandardKey.Undo, QKeySequence.StandardKey.Redo)
TYPING = (
    *(QKeySequence.StandardKey.Copy, QKeySequence.StandardKey.Cut),
    *(QKeySequence.StandardKey.Paste, QKeySequence.StandardKey.SelectAll),
    *UNDOING,
)
MOVING = (
    *(Qt.Key.Key_Left, Qt.Key.Key_Right, Qt.Key.Key_Home, Qt.Key.Key_End),
    *(Qt.Key.Key_Backspace, Qt.Key.Key_Delete),
)


def _commands(event: QKeyEvent) -> bool:
    """Whether keys pressed in a field belong to the commands: with Ctrl or Alt, and neither for
    editing nor for moving in the words."""
    held = Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.AltModifier
    both = event.modifiers() & held == held  # AltGr, with which letters are typed
    if not event.modifiers() & held or both or event.key() in MOVING:
        return False
    return not any(event.matches(one) for one in TYPING)


def _undoes(event: QKeyEvent) -> bool:
    """Whether keys ask to undo or to do again."""
    return any(event.matches(one) for one in UNDOING)


Typed = float | Count | TypedAngle | NewModule


class Typing(QLineEdit):
    """A field that is typed into. Keys that are no typing are left to the commands, whatever the
    desktop would make of them in a field; so are Undo and Redo while nothing has been typed. What
    is refused stays in the field, marked, until Escape, or until something else is shown."""

    kept = False
    """Whether what was typed has been refused and stays."""

    def keep_refused(self) -> None:
        """Keep what was typed, marked as refused."""
        self.kept = True
        self._mark(wrong=True)

    def _mark(self, *, wrong: bool) -> None:
        if bool(self.property("wrong")) != wrong:
            self.setProperty("wrong", wrong)
            self.style().unpolish(self)  # type: ignore[union-attr]
            self.style().polish(self)  # type: ignore[union-attr]

    def event(self, event: QEvent | None) -> bool:
        shortcut = event is not None and event.type() == QEvent.Type.ShortcutOverride
        if (
            shortcut
            and isinstance(event, QKeyEvent)
            and (_commands(event) or (not self.isModified() and _undoes(event)))
        ):
            event.ignore()
            return False
        return super().event(event)


class NumberField(Typing):
    """A field holding one number. Emits `typed` when the person has changed it, `refused` with a
    sentence when what was typed is no number. Up and Down step it."""

    typed = pyqtSignal(object)
    refused = pyqtSignal(str)

    def __init__(self, name: str, tip: str) -> None:
        super().__init__()
        self.setAccessibleName(name)
        self.setToolTip(tip)
        self.setStatusTip(tip)
        self.setAlignment(Qt.AlignmentFlag.AlignRight)
        self.setFixedHeight(scaled(FIELD))
        self._value: float | None = None
        self.family = self.caption = ""
        self.keeps_words = False
        """Whether what is typed stands as it was typed until another number is shown."""
        self.room: Room | None = None
        self.editingFinished.connect(self._finish)

    @property
    def value(self) -> float | None:
        """The number shown."""
        return self._value

    @property
    def number(self) -> float:
        """The number shown, for a field that always shows one."""
        return self._value or 0.0

    def read(self, text: str) -> Typed:
        """What a text says. Raises LengthError."""
        raise NotImplementedError

    def write(self, value: float) -> str:
        """The text for a number."""
        raise NotImplementedError

    @property
    def step(self) -> float:
        """What one press of Up adds."""
        raise NotImplementedError

    def show_value(self, value: float | None) -> None:
        """Show a number (None: there is none to show). What is being typed is left alone."""
        if self.kept and value == self._value:
            return
        self._value = value
        self.setEnabled(value is not None)
        if not (self.hasFocus() and self.isModified()):
            self._show()

    def _show(self) -> None:
        self.kept = False
        self.setText("" if self._value is None else self.write(self._value))
        self.setCursorPosition(0)
        self.setModified(False)
        self._mark(wrong=False)

    def _finish(self) -> None:
        if not self.isModified() or self._value is None:
            return
        try:
            value = self.read(self.text())
        except IsometronError as error:
            self.setModified(False)
            self.keep_refused()
            self.refused.emit(str(error))
            return
        self.setModified(False)
        self.kept = False
        self.typed.emit(value)
        if not (self.kept or self.keeps_words):
            self._show()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is None:
            return
        steps = {Qt.Key.Key_Up: 1.0, Qt.Key.Key_Down: -1.0}
        if event.key() in steps and self._value is not None:
            tenfold = 10.0 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1.0
            self.setModified(False)
            self.typed.emit(self._value + steps[Qt.Key(event.key())] * self.step * tenfold)
        elif event.key() == Qt.Key.Key_Escape:
            if not (self.isModified() or self.kept):
                event.ignore()  # nothing of the field's own to let go of
            self._show()
        else:
            super().keyPressEvent(event)

    def focusInEvent(self, event: QFocusEvent | None) -> None:
        super().focusInEvent(event)
        self.selectAll()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        super().paintEvent(event)
        if self.caption and self.room is not None:
            self._paint_caption(self.room)
        if self.family and self.room is not None:
            painter = QPainter(self)
            colour: QColor = family_colour(self.room, self.family)
            painter.fillRect(1, self.height() - 3, self.width() - 2, 3, colour)
            painter.end()

    def _paint_caption(self, room: Room) -> None:
        wide = self.fontMetrics().horizontalAdvance
        if wide(self.caption) + wide(self.text()) + 1.5 * FRAME_PX > self.width():
            return
        painter = QPainter(self)
        painter.setPen(QColor(room.soft_ink))
        inside = self.rect().adjusted(FRAME_PX // 2, 0, 0, 0)
        painter.drawText(inside, Qt.AlignmentFlag.AlignVCenter, self.caption)
        painter.end()


class LengthField(NumberField):
    """A length in mm, shown and read in the sheet's unit (any unit may be typed)."""

    def __init__(self, name: str, tip: str) -> None:
        super().__init__(name, tip)
        self.unit = "mm"
        self.upright = False
        """Whether it is measured upward: of the sheet's height, and the heights of volumes."""
        self.known: Callable[[], Mapping[str, float]] = dict
        """The lengths (mm) that may be spoken of by name."""
        self.terse = False
        """Whether to leave the unit out in any case (any unit may still be typed)."""

    def show_unit(self, unit: str) -> None:
        """Show lengths in another unit."""
        self.unit = unit

    def read(self, text: str) -> Typed:
        return read_length(text, self.unit, self.known())

    def write(self, value: float) -> str:
        bare = write_length(value, self.unit, with_unit=False)
        if not self.terse and self._fits(full := write_length(value, self.unit)):
            return full
        return bare if self._fits(bare) else f"{value / MM_PER[self.unit]:.1f}".replace("-", "−")

    def _fits(self, text: str) -> bool:
        return self.fontMetrics().horizontalAdvance(text) <= self.width() - FRAME_PX

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        if not self.isModified() and not self.kept:
            self._show()

    @property
    def step(self) -> float:
        return 25.4 / 4 if self.unit == "in" else STEP_MM


class FineField(LengthField):
    """A small length, in hundredths of a millimetre whatever the sheet is read in."""

    def show_unit(self, unit: str) -> None:
        super().show_unit("mm")

    def write(self, value: float) -> str:
        text = f"{value:.2f}".rstrip("0").rstrip(".").replace("-", "−")
        return f"{text} mm" if self._fits(f"{text} mm") else text

    @property
    def step(self) -> float:
        return FINE_STEP_MM


class DimensionField(LengthField):
    """A side: a length, or a count such as 3.2 w or 1/2 height."""

    def __init__(self, name: str, tip: str) -> None:
        super().__init__(name, tip)
        self._count: Count | None = None
        self.reads: Callable[[str], float | Count] | None = None
        """How what is typed is read, where sides and modules are known."""

    def show_count(self, count: Count | None) -> None:
        """What the side is counted in now."""
        self._count = count

    def read(self, text: str) -> Typed:
        if self._count is not None and text.partition("=")[0].strip() == self._told():
            return self._count
        read = self.reads or (lambda typed: read_dimension(typed, self.unit, ()))
        name, equals, _length = text.partition("=")  # what a count comes to stands behind it
        try:
            return read(name)
        except UnknownWordError:
            if equals:
                return NewModule(text.strip())
            raise

    def _told(self) -> str:
        return "" if self._count is None else write_count(self._count, self.unit)

    def write(self, value: float) -> str:
        if self._count is None:
            return super().write(value)
        full = f"{self._told()} = {write_length(value, self.unit)}"
        return full if self._fits(full) else self._told()


class LeanField(LengthField):
    """How far a side leans: a length, or an angle with its sign."""

    def read(self, text: str) -> Typed:
        if text.strip().casefold().endswith(("°", "deg")):
            return TypedAngle(read_angle(text))
        return read_length(text, self.unit, self.known())


class CountField(NumberField):
    """A whole number."""

    def read(self, text: str) -> Typed:
        number = _number(text, _("“{value}” is no whole number: type, say, 3."))
        if number != round(number) or number < 0:
            raise LengthError(
                _("“{value}” is no whole number: type, say, 3.").format(value=quoted(text))
            )
        return number

    def write(self, value: float) -> str:
        return f"{value:.0f}"

    @property
    def step(self) -> float:
        return 1.0


def _number(text: str, otherwise: str) -> float:
    """A bare number, or arithmetic with some. Raises LengthError saying `otherwise`."""
    try:
        return reckon_number(text)
    except LengthError as error:
        raise LengthError(otherwise.format(value=quoted(text))) from error


class RatioField(LengthField):
    """A number of modules. What is typed as a length stays one: `as_length`."""

    def __init__(self, name: str, tip: str) -> None:
        super().__init__(name, tip)
        self.module_mm: Callable[[], float] = lambda: 0.0
        """The length of the module, mm; 0 where it is not known."""
        self.as_length = False

    def read(self, text: str) -> Typed:
        self.as_length = False
        module, known = self.module_mm(), self.known()
        try:
            return _number(text, _("“{value}” is no number: type, say, 2.4."))
        except LengthError:
            if not module:
                raise
            try:
                found = reckon(text, self.unit, known)
            except UnknownWordError as error:
                raise LengthError(
                    _("“{value}” is no number: type, say, 2.4, or a length such as 78cm.").format(
                        value=quoted(text)
                    )
                ) from error
            self.as_length = not found.terms
            return read_length(text, self.unit, known) / module

    def write(self, value: float) -> str:
        return super().write(value * self.module_mm()) if self.as_length else f"{value:.4g}"

    @property
    def step(self) -> float:
        return 0.1


class ShareField(NumberField):
    """A fraction from 0 to 1, typed as 1/3 or 0.33."""

    def read(self, text: str) -> Typed:
        wrong = _("“{value}” is no fraction: type, say, 1/3, 0.25 or 25 %.")
        try:
            share = read_fraction(text)
        except LengthError:
            share = -1.0
        if not 0 <= share <= 1:
            raise LengthError(wrong.format(value=quoted(text)))
        return share

    def write(self, value: float) -> str:
        return write_share(value)

    @property
    def step(self) -> float:
        return 0.05


class AngleField(NumberField):
    """An angle in degrees."""

    def read(self, text: str) -> Typed:
        return read_angle(text)

    def write(self, value: float) -> str:
        return write_angle(value)

    @property
    def step(self) -> float:
        return STEP_DEG


class ScaleField(NumberField):
    """A scale: drawn mm per true mm, shown as 1 : 4."""

    def read(self, text: str) -> Typed:
        return read_scale(text)

    def write(self, value: float) -> str:
        return write_scale(value)

    @property
    def step(self) -> float:
        return 0.01


class TextField(Typing):
    """A field for words: emits `typed` when the person has changed them."""

    typed = pyqtSignal(str)

    def __init__(self, name: str, tip: str) -> None:
        super().__init__()
        self.setAccessibleName(name)
        self.setToolTip(tip)
        self.setFixedHeight(scaled(FIELD))
        self._shown: str | None = ""
        self.editingFinished.connect(self._finish)

    def show_text(self, text: str | None) -> None:
        """Show words (None: there are none to show)."""
        if self.kept and text == self._shown:
            return
        self._shown, self.kept = text, False
        self._mark(wrong=False)
        self.setEnabled(text is not None)
        if not (self.hasFocus() and self.isModified()):
            self.setText(text or "")
            self.setCursorPosition(0)

    def _finish(self) -> None:
        if self.isModified():
            self.setModified(False)
            self.kept = False
            self._mark(wrong=False)
            self.typed.emit(self.text())

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() == Qt.Key.Key_Escape:
            if not (self.isModified() or self.kept):
                event.ignore()
            self.kept = False
            self.setModified(False)
            self.show_text(self._shown)
        else:
            super().keyPressEvent(event)


class Choice(QComboBox):
    """A choice among few, with a small triangle that says so."""

    def __init__(self, name: str, tip: str, items: list[str]) -> None:
        super().__init__()
        self.addItems(items)
        self.setAccessibleName(name)
        self.setToolTip(tip)
        self.setFixedHeight(scaled(FIELD))

    def showPopup(self) -> None:
        self.make_room()
        super().showPopup()

    def make_room(self) -> None:
        """Let every entry be seen whole when they are shown."""
        view = self.view()
        if view is not None:
            view.setMinimumWidth(view.sizeHintForColumn(0) + 2 * FRAME_PX)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        super().paintEvent(event)
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(self.palette().color(QPalette.ColorRole.Text))
        at = QPointF(self.width() - 13.0, self.height() / 2 + 2.5)
        painter.drawPolygon(QPolygonF([at, at + QPointF(-4, -5), at + QPointF(4, -5)]))
        painter.end()


FIELDS: dict[str, type[NumberField]] = {
    "length": LengthField,
    "angle": AngleField,
    "count": CountField,
    "ratio": RatioField,
}
"""The field for each kind of question a starter asks."""
