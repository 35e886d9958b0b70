"""Edges cut into straight pieces that are wholly seen or wholly hidden."""

import itertools
from collections import defaultdict
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from isometron.drawing.occlusion import hidden_spans, hiding_planes, uncovered
from isometron.drawing.stage import Stage, overlapping
from isometron.framework.box import EDGE_FACES, EDGES
from isometron.perspective.eye import Array, Eye, frame
from isometron.perspective.projection import NEAR_MM, clip_pieces, depths, project

Span = tuple[float, float]


@dataclass(frozen=True, eq=False)
class Pieces:
    """k pieces: which edge (k,) they belong to, their span (k, 2) in fractions of its true length,
    whether they are seen (k,), and their lines (k, 4) on the sheet, mm."""

    edge: NDArray[np.intp]
    span: Array
    seen: NDArray[np.bool_]
    lines: Array


def cut_edges(stage: Stage, which: NDArray[np.intp]) -> list[Pieces]:
    """The pieces of every box in `which`, hidden behind any box of the stage."""
    if not len(which):
        return []
    corners = stage.world[which]
    t0, t1 = clip_pieces(
        stage.eye, corners[:, EDGES[:, 0]].reshape(-1, 3), corners[:, EDGES[:, 1]].reshape(-1, 3)
    )
    turned = _turned_to_us(stage.shown[which]).ravel()
    covers = _covers(stage, which)
    plain = t1 > t0
    plain[list(covers)] = False
    at = np.flatnonzero(plain)
    spans, seen = np.stack([t0, t1], axis=1)[at], turned[at]
    extra, extra_spans, extra_seen = _partly_covered(covers, (t0, t1), turned)
    at = np.concatenate([at, extra])
    order = np.argsort(at, kind="stable")
    at = at[order]
    spans = np.concatenate([spans, extra_spans])[order]
    seen = np.concatenate([seen, extra_seen])[order]
    row, edge = np.divmod(at, 12)
    lines = _drawn(stage.eye, corners, row, edge, spans)
    ends = np.searchsorted(row, np.arange(len(which) + 1)).tolist()
    return [
        Pieces(edge[a:b], spans[a:b], seen[a:b], lines[a:b]) for a, b in itertools.pairwise(ends)
    ]


def _partly_covered(
    covers: dict[int, list[Span]], whole: tuple[Array, Array], turned: NDArray[np.bool_]
) -> tuple[NDArray[np.intp], Array, NDArray[np.bool_]]:
    at: list[int] = []
    spans: list[Span] = []
    seen: list[bool] = []
    for number, hidden in covers.items():
        start, end = float(whole[0][number]), float(whole[1][number])
        if end <= start:
            continue
        free: list[Span] = []
        covered: list[Span] = [(start, end)]
        if turned[number]:
            free, covered = uncovered((start, end), hidden)
        at += [number] * (len(free) + len(covered))
        spans += free + covered
        seen += [True] * len(free) + [False] * len(covered)
    return (
        np.array(at, dtype=np.intp),
        np.array(spans).reshape(-1, 2),
        np.array(seen, dtype=bool),
    )


def _turned_to_us(shown: NDArray[np.bool_]) -> NDArray[np.bool_]:
    """(m, 12) edges that a face turned to us borders on; all of them when we are inside."""
    either = shown[:, EDGE_FACES[:, 0]] | shown[:, EDGE_FACES[:, 1]]
    inside = ~shown.any(axis=1, keepdims=True)
    return np.asarray(either | inside, dtype=bool)


def _covers(stage: Stage, which: NDArray[np.intp]) -> dict[int, list[Span]]:
    """Hidden spans by edge number (row in `which` × 12 + edge) of edges another box hides."""
    may_hide = overlapping(stage.bounds[which], stage.bounds)
    may_hide &= stage.shown.any(axis=1).reshape(1, -1)
    nearest, furthest = stage.depth.min(axis=1), stage.depth.max(axis=1)
    may_hide &= nearest[None] < furthest[which][:, None]
    may_hide[np.arange(len(which)), which] = False
    rows, hiding = np.nonzero(may_hide)
    covers: dict[int, list[Span]] = defaultdict(list)
    if not len(rows):
        return covers
    used, which_plane = np.unique(hiding, return_inverse=True)
    planes = hiding_planes(stage.eye, stage.world[used], stage.axes[used], stage.shown[used])
    from_eye = stage.world - np.array(stage.eye.place)
    pairs = np.stack([which[rows], hiding], axis=1)
    spans = hidden_spans(from_eye, pairs, planes[which_plane])
    pair, edge = np.nonzero(spans[:, :, 1] > spans[:, :, 0])
    numbers = (12 * rows[pair] + edge).tolist()
    for number, (start, end) in zip(numbers, spans[pair, edge].tolist(), strict=True):
        covers[number].append((start, end))
    return covers


def _drawn(
    eye: Eye, corners: Array, row: NDArray[np.intp], edge: NDArray[np.intp], spans: Array
) -> Array:
    """Lines (k, 4) on the sheet of pieces of the edges of boxes with corners (m, 8, 3)."""
    start, end = corners[row, EDGES[edge, 0]], corners[row, EDGES[edge, 1]]
    ends = (start[:, None] + spans[:, :, None] * (end - start)[:, None]).reshape(-1, 3)
    short = NEAR_MM * (1 + 1e-6) - depths(eye, ends)
    if (short > 0).any():  # cut exactly at the near plane: a hair in front of it can be drawn
        ends += np.maximum(short, 0.0)[:, None] * frame(eye)[2].astype(float)
    return project(eye, ends).sheet.reshape(-1, 4)
