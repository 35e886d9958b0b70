"""The Rounds tab: what is round, how its ellipses are drawn, turned forms and profiles."""

from PyQt6.QtCore import QCoreApplication, pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QWidget

from isometron.document.document import Document
from isometron.document.edits import rounding
from isometron.drawing.scene import Scene
from isometron.perspective.lengths import UNIT_WORDS
from isometron.ui.parts.fields import Choice
from isometron.ui.parts.page import Page
from isometron.ui.parts.paged_card import PagedCard
from isometron.ui.parts.theme import Room


def tr(text: str) -> str:
    """The words in the person's language."""
    return QCoreApplication.translate("RoundsCard", text)


class RoundsCard(PagedCard):
    """The card of the Rounds tab; also emits `chosen` (a volume, whether besides) and
    `bring_outline`."""

    PAGES = (
        ("Ellipse", tr("How the circle in work is drawn: degree, tilt, axes, guide.")),
        ("Axle", tr("Diameter, bore, rim and hub, wheels that belong together.")),
        ("Faces", tr("Circles, holes, arches and knobs on a face.")),
        ("Turned", tr("Radii by height, and how open each round is.")),
        ("Profile", tr("The side-view pad: an outline, its width, cross-contours.")),
    )
    chosen = pyqtSignal(int, bool)
    bring_outline = pyqtSignal(int)

    def __init__(self, room: Room) -> None:
        super().__init__(room, tr("Rounds"))
        self.volume = Choice(tr("volume in work"), tr("The volume to make round."), [])
        self.volume.activated.connect(lambda index: self.chosen.emit(index, False))
        self.body.addWidget(self.volume)
        self.form = Choice(
            tr("round form"), tr("A round form to begin from."), list(rounding.FORMS)
        )
        add = self.small_button(tr("Add it"), tr("Put a new one on the ground before us."))
        add.clicked.connect(self._add)
        make = self.small_button(tr("Make it so"), tr("Give the volume in work this form."))
        make.clicked.connect(self._make)
        self._need_volume: list[QWidget] = [make]
        row = QHBoxLayout()
        row.setSpacing(4)
        row.addWidget(self.form, 2)
        row.addWidget(add, 1)
        row.addWidget(make, 1)
        self.body.addLayout(row)
        self.lay_pages()

    def _add(self) -> None:
        name = self.form.currentText()
        self.wanted.emit(f"add a {name}", lambda d: rounding.add_round(d, name))

    def _make(self) -> None:
        name = self.form.currentText()
        self.wanted.emit(f"make it a {name}", lambda d: rounding.make_round(d, name))

    def make_page(self, number: int) -> Page:
        """A page, made anew."""
        from isometron.ui.cards.rounds.axle_page import AxlePage
        from isometron.ui.cards.rounds.ellipse_page import EllipsePage
        from isometron.ui.cards.rounds.faces_page import FacesPage
        from isometron.ui.cards.rounds.profile_page import ProfilePage
        from isometron.ui.cards.rounds.turned_page import TurnedPage

        if number == 4:
            profile = ProfilePage()
            profile.bring_outline.connect(self.bring_outline)
            return profile
        kinds: tuple[type[Page], ...] = (EllipsePage, AxlePage, FacesPage, TurnedPage)
        return kinds[number]()

    def show_document(
        self, document: Document, scene: Scene, families: tuple[str, str, str]
    ) -> None:
        volume = document.volume
        unit = UNIT_WORDS[document.choices.unit]
        self.note.setText(tr("in %s") % unit if volume is None else f"{volume.called}, {unit}")
        names = [v.name for v in document.volumes]
        if [self.volume.itemText(i) for i in range(self.volume.count())] != names:
            self.volume.clear()
            self.volume.addItems(names)
        self.volume.setEnabled(bool(names))
        self.volume.setCurrentIndex(-1 if document.selected is None else document.selected)
        for widget in self._need_volume:
            widget.setEnabled(volume is not None)
        super().show_document(document, scene, families)
