"""What lies under a place of the sheet: the edge or curve, else the face or round side."""

import numpy as np
from numpy.typing import NDArray

from isometron.document.document import Document
from isometron.drawing.measures import depth_in_face, drawn_inside, drawn_loops
from isometron.drawing.picks.corner import CornerPick
from isometron.drawing.picks.curve import curve_pick
from isometron.drawing.picks.edge import EdgePick
from isometron.drawing.picks.face import FacePick
from isometron.drawing.picks.pick import Pick
from isometron.drawing.picks.surface import SurfacePick
from isometron.drawing.scene import Scene
from isometron.drawing.volume_picture import VolumePicture
from isometron.hiding.sightline import first_met
from isometron.perspective.conics import bounds_of, chords
from isometron.perspective.eye import Array
from isometron.perspective.places import Place
from isometron.perspective.projection import sight_ray

CURVE_GAP = 0.06
"""Curves are touched in chords that miss them by less than this share of the reach."""

HIDDEN_OFF, CHOSEN_OFF = 0.4, 0.1
"""Shares of the reach by which hidden edges seem further off, and those in work nearer."""


def pick_at(document: Document, scene: Scene, place: Place, reach_mm: float) -> Pick | None:
    """The edge or curve within `reach_mm` of a place of the sheet (mm), the nearest of all, else
    the face nearest to us; None where there is nothing."""
    near = _near(scene, place, reach_mm)
    found = [_edge_at(document, scene, i, place, reach_mm) for i in near]
    found += [_curve_at(document, scene, i, place, reach_mm) for i in near]
    best = min((one for one in found if one is not None), key=lambda one: one[0], default=None)
    return _face_at(document, scene, near, place) if best is None else best[1]


def picks_at(document: Document, scene: Scene, place: Place, reach_mm: float) -> list[Pick]:
    """Everything that may be meant at a place of the sheet (mm): edges and curves within
    `reach_mm`, the nearest first, the corner there, then faces, the nearest to us first."""
    near = _near(scene, place, reach_mm)
    lines = [_edge_at(document, scene, i, place, reach_mm) for i in near]
    lines += [_curve_at(document, scene, i, place, reach_mm) for i in near]
    found = [pick for _off, pick in sorted((o for o in lines if o), key=lambda one: one[0])]
    corner = corner_at(document, scene, place, reach_mm)
    under = [one for i in near for one in _surfaces_under(document, scene.pictures[i], i, place)]
    faces = [pick for pick, _depth in sorted(under, key=lambda one: one[1])]
    return [*found, *([corner] if corner is not None else []), *faces]


def corner_at(document: Document, scene: Scene, place: Place, reach_mm: float) -> Pick | None:
    """The corner within `reach_mm` of a place of the sheet (mm), the nearest of all that are seen
    (of the volume in work of all, when it is see-through); None where there is none."""
    best: tuple[float, Pick] | None = None
    for index in _near(scene, place, reach_mm):
        picture = scene.pictures[index]
        if not picture.volume.shown:
            continue
        whole = index == document.selected and document.choices.see_through
        some = np.arange(len(picture.sheet)) if whole else picture.seen_corners
        off = np.hypot(*(picture.sheet[some] - np.array(place)).T)
        off = np.where(np.isfinite(off), off, np.inf)
        if len(off) and off.min() < (reach_mm if best is None else best[0]):
            best = (float(off.min()), CornerPick(index, int(some[off.argmin()])))
    return None if best is None else best[1]


def _near(scene: Scene, place: Place, reach_mm: float) -> list[int]:
    """The volumes whose bounds hold a place, or nearly."""
    if not scene.pictures:
        return []
    bounds = scene.bounds
    at = np.array(place)
    inside = (bounds[:, :2] <= at + reach_mm).all(axis=1) & (bounds[:, 2:] >= at - reach_mm).all(
        axis=1
    )
    return np.flatnonzero(inside).tolist()


def off_lines(lines: Array, place: Place) -> NDArray[np.float64]:
    """How far (k,) each line (k, 4) lies from a place; NaN for a line that is not drawn."""
    start, run = lines[:, :2], lines[:, 2:] - lines[:, :2]
    away = np.array(place) - start
    square = np.maximum((run * run).sum(axis=1), 1e-12)
    share = np.clip((away * run).sum(axis=1) / square, 0.0, 1.0)
    return np.asarray(np.hypot(*(away - share[:, None] * run).T))


Found = tuple[float, Pick]


def _edge_at(
    document: Document, scene: Scene, index: int, place: Place, reach_mm: float
) -> Found | None:
    picture = scene.pictures[index]
    if not len(picture.edges):
        return None
    chosen = index == document.selected
    count = len(picture.lines)
    seen, item = picture.pieces.seen[:count], picture.pieces.item[:count]
    may = picture.pieces.drawn[:count] & (item < len(picture.edges))
    if not (document.choices.see_through and chosen):
        may &= seen
    some = np.flatnonzero(may)
    if not len(some):
        return None
    off = off_lines(picture.lines[some], place)
    off = off + np.where(seen[some], 0.0, HIDDEN_OFF) * reach_mm
    off[~(off < reach_mm)] = np.inf
    nearest = int(off.argmin())
    if not np.isfinite(off[nearest]):
        return None
    edge = EdgePick(index, int(item[some[nearest]]))
    return float(off[nearest]) - (CHOSEN_OFF * reach_mm if chosen else 0.0), edge


def _curve_at(
    document: Document, scene: Scene, index: int, place: Place, reach_mm: float
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


def _face_at(document: Document, scene: Scene, near: list[int], place: Place) -> Pick | None:
    found: Found | None = None
    for index in near:
        for pick, depth in _surfaces_under(document, scene.pictures[index], index, place):
            if found is None or depth < found[0]:
                found = (depth, pick)
    return None if found is None else found[1]


def _surfaces_under(
    document: Document, picture: VolumePicture, index: int, place: Place
) -> list[tuple[Pick, float]]:
    """Faces and round sides of a volume under a place, each with its depth; of one that bends the
    nearest alone."""
    if not picture.volume.shown:
        return []
    if not picture.body.bent:
        faces = _faces_under(document, picture, place)
        return [(FacePick(index, face), depth) for face, depth in faces]
    eye = document.eye
    met = first_met(picture.figure, np.array(eye.place), sight_ray(eye, place))
    if met is None:
        return []
    surface, depth = met
    flat = surface < picture.body.faces
    return [(FacePick(index, surface) if flat else SurfacePick(index, surface), depth)]


def _faces_under(
    document: Document, picture: VolumePicture, place: Place
) -> list[tuple[int, float]]:
    """Number and depth of each shown face of a volume under a place."""
    under = []
    for face in np.flatnonzero(picture.shown).tolist():
        loops = drawn_loops(picture, face)
        if loops and drawn_inside(loops, place):
            under.append((face, depth_in_face(document.eye, picture, face, place)))
    return under
