"""Folding cards away, so that the sheet has the window to itself; remembered."""

from collections.abc import Callable
from dataclasses import dataclass

from PyQt6.QtCore import QSettings
from PyQt6.QtWidgets import QWidget

from isometron.ui.parts.fold import FoldBar

PARTS = ("column",)
"""What folds, and what it is kept under."""


@dataclass(frozen=True)
class Part:
    """Something that folds: the widget, and the bar that folds it."""

    widget: QWidget
    bar: FoldBar


class Folding:
    """Which parts of the window are folded away."""

    def __init__(
        self, settings: QSettings, parts: dict[str, Part], changed: Callable[[], None]
    ) -> None:
        self._settings, self._parts, self._changed = settings, parts, changed
        self._pressed: set[str] = set()
        for name, part in parts.items():
            part.bar.setChecked(str(settings.value(f"folded {name}", "")) == "yes")
            part.widget.setVisible(not part.bar.isChecked())
            part.bar.toggled.connect(lambda on, n=name: self._fold(n, on))

    def folded(self, name: str) -> bool:
        """Whether a part is folded away."""
        return self._parts[name].bar.isChecked()

    def fold(self, name: str, away: bool) -> None:
        """Fold a part away, or bring it back."""
        self._parts[name].bar.setChecked(away)

    def turn(self, name: str) -> None:
        """Fold a part away that is there, bring one back that is not."""
        self.fold(name, not self.folded(name))

    def press(self, name: str, pressed: bool) -> None:
        """A part gives way where there is no room for it; that is not remembered."""
        if pressed == (name in self._pressed):
            return
        self._pressed ^= {name}
        self._show(name)

    @property
    def alone(self) -> bool:
        """Whether the sheet has the window to itself."""
        return all(self.folded(name) for name in self._parts)

    def leave_alone(self) -> None:
        """Leave the sheet alone in the window; or bring everything back."""
        away = not self.alone
        for name in self._parts:
            self.fold(name, away)

    def _fold(self, name: str, away: bool) -> None:
        self._pressed.discard(name)
        self._settings.setValue(f"folded {name}", "yes" if away else "no")
        self._show(name)

    def _show(self, name: str) -> None:
        part = self._parts[name]
        part.widget.setVisible(not (part.bar.isChecked() or name in self._pressed))
        self._changed()
