"""Circles drawn on the faces of a volume, and round holes through it."""

import math
from dataclasses import dataclass, replace

import numpy as np

from isometron.framework.extruded import CROSS, Extruded
from isometron.framework.solid import Solid
from isometron.framework.turned import Turned
from isometron.perspective.errors import VolumeError
from isometron.perspective.eye import LARGEST_MM, Array

Sides = tuple[float, float, float]


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
            raise VolumeError("A circle's middle is a share of its face: type 1/2.")
        if self.radius_mm is not None and not 0 < self.radius_mm <= LARGEST_MM:
            raise VolumeError("A circle needs a radius above 0: type, say, 40 mm.")
        if not (math.isfinite(self.sweep_deg) and 0 < abs(self.sweep_deg) <= 360):
            raise VolumeError("An arc turns by more than 0° and up to 360°: type another angle.")
        if not self.shares or not all(0 < share <= 1 for share in self.shares):
            raise VolumeError("Concentric circles have radii between 0 and the largest one.")
        if self.through and (abs(self.sweep_deg) != 360 or self.shares != (1.0,)):
            raise VolumeError("A hole is one whole circle: take arcs and inner circles away.")


@dataclass(frozen=True, eq=False)
class FaceFrame:
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
            raise VolumeError("No circle fits there: move its middle onto the face.")
        return fitted


def flat_frame(solid: Solid, face: int) -> FaceFrame:
    """The frame of a face of a flat solid. Raises VolumeError when the face is gone."""
    if not 0 <= face < len(solid.rings):
        raise VolumeError("That face is gone: choose one that is there.")
    normal = solid.normals[face]
    first = CROSS[int(np.abs(normal).argmax())][0]
    across = np.eye(3)[first] - normal[first] * normal
    across = across / np.linalg.norm(across)
    along = np.cross(normal, across)
    second = CROSS[int(np.abs(normal).argmax())][1]
    along = along if along[second] > 0 else -along
    points = solid.vertices[list(solid.rings[face][0])]
    flat = np.stack([points @ across, points @ along], axis=1)
    low = flat.min(axis=0)
    corner = points[0] + (low[0] - flat[0, 0]) * across + (low[1] - flat[0, 1]) * along
    width, height = (float(v) for v in np.ptp(flat, axis=0))
    return FaceFrame(corner, across, along, (width, height), flat - low)


def end_frame(shape: Turned | Extruded, sides: Sides, end: int) -> FaceFrame:
    """The frame of the near (0) or far (1) end of a round volume."""
    own, axis = np.eye(3), shape.axis
    first, second = CROSS[axis]
    corner = float(end) * sides[axis] * own[axis]
    if isinstance(shape, Extruded):
        corner = corner + end * (
            shape.slant[0] * sides[first] * own[first]
            + shape.slant[1] * sides[second] * own[second]
        )
        size = (sides[first], sides[second])
        outline = np.array([[0.0, 0.0], [size[0], 0.0], [size[0], size[1]], [0.0, size[1]]])
        return FaceFrame(corner, own[first], own[second], size, outline)
    height, share = shape.stations[-1 if end else 0]
    radius = min(sides[first], sides[second]) / 2
    middle = own[first] * sides[first] / 2 + own[second] * sides[second] / 2
    corner = middle - radius * (own[first] + own[second]) + height * sides[axis] * own[axis]
    empty = np.empty((0, 2))
    return FaceFrame(
        corner, own[first], own[second], (2 * radius, 2 * radius), empty, share * radius
    )


def mirrored_circle(
    one: FaceCircle, solid: Solid, twin: Solid, width_mm: float
) -> FaceCircle | None:
    """A circle on a flat solid as it lies on the solid mirrored left to right; None when the face
    it was on is gone."""
    frame = flat_frame(solid, one.face)
    flip = np.array([-1.0, 1.0, 1.0])
    middle = frame.middle(one) * flip + (width_mm, 0.0, 0.0)
    face = face_of_plane(twin, middle, solid.normals[one.face] * flip)
    if face < 0:
        return None
    other = flat_frame(twin, face)
    place = (
        float((middle - other.corner) @ other.across) / other.extents[0],
        float((middle - other.corner) @ other.along) / other.extents[1],
    )
    turned = float(frame.across * flip @ other.across) < 0
    return _turned_over(replace(one, face=face, middle=place), turned)


def mirrored_on_end(one: FaceCircle, shape: Turned | Extruded) -> FaceCircle:
    """A circle on an end of a round volume as it lies on its twin, mirrored left to right."""
    s, t = one.middle
    if shape.axis == 0:  # the ends change places, and a slant is then counted from the other one
        across, along = shape.slant if isinstance(shape, Extruded) else (0.0, 0.0)
        return replace(one, face=1 - one.face, middle=(s + across, t + along))
    return _turned_over(replace(one, middle=(1.0 - s, t)), True)


def _turned_over(one: FaceCircle, turned: bool) -> FaceCircle:
    """The arc run through the other way, its start mirrored left to right."""
    if not turned or abs(one.sweep_deg) == 360:
        return one
    return replace(one, start_deg=180.0 - one.start_deg, sweep_deg=-one.sweep_deg)


def face_of_plane(solid: Solid, point: Array, normal: Array) -> int:
    """The face of a flat solid that a point lies on with a normal; −1 when there is none."""
    size = float(np.ptp(solid.vertices, axis=0).max())
    for face, ring in enumerate(solid.rings):
        off = abs(float((point - solid.vertices[ring[0][0]]) @ solid.normals[face]))
        if off <= 1e-7 * size and float(solid.normals[face] @ normal) > 1 - 1e-9:
            return face
    return -1
