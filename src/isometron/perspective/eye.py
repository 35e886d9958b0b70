"""The eye: where it stands, where it looks, and how far it is from the picture plane."""

import math
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from isometron.perspective.angles import EXTENDED, cosine_sine, wrapped
from isometron.perspective.errors import EyeError
from isometron.perspective.lengths import write_number
from isometron.words import _

Array = NDArray[np.floating]

LARGEST_MM = 1e6
"""A kilometre: coordinates beyond it are a slip of the keyboard, and of double precision."""

SCALE_RANGE = (1e-5, 100.0)
STATION_RANGE_MM = (1.0, 1e6)
"""Station distances that can be drawn."""


@dataclass(frozen=True)
class Eye:
    """One eye, roll 0.

    Ground position and height in world mm; heading (0 looks along +Y, positive clockwise from
    above) and tilt (positive looks up) in degrees; station distance and centre of vision in
    sheet mm. parallel: None, or how many sheet mm a true mm is drawn when all sight lines run
    parallel, as in a plan or an elevation; the eye's place is then drawn at the centre of vision.
    curved: whether the sheet is drawn in the curved projection (perspective/curved.py).
    """

    x_mm: float
    y_mm: float
    height_mm: float
    heading_deg: float
    tilt_deg: float
    station_distance_mm: float
    centre_of_vision_mm: tuple[float, float]
    parallel: float | None = None
    curved: bool = False

    def __post_init__(self) -> None:
        cx, cy = self.centre_of_vision_mm
        places = {
            "The eye's place": (self.x_mm, self.y_mm),
            "The eye height": (self.height_mm,),
            "The centre of vision": (cx, cy),
        }
        for what, values in places.items():
            if not all(math.isfinite(v) and abs(v) <= LARGEST_MM for v in values):
                raise EyeError(
                    _("{what} is out of reach: keep it within a kilometre.").format(what=what)
                )
        if not math.isfinite(self.heading_deg):
            raise EyeError(_("The heading is not an angle: give it in degrees."))
        if not (math.isfinite(self.tilt_deg) and -90.0 <= self.tilt_deg <= 90.0):
            raise EyeError(
                _("A tilt of {tilt}° turns the head over: keep it within 90° up or down.").format(
                    tilt=write_number(self.tilt_deg)
                )
            )
        least, most = STATION_RANGE_MM
        if not (
            math.isfinite(self.station_distance_mm) and least <= self.station_distance_mm <= most
        ):
            raise EyeError(
                _(
                    "A station distance of {station_distance} mm cannot be drawn: step back or "
                    "closer until it lies between {least} mm and {most} mm."
                ).format(
                    station_distance=write_number(self.station_distance_mm),
                    least=write_number(least),
                    most=write_number(most),
                )
            )
        if self.parallel is not None and not SCALE_RANGE[0] <= self.parallel <= SCALE_RANGE[1]:
            raise EyeError(_("At this scale nothing can be drawn: choose 1 : 10, say."))
        object.__setattr__(self, "heading_deg", wrapped(self.heading_deg))

    @property
    def place(self) -> tuple[float, float, float]:
        """The eye point, world mm."""
        return self.x_mm, self.y_mm, self.height_mm


@lru_cache(maxsize=256)
def sight_axes(eye: Eye) -> Array:
    """Rows right, up, forward: (3, 3) unit vectors in the world, extended precision, read-only.

    right = (cos H, −sin H, 0), forward = (sin H cos T, cos H cos T, sin T), up = right × forward.
    """
    ch, sh = cosine_sine(eye.heading_deg)
    ct, st = cosine_sine(eye.tilt_deg)
    zero = EXTENDED(0)
    rows = [[ch, -sh, zero], [-sh * st, -ch * st, ct], [sh * ct, ch * ct, st]]
    axes = np.array(rows, dtype=EXTENDED)
    axes.flags.writeable = False
    return axes


def eye_level(eye: Eye) -> float | None:
    """Height of the eye level (horizon line) on the sheet, mm: cy − d·tan T; of a curved sheet,
    where it is a curve, over the centre of vision: cy − d·T.

    None when the sight line is vertical, or sight lines run parallel: then no level direction
    vanishes on the sheet.
    """
    if eye.parallel is not None:
        return None
    if eye.curved:
        angle = math.radians(eye.tilt_deg)
        return float(eye.centre_of_vision_mm[1] - eye.station_distance_mm * angle)
    cosine, sine = cosine_sine(eye.tilt_deg)
    if cosine == 0:
        return None
    return float(eye.centre_of_vision_mm[1] - eye.station_distance_mm * sine / cosine)
