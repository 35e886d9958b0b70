"""What lies on the person's table, and how steady the hand is."""

import math
from dataclasses import dataclass, field

from isometron.document.errors import ChoiceError, within
from isometron.words import _

DEFAULT_RULER_MM = 300.0
"""The ruler most people have at hand."""

USUAL_RULERS = {
    "mm": (DEFAULT_RULER_MM, 1.0),
    "cm": (DEFAULT_RULER_MM, 1.0),
    "in": (304.8, 25.4 / 16),
}
"""Length and smallest step, mm, of the ruler most people have who read in a unit: twelve inches in
sixteenths, or thirty centimetres in millimetres."""

RULER_RANGE_MM = (50.0, 5000.0)
"""Rulers that can be bought or made."""

GUIDE_DEGREES = tuple(float(degree) for degree in range(10, 85, 5))
"""Ellipse guides as most sets have them: every 5° from 10° to 80°."""

GUIDE_SIZES_MM = (*(float(mm) for mm in range(4, 42, 2)), *(float(mm) for mm in range(45, 105, 5)))
"""Long axes of those guides: every 2 mm up to 40 mm, then every 5 mm up to 100 mm."""

MOST_GUIDES = 400


@dataclass(frozen=True)
class Hand:
    """How far a hand errs, as standard deviations: where a mark lands in each direction, how far a
    ruled line passes its points, a length carried with compass or strip, a set square's angle."""

    mark_mm: float = 0.3
    line_mm: float = 0.2
    carry_mm: float = 0.3
    square_deg: float = 0.2

    def __post_init__(self) -> None:
        numbers = (self.mark_mm, self.line_mm, self.carry_mm, self.square_deg)
        if not all(math.isfinite(v) and 0 <= v <= 10 for v in numbers):
            raise ChoiceError(_("A hand errs by 0 to 10 mm or degrees: give what you measured."))


@dataclass(frozen=True)
class Kit:
    """Ruler: its length and its smallest step, mm; ellipse guides: degrees and long axes, mm;
    compass: the largest radius it draws, mm (0: none); set square: whether there is one; spare
    paper: how far beside the sheet it reaches, mm; hand."""

    ruler_mm: float = DEFAULT_RULER_MM
    ruler_step_mm: float = 1.0
    guide_degrees: tuple[float, ...] = GUIDE_DEGREES
    guide_sizes_mm: tuple[float, ...] = GUIDE_SIZES_MM
    compass_mm: float = 150.0
    set_square: bool = True
    spare_paper_mm: float = 420.0
    hand: Hand = field(default_factory=Hand)

    def __post_init__(self) -> None:
        if not all(1 <= degree <= 90 for degree in self.guide_degrees):
            raise ChoiceError(_("An ellipse guide opens between 1° and 90°: list those you have."))
        if not all(1 <= mm <= 2000 for mm in self.guide_sizes_mm):
            raise ChoiceError(_("An ellipse guide is 1 mm to 2000 mm long: list those you have."))
        if max(len(self.guide_degrees), len(self.guide_sizes_mm)) > MOST_GUIDES:
            raise ChoiceError(
                _("List at most {most_guides} guides.").format(most_guides=MOST_GUIDES)
            )
        within(_("The ruler"), self.ruler_mm, RULER_RANGE_MM, " mm")
        within(_("The ruler's step"), self.ruler_step_mm, (0.1, 10.0), " mm")
        within(_("The compass"), self.compass_mm, (0.0, 2000.0), " mm")
        within(_("Spare paper"), self.spare_paper_mm, (0.0, 5000.0), " mm")
