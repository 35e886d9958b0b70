"""How one volume hangs on another: standing on it, mirrored from it, repeated from it."""

import math
from dataclasses import dataclass, replace

import numpy as np

from isometron.framework.extruded import Extruded
from isometron.framework.outlines import mirrored
from isometron.framework.shapes import Cut, Plan, Shape, Taper
from isometron.framework.turned import Loop, Turned
from isometron.framework.turning import axes_of, turns_of
from isometron.perspective.errors import VolumeError
from isometron.perspective.eye import LARGEST_MM, Array

Triple = tuple[float, float, float]

SQUARE_ON = 1e-12
"""Axes that differ by less than this are turned alike: turns are then carried over exactly."""


@dataclass(frozen=True)
class Anchor:
    """Where a volume stands on its parent: its place is, along each axis of the parent, a share of
    the parent's side plus an offset in mm; `turns_deg` are yaw, pitch and roll in those axes."""

    parent: int
    shares: Triple
    offsets_mm: Triple
    turns_deg: Triple = (0.0, 0.0, 0.0)

    def __post_init__(self) -> None:
        if not all(math.isfinite(v) for v in (*self.shares, *self.offsets_mm, *self.turns_deg)):
            raise VolumeError("That place on another volume is not measured in numbers.")


@dataclass(frozen=True)
class Mirrored:
    """The twin of volume `source` across the plane through the middle of volume `about`, square to
    its width (axis 0), depth (1) or height (2)."""

    source: int
    about: int
    axis: int = 0


@dataclass(frozen=True)
class Stepped:
    """Copy number `count` of volume `source`, moved `count` times by a step in world mm."""

    source: int
    count: int
    step_mm: Triple

    def __post_init__(self) -> None:
        if not all(math.isfinite(v) and abs(v) <= LARGEST_MM for v in self.step_mm):
            raise VolumeError("A step is a length across, away and up: give three numbers.")


@dataclass(frozen=True)
class Swung:
    """Copy number `count` of volume `source`, turned `count` times by an angle about a line through
    a world point, along world axis 0, 1 or 2 (2 is upright)."""

    source: int
    count: int
    about_mm: Triple
    axis: int
    angle_deg: float


Follow = Mirrored | Stepped | Swung
Frame = tuple[Array, Array]
"""A place (3,) world mm and axes as rows (3, 3)."""


def swung_frame(frame: Frame, rule: Swung) -> Frame:
    """A frame turned about the line of a `Swung`."""
    turns = [0.0, 0.0, 0.0]
    turns[(1, 2, 0)[rule.axis]] = rule.count * rule.angle_deg
    turn = axes_of(*turns).astype(float)
    middle = np.array(rule.about_mm)
    place, axes = frame
    return np.asarray((place - middle) @ turn + middle), np.asarray(axes @ turn)


def mirrored_frame(frame: Frame, width_mm: float, about: Frame, sides: Triple, axis: int) -> Frame:
    """The right-handed frame of a mirrored volume: its own x turned round and its corner 0 put at
    the picture of the source's corner 1. `about` and `sides` are of the volume mirrored about."""
    normal = about[1][axis]
    through = float((about[0] + 0.5 * sides[axis] * normal) @ normal)
    place, axes = frame
    corner = place + width_mm * axes[0]
    put = corner - 2.0 * (float(corner @ normal) - through) * normal
    turned = axes - 2.0 * np.outer(axes @ normal, normal)
    turned[0] = -turned[0]
    return put, turned


def mirrored_shape(shape: Shape) -> Shape:
    """A shape mirrored left to right."""
    if isinstance(shape, Taper):
        return Taper(shape.front_mm, shape.back_mm, shape.right_mm, shape.left_mm)
    if isinstance(shape, Plan):
        outline = tuple((1.0 - x, y) for x, y in reversed(shape.outline))
        return Plan(outline, shape.corner_mm, shape.rounded)
    if isinstance(shape, Turned):
        return shape if shape.axis else _turned_round(shape)
    if isinstance(shape, Loop) and shape.axis:
        start = -shape.start_deg if shape.axis == 1 else 180.0 - shape.start_deg
        return replace(shape, start_deg=start, sweep_deg=-shape.sweep_deg)
    return _mirrored_extrusion(shape) if isinstance(shape, Extruded) else shape


def _turned_round(shape: Turned) -> Turned:
    """A form turned about its width, its ends changed over."""
    stations = tuple((1.0 - h, r) for h, r in reversed(shape.stations))
    return replace(shape, stations=stations, rings=tuple((1.0 - h, r) for h, r in shape.rings))


def _mirrored_extrusion(shape: Extruded) -> Extruded:
    if shape.axis == 0:
        across, along = shape.slant
        far = tuple(
            tuple(replace(knot, x=knot.x + across, y=knot.y + along) for knot in ring)
            for ring in shape.rings
        )
        return replace(shape, rings=far, slant=(-across, -along))
    widths = tuple((1.0 - place, width) for place, width in reversed(shape.widths))
    rings = tuple(mirrored(ring) for ring in shape.rings)
    return replace(shape, rings=rings, widths=widths, slant=(-shape.slant[0], shape.slant[1]))


def mirrored_cut(cut: Cut) -> Cut:
    """A cut mirrored left to right in the volume's own box.

    Raises VolumeError for a cut turned in space, which has no twin of the same kind.
    """
    if cut.yaw_deg or cut.pitch_deg or cut.roll_deg:
        raise VolumeError("A volume with a turned cut has no twin: cut it square, or copy it.")
    (x0, y0, z0), (x1, y1, z1) = cut.low, cut.high
    return Cut((1 - x1, y0, z0), (1 - x0, y1, z1), shape=mirrored_shape(cut.shape))


def anchored_frame(anchor: Anchor, parent: Frame, sides: Triple) -> Frame:
    """The frame of a volume that stands on a parent with a frame and sides."""
    along = np.array(anchor.shares) * np.array(sides) + np.array(anchor.offsets_mm)
    axes = axes_of(*anchor.turns_deg).astype(float)
    return parent[0] + along @ parent[1], np.asarray(axes @ parent[1])


def anchor_at(
    parent_key: int, shares: Triple, frame: Frame, parent: Frame, sides: Triple
) -> Anchor:
    """The anchor that holds a frame where it is, on given shares of the parent's sides."""
    along = parent[1] @ (frame[0] - parent[0])
    x, y, z = (float(v) for v in along - np.array(shares) * np.array(sides))
    yaw, pitch, roll = turns_of(frame[1] @ parent[1].T)
    return Anchor(parent_key, shares, (x, y, z), (yaw, pitch, roll))
