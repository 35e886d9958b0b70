"""What lies under a place of the sheet: the edge or curve, else the face of a volume."""

import numpy as np
from numpy.typing import NDArray

from isometron.document.document import Document
from isometron.drawing.measures import depth_in_face, drawn_inside, drawn_loops
from isometron.drawing.picks.curve import curve_pick
from isometron.drawing.picks.edge import EdgePick
from isometron.drawing.picks.face import FacePick
from isometron.drawing.picks.pick import Pick
from isometron.drawing.scene import Scene
from isometron.drawing.volume_picture import VolumePicture
from isometron.perspective.conics import bounds_of, chords
from isometron.perspective.eye import Array

CURVE_GAP = 0.06
"""Curves are touched in chords that miss them by less than this share of the reach."""

HIDDEN_OFF, CHOSEN_OFF = 0.4, 0.1
"""Shares of the reach by which hidden edges seem further off, and those in work nearer."""

Point = tuple[float, float]


def pick_at(document: Document, scene: Scene, place: Point, reach_mm: float) -> Pick | None:
    """The edge or curve within `reach_mm` of a place of the sheet (mm), the nearest of all, else
    the face nearest to us; None where there is nothing."""
    near = _near(scene, place, reach_mm)
    found = [_edge_at(document, scene, i, place, reach_mm) for i in near]
    found += [_curve_at(document, scene, i, place, reach_mm) for i in near]
    best = min((one for one in found if one is not None), key=lambda one: one[0], default=None)
    return _face_at(document, scene, near, place) if best is None else best[1]


def _near(scene: Scene, place: Point, reach_mm: float) -> list[int]:
    """The volumes whose bounds hold a place, or nearly."""
    if not scene.pictures:
        return []
    bounds = scene.bounds
    at = np.array(place)
    inside = (bounds[:, :2] <= at + reach_mm).all(axis=1) & (bounds[:, 2:] >= at - reach_mm).all(
        axis=1
    )
    return np.flatnonzero(inside).tolist()


def off_lines(lines: Array, place: Point) -> NDArray[np.float64]:
    """How far (k,) each line (k, 4) lies from a place; NaN for a line that is not drawn."""
    start, run = lines[:, :2], lines[:, 2:] - lines[:, :2]
    away = np.array(place) - start
    square = np.maximum((run * run).sum(axis=1), 1e-12)
    share = np.clip((away * run).sum(axis=1) / square, 0.0, 1.0)
    return np.asarray(np.hypot(*(away - share[:, None] * run).T))


Found = tuple[float, Pick]


def _edge_at(
    document: Document, scene: Scene, index: int, place: Point, reach_mm: float
) -> Found | None:
    picture = scene.pictures[index]
    if not len(picture.edges):
        return None
    lines = picture.sheet[picture.edges].reshape(-1, 4)
    hidden = np.array([not spans for spans in picture.visible], dtype=bool)
    chosen = index == document.selected
    off = np.where(hidden, HIDDEN_OFF, 0.0) * reach_mm
    off = off + off_lines(lines, place) - (CHOSEN_OFF * reach_mm if chosen else 0.0)
    off[~(off < reach_mm)] = np.inf
    if not (document.choices.see_through and chosen):
        off[hidden] = np.inf
    edge = int(off.argmin())
    return (float(off[edge]), EdgePick(index, edge)) if np.isfinite(off[edge]) else None


def _curve_at(
    document: Document, scene: Scene, index: int, place: Point, reach_mm: float
) -> Found | None:
    picture = scene.pictures[index]
    some = np.flatnonzero(picture.arc_seen & picture.arc_drawn)
    if not len(some):
        return None
    bounds, at = bounds_of(picture.arcs[some]), np.array(place)
    near = (bounds[:, :2] <= at + reach_mm).all(axis=1) & (bounds[:, 2:] >= at - reach_mm).all(
        axis=1
    )
    best: tuple[float, int] | None = None
    for number in some[near].tolist():
        run = chords(picture.arcs[number][None], CURVE_GAP * reach_mm)[0]
        off = float(off_lines(np.concatenate([run[:-1], run[1:]], axis=1), place).min())
        if off < (reach_mm if best is None else best[0]):
            best = (off, int(picture.arc_numbers[number]))
    if best is None:
        return None
    nearer = CHOSEN_OFF * reach_mm if index == document.selected else 0.0
    return best[0] - nearer, curve_pick(picture, index, best[1])


def _face_at(document: Document, scene: Scene, near: list[int], place: Point) -> Pick | None:
    found: Found | None = None
    for index in near:
        for face, depth in _faces_under(document, scene.pictures[index], place):
            if found is None or depth < found[0]:
                found = (depth, FacePick(index, face))
    return None if found is None else found[1]


def _faces_under(
    document: Document, picture: VolumePicture, place: Point
) -> list[tuple[int, float]]:
    """Number and depth of each shown face of a volume under a place."""
    under = []
    for face in np.flatnonzero(picture.shown).tolist():
        loops = drawn_loops(picture, face)
        if loops and drawn_inside(loops, place):
            under.append((face, depth_in_face(document.eye, picture, face, place)))
    return under
