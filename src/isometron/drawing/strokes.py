"""Strokes: what a layer draws on the paper, and lines cut to a part of the sheet."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass, field, replace

import numpy as np
from numpy.typing import NDArray

from isometron.document.document import Document
from isometron.document.edits.proportioning import bounds_of_chosen
from isometron.drawing.curves import clipped_arcs
from isometron.drawing.dimension_marks import Label
from isometron.drawing.layers import LAYERS, OBJECT, Drawn, Given, Layer, layer_in
from isometron.drawing.scene import Scene
from isometron.framework.box import EDGES
from isometron.perspective.eye import Array
from isometron.perspective.places import Rectangle
from isometron.perspective.projection import project

END_MARK_MM = 2.0
"""Size of an end mark on the paper, and how far it stays from the end of its line."""


@dataclass(frozen=True, eq=False)
class Strokes:
    """Lines (n, 4) sheet mm x0, y0, x1, y1, homogeneous arcs (m, 3, 3) and words, all of one
    layer."""

    layer: Layer
    lines: Array
    arcs: Array = field(default_factory=lambda: np.empty((0, 3, 3)))
    labels: tuple[Label, ...] = ()


Wanted = Callable[[Layer], bool]


def every(_layer: Layer) -> bool:
    """All layers."""
    return True


def sheet_strokes(document: Document, scene: Scene, wanted: Wanted = every) -> tuple[Strokes, ...]:
    """Everything drawn on the paper, light lines first, cut at the paper's edges; of the layers
    that are wanted, and nothing of the others is worked out."""
    paper = document.sheet.paper
    given = Given(document, scene, scene.pictures, paper)
    found = []
    for layer, drawn in _drawn(given, wanted):
        lines, arcs = clipped(drawn[0], paper), clipped_arcs(drawn[1], paper)
        if layer.end_mark is not None:
            lines = _with_end_marks(lines, layer.end_mark)
        labels = () if layer.says is None else _on(paper, layer.says(given))
        if len(lines) or len(arcs) or labels:
            found.append(Strokes(layer, lines, arcs, labels))
    return tuple(found)


def _drawn(given: Given, wanted: Wanted) -> Iterator[tuple[Layer, Drawn]]:
    """Every layer with what it draws; object lines in their weights where the sheet is finished."""
    finish = given.document.finish
    for layer in filter(wanted, LAYERS):
        if layer is OBJECT and finish.weighted:
            from isometron.drawing.finish.weights import weighted_lines

            for one in weighted_lines(given.scene, finish):
                own = replace(layer, name=one.name, pencil=one.pencil)
                yield own, (one.lines, one.arcs)
        else:
            yield layer_in(layer, finish), layer.draws(given)


def _on(paper: Rectangle, labels: list[Label]) -> tuple[Label, ...]:
    """Those words whose middle lies on the paper."""
    left, bottom, right, top = paper
    return tuple(
        one for one in labels if left <= one.place[0] <= right and bottom <= one.place[1] <= top
    )


def _with_end_marks(lines: Array, mark: Array) -> Array:
    run = lines[:, :2] - lines[:, 2:]
    length = np.maximum(np.hypot(run[:, 0], run[:, 1]), 1e-12)[:, None]
    inside = lines[:, 2:] + run / length * np.minimum(END_MARK_MM, length)
    return np.concatenate([lines, end_marks(inside, mark, END_MARK_MM)])


def end_marks(ends: Array, mark: Array, size: float) -> Array:
    """The strokes (n·k, 4) of an end mark drawn at each of the ends (n, 2).

    mark: (k, 4) in a unit square about its middle; size in the unit of `ends`.
    """
    return np.asarray((mark[None] * size + np.tile(ends, 2)[:, None]).reshape(-1, 4))


def bounding_lines(document: Document) -> Array:
    """The twelve edges (k, 4) of the bounding volume of the chosen volumes, sheet mm."""
    bounds = bounds_of_chosen(document)
    corners = bounds.corners()
    seen = project(document.eye, corners)
    lines = seen.sheet[EDGES].reshape(-1, 4)
    return np.asarray(lines[np.isfinite(lines).all(axis=1)])


def clipped(lines: Array, rectangle: Rectangle) -> Array:
    """The parts (m, 4) of lines (n, 4) inside a rectangle left, bottom, right, top (Liang-Barsky).

    Lines without a part inside, or with an end that is not a number, are left out.
    """
    return clipped_rows(lines, rectangle)[1]


def clipped_rows(lines: Array, rectangle: Rectangle) -> tuple[NDArray[np.intp], Array]:
    """As `clipped`, with the number (m,) of the line each part is of."""
    rows = np.flatnonzero(np.isfinite(lines).all(axis=1))
    t0, t1 = _span_inside(lines[rows], rectangle)
    keep = t0 < t1
    rows, t0, t1 = rows[keep], t0[keep, None], t1[keep, None]
    lines = lines[rows]
    start, run = lines[:, :2], lines[:, 2:] - lines[:, :2]
    first = np.where(t0 > 0, start + t0 * run, start)
    last = np.where(t1 < 1, start + t1 * run, lines[:, 2:])
    return rows, np.concatenate([first, last], axis=1)


def _span_inside(lines: Array, rectangle: Rectangle) -> tuple[Array, Array]:
    """Fractions (n,) at which each line enters and leaves a rectangle; t1 ≤ t0 when it misses."""
    start, run = lines[:, :2], lines[:, 2:] - lines[:, :2]
    low, high = np.array(rectangle[:2]), np.array(rectangle[2:])
    with np.errstate(divide="ignore", invalid="ignore", over="ignore"):
        a, b = (low - start) / run, (high - start) / run
    still = run == 0
    missed = (still & ((start < low) | (start > high))).any(axis=1)
    enter = np.where(still, 0.0, np.minimum(a, b))
    leave = np.where(still, 1.0, np.maximum(a, b))
    t0 = np.maximum(enter.max(axis=1, initial=0.0), 0.0)
    t1 = np.minimum(leave.min(axis=1, initial=1.0), 1.0)
    return np.where(missed, 1.0, t0), np.where(missed, 0.0, t1)


def outside(lines: Array, rectangle: Rectangle) -> Array:
    """The parts (m, 4) of lines (n, 4) outside a rectangle left, bottom, right, top."""
    lines = lines[np.isfinite(lines).all(axis=1)]
    t0, t1 = _span_inside(lines, rectangle)
    start, run = lines[:, :2], lines[:, 2:] - lines[:, :2]
    hit = t0 < t1
    before, after = hit & (t0 > 0), hit & (t1 < 1)
    first = np.concatenate([start, start + t0[:, None] * run], axis=1)[before]
    last = np.concatenate([start + t1[:, None] * run, lines[:, 2:]], axis=1)[after]
    return np.concatenate([lines[~hit], first, last])
