"""What can be read off a drawn volume: lengths, foreshortening, angles, directions."""

import math
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from isometron.document.near_edge import near_corner
from isometron.drawing.built import Built
from isometron.drawing.scene import VolumePicture
from isometron.framework.volume import Volume
from isometron.perspective.eye import Array, Eye, eye_level
from isometron.perspective.hand_setup import family_of
from isometron.perspective.vanishing import VanishingPoint, measuring_point, vanishing_point

LEVEL = 1e-9
"""An edge rising less than this share of its length is level."""

SHARED = 1e-9
"""Two directions whose angle has a smaller sine than this share a vanishing point."""


@dataclass(frozen=True, eq=False)
class EdgeMeasures:
    """Measures of the m edges of a volume, NaN where an end lies behind the eye.

    true_mm (m,); drawn_mm (m,) on the sheet; foreshortening (m,): drawn length over the length
    the edge would have at its nearer end if it lay parallel to the picture plane;
    paper_angle_deg (m,) from its first to its second end, counter-clockwise from the paper's
    right, in (−180, 180].
    """

    true_mm: Array
    drawn_mm: Array
    foreshortening: Array
    paper_angle_deg: Array


def edge_measures(eye: Eye, picture: VolumePicture) -> EdgeMeasures:
    """Measures of every edge of a drawn volume."""
    edges, own = picture.edges, picture.built.solid.vertices
    true = np.linalg.norm(own[edges[:, 1]] - own[edges[:, 0]], axis=1)
    run = picture.sheet[edges[:, 1]] - picture.sheet[edges[:, 0]]
    drawn = np.hypot(run[:, 0], run[:, 1])
    nearer = picture.depth[edges].min(axis=1)
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
    corner = near_corner(eye, picture.volume)
    ends = picture.frame_sheet[[corner ^ 1, corner ^ 2, corner | 4]]
    drawn = np.hypot(*(ends - picture.frame_sheet[corner]).T)
    if not np.isfinite(drawn).all():
        return ()
    scale = eye.station_distance_mm / float(picture.frame_depth[corner])
    return tuple(
        FromNearCorner(axis, side, mm, mm / (side * scale))
        for axis, (side, mm) in enumerate(zip(picture.volume.sides, drawn.tolist(), strict=True))
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
    return _directions(eye, picture.volume)


@lru_cache(maxsize=4096)
def _directions(eye: Eye, volume: Volume) -> tuple[Direction, Direction, Direction]:
    axes = volume.axes()
    points = [vanishing_point(eye, along) for along in axes]
    families = [family_of(eye, along) for along in axes]
    if volume.tipped:
        families = _families_of_tipped(axes.astype(float), points)
    found = []
    for axis, (along, family, point) in enumerate(zip(axes, families, points, strict=True)):
        x, y, z = (float(v) for v in along)
        found.append(Direction(axis, (x, y, z), family, point))
    width, depth, height = found
    return width, depth, height


def _families_of_tipped(axes: Array, points: list[VanishingPoint]) -> list[str]:
    """Families of a tipped volume: its steepest direction runs to the third point, the others to
    the left and the right one as their points lie; parallel ones have none."""
    steepest = int(np.abs(axes[:, 2]).argmax())
    others = [axis for axis in range(3) if axis != steepest]
    families = ["", "", ""]
    if not points[steepest].at_infinity:
        families[steepest] = "third"
    finite = [(p[0], axis) for axis in others if (p := points[axis].sheet_mm) is not None]
    if len(finite) == 1:
        families[finite[0][1]] = "centre"
    for (_, axis), family in zip(sorted(finite), ("left", "right"), strict=False):
        if len(finite) == 2:
            families[axis] = family
    return families


def measuring_point_of(eye: Eye, picture: VolumePicture, axis: int) -> tuple[float, float] | None:
    """Measuring point of width (0), depth (1) or height (2), sheet mm; None for parallel families.

    Those of width and depth are for the ground plane; that of the uprights is for the plane of
    width and height.
    """
    axes = picture.volume.axes()
    return measuring_point(eye, axes[axis], axes[(1, 0, 0)[axis]])


def kind_of_view(directions: tuple[Direction, ...]) -> str:
    """The name of the view: how many of the three directions meet in a point on the sheet."""
    finite = sum(not direction.vanishing.at_infinity for direction in directions)
    return ("parallel", "one-point", "two-point", "three-point")[finite]


def near_corner_angle(eye: Eye, picture: VolumePicture) -> float | None:
    """Angle on the paper, degrees, between the two ground edges at the near corner.

    None when one of their ends lies behind the eye.
    """
    corner = near_corner(eye, picture.volume)
    arms = picture.frame_sheet[[corner ^ 1, corner ^ 2]] - picture.frame_sheet[corner]
    if not np.isfinite(arms).all():
        return None
    (ax, ay), (bx, by) = arms.tolist()
    return abs(math.degrees(math.atan2(ax * by - ay * bx, ax * bx + ay * by)))


def angle_of_sight(eye: Eye, picture: VolumePicture, face: int) -> float:
    """Degrees between the sight line to the middle of a face and the face: 0 is edge-on, 90 is
    square on, negative when the face is turned away."""
    middle = picture.world[list(picture.built.solid.rings[face][0])].mean(axis=0)
    to_eye = np.array(eye.place) - middle
    outward = picture.built.normals[face]
    distance = float(np.linalg.norm(to_eye))
    if distance == 0:
        return 0.0
    return math.degrees(math.asin(max(-1.0, min(1.0, float(to_eye @ outward) / distance))))


def drawn_area(picture: VolumePicture, face: int) -> float | None:
    """Area of a face as drawn, mm² on the sheet; None when it reaches behind the eye."""
    total = 0.0
    for number, ring in enumerate(picture.built.solid.rings[face]):
        x, y = picture.sheet[list(ring)].T
        area = abs(float(x @ np.roll(y, -1) - y @ np.roll(x, -1))) / 2
        total += -area if number else area
    return total if math.isfinite(total) else None


def true_area(picture: VolumePicture, face: int) -> float:
    """True area of a face, mm²."""
    total = 0.0
    for number, ring in enumerate(picture.built.solid.rings[face]):
        corners = picture.built.solid.vertices[list(ring)] - picture.built.solid.vertices[ring[0]]
        area = (
            float(np.linalg.norm(np.cross(corners, np.roll(corners, -1, axis=0)).sum(axis=0))) / 2
        )
        total += -area if number else area
    return total


def near_edge_number(eye: Eye, picture: VolumePicture) -> int:
    """The edge that stands for a volume: the one on its near edge, else the upright nearest to us,
    else the edge nearest to us."""
    corner = near_corner(eye, picture.volume)
    if picture.built.plain:
        return 8 + corner
    edges, world = picture.edges, picture.world
    upright = picture.built.solid.edge_axes == 2
    some = np.flatnonzero(upright if upright.any() else np.ones(len(edges), dtype=bool))
    foot = picture.frame_world[corner]
    middle = world[edges[some]].mean(axis=1)
    return int(some[np.linalg.norm((middle - foot)[:, :2], axis=1).argmin()])


@dataclass(frozen=True)
class SlopingPoint:
    """Where sloping edges of a volume vanish: world direction, place on the sheet (mm), and
    whether it lies above the eye level."""

    world: tuple[float, float, float]
    sheet_mm: tuple[float, float]
    above: bool


def sloping_points(eye: Eye, picture: VolumePicture) -> tuple[SlopingPoint, ...]:
    """Vanishing points of the edges that are neither level nor upright, each family once."""
    return _sloping(eye, picture.built)


@lru_cache(maxsize=1024)
def _sloping(eye: Eye, built: Built) -> tuple[SlopingPoint, ...]:
    run = built.world[built.solid.edges[:, 1]] - built.world[built.solid.edges[:, 0]]
    run = run[~built.solid.smooth]
    run /= np.linalg.norm(run, axis=1, keepdims=True)
    slopes = (np.abs(run[:, 2]) > LEVEL) & (np.abs(run[:, 2]) < 1 - LEVEL**2)
    found: list[SlopingPoint] = []
    for along in run[slopes]:
        if any(abs(abs(float(along @ np.array(p.world))) - 1) < 1e-12 for p in found):
            continue
        place = vanishing_point(eye, along).sheet_mm
        if place is not None:
            level = eye_level(eye)
            x, y, z = (float(v) for v in along)
            found.append(SlopingPoint((x, y, z), place, level is not None and place[1] > level))
    return tuple(found)


def shared_points(eye: Eye, one: VolumePicture, other: VolumePicture) -> tuple[str, ...]:
    """The families ("left", "right", "third", "centre") of one volume that are also the other's."""
    theirs = [np.array(d.world) for d in directions_of(eye, other)]
    return tuple(
        d.family or "parallel"
        for d in directions_of(eye, one)
        if any(np.linalg.norm(np.cross(d.world, along)) < SHARED for along in theirs)
    )
