"""The Ellipse page: how the circle in work is drawn by hand, and the guides a person has."""

import numpy as np
from PyQt6.QtCore import QCoreApplication
from PyQt6.QtWidgets import QPushButton

from isometron.document.document import Document
from isometron.document.edits import ellipses
from isometron.drawing.round_readings import how_to_draw
from isometron.drawing.rounds import circle_in_work, circles_of
from isometron.drawing.scene import Scene
from isometron.ui.cards.rounds.ellipse_view import EllipseView
from isometron.ui.parts.card import soft_label
from isometron.ui.parts.fields import TextField
from isometron.ui.parts.page import Edit, Page
from isometron.ui.parts.theme import LIGHT_ROOM, Room


def tr(text: str) -> str:
    """The words in the person's language."""
    return QCoreApplication.translate("EllipsePage", text)


class EllipsePage(Page):
    """The circle in work: its picture, what to do with the pencil, aids, guides."""

    def __init__(self) -> None:
        super().__init__()
        self.which = self.choice(tr("circle"), tr("The circle of this volume to draw."), [])
        self.which.activated.connect(self._choose)
        self.row(tr("circle"), self.which)
        self.view = EllipseView(LIGHT_ROOM)
        self.column.addWidget(self.view, 1)
        self.words = soft_label("")
        self.words.setWordWrap(True)
        self.column.addWidget(self.words)
        self.aids = QPushButton(tr("Aids on the sheet"))
        self.aids.setCheckable(True)
        self.aids.setToolTip(
            tr("Draw its square, diagonals, touching points, axes and axle on the sheet.")
        )
        self.aids.clicked.connect(
            lambda on: self.wanted.emit("ellipse aids", lambda d: ellipses.show_ellipse_aids(d, on))
        )
        self.column.addWidget(self.aids)
        self.heading(tr("The guides you have"))
        self.degrees = TextField(
            tr("guide degrees"), tr("Degrees of your ellipse guides, such as 10-80/5.")
        )
        self.degrees.typed.connect(
            lambda text: self._do("ellipse guides", lambda: self._guides(text, degrees=True))
        )
        self.row(tr("degrees"), self.degrees)
        self.sizes = TextField(
            tr("guide sizes"), tr("Long axes of your ellipse guides in mm, such as 4-40/2, 50.")
        )
        self.sizes.typed.connect(
            lambda text: self._do("ellipse guides", lambda: self._guides(text, degrees=False))
        )
        self.row(tr("sizes, mm"), self.sizes)

    def _choose(self, number: int) -> None:
        self.wanted.emit("choose", lambda d: ellipses.choose_circle(d, number))

    @staticmethod
    def _guides(text: str, *, degrees: bool) -> Edit:
        values = ellipses.read_list(text) if text.strip() else ()
        given = (values, None) if degrees else (None, values)
        return lambda d: ellipses.set_guides(d, *given)

    def show_document(
        self, document: Document, scene: Scene, families: tuple[str, str, str], room: Room
    ) -> None:
        super().show_document(document, scene, families, room)
        circles = () if document.selected is None else circles_of(scene, document.selected)
        names = [f"{c.name} {c.number + 1}" for c in circles]
        if [self.which.itemText(i) for i in range(self.which.count())] != names:
            self.which.clear()
            self.which.addItems(names)
        circle = circle_in_work(document, scene)
        self.which.setEnabled(circle is not None)
        if circle is None:
            text = tr("No circle here: choose a round volume, or draw a circle on a face.")
            self.words.setText(text)
            self.view.show_circle(None, np.empty((0, 2)), None, text)
        else:
            self.which.setCurrentIndex(circle.number)
            text = " ".join(how_to_draw(document, circle))
            self.words.setText(text)
            guide = circle.guide(document.kit)
            self.view.show_circle(circle, circle.square(document.eye), guide, text)
        self.aids.setChecked(document.choices.ellipse_aids)
        self.degrees.show_text(ellipses.write_list(document.kit.guide_degrees))
        self.sizes.show_text(ellipses.write_list(document.kit.guide_sizes_mm))
