"""The Profile page: the side-view pad, the width of what is drawn on it, its cross-contours."""

from collections.abc import Callable

from PyQt6.QtCore import QCoreApplication, pyqtSignal
from PyQt6.QtWidgets import QPushButton

from isometron.document.document import Document
from isometron.document.edits import profiles, shaping
from isometron.drawing.scene import Scene
from isometron.perspective.errors import VolumeError
from isometron.ui.cards.rounds.profile_pad import ProfilePad
from isometron.ui.parts.fields import TextField
from isometron.ui.parts.form import Entry
from isometron.ui.parts.page import Page
from isometron.ui.parts.theme import Room

SIDES = (("side view", 1), ("end view", 0), ("plan", 2))
"""Views a profile may be drawn in, with the own axis it is carried along."""

PLANES = (("near side", 0.0), ("centre plane", 0.5), ("far side", 1.0))


def tr(text: str) -> str:
    """The words in the person's language."""
    return QCoreApplication.translate("ProfilePage", text)


def _thickness(document: Document) -> float | None:
    volume, shape = document.volume, profiles.profile_of(document.volume)
    return None if volume is None or shape is None else volume.sides[shape.axis]


def _plane(document: Document) -> float | None:
    shape = profiles.profile_of(document.volume)
    return None if shape is None else shape.at


class ProfilePage(Page):
    """The profile in work; emits `bring_outline` (the own axis it will be carried along)."""

    bring_outline = pyqtSignal(int)

    def __init__(self) -> None:
        super().__init__()
        self.view = self.choice(
            tr("view"), tr("The view the profile is drawn in."), [tr(name) for name, _ in SIDES]
        )
        svg = QPushButton(tr("From SVG…"))
        svg.setToolTip(tr("Bring a closed SVG outline in as the profile."))
        svg.clicked.connect(lambda: self.bring_outline.emit(SIDES[self.view.currentIndex()][1]))
        self.needs_volume.append(svg)
        begin = self.act(
            tr("Begin"), tr("Begin a profile from the box in work."), "begin a profile", self._begin
        )
        self.row("", self.view, begin, svg)
        self.pad = ProfilePad()
        self.pad.dragged.connect(self.dragged)
        self.pad.dropped.connect(self.dropped)
        self.pad.wanted.connect(self.wanted)
        self.column.addWidget(self.pad, 1)
        self.row(
            "",
            self.act(
                tr("Smooth"),
                tr("Let the outline run smoothly through the chosen point."),
                "smooth point",
                lambda: self._smooth(True),
            ),
            self.act(
                tr("Corner"),
                tr("Let the outline turn a corner at the chosen point."),
                "corner point",
                lambda: self._smooth(False),
            ),
            self.act(
                tr("Take out"), tr("Take the chosen point out."), "take a point out", self._remove
            ),
        )
        self.form.row(
            tr("full width"),
            Entry(
                "full width",
                tr("The width, the same on both sides of the centre plane."),
                "length",
                _thickness,
                profiles.set_thickness,
            ),
        )
        self.form.row(
            tr("shown at"),
            Entry(
                "plane of the profile",
                tr("The plane its points lie on in the framework: 0 near side, 1/2 centre plane."),
                "share",
                _plane,
                profiles.show_plane,
            ),
        )
        self.column.addLayout(self.form.grid)
        self.widths = TextField(
            tr("widths"),
            tr("Where it is how wide, such as 0 60%, 1/2 100%, 1 80%; straight for one width."),
        )
        self.widths.typed.connect(
            lambda text: self._do("widths", lambda: profiles.widths_as_typed(text))
        )
        self.row(tr("widths"), self.widths)
        self.contours = TextField(
            tr("cross-contours"), tr("Stations of cross-contours: a number, or 1/3 2/3.")
        )
        self.contours.typed.connect(
            lambda text: self._do("cross-contours", lambda: profiles.contours_as_typed(text))
        )
        self.row(tr("contours at"), self.contours)
        self.centre = QPushButton(tr("Centre line"))
        self.centre.setCheckable(True)
        self.centre.setToolTip(tr("Draw the outline on the centre plane."))
        self.centre.clicked.connect(
            lambda on: self.wanted.emit("centre line", lambda d: profiles.set_centre_line(d, on))
        )
        self.needs_volume.append(self.centre)
        self.row("", self.centre)

    def _begin(self) -> Callable[[Document], Document]:
        axis = SIDES[self.view.currentIndex()][1]
        return lambda d: profiles.begin_profile(d, axis)

    def _knot(self) -> tuple[int, int]:
        knot = self.pad.knot
        if knot is None:
            raise VolumeError("No point is chosen: click one on the pad.")
        return knot

    def _smooth(self, smooth: bool) -> Callable[[Document], Document]:
        ring, knot = self._knot()
        return lambda d: profiles.smooth_knot(d, ring, knot, smooth)

    def _remove(self) -> Callable[[Document], Document]:
        ring, knot = self._knot()
        return lambda d: profiles.remove_knot(d, ring, knot)

    def show_document(
        self, document: Document, scene: Scene, families: tuple[str, str, str], room: Room
    ) -> None:
        super().show_document(document, scene, families, room)
        self.pad.show_volume(document)
        volume, shape = document.volume, profiles.profile_of(document.volume)
        if volume is None or shape is None:
            for field in (self.widths, self.contours):
                field.show_text(None)
            self.centre.setEnabled(False)
            return
        self.widths.show_text(profiles.write_widths(shape.widths))
        self.contours.show_text(shaping.write_shares(profiles.contours_of(volume)))
        self.centre.setChecked(profiles.has_centre_line(volume))
