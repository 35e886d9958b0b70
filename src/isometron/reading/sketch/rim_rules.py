"""The rules over the rims of a sketch: out of shape, off their axle or degree."""

import math

import numpy as np

from isometron.document.picture import ROUND, Mark
from isometron.perspective.lengths import write_angle, write_mm
from isometron.reading.reading import tells_distance
from isometron.reading.rims import RimError, fit_rim
from isometron.reading.sketch.faults import (
    CLEARLY,
    LEAST_AXIS_DEG,
    LEAST_DEGREE_DEG,
    LEAST_MM,
    LEAST_RIM_SHARE,
    Fault,
    Sketch,
    rule,
)
from isometron.reading.sketch.rims_shown import shown_rim
from isometron.words import _


@rule
def rims_out_of_shape(sketch: Sketch) -> list[Fault]:
    """A rim that leaves its ellipse: by what swells four times round it."""
    found = []
    for number, rim in enumerate(sketch.picture.rounds):
        if rim.left:
            continue
        points = np.array(rim.points, dtype=float)
        try:
            told = fit_rim(points)
        except RimError:
            continue
        cx, cy, long, short, angle = told.values
        c, s = math.cos(angle), math.sin(angle)
        own = (points - (cx, cy)) @ np.array([[c, -s], [s, c]])
        turn = np.arctan2(own[:, 1] / short, own[:, 0] / long)
        waves = np.stack([np.ones_like(turn), np.cos(4 * turn), np.sin(4 * turn)], axis=1)
        share, _miss, _rank, _s = np.linalg.lstsq(waves, told.misses, rcond=None)
        left = told.misses - waves @ share
        sigma = float(np.sqrt(left @ left / max(len(left) - 8, 1)))
        # neighbours along a pencil line err together: about one in six says something new
        error = sigma * math.sqrt(2 * 6 / len(points))
        swell = float(share[1])
        radius = math.sqrt(long * short)
        mm = abs(swell) * sketch.mm_per_px
        if mm < LEAST_MM / 2 or abs(swell) < max(CLEARLY * error, LEAST_RIM_SHARE * radius):
            continue
        at_ends, between = (_("outside"), _("inside"))[:: 1 if swell > 0 else -1]
        found.append(
            Fault(
                "off its ellipse",
                Mark(ROUND, number),
                _("A rim leaves its ellipse"),
                _(
                    "It lies {mm} {at_ends} its ellipse at the ends of both axes, and as much "
                    "{between} half-way from end to end."
                ).format(at_ends=at_ends, between=between, mm=write_mm(mm)),
                mm,
                None,
                100 * abs(swell) / radius,
                (float(cx + long * c), float(cy + long * s)),
                None,
            )
        )
    return found


@rule
def rims_off_their_axle(sketch: Sketch) -> list[Fault]:
    """A rim whose axes or degree are not those of a circle about its axle, from where the fans put
    our eye."""
    found: list[Fault] = []
    if not tells_distance(sketch.fit_marks, sketch.told):
        return found  # how open a circle looks is not told
    for number, rim in enumerate(sketch.picture.rounds):
        if rim.left or rim.axle not in ("width", "depth", "height"):
            continue
        shown = shown_rim(sketch.fit, np.array(rim.points, dtype=float), rim.axle)
        if shown is None:
            continue
        lean = shown.lean_deg
        mm = shown.apart * sketch.mm_per_px
        if mm < max(LEAST_MM, CLEARLY * sketch.hand.line_mm):
            continue
        axis = abs(lean) >= LEAST_AXIS_DEG
        if not axis and abs(shown.wider_deg) < LEAST_DEGREE_DEG:
            continue
        if axis:
            title = _("A rim leans off its axle")
            text = _("Its long axis is {deg} off: turn it {way}.").format(
                deg=write_angle(round(abs(lean), 1)),
                way=_("clockwise") if lean > 0 else _("counter-clockwise"),
            )
        else:
            title = _("A rim is too open") if shown.wider_deg > 0 else _("A rim is too narrow")
            text = _("It opens to {drawn}, a circle there to {true}.").format(
                drawn=write_angle(round(shown.drawn_deg, 1)),
                true=write_angle(round(shown.drawn_deg - shown.wider_deg, 1)),
            )
        found.append(
            Fault(
                "rim off its axle" if axis else "rim off its degree",
                Mark(ROUND, number),
                title,
                text,
                mm,
                abs(lean) if axis else abs(shown.wider_deg),
                None,
                shown.centre,
                None,
            )
        )
    return found
