"""The light on the board: the sun's two points, the lamp and its foot."""

import math
from dataclasses import dataclass
from functools import partial

import numpy as np
from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtGui import QColor, QPainter, QPen

from isometron.document.document import Document
from isometron.document.edits.lighting import drag_shadow_tip
from isometron.document.light import Grip
from isometron.drawing.picks.of_sheet import LightPick
from isometron.drawing.scene import Scene
from isometron.drawing.shading.light_points import (
    VanishingPoint,
    ground_shadows,
    ray_point,
    shadow_point,
)
from isometron.perspective.eye import Array
from isometron.perspective.projection import project
from isometron.ui.board.handles.handle import Handle, On
from isometron.ui.board.handles.table import handles
from isometron.ui.parts.theme import INK
from isometron.words import _

SUN = "#f2c84b"
RADIUS, RAYS = 7.0, 8


@dataclass(frozen=True, eq=False)
class LightPoint(Handle):
    """A disc, with rays about it where it is the light itself or where the rays run."""

    rays: bool

    def paint(self, painter: QPainter, on: On, *, hot: bool) -> None:
        at = self.at(on.view)
        painter.setPen(QPen(QColor(INK), 2.0 if hot else 1.2))
        if self.rays:
            for number in range(RAYS):
                angle = 2 * math.pi * number / RAYS
                way = QPointF(math.cos(angle), math.sin(angle))
                painter.drawLine(at + way * (RADIUS + 3), at + way * (RADIUS + 7))
        painter.setBrush(QColor(on.room.lamp if hot else SUN))
        painter.drawEllipse(at, RADIUS, RADIUS)
        painter.setBrush(Qt.BrushStyle.NoBrush)


@handles(4, _("Light"), _("framework and eye stay; shadows and values follow"))
def light_points(document: Document, scene: Scene) -> list[Handle]:
    """The two points of the light on the sheet, as far as they are drawn."""
    light = document.light
    if light is None:
        return []
    points = {True: ray_point(document.eye, light), False: shadow_point(document.eye, light)}
    found = [_handle(grip, points[grip.of_rays]) for grip in light.grips]
    return [one for one in (*found, _tip(document, scene)) if one is not None]


def _tip(document: Document, scene: Scene) -> Handle | None:
    """The tip of the shadow of the volume in work that falls farthest, where it can be seen."""
    light, number = document.light, document.selected
    if light is None or number is None or not document.shading.shadows:
        return None
    picture = scene.pictures[number]
    world = np.asarray(picture.world, dtype=float)
    if not picture.volume.shown or picture.volume.ghost or not len(world):
        return None
    shadows = ground_shadows(light, world)
    far = np.nan_to_num(np.hypot(*(shadows - world)[:, :2].T), nan=-1.0)
    drawn = project(document.eye, np.nan_to_num(shadows))
    order = [n for n in np.argsort(-far).tolist() if far[n] > 0 and drawn.seen[n]]
    corner = next((n for n in order if not _covered(scene, drawn.sheet[n])), None)
    if corner is None:
        return None
    x, y, z = world[corner].tolist()
    return LightPoint(
        "light tip",
        _("Tip of the shadow"),
        (float(drawn.sheet[corner, 0]), float(drawn.sheet[corner, 1])),
        partial(drag_shadow_tip, corner=(x, y, z)),
        _("the framework stays"),
        _number,
        False,
        pick=LightPick(),
    )


def _covered(scene: Scene, place: Array) -> bool:
    """Whether a place of the sheet lies inside what is drawn of a volume, or may do."""
    import shapely

    for bounds, picture in zip(scene.bounds, scene.pictures, strict=True):
        left, bottom, right, top = bounds.tolist()
        if left < place[0] < right and bottom < place[1] < top:
            corners = picture.sheet[np.isfinite(picture.sheet).all(axis=1)]
            hull = shapely.convex_hull(shapely.multipoints(corners))
            if shapely.contains_xy(hull, *place):
                return True
    return False


def _handle(grip: Grip, point: VanishingPoint | None) -> Handle | None:
    if point is None or point.sheet_mm is None:
        return None
    key, rays = f"light {grip.key}", grip.of_rays
    return LightPoint(
        key, grip.title, point.sheet_mm, grip.drag, grip.stays, _number, rays, pick=LightPick()
    )


def _number(document: Document, scene: Scene) -> str:
    light = document.light
    return "" if light is None else light.in_words(document.choices.unit)
