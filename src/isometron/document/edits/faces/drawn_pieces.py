"""Pieces drawn on the sheet with a drag: an opening or a cut from corner to corner on a face, a
division across an edge. Their ends snap to halves, thirds and quarters."""

from dataclasses import replace

import numpy as np

from isometron.document.document import Document
from isometron.document.edits.faces.drawn_by_hand import face_under
from isometron.document.edits.faces.on_faces import Wanted, place_on_face, put_on
from isometron.document.edits.places.sliding import Slid, side_of
from isometron.document.edits.shapes.cutting import cut_by_fractions, piece_of
from isometron.document.edits.shapes.shaping import divide_edge
from isometron.framework.circles import FacePlane, flat_plane
from isometron.framework.volume import Volume
from isometron.nearness import ROUNDING
from isometron.perspective.errors import SetupError, VolumeError
from isometron.perspective.eye import Array
from isometron.perspective.lengths import write_length
from isometron.perspective.places import Place
from isometron.perspective.projection import project
from isometron.words import _

STOPS = {0.0: "0", 0.25: "1/4", 1 / 3: "1/3", 0.5: "1/2", 2 / 3: "2/3", 0.75: "3/4", 1.0: "1"}
"""Shares of a side worth stopping at."""

SNAP_MM = 2.0
"""What is drawn on the paper within so much of a stop is drawn to it."""

LEAST_MM = 1.0
"""A piece smaller than this, true mm, is not meant."""


def draw_opening(document: Document, start: Place, to: Place, *, snap: bool = True) -> Slid:
    """An opening through the face under a place of the sheet (mm), from there to another place.
    Raises VolumeError where no face lies, where the drag leaves it, and for one that cannot be."""
    chosen, face, low, high, words = _drawn(document, start, to, snap=snap)
    left, up, wide, tall = (f"{mm:.9f} mm" for mm in (*low, *(high - low)))
    wanted = Wanted("square", left=left, up=up, wide=wide, high=tall, deep="through")
    return Slid(put_on(chosen, lambda _volume: face, wanted), words)


def draw_cut(document: Document, start: Place, to: Place, *, snap: bool = True) -> Slid:
    """A piece cut out of the face under a place of the sheet (mm), from there to another place and
    half through. Raises VolumeError, as `draw_opening`, and for a face that slopes."""
    chosen, face, low, high, words = _drawn(document, start, to, snap=snap)
    volume = chosen.volumes[chosen.selected or 0]
    plane = flat_plane(volume.unopened, face)
    ends = np.array([plane.place(*low), plane.place(*high)])
    half = volume.sides[side_of(volume, face) // 2] / 2
    return Slid(cut_by_fractions(chosen, (piece_of(volume, face, ends, half),)), words)


def divide_across(document: Document, start: Place, to: Place, *, snap: bool = True) -> Slid:
    """A division of the edge that a drag on the sheet (mm) crosses, where it crosses it: of the
    volume in work before all, else of the nearest. Raises VolumeError when it crosses none."""
    found = [
        (index != document.selected, depth, index, edge, share, drawn)
        for index, volume in enumerate(document.volumes)
        if volume.shown and not volume.ghost
        for edge, share, depth, drawn in _crossed(document, volume, start, to)
    ]
    if not found:
        raise VolumeError(_("Drag across the edge that is to be divided."))
    _other, _depth, index, edge, share, drawn = min(found)
    near = min(STOPS, key=lambda stop: abs(stop - share))
    words = ""
    if snap and 0 < near < 1 and abs(near - share) * drawn < SNAP_MM:
        share, words = near, STOPS[near]
    chosen = replace(document, selected=index, also=frozenset(), circle=None)
    return Slid(divide_edge(chosen, edge, (share,)), words)


def _drawn(
    document: Document, start: Place, to: Place, *, snap: bool
) -> tuple[Document, int, Array, Array, str]:
    """The document with the volume in work that is drawn on, its face, the lower left and the upper
    right corner (2,) of what is drawn, mm on the face, and in words how large it is."""
    index, face = face_under(document, start)
    chosen = replace(document, selected=index, also=frozenset(), circle=None)
    volume = chosen.volumes[index]
    plane = flat_plane(volume.unopened, face)
    try:
        ends = np.array([place_on_face(chosen, face, place) for place in (start, to)])
    except SetupError as error:
        raise VolumeError(_("That leaves the face: draw on it.")) from error
    told: list[str] = []
    if snap:
        paper = float(np.hypot(to[0] - start[0], to[1] - start[1]))
        reach = SNAP_MM * float(np.hypot(*(ends[1] - ends[0]))) / max(paper, 1e-9)
        ends = np.array([_snapped(plane, end, reach, told) for end in ends])
    ends = np.clip(ends, 0.0, plane.extents)
    low, high = ends.min(axis=0), ends.max(axis=0)
    if (high - low).min() < LEAST_MM:
        raise VolumeError(_("Drag further: from one corner of the piece to the other."))
    unit = document.choices.unit
    size = " × ".join(write_length(float(mm), unit) for mm in high - low)
    return chosen, face, low, high, ", ".join([size, *dict.fromkeys(told)])


def _snapped(plane: FacePlane, end: Array, reach: float, told: list[str]) -> Array:
    """A place (2,) of a face, mm, at the stops it lies near; `told` takes which."""
    kept = end.copy()
    for axis, extent in enumerate(plane.extents):
        near = min(STOPS, key=lambda stop: abs(stop * extent - end[axis]))
        if abs(near * extent - end[axis]) < reach:
            kept[axis] = near * extent
            if 0 < near < 1:
                told.append(STOPS[near])
    return np.asarray(kept)


def _crossed(
    document: Document, volume: Volume, start: Place, to: Place
) -> list[tuple[int, float, float, float]]:
    """Number, true share, depth and drawn length (mm) of every edge of a volume that a drag
    crosses. The share follows from that of the picture and the depths of both ends."""
    body = volume.body
    place, axes = volume.pose
    seen = project(document.eye, body.vertices @ axes + place)
    run = np.subtract(to, start)
    found = []
    for edge, (first, last) in enumerate(body.edges.tolist()):
        if not (seen.seen[first] and seen.seen[last]):
            continue
        a, along = seen.sheet[first], seen.sheet[last] - seen.sheet[first]
        across = float(along[0] * run[1] - along[1] * run[0])
        if abs(across) < ROUNDING:
            continue
        off = np.asarray(start) - a
        t = float(off[0] * run[1] - off[1] * run[0]) / across
        s = float(off[0] * along[1] - off[1] * along[0]) / across
        if 0 < t < 1 and 0 < s < 1:
            near, far = float(seen.depth[first]), float(seen.depth[last])
            parallel = document.eye.parallel is not None
            share = t if parallel else t * near / (t * near + (1 - t) * far)
            found.append((edge, share, (1 - t) * near + t * far, float(np.hypot(*along))))
    return found
