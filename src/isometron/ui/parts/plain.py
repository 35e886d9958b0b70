"""Words as they are: what a name, a path or an error holds is shown, never obeyed.

Qt takes a text that looks like HTML for HTML, and loads what it names.
"""

from html import escape

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QLabel, QWidget


class Label(QLabel):
    """A label that shows its text as it is."""

    def __init__(self, text: str = "", parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setTextFormat(Qt.TextFormat.PlainText)
        self.setText(text)


def plain_tip(words: str) -> str:
    """Words for a tool tip, which knows no plain text."""
    return f"<span>{escape(words)}</span>" if "<" in words or "&" in words else words
