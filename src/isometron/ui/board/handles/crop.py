"""The two corners of the crop."""

from dataclasses import dataclass
from functools import partial

from PyQt6.QtCore import QPointF
from PyQt6.QtGui import QColor, QPainter, QPen

from isometron.document.document import Document
from isometron.document.edits.finishing import drag_crop
from isometron.drawing.pencils import MOSS
from isometron.drawing.scene import Scene
from isometron.perspective.lengths import write_length
from isometron.perspective.places import Place
from isometron.ui.board.handles.handle import Handle, On
from isometron.ui.board.handles.table import handles
from isometron.words import _

ARM_PX = 14.0
STAYS = _("its other corner stays")


@dataclass(frozen=True, eq=False)
class CropCorner(Handle):
    """Two short strokes along the sides that meet there."""

    inward: int
    of_paper = True

    def paint(self, painter: QPainter, on: On, *, hot: bool) -> None:
        at, arm = self.at(on.view), ARM_PX * self.inward
        painter.setPen(QPen(QColor(on.room.lamp if hot else MOSS), 4.0 if hot else 2.6))
        painter.drawLine(at, QPointF(at.x() + arm, at.y()))
        painter.drawLine(at, QPointF(at.x(), at.y() - arm))


@handles(13, _("Corner of the crop"), STAYS)
def crop_corners(document: Document, scene: Scene) -> list[Handle]:
    """The lower left and the upper right corner of the crop, when there is one."""
    crop = document.finish.crop
    if crop is None:
        return []
    corners: list[tuple[str, Place]] = [
        (_("Lower left corner of the crop"), (crop.left_mm, crop.bottom_mm)),
        (
            _("Upper right corner of the crop"),
            (crop.left_mm + crop.width_mm, crop.bottom_mm + crop.height_mm),
        ),
    ]
    return [
        CropCorner(
            f"crop {number}",
            title,
            place,
            partial(_drag, number),
            STAYS,
            _words,
            1 - 2 * number,
        )
        for number, (title, place) in enumerate(corners)
    ]


def _drag(number: int, document: Document, sheet_mm: Place) -> Document:
    return drag_crop(document, number, sheet_mm)


def _words(document: Document, scene: Scene) -> str:
    crop = document.finish.crop
    if crop is None:
        return ""
    unit = document.choices.unit
    return _("{wide} by {high}").format(
        wide=write_length(crop.width_mm, unit), high=write_length(crop.height_mm, unit)
    )
