"""The mirror image of all object lines in a level floor or still water."""

from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from isometron.document.document import Document
from isometron.drawing.finish.parting import parted
from isometron.drawing.finish.weights import LEAST_MM, object_pieces
from isometron.drawing.scene import Scene, scene_of
from isometron.drawing.shading.areas import eye_chart, skin_of_scene
from isometron.drawing.shading.surroundings import floor_on_sheet, mirrored_eye
from isometron.hiding.areas import seen_areas
from isometron.perspective.conics import at, between, lens
from isometron.perspective.eye import Array

BELOW_MM = -1e-6
"""What lies lower is under the mirror."""


def mirror_lines(document: Document, scene: Scene) -> tuple[Array, Array]:
    """Lines (n, 4) and arcs (m, 3, 3) of the mirror image, where the floor shows it."""
    if not document.finish.mirror or scene.eye.height_mm <= 0 or scene.eye.curved:
        return np.empty((0, 4)), np.empty((0, 3, 3))
    return _lines(document.with_eye(mirrored_eye(scene.eye)), scene, document.sheet.paper)


@lru_cache(maxsize=2)
def _lines(
    document: Document, scene: Scene, paper: tuple[float, float, float, float]
) -> tuple[Array, Array]:
    import shapely

    image = scene_of(document)
    pieces = object_pieces(image.pictures)
    if not len(pieces.arcs):
        return np.empty((0, 4)), np.empty((0, 3, 3))
    chart = eye_chart(scene.eye)
    seen = seen_areas(chart, skin_of_scene(scene)).seen
    held = shapely.difference(
        floor_on_sheet(scene, chart, shapely.box(*paper)), shapely.union_all(seen)
    )
    shapely.prepare(held)
    level = 2 * scene.eye.centre_of_vision_mm[1]
    over = np.array([[1.0, 0.0, 0.0], [0.0, -1.0, level], [0.0, 0.0, 1.0]])
    drawn = pieces.arcs[..., :3] @ lens(image.eye).T @ over.T

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
