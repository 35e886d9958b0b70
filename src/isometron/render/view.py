"""How a flat drawing in millimetres lies on a device. Here, and only here, y turns downward."""

from dataclasses import dataclass

import numpy as np
from PyQt6.QtCore import QPointF, QRectF

from isometron.perspective.eye import Array
from isometron.perspective.sheet import Rectangle

Point = tuple[float, float]

LEAST_MM = 1e-6
"""Nothing is fitted smaller than this."""


@dataclass(frozen=True)
class View:
    """Device px per mm, and where the drawing's (0, 0) lies on the device."""

    scale: float
    left: float
    bottom: float

    @classmethod
    def fit(cls, part: Rectangle, box: QRectF, least_mm: float = LEAST_MM) -> "View":
        """The view that shows a rectangle left, bottom, right, top (mm) as large as it fits in the
        middle of a box of the device; no smaller part than `least_mm` is blown up to fill it."""
        left, bottom, right, top = part
        wide, high = max(right - left, least_mm), max(top - bottom, least_mm)
        scale = min(box.width() / wide, box.height() / high)
        middle = box.center()
        return cls(
            scale,
            middle.x() - scale * (left + right) / 2,
            middle.y() + scale * (bottom + top) / 2,
        )

    def to_device(self, lines: Array) -> Array:
        """Lines (n, 4) mm as device px."""
        signs = np.array([self.scale, -self.scale, self.scale, -self.scale])
        origin = np.array([self.left, self.bottom, self.left, self.bottom])
        return np.asarray(lines * signs + origin)

    def places(self, points: Array) -> list[QPointF]:
        """Points (n, 2) mm on the device."""
        return [self.point((x, y)) for x, y in points.tolist()]

    def point(self, mm: Point) -> QPointF:
        """A place on the device."""
        return QPointF(self.left + mm[0] * self.scale, self.bottom - mm[1] * self.scale)

    def sheet(self, device: QPointF) -> Point:
        """A place of the device, mm."""
        return (device.x() - self.left) / self.scale, (self.bottom - device.y()) / self.scale

    def moved(self, by: QPointF) -> Point:
        """What a way on the device is in mm, right and up."""
        return by.x() / self.scale, -by.y() / self.scale

    def rectangle(self, mm: Rectangle) -> QRectF:
        """A rectangle left, bottom, right, top on the device."""
        left, bottom, right, top = mm
        return QRectF(self.point((left, top)), self.point((right, bottom)))

    def panned(self, by: QPointF) -> "View":
        """The same drawing pushed over the device, px."""
        return View(self.scale, self.left + by.x(), self.bottom + by.y())


def bounds_of_points(points: Array) -> Rectangle:
    """Left, bottom, right, top of points (n, 2)."""
    (left, bottom), (right, top) = points.min(axis=0).tolist(), points.max(axis=0).tolist()
    return left, bottom, right, top
