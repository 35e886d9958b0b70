"""Vanishing points: pins in the pencil colours, of another form for each family."""

from dataclasses import dataclass

from PyQt6.QtCore import QPointF, QRectF
from PyQt6.QtGui import QBrush, QColor, QPainter, QPen, QPolygonF

from isometron.document.document import Document
from isometron.document.edits import eye_edits
from isometron.drawing.layers import FANS
from isometron.drawing.picks.point import PointPick
from isometron.drawing.places import off_paper, right_and_up, vanishing_places
from isometron.drawing.scene import Scene
from isometron.perspective.eye import eye_level
from isometron.perspective.places import Place
from isometron.ui.board.handles.handle import Drag, Handle, On
from isometron.ui.board.handles.table import handles
from isometron.ui.parts.theme import WHITE, felt_colour, font
from isometron.words import _

PIN_PX = 11.0

TITLES = {
    "left": _("VP left"),
    "right": _("VP right"),
    "centre": _("VP"),
    "third": _("Third point"),
}

DRAGS: dict[str, tuple[Drag, str]] = {
    "left": (
        lambda document, to: eye_edits.move_left_point(document, to[0]),
        _("near edge, VP right and centre of vision stay"),
    ),
    "right": (
        lambda document, to: eye_edits.move_right_point(document, to[0]),
        _("near edge, VP left and centre of vision stay"),
    ),
    "third": (
        lambda document, to: eye_edits.move_third_point(document, to[1]),
        _("near edge and the points on the eye level stay; the eye tilts"),
    ),
    "centre": (
        eye_edits.move_centre_of_vision,
        _("near edge and station distance stay; the eye moves sideways"),
    ),
}


@dataclass(frozen=True, eq=False)
class Pin(Handle):
    """A pin: square to the left, round to the right, a triangle for the third point, a cross for a
    single one."""

    family: str = ""
    flies_flag = True

    def paint(self, painter: QPainter, on: On, *, hot: bool) -> None:
        at = self.at(on.view)
        on_paper = on.paper.contains(at)
        colour = felt_colour(self.family)
        if on_paper:
            colour = QColor(FANS[self.family].pencil.colour)
        painter.setPen(QPen(QColor(on.room.lamp if hot else WHITE), 1.5))
        painter.setBrush(QBrush(colour))
        half = PIN_PX / 2
        if self.family == "left":
            painter.drawRect(QRectF(at.x() - half, at.y() - half, PIN_PX, PIN_PX))
        elif self.family == "right":
            painter.drawEllipse(at, half + 1, half + 1)
        elif self.family == "third":
            corners = ((0, -half - 2), (half + 2, half), (-half - 2, half))
            painter.drawPolygon(QPolygonF([at + QPointF(x, y) for x, y in corners]))
        else:
            painter.setPen(QPen(colour, 4.0))
            painter.drawLine(at - QPointF(half, half), at + QPointF(half, half))
            painter.drawLine(at - QPointF(half, -half), at + QPointF(half, -half))
        painter.setFont(font())
        painter.setPen(colour)
        down = -10.0 if self.family != "third" else 22.0
        wide = painter.fontMetrics().horizontalAdvance(self.title)
        left = min(max(at.x() - 20.0, 2.0), on.size.width() - wide - 2.0)
        painter.drawText(QPointF(left, at.y() + down), self.title)


TYPED = {
    "left": "place of VP left",
    "right": "place of VP right",
    "third": "height of the third point",
}
"""The deeds that numbers typed during a drag go to."""


def _pin(family: str, document: Document, scene: Scene) -> list[Handle]:
    place = vanishing_places(document, scene).get(family)
    if place is None or (family == "centre" and eye_level(document.eye) is None):
        return []
    drag, stays = DRAGS[family]

    def number(document: Document, scene: Scene) -> str:
        unit = document.choices.unit
        if family == "centre":
            return right_and_up(document.eye.centre_of_vision_mm, unit)
        return off_paper(document.sheet, vanishing_places(document, scene)[family], unit)

    pick = PointPick(document.selected or 0, family=family) if document.volumes else None

    def lands(document: Document) -> Place | None:
        return eye_edits.points_of_setup(document).get(family)

    pin = Pin(
        f"vp {family}",
        TITLES[family],
        place,
        drag,
        stays,
        number,
        family,
        pick=pick,
        lands=lands,
        typed=TYPED.get(family, ""),
    )
    return [pin]


@handles(3, _("VP left, VP right"), _("near edge, the other point and the centre of vision stay"))
def level_points(document: Document, scene: Scene) -> list[Handle]:
    """Pins on the eye level."""
    return [p for family in ("left", "right", "centre") for p in _pin(family, document, scene)]


@handles(4, _("Third point"), _("near edge and the points on the eye level stay; the eye tilts"))
def third_point(document: Document, scene: Scene) -> list[Handle]:
    """A pin at the third point."""
    return _pin("third", document, scene)
