"""Two wheels in line: deck, steering column on the centre plane, saddle."""

import math
from dataclasses import replace

import numpy as np

from isometron.document.edits.starters.starter import Made, Question, Starter, Values, counted
from isometron.framework.kinds import turned as lathe
from isometron.framework.modules import Module
from isometron.framework.placing import Anchor
from isometron.framework.turning import axes_of
from isometron.framework.volume import Volume
from isometron.perspective.errors import VolumeError
from isometron.words import _, said

TYRE, COLUMN, DECK, DISC, CLEAR = 0.22, 0.1, 0.12, 0.03, 1.06
"""How broad or thick tyre, column, deck and brake disc are, in wheel diameters, and how far from
the axle the column begins, in wheel radii."""


def _scooter(values: Values) -> Made:
    w, rear = values["wheel diameter"], values["rear wheel"]
    base, deck, saddle = (values[k] for k in ("wheelbase", "deck height", "saddle height"))
    handle, fork = values["handle height"], math.radians(values["fork angle"])
    between = base - 0.5 * CLEAR * (1 + rear)
    column = (handle - 0.5) / math.cos(fork) - 0.5 * CLEAR
    if between <= 0 or column <= 0 or saddle <= deck:
        raise VolumeError(
            _("The wheels leave no room: make it longer, or handle and saddle higher.")
        )
    group, tyre = _("Scooter"), TYRE * w

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
    board = part(_("Deck"), 2, (between, wide, DECK), on_plane(wide, 0.5 + 0.5 * CLEAR, deck))
    axes = axes_of(0.0, 0.0, math.degrees(fork)).astype(float)
    start = np.array([0.5, 0.5 * TYRE, 0.5]) + 0.5 * CLEAR * axes[2]
    corner = (start - np.array([COLUMN / 2, COLUMN / 2, 0.0]) @ axes) * w
    x, y, z = (float(v) for v in corner)
    turns = (0.0, 0.0, math.degrees(fork))
    stem = Volume(
        _("Column"),
        *(COLUMN * w, COLUMN * w, column * w),
        on=Anchor(0, (0.0, 0.0, 0.0), (x, y, z), turns),
        key=3,
        group=group,
    )
    bar, end = 2.2 * wide, _end(fork, handle) - COLUMN / 2
    grip = part(_("Handle"), 4, (COLUMN, bar, COLUMN), on_plane(bar, end, handle))
    over = base - 0.35
    post = part(
        _("Saddle post"),
        5,
        (COLUMN, COLUMN, saddle - deck - DECK),
        on_plane(COLUMN, over, deck + DECK),
    )
    seat = part(_("Saddle"), 6, (0.55, 0.4, 0.1), on_plane(0.4, over - 0.2, saddle))
    disc = _disc(values["brake disc"] * w, tyre, w, group)
    return (Module("w", w),), [front, behind, board, stem, grip, post, seat, *disc]


def _disc(across: float, tyre: float, w: float, group: str) -> list[Volume]:
    """A brake disc beside the front wheel, about its axle."""
    if across <= 0:
        return []
    thick, off = DISC * w, (w - across) / 2
    at = Anchor(0, (0.0, 0.0, 0.0), (off, -thick, off))
    shape = replace(lathe.CYLINDER, axis=1, name="disc", rings=((0.0, 0.36),))
    disc = Volume(_("Brake disc"), across, thick, across, shape=shape, on=at, key=7, group=group)
    return [disc]


def _end(fork: float, handle: float) -> float:
    """Where the column ends along the vehicle, in wheel diameters from the front."""
    return 0.5 + (handle - 0.5) * math.tan(fork)


SCOOTER = Starter(
    said("Two wheels"),
    said("wheel diameters"),
    (
        Question(said("wheel diameter"), "length", 400.0, said("The front wheel, the module: w.")),
        Question(said("rear wheel"), "ratio", 0.8, said("The rear wheel's diameter.")),
        Question(said("wheelbase"), "ratio", 2.6, said("From axle to axle.")),
        Question(said("deck height"), "ratio", 0.4, said("From the ground to the underside.")),
        Question(said("saddle height"), "ratio", 1.6, said("From the ground to the saddle.")),
        Question(said("handle height"), "ratio", 2.1, said("From the ground to the handle.")),
        Question(
            said("brake disc"), "ratio", 0.0, said("Its diameter, beside the wheel."), none=True
        ),
        Question(said("fork angle"), "angle", 20.0, said("How far the column leans back.")),
    ),
    _scooter,
)
