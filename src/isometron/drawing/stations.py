"""The station plan and the side elevation: where eye, volumes and sight lines lie, flat."""

import math
from typing import NamedTuple

import numpy as np

from isometron.document.document import Document
from isometron.document.near_edge import station
from isometron.drawing.scene import Scene
from isometron.drawing.volume_picture import VolumePicture
from isometron.framework.marks import convex_corners
from isometron.nearness import SAME
from isometron.perspective.eye import Array
from isometron.perspective.hand_setup import right_going_yaw
from isometron.perspective.places import Place

LEAST_RUN = 1e-3
"""A width that runs all but straight up turns nothing on the ground."""

TURN_SHARE = 0.2
"""How far beyond its side a volume is turned by, as a share of its longer side."""

EMPTY_REACH = 3.0
"""On an empty sheet the plan shows this many station distances ahead of the eye."""


class PlanView(NamedTuple):
    """From above, mm across and ahead of a world turned so that `up_deg` (a heading) points up the
    page: the eye, the end of the sight line, ends of the picture plane
    and of the cone's sides, each volume's footprint (n, 2) with whether it is in work, the ends of
    the two sight directions by family, and the extent (n, 2) to be shown."""

    up_deg: float
    eye: Place
    sight_end: Place
    picture_plane: tuple[Place, Place]
    cone_ends: tuple[Place, Place]
    footprints: list[tuple[Array, bool]]
    directions: list[tuple[str, Place]]
    extent: Array
    origin: Place
    turns: tuple[Place, Place] | None
    """Centre of the volume in work, and a place its width runs to, where it can be turned by."""


def turned(ground: Array, up_deg: float) -> Array:
    """Ground points (…, 2) world mm as mm across and ahead when a heading points up the page."""
    ahead = _bearing(up_deg)
    return np.asarray(ground @ np.array([[ahead[1], ahead[0]], [-ahead[0], ahead[1]]]))


def plan_view(document: Document, scene: Scene, up_deg: float) -> PlanView:
    """The station plan of a document, a heading pointing up the page."""
    eye = document.eye
    place = turned(np.array([eye.x_mm, eye.y_mm]), up_deg)
    prints = [
        (turned(_footprint(picture), up_deg), index == document.selected)
        for index, picture in enumerate(scene.pictures)
    ]
    reach = _reach(document, scene)
    looks = eye.heading_deg - up_deg
    ahead = _bearing(looks)
    across = np.array([ahead[1], -ahead[0]])
    plane = place + ahead * eye.station_distance_mm * math.cos(math.radians(eye.tilt_deg))
    half = document.choices.cone_deg / 2
    sight = place + ahead * reach * 0.55
    directions = []
    right = right_going_yaw(eye, document.lead_yaw_deg)
    if station(document).turn_deg % 90.0 > SAME:
        for family, yaw in (("right", right), ("left", right + 90.0)):
            run = _bearing(90.0 - yaw - up_deg)
            directions.append((family, _point(place + run * reach * 0.4)))
    cone = [_bearing(looks + side * half) for side in (-1.0, 1.0)]
    width = max(reach * 1.5, 1.0)
    extent = np.concatenate([place[None], sight[None], *[ring for ring, _ in prints]])
    if not prints:
        origin = turned(np.array(document.origin_mm[:2]), up_deg)
        extent = np.concatenate([extent, [place + ahead * reach, origin]])
    return PlanView(
        up_deg,
        _point(place),
        _point(sight),
        (_point(plane - across * width), _point(plane + across * width)),
        (_point(place + cone[0] * reach * 3), _point(place + cone[1] * reach * 3)),
        prints,
        directions,
        extent,
        _point(turned(np.array(document.origin_mm[:2]), up_deg)),
        _turning(document, up_deg),
    )


def _turning(document: Document, up_deg: float) -> tuple[Place, Place] | None:
    volume = document.volume
    if volume is None:
        return None
    corners = volume.corners()
    centre = (corners[0] + corners[7])[:2] / 2
    along = volume.pose[1][0][:2]
    length = float(np.linalg.norm(along))
    if length < LEAST_RUN:
        return None
    end = centre + along / length * (volume.width_mm / 2 + TURN_SHARE * max(volume.sides[:2]))
    return _point(turned(centre, up_deg)), _point(turned(end, up_deg))


def _footprint(picture: VolumePicture) -> Array:
    """What a volume covers of the ground (n, 2), world mm: the outline of its base; of a tipped one
    all that lies under it."""
    volume = picture.volume
    place, axes = volume.pose
    if volume.tipped:
        under = volume.enclosing().copy()
        under[:, 2] = 0.0
        return np.asarray(convex_corners(under, np.array([0.0, 0.0, 1.0]))[:, :2])
    return np.asarray((volume.shape.footprint(volume.sides) @ axes + place)[:, :2])


class SideView(NamedTuple):
    """From the side, world mm (along the heading, up): the eye, the end of the sight line, each
    volume's near, far, low and high with whether it is in work, and the extent (n, 2)."""

    eye: Place
    sight_end: Place
    silhouettes: list[tuple[tuple[float, float, float, float], bool]]
    extent: Array


def side_view(document: Document, scene: Scene) -> SideView:
    """The side elevation of a document, along its heading, the eye at distance 0."""
    eye = document.eye
    ahead = _bearing(eye.heading_deg)
    shapes = []
    points = [(0.0, eye.height_mm), (0.0, 0.0)]
    for index, picture in enumerate(scene.pictures):
        off = float(np.array([eye.x_mm, eye.y_mm]) @ ahead)
        near, far = (v - off for v in picture.volume.reach_along(np.append(ahead, 0.0)))
        low, high = picture.volume.reach_along(np.array([0.0, 0.0, 1.0]))
        shapes.append(((near, far, low, high), index == document.selected))
        points += [(near, low), (far, high)]
    reach = 0.45 * _reach(document, scene)
    tilt = math.radians(eye.tilt_deg)
    sight = (reach * math.cos(tilt), eye.height_mm + reach * math.sin(tilt))
    return SideView((0.0, eye.height_mm), sight, shapes, np.array([*points, sight]))


def _reach(document: Document, scene: Scene) -> float:
    eye = document.eye
    if not scene.pictures:
        return EMPTY_REACH * eye.station_distance_mm
    ground = np.concatenate([p.volume.enclosing()[:, :2] for p in scene.pictures])
    return max(float(np.linalg.norm(ground - (eye.x_mm, eye.y_mm), axis=1).max()), 1.0)


def _bearing(heading_deg: float) -> Array:
    return np.array([math.sin(math.radians(heading_deg)), math.cos(math.radians(heading_deg))])


def _point(place: Array) -> Place:
    return float(place[0]), float(place[1])
