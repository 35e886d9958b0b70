"""The Shape page: leaning sides, plan outline, thickness, and what is cut away."""

from collections.abc import Callable
from functools import partial

from PyQt6.QtCore import QCoreApplication

from isometron.document.document import Document
from isometron.document.edits import shaping
from isometron.drawing.scene import Scene
from isometron.framework.bodies.cuts import Cut
from isometron.framework.box import AXES
from isometron.framework.kinds.kind import RECTANGLE
from isometron.framework.volume import Volume
from isometron.perspective.errors import VolumeError
from isometron.perspective.lengths import write_length
from isometron.ui.parts.fields import TextField, TypedAngle
from isometron.ui.parts.form import Entry
from isometron.ui.parts.page import FACE_OF, SIDES, Page
from isometron.ui.parts.theme import Room


def tr(text: str) -> str:
    """The words in the person's language."""
    return QCoreApplication.translate("ShapePage", text)


class ShapePage(Page):
    """Leaning sides, plan outline, thickness, and what is cut away."""

    def __init__(self) -> None:
        super().__init__()
        self._unit = "mm"
        self.heading(tr("Upper sides lean inward by"))
        self.form.row(tr("front, back"), _lean_entry("front"), _lean_entry("back"))
        self.form.row(tr("left, right"), _lean_entry("left"), _lean_entry("right"))
        self.column.addLayout(self.form.grid)
        self.row(
            "",
            self.act(
                tr("Ridge"),
                tr("Front and back lean until they meet in a ridge."),
                "make a ridge",
                lambda: lambda d: shaping.make_ridge(d, 0),
            ),
            self.act(
                tr("Tip"),
                tr("All four sides lean until they meet in a tip."),
                "make a tip",
                lambda: shaping.make_pyramid,
            ),
            self.act(
                tr("Whole box"),
                tr("The whole box again, without leans, outline or cuts."),
                "make it a whole box",
                lambda: shaping.make_box,
            ),
        )
        self.heading(tr("Plan outline"))
        self.outline = self.choice(
            tr("plan outline"), tr("The outline the volume stands on."), list(shaping.OUTLINES)
        )
        self.row(
            "",
            self.outline,
            self.act(
                tr("Stand on it"),
                tr("Make the volume a prism on this outline."),
                "plan outline",
                self._stand_on_outline,
            ),
        )
        self.own = TextField(
            tr("own outline"), tr("Plan corners in order round, such as 0 0, 60 0, 60 40, 0 25.")
        )
        self.own.typed.connect(self._own_outline)
        self.needs_volume.append(self.own)
        self.row(tr("own corners"), self.own)
        self.corner = self.measure(
            "length", "plan corners", tr("How much is taken off every plan corner."), 20.0
        )
        self.row(
            tr("corners"),
            self.corner,
            self.act(
                tr("Chamfer"),
                tr("Chamfer every plan corner."),
                "chamfer",
                lambda: self._corners(rounded=False),
            ),
            self.act(
                tr("Round"),
                tr("Round every plan corner."),
                "round the corners",
                lambda: self._corners(rounded=True),
            ),
        )
        self.heading(tr("Thickness and cuts"))
        self.side = self.choice(tr("side that stays"), tr("The side that stays."), list(SIDES))
        self.thick = self.measure(
            "length", "thickness", tr("How thick a slab, leg or slat is left."), 18.0
        )
        self.row(
            "",
            self.side,
            self.thick,
            self.act(
                tr("Thin it"),
                tr("Thin the volume to a slab, leg or slat at that side."),
                "give thickness",
                self._thin,
            ),
        )
        self.row(
            "",
            *(
                self.act(
                    tr(name if len(name) > 1 else f"{name} cut"),
                    tr(f"Cut the full box to the shape {name}."),
                    f"{name} cut",
                    partial(_cutting, cuts),
                )
                for name, cuts in shaping.NOTCHES.items()
            ),
        )
        self.wall = self.measure(
            "length", "wall", tr("How thick the wall round the opening is."), 20.0
        )
        self.way = self.choice(
            tr("opening runs along"), tr("Which way the opening runs."), list(AXES)
        )
        self.row(
            "",
            self.way,
            self.wall,
            self.act(
                tr("Pierce"), tr("Pierce an opening that leaves this wall."), "pierce", self._pierce
            ),
        )
        self.row(
            "",
            self.act(
                tr("Cut the other out"),
                tr("Cut the other chosen volume out of the one in work."),
                "cut out",
                lambda: _cut_other_out,
            ),
            self.act(
                tr("Fill cuts"),
                tr("Take every cut back."),
                "fill the cuts",
                lambda: shaping.fill_cuts,
            ),
        )
        self.column.addStretch(1)

    def _own_outline(self, text: str) -> None:
        self._do("own outline", lambda: self._standing_on(text))

    def _standing_on(self, text: str) -> Callable[[Document], Document]:
        corners = shaping.read_outline(text, self._unit)
        return lambda document: shaping.set_own_outline(document, corners)

    def show_document(
        self, document: Document, scene: Scene, families: tuple[str, str, str], room: Room
    ) -> None:
        self._unit = document.choices.unit
        super().show_document(document, scene, families, room)
        volume = document.volume
        if not (self.own.hasFocus() and self.own.isModified()):
            self.own.show_text(None if volume is None else _outline_in_words(volume, self._unit))

    def _stand_on_outline(self) -> Callable[[Document], Document]:
        outline = shaping.OUTLINES[self.outline.currentText()]
        return lambda d: shaping.set_outline(d, outline)

    def _corners(self, *, rounded: bool) -> Callable[[Document], Document]:
        mm = self.corner.number
        return lambda d: shaping.cut_plan_corners(d, mm, rounded=rounded)

    def _thin(self) -> Callable[[Document], Document]:
        face, mm = FACE_OF[self.side.currentText()], self.thick.number
        return lambda d: shaping.give_thickness(d, face, mm)

    def _pierce(self) -> Callable[[Document], Document]:
        axis, mm = self.way.currentIndex(), self.wall.number
        return lambda d: shaping.pierce_opening(d, axis, mm)


def _cut_other_out(document: Document) -> Document:
    others = [i for i in document.chosen if i != document.selected]
    if len(others) != 1:
        raise VolumeError("Choose two volumes: the one to cut last, and the one to cut with.")
    return shaping.cut_out(document, others[0])


def _cutting(cuts: tuple[Cut, ...]) -> Callable[[Document], Document]:
    return lambda document: shaping.cut_by_fractions(document, cuts)


def _lean_entry(side: str) -> Entry:
    def shown(document: Document) -> float | None:
        volume = document.volume
        leans = None if volume is None else volume.shape.leans
        return None if leans is None else leans[shaping.LEANS.index(side)]

    def lean(document: Document, value: float | TypedAngle) -> Document:
        if isinstance(value, TypedAngle):
            return shaping.lean_by_angle(document, side, value.deg)
        return shaping.lean(document, side, value)

    tip = tr("How far the upper edge lies inside the lower one: a length, or an angle such as 12°.")
    return Entry(f"lean {side}", tip, "lean", shown, lean)


def _outline_in_words(volume: Volume, unit: str) -> str:
    outline = volume.shape.outline
    if outline is None or outline.corners == RECTANGLE:
        return ""
    corners = [(x * volume.width_mm, y * volume.depth_mm) for x, y in outline.corners]
    return ", ".join(
        " ".join(write_length(v, unit, with_unit=False) for v in corner) for corner in corners
    )
