"""The questions a window asks the person: which file, and what about unsaved changes."""

from collections.abc import Sequence
from enum import Enum
from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QFileDialog, QMessageBox, QWidget

from isometron.files.formats import Format
from isometron.ui.parts.theme import Room
from isometron.words import _

if TYPE_CHECKING:
    from isometron.document.edits.starters import Starter


class Unsaved(Enum):
    """What to do about changes that are not on the disk."""

    SAVE = "save"
    DISCARD = "discard"
    STAY = "stay"


class Asking:
    """Asks by dialogs."""

    def __init__(self, parent: QWidget) -> None:
        self._parent = parent

    def which(self, title: str, folder: Path, formats: Sequence[Format]) -> Path | None:
        """A file to read; None when the person thinks better of it."""
        name, _kind = QFileDialog.getOpenFileName(
            self._parent, title, str(folder), _filters(formats)
        )
        return Path(name) if name else None

    def where(self, title: str, proposal: Path, formats: Sequence[Format]) -> Path | None:
        """A file to write; its ending says the format."""
        name, chosen = QFileDialog.getSaveFileName(
            self._parent, title, str(proposal), _filters(formats)
        )
        if name and not Path(name).suffix:
            name += next((f.ending for f in formats if f.filter == chosen), formats[0].ending)
        return Path(name) if name else None

    def starter_values(self, starter: "Starter", room: Room, unit: str) -> dict[str, float] | None:
        """The answers to a starter's questions."""
        from isometron.ui.bench.starter_dialog import StarterDialog

        dialog = StarterDialog(self._parent, starter, room, unit)
        return dict(dialog.values) if dialog.exec() else None

    def about_unsaved(self, name: str) -> Unsaved:
        """What to do about unsaved changes."""
        box = self._box(
            _("Unsaved changes"), _("“{name}” has changes that are not saved.").format(name=name)
        )
        save = box.addButton(_("Save them"), QMessageBox.ButtonRole.AcceptRole)
        drop = box.addButton(_("Throw them away"), QMessageBox.ButtonRole.DestructiveRole)
        stay = box.addButton(_("Go back"), QMessageBox.ButtonRole.RejectRole)
        box.setDefaultButton(save)
        box.setEscapeButton(stay)
        box.exec()
        if box.clickedButton() is save:
            return Unsaved.SAVE
        return Unsaved.DISCARD if box.clickedButton() is drop else Unsaved.STAY

    def tell(self, title: str, sentence: str) -> None:
        """Say one sentence that must be read."""
        box = self._box(title, sentence)
        box.addButton(_("Understood"), QMessageBox.ButtonRole.AcceptRole)
        box.exec()

    def _box(self, title: str, sentence: str) -> QMessageBox:
        box = QMessageBox(self._parent)
        box.setTextFormat(Qt.TextFormat.PlainText)
        box.setWindowTitle(title)
        box.setText(sentence)
        return box


def _filters(formats: Sequence[Format]) -> str:
    return ";;".join(one.filter for one in formats)
