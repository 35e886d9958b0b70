"""How one volume hangs on another: standing on it, mirrored from it, repeated from it."""

import math
from dataclasses import dataclass

import numpy as np

from isometron.framework.modules import Count
from isometron.framework.turning import axes_of, turns_of
from isometron.perspective.errors import VolumeError
from isometron.perspective.eye import LARGEST_MM, Array
from isometron.perspective.places import WorldPlace
from isometron.words import _

Counts = tuple[Count | None, Count | None, Count | None]
UNCOUNTED: Counts = (None, None, None)


@dataclass(frozen=True)
class Anchor:
    """Where a volume stands on its parent: the place at `own` shares of its sides (corner 0 for
    none) lies, along each axis of the parent, at a share of the parent's side plus an offset in mm;
    `turns_deg` are yaw, pitch and roll in those axes. An offset may be counted in other lengths
    (`counts`): then its mm follow them, and only its sign is its own. With `of_extent` the shares
    `own` are of how far the volume reaches along the parent's axes, as it is turned there."""

    parent: int
    shares: WorldPlace
    offsets_mm: WorldPlace
    turns_deg: WorldPlace = (0.0, 0.0, 0.0)
    own: WorldPlace = (0.0, 0.0, 0.0)
    counts: Counts = UNCOUNTED
    of_extent: bool = False

    def __post_init__(self) -> None:
        numbers = (*self.shares, *self.offsets_mm, *self.turns_deg, *self.own)
        if not all(math.isfinite(v) for v in numbers):
            raise VolumeError(_("That place on another volume is not measured in numbers."))


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
    step_mm: WorldPlace

    def __post_init__(self) -> None:
        if not all(math.isfinite(v) and abs(v) <= LARGEST_MM for v in self.step_mm):
            raise VolumeError(_("A step is a length across, away and up: give three numbers."))


@dataclass(frozen=True)
class Swung:
    """Copy number `count` of volume `source`, turned `count` times by an angle about a line through
    a world point, along world axis 0, 1 or 2 (2 is upright)."""

    source: int
    count: int
    about_mm: WorldPlace
    axis: int
    angle_deg: float


Follow = Mirrored | Stepped | Swung
Pose = tuple[Array, Array]
"""A place (3,) world mm and axes as rows (3, 3)."""


def swung_pose(pose: Pose, rule: Swung) -> Pose:
    """A pose turned about the line of a `Swung`."""
    turns = [0.0, 0.0, 0.0]
    turns[(1, 2, 0)[rule.axis]] = rule.count * rule.angle_deg
    turn = axes_of(*turns).astype(float)
    middle = np.array(rule.about_mm)
    place, axes = pose
    return np.asarray((place - middle) @ turn + middle), np.asarray(axes @ turn)


def mirrored_pose(pose: Pose, width_mm: float, about: Pose, sides: WorldPlace, axis: int) -> Pose:
    """The right-handed pose of a mirrored volume: its own x turned round and its corner 0 put at
    the picture of the source's corner 1. `about` and `sides` are of the volume mirrored about."""
    normal = about[1][axis]
    through = float((about[0] + 0.5 * sides[axis] * normal) @ normal)
    place, axes = pose
    corner = place + width_mm * axes[0]
    put = corner - 2.0 * (float(corner @ normal) - through) * normal
    turned = axes - 2.0 * np.outer(axes @ normal, normal)
    turned[0] = -turned[0]
    return put, turned


def anchored_axes(anchor: Anchor, parent: Pose) -> Array:
    """The axes (rows of (3, 3)) of a volume that stands on a parent with a pose."""
    return np.asarray(axes_of(*anchor.turns_deg).astype(float) @ parent[1])


def anchored_place(anchor: Anchor, parent: Pose, sides: WorldPlace, inside: Array) -> Array:
    """The corner 0 (3,) of a volume that stands on a parent with a pose and sides. inside (3,): the
    place it is held by, from its corner 0, mm along the parent's axes."""
    along = np.array(anchor.shares) * np.array(sides) + np.array(anchor.offsets_mm)
    return np.asarray(parent[0] + (along - inside) @ parent[1])


def anchor_at(
    parent_key: int,
    shares: WorldPlace,
    pose: Pose,
    parent: Pose,
    sides: WorldPlace,
    inside: Array,
    own: WorldPlace = (0.0, 0.0, 0.0),
) -> Anchor:
    """The anchor that holds a pose where it is, on given shares of the parent's sides, by the place
    `inside` it (from its corner 0, mm along the parent's axes) at its own shares."""
    along = parent[1] @ (pose[0] - parent[0]) + inside
    x, y, z = (float(v) for v in along - np.array(shares) * np.array(sides))
    yaw, pitch, roll = turns_of(pose[1] @ parent[1].T)
    return Anchor(parent_key, shares, (x, y, z), (yaw, pitch, roll), own)
