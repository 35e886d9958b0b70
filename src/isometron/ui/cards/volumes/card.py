"""The card of *Build*: the list of volumes, and what to begin with."""

from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QWidget

from isometron.document.edits import choosing
from isometron.perspective.lengths import UNIT_WORDS
from isometron.ui.cards.volumes.starters import Starters
from isometron.ui.cards.volumes.volume_list import VolumeList
from isometron.ui.parts.card import EditCard, Shown
from isometron.ui.parts.paged_card import small_button
from isometron.ui.parts.theme import ROW, scaled
from isometron.ui.parts.wishes import Wishes
from isometron.words import _, many

ROWS = 10
"""More volumes than this, or than leave room for all below them, are scrolled."""

FEW = 4
"""The list keeps room for so many, so that the first boxes push nothing down."""

LEAST_ROWS = 2
"""So many rows there are on the lowest card."""

NEXT = {None: True, True: False, False: None}
"""See-through, solid, as the sheet is: what a press of the switch makes of each."""


class VolumesCard(EditCard):
    """The card of *Build*: the list of volumes, and what to begin with."""

    def __init__(self, wishes: Wishes) -> None:
        super().__init__(wishes, _("Build"))
        self._shown: Shown | None = None
        self._high = 0
        self.list = VolumeList(wishes)
        self.list.switched.connect(self._switch)
        self.list.moved.connect(
            lambda step: wishes.edit(
                _("move in the list"), lambda d: choosing.move_in_list(d, step)
            )
        )
        self.list.dropped.connect(self._dropped)
        self.body.addWidget(self.list)
        add = self._wish(_("Add a box"), _("Put a cube on the ground before us."), "add box")
        copy = self._wish(
            _("Duplicate"), _("Set copies of the chosen volumes beside them."), "duplicate"
        )
        remove = self._wish(
            _("Take away"), _("Take the chosen volumes off the sheet."), "take away"
        )
        self._need_volume: tuple[QWidget, ...] = (copy, remove)
        row = QHBoxLayout()
        row.setSpacing(4)
        for button in (add, copy, remove):
            row.addWidget(button)
        self.body.addLayout(row)
        self.body.addWidget(Starters(wishes))
        self.body.addStretch(1)

    def _wish(self, text: str, tip: str, command: str) -> QPushButton:
        button = small_button(text, tip)
        button.clicked.connect(lambda _on=False: self.wishes.do(command))
        return button

    def _dropped(self, row: int, into: bool) -> None:
        if into:
            self.wishes.edit(_("group"), lambda d: choosing.group_with(d, row))
        else:
            self.wishes.edit(_("move in the list"), lambda d: choosing.move_chosen_to(d, row))

    def _switch(self, what: str, index: int) -> None:
        assert self._shown is not None
        volume = self._shown.document.volumes[index]
        if what == "show":
            self.wishes.edit(_("show or hide"), lambda d: choosing.show(d, index, not volume.shown))
        elif what == "lock":
            self.wishes.edit(_("pin"), lambda d: choosing.lock(d, index, not volume.locked))
        else:
            after = NEXT[volume.see_through]
            self.wishes.edit(_("see-through"), lambda d: choosing.see_through_one(d, index, after))

    def fit_into(self, high: int) -> None:
        self._high = high
        self._make_room()

    def _make_room(self) -> None:
        """As many rows of the list as leave room for what stands below it."""
        count = 0 if self._shown is None else len(self._shown.document.volumes)
        rest = self.body.sizeHint().height() - self.list.height()
        room = max((self._high - rest) // scaled(ROW), LEAST_ROWS)
        self.list.setFixedHeight(min(max(count, FEW), ROWS, room) * scaled(ROW))

    def show_document(self, shown: Shown) -> None:
        self._shown = shown
        document = shown.document
        chosen, unit = len(document.chosen), UNIT_WORDS[document.choices.unit]
        told = many("{n} chosen, in {unit}", "{n} chosen, in {unit}", chosen)
        told = told.format(n=chosen, unit=unit)
        self.note.setText(told if chosen > 1 else _("in {unit}").format(unit=unit))
        self._make_room()
        self.list.show_volumes(document)
        for widget in self._need_volume:
            widget.setEnabled(document.volume is not None)
