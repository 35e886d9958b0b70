"""Circles drawn on the faces of a volume, and round holes through it."""

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import NamedTuple

import numpy as np

from isometron.framework.bodies.body import Body, arcs_along
from isometron.framework.bodies.extruded import CROSS
from isometron.framework.box import SMALLEST_MM
from isometron.framework.outlines import Ring
from isometron.framework.outlines import circle as circle_ring
from isometron.nearness import CLOSE, SAME
from isometron.perspective.errors import VolumeError
from isometron.perspective.eye import LARGEST_MM, Array
from isometron.perspective.places import Sides
from isometron.words import _


@dataclass(frozen=True)
class FaceCircle:
    """Circles about one middle on a face.

    face: its number on a flat volume; 0 and 1 are the near and far end of a round one. middle:
    shares across the face, from its lower left. radius_mm: None for the largest that fits. shares:
    concentric radii. An arc starts at start_deg from the face's own first direction and turns by
    sweep_deg. through: a hole right through the volume.
    """

    face: int
    middle: tuple[float, float] = (0.5, 0.5)
    radius_mm: float | None = None
    shares: tuple[float, ...] = (1.0,)
    start_deg: float = 0.0
    sweep_deg: float = 360.0
    through: bool = False

    def __post_init__(self) -> None:
        if not all(math.isfinite(v) for v in (*self.middle, self.start_deg)):
            raise VolumeError(_("A circle's middle is a share of its face: type 1/2."))
        if self.radius_mm is not None and not SMALLEST_MM <= self.radius_mm <= LARGEST_MM:
            raise VolumeError(_("A circle needs a radius above 0: type, say, 40 mm."))
        if not (math.isfinite(self.sweep_deg) and 0 < abs(self.sweep_deg) <= 360):
            raise VolumeError(_("An arc turns by more than 0° and up to 360°: type another angle."))
        if not self.shares or not all(0 < share <= 1 for share in self.shares):
            raise VolumeError(_("Concentric circles have radii between 0 and the largest one."))
        if self.through and (abs(self.sweep_deg) != 360 or self.shares != (1.0,)):
            raise VolumeError(_("A hole is one whole circle: take arcs and inner circles away."))


class FacePlane(NamedTuple):
    """A face as a drawing plane in own mm: lower left corner, two unit directions, their extents,
    and its outline (m, 2) in them (empty for a round end, which has a radius instead)."""

    corner: Array
    across: Array
    along: Array
    extents: tuple[float, float]
    outline: Array
    radius: float = math.inf

    def middle(self, circle: FaceCircle) -> Array:
        """The middle of a circle, own mm."""
        s, t = circle.middle
        return np.asarray(
            self.corner + s * self.extents[0] * self.across + t * self.extents[1] * self.along
        )

    def place(self, across_mm: float, along_mm: float) -> Array:
        """The place (3,) in own mm of a place of the face, mm from its lower left."""
        return np.asarray(self.corner + across_mm * self.across + along_mm * self.along)

    def shares(self, place: Array) -> tuple[float, float]:
        """Where a place (3,) of the face lies, as shares of its extents."""
        off = place - self.corner
        wide, high = self.extents
        return float(off @ self.across) / wide, float(off @ self.along) / high

    def fitted(self, circle: FaceCircle) -> float:
        """The radius of the largest circle about the middle that stays on the face, mm."""
        place = np.array(circle.middle) * self.extents
        if not len(self.outline):
            off = place - np.array(self.extents) / 2
            return self.radius - float(np.hypot(*off))
        ends = np.roll(self.outline, -1, axis=0)
        run = ends - self.outline
        away = place - self.outline
        share = np.clip((away * run).sum(axis=1) / (run * run).sum(axis=1), 0.0, 1.0)
        return float(np.linalg.norm(away - share[:, None] * run, axis=1).min())

    def radius_of(self, circle: FaceCircle) -> float:
        """The radius of a circle, mm. Raises VolumeError when the face has no room for one."""
        if circle.radius_mm is not None:
            return circle.radius_mm
        fitted = self.fitted(circle)
        if fitted <= 0:
            raise VolumeError(_("No circle fits there: move its middle onto the face."))
        return fitted


def no_hole(holes: Sequence[FaceCircle], called: str) -> None:
    """Refuse round holes through a kind that takes none."""
    if holes:
        raise VolumeError(
            _("No round hole goes through a {called}: make it a box, or use a bore.").format(
                called=_(called)
            )
        )


def on_ends_only(circle: FaceCircle) -> None:
    """Refuse a circle that is not on the near or the far end."""
    if not 0 <= circle.face <= 1:
        raise VolumeError(_("A round volume has circles on its two ends only: choose one of them."))


def axis_of_holes(holes: Sequence[FaceCircle]) -> int:
    """The own axis that all round holes through a box run along."""
    axes = {one.face // 2 for one in holes}
    if len(axes) > 1:
        raise VolumeError(_("Round holes run one way through a volume: choose that side."))
    return axes.pop()


def pierced(hole: FaceCircle, axis: int, sides: Sides) -> Ring:
    """The ring of a round hole through what is carried along an own axis, in shares of its
    sides."""
    radius = end_plane(axis, sides, hole.face % 2, (0.0, 0.0)).radius_of(hole)
    return circle_ring(*hole.middle, radius / sides[CROSS[axis][0]])


def flat_plane(body: Body, face: int) -> FacePlane:
    """A plane face to draw in: the rectangle round its outline. Raises VolumeError when it is
    gone."""
    if not 0 <= face < body.faces:
        raise VolumeError(_("That face is gone: choose one that is there."))
    normal = body.normals[face]
    first = CROSS[int(np.abs(normal).argmax())][0]
    across = np.eye(3)[first] - normal[first] * normal
    across = across / np.linalg.norm(across)
    along = np.cross(normal, across)
    second = CROSS[int(np.abs(normal).argmax())][1]
    along = along if along[second] > 0 else -along
    points = body.face_corners(face)
    flat = np.stack([points @ across, points @ along], axis=1)
    outline = np.concatenate([np.empty((0, 3, 4)), *body.loops(face)[:1]])
    reach = [arcs_along(outline, direction) for direction in (across, along)]
    low = np.array([one.min() for one in reach])
    width, height = (float(np.ptp(one)) for one in reach)
    corner = float(body.offsets[face]) * normal + low[0] * across + low[1] * along
    return FacePlane(corner, across, along, (width, height), flat - low)


def end_plane(axis: int, sides: Sides, end: int, slant: tuple[float, float]) -> FacePlane:
    """The near (0) or far (1) end of what is carried along an own axis, as a plane to draw in: the
    whole rectangle of its box."""
    own = np.eye(3)
    first, second = CROSS[axis]
    shift = slant[0] * sides[first] * own[first] + slant[1] * sides[second] * own[second]
    corner = float(end) * (sides[axis] * own[axis] + shift)
    size = (sides[first], sides[second])
    outline = np.array([[0.0, 0.0], [size[0], 0.0], [size[0], size[1]], [0.0, size[1]]])
    return FacePlane(corner, own[first], own[second], size, outline)


def disc_plane(axis: int, sides: Sides, station: tuple[float, float]) -> FacePlane:
    """A round end, at a station of what is turned about an own axis, as a plane to draw in: the
    square round its largest circle."""
    own = np.eye(3)
    first, second = CROSS[axis]
    height, share = station
    radius = min(sides[first], sides[second]) / 2
    middle = own[first] * sides[first] / 2 + own[second] * sides[second] / 2
    corner = middle - radius * (own[first] + own[second]) + height * sides[axis] * own[axis]
    empty = np.empty((0, 2))
    size = (2 * radius, 2 * radius)
    return FacePlane(corner, own[first], own[second], size, empty, share * radius)


def mirrored_on_face(one: FaceCircle, body: Body, twin: Body, width_mm: float) -> FaceCircle | None:
    """A circle on a face of a body as it lies on the body mirrored left to right; None when the
    face it was on is gone."""
    plane = flat_plane(body, one.face)
    flip = np.array([-1.0, 1.0, 1.0])
    middle = plane.middle(one) * flip + (width_mm, 0.0, 0.0)
    face = face_at(twin, middle, body.normals[one.face] * flip)
    if face < 0:
        return None
    other = flat_plane(twin, face)
    place = (
        float((middle - other.corner) @ other.across) / other.extents[0],
        float((middle - other.corner) @ other.along) / other.extents[1],
    )
    turned = float(plane.across * flip @ other.across) < 0
    return (
        turned_over(replace(one, face=face, middle=place))
        if turned
        else (replace(one, face=face, middle=place))
    )


def mirrored_on_end(one: FaceCircle, axis: int, slant: tuple[float, float]) -> FaceCircle:
    """A circle on an end of what is turned or carried along an own axis as it lies on its twin."""
    s, t = one.middle
    if axis == 0:  # the ends change places, and a slant is then counted from the other one
        return replace(one, face=1 - one.face, middle=(s + slant[0], t + slant[1]))
    return turned_over(replace(one, middle=(1.0 - s, t)))


def turned_over(one: FaceCircle) -> FaceCircle:
    """The arc run through the other way, its start mirrored left to right."""
    if abs(one.sweep_deg) == 360:
        return one
    return replace(one, start_deg=180.0 - one.start_deg, sweep_deg=-one.sweep_deg)


LOOKS_ALIKE = 0.7
"""A face that has taken the place of another looks within 45° of its way (the cosine)."""


def face_like(body: Body, normal: Array) -> int:
    """The largest plane face that looks a way; −1 when none does."""
    looks = np.flatnonzero(body.normals @ normal > LOOKS_ALIKE) if body.faces else np.empty(0)
    return max((int(i) for i in looks), key=body.area_of, default=-1)


def face_at(body: Body, point: Array, normal: Array) -> int:
    """The plane face that a point lies in the plane of, with a normal; −1 when there is none."""
    size = float(np.ptp(body.vertices, axis=0).max()) if len(body.vertices) else 1.0
    off = np.abs(body.normals @ point - body.offsets) <= CLOSE * size
    found = np.flatnonzero(off & (body.normals @ normal > 1 - SAME))
    return int(found[0]) if len(found) else -1
