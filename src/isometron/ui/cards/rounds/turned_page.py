"""The Turned page: radii by height, straight or smooth, and how open each round is."""

from PyQt6.QtCore import QCoreApplication

from isometron.document.document import Document
from isometron.document.edits import profiles, rounding, shaping
from isometron.drawing.rounds import degrees_over_height, height_of_eye
from isometron.drawing.scene import Scene
from isometron.perspective.lengths import write_length
from isometron.ui.cards.rounds.radii_pad import RadiiPad
from isometron.ui.parts.fields import TextField
from isometron.ui.parts.page import Edit, Page
from isometron.ui.parts.theme import Room

JOINS = ("straight", "smooth")


def tr(text: str) -> str:
    """The words in the person's language."""
    return QCoreApplication.translate("TurnedPage", text)


class TurnedPage(Page):
    """A stack of radii by height, edited on its pad or as numbers."""

    def __init__(self) -> None:
        super().__init__()
        self._unit = "mm"
        self.pad = RadiiPad()
        self.pad.dragged.connect(self.dragged)
        self.pad.dropped.connect(self.dropped)
        self.pad.wanted.connect(self.wanted)
        self.column.addWidget(self.pad, 1)
        self.table = TextField(
            tr("heights and radii"),
            tr("Heights with their radii from the base up, such as 0 40, 30 45, 80 20."),
        )
        self.table.typed.connect(lambda text: self._do("radii", lambda: self._stations(text)))
        self.column.addWidget(self.table)
        self.join = self.choice(
            tr("joined"), tr("How one radius runs into the next."), [tr(join) for join in JOINS]
        )
        self.join.activated.connect(
            lambda n: self.wanted.emit("join", lambda d: rounding.set_join(d, JOINS[n]))
        )
        self.row(tr("joined"), self.join)
        self.contours = TextField(
            tr("cross-contours"), tr("Where cross-contours are drawn: a number, or 1/3 2/3.")
        )
        self.contours.typed.connect(
            lambda text: self._do("cross-contours", lambda: profiles.contours_as_typed(text))
        )
        self.row(tr("contours at"), self.contours)

    def _stations(self, text: str) -> Edit:
        stations = rounding.read_stations(text, self._unit)
        return lambda d: rounding.set_stations(d, stations)

    def show_document(
        self, document: Document, scene: Scene, families: tuple[str, str, str], room: Room
    ) -> None:
        super().show_document(document, scene, families, room)
        self._unit = document.choices.unit
        volume, shape = document.volume, rounding.turned_of(document.volume)
        self.table.show_text(None)
        self.contours.show_text(None)
        self.join.setEnabled(shape is not None)
        if volume is None or shape is None:
            self.pad.show_volume(document, (), 0.0)
            return
        index = document.selected or 0
        self.pad.show_volume(
            document, degrees_over_height(document, index), height_of_eye(document, index)
        )

        def length(mm: float) -> str:
            return write_length(mm, self._unit, with_unit=False)

        pairs = (f"{length(h)} {length(r)}" for h, r in rounding.stations_mm(volume))
        self.table.show_text(", ".join(pairs))
        self.join.setCurrentIndex(JOINS.index(shape.join) if shape.join in JOINS else 1)
        self.contours.show_text(shaping.write_shares(profiles.contours_of(volume)))
