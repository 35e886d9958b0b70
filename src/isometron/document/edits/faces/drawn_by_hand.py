"""Outlines drawn on a face by hand: the run of the pointer made a free curve through few points."""

import math
from dataclasses import replace

import numpy as np

from isometron.document.document import Document
from isometron.document.edits.choosing import in_work
from isometron.document.edits.faces.on_faces import place_on_face
from isometron.framework.bodies.face_outlines import outline_of
from isometron.framework.circles import flat_plane
from isometron.framework.face_rings import FaceRing
from isometron.framework.outlines import Knot, Ring
from isometron.framework.volume import Volume
from isometron.nearness import SAME
from isometron.perspective.errors import SetupError, VolumeError
from isometron.perspective.eye import Array
from isometron.perspective.places import Place
from isometron.perspective.projection import sight_ray
from isometron.words import _

STRAY_MM = 0.4
"""A drawn outline strays from its points by no more than this on the sheet: the width of a line."""

CORNER_DEG = 50.0
"""Where an outline turns by more than this between its points it has a corner."""

LEAST_MM = 2.0
"""Points nearer on the sheet than this are one."""


def face_under(document: Document, to: Place) -> tuple[int, int]:
    """The volume and the flat face turned to us that lie nearest under a place of the sheet: of the
    volume in work before all. Raises VolumeError when there is none."""
    order = sorted(
        (i for i, volume in enumerate(document.volumes) if volume.shown and not volume.ghost),
        key=lambda i: i != document.selected,
    )
    best: tuple[float, int, int] | None = None
    for index in order:
        hit = _nearest_face(document.volumes[index], document, to)
        if hit is None:
            continue
        if index == document.selected:
            return index, hit[1]
        if best is None or hit[0] < best[0]:
            best = (hit[0], index, hit[1])
    if best is None:
        raise VolumeError(_("No flat face lies there: begin on the face that is drawn on."))
    return best[1], best[2]


def _nearest_face(volume: Volume, document: Document, to: Place) -> tuple[float, int] | None:
    place, axes = volume.pose
    ray, eye = axes @ sight_ray(document.eye, to), axes @ (np.array(document.eye.place) - place)
    body = volume.unopened
    run = body.normals @ ray if body.faces else np.empty(0)
    found = []
    for face in np.flatnonzero(run < -SAME).tolist():
        deep = float((body.offsets[face] - body.normals[face] @ eye) / run[face])
        outline = outline_of(body, face)
        at = (eye + deep * ray - outline.place) @ outline.across.T
        if deep > 0 and outline.inside(at[None])[0]:
            found.append((deep, face))
    return min(found) if found else None


def draw_outline(document: Document, path: tuple[Place, ...], *, twin: bool = False) -> Document:
    """A closed outline on the face under the first place of a path (sheet mm), a free curve through
    few of its places with corners where the hand turned; with its twin across the centre plane that
    runs along the longer side. Raises VolumeError for a path too short,
    and where no face lies."""
    index, face = face_under(document, path[0])
    chosen = replace(document, selected=index, also=frozenset(), circle=None)
    _index, volume = in_work(chosen)
    kept = thinned(np.array(path), STRAY_MM)
    if len(kept) < 3:
        raise VolumeError(_("Draw right round on the face: an outline has three points or more."))
    plane = flat_plane(volume.unopened, face)
    shares = []
    for x, y in kept.tolist():
        try:
            shares.append(place_on_face(chosen, face, (x, y)) / np.array(plane.extents))
        except SetupError as error:
            raise VolumeError(_("That leaves the face: draw right round on it.")) from error
    across = 0 if volume.width_mm <= volume.depth_mm else 1
    one = FaceRing(face, _ring(shares, corners_of(kept)), twin=across if twin else None)
    return chosen.with_volume(index, replace(volume, face_rings=(*volume.face_rings, one)))


def _ring(shares: list[Array], corners: list[bool]) -> Ring:
    return tuple(
        Knot(float(x), float(y), smooth=not corner)
        for (x, y), corner in zip(shares, corners, strict=True)
    )


def thinned(path: Array, stray: float) -> Array:
    """Few places (n, 2) of a closed path (m, 2) from which it strays by no more than a length
    (Ramer 1972; Douglas and Peucker 1973)."""
    apart = [0]
    for i in range(1, len(path)):
        if np.hypot(*(path[i] - path[apart[-1]])) >= LEAST_MM / 2:
            apart.append(i)
    points = path[apart]
    while len(points) > 2 and np.hypot(*(points[-1] - points[0])) < LEAST_MM:
        points = points[:-1]
    if len(points) < 3:
        return np.asarray(points)
    far = int(np.hypot(*(points - points[0]).T).argmax())
    closed = np.concatenate([points, points[:1]])
    return np.concatenate([_kept(closed[: far + 1], stray)[:-1], _kept(closed[far:], stray)[:-1]])


def _kept(run: Array, stray: float) -> Array:
    start, end = run[0], run[-1]
    along = end - start
    long = float(np.hypot(*along))
    off = run - start
    if long > 0:
        away = np.abs(along[0] * off[:, 1] - along[1] * off[:, 0]) / long
    else:
        away = np.hypot(*off.T)
    at = int(away.argmax())
    if away[at] <= stray or not 0 < at < len(run) - 1:
        return np.asarray(run[[0, -1]])
    return np.concatenate([_kept(run[: at + 1], stray)[:-1], _kept(run[at:], stray)])


def corners_of(points: Array) -> list[bool]:
    """At which of the places (n, 2) of a closed outline it has a corner."""
    into, out = points - np.roll(points, 1, axis=0), np.roll(points, -1, axis=0) - points
    turn = np.arctan2(into[:, 0] * out[:, 1] - into[:, 1] * out[:, 0], (into * out).sum(axis=1))
    return [abs(math.degrees(float(t))) > CORNER_DEG for t in turn]
