"""The Rounds tab: what is round, how its ellipses are drawn, turned forms and profiles."""

from PyQt6.QtWidgets import QHBoxLayout

from isometron.document.edits.shapes import rounding
from isometron.perspective.lengths import UNIT_WORDS
from isometron.ui.parts.card import Shown
from isometron.ui.parts.fields import Choice
from isometron.ui.parts.page import Page, list_anew
from isometron.ui.parts.paged_card import Leaf, PagedCard, small_button
from isometron.ui.parts.wishes import Wishes
from isometron.words import _

FORMS = tuple(rounding.FORMS)


def _ellipse(wishes: Wishes) -> Page:
    from isometron.ui.cards.rounds.ellipse_page import EllipsePage

    return EllipsePage(wishes)


def _axle(wishes: Wishes) -> Page:
    from isometron.ui.cards.rounds.axle_page import AxlePage

    return AxlePage(wishes)


def _faces(wishes: Wishes) -> Page:
    from isometron.ui.cards.rounds.faces_page import FacesPage

    return FacesPage(wishes)


def _turned(wishes: Wishes) -> Page:
    from isometron.ui.cards.rounds.turned_page import TurnedPage

    return TurnedPage(wishes)


def _profile(wishes: Wishes) -> Page:
    from isometron.ui.cards.rounds.profile_page import ProfilePage

    return ProfilePage(wishes)


class RoundsCard(PagedCard):
    """The card of the Rounds tab."""

    LEAVES = (
        Leaf(
            _("Ellipse"),
            _("How the circle in work is drawn: degree, tilt, axes, guide."),
            _ellipse,
        ),
        Leaf(_("Axle"), _("Diameter, bore, rim and hub, wheels that belong together."), _axle),
        Leaf(_("Faces"), _("Circles, holes, arches and knobs on a face."), _faces),
        Leaf(_("Turned"), _("Radii by height, and how open each round is."), _turned),
        Leaf(
            _("Profile"), _("The side-view pad: an outline, its width, cross-contours."), _profile
        ),
    )

    def __init__(self, wishes: Wishes) -> None:
        super().__init__(wishes, _("Rounds"))
        self.volume = Choice(_("volume in work"), _("The volume to make round."), [])
        self.volume.activated.connect(wishes.choose)
        self.body.addWidget(self.volume)
        self.form = Choice(
            _("round form"), _("A round form to begin from."), [_(form) for form in FORMS]
        )
        add = small_button(_("Add it"), _("Put a new one on the ground before us."))
        add.clicked.connect(self._add)
        self.make = small_button(_("Make it so"), _("Give the volume in work this form."))
        self.make.clicked.connect(self._make)
        row = QHBoxLayout()
        row.setSpacing(4)
        row.addWidget(self.form, 2)
        row.addWidget(add, 1)
        row.addWidget(self.make, 1)
        self.body.addLayout(row)
        self.lay_pages()

    def _add(self) -> None:
        form = FORMS[self.form.currentIndex()]
        name = _("add a {form}").format(form=_(form))
        self.wishes.edit(name, lambda d: rounding.add_round(d, form))

    def _make(self) -> None:
        form = FORMS[self.form.currentIndex()]
        name = _("make it a {form}").format(form=_(form))
        self.wishes.edit(name, lambda d: rounding.make_round(d, form))

    def show_document(self, shown: Shown) -> None:
        document, volume = shown.document, shown.document.volume
        unit = UNIT_WORDS[document.choices.unit]
        told = _("in {unit}").format(unit=unit)
        self.note.setText(told if volume is None else f"{_(volume.called)}, {unit}")
        list_anew(self.volume, [(v.name, i) for i, v in enumerate(document.volumes)])
        self.volume.setEnabled(bool(document.volumes))
        self.volume.setCurrentIndex(-1 if document.selected is None else document.selected)
        self.make.setEnabled(volume is not None)
        super().show_document(shown)
