"""How values and shadows are shown: as washes, as hatching, as numbers."""

from functools import lru_cache
from typing import Any, NamedTuple

import numpy as np

from isometron.document.document import Document
from isometron.document.light import FLAT, HATCH, NUMBERS
from isometron.drawing.dimension_marks import Label
from isometron.drawing.scene import Scene
from isometron.drawing.shading.areas import GROUND, Area, areas_of
from isometron.drawing.shading.light_points import point_of_direction
from isometron.drawing.shading.surroundings import BACKGROUND, MIRROR, WALL
from isometron.drawing.shading.values import value_of
from isometron.framework.figures import Figure
from isometron.perspective.eye import Array, Eye, sight_axes

BEFORE = 1e-3
"""Places that lie ahead by less, of the way to go, are not before us."""

DARKEST = 0.62
"""How much of the paper the darkest wash covers."""

CONTACT = 0.8
WIDEST_MM, NARROWEST_MM = 4.2, 0.8
"""How far hatch strokes lie apart in the lightest and in the darkest step."""

MOST_STROKES = 1500
LEAST_LABELLED_MM2 = 25.0
UPRIGHT = 0.5
"""A face whose normal rises by less is hatched upright."""

NAMES = {
    "face": "values",
    "shadow": "shadows on faces",
    "cast": "cast shadow",
    "contact": "contact shadow",
    MIRROR: MIRROR,
    **{what: what for what in BACKGROUND},
}
PALER = 0.75
"""How much of its tone a background keeps: it is looser than what stands before it."""
LOOSER = 1.7
"""So many times farther apart its hatch strokes lie."""


class Wash(NamedTuple):
    """An area in one tone: what its layer is called, how much of the paper it covers, where, and
    in which scene."""

    name: str
    cover: float
    area: Area
    scene: Scene


def washes_of(document: Document, scene: Scene) -> list[Wash]:
    """The washes of a sheet: shadows, and values when they are shown flat."""
    flat, steps = document.shading.way == FLAT, document.shading.steps
    if document.shading.way == HATCH:
        return []
    found = []
    for area in areas_of(document, scene):
        if area.kind not in ("shadow", "cast", "contact") and not flat:
            continue
        cover = CONTACT if area.kind == "contact" else DARKEST * value_of(area.step, steps)
        if area.kind in BACKGROUND:
            cover *= PALER
        if cover > 0:
            found.append(Wash(NAMES[area.kind], cover, area, scene))
    return found


def hatching_of(document: Document, scene: Scene) -> Array:
    """The hatch strokes (n, 4) of a sheet, sheet mm, when values are shown so."""
    if document.light is None or document.shading.way != HATCH:
        return np.empty((0, 4))
    return _hatching(scene, areas_of(document, scene), document.shading.steps)


@lru_cache(maxsize=2)
def _hatching(scene: Scene, areas: tuple[Area, ...], steps: int) -> Array:
    strokes = [
        _strokes(area, _direction(scene, area), scene.eye, steps) for area in areas if area.step > 0
    ]
    return np.concatenate(strokes) if strokes else np.empty((0, 4))


def _direction(scene: Scene, area: Area) -> Array:
    """The world direction in which an area is hatched: along the axle of a turned form or the way
    of an extruded one, upright on upright faces, else along the longest own axis in it."""
    if area.kind == WALL:
        return np.array([0.0, 0.0, 1.0])
    if area.kind in BACKGROUND:  # level strokes, as a hand lays in a floor or a sky
        return np.asarray(sight_axes(scene.eye)[0], dtype=float)
    if area.kind == MIRROR:
        return _on_volume(scene, area) * (1.0, 1.0, -1.0)
    if area.volume == GROUND:
        return np.array([1.0, 0.0, 0.0])
    return _on_volume(scene, area)


def _on_volume(scene: Scene, area: Area) -> Array:
    figure: Figure = scene.pictures[area.volume].figure
    body = figure.body
    if area.face >= body.faces and body.surfaces is not None:
        for turned in body.surfaces.turned:
            if turned.surface == area.face:
                return np.asarray(turned.axle @ figure.axes)
        for swept in body.surfaces.swept:
            if swept.surface == area.face:
                return np.asarray(swept.way @ figure.axes)
    normal = figure.normals[area.face] if area.face < len(figure.normals) else np.zeros(3)
    if abs(normal[2]) < UPRIGHT:
        return np.array([0.0, 0.0, 1.0])
    own = [axis - (axis @ normal) * normal for axis in figure.axes]
    return np.asarray(max(own, key=lambda axis: float(np.linalg.norm(axis))))


def _strokes(area: Area, direction: Array, eye: Eye, steps: int) -> Array:
    """The strokes (n, 4) of one area: lines to the vanishing point of a direction, evenly apart
    where they pass its middle, cut to the area."""
    import shapely

    value = value_of(area.step, steps)
    apart = WIDEST_MM + (NARROWEST_MM - WIDEST_MM) * value
    apart *= LOOSER if area.kind in BACKGROUND else 1.0
    point = point_of_direction(eye, direction)
    middle = np.array(area.shape.centroid.coords[0])
    places = shapely.get_coordinates(area.shape)
    if point.sheet_mm is None or np.hypot(*(middle - point.sheet_mm)) > 1e5:
        run = _drawn_way(eye, direction) if point.sheet_mm is None else middle - point.sheet_mm
        way = run / max(float(np.hypot(*run)), 1e-12)
        across = np.array([-way[1], way[0]])
        off, along = (places - middle) @ across, (places - middle) @ way
        reach = float(np.abs(along).max()) + 1.0
        starts = middle + _even(off, apart)[:, None] * across
        lines = np.stack([starts - reach * way, starts + reach * way], axis=1)
    else:
        at = np.array(point.sheet_mm)
        run = middle - at
        far = max(float(np.hypot(*run)), 1e-6)
        way = run / far
        across = np.array([-way[1], way[0]])
        own = places - at
        deep = own @ way
        before = deep > BEFORE * far
        if not before.any():
            return np.empty((0, 4))
        off = (own @ across)[before] / deep[before] * far
        reach = float(np.hypot(*own.T).max()) + 1.0
        ends = at + far * way + _even(off, apart)[:, None] * across
        ways = ends - at
        ways /= np.hypot(*ways.T)[:, None]
        lines = np.stack([np.broadcast_to(at, ends.shape), at + reach * ways], axis=1)
    cut = shapely.intersection(shapely.linestrings(lines), area.shape)
    parts = shapely.get_parts(cut[~shapely.is_empty(cut)])
    parts = parts[shapely.get_type_id(parts) == 1]
    if not len(parts):
        return np.empty((0, 4))
    places = shapely.get_coordinates(parts)
    ends_at = np.cumsum(shapely.get_num_coordinates(parts))
    firsts = np.concatenate([[0], ends_at[:-1]])
    return np.concatenate([places[firsts], places[ends_at - 1]], axis=1)


def _even(off: Array, apart: float) -> Array:
    """Offsets evenly apart over all that places (n,) reach."""
    low, high = float(off.min()), float(off.max())
    apart = max(apart, (high - low) / MOST_STROKES)
    return np.arange(np.ceil(low / apart), np.floor(high / apart) + 1) * apart


def _drawn_way(eye: Eye, direction: Array) -> Array:
    """Which way a direction in the picture plane is drawn."""
    right, up, _away = (np.asarray(axis, dtype=float) for axis in sight_axes(eye))
    return np.array([float(direction @ right), float(direction @ up)])


def numbers_of(document: Document, scene: Scene) -> list[Label]:
    """The steps written into the areas, 1 the lightest, when values are shown as numbers."""
    if document.light is None or document.shading.way != NUMBERS:
        return []
    labels = []
    for area in areas_of(document, scene):
        if area.kind != "contact" and area.mm2 >= LEAST_LABELLED_MM2:
            x, y = _inside(area.shape)
            labels.append(Label(str(area.step + 1), (x, y)))
    return labels


def _inside(shape: Any) -> tuple[float, float]:
    """A place well inside the largest polygon of a shape."""
    import shapely

    largest = max(shapely.get_parts(shape), key=lambda one: one.area)
    point = shapely.maximum_inscribed_circle(largest, tolerance=0.5).coords[0]
    return float(point[0]), float(point[1])
