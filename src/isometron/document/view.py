"""Views: the eyes a sheet is drawn from, each with its place on the paper."""

import math
from dataclasses import dataclass

from isometron.document.errors import ChoiceError
from isometron.perspective.eye import Eye
from isometron.words import _

LONGEST_NAME = 60

BLANK_EYE = Eye(
    x_mm=0.0,
    y_mm=0.0,
    height_mm=400.0,
    heading_deg=35.0,
    tilt_deg=0.0,
    station_distance_mm=500.0,
    centre_of_vision_mm=(210.0, 200.0),
)
"""A seated person's eye over a table, two-point, eye level on the upper third of an A3 sheet."""


@dataclass(frozen=True)
class Frame:
    """A rectangle of the paper, mm: its left and lower edge, its width and height."""

    left_mm: float
    bottom_mm: float
    width_mm: float
    height_mm: float

    def __post_init__(self) -> None:
        places = (self.left_mm, self.bottom_mm)
        if not all(math.isfinite(v) and abs(v) <= 5000 for v in places):
            raise ChoiceError(_("A view's frame lies off the paper: move it onto the sheet."))
        if not all(math.isfinite(v) and 1 <= v <= 5000 for v in (self.width_mm, self.height_mm)):
            raise ChoiceError(_("A view's frame has no size: give it a width and a height."))


@dataclass(frozen=True)
class View:
    """One eye, what it is called (may be empty), and the frame it is drawn in; None for the whole
    sheet. before: an eye whose lines stay pale under this one's."""

    name: str = ""
    eye: Eye = BLANK_EYE
    frame: Frame | None = None
    before: Eye | None = None

    def __post_init__(self) -> None:
        if len(self.name) > LONGEST_NAME or not (self.name.isprintable()):
            raise ChoiceError(
                _("A view's name has up to {longest_name} plain letters: change it.").format(
                    longest_name=LONGEST_NAME
                )
            )
