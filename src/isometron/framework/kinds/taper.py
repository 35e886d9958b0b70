"""The tapered box."""

import math
from dataclasses import dataclass
from typing import Self

import numpy as np

from isometron.framework.bodies.body import Body
from isometron.framework.bodies.facets import flat_triangles
from isometron.framework.bodies.flat import from_faces
from isometron.framework.box import FACES
from isometron.framework.circles import no_hole
from isometron.framework.kinds.kind import (
    Boxed,
    Holes,
    Kind,
    OnFlatFaces,
    Triangles,
    Uncarried,
    Unoutlined,
    Unturned,
)
from isometron.nearness import SAME
from isometron.perspective.errors import VolumeError
from isometron.perspective.eye import LARGEST_MM
from isometron.perspective.places import Sides
from isometron.words import _, said


@dataclass(frozen=True)
class Taper(Unturned, Unoutlined, Uncarried, Boxed, OnFlatFaces, Kind):
    """A box whose upper sides lean: how far, mm, each upper edge lies inside the lower one.

    Negative values lean outward. Two opposite insets that meet make a ridge, all four a tip.
    """

    front_mm: float = 0.0
    back_mm: float = 0.0
    left_mm: float = 0.0
    right_mm: float = 0.0
    word = said("tapered box")
    rank = 1

    def __post_init__(self) -> None:
        for value in self.insets:
            if not (math.isfinite(value) and abs(value) <= LARGEST_MM):
                raise VolumeError(_("A lean must be a length or an angle: type 40 mm or 12°."))

    @property
    def insets(self) -> tuple[float, float, float, float]:
        """Front, back, left, right, mm."""
        return self.front_mm, self.back_mm, self.left_mm, self.right_mm

    @property
    def called(self) -> str:
        """A tapered box."""
        return "tapered box"

    def body(self, sides: Sides, holes: Holes) -> Body:
        """Base and top with their sides between them. Raises VolumeError for a lean that folds
        it, and for a hole."""
        no_hole(holes, self.called)
        width, depth, height = sides
        front, back, left, right = self.insets
        slack = SAME * max(sides)
        if left + right > width + slack or front + back > depth + slack:
            raise VolumeError(
                _("That lean folds the volume through itself: the upper sides cross. Lean it less.")
            )
        x0, y0 = left, front
        x1, y1 = max(width - right, x0), max(depth - back, y0)
        top = [(x0, y0), (x1, y0), (x0, y1), (x1, y1)]
        base = [(0.0, 0.0), (width, 0.0), (0.0, depth), (width, depth)]
        points = [(*p, 0.0) for p in base] + [(*p, height) for p in top]
        return from_faces(np.array(points), [[ring] for ring in FACES.tolist()])

    def faceted(self, sides: Sides) -> Body | None:
        """Itself."""
        return self.body(sides, ())

    def contents_mm3(self, sides: Sides, holes: Holes) -> float:
        """Of its flat body."""
        return self.body(sides, holes).contents_of_parts_mm3

    def triangles(self, sides: Sides, holes: Holes) -> Triangles | None:
        """Its skin."""
        return flat_triangles(self.body(sides, holes))

    def mirrored(self) -> Self:
        """Left and right changed over."""
        return type(self)(self.front_mm, self.back_mm, self.right_mm, self.left_mm)

    def scaled(self, factors: Sides) -> Self:
        """Leans grow with the sides they lean along."""
        across, along, _unused = factors
        front, back, left, right = self.insets
        return type(self)(front * along, back * along, left * across, right * across)

    @property
    def leans(self) -> tuple[float, float, float, float] | None:
        """Its insets."""
        return self.insets
