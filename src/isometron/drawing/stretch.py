"""What a flat sheet costs away from the sight axis, beside a curved one."""

from typing import NamedTuple

import numpy as np

from isometron.document.document import Document
from isometron.drawing.scene import Scene
from isometron.perspective.cone import stretch
from isometron.perspective.curved import place_points

FLAT_END = np.radians(89.0)
"""Farther off a flat sheet shows nothing."""


class Stretch(NamedTuple):
    """At the corner farthest off the sight axis: how far off, degrees, and how many times longer a
    small shape is drawn along the radius than across it, flat and curved."""

    off_axis_deg: float
    flat: float
    curved: float


def stretch_of(document: Document, scene: Scene) -> Stretch | None:
    """The stretch at the farthest corner: 1/cos t on a flat sheet, t/sin t on a curved one. None
    without a corner; of a flat sheet only corners that it draws count."""
    world = [p.world for p in scene.pictures if p.volume.shown and len(p.world)]
    if not world or document.eye.parallel is not None:
        return None
    angles = place_points(document.eye, np.concatenate(world)).off_axis
    if not document.eye.curved:
        angles = angles[angles < FLAT_END]
    if not len(angles):
        return None
    t = float(angles.max())
    off = float(np.degrees(t))
    flat = float(stretch(np.array(off))) if t < FLAT_END else float("inf")
    return Stretch(off, flat, float(stretch(np.array(off), curved=True)))
