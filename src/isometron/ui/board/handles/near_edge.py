"""The near edge: a ring at its corner, a bar beyond each end."""

from dataclasses import dataclass, replace

from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtGui import QColor, QPainter, QPen

from isometron.document.document import Document
from isometron.document.edits import eye_edits, volume_edits
from isometron.document.near_edge import drawn_place, near_edge, near_edge_world
from isometron.drawing.measures import near_edge_number
from isometron.drawing.picks.edge import EdgePick
from isometron.drawing.places import near_corner_in_words, near_edge_in_words
from isometron.drawing.scene import Scene
from isometron.perspective.errors import IsometronError
from isometron.perspective.places import Place
from isometron.render.view import View
from isometron.ui.board.handles.bodies import volume_handle
from isometron.ui.board.handles.handle import Handle, On
from isometron.ui.board.handles.table import handles
from isometron.ui.parts.theme import INK
from isometron.words import _

RING_PX = 6.0
BAR_PX = 11.0
BAR_GAP_PX = 13.0


@dataclass(frozen=True, eq=False)
class Ring(Handle):
    """A ring round a corner."""

    def paint(self, painter: QPainter, on: On, *, hot: bool) -> None:
        painter.setPen(QPen(QColor(INK), 1.6))
        painter.setBrush(on.filling(hot=hot))
        painter.drawEllipse(self.at(on.view), RING_PX, RING_PX)


@dataclass(frozen=True, eq=False)
class Bar(Handle):
    """A bar beyond an end of an edge, across its run."""

    other: Place = (0.0, 0.0)
    """The other end of the edge, sheet mm."""

    def _run(self, view: View) -> QPointF:
        along = view.point(self.place) - view.point(self.other)
        return QPointF(along / max((along.x() ** 2 + along.y() ** 2) ** 0.5, 1e-6))

    def at(self, view: View) -> QPointF:
        return view.point(self.place) + self._run(view) * BAR_GAP_PX

    def paint(self, painter: QPainter, on: On, *, hot: bool) -> None:
        centre, along = self.at(on.view), self._run(on.view)
        across = QPointF(-along.y(), along.x())
        painter.setPen(QPen(QColor(INK), 1.0))
        painter.drawLine(centre - along * (BAR_GAP_PX - RING_PX), centre)
        ink = INK if on.paper.contains(centre) else on.room.felt_ink
        pen = QPen(QColor(on.room.lamp if hot else ink), 4.0)
        pen.setCapStyle(Qt.PenCapStyle.RoundCap)
        painter.setPen(pen)
        painter.drawLine(centre - across * (BAR_PX / 2), centre + across * (BAR_PX / 2))


def _ends(document: Document) -> tuple[Place, Place] | None:
    """Foot and top of the near edge on the sheet."""
    edge, lead = near_edge(document), document.volume
    if edge is None or lead is None:
        return None
    try:
        return edge.corner_mm, drawn_place(document.eye, near_edge_world(document.eye, lead)[1])
    except IsometronError:
        return None


def _pick(document: Document, scene: Scene) -> EdgePick | None:
    index = document.selected or 0
    number = near_edge_number(document.eye, scene.pictures[index])
    return None if number is None else EdgePick(index, number)


@handles(
    1,
    _("Ends of the near edge (bars)"),
    _(
        "vanishing points and true measures stay; Shift on the upper bar changes the true height "
        "instead"
    ),
)
def bars(document: Document, scene: Scene) -> list[Handle]:
    """A bar beyond each end of the near edge."""
    ends = _ends(document)
    if ends is None:
        return []
    (foot, top), pick = ends, _pick(document, scene)

    def number(document: Document, scene: Scene) -> str:
        return near_edge_in_words(document)

    return [
        Bar(
            "near top",
            _("Near edge, top end"),
            top,
            eye_edits.pull_near_edge_top,
            _("foot, vanishing points and true measures stay; Shift changes the true height"),
            number,
            foot,
            pick=pick,
            shifted=lambda document, to: volume_edits.slide_far_edge(document, 2, 0.0, to),
            shift_stays=_("the eye stays; the true height changes"),
            typed="height",
        ),
        Bar(
            "near foot",
            _("Near edge, lower end"),
            foot,
            eye_edits.pull_near_edge_foot,
            _("top end, vanishing points and true measures stay"),
            number,
            top,
            pick=pick,
        ),
    ]


@handles(
    2,
    _("Near corner (ring)"),
    _("the eye and all others stay; of a thing alone, and with Shift, the eye moves"),
)
def ring(document: Document, scene: Scene) -> list[Handle]:
    """A ring at the near corner."""
    ends = _ends(document)
    if ends is None:
        return []
    ring = Ring(
        "near corner",
        _("Near corner"),
        ends[0],
        eye_edits.place_near_corner,
        _("vanishing points and the drawn near edge stay; the eye moves"),
        lambda document, scene: near_corner_in_words(document),
        pick=_pick(document, scene),
    )
    body = volume_handle(document) if len(document.volumes) > 1 else None
    if body is None:
        return [ring]
    return [  # among others it is the thing that goes, with Shift all of them
        replace(
            ring,
            drag=body.drag,
            slides=body.slides,
            stays=_("the eye and all others stay; with Shift all of it goes along"),
            shifted=eye_edits.place_near_corner,
            shift_stays=ring.stays,
        )
    ]
