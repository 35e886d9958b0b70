"""What can be read off a drawn volume: lengths, foreshortening, angles, directions."""

import math
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from isometron.document.near_edge import near_corner
from isometron.drawing.scene import VolumePicture
from isometron.framework.box import EDGES, FACES, Box
from isometron.perspective.eye import Array, Eye
from isometron.perspective.hand_setup import family_of
from isometron.perspective.vanishing import VanishingPoint, measuring_point, vanishing_point


@dataclass(frozen=True, eq=False)
class EdgeMeasures:
    """Measures of the 12 edges, NaN where an end lies behind the eye.

    true_mm (12,); drawn_mm (12,) on the sheet; foreshortening (12,): drawn length over the length
    the edge would have at its nearer end if it lay parallel to the picture plane;
    paper_angle_deg (12,) from its first to its second end, counter-clockwise from the paper's
    right, in (−180, 180].
    """

    true_mm: Array
    drawn_mm: Array
    foreshortening: Array
    paper_angle_deg: Array


def edge_measures(eye: Eye, picture: VolumePicture) -> EdgeMeasures:
    """Measures of every edge of a drawn box."""
    true = np.repeat(np.array(picture.box.sides), 4)
    run = picture.sheet[EDGES[:, 1]] - picture.sheet[EDGES[:, 0]]
    drawn = np.hypot(run[:, 0], run[:, 1])
    nearer = picture.depth[EDGES].min(axis=1)
    shortened = drawn * nearer / (true * eye.station_distance_mm)
    angle = np.degrees(np.arctan2(run[:, 1], run[:, 0]))
    return EdgeMeasures(true, drawn, shortened, np.where(angle <= -180.0, 180.0, angle))


@dataclass(frozen=True)
class FromNearCorner:
    """One of the three edges that leave the near corner: its axis, true length (mm), drawn length
    (sheet mm), and the share of its length at the near corner's scale that is drawn."""

    axis: int
    true_mm: float
    drawn_mm: float
    share: float


def from_near_corner(eye: Eye, picture: VolumePicture) -> tuple[FromNearCorner, ...]:
    """Width, depth and height as they leave the near corner; () when one reaches behind the eye."""
    corner = near_corner(eye, picture.box)
    ends = picture.sheet[[corner ^ 1, corner ^ 2, corner | 4]]
    drawn = np.hypot(*(ends - picture.sheet[corner]).T)
    if not np.isfinite(drawn).all():
        return ()
    scale = eye.station_distance_mm / float(picture.depth[corner])
    return tuple(
        FromNearCorner(axis, side, mm, mm / (side * scale))
        for axis, (side, mm) in enumerate(zip(picture.box.sides, drawn.tolist(), strict=True))
    )


@dataclass(frozen=True)
class Direction:
    """One of the three directions of a volume and where it vanishes.

    `family` is "left", "right", "third", "centre", or "" when it stays parallel on the paper.
    """

    axis: int
    world: tuple[float, float, float]
    family: str
    vanishing: VanishingPoint


def directions_of(eye: Eye, picture: VolumePicture) -> tuple[Direction, Direction, Direction]:
    """Width, depth and height of a volume as directions with their vanishing points."""
    return _directions(eye, picture.box)


@lru_cache(maxsize=4096)
def _directions(eye: Eye, box: Box) -> tuple[Direction, Direction, Direction]:
    found = []
    for axis, along in enumerate(box.axes()):
        x, y, z = (float(v) for v in along)
        found.append(Direction(axis, (x, y, z), family_of(eye, along), vanishing_point(eye, along)))
    width, depth, height = found
    return width, depth, height


def measuring_point_of(eye: Eye, picture: VolumePicture, axis: int) -> tuple[float, float] | None:
    """Measuring point of width (0), depth (1) or height (2), sheet mm; None for parallel families.

    Those of width and depth are for the ground plane; that of the uprights is for the plane of
    width and height.
    """
    axes = picture.box.axes()
    return measuring_point(eye, axes[axis], axes[(1, 0, 0)[axis]])


def kind_of_view(directions: tuple[Direction, ...]) -> str:
    """The name of the view: how many of the three directions meet in a point on the sheet."""
    finite = sum(not direction.vanishing.at_infinity for direction in directions)
    return ("parallel", "one-point", "two-point", "three-point")[finite]


def near_corner_angle(eye: Eye, picture: VolumePicture) -> float | None:
    """Angle on the paper, degrees, between the two ground edges at the near corner.

    None when one of their ends lies behind the eye.
    """
    corner = near_corner(eye, picture.box)
    arms = picture.sheet[[corner ^ 1, corner ^ 2]] - picture.sheet[corner]
    if not np.isfinite(arms).all():
        return None
    (ax, ay), (bx, by) = arms.tolist()
    return abs(math.degrees(math.atan2(ax * by - ay * bx, ax * bx + ay * by)))


def angle_of_sight(eye: Eye, picture: VolumePicture, face: int) -> float:
    """Degrees between the sight line to the middle of a face and the face: 0 is edge-on, 90 is
    square on, negative when the face is turned away."""
    middle = picture.world[FACES[face]].mean(axis=0)
    to_eye = np.array(eye.place) - middle
    axis, positive = divmod(face, 2)
    outward = picture.axes[axis] * (1.0 if positive else -1.0)
    distance = float(np.linalg.norm(to_eye))
    if distance == 0:
        return 0.0
    return math.degrees(math.asin(max(-1.0, min(1.0, float(to_eye @ outward) / distance))))


def drawn_area(picture: VolumePicture, face: int) -> float | None:
    """Area of a face as drawn, mm² on the sheet; None when it reaches behind the eye."""
    ring = picture.sheet[FACES[face]]
    if not np.isfinite(ring).all():
        return None
    x, y = ring.T
    return abs(float(x @ np.roll(y, -1) - y @ np.roll(x, -1))) / 2
