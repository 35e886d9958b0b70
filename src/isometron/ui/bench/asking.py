"""The questions the bench asks the person: which file, and what about unsaved changes."""

from enum import Enum
from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtCore import QCoreApplication
from PyQt6.QtWidgets import QFileDialog, QMessageBox, QWidget

from isometron.files.sheet_file import SUFFIX

if TYPE_CHECKING:
    from isometron.document.edits.starters import Starter
from isometron.ui.parts.theme import Room


class Unsaved(Enum):
    """What to do about changes that are not on the disk."""

    SAVE = "save"
    DISCARD = "discard"
    STAY = "stay"


def tr(text: str) -> str:
    """The words in the person's language."""
    return QCoreApplication.translate("Asking", text)


class Asking:
    """Asks by dialogs."""

    def __init__(self, parent: QWidget) -> None:
        self._parent = parent

    def which_to_open(self, folder: Path) -> Path | None:
        """A sheet file to open; None when the person thinks better of it."""
        kinds = f"{tr('Isometron sheets')} (*{SUFFIX})"
        name, _ = QFileDialog.getOpenFileName(self._parent, tr("Open a sheet"), str(folder), kinds)
        return Path(name) if name else None

    def where_to_save(self, proposal: Path) -> Path | None:
        """A place for the sheet."""
        kinds = f"{tr('Isometron sheets')} (*{SUFFIX})"
        name, _ = QFileDialog.getSaveFileName(
            self._parent, tr("Save the sheet as"), str(proposal), kinds
        )
        return Path(name) if name else None

    def where_to_draw(self, proposal: Path) -> Path | None:
        """A file to draw to; its ending says the kind."""
        kinds = "PDF (*.pdf);;SVG (*.svg);;PNG (*.png);;DXF (*.dxf)"
        name, chosen = QFileDialog.getSaveFileName(
            self._parent, tr("Draw the sheet to a file"), str(proposal), kinds
        )
        if name and not Path(name).suffix:
            name += chosen[chosen.index("*") + 1 : -1]
        return Path(name) if name else None

    def starter_values(self, starter: "Starter", room: Room, unit: str) -> dict[str, float] | None:
        """The answers to a starter's questions."""
        from isometron.ui.bench.starter_dialog import StarterDialog

        dialog = StarterDialog(self._parent, starter, room, unit)
        return dict(dialog.values) if dialog.exec() else None

    def where_to_send(self, proposal: Path, kinds: str) -> Path | None:
        """A file to send volumes or dimensions to; its ending says the kind."""
        name, chosen = QFileDialog.getSaveFileName(
            self._parent, tr("Send to a file"), str(proposal), kinds
        )
        if name and not Path(name).suffix:
            name += chosen[chosen.index("*") + 1 : -1]
        return Path(name) if name else None

    def which_table(self, folder: Path) -> Path | None:
        """A CSV table to take dimensions from."""
        name, _ = QFileDialog.getOpenFileName(
            self._parent, tr("Take dimensions from a table"), str(folder), "CSV (*.csv)"
        )
        return Path(name) if name else None

    def which_outline(self, folder: Path) -> Path | None:
        """An SVG outline to bring in."""
        name, _ = QFileDialog.getOpenFileName(
            self._parent, tr("Bring an outline in"), str(folder), "SVG (*.svg)"
        )
        return Path(name) if name else None

    def about_unsaved(self, name: str) -> Unsaved:
        """What to do about unsaved changes."""
        box = QMessageBox(self._parent)
        box.setWindowTitle(tr("Unsaved changes"))
        box.setText(tr("“%s” has changes that are not saved.") % name)
        save = box.addButton(tr("Save them"), QMessageBox.ButtonRole.AcceptRole)
        drop = box.addButton(tr("Throw them away"), QMessageBox.ButtonRole.DestructiveRole)
        stay = box.addButton(tr("Go back"), QMessageBox.ButtonRole.RejectRole)
        box.setDefaultButton(save)
        box.setEscapeButton(stay)
        box.exec()
        if box.clickedButton() is save:
            return Unsaved.SAVE
        return Unsaved.DISCARD if box.clickedButton() is drop else Unsaved.STAY

    def tell(self, title: str, sentence: str) -> None:
        """Say one sentence that must be read."""
        box = QMessageBox(self._parent)
        box.setWindowTitle(title)
        box.setText(sentence)
        box.addButton(tr("Understood"), QMessageBox.ButtonRole.AcceptRole)
        box.exec()
