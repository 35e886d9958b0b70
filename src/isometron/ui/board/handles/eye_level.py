"""The eye level, taken anywhere along its run, and the centre of vision on it."""

from dataclasses import dataclass

from PyQt6.QtCore import QPointF
from PyQt6.QtGui import QColor, QPainter, QPen

from isometron.document.document import Document
from isometron.document.edits import eye_edits
from isometron.drawing.pencils import OXBLOOD
from isometron.drawing.picks.of_sheet import EyeLevelPick
from isometron.drawing.places import right_and_up
from isometron.drawing.scene import Scene
from isometron.perspective.eye import eye_level
from isometron.perspective.lengths import write_length
from isometron.render.view import View
from isometron.ui.board.handles.handle import LINE_GRAB_PX, Handle, On
from isometron.ui.board.handles.table import handles
from isometron.ui.parts.theme import felt_colour
from isometron.words import _

SLOPING = 0.2
"""A line steeper than this on the board (its cosine) has its marks beyond it."""

ARM_PX, MARK_PX, INSET_PX = 8.0, 8.0, 10.0


@dataclass(frozen=True, eq=False)
class Cross(Handle):
    """A cross where the sight line meets the picture plane."""

    def paint(self, painter: QPainter, on: On, *, hot: bool) -> None:
        at = self.at(on.view)
        on_paper = on.paper.contains(at)
        colour = QColor(OXBLOOD) if on_paper else felt_colour("level")
        lamp = QColor(on.room.lamp)
        painter.setPen(QPen(lamp if hot and not on_paper else colour, 3.0 if hot else 2.0))
        painter.drawLine(at - QPointF(ARM_PX, 0), at + QPointF(ARM_PX, 0))
        painter.drawLine(at - QPointF(0, ARM_PX), at + QPointF(0, ARM_PX))


@dataclass(frozen=True, eq=False)
class Level(Handle):
    """A line right across the board; two marks at its ends light up when it can be taken."""

    runs_across = True

    def touched(self, view: View, at: QPointF) -> bool:
        off, level = at - self.at(view), view.level
        return abs(off.y() * level.x() - off.x() * level.y()) < LINE_GRAB_PX

    def paint(self, painter: QPainter, on: On, *, hot: bool) -> None:
        if not hot:
            return
        painter.setPen(QPen(QColor(on.room.lamp), 3.0))
        at, level = self.at(on.view), on.view.level
        square = QPointF(-level.y(), level.x()) * MARK_PX
        for border in (INSET_PX, on.size.width() - INSET_PX):
            if abs(level.x()) > SLOPING:
                place = at + level * ((border - at.x()) / level.x())
                painter.drawLine(place - square, place + square)


@handles(8, _("Centre of vision"), _("near edge and the points on the eye level stay"))
def centre_of_vision(document: Document, scene: Scene) -> list[Handle]:
    """The cross of the centre of vision."""
    if eye_level(document.eye) is None:
        return []
    return [
        Cross(
            "centre of vision",
            _("Centre of vision"),
            document.eye.centre_of_vision_mm,
            eye_edits.move_centre_of_vision,
            _("near edge and the points on the eye level stay"),
            lambda d, scene: right_and_up(d.eye.centre_of_vision_mm, d.choices.unit),
            pick=EyeLevelPick(),
        )
    ]


@handles(9, _("Eye level"), _("near edge stays as drawn; the eye goes up or down"))
def level(document: Document, scene: Scene) -> list[Handle]:
    """The eye level itself."""
    height = eye_level(document.eye)
    if height is None:
        return []
    return [
        Level(
            "eye level",
            _("Eye level"),
            (document.eye.centre_of_vision_mm[0], height),
            lambda document, to: eye_edits.move_eye_level(document, to[1]),
            _("near edge stays as drawn; vanishing points ride along, the eye goes up or down"),
            _number,
            pick=EyeLevelPick(),
            typed="height of the eye level",
        )
    ]


def _number(document: Document, scene: Scene) -> str:
    up = write_length(eye_level(document.eye) or 0.0, document.choices.unit)
    return _("{up} up").format(up=up)
