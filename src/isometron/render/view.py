"""How a flat drawing in millimetres lies on a device. Here, and only here, y turns downward."""

import math
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np
from PyQt6.QtCore import QPointF, QRectF
from PyQt6.QtGui import QPainterPath, QPolygonF

from isometron.perspective.eye import Array
from isometron.perspective.places import Place, Rectangle

LEAST_MM = 1e-6
"""Nothing is fitted smaller than this."""


@dataclass(frozen=True)
class View:
    """Device px per mm, where the drawing's (0, 0) lies on the device, and by how much the drawing
    is turned there, counter-clockwise."""

    scale: float
    left: float
    bottom: float
    turn_deg: float = 0.0

    @cached_property
    def _turn(self) -> tuple[float, float]:
        """Cosine and sine of the turn."""
        turn = math.radians(self.turn_deg)
        return round(math.cos(turn), 15), round(math.sin(turn), 15)

    @property
    def level(self) -> QPointF:
        """The way of one px along the drawing's level lines, on the device."""
        c, s = self._turn
        return QPointF(c, -s)

    @classmethod
    def fit(
        cls, part: Rectangle, box: QRectF, least_mm: float = LEAST_MM, turn_deg: float = 0.0
    ) -> "View":
        """The view, turned by so much, that shows a rectangle left, bottom, right, top (mm) as
        large as it fits in the middle of a box of the device; no smaller part than `least_mm` is
        blown up to fill it."""
        left, bottom, right, top = part
        wide, high = max(right - left, least_mm), max(top - bottom, least_mm)
        c, s = abs(math.cos(math.radians(turn_deg))), abs(math.sin(math.radians(turn_deg)))
        across, along = c * wide + s * high, s * wide + c * high
        bare = cls(min(box.width() / across, box.height() / along), 0.0, 0.0, turn_deg)
        off = box.center() - bare.point(((left + right) / 2, (bottom + top) / 2))
        return bare.panned(off)

    def to_device(self, lines: Array) -> Array:
        """Lines (n, 4) mm as device px."""
        if self.turn_deg == 0:
            signs = np.array([self.scale, -self.scale, self.scale, -self.scale])
            origin = np.array([self.left, self.bottom, self.left, self.bottom])
            return np.asarray(lines * signs + origin)
        c, s = self._turn
        linear = self.scale * np.array([[c, -s], [-s, -c]])
        placed = lines.reshape(-1, 2) @ linear + (self.left, self.bottom)
        return np.asarray(placed.reshape(lines.shape))

    def places(self, points: Array) -> list[QPointF]:
        """Points (n, 2) mm on the device."""
        return [self.point((x, y)) for x, y in points.tolist()]

    def point(self, mm: Place) -> QPointF:
        """A place on the device."""
        (c, s), x, y = self._turn, mm[0] * self.scale, mm[1] * self.scale
        return QPointF(self.left + c * x - s * y, self.bottom - s * x - c * y)

    def sheet(self, device: QPointF) -> Place:
        """A place of the device, mm."""
        return self.moved(device - QPointF(self.left, self.bottom))

    def moved(self, by: QPointF) -> Place:
        """What a way on the device is in mm, right and up."""
        (c, s), right, down = self._turn, by.x() / self.scale, by.y() / self.scale
        return c * right - s * down, -s * right - c * down

    def outline(self, mm: Rectangle) -> QPainterPath:
        """A rectangle left, bottom, right, top on the device, turned as it lies."""
        left, bottom, right, top = mm
        path = QPainterPath()
        corners = ((left, top), (right, top), (right, bottom), (left, bottom))
        path.addPolygon(QPolygonF([self.point(corner) for corner in corners]))
        path.closeSubpath()
        return path

    def rectangle(self, mm: Rectangle) -> QRectF:
        """The upright rectangle of the device round a rectangle left, bottom, right, top."""
        left, bottom, right, top = mm
        every = [self.point((x, y)) for x in (left, right) for y in (bottom, top)]
        (low, high), (first, last) = (
            (min(values), max(values))
            for values in zip(*((p.x(), p.y()) for p in every), strict=True)
        )
        return QRectF(QPointF(low, first), QPointF(high, last))

    def around(self, box: QRectF) -> Rectangle:
        """The rectangle left, bottom, right, top (mm) round a box of the device."""
        corners = (box.topLeft(), box.topRight(), box.bottomRight(), box.bottomLeft())
        xs, ys = zip(*(self.sheet(QPointF(corner)) for corner in corners), strict=True)
        return min(xs), min(ys), max(xs), max(ys)

    def panned(self, by: QPointF) -> "View":
        """The same drawing pushed over the device, px."""
        return replace(self, left=self.left + by.x(), bottom=self.bottom + by.y())

    def turned(self, by_deg: float, about: QPointF) -> "View":
        """The same drawing turned, counter-clockwise, about a place of the device."""
        kept, turn = self.sheet(about), math.remainder(self.turn_deg + by_deg, 360.0)
        bare = replace(self, turn_deg=turn)
        return bare.panned(about - bare.point(kept))


def bounds_of_points(points: Array) -> Rectangle:
    """Left, bottom, right, top of points (n, 2)."""
    (left, bottom), (right, top) = points.min(axis=0).tolist(), points.max(axis=0).tolist()
    return left, bottom, right, top
