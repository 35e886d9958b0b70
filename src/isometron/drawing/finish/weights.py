"""Line weights: the outline against what lies behind heaviest, edges between two faces lighter,
lines on faces finest; nearer heavier by choice."""

from functools import lru_cache
from typing import Any, NamedTuple

import numpy as np
from numpy.typing import NDArray

from isometron.document.finish import Finish
from isometron.drawing.finish.parting import parted
from isometron.drawing.pencils import GRAPHITE, Pencil
from isometron.drawing.scene import Scene
from isometron.drawing.shading.areas import (
    all_round,
    bent_onto,
    eye_chart,
    skin_of_scene,
)
from isometron.drawing.volume_picture import VolumePicture
from isometron.framework.bodies.body import DIVISION, OUTLINE, SECTION, SKIN
from isometron.hiding.areas import seen_areas
from isometron.nearness import NEAR
from isometron.perspective.conics import at, between, item_lens
from isometron.perspective.eye import Array, sight_axes

ON_OUTLINE_MM, BENT_MM = 0.02, 0.2
"""A line this near the silhouette is part of it; where things bend it is known in chords."""

LEAST_MM = 1.0
"""A part shorter than this keeps the weight of its neighbour."""

BANDS = 3
NEARER = (1.35, 1.0, 0.7)
"""Nearest, middle and farthest third of the depth: so many times the weight."""

BAND_WORDS = (", near", "", ", far")
EDGES, OUTLINES, FINE = range(3)
NAMES = ("object lines", "outline", "lines on faces")


class Weighted(NamedTuple):
    """Lines (n, 4) and arcs (m, 3, 3) of the sheet in one weight, and the name of their layer."""

    name: str
    pencil: Pencil
    lines: Array
    arcs: Array


def weight_of(finish: Finish, kind: int, band: int = 1) -> float:
    """A line weight, mm."""
    mm = (finish.edge_mm, finish.outline_mm, finish.fine_mm)[kind]
    return mm * NEARER[band] if finish.nearer else mm


@lru_cache(maxsize=2)
def silhouette_of(scene: Scene) -> Any:
    """The outline of all that is seen, as lines of the sheet in chords."""
    import shapely

    skin = skin_of_scene(scene)
    if not len(skin.figure):
        return shapely.MultiLineString()
    if scene.eye.curved:
        charts = all_round(scene.eye)
        shapes = [shapely.union_all(seen_areas(chart, skin).seen) for chart in charts]
        seen = [bent_onto(scene.eye, *pair) for pair in zip(charts, shapes, strict=True)]
    else:
        seen = seen_areas(eye_chart(scene.eye), skin).seen
    whole = shapely.union_all(seen, grid_size=NEAR)
    # Facets of one surface may leave gaps of no width between them.
    return shapely.buffer(shapely.buffer(whole, 0.02, join_style="mitre"), -0.02).boundary


class ObjectPieces(NamedTuple):
    """Seen pieces of object lines: arcs (n, 3, 4) taken from the eye, whether straight (n,),
    whether they only lie on a face (n,), and whether they bend or bound what bends (n,)."""

    arcs: Array
    straight: NDArray[np.bool_]
    fine: NDArray[np.bool_]
    bent: NDArray[np.bool_]


def _kept(picture: VolumePicture) -> NDArray[np.bool_]:
    """(k,) which pieces of a volume are object lines that are seen."""
    pieces = picture.pieces
    kinds = picture.standing.items.kinds[pieces.item]
    return np.asarray(pieces.seen & pieces.drawn & (kinds != DIVISION) & (kinds != SECTION))


def object_pieces(pictures: tuple[VolumePicture, ...]) -> ObjectPieces:
    """The seen pieces of object lines of some volumes."""
    arcs: list[Array] = [np.empty((0, 3, 4))]
    level, fine, bent = ([np.empty(0, dtype=bool)] for _n in range(3))
    for picture in pictures:
        if picture.volume.ghost:
            continue
        items, pieces, kept = picture.standing.items, picture.pieces, _kept(picture)
        kinds = items.kinds[pieces.item]
        span, item = pieces.span[kept], pieces.item[kept]
        arcs.append(between(items.arcs[item], span[:, 0], span[:, 1]))
        level.append((np.arange(len(kept)) < len(picture.lines))[kept])
        fine.append(kinds[kept] == SKIN)
        bent.append((kinds[kept] == OUTLINE) | ~level[-1])
    return ObjectPieces(*(np.concatenate(own) for own in (arcs, level, fine, bent)))


def curved_pieces(scene: Scene) -> tuple[ObjectPieces, Array]:
    """The seen pieces of object lines on a curved sheet, one for every curve that draws them, and
    those curves."""
    curves: list[Array] = [np.empty((0, 3, 3))]
    arcs: list[Array] = [np.empty((0, 3, 4))]
    fine = [np.empty(0, dtype=bool)]
    for picture in scene.pictures:
        if picture.volume.ghost or picture.curves is None:
            continue
        assert picture.curve_pieces is not None and picture.curve_spans is not None
        mine = _kept(picture)[picture.curve_pieces]
        items, span = picture.standing.items, picture.curve_spans[mine]
        item = picture.pieces.item[picture.curve_pieces[mine]]
        curves.append(picture.curves[mine])
        arcs.append(between(items.arcs[item], span[:, 0], span[:, 1]))
        fine.append(items.kinds[item] == SKIN)
    told = np.concatenate(fine)
    own = ObjectPieces(np.concatenate(arcs), told & False, told, told | True)
    return own, np.concatenate(curves)


@lru_cache(maxsize=2)
def weighted_lines(scene: Scene, finish: Finish) -> tuple[Weighted, ...]:
    """The object lines of a scene in their weights, finest first."""
    import shapely

    if scene.eye.curved:
        pieces, drawn = curved_pieces(scene)
    else:
        pieces = object_pieces(scene.pictures)
        drawn = pieces.arcs @ item_lens(scene.eye).T
    if not len(pieces.arcs):
        return ()
    silhouette = silhouette_of(scene)
    shapely.prepare(silhouette)
    ahead = np.append(sight_axes(scene.eye)[2].astype(float), 0.0)
    ends = pieces.arcs[:, [0, 2]]
    deep = (ends @ ahead) / ends[..., 3]
    near, far = float(deep.min()), float(deep.max())

    def asked(places: Array, row: NDArray[np.intp], t: Array) -> NDArray[np.intp]:
        reach = np.where(pieces.bent[row], BENT_MM, ON_OUTLINE_MM)
        on = shapely.dwithin(silhouette, shapely.points(places), reach)
        kind = np.where(pieces.fine[row], FINE, np.where(on, OUTLINES, EDGES))
        if not finish.nearer:
            return np.asarray(kind * BANDS + 1)
        found = at(pieces.arcs[row], t)
        share = ((found @ ahead) / found[:, 3] - near) / max(far - near, 1e-9)
        return np.asarray(kind * BANDS + np.clip((share * BANDS).astype(int), 0, BANDS - 1))

    numbers, spans, answers = parted(drawn, asked, LEAST_MM)
    parts = between(drawn[numbers], spans[:, 0], spans[:, 1])
    level = pieces.straight[numbers]
    found = []
    for kind in (FINE, EDGES, OUTLINES):
        for band in reversed(range(BANDS)):
            some = answers == kind * BANDS + band
            if some.any():
                pencil = Pencil(GRAPHITE, weight_of(finish, kind, band))
                ends = parts[some & level][:, [0, 2]]
                lines = (ends[..., :2] / ends[..., 2:]).reshape(-1, 4)
                name = NAMES[kind] + (BAND_WORDS[band] if finish.nearer else "")
                found.append(Weighted(name, pencil, lines, parts[some & ~level]))
    return tuple(found)
