"""The Size page: name, true sides, turn and place, and the proportion."""

from collections.abc import Callable

from PyQt6.QtCore import QCoreApplication
from PyQt6.QtWidgets import QHBoxLayout, QLineEdit

from isometron.document.document import Document
from isometron.document.edits import choosing, proportioning, volume_edits
from isometron.drawing.measures import from_near_corner
from isometron.drawing.scene import Scene
from isometron.framework.box import AXES
from isometron.perspective.lengths import read_ratio
from isometron.ui.cards.volumes.shares import Shares
from isometron.ui.parts.card import soft_label
from isometron.ui.parts.fields import DimensionField, NumberField, TextField
from isometron.ui.parts.form import Entry
from isometron.ui.parts.page import Page, proportion_of
from isometron.ui.parts.theme import Room


def tr(text: str) -> str:
    """The words in the person's language."""
    return QCoreApplication.translate("SizePage", text)


class SizePage(Page):
    """Name, true sides, turn and place, and the proportion."""

    def __init__(self, room: Room) -> None:
        super().__init__()
        self.name = TextField(tr("name"), tr("What this volume is called."))
        self.name.typed.connect(
            lambda text: self.wanted.emit("rename", lambda d: choosing.rename_volume(d, text))
        )
        self.form.grid.addWidget(soft_label(tr("name")), 0, 0)
        self.form.grid.addWidget(self.name, 0, 1, 1, 2)
        self._sides: list[NumberField] = []
        for axis, side in enumerate(AXES):
            self._sides += self.form.row(tr(side), _side_entry(side, axis))
        self.form.row(
            tr("turned"),
            Entry(
                "turned",
                tr("Turn of the volume on the ground, counter-clockwise from above."),
                "angle",
                lambda d: d.volume.yaw_deg if d.volume else None,
                volume_edits.turn_volume,
            ),
        )
        self.form.row(
            tr("stands at"),
            _place_entry("stands across", 0, tr("Place of its first corner, across.")),
            _place_entry("stands away", 1, tr("Place of its first corner, away.")),
        )
        self.form.row(
            tr("above ground"),
            _place_entry("above ground", 2, tr("Height of its base above the ground.")),
        )
        self.column.addLayout(self.form.grid)
        cube = self.act(
            tr("Make it a cube"),
            tr("Width and depth become the height of the near edge."),
            "make it a cube",
            lambda: volume_edits.make_cube,
        )
        self.ratio = QLineEdit()
        self.ratio.setFixedHeight(24)
        self.ratio.setAccessibleName(tr("width : depth : height"))
        self.ratio.setToolTip(tr("Width : depth : height, such as 3 : 2 : 1; the height stays."))
        self.ratio.returnPressed.connect(lambda: self._do("make it w : d : h", self._proportion))
        make = self.act(
            tr("Make it"),
            tr("Give it the proportion typed beside."),
            "make it w : d : h",
            self._proportion,
        )
        self.needs_volume.append(self.ratio)
        self.column.addSpacing(4)
        self.column.addWidget(cube)
        row = QHBoxLayout()
        row.setSpacing(5)
        row.addWidget(soft_label(tr("w : d : h")))
        row.addWidget(self.ratio, 1)
        row.addWidget(make)
        self.column.addLayout(row)
        self._told = self.heading(tr("Drawn from the near corner"))
        self.shares = Shares(room)
        self.column.addWidget(self.shares)
        self.column.addStretch(1)

    def _proportion(self) -> Callable[[Document], Document]:
        ratio = read_ratio(self.ratio.text())
        self.ratio.setModified(False)
        return lambda document: volume_edits.make_proportion(document, ratio)

    def show_document(
        self, document: Document, scene: Scene, families: tuple[str, str, str], room: Room
    ) -> None:
        volume = document.volume
        names = proportioning.countable(document)
        for axis, (field, family) in enumerate(zip(self._sides, families, strict=True)):
            field.family = family
            if isinstance(field, DimensionField):
                field.show_count(volume.counts[axis] if volume else None, names)
        super().show_document(document, scene, families, room)
        self.name.show_text(volume.name if volume else None)
        chosen = None if document.selected is None else scene.pictures[document.selected]
        edges = from_near_corner(document.eye, chosen) if chosen else ()
        self.shares.room = room
        self.shares.show_edges(edges, families, document.choices.unit)
        self._told.setVisible(bool(edges))
        if not (self.ratio.hasFocus() and self.ratio.isModified()):
            self.ratio.setText(proportion_of(volume) if volume else "")


SIDE_TIPS = {
    "width": tr("True width: a length, or a count such as 3 w or 1/2 height."),
    "depth": tr("True depth: a length, or a count such as 2 w or width / 3."),
    "height": tr("True height, the length of the near edge: a length or a count."),
}


def _side_entry(side: str, axis: int) -> Entry:
    def shown(document: Document) -> float | None:
        return document.volume.sides[axis] if document.volume else None

    return Entry(
        side,
        SIDE_TIPS[side],
        "dimension",
        shown,
        lambda document, value: proportioning.type_side(document, axis, value),
    )


def _place_entry(name: str, axis: int, tip: str) -> Entry:
    def shown(document: Document) -> float | None:
        return document.volume.place[axis] if document.volume else None

    def move(document: Document, mm: float) -> Document:
        place = list(document.volume.place) if document.volume else [0.0, 0.0, 0.0]
        place[axis] = mm
        return volume_edits.move_volume(document, (place[0], place[1], place[2]))

    return Entry(name, tip, "length", shown, move)
