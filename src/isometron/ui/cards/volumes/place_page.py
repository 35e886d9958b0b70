"""The Place page: what a volume stands on, and how it is turned in space."""

from collections.abc import Callable

from PyQt6.QtCore import QCoreApplication

from isometron.document.document import Document
from isometron.document.edits import choosing, standing
from isometron.drawing.measures import sloping_points
from isometron.drawing.scene import Scene
from isometron.perspective.errors import VolumeError
from isometron.ui.board.handles import off_paper
from isometron.ui.parts.card import soft_label
from isometron.ui.parts.form import Entry
from isometron.ui.parts.page import FACE_OF, SIDES, Page, list_others
from isometron.ui.parts.theme import Room

MOST_SLOPES = 3
"""Of more vanishing points of sloping edges than this the page says nothing."""

GROUND = "the ground"


def tr(text: str) -> str:
    """The words in the person's language."""
    return QCoreApplication.translate("PlacePage", text)


class PlacePage(Page):
    """What the volume stands on, and how it is turned in space."""

    def __init__(self) -> None:
        super().__init__()
        self.told = soft_label("")
        self.told.setWordWrap(True)
        self.column.addWidget(self.told)
        self.on = self.choice(
            tr("what it stands on"), tr("What it stands on or against."), [GROUND]
        )
        self.row(
            tr("with"),
            self.on,
        )
        self.side = self.choice(tr("side"), tr("The side it is set against."), list(SIDES))
        self.row(
            "",
            self.act(
                tr("Set it on top"),
                tr("Set it down on this; it follows from now on."),
                "stand on",
                self._stand,
            ),
            self.act(
                tr("Stand free"),
                tr("Follow nothing from now on."),
                "stand free",
                lambda: standing.let_stand_free,
            ),
        )
        self.row(
            "",
            self.side,
            self.act(
                tr("Set against"),
                tr("Push it square against this side; it follows."),
                "set against",
                self._against,
            ),
        )
        self.share = self.measure(
            "share", "fraction along", tr("How far along the edge, as a fraction."), 0.5
        )
        self.row(
            "",
            self.share,
            self.act(
                tr("Along the edge"),
                tr("Set its first corner at this fraction along that side's near edge."),
                "set along the edge",
                self._along,
            ),
        )
        self.heading(tr("Turned"))
        for number, (label, tip) in enumerate(
            (
                ("yaw", tr("Turn on the ground, counter-clockwise from above.")),
                ("pitch", tr("Tip about its own width: positive lifts its back.")),
                ("roll", tr("Tip about its own depth: positive lowers its right side.")),
            )
        ):
            self.form.row(tr(label), self._turn_entry(label, number, tip))
        self.column.addLayout(self.form.grid)
        self.about = self.choice(
            tr("turned about"), tr("What stays while it turns."), list(standing.TURNING_POINTS)
        )
        self.row(tr("about"), self.about)
        self.angle = self.measure("angle", "turn by", tr("By how much to turn."), 30.0)
        self.row(
            "",
            self.angle,
            self.act(
                tr("Round the edge"),
                tr("Turn it round the edge that is picked."),
                "turn round an edge",
                self._round_edge,
            ),
        )
        self.row(
            "",
            self.act(
                tr("The same again, turned"),
                tr("A copy turned on the same ground; the old one stays as a ghost."),
                "the same again, turned",
                self._again,
            ),
        )
        self.column.addStretch(1)

    def _turn_entry(self, label: str, number: int, tip: str) -> Entry:
        def shown(document: Document) -> float | None:
            v = document.volume
            return None if v is None else (v.yaw_deg, v.pitch_deg, v.roll_deg)[number]

        def turn(document: Document, degrees: float) -> Document:
            _, v = choosing.in_work(document)
            turns = [v.yaw_deg, v.pitch_deg, v.roll_deg]
            turns[number] = degrees
            edge = self.pick.index if self.pick and self.pick.kind == "edge" else None
            point = standing.turning_point(document, self.about.currentText(), edge)
            return standing.turn_about(document, (turns[0], turns[1], turns[2]), point)

        return Entry(label, tip, "angle", shown, turn)

    def _parent(self) -> int:
        number = self.on.currentData()
        if number is None:
            raise VolumeError("Choose another volume for it to stand on.")
        return int(number)

    def _stand(self) -> Callable[[Document], Document]:
        if self.on.currentData() is None:
            return standing.stand_on_ground
        parent = self._parent()
        return lambda d: standing.stand_on(d, parent)

    def _against(self) -> Callable[[Document], Document]:
        parent, face = self._parent(), FACE_OF[self.side.currentText()]
        return lambda d: standing.set_against(d, parent, face)

    def _along(self) -> Callable[[Document], Document]:
        parent, share = self._parent(), self.share.number
        edge = {"front": 2, "back": 3, "left": 6, "right": 7, "top": 2, "base": 0}[
            self.side.currentText()
        ]
        return lambda d: standing.set_along_edge(d, parent, edge, share)

    def _round_edge(self) -> Callable[[Document], Document]:
        if self.pick is None or self.pick.kind != "edge":
            raise VolumeError("No edge is picked: click the edge to turn it round.")
        edge, angle = self.pick.index, self.angle.number
        return lambda d: standing.turn_round_edge(d, edge, angle)

    def _again(self) -> Callable[[Document], Document]:
        angle = self.angle.number

        def again(document: Document) -> Document:
            _, volume = choosing.in_work(document)
            return standing.same_again_turned(document, volume.yaw_deg + angle)

        return again

    def show_document(
        self, document: Document, scene: Scene, families: tuple[str, str, str], room: Room
    ) -> None:
        super().show_document(document, scene, families, room)
        list_others(self.on, document, GROUND)
        volume = document.volume
        parent = document.by_key(volume.on.parent) if volume and volume.on else None
        words = tr("It stands free.") if volume else ""
        if parent is not None:
            words = tr("It stands on %s and follows it.") % parent.name
        if volume is not None and volume.like is not None:
            source = document.by_key(volume.like.source)
            words = tr("It is a copy of %s.") % (source.name if source else "?")
        chosen = None if document.selected is None else scene.pictures[document.selected]
        slopes = sloping_points(document.eye, chosen) if chosen else ()
        unit = document.choices.unit
        if 0 < len(slopes) <= MOST_SLOPES:
            words += tr(" Sloping edges vanish ")
            words += "; ".join(off_paper(document.sheet, p.sheet_mm, unit) for p in slopes) + "."
        self.told.setText(words)
