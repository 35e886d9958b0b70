"""The Volumes tab: the list of volumes, and pages with everything about the one in work."""

from PyQt6.QtCore import QCoreApplication, pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QScrollArea, QWidget

from isometron.document.document import Document
from isometron.document.edits import choosing, volume_edits
from isometron.drawing.scene import Scene
from isometron.perspective.lengths import UNIT_WORDS
from isometron.ui.cards.volumes.volume_list import VolumeList
from isometron.ui.parts.page import Page
from isometron.ui.parts.paged_card import PagedCard
from isometron.ui.parts.theme import ROW, Room

ROWS = 5
"""More volumes than this are scrolled."""


def tr(text: str) -> str:
    """The words in the person's language."""
    return QCoreApplication.translate("VolumesCard", text)


PAGES: tuple[tuple[str, str], ...] = (
    ("Size", tr("Name, true sides, turn, place and proportion.")),
    ("Shape", tr("Leaning sides, plan outline, thickness and cuts.")),
    ("Place", tr("What it stands on, and how it is turned in space.")),
    ("Copies", tr("Groups, mirrored twins and repeats.")),
    ("Lines", tr("Divisions, centre and section lines, floor and wall.")),
    ("Whole", tr("Modules, and the bounding volume of what is chosen.")),
)


class VolumesCard(PagedCard):
    """The card of the Volumes tab; also emits `laying` and `chosen` (a volume, whether besides)."""

    PAGES = PAGES
    laying = pyqtSignal(bool)
    chosen = pyqtSignal(int, bool)

    def __init__(self, room: Room) -> None:
        super().__init__(room, tr("Volumes"))
        self.list = VolumeList(room)
        self.list.chosen.connect(self.chosen)
        self.list.switched.connect(self._switch)
        self.list.moved.connect(
            lambda step: self.wanted.emit(
                "move in the list", lambda d: choosing.move_in_list(d, step)
            )
        )
        scroll = QScrollArea()
        scroll.setWidget(self.list)
        scroll.setWidgetResizable(True)
        scroll.setFocusPolicy(scroll.focusPolicy().NoFocus)
        scroll.setFrameShape(QScrollArea.Shape.NoFrame)
        scroll.setHorizontalScrollBarPolicy(scroll.horizontalScrollBarPolicy().ScrollBarAlwaysOff)
        self._window = scroll
        scroll.viewport().setAutoFillBackground(False)  # type: ignore[union-attr]
        self.list.setAutoFillBackground(False)
        self.body.addWidget(scroll)
        self._new_buttons()
        self.lay_pages()

    def _new_buttons(self) -> None:
        self.lay = self.small_button(
            tr("Lay edge"), tr("Drag a near edge on the paper; a cube closes on it.")
        )
        self.lay.setCheckable(True)
        self.lay.toggled.connect(self.laying)
        add = self.small_button(tr("Add box"), tr("Put a cube on the ground before us."))
        add.clicked.connect(lambda: self.wanted.emit("add a box", volume_edits.add_box))
        copy = self.small_button(tr("Copy"), tr("Set copies of the chosen volumes beside them."))
        copy.clicked.connect(
            lambda: self.wanted.emit("copy the volume", volume_edits.duplicate_volume)
        )
        remove = self.small_button(tr("Remove"), tr("Take the chosen volumes off the sheet."))
        remove.clicked.connect(
            lambda: self.wanted.emit("take the volume away", choosing.remove_chosen)
        )
        self._need_volume: list[QWidget] = [copy, remove]
        row = QHBoxLayout()
        row.setSpacing(4)
        for button in (self.lay, add, copy, remove):
            row.addWidget(button)
        self.body.addLayout(row)

    def make_page(self, number: int) -> Page:
        """A page, made anew."""
        if number == 0:
            from isometron.ui.cards.volumes.size_page import SizePage

            return SizePage(self.room)
        from isometron.ui.cards.volumes.copies_page import CopiesPage
        from isometron.ui.cards.volumes.lines_page import LinesPage
        from isometron.ui.cards.volumes.place_page import PlacePage
        from isometron.ui.cards.volumes.shape_page import ShapePage
        from isometron.ui.cards.volumes.whole_page import WholePage

        kinds: tuple[type[Page], ...] = (ShapePage, PlacePage, CopiesPage, LinesPage, WholePage)
        return kinds[number - 1]()

    def _switch(self, what: str, index: int) -> None:
        assert self._shown is not None
        volume = self._shown[0].volumes[index]
        if what == "show":
            self.wanted.emit("show or hide", lambda d: choosing.show(d, index, not volume.shown))
        elif what == "lock":
            self.wanted.emit("lock", lambda d: choosing.lock(d, index, not volume.locked))
        else:
            after = {None: True, True: False, False: None}[volume.see_through]
            self.wanted.emit("see-through", lambda d: choosing.see_through_one(d, index, after))

    def show_room(self, room: Room) -> None:
        self.list.room = room
        super().show_room(room)

    def show_document(
        self, document: Document, scene: Scene, families: tuple[str, str, str]
    ) -> None:
        many = len(document.chosen)
        unit = UNIT_WORDS[document.choices.unit]
        self.note.setText(tr("%d chosen, in %s") % (many, unit) if many > 1 else tr("in %s") % unit)
        rows = min(max(len(document.volumes), 2), ROWS)
        self._window.setFixedHeight(rows * ROW)
        self.list.show_volumes(document)
        if document.selected is not None:
            self._window.ensureVisible(0, int((document.selected + 0.5) * ROW), 0, ROW)
        for widget in self._need_volume:
            widget.setEnabled(document.volume is not None)
        super().show_document(document, scene, families)
