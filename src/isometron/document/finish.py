"""How a framework is finished to a base drawing: line weights, surroundings, composition marks."""

import math
from dataclasses import dataclass

from isometron.document.errors import ChoiceError, within
from isometron.document.light import MOST_STEPS
from isometron.document.view import Frame
from isometron.words import _, said

WEIGHT_RANGE_MM = (0.05, 5.0)
MARGIN_RANGE_MM = (0.0, 500.0)
SURROUNDINGS = (said("floor"), said("path"), said("wall"), said("shelf"), said("sky"))
"""What stands around the volumes and may have a value."""
BY_LIGHT: tuple[int | None, ...] = (None,) * len(SURROUNDINGS)


@dataclass(frozen=True)
class Finish:
    """How the sheet is finished.

    weighted: object lines in three weights: the outline against what lies behind, edges between two
    faces that are seen, and lines on faces (courses, hatching), widths in mm; nearer: nearer ones
    heavier. surroundings: floor, path, wall, shelf and sky have values, told by the light or by
    hand (`steps`, in the order of SURROUNDINGS); mirror: the floor shows a mirror image. thirds,
    middle: marks of the composition; margin_mm: how far a safe margin lies inside the paper, None
    for none; crop: a frame inside the sheet."""

    weighted: bool = False
    outline_mm: float = 0.7
    edge_mm: float = 0.35
    fine_mm: float = 0.18
    nearer: bool = False
    surroundings: bool = False
    steps: tuple[int | None, ...] = BY_LIGHT
    mirror: bool = False
    thirds: bool = False
    middle: bool = False
    margin_mm: float | None = None
    crop: Frame | None = None

    def __post_init__(self) -> None:
        for mm in (self.outline_mm, self.edge_mm, self.fine_mm):
            within(_("A line weight"), mm, WEIGHT_RANGE_MM, " mm")
        if self.margin_mm is not None:
            within(_("The safe margin"), self.margin_mm, MARGIN_RANGE_MM, " mm")
        given = [step for step in self.steps if step is not None]
        if len(self.steps) != len(SURROUNDINGS) or any(not 0 <= s < MOST_STEPS for s in given):
            raise ChoiceError(_("Floor, path, wall, shelf and sky have steps 1 to 6."))

    def step_of(self, what: str) -> int | None:
        """The step given by hand to a floor, path, wall, shelf or sky; None where none is."""
        return self.steps[SURROUNDINGS.index(what)]


def usual_crop(width_mm: float, height_mm: float) -> Frame:
    """A crop of four to three in the middle of a sheet, nine tenths as high or as wide."""
    high = 0.9 * min(height_mm, width_mm * 3 / 4)
    wide = high * 4 / 3
    if not math.isfinite(wide):
        raise ChoiceError(_("The sheet has no size: choose one first."))
    return Frame((width_mm - wide) / 2, (height_mm - high) / 2, wide, high)
