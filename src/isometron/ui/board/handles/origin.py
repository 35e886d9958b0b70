"""The ground origin: a small cross lying on the ground, square to right and away."""

from dataclasses import dataclass

import numpy as np
from PyQt6.QtCore import QPointF
from PyQt6.QtGui import QColor, QPainter, QPen

from isometron.document.document import Document
from isometron.document.edits.places.origin import drag_origin
from isometron.drawing.scene import Scene
from isometron.perspective.eye import Array
from isometron.perspective.lengths import write_length
from isometron.perspective.projection import project
from isometron.ui.board.handles.handle import Handle, On
from isometron.ui.board.handles.table import handles
from isometron.ui.parts.theme import GROUND
from isometron.words import _

SHARE = 0.04
"""Half the length of an arm, as a share of the origin's depth."""


@dataclass(frozen=True, eq=False)
class GroundCross(Handle):
    """Two short lines on the ground, right and away."""

    arms: Array

    def paint(self, painter: QPainter, on: On, *, hot: bool) -> None:
        painter.setPen(QPen(QColor(on.room.lamp if hot else GROUND), 3.0 if hot else 1.6))
        for x0, y0, x1, y1 in self.arms.tolist():
            painter.drawLine(on.view.point((x0, y0)), on.view.point((x1, y1)))
        painter.setPen(QColor(GROUND))
        painter.drawText(self.at(on.view) + QPointF(9, 13), _("origin"))


@handles(11, _("Ground origin"), _("volumes stay; typed places are counted from here"))
def origin(document: Document, scene: Scene) -> list[Handle]:
    """The cross of the ground origin, where it can be seen."""
    place = np.array(document.origin_mm)
    reach = SHARE * float(np.linalg.norm(place - np.array(document.eye.place)))
    ends = np.array([[-1.0, 0, 0], [1.0, 0, 0], [0, -1.0, 0], [0, 1.0, 0]]) * reach + place
    seen = project(document.eye, np.concatenate([place[None], ends])).sheet
    if not np.isfinite(seen).all():
        return []
    x, y = seen[0].tolist()
    return [
        GroundCross(
            "origin",
            _("Ground origin"),
            (x, y),
            drag_origin,
            _("volumes stay; typed places are counted from here"),
            _words,
            seen[1:].reshape(2, 4),
        )
    ]


def _words(document: Document, scene: Scene) -> str:
    unit, eye = document.choices.unit, document.eye
    right, away = document.origin_mm[0] - eye.x_mm, document.origin_mm[1] - eye.y_mm
    return _("{right} right, {away} away from under the eye").format(
        right=write_length(right, unit), away=write_length(away, unit)
    )
