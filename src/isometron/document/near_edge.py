"""The near edge of a volume, and the hand's set-up told by it.

The near corner holds the drawing on the sheet: whatever is done to the eye, it keeps its place on
the paper unless the person drags the corner itself.
"""

import math
from dataclasses import replace
from functools import lru_cache

import numpy as np

from isometron.document.document import Document
from isometron.framework.volume import Volume
from isometron.perspective.errors import SetupError
from isometron.perspective.eye import Array, Eye
from isometron.perspective.hand_setup import (
    HandSetup,
    NearEdge,
    Station,
    eye_at,
    right_going_yaw,
    setup_of,
    station_of,
)
from isometron.perspective.projection import depths, project

SAME_DEPTH = 1e-9
"""Ground corners whose depths differ by less than this share of the volume are equally near."""


@lru_cache(maxsize=4096)
def near_corner(eye: Eye, box: Volume) -> int:
    """Index (0…3) of the base corner nearest to us: the one of least depth along the heading.

    Of two equally near ones (a face square to us) the first.
    """
    heading = math.radians(eye.heading_deg)
    ground = box.corners()[:4, :2] @ np.array([math.sin(heading), math.cos(heading)])
    slack = SAME_DEPTH * max(box.sides)
    return int(np.flatnonzero(ground <= ground.min() + slack)[0])


def away_from(box: Volume, corner: int, axis: int) -> Array:
    """Unit world direction (3,) from a corner into the box along its width, depth or height."""
    sign = -1.0 if corner >> axis & 1 else 1.0
    return np.asarray(sign * box.axes()[axis].astype(float))


def near_edge_world(eye: Eye, box: Volume) -> tuple[Array, Array]:
    """Foot and top (3,) of the near edge, world mm.

    It is upright: on a tipped volume, the upright of its height over the near corner.
    """
    corner = near_corner(eye, box)
    corners = box.corners()
    if box.tipped:
        return corners[corner], corners[corner] + (0.0, 0.0, box.height_mm)
    return corners[corner], corners[corner | 4]


def near_edge(document: Document) -> NearEdge | None:
    """The near edge as drawn: place of its foot and drawn length, sheet mm.

    None when the sheet has no volume, or the edge reaches behind the eye.
    """
    if document.lead is None:
        return None
    ends = np.array(near_edge_world(document.eye, document.lead))
    seen = project(document.eye, ends)
    if not seen.seen.all():
        return None
    (x, y), top = seen.sheet
    return NearEdge((float(x), float(y)), float(np.hypot(*(top - (x, y)))))


def scale_at_near_corner(document: Document) -> float | None:
    """Drawn mm per true mm at the near corner: station distance over its depth; None without."""
    if document.lead is None:
        return None
    depth = float(depths(document.eye, near_edge_world(document.eye, document.lead)[0][None])[0])
    return document.eye.station_distance_mm / depth if depth > 0 else None


def right_yaw(document: Document) -> float:
    """Yaw of the level direction of the set-up that runs to the right."""
    return right_going_yaw(document.eye, document.lead_yaw_deg)


def hand_setup(document: Document) -> HandSetup:
    """The hand's set-up of the document. Raises SetupError when the sight line is vertical."""
    return setup_of(document.eye, right_yaw(document))


def station(document: Document) -> Station:
    """The station of the document, told for the direction that runs to the right."""
    return station_of(document.eye, right_yaw(document))


def seen_from(document: Document, at: Station, edge: NearEdge | None = None) -> Document:
    """The document seen from another station, its near edge drawn as before or as `edge` says.

    Without a volume the eye keeps its place in the world. Raises SetupError for marks no eye sees.
    """
    box, eye = document.lead, document.eye
    marks = edge or near_edge(document)
    if box is None:
        heading = at.turn_deg - right_yaw(document)
        moved = replace(
            eye,
            heading_deg=heading,
            tilt_deg=at.tilt_deg,
            station_distance_mm=at.station_distance_mm,
            centre_of_vision_mm=at.centre_of_vision_mm,
        )
        return replace(document, eye=moved)
    if marks is None:
        raise SetupError("The near edge reaches behind the eye: step back first.")
    x, y, z = (float(v) for v in near_edge_world(eye, box)[0])
    return replace(document, eye=eye_at(at, right_yaw(document), marks, (x, y, z), box.height_mm))


def held_on_paper(document: Document, eye: Eye) -> Document:
    """The document seen by `eye`, its paper slid so that the near corner keeps its place on it.

    Raises SetupError when that corner would fall behind the eye.
    """
    box = document.lead
    if box is None:
        return replace(document, eye=eye)
    foot = near_edge_world(document.eye, box)[0][None]
    before, after = project(document.eye, foot), project(eye, foot)
    if not after.seen[0]:
        raise SetupError(f"{box.name} would come to lie behind the eye: stay in front of it.")
    if not before.seen[0]:
        return replace(document, eye=eye)
    slide = before.sheet[0] - after.sheet[0]
    cx, cy = eye.centre_of_vision_mm
    centre = (float(cx + slide[0]), float(cy + slide[1]))
    return replace(document, eye=replace(eye, centre_of_vision_mm=centre))


def drawn_place(eye: Eye, world: Array) -> tuple[float, float]:
    """Place on the sheet of one world point (3,). Raises SetupError behind the eye."""
    seen = project(eye, world[None])
    if not seen.seen[0]:
        raise SetupError("That point lies behind the eye: step back first.")
    return float(seen.sheet[0, 0]), float(seen.sheet[0, 1])
