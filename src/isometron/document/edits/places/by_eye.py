"""What was placed by eye and then measured, taken over: the volume gets the length it was drawn."""

from dataclasses import dataclass, replace

import numpy as np

from isometron.document.document import Document
from isometron.document.edits.volume_edits import true_length_to
from isometron.perspective.errors import VolumeError
from isometron.perspective.places import Place
from isometron.words import _

Direction = tuple[float, float, float]


@dataclass(frozen=True)
class Closing:
    """A side of a volume closed on paper: the volume's key; the near corner it is measured from and
    the unit direction it runs along, world; how far along it lie the face that is closed and the
    one opposite, mm; where that corner is drawn and the unit direction of the line, sheet."""

    volume_key: int
    corner: Direction
    along: Direction
    face_mm: float
    opposite_mm: float
    start: Place
    toward: Place


def place_by_eye(document: Document, closing: Closing, drawn_mm: float) -> Document:
    """The face that was closed where it was drawn, so far along its line; the one opposite stays.

    Raises VolumeError for a place at which there is nothing of the volume left, SetupError for one
    at or past the vanishing point.
    """
    index = next((i for i, v in enumerate(document.volumes) if v.key == closing.volume_key), None)
    if index is None:
        raise VolumeError(_("The volume of this step is gone: turn to another step."))
    volume = document.volumes[index]
    along, start = np.array(closing.along), np.array(closing.start)
    x, y = (start + drawn_mm * np.array(closing.toward)).tolist()
    placed = true_length_to(document.eye, np.array(closing.corner), along, (x, y))
    side = placed - closing.opposite_mm
    before = closing.face_mm - closing.opposite_mm
    if side * before <= 0:
        raise VolumeError(_("There the far edge falls on the near one: measure it again."))
    turned = volume.pose[1] @ along
    axis = int(np.abs(turned).argmax())
    positive = bool(turned[axis] * before > 0)
    counts = list(volume.counts)
    counts[axis] = None
    free = replace(volume, counts=(counts[0], counts[1], counts[2]))
    corner = 0 if positive else 1 << axis
    return document.with_volume(index, free.resized(axis, abs(side), fixed_corner=corner))
