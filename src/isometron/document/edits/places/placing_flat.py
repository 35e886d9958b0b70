"""Volumes moved and turned as the station plan and the side elevation show them."""

import math
from dataclasses import replace

from isometron.document.document import Document
from isometron.document.edits.choosing import select
from isometron.document.edits.places.standing import turn_about, turning_point
from isometron.perspective.places import Place


def _moved_with(document: Document, index: int) -> tuple[int, ...]:
    """Numbers of what moves with a volume: all chosen ones when it is among them, else itself."""
    return document.chosen if index in document.chosen else (index,)


def _with_it(document: Document, index: int, step: tuple[float, float, float]) -> Document:
    keys = {document.volumes[i].key for i in _moved_with(document, index)}
    changed = {}
    for i in _moved_with(document, index):
        volume = document.volumes[i]
        if volume.on is not None and volume.on.parent in keys:
            continue  # it follows what it stands on
        x, y, z = (a + b for a, b in zip(volume.place, step, strict=True))
        changed[i] = replace(volume, x_mm=x, y_mm=y, z_mm=z)
    done = document.with_each(changed)
    return done if index in done.chosen else select(done, index)


def push(document: Document, index: int, by_mm: Place) -> Document:
    """A volume, with all chosen ones when it is one of them, pushed over the ground, world mm."""
    return _with_it(document, index, (*by_mm, 0.0))


def lift(document: Document, index: int, by_mm: float) -> Document:
    """A volume, with all chosen ones when it is one of them, lifted (or let down), mm."""
    return _with_it(document, index, (0.0, 0.0, by_mm))


def turn_towards(document: Document, place_mm: Place) -> Document:
    """The volume in work turned on the ground about its centre so that its width runs towards a
    place of the ground."""
    centre = turning_point(document, "centre")
    volume = document.volume
    assert volume is not None
    run = place_mm[0] - float(centre[0]), place_mm[1] - float(centre[1])
    yaw = math.degrees(math.atan2(run[1], run[0]))
    return turn_about(document, (yaw, volume.pitch_deg, volume.roll_deg), centre)
