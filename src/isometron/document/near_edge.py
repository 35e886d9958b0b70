"""The near edge of a volume, and the hand's set-up told by it.

The near corner holds the drawing on the sheet: whatever is done to the eye, it keeps its place on
the paper unless the person drags the corner itself.
"""

import math
from dataclasses import replace

import numpy as np

from isometron.document.document import Document
from isometron.framework.volume import Volume
from isometron.nearness import CLOSE, SAME
from isometron.perspective.errors import SetupError, VolumeError
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
from isometron.perspective.projection import depths, project, scale_at
from isometron.perspective.remembering import remembered
from isometron.words import _

SAME_DEPTH = 1e-9
"""Ground corners whose depths differ by less than this share of the volume are equally near."""


@remembered(on=1)
def box_near_corner(eye: Eye, volume: Volume) -> int:
    """Index (0…3) of the base corner nearest to us of the box a volume fills: the one of least
    depth along the heading. Of two equally near ones (a face square to us) the first."""
    heading = math.radians(eye.heading_deg)
    ground = volume.corners()[:4, :2] @ np.array([math.sin(heading), math.cos(heading)])
    slack = SAME_DEPTH * max(volume.sides)
    return int(np.flatnonzero(ground <= ground.min() + slack)[0])


@remembered(on=1)
def near_corner(eye: Eye, volume: Volume) -> int | None:
    """The corner of a volume's body that it is told by: of those of its base the one of least depth
    along the heading, of two equally near ones the first. None for a body without corners."""
    own = volume.bare.vertices
    if not len(own):
        return None
    heading = math.radians(eye.heading_deg)
    ground = volume.world()[:, :2] @ np.array([math.sin(heading), math.cos(heading)])
    slack = SAME_DEPTH * max(volume.sides)
    base = own[:, 2] <= own[:, 2].min() + slack
    return int(np.flatnonzero(base & (ground <= ground[base].min() + slack))[0])


@remembered(on=1)
def near_place(eye: Eye, volume: Volume) -> Array:
    """World place (3,) of the near corner.

    A body without corners has its lowest near point in the plane of its axis instead: of an upright
    axle, the near point of its lower end in the plane that runs away from us; of a lying one, the
    lowest point of its near end.
    """
    corner = near_corner(eye, volume)
    if corner is not None:
        return np.asarray(volume.world()[corner])
    ends = _round_ends(volume)
    heading = math.radians(eye.heading_deg)
    ahead = np.array([math.sin(heading), math.cos(heading), 0.0])
    up = np.array([0.0, 0.0, 1.0])
    axle = volume.pose[1][volume.shape.axle or 0]
    upright = abs(float(axle[2])) > math.sqrt(0.5)
    way = -ahead if upright else -up
    centre, radius = min(ends, key=lambda end: float(end[0] @ (up if upright else ahead)))
    way = way - float(way @ axle) * axle
    return np.asarray(centre + radius * way / np.linalg.norm(way))


def _round_ends(volume: Volume) -> list[tuple[Array, float]]:
    """Centre (3,) world mm and radius of both ends of a body without corners: its first and last
    circle; for a ball the two places where its axle leaves it."""
    place, axes = volume.pose
    axis = volume.shape.axle or 0
    found: list[tuple[Array, float]] = []
    for share in (0.0, 1.0):
        own = np.array(volume.sides) / 2
        own[axis] = share * volume.sides[axis]
        at_end = [
            one.radius_mm
            for one in volume.bare.circles
            if float(np.abs(one.centre - own).max()) <= SAME * max(volume.sides)
        ]
        found.append((place + own @ axes, max(at_end, default=0.0)))
    return found


def away_from(volume: Volume, place: Array, axis: int) -> tuple[Array, float]:
    """Unit world direction (3,) from a place of a volume along its width, depth or height to where
    more of it lies, and how far it reaches that way, mm."""
    along = volume.pose[1][axis]
    low, high = volume.reach_along(along)
    here = float(place @ along)
    if high - here >= here - low - SAME_DEPTH * volume.sides[axis]:
        return np.asarray(along), high - here
    return np.asarray(-along), here - low


def far_edge(eye: Eye, volume: Volume, axis: int) -> tuple[Array, Array]:
    """Foot and top (3,) of the edge that closes a volume along its width (0) or depth (1), world
    mm.

    Of the corners furthest that way the lowest and nearest to the near corner, and the steepest
    edge up from it. Of a body without such an edge both are one place: the one of it that lies
    furthest that way: on its widest circle, else at the middle of its length."""
    near = near_place(eye, volume)
    along, reach = away_from(volume, near, axis)
    corner = _far_corner(volume, near, along, reach)
    if corner is None:
        place = _far_round(volume, near, along, reach)
        return place, place
    body, world = volume.bare, volume.world()
    mine = body.edges[(body.edges == corner).any(axis=1)]
    ends = np.where(mine[:, 0] == corner, mine[:, 1], mine[:, 0])
    rise = world[ends, 2] - world[corner, 2]
    steep = rise / np.linalg.norm(world[ends] - world[corner], axis=1)
    best = int(steep.argmax())
    top = ends[best] if steep[best] > SAME_DEPTH else corner
    return np.asarray(world[corner]), np.asarray(world[top])


def _far_corner(volume: Volume, near: Array, along: Array, reach: float) -> int | None:
    body, world = volume.bare, volume.world()
    size = CLOSE * max(volume.sides)
    there = np.abs((world - near) @ along - reach) <= size
    if not there.any():
        return None
    own = body.vertices[:, 2]
    far = np.flatnonzero(there & (own <= own[there].min() + size))
    return int(far[np.linalg.norm(world[far] - near, axis=1).argmin()])


def _far_round(volume: Volume, near: Array, along: Array, reach: float) -> Array:
    place, axes = volume.pose
    axle = axes[volume.shape.axle or 0]
    across = along - float(along @ axle) * axle
    length = float(np.linalg.norm(across))
    if length < SAME_DEPTH:
        return np.asarray(near + reach * along)
    circles = [(one.centre @ axes + place, one.radius_mm) for one in volume.bare.circles]
    middle = place + np.array(volume.sides) / 2 @ axes
    centre, radius = max(
        [*circles, *_round_ends(volume)],
        key=lambda one: float((one[0] - near) @ along) + length * one[1],
    )
    if float((centre - near) @ along) + length * radius < reach * (1 - SAME):
        centre, radius = middle, reach - float((middle - near) @ along)  # widest between circles
    return np.asarray(centre + radius / length * across)


def near_edge_world(eye: Eye, volume: Volume) -> tuple[Array, Array]:
    """Foot and top (3,) of the near edge, world mm: the upright of the volume's height over its
    near corner, which is measured truly whatever the body does above it."""
    foot = near_place(eye, volume)
    return foot, np.asarray(foot + np.array([0.0, 0.0, volume.height_mm]))


def kept_near(eye: Eye, before: Volume, after: Volume) -> Volume:
    """A volume changed in size or turn, set so that its near corner is where it was; of a round one
    the axle stays, and its foot."""
    if before.shape.axle is not None and before.shape.axle == after.shape.axle:
        shift = _kept_axle(eye, before, after)
        x, y, z = (float(v) for v in np.array(after.place) + shift)
        return replace(after, x_mm=x, y_mm=y, z_mm=z)
    try:
        corner = near_corner(eye, before)
        if corner is not None and len(after.bare.vertices) == len(before.bare.vertices):
            shift = before.world()[corner] - after.world()[corner]
        else:
            shift = near_place(eye, before) - near_place(eye, after)
    except VolumeError:  # its outline fits its new sides only when its intentions are true again
        corner = box_near_corner(eye, before)
        shift = before.corners()[corner] - after.corners()[corner]
    x, y, z = (float(v) for v in np.array(after.place) + shift)
    return replace(after, x_mm=x, y_mm=y, z_mm=z)


def _kept_axle(eye: Eye, before: Volume, after: Volume) -> Array:
    """How a round volume is shifted (3,) so that the middle of its axle and its foot stay; one that
    has grown along a level axle keeps the end nearer to us."""
    middles = [np.array(v.sides) / 2 @ v.pose[1] + v.pose[0] for v in (before, after)]
    up = np.array([0.0, 0.0, 1.0])
    shift = middles[0] - middles[1]
    shift[2] = before.reach_along(up)[0] - after.reach_along(up)[0]
    number = before.shape.axle or 0
    axle = after.pose[1][number] * np.array([1.0, 1.0, 0.0])
    away = float((near_place(eye, before) - middles[0]) @ before.pose[1][number])
    grown = after.sides[number] - before.sides[number]
    return np.asarray(shift - math.copysign(grown / 2, away) * axle)


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
    return float(scale_at(document.eye, depth)) if depth > 0 else None


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
        return document.with_eye(moved)
    if marks is None:
        raise SetupError(_("The near edge reaches behind the eye: step back first."))
    x, y, z = (float(v) for v in near_edge_world(eye, box)[0])
    return document.with_eye(eye_at(at, right_yaw(document), marks, (x, y, z), box.height_mm))


def held_on_paper(document: Document, eye: Eye) -> Document:
    """The document seen by `eye`, its paper slid so that the near corner keeps its place on it.

    Raises SetupError when that corner would fall behind the eye.
    """
    box = document.lead
    if box is None:
        return document.with_eye(eye)
    foot = near_edge_world(document.eye, box)[0][None]
    before, after = project(document.eye, foot), project(eye, foot)
    if not after.seen[0]:
        raise SetupError(
            _("{name} would come to lie behind the eye: stay in front of it.").format(name=box.name)
        )
    if not before.seen[0]:
        return document.with_eye(eye)
    slide = before.sheet[0] - after.sheet[0]
    cx, cy = eye.centre_of_vision_mm
    centre = (float(cx + slide[0]), float(cy + slide[1]))
    return document.with_eye(replace(eye, centre_of_vision_mm=centre))


def drawn_place(eye: Eye, world: Array) -> tuple[float, float]:
    """Place on the sheet of one world point (3,). Raises SetupError behind the eye."""
    seen = project(eye, world[None])
    if not seen.seen[0]:
        raise SetupError(_("That point lies behind the eye: step back first."))
    return float(seen.sheet[0, 0]), float(seen.sheet[0, 1])
