"""Drawing aids: where the thing stands, drawn as single lines on the ground, a shelf or a wall."""

import math
from dataclasses import dataclass

import numpy as np

from isometron.perspective.errors import VolumeError
from isometron.perspective.eye import LARGEST_MM, Array
from isometron.words import _, said

KINDS = (said("floor line"), said("shelf edge"), said("back wall"))
REACH_MM = 20_000.0
"""Aids run this far either way: beyond any sheet."""

WALL_MM = 4000.0
"""The upright corners of a back wall are drawn this high."""


@dataclass(frozen=True)
class Aid:
    """A line to set things down by: through a world place (x, y), along a yaw, at a height.

    A floor line lies on the ground; a shelf edge at `height_mm`; a back wall is its floor line with
    its corner uprights at `wide_mm` to either side.
    """

    kind: str
    place_mm: tuple[float, float]
    yaw_deg: float = 0.0
    height_mm: float = 0.0
    wide_mm: float = 1500.0

    def __post_init__(self) -> None:
        if self.kind not in KINDS:
            raise VolumeError(
                _("“{kind}” is no drawing aid: use {kinds}.").format(
                    kind=self.kind, kinds=", ".join(KINDS)
                )
            )
        numbers = (*self.place_mm, self.yaw_deg, self.height_mm, self.wide_mm)
        if not all(math.isfinite(v) and abs(v) <= LARGEST_MM for v in numbers):
            raise VolumeError(_("A drawing aid stands out of reach: keep it within a kilometre."))

    def lines(self) -> tuple[Array, Array]:
        """Starts and ends (n, 3) world mm."""
        angle = math.radians(self.yaw_deg)
        along = np.array([math.cos(angle), math.sin(angle), 0.0])
        height = self.height_mm if self.kind == "shelf edge" else 0.0
        middle = np.array([*self.place_mm, height])
        if self.kind != "back wall":
            return (middle - REACH_MM * along)[None], (middle + REACH_MM * along)[None]
        left, right = middle - self.wide_mm * along, middle + self.wide_mm * along
        up = np.array([0.0, 0.0, WALL_MM])
        return np.array([left, left, right]), np.array([right, left + up, right + up])
