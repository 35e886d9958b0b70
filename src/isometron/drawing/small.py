"""What a small picture of a sheet shows: the framework as large as it fits, in time for a glance.

A sheet of few volumes is shown as it is drawn, hidden edges pale; one of many by the boxes its
volumes fill, each edge whole, so that a thousand take no longer than ten. Where nothing of the
framework lies on the paper, what lies beside it is shown; where nothing lies before the eye, the
framework is seen from above: a sheet that holds something never looks empty.
"""

from dataclasses import dataclass, replace

import numpy as np

from isometron.document.document import Document
from isometron.document.picture import PictureFile
from isometron.drawing.curves import clipped_arcs
from isometron.drawing.layers import NO_ARCS, NO_LINES
from isometron.drawing.page import part_of, seen_in
from isometron.drawing.scene import Scene, scene_of
from isometron.drawing.strokes import clipped
from isometron.framework.box import EDGES
from isometron.nearness import NEAR
from isometron.perspective.conics import bounds_of
from isometron.perspective.eye import Array, Eye
from isometron.perspective.places import Rectangle
from isometron.perspective.projection import NEAR_MM, depths, project

MOST_DRAWN = 24
"""Volumes of which what hides what is worked out for a small picture."""

MOST_BOXES = 800
"""So many boxes at most are drawn of a sheet of very many: more no glance tells apart."""

AROUND = 2.0
"""So many papers to every side, what lies beside the paper is shown."""

STEPS = 8
"""Chords of an edge on a curved sheet."""


@dataclass(frozen=True, eq=False)
class Small:
    """Seen and hidden lines (n, 4) and arcs (m, 3, 3), sheet mm; the part of the sheet that holds
    them (left, bottom, right, top); a picture that is shown instead where there are none; above:
    whether it is seen from above, since nothing lies before the eye."""

    seen: tuple[Array, Array]
    hidden: tuple[Array, Array]
    part: Rectangle
    picture: PictureFile | None = None
    above: bool = False

    @property
    def empty(self) -> bool:
        """Whether there is nothing to show."""
        return self.picture is None and not len(self.seen[0]) and not len(self.seen[1])


def small_of(document: Document, scene: Scene | None = None) -> Small:
    """What a small picture of a document shows; scene: that of its view in work, where it is made
    already."""
    if not document.volumes:
        picture = document.photograph or next(iter(document.pictures), None)
        return _fitted([], [], None if picture is None else picture.file)
    left, bottom, right, top = document.sheet.paper
    across, along = AROUND * (right - left), AROUND * (top - bottom)
    wide = left - across, bottom - along, right + across, top + along
    for part in (None, wide):
        small = _fitted(*_drawn(document, scene, part))
        if not small.empty:
            return small
    return replace(_fitted([(_from_above(document), NO_ARCS)], []), above=True)


Drawn = tuple[Array, Array]


def _drawn(
    document: Document, scene: Scene | None, wide: Rectangle | None
) -> tuple[list[Drawn], list[Drawn]]:
    """Seen and hidden lines of the views of a page, each within its frame; of the view in work
    alone, within a wider part than the paper when that is given."""
    seen: list[Drawn] = []
    hidden: list[Drawn] = []
    for number, view in enumerate(document.views):
        mine = number == document.view
        if not mine and (view.frame is None or wide is not None):
            continue
        part = wide or part_of(document, view)
        if len(document.volumes) > MOST_DRAWN and not (mine and scene is not None):
            seen.append((clipped(_edges(view.eye, document), part), NO_ARCS))
            continue
        shown = document if mine else seen_in(document, number)
        made = scene if mine and scene is not None else scene_of(shown)
        for what, some in (("seen", seen), ("hidden", hidden)):
            some.append(_lines_of(made, what, part))
    return seen, hidden


def _lines_of(scene: Scene, what: str, part: Rectangle) -> Drawn:
    """What is seen or hidden of a scene within a part of the sheet."""
    lines = [getattr(picture, f"{what}_lines") for picture in scene.pictures]
    arcs = [picture.curves_drawn(what) for picture in scene.pictures]
    return (
        clipped(np.concatenate([NO_LINES, *lines]), part),
        clipped_arcs(np.concatenate([NO_ARCS, *arcs]), part),
    )


def _edges(eye: Eye, document: Document) -> Array:
    """Lines (n, 4) on the sheet of the edges of the boxes that the shown volumes fill."""
    corners = _corners(document)
    if not corners:
        return NO_LINES
    ends = np.stack(corners)[:, EDGES].reshape(-1, 2, 3)
    if eye.curved:
        t = (np.arange(STEPS + 1) / STEPS)[None, :, None]
        points = ends[:, :1] + t * (ends[:, 1:] - ends[:, :1])
        ends = np.stack([points[:, :-1], points[:, 1:]], axis=2).reshape(-1, 2, 3)
    elif eye.parallel is None:
        ends = _ahead(eye, ends)
    return np.asarray(project(eye, ends.reshape(-1, 3)).sheet.reshape(-1, 4))


def _corners(document: Document) -> list[Array]:
    """The corners (8, 3) of the boxes of the shown volumes, world mm; of evenly chosen ones where
    there are very many."""
    shown = [volume for volume in document.volumes if volume.shown]
    step = -(-len(shown) // MOST_BOXES) or 1
    return [volume.corners() for volume in shown[::step]]


def _ahead(eye: Eye, ends: Array) -> Array:
    """The parts (m, 2, 3) of lines (n, 2, 3) that lie before the near plane."""
    deep = depths(eye, ends.reshape(-1, 3)).reshape(-1, 2) - NEAR_MM * (1 + NEAR)
    ends, deep = ends[(deep > 0).any(axis=1)], deep[(deep > 0).any(axis=1)]
    first, last = deep[:, :1], deep[:, 1:]
    with np.errstate(divide="ignore", invalid="ignore"):
        cut = ends[:, 0] + first / (first - last) * (ends[:, 1] - ends[:, 0])
    return np.stack(
        [np.where(first > 0, ends[:, 0], cut), np.where(last > 0, ends[:, 1], cut)], axis=1
    )


def _from_above(document: Document) -> Array:
    """Lines (n, 4), true mm, of the boxes seen from above."""
    corners = _corners(document) or [volume.corners() for volume in document.volumes[:MOST_BOXES]]
    return np.asarray(np.stack(corners)[:, EDGES, :2].reshape(-1, 4))


def _fitted(seen: list[Drawn], hidden: list[Drawn], picture: PictureFile | None = None) -> Small:
    """All that is seen and hidden, and the part that holds it."""
    one, two = _together(seen), _together(hidden)
    held = [lines.reshape(-1, 2) for lines in (one[0], two[0])]
    for arcs in (one[1], two[1]):
        bounds = bounds_of(arcs)
        held.append(bounds[np.isfinite(bounds).all(axis=1)].reshape(-1, 2))
    places = np.concatenate(held)
    if not len(places):
        return Small(one, two, (0.0, 0.0, 1.0, 1.0), picture)
    (left, bottom), (right, top) = places.min(axis=0).tolist(), places.max(axis=0).tolist()
    return Small(one, two, (left, bottom, right, top), picture)


def _together(drawn: list[Drawn]) -> Drawn:
    return (
        np.concatenate([NO_LINES, *(lines for lines, _arcs in drawn)]),
        np.concatenate([NO_ARCS, *(arcs for _lines, arcs in drawn)]),
    )
