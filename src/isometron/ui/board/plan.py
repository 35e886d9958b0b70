"""The station plan and the side elevation: further handles on the same state."""

import contextlib
from collections.abc import Callable, Iterator
from functools import partial
from typing import NamedTuple

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF
from PyQt6.QtWidgets import QSizePolicy, QWidget

from isometron.document.document import Document
from isometron.document.edits import eye_edits
from isometron.document.edits.places.origin import move_origin
from isometron.document.edits.places.placing_flat import lift, push, turn_towards
from isometron.drawing.scene import Scene
from isometron.drawing.stations import PlanView, SideView, plan_view, side_view, turned
from isometron.perspective.lengths import write_angle, write_length
from isometron.perspective.places import Place
from isometron.render.painter import painting_on
from isometron.render.view import View, bounds_of_points
from isometron.ui.parts.theme import GROUND, MARKER, family_colour, font
from isometron.ui.parts.touching import apart
from isometron.ui.parts.wishes import Edit, Wishes
from isometron.words import _

GRAB_PX, KNOB_PX, ORIGIN_PX = 10.0, 5.5, 5.0
CLEAR = QColor(0, 0, 0, 0)


class Grip(NamedTuple):
    """Something on a flat view that can be taken hold of: how help and the plate call it, what
    stays, what a drag is called in the list of steps, where it is, what a drag means."""

    key: str
    title: str
    stays: str
    name: str
    place: Place
    edit: Callable[[Place], Edit]
    volume: int | None = None
    """The volume it drags: a click chooses it."""


HELP = (
    (_("Plan: eye"), _("near corner stays on the paper; height and station distance stay")),
    (
        _("Plan: sight line"),
        _("the eye stays where it stands; near corner stays on the paper"),
    ),
    (_("Plan: a volume"), _("it is pushed over the ground; the eye stays")),
    (_("Plan: the knob beside a volume"), _("it turns about its centre; the eye stays")),
    (_("Plan: ground origin"), _("volumes stay; typed places are counted from here")),
    (_("Side: eye height, tilt"), _("near corner stays on the paper")),
    (_("Side: a volume"), _("it is lifted or let down; the eye stays")),
)


def _taken(under: list[tuple[int, bool]]) -> int | None:
    """Of the volumes under the pointer, with whether each is in work, the one a press takes: the
    one in work, else the last drawn."""
    last = under[-1][0] if under else None
    return next((index for index, chosen in under if chosen), last)


def _pushed(document: Document, to: Place, index: int, start: Place) -> Document:
    return push(document, index, (to[0] - start[0], to[1] - start[1]))


class FlatView(QWidget):
    """A flat drawing with handles."""

    MARGINS = (18, 8, -18, -16)
    LEAST_MM = 1.0

    def __init__(self, wishes: Wishes, name: str, tip: str) -> None:
        super().__init__()
        self.wishes = wishes
        self.setAccessibleName(name)
        self.setAccessibleDescription(tip)
        self.setMouseTracking(True)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self._view: View | None = None
        self._held: Grip | None = None
        self._moved = False

    def grips(self) -> list[Grip]:
        """What can be taken hold of."""
        raise NotImplementedError

    def handles(self) -> dict[str, tuple[QPointF, str]]:
        """Place and words of each handle, by its key."""
        if self._view is None:
            return {}
        return {g.key: (self._view.point(g.place), f"{g.title}: {g.stays}") for g in self.grips()}

    def body_at(self, place: Place) -> Grip | None:
        """The volume that lies at a place, to be dragged by it."""
        return None

    def volume_at(self, at: QPointF) -> int | None:
        """The volume drawn at a place of the widget."""
        grip = None if self._view is None else self.body_at(self._view.sheet(at))
        return None if grip is None else grip.volume

    def _grip_at(self, at: QPointF) -> Grip | None:
        if self._view is None:
            return None
        view = self._view
        knob = next((g for g in self.grips() if apart(view.point(g.place), at) < GRAB_PX), None)
        return knob or self.body_at(view.sheet(at))

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and event.button() == Qt.MouseButton.LeftButton:
            self._held, self._moved = self._grip_at(event.position()), False

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is None or self._view is None:
            return
        grip = self._held or self._grip_at(event.position())
        self.wishes.hint(f"{grip.title}: {grip.stays}" if grip else "")
        if self._held is None:
            self.setCursor(Qt.CursorShape.OpenHandCursor if grip else Qt.CursorShape.ArrowCursor)
            return
        self._moved = True
        self.wishes.drag(self._held.edit(self._view.sheet(event.position())))

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        held, self._held = self._held, None
        if held is not None and self._moved:
            self.wishes.drop(held.name)
            self.wishes.hint("")
        elif held is not None and held.volume is not None:
            self.wishes.choose(held.volume)
        self.update()

    def _fit(self, extent: np.ndarray) -> View:
        """The view of all there is, kept as it was while something is held."""
        if self._held is None or self._view is None:
            box = QRectF(self.rect()).adjusted(*self.MARGINS)
            self._view = View.fit(bounds_of_points(extent), box, self.LEAST_MM)
        return self._view

    @contextlib.contextmanager
    def _begin(self) -> Iterator[QPainter]:
        with painting_on(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.setClipRect(self.rect())
            painter.setFont(font())
            yield painter

    def _knob(self, painter: QPainter, at: QPointF, colour: str, px: float = KNOB_PX) -> None:
        painter.setPen(QPen(QColor(colour), 2.0))
        painter.setBrush(QColor(self.wishes.room.field))
        painter.drawEllipse(at, px, px)

    def _origin(self, painter: QPainter, at: QPointF) -> None:
        painter.setPen(QPen(QColor(GROUND), 1.6))
        painter.drawLine(at - QPointF(ORIGIN_PX, 0), at + QPointF(ORIGIN_PX, 0))
        painter.drawLine(at - QPointF(0, ORIGIN_PX), at + QPointF(0, ORIGIN_PX))


class StationPlan(FlatView):
    """Eye, picture plane, cone, footprints and sight directions from above."""

    def __init__(self, wishes: Wishes) -> None:
        super().__init__(
            wishes,
            _("Station plan"),
            _("The eye and the volumes from above; the same numbers are on the Eye card."),
        )
        self._plan: PlanView | None = None
        self._names: list[str] = []

    def show_document(self, document: Document, scene: Scene) -> None:
        """Show a document from above."""
        held = self._plan.up_deg if self._plan and self._held else document.eye.heading_deg
        self._plan = plan_view(document, scene, held)
        self._names = [volume.name for volume in document.volumes]
        self.update()

    def grips(self) -> list[Grip]:
        if self._plan is None:
            return []
        return [
            Grip(
                "eye",
                _("Eye"),
                _("The near corner stays on the paper, height and station distance too."),
                _("drag the eye"),
                self._plan.eye,
                lambda place: self._edit(eye_edits.move_eye, place),
            ),
            Grip(
                "sight line",
                _("Sight line"),
                _("The eye stays where it stands; the near corner stays on the paper."),
                _("drag the sight line"),
                self._plan.sight_end,
                lambda place: self._edit(eye_edits.look_towards, place),
            ),
            *self._turn(),
            Grip(
                "origin",
                _("Ground origin"),
                _("Volumes stay; typed places are counted from here."),
                _("drag the origin"),
                self._plan.origin,
                lambda place: self._edit(move_origin, place),
            ),
        ]

    def _turn(self) -> list[Grip]:
        if self._plan is None or self._plan.turns is None:
            return []
        return [
            Grip(
                "turn",
                _("Turn"),
                _("It turns on the ground about its centre; the eye stays."),
                _("turn on the ground"),
                self._plan.turns[1],
                lambda place: self._edit(turn_towards, place),
            )
        ]

    def body_at(self, place: Place) -> Grip | None:
        plan = self._plan
        if plan is None:
            return None
        under = [
            (index, chosen)
            for index, (ring, chosen) in enumerate(plan.footprints)
            if QPolygonF([QPointF(x, y) for x, y in ring.tolist()]).containsPoint(
                QPointF(*place), Qt.FillRule.OddEvenFill
            )
        ]
        index = _taken(under)
        if index is None:
            return None
        return Grip(
            "volume",
            self._names[index],
            _("It is pushed over the ground; the eye stays."),
            _("push over the ground"),
            place,
            lambda to: self._edit(partial(_pushed, index=index, start=self._ground(place)), to),
            index,
        )

    def _ground(self, place: Place) -> Place:
        """A place of the plan in the world."""
        assert self._plan is not None
        x, y = (float(v) for v in turned(np.array(place), -self._plan.up_deg))
        return x, y

    def _edit(self, edit: Callable[[Document, Place], Document], place: Place) -> Edit:
        ground = self._ground(place)
        return lambda document: edit(document, ground)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        plan, room = self._plan, self.wishes.room
        if plan is None:
            return
        at = self._fit(plan.extent).point
        with self._begin() as painter:
            dotted = QPen(QColor(room.soft_ink), 1.2)
            dotted.setDashPattern([1.5, 3.5])
            painter.setPen(dotted)
            for end in plan.cone_ends:
                painter.drawLine(at(plan.eye), at(end))
            painter.setPen(QPen(QColor(room.soft_ink), 1.2))
            left, right = at(plan.picture_plane[0]), at(plan.picture_plane[1])
            painter.drawLine(left, right)
            for ring, chosen in plan.footprints:
                painter.setPen(QPen(QColor(room.ink), 1.6))
                painter.setBrush(QColor(MARKER) if chosen else CLEAR)
                painter.drawPolygon(QPolygonF([at((x, y)) for x, y in ring.tolist()]))
            for family, end in plan.directions:
                painter.setPen(QPen(family_colour(room, family), 1.8))
                painter.drawLine(at(plan.eye), at(end))
            painter.setPen(QPen(QColor(room.ink), 1.4))
            painter.drawLine(at(plan.eye), at(plan.sight_end))
            self._origin(painter, at(plan.origin))
            if plan.turns is not None:
                painter.setPen(QPen(QColor(room.ink), 1.0))
                painter.drawLine(at(plan.turns[0]), at(plan.turns[1]))
                self._knob(painter, at(plan.turns[1]), room.soft_ink, 3.5)
            self._knob(painter, at(plan.sight_end), room.ink)
            self._knob(painter, at(plan.eye), room.level)
            painter.setPen(QColor(room.level))
            painter.drawText(at(plan.eye) + QPointF(10, 14), _("eye"))
            painter.setPen(QColor(room.soft_ink))
            words = _("picture plane")
            width = painter.fontMetrics().horizontalAdvance(words)
            begin, foot = self.width() - width - 2.0, right.y() - 5.0
            high = painter.fontMetrics().ascent()
            under = QRectF(begin - 3, foot - high, width + 5, high + 3)
            painter.fillRect(under, QColor(room.card))
            painter.drawText(QPointF(begin, foot), words)


class SideElevation(FlatView):
    """Eye height and tilt from the side."""

    MARGINS = (18, 12, -22, -10)

    def __init__(self, wishes: Wishes) -> None:
        super().__init__(
            wishes,
            _("Side elevation"),
            _("Eye height and tilt from the side; the same numbers are on the Eye card."),
        )
        self._side: SideView | None = None
        self._names: list[str] = []

    def show_document(self, document: Document, scene: Scene) -> None:
        """Show a document from the side."""
        self._side = side_view(document, scene)
        self._names = [volume.name for volume in document.volumes]
        self.update()

    def body_at(self, place: Place) -> Grip | None:
        side, (x, z) = self._side, place
        if side is None:
            return None
        under = [
            (index, chosen)
            for index, ((near, far, low, high), chosen) in enumerate(side.silhouettes)
            if near <= x <= far and low <= z <= high
        ]
        index = _taken(under)
        if index is None:
            return None
        return Grip(
            "volume",
            self._names[index],
            _("It is lifted or let down; the eye stays."),
            _("lift"),
            place,
            lambda to: lambda document: lift(document, index, to[1] - z),
            index,
        )

    def words(self, document: Document) -> str:
        """Eye height and tilt in words."""
        eye = document.eye
        height = write_length(eye.height_mm, document.choices.unit)
        if eye.tilt_deg == 0:
            return _("{height} up, level").format(height=height)
        told = _("{height} up, {tilt} down") if eye.tilt_deg < 0 else _("{height} up, {tilt} up")
        return told.format(height=height, tilt=write_angle(abs(eye.tilt_deg)))

    def grips(self) -> list[Grip]:
        if self._side is None:
            return []
        return [
            Grip(
                "eye height",
                _("Eye height"),
                _("The eye goes up or down; the near corner stays on the paper."),
                _("drag the eye height"),
                self._side.eye,
                lambda place: lambda document: eye_edits.set_eye_height(document, place[1]),
            ),
            Grip(
                "tilt",
                _("Tilt"),
                _("The eye tilts where it stands; the near corner stays on the paper."),
                _("drag the tilt"),
                self._side.sight_end,
                lambda place: lambda document: eye_edits.tilt_towards(document, place),
            ),
        ]

    def paintEvent(self, event: QPaintEvent | None) -> None:
        side, room = self._side, self.wishes.room
        if side is None:
            return
        at = self._fit(side.extent).point
        with self._begin() as painter:
            ground = at((0.0, 0.0)).y()
            painter.setPen(QPen(QColor(room.soft_ink), 1.2))
            painter.drawLine(QPointF(4, ground), QPointF(self.width() - 4, ground))
            for (near, far, low, high), chosen in side.silhouettes:
                painter.setPen(QPen(QColor(room.ink), 1.6))
                painter.setBrush(QColor(MARKER) if chosen else CLEAR)
                painter.drawRect(QRectF(at((near, high)), at((far, low))))
            painter.setPen(QPen(QColor(room.level), 1.4))
            painter.drawLine(at(side.eye), QPointF(at(side.eye).x(), ground))
            level = QPen(QColor(room.level), 1.2)
            level.setDashPattern([4.0, 3.0])
            painter.setPen(level)
            painter.drawLine(at(side.eye), QPointF(self.width() - 4.0, at(side.eye).y()))
            painter.setPen(QPen(QColor(room.ink), 1.4))
            painter.drawLine(at(side.eye), at(side.sight_end))
            self._knob(painter, at(side.sight_end), room.ink)
            self._knob(painter, at(side.eye), room.level)
