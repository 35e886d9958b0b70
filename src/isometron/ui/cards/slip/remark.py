"""What the slip of a remark holds: its words, its remedy, and setting it aside."""

from functools import partial

from PyQt6.QtWidgets import QPushButton, QVBoxLayout, QWidget

from isometron.remarks.picked import RemarkPick
from isometron.remarks.second_look import set_aside
from isometron.ui.cards.remark_row import ASIDE, cure
from isometron.ui.cards.slip.place_picture import PlacePicture
from isometron.ui.parts.card import Shown
from isometron.ui.parts.plain import Label
from isometron.ui.parts.wishes import Wishes
from isometron.words import _


class RemarkPart(QWidget):
    """The remark that is picked."""

    def __init__(self, wishes: Wishes) -> None:
        super().__init__()
        self.wishes = wishes
        self._picked: RemarkPick | None = None
        self.words = Label()
        self.words.setWordWrap(True)
        self.place = PlacePicture()
        self.place.setAccessibleName(_("Its place on the sheet"))
        self.remedy = QPushButton()
        self.remedy.setToolTip(_("Put it right; undo takes it back."))
        self.remedy.clicked.connect(lambda _on=False: self._cure())
        self.aside = QPushButton(ASIDE)
        self.aside.setToolTip(_("This is as I want it: set the remark aside for this sheet."))
        self.aside.clicked.connect(lambda _on=False: self._set_aside())
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        for part in (self.place, self.words, self.remedy, self.aside):
            column.addWidget(part)
        self.hide()

    def show_remark(self, picked: RemarkPick | None, shown: Shown) -> None:
        """Show a remark, or nothing."""
        self._picked = picked
        self.setVisible(picked is not None)
        if picked is None or picked.remark is None:
            return
        self.place.show_place(shown, picked.remark.sheet_mm)
        self.words.setText(picked.remark.text)
        self.remedy.setVisible(picked.remedy is not None)
        if picked.remedy is not None:
            self.remedy.setText(picked.remedy.label)

    def _cure(self) -> None:
        picked = self._picked
        if picked is not None and picked.remark is not None and picked.remedy is not None:
            cure(self.wishes, picked.remedy, picked.remark)

    def _set_aside(self) -> None:
        if self._picked is not None:
            done = partial(set_aside, key=self._picked.key)
            if self.wishes.edit(_("set a remark aside"), done):
                self.wishes.pick(None)
