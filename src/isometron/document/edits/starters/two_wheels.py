"""Two wheels in line: a beam between them, a steering post on the centre plane, a saddle."""

import math
from dataclasses import replace

import numpy as np

from isometron.document.edits.starters.starter import (
    Made,
    Question,
    Read,
    Starter,
    Values,
    counted,
    side,
    span,
)
from isometron.framework.intentions.centred import Centred
from isometron.framework.kinds import turned as lathe
from isometron.framework.modules import Module
from isometron.framework.placing import Anchor
from isometron.framework.turning import axes_of
from isometron.framework.volume import Volume
from isometron.perspective.errors import VolumeError
from isometron.words import _, said

TYRE, POST, BEAM, SADDLE, DRUM, CLEAR = 0.22, 0.1, 0.12, 0.1, 0.03, 1.06
"""How broad or thick tyre, steering post, beam, saddle and hub drum are, in wheel diameters, and
how far from the axle the post begins, in wheel radii."""


def _two_wheels(values: Values) -> Made:
    w, rear = values["wheel diameter"], values["rear wheel"]
    base, beam, saddle = (values[k] for k in ("wheelbase", "beam height", "saddle height"))
    handle, fork = values["handle height"] - POST, math.radians(values["post angle"])
    between = base - 0.5 * CLEAR * (1 + rear)
    column = (handle - 0.5) / math.cos(fork) - 0.5 * CLEAR
    if between <= 0 or column <= 0 or saddle - SADDLE <= beam + BEAM:
        raise VolumeError(
            _("The wheels leave no room: make it longer, or handle and saddle higher.")
        )
    group, tyre = _("Cycle"), TYRE * w

    def part(name: str, key: int, sides: tuple[float, float, float], at: Anchor) -> Volume:
        width, depth, height = (side * w for side in sides)
        counts = counted(*sides, of="w")
        return Volume(name, width, depth, height, on=at, key=key, group=group, counts=counts)

    def on_plane(wide: float, x: float, z: float) -> Anchor:
        """Held to the front wheel, its middle on the centre plane."""
        return Anchor(0, (0.0, 0.5, 0.0), (x * w, -wide * w / 2, z * w))

    front = Volume(_("Front wheel"), w, tyre, w, shape=lathe.wheel(), key=0, group=group)
    behind = Volume(
        _("Rear wheel"),
        rear * w,
        tyre,
        rear * w,
        shape=lathe.wheel(),
        on=Anchor(0, (0.5, 0.0, 0.0), ((base - rear / 2) * w, 0.0, 0.0)),
        key=1,
        group=group,
    )
    wide = 2.4 * TYRE
    board = part(_("Beam"), 2, (between, wide, BEAM), on_plane(wide, 0.5 + 0.5 * CLEAR, beam))
    axes = axes_of(0.0, 0.0, math.degrees(fork)).astype(float)
    start = np.array([0.5, 0.5 * TYRE, 0.5]) + 0.5 * CLEAR * axes[2]
    corner = (start - np.array([POST / 2, POST / 2, 0.0]) @ axes) * w
    x, y, z = (float(v) for v in corner)
    turns = (0.0, 0.0, math.degrees(fork))
    stem = Volume(
        _("Steering post"),
        *(POST * w, POST * w, column * w),
        on=Anchor(0, (0.0, 0.0, 0.0), (x, y, z), turns),
        key=3,
        group=group,
    )
    bar, end = 2.2 * wide, _end(fork, handle) - POST / 2
    grip = part(_("Handle"), 4, (POST, bar, POST), on_plane(bar, end, handle))
    over = base - 0.35
    under = saddle - SADDLE
    post = part(
        _("Saddle post"), 5, (POST, POST, under - beam - BEAM), on_plane(POST, over, beam + BEAM)
    )
    seat = part(_("Saddle"), 6, (0.55, 0.4, SADDLE), on_plane(0.4, over - 0.2, under))
    drum = _drum(values["hub drum"] * w, tyre, w, group)
    made = [front, behind, board, stem, grip, post, seat, *drum]
    return Made((Module("w", w),), made, tuple(Centred(key, 0, 1) for key in range(1, 7)))


def _drum(across: float, tyre: float, w: float, group: str) -> list[Volume]:
    """A hub drum beside the front wheel, about its axle."""
    if across <= 0:
        return []
    thick, off = DRUM * w, (w - across) / 2
    at = Anchor(0, (0.0, 0.0, 0.0), (off, -thick, off))
    shape = replace(lathe.CYLINDER, axis=1, name="drum", rings=((0.0, 0.36),))
    drum = Volume(_("Hub drum"), across, thick, across, shape=shape, on=at, key=7, group=group)
    return [drum]


def _end(fork: float, handle: float) -> float:
    """Where the steering post ends along the vehicle, in wheel diameters from the front."""
    return 0.5 + (handle - 0.5) * math.tan(fork)


def _leaning(now: Read, _told: Values) -> float:
    """How far the steering post leans back against the wheel, degrees."""
    upright = now.parts[3].pose[1][2] @ now.parts[0].pose[1].T
    return math.degrees(math.atan2(float(upright[0]), float(upright[2])))


TWO_WHEELS = Starter(
    said("Two wheels"),
    said("wheel diameters"),
    (
        Question(
            said("wheel diameter"),
            "length",
            400.0,
            said("The front wheel, the module: w."),
            measure=side(0, 0),
        ),
        Question(
            said("rear wheel"),
            "ratio",
            0.8,
            said("The rear wheel's diameter."),
            measure=side(1, 0, per=0),
        ),
        Question(
            said("wheelbase"),
            "ratio",
            2.6,
            said("From axle to axle."),
            measure=span(0, 0.5, 1, 0.5, 0, per=0),
        ),
        Question(
            said("beam height"),
            "ratio",
            0.4,
            said("From the ground to its underside."),
            measure=span(0, 0.0, 2, 0.0, 2, per=0),
        ),
        Question(
            said("saddle height"),
            "ratio",
            1.6,
            said("From the ground to the top of the saddle."),
            measure=span(0, 0.0, 6, 1.0, 2, per=0),
        ),
        Question(
            said("handle height"),
            "ratio",
            2.1,
            said("From the ground to the top of the handle."),
            measure=span(0, 0.0, 4, 1.0, 2, per=0),
        ),
        Question(
            said("hub drum"), "ratio", 0.0, said("Its diameter, beside the wheel."), none=True
        ),
        Question(
            said("post angle"),
            "angle",
            20.0,
            said("How far the steering post leans back."),
            measure=_leaning,
        ),
    ),
    _two_wheels,
)
