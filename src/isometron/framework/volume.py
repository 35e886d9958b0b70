"""Volumes: true size, place, turn and shape, and their corners in the world."""

import math
from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Any, TypeVar

import numpy as np

from isometron.framework.bodies.body import Body
from isometron.framework.bodies.cuts import Cut
from isometron.framework.bodies.edging import Edging
from isometron.framework.bodies.openings import Tunnel
from isometron.framework.bodies.whole import Whole
from isometron.framework.box import AXES, CORNERS, SMALLEST_MM
from isometron.framework.circles import FaceCircle
from isometron.framework.face_rings import FaceRing
from isometron.framework.kinds.block import BLOCK
from isometron.framework.kinds.kind import Kind
from isometron.framework.marks import DrawnMarks, Mark, draw_marks, with_sections
from isometron.framework.placing import UNCOUNTED, Anchor, Counts, Follow, Pose
from isometron.framework.skins import LaidLines, Skin, lines_of, with_skins
from isometron.framework.turning import axes_of, turns_of
from isometron.perspective.angles import wrapped
from isometron.perspective.errors import VolumeError
from isometron.perspective.eye import LARGEST_MM, Array
from isometron.perspective.lengths import write_number
from isometron.perspective.remembering import forget
from isometron.words import _

LONGEST_NAME = 60
"""Longer names fit no list."""

T = TypeVar("T")
MOST_KEPT = 64
"""Of one volume no more is kept than this: the directions of a drag differ at every move."""


@dataclass(frozen=True)
class Volume:
    """A volume: its shape fills a box of width, depth and height, mm, whose corner 0 stands at a
    place of the world.

    Yaw is positive counter-clockwise seen from above; width runs along the turned x axis, depth
    along the turned y axis. Pitch and roll tip it: axes are the columns of Rz·Rx·Ry. `key` tells
    volumes of one sheet apart for life. `counts` say which sides are counted in modules or other
    sides; `on` what it stands on, `like` what it is a copy of: `framework.settling` works these
    out. `see_through` overrules the sheet's own choice. A ghost is only drawn to
    compare with: it hides nothing.
    """

    name: str
    width_mm: float
    depth_mm: float
    height_mm: float
    x_mm: float = 0.0
    y_mm: float = 0.0
    z_mm: float = 0.0
    yaw_deg: float = 0.0
    pitch_deg: float = 0.0
    roll_deg: float = 0.0
    shape: Kind = BLOCK
    cuts: tuple[Cut, ...] = ()
    edgings: tuple[Edging, ...] = ()
    marks: tuple[Mark, ...] = ()
    circles: tuple[FaceCircle, ...] = ()
    face_rings: tuple[FaceRing, ...] = ()
    skins: tuple[Skin, ...] = ()
    counts: Counts = UNCOUNTED
    on: Anchor | None = None
    like: Follow | None = None
    group: str = ""
    key: int = 0
    shown: bool = True
    ghost: bool = False
    locked: bool = False
    role: str = ""
    """What it is said to be, for its proportions to be judged (a seat, a door); nothing: not
    judged."""
    see_through: bool | None = None

    def __post_init__(self) -> None:
        if not (1 <= len(self.name) <= LONGEST_NAME and self.name.isprintable()):
            raise VolumeError(
                _("A name needs 1 to {longest_name} plain letters: change it.").format(
                    longest_name=LONGEST_NAME
                )
            )
        for axis, side in zip(AXES, self.sides, strict=True):
            if not (math.isfinite(side) and SMALLEST_MM <= side <= LARGEST_MM):
                raise VolumeError(
                    _(
                        "A {axis} of {side} mm gives no volume: choose between {smallest} mm and a "
                        "kilometre."
                    ).format(axis=axis, side=write_number(side), smallest=write_number(SMALLEST_MM))
                )
        if not all(math.isfinite(v) and abs(v) <= LARGEST_MM for v in self.place):
            raise VolumeError(
                _("{name} stands out of reach: keep it within a kilometre.").format(name=self.name)
            )
        for field in ("yaw_deg", "pitch_deg", "roll_deg"):
            value = getattr(self, field)
            if not math.isfinite(value):
                raise VolumeError(
                    _("The turn of {name} is not an angle: give it in degrees.").format(
                        name=self.name
                    )
                )
            object.__setattr__(self, field, wrapped(value))

    @property
    def sides(self) -> tuple[float, float, float]:
        """Width, depth, height in mm."""
        return self.width_mm, self.depth_mm, self.height_mm

    @property
    def place(self) -> tuple[float, float, float]:
        """World place of corner 0, mm."""
        return self.x_mm, self.y_mm, self.z_mm

    @property
    def called(self) -> str:
        """What the trade calls it, in a word or two."""
        return f"cut {self.shape.called}" if self.cuts or self.edgings else self.shape.called

    @property
    def tipped(self) -> bool:
        """Whether it is pitched or rolled, so that its uprights slope."""
        return bool(self.pitch_deg or self.roll_deg)

    def __hash__(self) -> int:
        return self._hash

    @cached_property
    def _hash(self) -> int:
        return hash((self.name, self.sides, self.place, self.yaw_deg, self.key, self.shape))

    @cached_property
    def _axes(self) -> Array:
        return axes_of(self.yaw_deg, self.pitch_deg, self.roll_deg)

    def axes(self) -> Array:
        """Unit directions of width, depth and height as rows (3, 3), extended precision."""
        return self._axes

    @cached_property
    def pose(self) -> Pose:
        """Place (3,) and axes (3, 3) in double precision."""
        return np.array(self.place), self.axes().astype(float)

    def posed(self, pose: Pose) -> "Volume":
        """The volume at another place and turn."""
        x, y, z = (float(v) for v in pose[0])
        yaw, pitch, roll = turns_of(pose[1])
        return replace(self, x_mm=x, y_mm=y, z_mm=z, yaw_deg=yaw, pitch_deg=pitch, roll_deg=roll)

    @cached_property
    def whole(self) -> Whole:
        """What its body is made from."""
        parts = self.shape, self.sides, self.cuts, self.circles
        return Whole(*parts, self.face_rings, self.edgings)

    @property
    def bare(self) -> Body:
        """Its body in its own axes with nothing drawn on it. Raises VolumeError for one that cannot
        be."""
        return self.whole.bare

    @property
    def unopened(self) -> Body:
        """Its body without the openings in its faces, which it numbers as its body does."""
        return self.whole.unopened

    @property
    def sharp(self) -> Body:
        """Its body before its edges are taken off, which numbers them."""
        return self.whole.sharp

    @cached_property
    def drawn_marks(self) -> DrawnMarks:
        """Its division marks, centre and section lines in its own axes. Raises VolumeError."""
        return draw_marks(self.marks, self.bare, self.sides)

    @cached_property
    def body(self) -> Body:
        """Its body in its own axes with the circles and section arcs drawn on it. Raises
        VolumeError for one that cannot be, and for a circle that fits nowhere."""
        drawn = self.whole.drawn()
        drawn = with_sections(drawn, self.drawn_marks) if self.marks else drawn
        return with_skins(drawn, self.laid_skins) if self.skins else drawn

    @cached_property
    def laid_skins(self) -> tuple[LaidLines, ...]:
        """The lines of its skins, clipped at its faces and openings, in its own axes."""
        return tuple(lines_of(skin, self.bare) for skin in self.skins)

    @property
    def tunnels(self) -> tuple[Tunnel, ...]:
        """The openings in its faces, twins too, carried through it in its own axes."""
        return self.whole.tunnels

    @property
    def drawn_rings(self) -> tuple[Array, ...]:
        """The outlines only drawn on its faces, twins too, each as its arcs (k, 3, 4), own mm."""
        return self.whole.rings_on(self.body)

    @property
    def contents_mm3(self) -> float:
        """True contents, mm³."""
        return self.whole.contents_mm3

    @cached_property
    def _world(self) -> Array:
        return np.asarray((self.bare.vertices @ self.axes() + np.array(self.place)).astype(float))

    def world(self) -> Array:
        """Every corner of its body, (n, 3) world mm; none for a ball."""
        return self._world

    @cached_property
    def _enclosing(self) -> Array:
        place, axes = self.pose
        return np.asarray(self.bare.enclosing @ axes + place)

    def enclosing(self) -> Array:
        """Points (p, 3) world mm whose hull holds it: its corners, and round its bends."""
        return self._enclosing

    @cached_property
    def worked_out(self) -> dict[tuple[str, bytes], Any]:
        """What others have worked out of it, by what and along which direction. A volume never
        changes, so it stays true; at MOST_KEPT it is begun anew."""
        return {}

    def kept(self, what: str, direction: Array, work: Callable[[], T]) -> T:
        """Something about it along a direction, worked out once."""
        known, key = self.worked_out, (what, direction.tobytes())
        if key not in known:
            if len(known) >= MOST_KEPT:
                known.clear()
            known[key] = work()
        found: T = known[key]
        return found

    def reach_along(self, direction: Array) -> tuple[float, float]:
        """Least and greatest place (mm) of it along a unit world direction (3,), exactly."""
        return self.kept("reach", direction, lambda: self._reach_along(direction))

    def _reach_along(self, direction: Array) -> tuple[float, float]:
        place, axes = self.pose
        low, high = self.bare.reach_along(axes @ direction)
        base = float(place @ direction)
        return base + low, base + high

    def forget(self) -> None:
        """Let go of all that was worked out of it: it is worked out again when it is asked for."""
        forget(
            self,
            *(
                "_axes",
                "pose",
                "bare",
                "drawn_marks",
                "laid_skins",
                "body",
                "_world",
                "_enclosing",
                "tunnels",
                "worked_out",
            ),
        )

    def corners(self) -> Array:
        """The eight corners of the box it fills, (8, 3) world mm, in the order of CORNERS."""
        reach = CORNERS * np.array(self.sides)
        return np.asarray((reach @ self.axes() + np.array(self.place)).astype(float))

    def with_sides(self, sides: tuple[float, float, float]) -> "Volume":
        """The volume with other sides; corner 0 stays."""
        return replace(self, width_mm=sides[0], depth_mm=sides[1], height_mm=sides[2])

    def resized(self, axis: int, mm: float, *, fixed_corner: int) -> "Volume":
        """The box with another width (0), depth (1) or height (2); one corner stays in its place.

        Raises VolumeError for a side that gives no box.
        """
        field = f"{AXES[axis]}_mm"
        grown = replace(self, **{field: mm})  # type: ignore[arg-type]
        return grown.standing_so_that(fixed_corner, self.corners()[fixed_corner])

    def turned(self, yaw_deg: float, *, fixed_corner: int) -> "Volume":
        """The box turned to another yaw about the upright through one of its corners."""
        turned = replace(self, yaw_deg=yaw_deg)
        return turned.standing_so_that(fixed_corner, self.corners()[fixed_corner])

    def standing_so_that(self, corner: int, world: Array) -> "Volume":
        """The box moved so that one of its corners comes to lie on a world point (3,) mm."""
        x, y, z = (float(v) for v in np.array(self.place) + world - self.corners()[corner])
        return replace(self, x_mm=x, y_mm=y, z_mm=z)


def corners_of(volumes: tuple[Volume, ...]) -> Array:
    """Corners of the boxes that many volumes fill: (n, 8, 3) world mm."""
    if not volumes:
        return np.empty((0, 8, 3))
    return np.array([volume.corners() for volume in volumes])


def checked(volume: Volume) -> Volume:
    """The volume itself, once its body and marks can be made. Raises VolumeError."""
    _unused = volume.drawn_marks, volume.body
    return volume
