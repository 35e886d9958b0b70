"""What can be read off a drawn volume: lengths, foreshortening, angles, directions."""

import math
from typing import NamedTuple

import numpy as np

from isometron.document.document import Document
from isometron.document.near_edge import near_corner, near_place
from isometron.drawing.volume_picture import VolumePicture
from isometron.framework.bodies.body import loop_area
from isometron.framework.figures import Figure
from isometron.framework.turning import axes_of
from isometron.framework.volume import Volume
from isometron.nearness import NOUGHT, ROUNDING
from isometron.perspective.conics import at, lens, moved, roots, seen_from
from isometron.perspective.eye import Array, Eye, eye_level
from isometron.perspective.hand_setup import family_of
from isometron.perspective.projection import depths, scale_at, sight_ray
from isometron.perspective.remembering import remembered
from isometron.perspective.vanishing import (
    VanishingPoint,
    diagonal_point,
    measuring_point,
    vanishing_point,
)
from isometron.words import said

LEVEL = 1e-9
"""An edge rising less than this share of its length is level."""

SQUARE = 1e-9
"""Two edges the cosine of whose angle is smaller are square to each other."""

SHARED = 1e-9
"""Two directions whose angle has a smaller sine than this share a vanishing point."""


class EdgeMeasures(NamedTuple):
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
    edges, true = picture.edges, picture.body.true_mm
    run = picture.sheet[edges[:, 1]] - picture.sheet[edges[:, 0]]
    drawn = np.hypot(run[:, 0], run[:, 1])
    nearer = picture.depth[edges].min(axis=1)
    shortened = drawn / (true * scale_at(eye, nearer))
    angle = np.degrees(np.arctan2(run[:, 1], run[:, 0]))
    return EdgeMeasures(true, drawn, shortened, np.where(angle <= -180.0, 180.0, angle))


class FromNearCorner(NamedTuple):
    """One of the three edges that leave the near corner: the axis it runs along (or nearest to),
    true length (mm), drawn length (sheet mm), and the share of its length at the near corner's
    scale that is drawn."""

    axis: int
    true_mm: float
    drawn_mm: float
    share: float


def from_near_corner(eye: Eye, picture: VolumePicture) -> tuple[FromNearCorner, ...]:
    """The straight edges that leave the near corner, along width, depth and height or nearest to
    them; () for a body without corners, or when one reaches behind the eye."""
    corner, edges = near_corner(eye, picture.volume), _from_near_corner(eye, picture)
    if corner is None:
        return ()
    measures = edge_measures(eye, picture)
    axes = sorted(edges)
    numbers = [edges[axis] for axis in axes]
    drawn, true = measures.drawn_mm[numbers], measures.true_mm[numbers]
    if not np.isfinite(drawn).all():
        return ()
    scale = scale_at(eye, float(picture.depth[corner]))
    return tuple(
        FromNearCorner(axis, float(length), float(mm), float(mm / (length * scale)))
        for axis, length, mm in zip(axes, true, drawn, strict=True)
    )


def _from_near_corner(eye: Eye, picture: VolumePicture) -> dict[int, int]:
    """The edge at the near corner that runs nearest to each own axis, each edge once."""
    corner = near_corner(eye, picture.volume)
    if corner is None:
        return {}
    at_corner = np.flatnonzero((picture.edges == corner).any(axis=1))
    own = picture.body.vertices[picture.edges[at_corner]]
    along = np.abs(own[:, 1] - own[:, 0]) / picture.body.true_mm[at_corner][:, None]
    found: dict[int, int] = {}
    for place in np.argsort(-along, axis=None, kind="stable").tolist():
        edge, axis = divmod(place, 3)
        number = int(at_corner[edge])
        if axis not in found and number not in found.values():
            found[axis] = number
    return found


class Direction(NamedTuple):
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


@remembered(on=1)
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


VIEWS = (said("parallel"), said("one-point"), said("two-point"), said("three-point"))
"""Kinds of view, by how many directions meet in a point."""


def kind_of_view(directions: tuple[Direction, ...]) -> str:
    """The name of the view: how many of the three directions meet in a point on the sheet."""
    finite = sum(not direction.vanishing.at_infinity for direction in directions)
    return VIEWS[finite]


def kind_of_sheet(document: Document) -> str:
    """The name of the view a sheet has: how many of the level directions of its set-up and the
    uprights meet in a point. A volume that is tipped has a view of its own, the sheet has not."""
    eye, axes = document.eye, axes_of(document.lead_yaw_deg, 0.0, 0.0)
    finite = sum(not vanishing_point(eye, along).at_infinity for along in axes)
    return VIEWS[finite]


def near_corner_angle(eye: Eye, picture: VolumePicture) -> float | None:
    """Angle on the paper, degrees, between the two ground edges at the near corner.

    None for a body that has no such corner, or none that is truly square, and when one of its edges
    reaches behind the eye.
    """
    corner, edges = near_corner(eye, picture.volume), _from_near_corner(eye, picture)
    if corner is None or not {0, 1} <= set(edges):
        return None
    arms, true = [], []
    for axis in (0, 1):
        first, second = picture.edges[edges[axis]].tolist()
        end = second if first == corner else first
        arms.append(picture.sheet[end] - picture.sheet[corner])
        true.append(picture.world[end] - picture.world[corner])
    square = abs(float(true[0] @ true[1])) <= SQUARE * float(
        np.linalg.norm(true[0]) * np.linalg.norm(true[1])
    )
    if not square or not np.isfinite(arms).all():
        return None
    (ax, ay), (bx, by) = (arm.tolist() for arm in arms)
    return abs(math.degrees(math.atan2(ax * by - ay * bx, ax * bx + ay * by)))


def face_middle(picture: VolumePicture, face: int) -> Array:
    """The middle (3,) of a face, world mm."""
    return np.asarray(picture.body.middle_of(face) @ picture.axes + picture.figure.place)


def angle_of_sight(eye: Eye, picture: VolumePicture, face: int) -> float:
    """Degrees between the sight line to the middle of a face and the face: 0 is edge-on, 90 is
    square on, negative when the face is turned away."""
    middle = face_middle(picture, face)
    to_eye = np.array(eye.place) - middle
    outward = picture.figure.normals[face]
    distance = float(np.linalg.norm(to_eye))
    if distance == 0:
        return 0.0
    return math.degrees(math.asin(max(-1.0, min(1.0, float(to_eye @ outward) / distance))))


def face_loops(picture: VolumePicture, face: int) -> list[Array]:
    """The outlines of a face in the world, largest first, as arcs (k, 3, 4)."""
    figure = picture.figure
    return [moved(loop, figure.axes, figure.place) for loop in picture.body.loops(face)]


def drawn_loops(picture: VolumePicture, face: int) -> list[Array] | None:
    """The outlines of a face on the sheet as arcs (k, 3, 3); None when it reaches behind the
    eye."""
    view = lens(picture.eye)
    drawn: list[Array] = [
        seen_from(picture.eye, loop)[..., :3] @ view.T for loop in face_loops(picture, face)
    ]
    if any(float(loop[:, [0, 2], 2].min()) <= 0 for loop in drawn):
        return None
    return drawn


def drawn_inside(loops: list[Array], place_mm: tuple[float, float]) -> bool:
    """Whether a place of the sheet lies within the outline of a drawn face and outside its holes,
    by crossings of a level ray with its arcs."""
    x, y = place_mm
    crossings = 0
    for loop in loops:
        values = loop[..., 1] - y * loop[..., 2]
        number, t = roots(np.where(values == 0, NOUGHT, values))
        places = at(loop[number], t)
        crossings += int((places[:, 0] > x * places[:, 2]).sum())
    return crossings % 2 == 1


def depth_in_face(
    eye: Eye, picture: VolumePicture, face: int, place_mm: tuple[float, float]
) -> float:
    """Depth, mm, at which the sight line through a place of the sheet meets the plane of a face."""
    ray, figure = sight_ray(eye, place_mm), picture.figure
    height = float(figure.offsets[face] - figure.normals[face] @ np.array(eye.place))
    run = float(ray @ figure.normals[face])
    return height / run if run else math.inf


def drawn_area(picture: VolumePicture, face: int) -> float | None:
    """Area of a face as drawn, mm² on the sheet; None when it reaches behind the eye."""
    drawn = drawn_loops(picture, face)
    if not drawn:
        return None
    sizes = [abs(loop_area(loop)) for loop in drawn]
    return sizes[0] - sum(sizes[1:])


def true_area(picture: VolumePicture, face: int) -> float:
    """True area of a face, mm²."""
    return picture.body.area_of(face)


def face_foreshortening(eye: Eye, picture: VolumePicture, face: int) -> float | None:
    """Drawn area of a face over the area it would have, at the depth of its own nearest place, if
    it lay parallel to the picture plane; None when it reaches behind the eye."""
    drawn, true = drawn_area(picture, face), true_area(picture, face)
    if drawn is None or true <= 0:
        return None
    loop = face_loops(picture, face)[0]
    real = loop[loop[..., 3] > 0]
    nearest = float(depths(eye, real[:, :3] / real[:, 3:]).min())
    return drawn / (true * float(scale_at(eye, nearest)) ** 2) if nearest > 0 else None


def near_edge_number(eye: Eye, picture: VolumePicture) -> int | None:
    """The edge that stands for a volume: the steepest one at its near corner, else the upright
    nearest to us, else the edge nearest to us; None for a body without edges."""
    edges, world = picture.edges, picture.world
    if not len(edges):
        return None
    corner = near_corner(eye, picture.volume)
    mine = np.flatnonzero((edges == corner).any(axis=1))
    rise = np.abs(world[edges[:, 1], 2] - world[edges[:, 0], 2]) / picture.body.true_mm
    if len(mine) and float(rise[mine].max()) > LEVEL:
        return int(mine[rise[mine].argmax()])
    upright = picture.body.edge_axes == 2
    some = np.flatnonzero(upright if upright.any() else np.ones(len(edges), dtype=bool))
    foot = near_place(eye, picture.volume)
    middle = world[edges[some]].mean(axis=1)
    return int(some[np.linalg.norm((middle - foot)[:, :2], axis=1).argmin()])


class SlopingPoint(NamedTuple):
    """Where sloping edges of a volume vanish: world direction, place on the sheet (mm), and
    whether it lies above the eye level."""

    world: tuple[float, float, float]
    sheet_mm: tuple[float, float]
    above: bool


def sloping_points(eye: Eye, picture: VolumePicture) -> tuple[SlopingPoint, ...]:
    """Vanishing points of the edges that are neither level nor upright, each family once."""
    return _sloping(eye, picture.figure)


@remembered(on=1)
def _sloping(eye: Eye, figure: Figure) -> tuple[SlopingPoint, ...]:
    edges = figure.body.edges[figure.body.plain]
    run = figure.world[edges[:, 1]] - figure.world[edges[:, 0]]
    run /= np.linalg.norm(run, axis=1, keepdims=True)
    slopes = (np.abs(run[:, 2]) > LEVEL) & (np.abs(run[:, 2]) < 1 - LEVEL**2)
    found: list[SlopingPoint] = []
    for along in run[slopes]:
        if any(abs(abs(float(along @ np.array(p.world))) - 1) < ROUNDING for p in found):
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


def diagonal_of(eye: Eye, volume: Volume) -> VanishingPoint:
    """The 45° point of a volume: where the diagonals of squares on its level run to that go away
    from us. Raises SetupError when its two level directions are opposite as seen."""
    return diagonal_point(eye, *_both_ahead(eye, volume.axes()[:2]))


def _both_ahead(eye: Eye, axes: Array) -> tuple[Array, Array]:
    """The two level directions of a box turned so that both run away from us."""
    heading = np.radians(eye.heading_deg)
    ahead = axes[:, 0] * np.sin(heading) + axes[:, 1] * np.cos(heading)
    first, second = (axis * (-1.0 if a < 0 else 1.0) for axis, a in zip(axes, ahead, strict=True))
    return first, second
