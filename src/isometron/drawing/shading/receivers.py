"""What shadows fall on besides volumes: the ground, the shelves and the walls of the room."""

import math
from collections.abc import Sequence
from typing import Any, NamedTuple

import numpy as np

from isometron.document.light import Light
from isometron.drawing.shading.values import LIT, lightness
from isometron.framework.aids import REACH_MM, WALL_MM, Aid
from isometron.hiding.areas import Chart, Skin, clipped, mend, mended, polygons_of
from isometron.perspective.eye import Array

SHELVES, WALLS = ("shelf edge", "shelf"), ("floor line", "back wall")
"""Kinds of aids that are the edge of a shelf, or the foot of a wall."""

CONTACT_SHARE = 0.012
"""The contact shadow is as wide as this share of the size of what stands there."""

TOUCHES_MM = 1e-3
SEAM_MM = 1e-7
"""Shadows of two facets that lie nearer to each other than this lie side by side."""

LEVEL = 1e-9
"""What lies within this share of the lamp's height throws its shadow beyond all reach."""

FARTHEST_MM = 1e7
"""Shadows end here: beyond it they have long left the paper."""


class Receiver(NamedTuple):
    """A plane that shadows fall on: what it is called, a place (3,) on it, two directions across it
    (2, 3), its normal (3,) toward us, and its part in its own plane, mm."""

    name: str
    place: Array
    across: Array
    normal: Array
    part: Any

    def own(self, world: Array) -> Array:
        """(n, 2) places of its plane."""
        return np.asarray((world - self.place) @ self.across.T)

    def world(self, flat: Array) -> Array:
        """(n, 3) world places."""
        return np.asarray(self.place + flat @ self.across)

    def height(self, world: Array) -> Array:
        """(n,) how far world places lie over it."""
        return np.asarray((world - self.place) @ self.normal)


def receivers_of(aids: Sequence[Aid], eye_place: Array) -> list[Receiver]:
    """The ground, cut where a wall stands or a shelf lies over it, and the shelves and walls that
    turn to us."""
    import shapely

    ground, found = shapely.box(*([-FARTHEST_MM] * 2), *([FARTHEST_MM] * 2)), []
    for aid in aids:
        if aid.kind not in (*SHELVES, *WALLS):
            continue
        angle = math.radians(aid.yaw_deg)
        along = np.array([math.cos(angle), math.sin(angle), 0.0])
        toward = np.array([-along[1], along[0], 0.0])
        foot = np.array([*aid.place_mm, 0.0])
        toward = toward if (eye_place - foot) @ toward > 0 else -toward
        near_side = _half(foot[:2], along[:2], toward[:2])
        ground = shapely.intersection(ground, near_side)
        if aid.kind in WALLS:
            wide = aid.wide_mm if aid.kind == "back wall" else REACH_MM
            part = shapely.box(-wide, 0.0, wide, WALL_MM)
            up = np.array([0.0, 0.0, 1.0])
            found.append(Receiver(aid.kind, foot, np.stack([along, up]), toward, part))
        elif eye_place[2] > aid.height_mm:
            level = np.array([0.0, 0.0, aid.height_mm])
            part = _half(foot[:2], along[:2], -toward[:2])
            found.append(Receiver(aid.kind, level, np.eye(3)[:2], np.eye(3)[2], part))
    if eye_place[2] > 0:  # from below there is no ground to see
        found.insert(0, Receiver("ground", np.zeros(3), np.eye(3)[:2], np.eye(3)[2], ground))
    return found


def paths_of(aids: Sequence[Aid], ground: Receiver) -> list[Receiver]:
    """The paths on the ground."""
    import shapely

    found = []
    for aid in aids:
        if aid.kind == "path":
            angle = math.radians(aid.yaw_deg)
            along = np.array([math.cos(angle), math.sin(angle)])
            aside = aid.wide_mm / 2 * np.array([-along[1], along[0]])
            ends = [aid.place_mm - REACH_MM * along, aid.place_mm + REACH_MM * along]
            strip = [ends[0] - aside, ends[1] - aside, ends[1] + aside, ends[0] + aside]
            part = shapely.intersection(shapely.Polygon(strip), ground.part)
            found.append(ground._replace(name="path", part=part))
    return found


def shelf_fronts_of(aids: Sequence[Aid], eye_place: Array) -> list[Receiver]:
    """The edges of shelves that have a thickness, turned to us."""
    import shapely

    found = []
    for aid in aids:
        if aid.kind == "shelf" and aid.high_mm > 0:
            angle = math.radians(aid.yaw_deg)
            along = np.array([math.cos(angle), math.sin(angle), 0.0])
            toward = np.array([-along[1], along[0], 0.0])
            place = np.array([*aid.place_mm, aid.height_mm - aid.high_mm])
            toward = toward if (eye_place - place) @ toward > 0 else -toward
            across = np.stack([along, np.array([0.0, 0.0, 1.0])])
            part = shapely.box(-REACH_MM, 0.0, REACH_MM, aid.high_mm)
            found.append(Receiver("shelf edge", place, across, toward, part))
    return found


GROUND_PLANE = Receiver("ground", np.zeros(3), np.eye(3)[:2], np.eye(3)[2], None)
"""All of the ground."""


def _half(place: Array, along: Array, way: Array) -> Any:
    """The half of a plane on one side of a line (2,), as far as anything reaches."""
    import shapely

    far = FARTHEST_MM
    corners = [place - far * along, place + far * along]
    return shapely.Polygon([*corners, corners[1] + far * way, corners[0] + far * way])


def shadow_on(receiver: Receiver, skin: Skin, light: Light) -> Any:
    """The shadow of everything on a receiver, as polygons of its plane; None where none falls."""
    import shapely

    hung = _height_of(receiver, light)
    if hung <= 0:
        return None  # the light is behind it, or level with it
    facing = lightness(light, skin.normals, skin.middles) > LIT
    cast: list[Array] = []
    owner: list[int] = []
    for number, facet in enumerate(np.flatnonzero(facing).tolist()):
        if receiver.height(skin.rings[facet][0]).max() <= TOUCHES_MM:
            continue  # it lies in the plane, or below it
        for own in skin.rings[facet]:
            ring = clipped(own, receiver.height(own) + TOUCHES_MM)
            if len(ring) and not light.far:
                ring = clipped(ring, hung * (1 - LEVEL) - receiver.height(ring))
            if len(ring) >= 3:
                ring = _near(receiver.own(_foot(receiver, light, hung, ring)))
            if len(ring) < 3:
                break
            cast.append(ring)
            owner.append(number)
    if not cast:
        return None
    numbers = np.unique(owner, return_inverse=True)[1].tolist()
    shapes = polygons_of(cast, [len(ring) for ring in cast], numbers)
    shapes = mend(shapes)
    whole = _seamless(shapes)
    return whole if receiver.part is None else shapely.intersection(whole, receiver.part)


def _seamless(shapes: Any) -> Any:
    """Shadows of facets side by side as one, without the seams that rounding leaves."""
    import shapely

    whole = shapely.union_all(shapes)
    if shapely.get_num_geometries(whole) < 2:
        return whole
    closed = shapely.union_all(shapes, grid_size=SEAM_MM)
    fewer = shapely.get_num_geometries(closed) < shapely.get_num_geometries(whole)
    return closed if fewer else whole


def _near(ring: Array) -> Array:
    """The part of a ring (n, 2) within reach: cut, not pushed together, so that what remains runs
    along the rays."""
    for axis in range(2):
        for sign in (1.0, -1.0):
            if len(ring):
                ring = clipped(ring, FARTHEST_MM - sign * ring[:, axis])
    return ring


STEEP = 1e-9
"""Rays that come down on a plane by less run along it."""


def _height_of(receiver: Receiver, light: Light) -> float:
    """How high a lamp hangs over a receiver; of the sun, how steeply its rays come down on it."""
    place, far = np.array(light.source[:3]), light.far
    high = float(place @ receiver.normal if far else receiver.height(place))
    return high if high > STEEP or not far else 0.0


def _foot(receiver: Receiver, light: Light, hung: float, places: Array) -> Array:
    """(n, 3) where rays through world places over a receiver meet it."""
    high = np.maximum(receiver.height(places), 0.0)[:, None]
    x, y, z, near = light.source
    return np.asarray(places + high / (hung - near * high) * (near * places - (x, y, z)))


def contact_on(receiver: Receiver, skin: Skin) -> Any:
    """A narrow band on a receiver round what stands on it; None where nothing does."""
    import shapely

    low = [
        rings[0]
        for rings, normal in zip(skin.rings, skin.normals, strict=True)
        if normal @ receiver.normal < -0.99 and np.abs(receiver.height(rings[0])).max() < TOUCHES_MM
    ]
    if not low:
        return None
    feet = shapely.union_all([shapely.Polygon(receiver.own(ring)) for ring in low])
    left, bottom, right, top = feet.bounds
    wide = CONTACT_SHARE * max(right - left, top - bottom)
    band = shapely.difference(shapely.buffer(feet, wide), feet)
    return band if receiver.part is None else shapely.intersection(band, receiver.part)


def on_sheet(chart: Chart, receiver: Receiver, shape: Any) -> Any:
    """Polygons of a receiver as polygons of the sheet, as far as they lie before the eye."""
    import shapely

    if shape is None or shape.is_empty:
        return shapely.Polygon()
    slope = receiver.across @ chart.ahead
    level = float((chart.origin - receiver.place) @ chart.ahead) + chart.near
    left, bottom, right, top = shape.bounds
    ring = np.array([[left, bottom], [right, bottom], [right, top], [left, top]])
    centre = ring.mean(axis=0)
    ring = centre + (ring - centre) * 1.01
    kept = clipped(ring, ring @ slope - level - 1.0)
    if len(kept) < 3:
        return shapely.Polygon()
    before = shapely.intersection(shape, shapely.Polygon(kept))
    flat = shapely.get_coordinates(before)
    if not len(flat):
        return shapely.Polygon()
    drawn = shapely.set_coordinates(before, chart.picture(receiver.world(flat)))
    return drawn if drawn.is_valid else mended(drawn)
