"""The scene of a curved sheet as a flat sheet with the same eye draws its corners and lines."""

from dataclasses import replace
from functools import lru_cache

import numpy as np

from isometron.drawing.scene import Scene
from isometron.perspective.eye import Eye
from isometron.perspective.projection import project


@lru_cache(maxsize=2)
def twin_of(scene: Scene, eye: Eye) -> Scene:
    """The scene with every corner and every straight piece where a flat eye draws them, NaN behind
    it; what is hidden is the same."""
    pictures = []
    for picture in scene.pictures:
        items, pieces = picture.standing.items, picture.pieces
        count = len(picture.lines)
        item, span = pieces.item[:count], pieces.span[:count]
        start, run = items.starts[item], items.ends[item] - items.starts[item]
        ends = (start[:, None] + span[:, :, None] * run[:, None]).reshape(-1, 3)
        seen = project(eye, picture.world)
        pictures.append(
            replace(
                picture,
                eye=eye,
                sheet=seen.sheet,
                depth=seen.depth,
                lines=np.asarray(project(eye, ends).sheet.reshape(-1, 4)),
                curves=None,
                curve_pieces=None,
                curve_spans=None,
            )
        )
    return replace(scene, eye=eye, pictures=tuple(pictures))
