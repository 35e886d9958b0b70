"""All volumes of a sheet set before the eye, before anything is hidden."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from isometron.drawing.built import Built, build
from isometron.drawing.occlusion import (
    BOX_PLANES,
    PLANES,
    UNUSED,
    facing,
    hiding_planes,
    hiding_planes_of,
)
from isometron.drawing.surfaces import Surfaces, surfaces_of
from isometron.framework.volume import Volume
from isometron.perspective.conics import bounds_of, pictures, seen_from
from isometron.perspective.eye import Array, Eye
from isometron.perspective.projection import NEAR_MM, project

EVERYWHERE = np.array([-np.inf, -np.inf, np.inf, np.inf])


@dataclass(frozen=True, eq=False)
class Standing:
    """A volume before the eye: its corners on the sheet (n, 2) mm (NaN behind the eye) and their
    depth (n,) mm, shown (k,) faces turned to us, bounds (4,) on the sheet left, bottom, right, top
    (unbounded when it reaches behind us), and the regions (h, p, 4) it hides, as planes."""

    built: Built
    sheet: Array
    depth: Array
    shown: NDArray[np.bool_]
    bounds: Array
    regions: Array
    surfaces: Surfaces | None = None
    """What a curved body hides with, and its outlines; None for a flat one or a ghost's."""
    curve_arcs: Array | None = None
    """Its curves (n, 3, 4) from the eye point."""


@dataclass(frozen=True, eq=False)
class Stage:
    """n volumes before an eye, with bounds (n, 4) and nearest and furthest depth (n,)."""

    eye: Eye
    standing: tuple[Standing, ...]
    bounds: Array
    nearest: Array
    furthest: Array
    reach: Array
    """(n, 6) least and greatest world x, y, z."""
    hides: NDArray[np.bool_]
    """(n,) whether each hides anything, and `bent` whether it is not convex."""
    bent: NDArray[np.bool_]


def stage_of(eye: Eye, volumes: Sequence[Volume]) -> Stage:
    """All volumes set before an eye."""
    return _stage(eye, _stand(eye, [build(volume) for volume in volumes]))


def restaged(stage: Stage, volumes: Sequence[Volume], changed: NDArray[np.intp]) -> Stage:
    """The stage with the volumes numbered in `changed` set anew."""
    standing = list(stage.standing)
    some = _stage(stage.eye, _stand(stage.eye, [build(volumes[i]) for i in changed]))
    for i, one in zip(changed.tolist(), some.standing, strict=True):
        standing[i] = one
    bounds, nearest, furthest = stage.bounds.copy(), stage.nearest.copy(), stage.furthest.copy()
    reach, hides, bent = stage.reach.copy(), stage.hides.copy(), stage.bent.copy()
    for whole, part in (
        (bounds, some.bounds),
        (nearest, some.nearest),
        (furthest, some.furthest),
        (reach, some.reach),
        (hides, some.hides),
        (bent, some.bent),
    ):
        whole[changed] = part
    return Stage(stage.eye, tuple(standing), bounds, nearest, furthest, reach, hides, bent)


def _stage(eye: Eye, standing: Sequence[Standing]) -> Stage:
    n = len(standing)
    return Stage(
        eye,
        tuple(standing),
        np.array([one.bounds for one in standing]).reshape(n, 4),
        np.array([one.depth.min() for one in standing]),
        np.array([one.depth.max() for one in standing]),
        np.array([one.built.reach for one in standing]).reshape(n, 6),
        np.array([len(one.regions) > 0 for one in standing], dtype=bool),
        np.array([not one.built.solid.convex for one in standing], dtype=bool),
    )


def _stand(eye: Eye, built: Sequence[Built]) -> list[Standing]:
    if not built:
        return []
    picture = project(eye, np.concatenate([one.world for one in built]))
    ends = np.cumsum([len(one.world) for one in built]).tolist()
    begin = np.concatenate([[0], ends[:-1]]).astype(np.intp)
    shown = facing(eye, built)
    regions = _regions(eye, built, shown)
    low = np.minimum.reduceat(picture.sheet, begin)
    high = np.maximum.reduceat(picture.sheet, begin)
    bounds = np.concatenate([low, high], axis=1)
    bounds[np.minimum.reduceat(picture.depth, begin) <= NEAR_MM] = EVERYWHERE
    curved = [_curved(eye, one) for one in built]
    for number, (surfaces, arcs) in enumerate(curved):
        if built[number].round and arcs is not None:
            bounds[number] = _curved_bounds(eye, surfaces, arcs)
    return [
        Standing(one, picture.sheet[a:b], picture.depth[a:b], faces, box, hides, *rest)
        for one, a, b, faces, box, hides, rest in zip(
            built, begin.tolist(), ends, shown, bounds, regions, curved, strict=True
        )
    ]


def _curved_bounds(eye: Eye, surfaces: Surfaces | None, arcs: Array) -> Array:
    """Bounds (4,) on the sheet of a curved body, from the control points of all its arcs."""
    every = arcs if surfaces is None else np.concatenate([arcs, surfaces.outlines])
    if not len(every):
        return EVERYWHERE
    drawn = bounds_of(pictures(eye, every))
    return np.concatenate([drawn[:, :2].min(axis=0), drawn[:, 2:].max(axis=0)])


def _curved(eye: Eye, built: Built) -> tuple[Surfaces | None, Array | None]:
    if built.curved is None or not built.volume.shown:
        return None, None
    arcs = seen_from(eye, built.arcs)
    if not len(built.curved.forms):
        return None, arcs
    place = np.array(built.volume.place)
    return surfaces_of(eye, built.curved, built.axes, place), arcs


def _regions(eye: Eye, built: Sequence[Built], shown: list[NDArray[np.bool_]]) -> list[Array]:
    """What each volume hides: boxes all at once, other shapes one by one."""
    regions: list[Array] = [np.empty((0, BOX_PLANES, 4))] * len(built)
    plain = [
        i for i, one in enumerate(built) if one.plain and shown[i].any() and not one.volume.ghost
    ]
    if plain:
        planes = hiding_planes(
            eye,
            np.array([built[i].world for i in plain]),
            np.array([built[i].normals for i in plain]),
            np.array([shown[i] for i in plain]),
        )
        for at, i in enumerate(plain):
            regions[i] = planes[at : at + 1]
    for i, one in enumerate(built):
        if not one.plain and not one.volume.ghost and not one.round:
            found = hiding_planes_of(eye, one, shown[i])
            longest = max((len(planes) for planes in found), default=1)
            most = next((size for size in PLANES if size >= longest), longest)
            padded = np.tile(np.array(UNUSED), (len(found), most, 1))
            for at, planes in enumerate(found):
                padded[at, : len(planes)] = planes
            regions[i] = padded
    return regions


def overlapping(first: Array, second: Array) -> NDArray[np.bool_]:
    """(n, m) whether rectangles (n, 4) and (m, 4) left, bottom, right, top overlap."""
    a, b = first[:, None], second[None]
    return np.asarray(
        (a[..., 0] <= b[..., 2])
        & (b[..., 0] <= a[..., 2])
        & (a[..., 1] <= b[..., 3])
        & (b[..., 1] <= a[..., 3])
    )
