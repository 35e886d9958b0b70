"""The ground origin: the place of the world that typed places are counted from, right and away."""

from dataclasses import replace

import numpy as np

from isometron.document.document import Document
from isometron.document.edits.choosing import in_work
from isometron.document.edits.volume_edits import move_volume
from isometron.perspective.errors import SetupError
from isometron.perspective.places import Place, WorldPlace
from isometron.perspective.projection import on_level
from isometron.words import _

AHEAD = (0.5, 0.3)
"""Where on a new sheet the origin is drawn, as shares of its width and height."""

STEP_MM = 50.0
"""A new sheet's origin lies in whole steps of this before the eye."""


def set_origin(document: Document, axis: int, mm: float) -> Document:
    """The origin at another place right of (0), away from (1) or above (2) the world's zero."""
    place = list(document.origin_mm)
    place[axis] = mm
    return replace(document, origin_mm=(place[0], place[1], place[2]))


def drag_origin(document: Document, place_mm: Place) -> Document:
    """The origin at the place of the ground that is drawn at a place of the sheet. Raises
    SetupError above the eye level."""
    ground = on_level(document.eye, place_mm, document.origin_mm[2])
    if ground is None:
        raise SetupError(_("No ground is drawn there: keep the origin below the eye level."))
    x, y, z = (float(v) for v in ground)
    return replace(document, origin_mm=(x, y, z))


def move_origin(document: Document, ground_mm: Place) -> Document:
    """The origin at another place of the ground, world mm."""
    return replace(document, origin_mm=(*ground_mm, document.origin_mm[2]))


def origin_ahead(document: Document) -> Document:
    """A new sheet with its origin before the eye, in whole steps, where the ground is in sight."""
    sheet = document.sheet
    place = on_level(document.eye, (AHEAD[0] * sheet.width_mm, AHEAD[1] * sheet.height_mm), 0.0)
    if place is None:
        return document
    x, y = (float(STEP_MM * np.round(v / STEP_MM)) for v in place[:2])
    return replace(document, origin_mm=(x, y, 0.0))


def place_from_origin(document: Document) -> WorldPlace | None:
    """Where corner 0 of the volume in work lies right of, away from and above the origin, mm."""
    if document.volume is None:
        return None
    x, y, z = (a - b for a, b in zip(document.volume.place, document.origin_mm, strict=True))
    return x, y, z


def move_from_origin(document: Document, axis: int, mm: float) -> Document:
    """Corner 0 of the volume in work at another place, counted from the origin."""
    _index, volume = in_work(document)
    place = list(volume.place)
    place[axis] = document.origin_mm[axis] + mm
    return move_volume(document, (place[0], place[1], place[2]))
