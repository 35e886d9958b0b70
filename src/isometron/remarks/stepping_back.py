"""The remedy most remarks share: how far to step back until a number is right."""

import math
from collections.abc import Callable

from isometron.document.document import Document
from isometron.document.edits.choosing import select
from isometron.document.edits.eye_edits import step_back
from isometron.drawing.scene import corners_drawn
from isometron.drawing.volume_picture import VolumePicture
from isometron.perspective.errors import IsometronError
from isometron.perspective.eye import Eye
from isometron.perspective.lengths import write_length
from isometron.remarks.limits import FURTHEST_STEP
from isometron.remarks.remark import Remedy
from isometron.words import _

Shortfall = Callable[[Eye, VolumePicture], float]


def step_back_until(document: Document, volume: int, shortfall: Shortfall) -> Remedy | None:
    """Stepping back, the near edge of `volume` kept as drawn, until `shortfall` is no longer > 0.

    The station distance is bracketed by doubling and solved by Brent's method, rounded up to whole
    millimetres. None when no distance within FURTHEST_STEP does it.
    """
    from scipy.optimize import brentq

    chosen = select(document, volume)
    now = document.eye.station_distance_mm

    def lacking(distance: float) -> float:
        moved = step_back(chosen, distance)
        return shortfall(moved.eye, corners_drawn(moved.eye, moved.volumes[volume]))

    try:
        near, far = now, 2 * now
        while not (end := lacking(far)) <= 0:
            near, far = far, 2 * far
            if far > FURTHEST_STEP * now or math.isnan(end):
                return None
        # At the very limit the near edge, set anew, can tip the number over: then it is there.
        begun = lacking(near)
        distance = near if begun <= 0 else float(brentq(lacking, near, far, xtol=1e-3))
        rounded = float(-(-distance // 1))
        if lacking(rounded) > 0:
            rounded += 1.0
        if lacking(rounded) > 0:
            return None
    except IsometronError:
        return None
    words = write_length(rounded, document.choices.unit)
    return Remedy(
        _("Step back to {words}").format(words=words),
        lambda before: step_back(select(before, volume), rounded),
    )
