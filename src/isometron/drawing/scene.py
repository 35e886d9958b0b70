"""The scene: every volume as it is drawn from the eye, with what is seen and what is hidden.

A scene remembers what it was made from. Asked for the next document it reworks only the volumes
that changed and those that overlap them on the sheet; everything else is the very same object.
"""

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from isometron.document.document import Document
from isometron.drawing.occlusion import (
    facing,
    hidden_spans,
    hiding_planes,
    uncovered,
)
from isometron.framework.box import EDGE_FACES, EDGES, Box
from isometron.perspective.eye import Array, Eye, frame
from isometron.perspective.projection import NEAR_MM, clip_pieces, depths, project

EVERYWHERE = np.array([-np.inf, -np.inf, np.inf, np.inf])
Spans = tuple[tuple[float, float], ...]


@dataclass(frozen=True, eq=False)
class VolumePicture:
    """One box as it is drawn.

    world (8, 3) mm; sheet (8, 2) mm with NaN rows for corners behind the eye; depth (8,) mm;
    shown (6,) faces turned to us; visible: for each of the 12 edges the parts that are seen, as
    fractions of its true length; seen_lines and hidden_lines (k, 4) sheet mm x0, y0, x1, y1;
    bounds (4,) sheet mm left, bottom, right, top.
    """

    box: Box
    axes: Array
    world: Array
    sheet: Array
    depth: Array
    shown: NDArray[np.bool_]
    visible: tuple[Spans, ...]
    seen_lines: Array
    hidden_lines: Array
    bounds: Array


@dataclass(frozen=True, eq=False)
class Scene:
    """All volumes of a document as drawn from its eye."""

    eye: Eye
    pictures: tuple[VolumePicture, ...]


@dataclass(frozen=True, eq=False)
class _Stage:
    """All boxes before anything is hidden; arrays as in VolumePicture with a leading n."""

    eye: Eye
    boxes: tuple[Box, ...]
    axes: Array
    world: Array
    sheet: Array
    depth: Array
    shown: NDArray[np.bool_]
    bounds: Array


def scene_of(document: Document, before: Scene | None = None) -> Scene:
    """The scene of a document; what stands unchanged in `before` is taken over as it is."""
    eye, boxes = document.eye, document.volumes
    if before is None or len(before.pictures) != len(boxes):
        before = None
        changed = np.ones(len(boxes), dtype=bool)
    else:
        changed = _changed(boxes, before.pictures)
        if before.eye == eye and not changed.any():
            return before
    stage = _set_stage(eye, boxes, before, changed)
    if before is None or before.eye != eye:
        fresh = _draw(stage, np.arange(len(boxes)))
        return Scene(eye, tuple(fresh[i] for i in range(len(boxes))))
    old = np.array([p.bounds for p in before.pictures])
    touched = np.concatenate([old[changed], stage.bounds[changed]])
    stale = changed | _overlap(stage.bounds, touched).any(axis=1)
    fresh = _draw(stage, np.flatnonzero(stale))
    return Scene(eye, tuple(fresh.get(i, kept) for i, kept in enumerate(before.pictures)))


def _set_stage(
    eye: Eye, boxes: tuple[Box, ...], before: Scene | None, changed: NDArray[np.bool_]
) -> _Stage:
    axes, world = np.empty((len(boxes), 3, 3)), np.empty((len(boxes), 8, 3))
    for i, box in enumerate(boxes):
        if before is None or changed[i]:
            axes[i], world[i] = box.axes(), box.corners()
        else:
            axes[i], world[i] = before.pictures[i].axes, before.pictures[i].world
    picture = project(eye, world.reshape(-1, 3))
    sheet, depth = picture.sheet.reshape(-1, 8, 2), picture.depth.reshape(-1, 8)
    bounds = np.concatenate([sheet.min(axis=1), sheet.max(axis=1)], axis=1)
    bounds[(depth <= NEAR_MM).any(axis=1)] = EVERYWHERE
    shown = facing(eye, boxes, axes)
    return _Stage(eye, boxes, axes, world, sheet, depth, shown, bounds)


def _changed(boxes: Sequence[Box], stands: Sequence[VolumePicture]) -> NDArray[np.bool_]:
    return np.array(
        [p.box is not box and p.box != box for p, box in zip(stands, boxes, strict=True)],
        dtype=bool,
    )


def _overlap(first: Array, second: Array) -> NDArray[np.bool_]:
    """(n, m) whether rectangles overlap."""
    a, b = first[:, None], second[None]
    return np.asarray(
        (a[..., 0] <= b[..., 2])
        & (b[..., 0] <= a[..., 2])
        & (a[..., 1] <= b[..., 3])
        & (b[..., 1] <= a[..., 3])
    )


def _draw(stage: _Stage, which: NDArray[np.intp]) -> dict[int, VolumePicture]:
    """Pictures of the volumes `which`, hidden behind any volume of the sheet."""
    if not len(which):
        return {}
    covers = _covers(stage, which)
    corners = stage.world[which]
    in_front = clip_pieces(
        stage.eye, corners[:, EDGES[:, 0]].reshape(-1, 3), corners[:, EDGES[:, 1]].reshape(-1, 3)
    )
    whole = np.stack(in_front, axis=1).reshape(-1, 12, 2).tolist()
    turned_to_us = _turned_to_us(np.asarray(stage.shown[which], dtype=bool)).tolist()
    pieces = _Pieces()
    visible: list[tuple[Spans, ...]] = []
    for row, index in enumerate(which.tolist()):
        spans: list[Spans] = []
        for edge in range(12):
            free: list[tuple[float, float]] = []
            start, end = whole[row][edge]
            covered = [(start, end)] if end > start else []
            if covered and turned_to_us[row][edge]:
                free, covered = uncovered((start, end), covers.get((index, edge), []))
            pieces.add(row, edge, free, covered)
            spans.append(tuple(free))
        visible.append(tuple(spans))
    seen_lines, hidden_lines = pieces.lines(stage.eye, corners)
    return {
        index: VolumePicture(
            stage.boxes[index],
            stage.axes[index],
            stage.world[index],
            stage.sheet[index],
            stage.depth[index],
            stage.shown[index],
            visible[row],
            seen_lines[row],
            hidden_lines[row],
            stage.bounds[index],
        )
        for row, index in enumerate(which.tolist())
    }


def _turned_to_us(shown: NDArray[np.bool_]) -> NDArray[np.bool_]:
    """(m, 12) edges that a face turned to us borders on; all of them when we are inside."""
    either = shown[:, EDGE_FACES[:, 0]] | shown[:, EDGE_FACES[:, 1]]
    inside = ~shown.any(axis=1, keepdims=True)
    return np.asarray(either | inside, dtype=bool)


def _covers(
    stage: _Stage, which: NDArray[np.intp]
) -> dict[tuple[int, int], list[tuple[float, float]]]:
    """The hidden spans of each (volume, edge) that any other volume hides in part."""
    may_hide = _overlap(stage.bounds[which], stage.bounds)
    may_hide &= stage.shown.any(axis=1).reshape(1, -1)
    nearest, furthest = stage.depth.min(axis=1), stage.depth.max(axis=1)
    may_hide &= nearest[None] < furthest[which][:, None]
    may_hide[np.arange(len(which)), which] = False
    rows, hiding = np.nonzero(may_hide)
    covers: dict[tuple[int, int], list[tuple[float, float]]] = defaultdict(list)
    if not len(rows):
        return covers
    pairs = np.stack([which[rows], hiding], axis=1)
    used = np.unique(hiding)
    planes = np.zeros((len(stage.world), 9, 4))
    planes[used] = hiding_planes(stage.eye, stage.world[used], stage.axes[used], stage.shown[used])
    spans = hidden_spans(stage.eye, stage.world, planes, pairs)
    for pair, edge in zip(*np.nonzero(spans[:, :, 1] > spans[:, :, 0]), strict=True):
        start, end = spans[pair, edge].tolist()
        covers[int(pairs[pair, 0]), int(edge)].append((start, end))
    return covers


class _Pieces:
    """Straight pieces of edges, collected and projected in one go."""

    def __init__(self) -> None:
        self._edges: list[tuple[int, int]] = []
        self._spans: list[tuple[float, float]] = []
        self._seen: list[bool] = []

    def add(
        self,
        row: int,
        edge: int,
        free: list[tuple[float, float]],
        covered: list[tuple[float, float]],
    ) -> None:
        count = len(free) + len(covered)
        self._edges += [(row, edge)] * count
        self._spans += free
        self._spans += covered
        self._seen += [True] * len(free) + [False] * len(covered)

    def lines(self, eye: Eye, corners: Array) -> tuple[list[Array], list[Array]]:
        """Seen and hidden lines (k, 4) on the sheet of each row of corners (m, 8, 3)."""
        row, edge = np.array(self._edges, dtype=np.intp).reshape(-1, 2).T
        spans = np.array(self._spans).reshape(-1, 2)
        start, end = corners[row, EDGES[edge, 0]], corners[row, EDGES[edge, 1]]
        ends = start[:, None] + spans[:, :, None] * (end - start)[:, None]
        lines = project(eye, _drawable(eye, ends.reshape(-1, 3))).sheet.reshape(-1, 4)
        seen = np.array(self._seen, dtype=bool)
        return (
            _by_row(lines[seen], row[seen], len(corners)),
            _by_row(lines[~seen], row[~seen], len(corners)),
        )


def _drawable(eye: Eye, points: Array) -> Array:
    """Points cut exactly at the near plane moved a hair in front of it."""
    short = NEAR_MM * (1 + 1e-6) - depths(eye, points)
    if not (short > 0).any():
        return points
    forward = frame(eye)[2].astype(float)
    return np.asarray(points + np.maximum(short, 0.0)[:, None] * forward)


def _by_row(lines: Array, row: NDArray[np.intp], rows: int) -> list[Array]:
    return np.split(lines, np.searchsorted(row, np.arange(1, rows)))
