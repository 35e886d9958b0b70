"""Where something new finds room: clear of what stands there, within the frame one works in."""

from collections.abc import Iterator

import numpy as np

from isometron.document.document import Document
from isometron.document.edits.viewing import frame_of
from isometron.framework.volume import Volume
from isometron.nearness import SAME
from isometron.perspective.errors import IsometronError
from isometron.perspective.eye import Array
from isometron.perspective.places import Place
from isometron.perspective.projection import project

GAP = 0.05
"""Beside something new this share of its width is left."""

STEP_MM = 15.0
"""Feet that are tried lie so far apart, mm on the paper."""


class Standing:
    """What stands on a sheet, as something new sees it whose own axes (3, 3) are known."""

    def __init__(self, document: Document, axes: Array) -> None:
        self._eye, self._frame = document.eye, frame_of(document, document.view)
        shown = [one for one in document.volumes if one.shown and not one.ghost]
        reaches = [[one.reach_along(axis) for axis in axes] for one in shown]
        self._reaches = np.array(reaches).reshape(-1, 3, 2)

    def leaves_room(self, volume: Volume) -> bool:
        """Whether a volume reaches into no other, with a gap beside it (along one of its own axes
        each other one lies wholly before or behind it), and is drawn within the frame."""
        place, axes = volume.pose
        gap = np.array([GAP, GAP, -SAME]) * volume.sides
        low = axes @ place - gap
        high = low + np.array(volume.sides) + 2 * gap
        apart = (self._reaches[:, :, 1] <= low) | (self._reaches[:, :, 0] >= high)
        return bool(apart.any(axis=1).all()) and self._in_frame(volume)

    def _in_frame(self, volume: Volume) -> bool:
        try:
            places = np.array(project(self._eye, volume.corners()).sheet)
        except IsometronError:
            return False
        corner = np.array([self._frame.left_mm, self._frame.bottom_mm])
        size = np.array([self._frame.width_mm, self._frame.height_mm])
        return bool(((places >= corner) & (places <= corner + size)).all())


def feet(document: Document, first: Place) -> Iterator[Place]:
    """Places of the frame to try for a foot, the nearest to the first one before others, and to its
    side before up or down."""
    frame = frame_of(document, document.view)
    x, y = np.meshgrid(
        np.arange(frame.left_mm, frame.left_mm + frame.width_mm, STEP_MM),
        np.arange(frame.bottom_mm, frame.bottom_mm + frame.height_mm, STEP_MM),
    )
    far = np.hypot(x - first[0], 2.0 * (y - first[1]))
    for number in np.argsort(far, axis=None, kind="stable").tolist():
        yield float(x.flat[number]), float(y.flat[number])
