"""The fields of an open deed: a preview on the sheet while one is edited, Return to do it."""

from collections.abc import Mapping
from typing import Any

from PyQt6.QtCore import QEvent, QObject, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QKeyEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import (
    QApplication,
    QGridLayout,
    QLineEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from isometron.deeds.deed import Deed, Given
from isometron.perspective.errors import IsometronError
from isometron.ui.cards.slip.asked import Asked, proposed
from isometron.ui.parts.card import Shown, soft_label
from isometron.ui.parts.fields import NumberField
from isometron.ui.parts.theme import font
from isometron.ui.parts.wishes import Wishes

RETURN = (Qt.Key.Key_Return, Qt.Key.Key_Enter)


class DeedPanel(QWidget):
    """What an open deed asks for. Emits `closed` when it is done or given up."""

    closed = pyqtSignal()

    def __init__(
        self, wishes: Wishes, deed: Deed, shown: Shown, last: Mapping[str, Any] | None = None
    ) -> None:
        """last: what was given when it was done last, by the keys of parameters."""
        super().__init__()
        self._last = last or {}
        self.wishes, self.deed = wishes, deed
        self._shown = shown
        self._previewing = False
        self.given: Given | None = None
        """What it was done with; None while it is not done."""
        self.setAccessibleName(deed.text)
        self.asked = [
            Asked(one, wishes, self._taken, self._preview, keeps=True, of=deed.key)
            for one in deed.parameters
        ]
        column = QVBoxLayout(self)
        column.setContentsMargins(8, 5, 6, 6)
        column.setSpacing(4)
        grid = QGridLayout()
        grid.setHorizontalSpacing(6)
        grid.setVerticalSpacing(3)
        grid.setColumnStretch(1, 1)
        for row, one in enumerate(self.asked):
            label = soft_label(one.parameter.called)
            label.setToolTip(one.parameter.tip)
            grid.addWidget(label, row, 0)
            grid.addWidget(one.widget, row, 1)
            one.widget.installEventFilter(self)
        column.addLayout(grid)
        self.told = soft_label("")
        self.told.setWordWrap(True)
        self.told.setFont(font(italic=True))
        column.addWidget(self.told)
        self.done = QPushButton(deed.text)
        self.done.setToolTip(deed.tip)
        self.done.setAccessibleDescription(deed.tip)
        self.done.clicked.connect(lambda _on=False: self.do())
        column.addWidget(self.done)
        self._offer()
        self._propose()
        self._tell()
        app = QApplication.instance()
        assert isinstance(app, QApplication)
        app.focusChanged.connect(self._focus_moved)

    def __getitem__(self, key: str) -> QWidget:
        """The field of a parameter by its key."""
        return next(one.widget for one in self.asked if one.parameter.key == key)

    def focus(self) -> None:
        """The keyboard to the first field."""
        if self.asked:
            self.asked[0].widget.setFocus()

    def begin_typing(self, text: str) -> bool:
        """Type into the first field that takes a number; gives whether there is one."""
        for one in self.asked:
            if isinstance(one.widget, NumberField):
                type_into(one.widget, text)
                return True
        return False

    def give(self, values: Mapping[str, str]) -> None:
        """Fill fields in, in words by the keys of their parameters, and do it; what is refused
        stays to be mended."""
        try:
            for one in self.asked:
                if one.parameter.key in values:
                    one.write(values[one.parameter.key])
                    self._taken(one, None)
        except IsometronError as error:
            self.wishes.refuse(str(error))
            self._tell(str(error))
            return
        self.do()

    # What is given

    def _given(self) -> Given:
        """What stands in the fields. Raises LengthError for what cannot be read."""
        return Given({one.parameter.key: one.value for one in self.asked}, self._shown.picked)

    def _offer(self) -> None:
        for one in self.asked:
            one.offer(self._shown.document)

    def _propose(self) -> None:
        """What is so now, in the fields that show it; in the others what the deed proposes."""
        document = self._shown.document
        values: dict[str, object] = {}
        for one in self.asked:
            key = one.parameter.key
            if one.parameter.offers is not None:
                values[key] = one.value
                continue
            given = Given(values, self._shown.picked)
            free = one.parameter.now is None and key in self._last
            values[key] = self._last[key] if free else proposed(one.parameter, document, given)
            one.show(document, values[key])

    def show_document(self, shown: Shown) -> None:
        """Another document: what is typed stays."""
        another = shown.document is not self._shown.document or shown.picked != self._shown.picked
        self._shown = shown
        if not self._previewing and another:
            self._offer()
            self._tell()

    def _taken(self, given: Asked, _value: object) -> None:
        """One field is filled in: those that depend on it follow."""
        if given.parameter.offers is not None:
            self._propose_after(given)
        if given.parameter.choices:
            self._preview()
        else:
            self._tell()

    def _propose_after(self, chosen: Asked) -> None:
        """What depends on the one that is chosen from the sheet, as it is now."""
        given = Given({chosen.parameter.key: chosen.value}, self._shown.picked)
        for one in self.asked:
            if one.parameter.now is not None:
                one.show(self._shown.document, one.parameter.now(self._shown.document, given))

    def _tell(self, otherwise: str = "") -> None:
        words = otherwise
        if not words and self.deed.told is not None:
            try:
                words = self.deed.told(self._shown.document, self._given())
            except IsometronError as error:
                words = str(error)
        self.told.setText(words)
        self.told.setVisible(bool(words) or self.deed.told is not None)

    # What is done

    def _preview(self) -> None:
        """Show on the sheet what is being typed would give."""
        self._previewing = True
        try:
            edit = self.deed.with_given(self._given())
        except IsometronError:
            self.wishes.let_go()
            self._tell()
            return
        self._tell(self.wishes.preview(edit))

    def do(self) -> None:
        """Do it, with what stands in the fields."""
        self._previewing = False
        self.wishes.let_go()
        try:
            given = self._given()
        except IsometronError as error:
            self.wishes.refuse(str(error))
            self._tell(str(error))
            return
        if self.wishes.deed(self.deed, given):
            self.given = given
            self.closed.emit()
        else:
            self._tell(self._why(given))

    def _why(self, given: Given) -> str:
        """Why it is refused, to be read beside its fields."""
        try:
            self.deed.with_given(given)(self._shown.document)
        except IsometronError as error:
            return str(error)
        return ""

    def give_up(self) -> None:
        """Leave the sheet as it was."""
        self._previewing = False
        self.wishes.let_go()
        self.closed.emit()

    def leave(self) -> None:
        """It is taken away."""
        app = QApplication.instance()
        assert isinstance(app, QApplication)
        app.focusChanged.disconnect(self._focus_moved)

    def _focus_moved(self, _old: QWidget | None, now: QWidget | None) -> None:
        if self._previewing and (now is None or not self.isAncestorOf(now)):
            self._previewing = False
            self.wishes.let_go()

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """Escape in a field gives the whole deed up."""
        escape = isinstance(event, QKeyEvent) and event.key() == Qt.Key.Key_Escape
        if escape and event is not None and event.type() == QEvent.Type.KeyPress:
            self.give_up()
            return True
        return False

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() == Qt.Key.Key_Escape:
            self.give_up()
        elif event is not None and event.key() in RETURN:
            self.do()
        else:
            super().keyPressEvent(event)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter, room = QPainter(self), self.wishes.room
        painter.fillRect(self.rect(), QColor(room.hover))
        painter.fillRect(0, 0, 4, self.height(), QColor(room.lamp))
        painter.end()


def given_in_words(wishes: Wishes, deed: Deed, shown: Shown, values: Mapping[str, str]) -> Given:
    """What a deed is given, some of it in words by the keys of its parameters, the rest as it is
    proposed. Raises IsometronError for what cannot be read."""
    found: dict[str, Any] = {}
    for one in deed.asking_all.parameters:
        asked = Asked(one, wishes, lambda _asked, _value: None, keeps=True)
        asked.offer(shown.document)
        given = Given(found, shown.picked)
        if one.offers is None:
            asked.show(shown.document, proposed(one, shown.document, given))
        if one.key in values:
            asked.write(values[one.key])
        found[one.key] = asked.value
    return Given(found, shown.picked)


def type_into(field: QLineEdit, text: str) -> None:
    """Begin to type into a field, in place of what stands in it."""
    field.setFocus()
    field.selectAll()
    field.insert(text)
    field.setModified(True)
    field.textEdited.emit(field.text())
