"""The scene: every volume as it is drawn from the eye, with what is seen and what is hidden.

A scene remembers what it was made from. Asked for the next document it reworks only the volumes
that changed and those that overlap them on the sheet; everything else is the very same object.
"""

from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from isometron.document.document import Document
from isometron.drawing.pieces import Pieces, Span, cut_edges
from isometron.drawing.stage import Stage, overlapping, restaged, stage_of
from isometron.framework.box import Box
from isometron.perspective.eye import Array, Eye


@dataclass(frozen=True, eq=False)
class VolumePicture:
    """One box as it is drawn.

    axes (3, 3); world (8, 3) mm; sheet (8, 2) mm with NaN rows for corners behind the eye;
    depth (8,) mm; shown (6,) faces turned to us; bounds (4,) sheet mm left, bottom, right, top;
    pieces: its edges cut into what is seen and what is hidden.
    """

    box: Box
    axes: Array
    world: Array
    sheet: Array
    depth: Array
    shown: NDArray[np.bool_]
    bounds: Array
    pieces: Pieces

    @cached_property
    def seen_lines(self) -> Array:
        """Lines (k, 4) sheet mm x0, y0, x1, y1 of everything seen."""
        return np.asarray(self.pieces.lines[self.pieces.seen])

    @cached_property
    def hidden_lines(self) -> Array:
        """Lines (k, 4) sheet mm of everything hidden."""
        return np.asarray(self.pieces.lines[~self.pieces.seen])

    @cached_property
    def visible(self) -> tuple[tuple[Span, ...], ...]:
        """For each of the 12 edges the parts that are seen, as fractions of its true length."""
        parts: list[list[Span]] = [[] for _ in range(12)]
        pieces = self.pieces
        for edge, (start, end), seen in zip(
            pieces.edge.tolist(), pieces.span.tolist(), pieces.seen.tolist(), strict=True
        ):
            if seen:
                parts[edge].append((start, end))
        return tuple(tuple(spans) for spans in parts)


@dataclass(frozen=True, eq=False)
class Scene:
    """All volumes of a document as drawn from its eye."""

    eye: Eye
    pictures: tuple[VolumePicture, ...]
    stage: Stage


def scene_of(document: Document, before: Scene | None = None) -> Scene:
    """The scene of a document; what stands unchanged in `before` is taken over as it is."""
    eye, boxes = document.eye, document.volumes
    if before is None or len(before.pictures) != len(boxes):
        stage = stage_of(eye, boxes)
        everything = np.arange(len(boxes))
        return Scene(eye, tuple(_pictures(stage, boxes, everything).values()), stage)
    changed = np.array(
        [i for i, p in enumerate(before.pictures) if p.box is not boxes[i] and p.box != boxes[i]],
        dtype=np.intp,
    )
    if before.eye == eye and not len(changed):
        return before
    stage = restaged(before.stage, eye, boxes, changed)
    if before.eye == eye:
        touched = np.concatenate([before.stage.bounds[changed], stage.bounds[changed]])
        stale = np.union1d(changed, np.nonzero(overlapping(stage.bounds, touched))[0])
    else:
        stale = np.arange(len(boxes))
    fresh = _pictures(stage, boxes, stale)
    pictures = tuple(fresh.get(i, kept) for i, kept in enumerate(before.pictures))
    return Scene(eye, pictures, stage)


def _pictures(
    stage: Stage, boxes: tuple[Box, ...], which: NDArray[np.intp]
) -> dict[int, VolumePicture]:
    """Pictures of the volumes `which` by number."""
    return {
        i: VolumePicture(
            boxes[i],
            stage.axes[i],
            stage.world[i],
            stage.sheet[i],
            stage.depth[i],
            stage.shown[i],
            stage.bounds[i],
            pieces,
        )
        for i, pieces in zip(which.tolist(), cut_edges(stage, which), strict=True)
    }
