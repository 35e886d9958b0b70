"""Folding the column away, so that the sheet has the window to itself; remembered."""

from collections.abc import Callable

from PyQt6.QtCore import QSettings
from PyQt6.QtWidgets import QWidget

from isometron.ui.parts.fold import FoldBar


class Folding:
    """Whether the column is folded away, and whether the sheet is alone: then what lies along the
    foot goes too, which is not remembered."""

    def __init__(
        self,
        settings: QSettings,
        column: tuple[QWidget, FoldBar],
        foot: QWidget,
        changed: Callable[[], None],
    ) -> None:
        self._settings, self._changed = settings, changed
        self._column, self._bar = column
        self._foot = foot
        self._bar.setChecked(str(settings.value("folded column", "")) == "yes")
        self._column.setVisible(not self.folded)
        self._bar.toggled.connect(self._fold)

    @property
    def folded(self) -> bool:
        """Whether the column is folded away."""
        return self._bar.isChecked()

    def fold(self, away: bool) -> None:
        """Fold the column away, or bring it back."""
        self._bar.setChecked(away)

    def turn(self) -> None:
        """Fold the column away, or bring it back: the other of both."""
        self.fold(not self.folded)

    @property
    def alone(self) -> bool:
        """Whether the sheet has the window to itself."""
        return self.folded and self._foot.isHidden()

    def leave_alone(self) -> None:
        """Leave the sheet alone in the window; or bring everything back."""
        away = not self.alone
        self._foot.setVisible(not away)
        self.fold(away)

    def _fold(self, away: bool) -> None:
        self._settings.setValue("folded column", "yes" if away else "no")
        self._column.setVisible(not away)
        if not away:
            self._foot.setVisible(True)
        self._changed()
