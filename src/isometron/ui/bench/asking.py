"""The questions a window asks the person: which file, and what about unsaved changes."""

from collections.abc import Mapping, Sequence
from enum import Enum
from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QFileDialog, QMessageBox, QWidget

from isometron.files.formats import PICTURES, Format
from isometron.own_places import is_there
from isometron.ui.parts.theme import Room
from isometron.words import _

if TYPE_CHECKING:
    from isometron.document.document import Document
    from isometron.document.edits.starters import Starter
    from isometron.document.edits.starters.again import Opened


class Unsaved(Enum):
    """What to do about changes that are not on the disk."""

    SAVE = "save"
    DISCARD = "discard"
    STAY = "stay"


class Conflict(Enum):
    """What to do about a file that somebody else has changed meanwhile."""

    BESIDE = "beside"
    OVERWRITE = "overwrite"
    THEIRS = "theirs"
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
        """A file to write; its ending says the format. Whether one that exists may be replaced has
        been asked, of the very name that will be written."""
        while True:
            path = self._named(title, proposal, formats)
            if path is None or not is_there(path) or path.is_dir() or self._may_replace(path):
                return path
            proposal = path

    def _named(self, title: str, proposal: Path, formats: Sequence[Format]) -> Path | None:
        name, chosen = QFileDialog.getSaveFileName(
            self._parent,
            title,
            str(proposal),
            _filters(formats),
            options=QFileDialog.Option.DontConfirmOverwrite,  # asked when the ending is known
        )
        if not name:
            return None
        return with_ending(
            Path(name), formats, next((f for f in formats if f.filter == chosen), formats[0])
        )

    def _may_replace(self, path: Path) -> bool:
        box = self._box(
            _("Replace it?"),
            _("There is a file “{name}” already in “{folder}”.").format(
                name=path.name, folder=path.parent
            ),
        )
        replace = box.addButton(_("Replace it"), QMessageBox.ButtonRole.DestructiveRole)
        other = box.addButton(_("Choose another name"), QMessageBox.ButtonRole.RejectRole)
        box.setDefaultButton(other)
        box.setEscapeButton(other)
        box.exec()
        return box.clickedButton() is replace

    def starter_values(
        self, starter: "Starter", room: Room, unit: str, said: Mapping[str, str] | None = None
    ) -> dict[str, float] | None:
        """The answers to a starter's questions; what is said of them in words is not asked for
        again, but where it cannot be."""
        from isometron.ui.bench.starter_dialog import StarterDialog

        dialog = StarterDialog(self._parent, starter, room, unit)
        if said and dialog.fill(said):
            return dict(dialog.values)
        return dict(dialog.values) if dialog.exec() else None

    def starter_again(
        self, starter: "Starter", room: Room, again: "tuple[Document, Opened]"
    ) -> dict[str, float] | None:
        """Other answers to the questions of a starter that is opened again."""
        from isometron.ui.bench.starter_dialog import StarterDialog

        unit = again[0].choices.unit
        dialog = StarterDialog(self._parent, starter, room, unit, again)
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

    def about_conflict(self, name: str, differs: str) -> Conflict:
        """What to do about a file that has been changed since it was read."""
        box = self._box(
            _("The file has changed"),
            _(
                "“{name}” has been changed on the disk since you opened it. "
                "What differs: {differs}."
            ).format(name=name, differs=differs),
        )
        roles = QMessageBox.ButtonRole
        buttons = {
            box.addButton(_("Save beside it"), roles.AcceptRole): Conflict.BESIDE,
            box.addButton(_("Overwrite it"), roles.DestructiveRole): Conflict.OVERWRITE,
            box.addButton(_("Open theirs"), roles.DestructiveRole): Conflict.THEIRS,
        }
        stay = box.addButton(_("Go back"), roles.RejectRole)
        box.setDefaultButton(next(iter(buttons)))
        box.setEscapeButton(stay)
        box.exec()
        return next((c for b, c in buttons.items() if b is box.clickedButton()), Conflict.STAY)

    def may_throw_away(self, what: str) -> bool:
        """Whether something may go for good."""
        box = self._box(_("Throw it away?"), _("{what} will be gone for good.").format(what=what))
        gone = box.addButton(_("Throw it away"), QMessageBox.ButtonRole.DestructiveRole)
        stay = box.addButton(_("Go back"), QMessageBox.ButtonRole.RejectRole)
        box.setDefaultButton(stay)
        box.setEscapeButton(stay)
        box.exec()
        return box.clickedButton() is gone

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


def with_ending(path: Path, formats: Sequence[Format], chosen: Format) -> Path:
    """A path with an ending of one of the formats: its own, else that of the chosen one is added
    (“Chair v1.2” has none)."""
    if any(path.name.lower().endswith(one.ending) for one in formats):
        return path
    return path.with_name(path.name + chosen.ending)


def _filters(formats: Sequence[Format]) -> str:
    if formats and formats[0] in PICTURES:  # one filter for all
        endings = " ".join(f"*{one.ending}" for one in formats)
        return _("Pictures ({endings})").format(endings=endings)
    return ";;".join(one.filter for one in formats)
