"""Boxes: true size, place and turn, and their corners, edges and faces in the world."""

import math
from dataclasses import dataclass, replace

import numpy as np

from isometron.perspective.angles import EXTENDED, cosine_sine, wrapped
from isometron.perspective.errors import VolumeError
from isometron.perspective.eye import LARGEST_MM, Array

SMALLEST_MM = 0.01
"""A side thinner than a hair of ink is a slip of the keyboard."""

LONGEST_NAME = 60
"""Longer names fit no list."""

AXES = ("width", "depth", "height")
"""The three sides of a box: along its own x, y and z."""

CORNERS = np.array([[i & 1, i >> 1 & 1, i >> 2] for i in range(8)], dtype=float)
"""Corner i of the unit box: bit 0 is x, bit 1 is y, bit 2 is z. 0…3 is the base, 4…7 the top."""

EDGES = np.array(
    [(i, i | bit) for bit in (1, 2, 4) for i in range(8) if not i & bit], dtype=np.intp
)
"""(12, 2) corner indices; edges 0…3 run along x, 4…7 along y, 8…11 upright."""

FACES = np.array(
    [[0, 2, 6, 4], [1, 5, 7, 3], [0, 4, 5, 1], [2, 3, 7, 6], [0, 1, 3, 2], [4, 6, 7, 5]],
    dtype=np.intp,
)
"""(6, 4) corner indices in order round the face: x=0, x=1, y=0, y=1, base, top."""

FACE_NORMALS = np.array(
    [[-1, 0, 0], [1, 0, 0], [0, -1, 0], [0, 1, 0], [0, 0, -1], [0, 0, 1]], dtype=float
)
"""Outward normals in the box's own axes."""

EDGE_FACES = np.array(
    [
        [f for f, ring in enumerate(FACES.tolist()) if {int(i), int(j)} <= set(ring)]
        for i, j in EDGES
    ],
    dtype=np.intp,
)
"""(12, 2) the two faces each edge joins."""


@dataclass(frozen=True)
class Box:
    """An upright box: sides in mm, place of its corner 0 (world mm), yaw in degrees.

    Yaw is positive counter-clockwise seen from above; width runs along the turned x axis, depth
    along the turned y axis.
    """

    name: str
    width_mm: float
    depth_mm: float
    height_mm: float
    x_mm: float = 0.0
    y_mm: float = 0.0
    z_mm: float = 0.0
    yaw_deg: float = 0.0

    def __post_init__(self) -> None:
        if not (1 <= len(self.name) <= LONGEST_NAME and self.name.isprintable()):
            raise VolumeError(f"A name needs 1 to {LONGEST_NAME} plain letters: change it.")
        for axis, side in zip(AXES, self.sides, strict=True):
            if not (math.isfinite(side) and SMALLEST_MM <= side <= LARGEST_MM):
                raise VolumeError(
                    f"A {axis} of {side:g} mm gives no box: "
                    f"choose between {SMALLEST_MM:g} mm and a kilometre."
                )
        if not all(math.isfinite(v) and abs(v) <= LARGEST_MM for v in self.place):
            raise VolumeError(f"{self.name} stands out of reach: keep it within a kilometre.")
        if not math.isfinite(self.yaw_deg):
            raise VolumeError(f"The turn of {self.name} is not an angle: give it in degrees.")
        object.__setattr__(self, "yaw_deg", wrapped(self.yaw_deg))

    @property
    def sides(self) -> tuple[float, float, float]:
        """Width, depth, height in mm."""
        return self.width_mm, self.depth_mm, self.height_mm

    @property
    def place(self) -> tuple[float, float, float]:
        """World place of corner 0, mm."""
        return self.x_mm, self.y_mm, self.z_mm

    def axes(self) -> Array:
        """Unit directions of width, depth and height as rows (3, 3), extended precision."""
        c, s = cosine_sine(self.yaw_deg)
        zero, one = EXTENDED(0), EXTENDED(1)
        return np.array([[c, s, zero], [-s, c, zero], [zero, zero, one]], dtype=EXTENDED)

    def corners(self) -> Array:
        """The eight corners, (8, 3) world mm, in the order of CORNERS."""
        reach = CORNERS * np.array(self.sides)
        return np.asarray((reach @ self.axes() + np.array(self.place)).astype(float))

    def resized(self, axis: int, mm: float, *, fixed_corner: int) -> "Box":
        """The box with another width (0), depth (1) or height (2); one corner stays in its place.

        Raises VolumeError for a side that gives no box.
        """
        field = f"{AXES[axis]}_mm"
        grown = replace(self, **{field: mm})  # type: ignore[arg-type]
        return grown.standing_so_that(fixed_corner, self.corners()[fixed_corner])

    def turned(self, yaw_deg: float, *, fixed_corner: int) -> "Box":
        """The box turned to another yaw about the upright through one of its corners."""
        turned = replace(self, yaw_deg=yaw_deg)
        return turned.standing_so_that(fixed_corner, self.corners()[fixed_corner])

    def standing_so_that(self, corner: int, world: Array) -> "Box":
        """The box moved so that one of its corners comes to lie on a world point (3,) mm."""
        x, y, z = (float(v) for v in np.array(self.place) + world - self.corners()[corner])
        return replace(self, x_mm=x, y_mm=y, z_mm=z)


def corners_of(boxes: tuple[Box, ...]) -> Array:
    """Corners of many boxes at once: (n, 8, 3) world mm."""
    if not boxes:
        return np.empty((0, 8, 3))
    sides = np.array([box.sides for box in boxes])
    places = np.array([box.place for box in boxes])
    axes = np.array([box.axes() for box in boxes])
    reach = CORNERS[None] * sides[:, None, :]
    return np.asarray((np.matmul(reach, axes) + places[:, None, :]).astype(float))
