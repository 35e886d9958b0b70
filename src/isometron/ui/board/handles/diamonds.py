"""Diamonds: far edges of the volume in work, and far ends of the bounding volume of several."""

from dataclasses import dataclass
from functools import partial

import numpy as np
from PyQt6.QtCore import QPointF
from PyQt6.QtGui import QColor, QPainter, QPen, QPolygonF

from isometron.document.document import Document
from isometron.document.edits import volume_edits
from isometron.document.edits.proportioning import bounds_of_chosen, stretch_bounds
from isometron.document.near_edge import drawn_place, far_edge
from isometron.drawing.picks.edge import EdgePick
from isometron.drawing.places import side_in_words
from isometron.drawing.scene import Scene
from isometron.drawing.volume_picture import VolumePicture
from isometron.perspective.errors import IsometronError
from isometron.perspective.eye import Array
from isometron.perspective.lengths import write_length
from isometron.perspective.places import Place
from isometron.perspective.projection import project
from isometron.render.view import View
from isometron.ui.board.handles.handle import LINE_GRAB_PX, Handle, On
from isometron.ui.board.handles.table import handles
from isometron.ui.parts.theme import INK
from isometron.ui.parts.touching import from_line
from isometron.words import _

CORNERS = ((-5, 0), (0, -8), (5, 0), (0, 8))
SIDES = (("width", _("Far edge, width")), ("depth", _("Far edge, depth")))
STAYS = (
    _("near edge and vanishing points stay; the true width changes"),
    _("near edge and vanishing points stay; the true depth changes"),
)
BOUNDS = (
    ("length", _("Bounding volume, length")),
    ("width", _("Bounding volume, width")),
    ("height", _("Bounding volume, height")),
)


@dataclass(frozen=True, eq=False)
class Diamond(Handle):
    """A diamond; where it stands for an edge, the whole edge can be taken."""

    line: tuple[Place, Place] | None = None

    def brushed(self, view: View, at: QPointF) -> bool:
        if self.line is None:
            return False
        start, end = (view.point(place) for place in self.line)
        return from_line(start, end, at) < LINE_GRAB_PX

    def paint(self, painter: QPainter, on: On, *, hot: bool) -> None:
        at = self.at(on.view)
        painter.setPen(QPen(QColor(INK), 1.3))
        painter.setBrush(on.filling(hot=hot))
        painter.drawPolygon(QPolygonF([at + QPointF(x, y) for x, y in CORNERS]))


@handles(
    7,
    _("Far edges (diamonds)"),
    _("near edge and vanishing points stay; the true side changes"),
)
def far_edges(document: Document, scene: Scene) -> list[Handle]:
    """A diamond at each far edge of the volume in work."""
    if document.selected is None:
        return []
    picture = scene.pictures[document.selected]
    found: list[Handle] = []
    for axis, (side, title) in enumerate(SIDES):
        far = far_edge(document.eye, picture.volume, axis)
        ends = project(document.eye, np.array([*far, (far[0] + far[1]) / 2]))
        if not ends.seen.all():
            continue
        (ax, ay), (bx, by), (x, y) = ends.sheet.tolist()
        found.append(
            Diamond(
                f"far {side}",
                title,
                (x, y),
                partial(_slide, axis=axis),
                STAYS[axis],
                lambda document, scene, axis=axis: side_in_words(document, axis),  # type: ignore[misc]
                ((ax, ay), (bx, by)) if (ax, ay) != (bx, by) else None,
                pick=_edge_between(picture, document.selected, far),
                typed=side,
            )
        )
    return found


def _slide(document: Document, to: Place, axis: int) -> Document:
    return volume_edits.slide_far_edge(document, axis, 0.5, to)


def _edge_between(picture: VolumePicture, index: int, ends: tuple[Array, Array]) -> EdgePick | None:
    """The edge of a volume between two of its corners (world mm); None when there is none."""
    there = [np.flatnonzero((picture.world == end).all(axis=1)) for end in ends]
    if not all(len(some) for some in there):
        return None
    pair = sorted(int(some[0]) for some in there)
    found = np.flatnonzero((np.sort(picture.edges, axis=1) == pair).all(axis=1))
    return EdgePick(index, int(found[0])) if len(found) else None


@handles(5, _("Ends of a bounding volume"), _("everything inside is scaled; Shift keeps the ratio"))
def bounds(document: Document, scene: Scene) -> list[Handle]:
    """The three far ends of the bounding volume of several chosen volumes."""
    if len(document.chosen) < 2:
        return []
    whole = bounds_of_chosen(document)
    corners = whole.corners()
    found: list[Handle] = []
    for axis, (side, title) in enumerate(BOUNDS):
        try:
            place = drawn_place(document.eye, corners[1 << axis])
        except IsometronError:
            continue
        stretch = partial(_stretch, axis=axis, start=corners[0], along=whole.pose[1][axis])
        found.append(
            Diamond(
                f"bounds {side}",
                title,
                place,
                stretch,
                _("everything inside is scaled along it; Shift keeps the ratio"),
                partial(_bound_in_words, axis=axis),
                shifted=partial(stretch, keep=True),
                shift_stays=_("the ratio stays; everything inside is scaled"),
            )
        )
    return found


def _stretch(
    document: Document, to: Place, axis: int, start: Array, along: Array, *, keep: bool = False
) -> Document:
    mm = volume_edits.true_length_to(document.eye, start, along, to)
    least = volume_edits.least_dragged(bounds_of_chosen(document))
    return stretch_bounds(document, axis, max(mm, least), keep_ratio=keep)


def _bound_in_words(document: Document, scene: Scene, axis: int) -> str:
    return write_length(bounds_of_chosen(document).sides[axis], document.choices.unit)
