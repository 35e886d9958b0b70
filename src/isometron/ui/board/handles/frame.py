"""The two corners of the frame of the view in work."""

from functools import partial

from isometron.document.document import Document
from isometron.document.edits.viewing import drag_frame, frame_of
from isometron.drawing.scene import Scene
from isometron.perspective.lengths import write_length
from isometron.perspective.places import Place
from isometron.ui.board.handles.crop import CropCorner
from isometron.ui.board.handles.handle import Handle
from isometron.ui.board.handles.table import handles
from isometron.words import _

STAYS = _("the drawing and the other corner stay")


@handles(14, _("Corner of a view"), STAYS)
def frame_corners(document: Document, scene: Scene) -> list[Handle]:
    """The lower left and the upper right corner of its frame, when it has one."""
    if document.views[document.view].frame is None:
        return []
    frame = frame_of(document, document.view)
    corners: list[tuple[str, Place]] = [
        (_("Lower left corner of the view"), (frame.left_mm, frame.bottom_mm)),
        (
            _("Upper right corner of the view"),
            (frame.left_mm + frame.width_mm, frame.bottom_mm + frame.height_mm),
        ),
    ]
    return [
        CropCorner(
            f"frame {number}", title, place, partial(_drag, number), STAYS, _words, 1 - 2 * number
        )
        for number, (title, place) in enumerate(corners)
    ]


def _drag(number: int, document: Document, sheet_mm: Place) -> Document:
    return drag_frame(document, number, sheet_mm)


def _words(document: Document, scene: Scene) -> str:
    frame, unit = frame_of(document, document.view), document.choices.unit
    return _("{wide} by {high}").format(
        wide=write_length(frame.width_mm, unit), high=write_length(frame.height_mm, unit)
    )
