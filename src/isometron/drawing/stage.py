"""All boxes of a sheet set before the eye, as arrays, before anything is hidden."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from isometron.drawing.occlusion import facing
from isometron.framework.box import Box
from isometron.perspective.eye import Array, Eye
from isometron.perspective.projection import NEAR_MM, project

EVERYWHERE = np.array([-np.inf, -np.inf, np.inf, np.inf])


@dataclass(frozen=True, eq=False)
class Stage:
    """n boxes: sides and places (n, 3) mm, axes (n, 3, 3), corners in the world (n, 8, 3) mm and on
    the sheet (n, 8, 2) mm (NaN behind the eye), depth (n, 8) mm, shown (n, 6) faces turned to us,
    bounds (n, 4) on the sheet left, bottom, right, top (unbounded when it reaches behind us)."""

    eye: Eye
    sides: Array
    places: Array
    axes: Array
    world: Array
    sheet: Array
    depth: Array
    shown: NDArray[np.bool_]
    bounds: Array


def stage_of(eye: Eye, boxes: Sequence[Box]) -> Stage:
    """All boxes set before an eye."""
    n = len(boxes)
    sides = np.array([box.sides for box in boxes]).reshape(n, 3)
    places = np.array([box.place for box in boxes]).reshape(n, 3)
    axes = np.array([box.axes().astype(float) for box in boxes]).reshape(n, 3, 3)
    world = np.array([box.corners() for box in boxes]).reshape(n, 8, 3)
    return _seen_from(eye, sides, places, axes, world)


def restaged(stage: Stage, eye: Eye, boxes: Sequence[Box], changed: NDArray[np.intp]) -> Stage:
    """The stage with the boxes numbered in `changed` set anew, seen from an eye."""
    sides, places, axes, world = (
        part.copy() for part in (stage.sides, stage.places, stage.axes, stage.world)
    )
    some = stage_of(eye, [boxes[i] for i in changed])
    for whole, part in (
        (sides, some.sides),
        (places, some.places),
        (axes, some.axes),
        (world, some.world),
    ):
        whole[changed] = part
    if eye != stage.eye:
        return _seen_from(eye, sides, places, axes, world)
    sheet, depth = stage.sheet.copy(), stage.depth.copy()
    shown, bounds = stage.shown.copy(), stage.bounds.copy()
    sheet[changed], depth[changed] = some.sheet, some.depth
    shown[changed], bounds[changed] = some.shown, some.bounds
    return Stage(eye, sides, places, axes, world, sheet, depth, shown, bounds)


def _seen_from(eye: Eye, sides: Array, places: Array, axes: Array, world: Array) -> Stage:
    picture = project(eye, world.reshape(-1, 3))
    sheet, depth = picture.sheet.reshape(-1, 8, 2), picture.depth.reshape(-1, 8)
    bounds = np.concatenate([sheet.min(axis=1), sheet.max(axis=1)], axis=1)
    bounds[(depth <= NEAR_MM).any(axis=1)] = EVERYWHERE
    shown = facing(eye, sides, places, axes)
    return Stage(eye, sides, places, axes, world, sheet, depth, shown, bounds)


def overlapping(first: Array, second: Array) -> NDArray[np.bool_]:
    """(n, m) whether rectangles (n, 4) and (m, 4) left, bottom, right, top overlap."""
    a, b = first[:, None], second[None]
    return np.asarray(
        (a[..., 0] <= b[..., 2])
        & (b[..., 0] <= a[..., 2])
        & (a[..., 1] <= b[..., 3])
        & (b[..., 1] <= a[..., 3])
    )
