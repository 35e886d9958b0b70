"""Hands on a widget: how far apart two places are, and what an arrow key means."""

import math
from functools import cache

from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QWidget


def apart(a: QPointF, b: QPointF) -> float:
    """Distance between two places of a widget, px."""
    return math.hypot(a.x() - b.x(), a.y() - b.y())


def pass_keys(leaving: QWidget, to: QWidget) -> None:
    """Let another widget have the keyboard, where one that is about to be hidden has it."""
    has = leaving.focusWidget()
    if has is not None and has.hasFocus():
        to.setFocus()


def from_line(start: QPointF, end: QPointF, at: QPointF) -> float:
    """Distance of a place from a line, px."""
    run = end - start
    square = run.x() ** 2 + run.y() ** 2
    if square == 0:
        return apart(start, at)
    share = ((at.x() - start.x()) * run.x() + (at.y() - start.y()) * run.y()) / square
    return apart(start + run * min(max(share, 0.0), 1.0), at)


@cache
def _arrows() -> dict[int, tuple[int, int]]:
    keys = Qt.Key
    return {
        keys.Key_Left: (-1, 0),
        keys.Key_Right: (1, 0),
        keys.Key_Up: (0, 1),
        keys.Key_Down: (0, -1),
    }


def arrow_of(event: QKeyEvent) -> tuple[int, int] | None:
    """Steps right and up of an arrow key; None for another one. (Qt's long list of keys is loaded
    at the first key.) With Alt or Meta it means nothing here."""
    if event.modifiers() & (Qt.KeyboardModifier.AltModifier | Qt.KeyboardModifier.MetaModifier):
        return None
    return _arrows().get(event.key())
