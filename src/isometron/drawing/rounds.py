"""The circles of a scene: how each is drawn, what the rule of thumb costs, which guide fits."""

import math
from functools import lru_cache
from typing import NamedTuple

import numpy as np

from isometron.document.document import Document
from isometron.document.edits.shapes.rounding import turned_of
from isometron.document.kit import Kit
from isometron.drawing.scene import Scene
from isometron.drawing.volume_picture import VolumePicture
from isometron.framework.volume import Volume
from isometron.nearness import SAME
from isometron.perspective.ellipses import (
    CirclePicture,
    Ellipse,
    Guide,
    circle_picture,
    nearest_guide,
    rule_gap,
)
from isometron.perspective.eye import Array, Eye
from isometron.perspective.lengths import write_mm, write_number
from isometron.perspective.projection import project
from isometron.perspective.remembering import remembered
from isometron.words import _

MOST_HEIGHTS = 48
"""Heights at which the degree of a turned form is worked out for its graph."""


class DrawnCircle(NamedTuple):
    """A circle of a volume as it is drawn: volume and circle numbers, its name, world centre (3,)
    mm, normal (3,) and two directions across (2, 3), radius mm, its picture."""

    volume: int
    number: int
    name: str
    role: str
    centre: Array
    axes: Array
    radius_mm: float
    picture: CirclePicture

    @property
    def normal(self) -> Array:
        """Unit direction of its axle."""
        return np.asarray(np.cross(self.axes[0], self.axes[1]))

    @property
    def ellipse(self) -> Ellipse | None:
        """Its ellipse; None for a circle that is drawn as something else (`picture.conic`)."""
        return self.picture.ellipse

    def rule_gap_mm(self) -> float | None:
        """How far the ellipse drawn by the rule of the minor axis misses the true one, mm."""
        if self.ellipse is None or self.picture.axle_deg is None or self.picture.miss_deg is None:
            return None
        return _gap(self.ellipse, self.picture.axle_deg)

    def rule_gap_bound_mm(self) -> float:
        """A quick upper bound of it: (a − b) · 2 · sin(miss / 2)."""
        if self.ellipse is None or self.picture.miss_deg is None:
            return 0.0
        spread = self.ellipse.semi_major_mm - self.ellipse.semi_minor_mm
        return 2 * spread * math.sin(math.radians(self.picture.miss_deg) / 2)

    def guide(self, kit: Kit) -> Guide | None:
        """The nearest guide of the person's own set."""
        if self.ellipse is None:
            return None
        return nearest_guide(self.ellipse, kit.guide_degrees, kit.guide_sizes_mm)

    def guide_words(self, kit: Kit) -> str:
        """The nearest guide in words; none for a set without guides or what is no ellipse."""
        guide = self.guide(kit)
        if guide is None:
            return ""
        if guide.larger:
            return _("larger than your guides")
        size = f"{write_number(guide.degree_deg)}° {write_number(guide.long_axis_mm)} mm"
        return _("{guide}, off {error}").format(guide=size, error=write_mm(guide.error_mm))

    def square(self, eye: Eye) -> Array:
        """The square round it on the sheet: four corners, the four touching points, the middle and
        the four points on the diagonals, (13, 2) mm; NaN behind the eye."""
        across, along = self.radius_mm * self.axes
        unit = [(-1, -1), (1, -1), (1, 1), (-1, 1), (0, -1), (1, 0), (0, 1), (-1, 0), (0, 0)]
        r = math.sqrt(0.5)
        unit += [(-r, -r), (r, -r), (r, r), (-r, r)]  # type: ignore[list-item]
        places = np.array([self.centre + x * across + y * along for x, y in unit])
        return project(eye, places).sheet


@lru_cache(maxsize=4096)
def _gap(ellipse: Ellipse, axle_deg: float) -> float:
    return rule_gap(ellipse, axle_deg)


def circles_of(scene: Scene, index: int) -> tuple[DrawnCircle, ...]:
    """The circles of one volume, in the order of its body."""
    return _circles(scene.eye, scene.pictures[index], index)


@remembered(on=1)
def _circles(eye: Eye, picture: VolumePicture, index: int) -> tuple[DrawnCircle, ...]:
    circles = picture.body.circles
    if not picture.volume.shown:
        return ()
    place, axes = picture.figure.place, picture.axes
    return tuple(
        DrawnCircle(
            index,
            number,
            picture.volume.shape.circle_called(circle, circles),
            circle.role,
            circle.centre @ axes + place,
            circle.axes @ axes,
            circle.radius_mm,
            circle_picture(
                eye, circle.centre @ axes + place, circle.normal @ axes, circle.radius_mm
            ),
        )
        for number, circle in enumerate(circles)
    )


def all_circles(scene: Scene) -> list[DrawnCircle]:
    """Every circle of every volume that is shown and no ghost."""
    return [
        circle
        for index, picture in enumerate(scene.pictures)
        if not picture.volume.ghost
        for circle in circles_of(scene, index)
    ]


def circle_in_work(document: Document, scene: Scene) -> DrawnCircle | None:
    """The circle in work: the chosen one of the volume in work, else its largest one nearest us."""
    if document.selected is None or document.selected >= len(scene.pictures):
        return None
    circles = circles_of(scene, document.selected)
    if not circles:
        return None
    if document.circle is not None and document.circle < len(circles):
        return circles[document.circle]
    eye = np.array(document.eye.place)
    return min(
        circles,
        key=lambda one: (-round(one.radius_mm, 6), float(np.linalg.norm(one.centre - eye))),
    )


class HeightDegree(NamedTuple):
    """The degree of a turned form's circle at a height above its base, mm; negative when it is seen
    from below; whether it is one of the form's own circles."""

    height_mm: float
    degree_deg: float
    own: bool


def degrees_over_height(document: Document, index: int) -> tuple[HeightDegree, ...]:
    """Degrees of the level circles of an upright turned form, from its base up: its own circles and
    places between; () for other volumes."""
    volume = document.volumes[index]
    shape = turned_of(volume)
    if shape is None:
        return ()
    axle = volume.pose[1][shape.axis]
    own_axle, pieces = shape.pieces(volume.sides)
    length, radius = own_axle.length, own_axle.radius
    base = _base_of(volume)
    own = {round(h * length, 9) for h, r in shape.stations if r > 0}
    heights = sorted(own | {length * i / MOST_HEIGHTS for i in range(MOST_HEIGHTS + 1)})
    eye_height = height_of_eye(document, index)
    found = []
    for height in heights:
        piece = next((p for p in pieces if p.low <= height <= p.high), None)
        wide = 0.0 if piece is None else piece.radius(height)
        if wide <= SAME * radius:
            continue
        drawn = circle_picture(document.eye, base + height * axle, axle, wide)
        sign = 1.0 if eye_height > height else -1.0
        if drawn.ellipse is not None:
            found.append(HeightDegree(height, sign * drawn.ellipse.degree_deg, height in own))
        elif drawn.conic == "line":
            found.append(HeightDegree(height, 0.0, height in own))
    return tuple(found)


def _base_of(volume: Volume) -> Array:
    """The middle (3,) of the base of a volume's axle, world mm."""
    place, axes = volume.pose
    own = np.array(volume.sides) / 2
    own[volume.shape.axle or 0] = 0.0
    return np.asarray(place + own @ axes)


def height_of_eye(document: Document, index: int) -> float:
    """How far the eye lies up the axle of a turned volume from its base, mm."""
    volume = document.volumes[index]
    axle = volume.shape.axle
    if axle is None:
        return 0.0
    away = np.array(document.eye.place) - _base_of(volume)
    return float(away @ volume.pose[1][axle])
