"""Words as they are: what a name, a path or an error holds is shown, never obeyed.

Qt takes a text that looks like HTML for HTML, and loads what it names.
"""

from collections.abc import Callable, Sequence
from html import escape

from PyQt6.QtCore import QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPalette, QResizeEvent
from PyQt6.QtWidgets import QFrame, QLabel, QPushButton, QScrollArea, QWidget


class Label(QLabel):
    """A label that shows its text as it is."""

    def __init__(self, text: str = "", parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setTextFormat(Qt.TextFormat.PlainText)
        self.setText(text)

    def setText(self, text: str | None) -> None:
        super().setText(text)
        self._ask_for_room()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._ask_for_room()

    def _ask_for_room(self) -> None:
        """Words that run over several lines ask for the height of all of them."""
        if not self.wordWrap():
            return
        self.setMinimumHeight(0)  # a height asked for counts as one that is needed
        high = self.heightForWidth(self.width()) if self.text() else 0
        self.setMinimumHeight(max(high, 0))


class Elided(Label):
    """A label of one line that gives way: where its words do not fit it shows the first of the
    `shorter` ones that do, else what fits of the last; all of them are told in its tool tip."""

    shorter: Sequence[str] = ()

    def minimumSizeHint(self) -> QSize:
        return QSize(self.minimumWidth(), super().minimumSizeHint().height())

    def sizeHint(self) -> QSize:
        return QSize(max(self.minimumWidth(), 0), super().sizeHint().height())

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter, inner = QPainter(self), self.contentsRect()
        metrics = self.fontMetrics()
        every = (self.text(), *self.shorter)
        fits = [words for words in every if metrics.horizontalAdvance(words) <= inner.width()]
        last = metrics.elidedText(every[-1], Qt.TextElideMode.ElideRight, inner.width())
        words = fits[0] if fits else last
        self.setToolTip(plain_tip(self.text()) if words != self.text() else "")
        painter.setPen(self.palette().color(QPalette.ColorRole.WindowText))
        painter.drawText(inner, int(self.alignment()), words)
        painter.end()


def plain_tip(words: str) -> str:
    """Words for a tool tip, which knows no plain text."""
    return f"<span>{escape(words)}</span>" if "<" in words or "&" in words else words


def told_button(text: str, tip: str, act: Callable[[], object]) -> QPushButton:
    """A button with a tip that assistive technology reads too, and what it does."""
    made = QPushButton(text)
    made.setToolTip(tip)
    made.setAccessibleDescription(tip)
    made.clicked.connect(lambda _on=False: act())
    return made


def scrolled(widget: QWidget, called: str = "") -> QScrollArea:
    """What may be longer than there is room, turned up and down, never cut off."""
    pane = QScrollArea()
    pane.setWidget(widget)
    pane.setWidgetResizable(True)
    pane.setFrameShape(QFrame.Shape.NoFrame)
    pane.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
    pane.setAccessibleName(called)
    return pane
