"""The mirror image of all object lines in a level floor or still water."""

from functools import lru_cache
from typing import Any

import numpy as np
from numpy.typing import NDArray

from isometron.document.document import Document
from isometron.drawing.finish.parting import parted
from isometron.drawing.finish.weights import LEAST_MM, curved_pieces, object_pieces
from isometron.drawing.scene import Scene, scene_of
from isometron.drawing.shading.areas import (
    all_round,
    bent_onto,
    eye_chart,
    skin_of_scene,
)
from isometron.drawing.shading.surroundings import floor_on_sheet, mirrored_eye
from isometron.hiding.areas import seen_areas
from isometron.nearness import NEAR
from isometron.perspective.conics import at, between, lens
from isometron.perspective.eye import Array

BELOW_MM = -1e-6
"""What lies lower is under the mirror."""


def mirror_lines(document: Document, scene: Scene) -> tuple[Array, Array]:
    """Lines (n, 4) and arcs (m, 3, 3) of the mirror image, where the floor shows it."""
    if not document.finish.mirror or scene.eye.height_mm <= 0 or scene.eye.parallel is not None:
        return np.empty((0, 4)), np.empty((0, 3, 3))
    return _lines(document.with_eye(mirrored_eye(scene.eye)), scene, document.sheet.paper)


def _floor(scene: Scene, paper: Any) -> Any:
    """Where the floor is seen, as polygons of the sheet."""
    import shapely

    skin, found = skin_of_scene(scene), []
    curved = scene.eye.curved
    for chart in all_round(scene.eye) if curved else [eye_chart(scene.eye)]:
        edge = chart.edge
        part = shapely.box(-edge, -edge, edge, edge) if curved else paper
        before = shapely.union_all(seen_areas(chart, skin).seen)
        own = shapely.difference(floor_on_sheet(scene, chart, part), before)
        found.append(bent_onto(scene.eye, chart, own) if curved else own)
    return shapely.intersection(shapely.union_all(found, grid_size=NEAR), paper)


@lru_cache(maxsize=2)
def _lines(
    document: Document, scene: Scene, paper: tuple[float, float, float, float]
) -> tuple[Array, Array]:
    import shapely

    image = scene_of(document)
    if image.eye.curved:
        pieces, seen_there = curved_pieces(image)
    else:
        pieces = object_pieces(image.pictures)
        seen_there = pieces.arcs[..., :3] @ lens(image.eye).T
    if not len(pieces.arcs):
        return np.empty((0, 4)), np.empty((0, 3, 3))
    held = _floor(scene, shapely.box(*paper))
    shapely.prepare(held)
    level = 2 * scene.eye.centre_of_vision_mm[1]
    over = np.array([[1.0, 0.0, 0.0], [0.0, -1.0, level], [0.0, 0.0, 1.0]])
    drawn = seen_there @ over.T

    def asked(places: Array, row: NDArray[np.intp], t: Array) -> NDArray[np.intp]:
        found = at(pieces.arcs[row], t)
        high = found[:, 2] / found[:, 3] + image.eye.height_mm
        shown = shapely.contains_xy(held, places) & (high > BELOW_MM)
        return np.asarray(shown, dtype=np.intp)

    numbers, spans, answers = parted(drawn, asked, LEAST_MM)
    some = answers == 1
    parts = between(drawn[numbers[some]], spans[some, 0], spans[some, 1])
    straight = pieces.straight[numbers[some]]
    ends = parts[straight][:, [0, 2]]
    return (ends[..., :2] / ends[..., 2:]).reshape(-1, 4), parts[~straight]
