"""Bounding volume: the smallest box, upright or along a chosen turn, round some volumes."""

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from isometron.framework.turning import axes_of
from isometron.framework.volume import Volume
from isometron.perspective.angles import from_quarter
from isometron.perspective.errors import VolumeError
from isometron.words import _

ALIKE_DEG = 1e-9
"""Volumes whose turns differ by less than this from a quarter turn can be scaled unevenly."""

EVEN = 1e-12
"""Factors that differ by less than this scale evenly."""


def bounding_volume(volumes: Sequence[Volume], yaw_deg: float) -> Volume:
    """The smallest upright box with a given yaw round everything of the volumes.

    Raises VolumeError when there is none to enclose.
    """
    if not volumes:
        raise VolumeError(_("No volume is chosen: choose the volumes to enclose."))
    axes = axes_of(yaw_deg).astype(float)
    reach = np.array([[v.reach_along(axis) for axis in axes] for v in volumes])
    low, high = reach[..., 0].min(axis=0), reach[..., 1].max(axis=0)
    width, depth, height = (float(v) for v in np.maximum(high - low, 0.01))
    x, y, z = (float(v) for v in low @ axes)
    return Volume(_("Bounding volume"), width, depth, height, x, y, z, yaw_deg)


def scaled_with(
    volumes: Sequence[Volume], bounds: Volume, factors: tuple[float, float, float]
) -> list[Volume]:
    """The volumes scaled with their bounding volume, whose corner 0 stays: each place and each side
    grows by the factors along the bounding volume's width, depth and height.

    Leans and plan corners grow with the sides. Raises VolumeError when the factors differ across a
    volume that is turned otherwise than the bounding volume, since that would skew it.
    """
    place, axes = bounds.pose
    grow = np.array(factors)
    scaled = []
    for volume in volumes:
        sides = _scaled_sides(volume, bounds, factors)
        own = (np.array(volume.place) - place) @ axes.T
        x, y, z = (float(v) for v in place + (own * grow) @ axes)
        put = replace(volume.with_sides(sides), x_mm=x, y_mm=y, z_mm=z)
        across, along, up = (n / o for n, o in zip(sides, volume.sides, strict=True))
        scaled.append(replace(put, shape=volume.shape.scaled((across, along, up))))
    return scaled


def _scaled_sides(
    volume: Volume, bounds: Volume, factors: tuple[float, float, float]
) -> tuple[float, float, float]:
    width, depth, height = volume.sides
    across, along, up = factors
    if max(factors) - min(factors) <= EVEN * max(factors):
        return width * across, depth * across, height * across
    turn = volume.yaw_deg - bounds.yaw_deg
    in_plan = abs(across - along) <= EVEN * max(across, along)
    if volume.tipped or (abs(from_quarter(turn)) > ALIKE_DEG and not in_plan):
        raise VolumeError(
            _(
                "{name} is turned otherwise and would be skewed: keep the ratio, or turn "
                "the bounding volume with it."
            ).format(name=volume.name)
        )
    if round(turn / 90.0) % 2:
        across, along = along, across
    return width * across, depth * along, height * up
