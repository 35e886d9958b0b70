"""Chamfers of bodies that bend: a plane takes one straight edge between two flat faces off, and all
that bends stays as it is.

What a plane cuts must be flat where it cuts: an edge whose chamfer would reach a round side, or
another part of the body, is refused.
"""

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from isometron.framework.bodies.body import Body, Region, is_straight
from isometron.framework.bodies.edging import Edging, inward_in
from isometron.framework.bodies.hulls import hulls_of
from isometron.framework.bodies.making import ALWAYS, Making, half_space
from isometron.framework.outlines import Flat
from isometron.nearness import CLOSE, NEAR, ROUNDING
from isometron.perspective.errors import VolumeError
from isometron.perspective.eye import Array
from isometron.words import _

HAIR = 1e-3
"""A chamfer that is no larger than this share of its edge, and does not fit, fits in no size."""

SLACK = 1e-9
"""Share of a body's size within which a place lies on a cutting plane."""


class Slice(NamedTuple):
    """What a chamfer takes off: the part beyond a plane normal·x = offset, mm³."""

    normal: Array
    offset: float
    contents_mm3: float


def chamfered(body: Body, edgings: Sequence[Edging]) -> tuple[Body, list[Slice]]:
    """A body that bends with some of its straight edges chamfered, and what each takes off. Raises
    VolumeError for an edge that is gone, an inner one, a round, and a chamfer that reaches what
    bends."""
    slices: list[Slice] = []
    places = [
        body.vertices[body.edges[one.edge]] if 0 <= one.edge < len(body.edges) else None
        for one in edgings
    ]
    for one, ends in zip(edgings, places, strict=True):
        if one.rounded:
            raise VolumeError(_("Of what bends such an edge is chamfered only: take Chamfer."))
        edge = -1 if ends is None else _on_line(body, ends)
        if edge < 0:
            raise VolumeError(_("That edge is gone: choose one that is there."))
        body, taken = _chamfered(body, edge, one)
        slices.append(taken)
    return body, slices


def _on_line(body: Body, ends: Array) -> int:
    """The longest edge that still lies on a line between two places; −1 when none does."""
    along = (ends[1] - ends[0]) / np.linalg.norm(ends[1] - ends[0])
    off = body.vertices[body.edges] - ends[0]
    away = np.linalg.norm(np.cross(off, along), axis=2).max(axis=1)
    size = float(np.ptp(body.vertices, axis=0).max())
    found = np.flatnonzero(away <= CLOSE * size)
    return int(found[body.true_mm[found].argmax()]) if len(found) else -1


def _chamfered(body: Body, edge: int, one: Edging) -> tuple[Body, Slice]:
    start, end = body.vertices[body.edges[edge]]
    first, second = body.edge_faces[edge].tolist()
    if max(first, second) >= body.faces or min(first, second) < 0:
        raise VolumeError(_("That edge lies on a round side: choose one between flat faces."))
    along = (end - start) / np.linalg.norm(end - start)
    ways = [inward_in(body, face, (start, end)) for face in (first, second)]
    if float(ways[0] @ body.normals[second]) >= -ROUNDING:
        raise VolumeError(_("An inner edge is not taken off: choose an outer one."))
    a, b = start + one.mm * ways[0], start + one.other_mm * ways[1]
    normal = np.cross(along, b - a)
    normal = normal / np.linalg.norm(normal)
    normal = normal if float(normal @ (start - a)) > 0 else -normal
    off = np.linalg.norm(np.cross(body.vertices - start, along), axis=1)
    near = off <= max(one.mm, one.other_mm) * (1 + NEAR)
    try:
        return sliced(body, normal, float(normal @ a), near)
    except VolumeError:
        hair = HAIR * float(np.linalg.norm(end - start))
        if one.mm <= hair or _takes(body, normal, float(normal @ start) - hair, off <= 2 * hair):
            raise
        raise VolumeError(
            _("That edge runs on into an arch or another part: no chamfer fits it.")
        ) from None


def _takes(body: Body, normal: Array, offset: float, near: NDArray[np.bool_]) -> bool:
    """Whether a plane cuts a body."""
    try:
        sliced(body, normal, offset, near)
    except VolumeError:
        return False
    return True


def sliced(body: Body, normal: Array, offset: float, near: NDArray[np.bool_]) -> tuple[Body, Slice]:
    """A body without the part beyond a plane, where only some of its corners (n,) may lie. Raises
    VolumeError where the plane meets what bends, or another part of the body."""
    size = float(np.ptp(body.enclosing, axis=0).max())
    slack = SLACK * size
    beyond = offset - body.vertices @ normal < -slack
    if (beyond & ~near).any() or not _bends_within(body, normal, offset, slack):
        raise VolumeError(_("That chamfer reaches a round side or another part: take off less."))
    making = Making.of(body)
    making.lines, making.line_faces = _clipped_lines(making, normal, offset, slack)
    new = len(making.forms)
    ends = _clip_rims(making, normal, offset, slack)
    loops = _joined([pair for pairs in ends.values() for pair in pairs], slack)
    making.plane(normal, offset * normal)
    basis = np.linalg.svd(normal[None])[2][1:]
    to_flat = np.concatenate([basis, np.zeros((2, 1))], axis=1)
    rings = [Flat(loop @ basis.T, np.zeros(len(loop))) for loop in loops]
    making.regions.append(Region(new, rings, to_flat))
    for face, pairs in ends.items():
        for one, other in pairs:
            making.line(one, other, (face, new))
        _keep_within(making, face, half_space(-normal, offset * normal))
    taken = _wedges_mm3(body.vertices[beyond], loops)
    return making.done(range(body.faces)), Slice(normal, offset, taken)


def _wedges_mm3(corners: Array, loops: Sequence[Array]) -> float:
    """What is taken off: between each loop of the cut and the corners (n, 3) beyond it that lie
    nearest to it."""
    middles = np.array([loop.mean(axis=0) for loop in loops])
    owner = np.linalg.norm(corners[:, None] - middles, axis=2).argmin(axis=1)
    return sum(
        _hull_mm3(np.concatenate([loop, corners[owner == n]]))
        for n, loop in enumerate(loops)
        if (owner == n).any()
    )


def _bends_within(body: Body, normal: Array, offset: float, slack: float) -> bool:
    """Whether all that bends lies on the near side of a plane."""
    arcs = body.arcs[~is_straight(body.arcs)].reshape(-1, 4)
    if ((offset * arcs[:, 3] - arcs[:, :3] @ normal) < -slack).any():
        return False
    hulls = hulls_of(body)
    for number in range(body.faces, len(hulls.first) - 1):
        places = hulls.points[hulls.first[number] : hulls.first[number + 1]]
        if (offset - places @ normal < -slack).any():
            return False
    return True


def _clipped_lines(
    making: Making, normal: Array, offset: float, slack: float
) -> tuple[list[tuple[Array, Array]], list[tuple[int, int]]]:
    lines, faces = [], []
    for (start, end), on in zip(making.lines, making.line_faces, strict=True):
        kept, _met = _near_part(start, end, (normal, offset, slack))
        if kept is not None:
            lines.append(kept)
            faces.append(on)
    return lines, faces


def _near_part(
    start: Array, end: Array, plane: tuple[Array, float, float]
) -> tuple[tuple[Array, Array] | None, Array | None]:
    """The part of a line on the near side of a plane (normal, offset, slack), and where it meets
    the plane on its way beyond."""
    normal, offset, slack = plane
    a, b = (offset - float(place @ normal) for place in (start, end))
    a, b = (0.0 if abs(deep) <= slack else deep for deep in (a, b))
    if a >= 0 and b >= 0:
        return (start, end), None
    if a <= 0 and b <= 0:
        return None, start if a == 0 else end if b == 0 else None
    cross = start + a / (a - b) * (end - start)
    return (cross, end) if a < 0 else (start, cross), cross


def _clip_rims(
    making: Making, normal: Array, offset: float, slack: float
) -> dict[int, list[tuple[Array, Array]]]:
    """The rims cut at a plane; gives where each face is cut, from place to place. Raises
    VolumeError where a face is cut in no whole pieces."""
    rims, owners = [], []
    met: dict[int, list[Array]] = {}
    for arc, owner in zip(making.rims, making.rim_surface, strict=True):
        ends = arc[[0, 2], :3] / arc[[0, 2], 3:]
        kept, at = _near_part(ends[0], ends[1], (normal, offset, slack))
        if at is not None:
            met.setdefault(owner, []).append(at)
        if kept is None:
            continue
        line = arc
        if at is not None:
            line = np.ones((3, 4))
            line[:, :3] = kept[0], (kept[0] + kept[1]) / 2, kept[1]
        rims.append(line)
        owners.append(owner)
    if any(len(places) % 2 for places in met.values()) or len(met) < 3:
        raise VolumeError(_("That chamfer runs out over a round side: take off less."))
    making.rims, making.rim_surface = rims, owners
    cuts = {}
    for face, places in met.items():
        normal_of = making.normals[face]
        along = np.cross(normal, normal_of if normal_of is not None else normal)
        ordered = sorted(places, key=lambda place: float(place @ along))
        cuts[face] = list(zip(ordered[::2], ordered[1::2], strict=True))
    return cuts


def _joined(sides: Sequence[tuple[Array, Array]], slack: float) -> list[Array]:
    """The loops (n, 3) of a cut, its sides strung together. Raises VolumeError when they do not
    close."""
    left, loops = list(sides), []
    first, at = left.pop(0)
    corners = [first]
    while True:
        if float(np.abs(at - first).max()) <= 100 * slack:
            loops.append(np.array(corners))
            if not left:
                return loops
            first, at = left.pop(0)
            corners = [first]
            continue
        corners.append(at)
        found = next(
            (
                (n, side)
                for n, pair in enumerate(left)
                for side in (0, 1)
                if float(np.abs(pair[side] - at).max()) <= 100 * slack
            ),
            None,
        )
        if found is None:
            raise VolumeError(_("That chamfer runs out over a round side: take off less."))
        at = left.pop(found[0])[1 - found[1]]


def _keep_within(making: Making, face: int, side: Array) -> None:
    """One more half space round a surface."""
    rows = making.within[face].copy()
    free = np.flatnonzero((rows == ALWAYS).all(axis=1))
    if not len(free):
        raise VolumeError(_("So many chamfers meet on one face: take fewer."))
    rows[free[0]] = side
    making.within[face] = rows


def _hull_mm3(points: Array) -> float:
    """Contents of the convex hull of points (n, 3), by the library."""
    from scipy.spatial import ConvexHull

    return float(ConvexHull(points, qhull_options="QJ Pp").volume)
