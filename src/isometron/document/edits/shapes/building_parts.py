"""Roofs and stairs: a gable roof set on a volume whose walls reach its ridge, a flight of steps."""

import math
from dataclasses import replace
from typing import NamedTuple

from isometron.document.document import Document
from isometron.document.edits.choosing import free_name, in_work, with_new
from isometron.framework.kinds.block import BLOCK
from isometron.framework.kinds.extruded import Extruded
from isometron.framework.outlines import Knot, Ring
from isometron.framework.placing import Anchor
from isometron.framework.volume import Volume
from isometron.perspective.errors import VolumeError
from isometron.words import _

PITCH_RANGE_DEG = (1.0, 80.0)
MOST_STEPS = 60
MOST_BAYS = 60


class Gable(NamedTuple):
    """A gable roof over walls of a span: the outline of its end as shares, how far it reaches
    across and up (mm), and how far its lowest edge lies below the eaves, mm."""

    ring: Ring
    across: float
    high: float
    drop: float


def gable_over(span: float, pitch_deg: float, over: float, thick: float) -> Gable:
    """The roof over a span, mm, with an overhang and a thickness measured square to its slope.
    Raises VolumeError for a pitch that is none."""
    rise = rise_of(pitch_deg)
    if not (over >= 0 and thick > 0):
        raise VolumeError(_("A roof has a thickness, and an overhang of 0 or more: type others."))
    upright = thick / math.cos(math.radians(pitch_deg))
    across, high = span + 2 * over, (span / 2 + over) * rise + upright
    eaves, under = upright / high, 1.0 - upright / high
    ring = (
        *(Knot(0.0, 0.0), Knot(0.5, under), Knot(1.0, 0.0)),
        *(Knot(1.0, eaves), Knot(0.5, 1.0), Knot(0.0, eaves)),
    )
    return Gable(ring, across, high, over * rise)


def rise_of(pitch_deg: float) -> float:
    """How far a roof rises per mm. Raises VolumeError for a pitch that is none."""
    low, high = PITCH_RANGE_DEG
    if not low <= pitch_deg <= high:
        raise VolumeError(
            _("A roof pitch lies between {low}° and {high}°: type, say, 35°.").format(
                low=f"{low:g}", high=f"{high:g}"
            )
        )
    return math.tan(math.radians(pitch_deg))


def gable_walls(wall: float, ridge: float) -> Ring:
    """The outline of walls that reach a ridge, as shares of span and ridge height."""
    eaves = wall / ridge
    return Knot(0.0, 0.0), Knot(1.0, 0.0), Knot(1.0, eaves), Knot(0.5, 1.0), Knot(0.0, eaves)


def set_roof(
    document: Document, axis: int, pitch_deg: float, over: float, thick: float
) -> Document:
    """A gable roof on the box in work, its ridge along the width (0) or depth (1): the walls at
    both ends grow up to it, the eaves stay at the height of the box; the roof follows. Raises
    VolumeError for a volume that is no whole box."""
    index, volume = in_work(document)
    if volume.shape != BLOCK or volume.cuts:
        raise VolumeError(_("A roof is set on a whole box: make it one first, and cut it after."))
    span = volume.sides[1 - axis]
    gable = gable_over(span, pitch_deg, over, thick)
    wall = volume.height_mm
    ridge = wall + span / 2 * rise_of(pitch_deg)
    walls = replace(
        volume,
        height_mm=ridge,
        shape=Extruded((gable_walls(wall, ridge),), axis=axis, name="walls"),
        counts=(volume.counts[0], volume.counts[1], None),
    )
    document = document.with_volume(index, walls)
    along = volume.sides[axis] + 2 * over
    width, depth = (along, gable.across) if axis == 0 else (gable.across, along)
    roof = Volume(
        free_name(document, _("Roof")),
        *(width, depth, gable.high),
        shape=Extruded((gable.ring,), axis=axis, name="roof"),
        on=Anchor(volume.key, (0.0, 0.0, 0.0), (-over, -over, wall - gable.drop)),
        group=volume.group,
        key=document.free_key,
    )
    done = with_new(document, [roof])
    return replace(done, selected=index, also=frozenset())


def make_bays(
    document: Document, bays: int, pier: float, spring: float, *, arched: bool
) -> Document:
    """The volume in work as a wall of so many equal bays along its width, a pier before, between
    and after them: each open from the ground to a springing height, and from there on with half a
    circle over its middle, or square. Raises VolumeError for bays that have no room."""
    index, volume = in_work(document)
    if not 1 <= bays <= MOST_BAYS:
        raise VolumeError(
            _("A wall has 1 to {most} bays: type another number.").format(most=MOST_BAYS)
        )
    wide, high = volume.width_mm, volume.height_mm
    opening = bay_opening(wide, bays, pier)
    rise = opening / 2 if arched else 0.0
    if not (pier > 0 and opening > 0 and spring > 0 and spring + rise < high):
        raise VolumeError(_("Those bays have no room: make the piers narrower, or spring lower."))
    knots = [Knot(0.0, 0.0)]
    for n in range(bays):
        left = (pier + n * (pier + opening)) / wide
        right, level = left + opening / wide, spring / high
        knots += [Knot(left, 0.0), Knot(left, level, -1.0 if arched else 0.0)]
        knots += [Knot(right, level), Knot(right, 0.0)]
    ring = (*knots, Knot(1.0, 0.0), Knot(1.0, 1.0), Knot(0.0, 1.0))
    shape = Extruded((ring,), axis=1, name="bays")
    return document.with_volume(
        index, replace(volume, shape=shape, cuts=(), circles=(), edgings=())
    )


def bay_opening(wide: float, bays: int, pier: float) -> float:
    """How wide each of so many bays between piers is in a wall of a width, mm."""
    return (wide - (bays + 1) * pier) / bays


def make_stairs(document: Document, steps: int, side: str) -> Document:
    """The volume in work as a flight of steps that rises from its front, back, left or right.
    Raises VolumeError for a number of steps that makes none."""
    index, volume = in_work(document)
    if not 2 <= steps <= MOST_STEPS:
        raise VolumeError(
            _("A flight has 2 to {most} steps: type another number.").format(most=MOST_STEPS)
        )
    away = side in ("front", "left")  # it rises along the profile's first direction
    ring = [(0.0, 0.0), (1.0, 0.0), (1.0, 1.0)]
    for n in range(steps - 1, 0, -1):
        ring += [(n / steps, (n + 1) / steps), (n / steps, n / steps)]
    ring += [(0.0, 1.0 / steps)]
    if not away:
        ring = [(1.0 - x, z) for x, z in reversed(ring)]
    axis = 0 if side in ("front", "back") else 1
    shape = Extruded((tuple(Knot(x, z) for x, z in ring),), axis=axis, name="steps")
    return document.with_volume(index, replace(volume, shape=shape, cuts=(), circles=(), marks=()))


def step_sizes(volume: Volume, steps: int, side: str) -> tuple[float, float]:
    """Tread and riser of a flight of steps in a volume, mm."""
    run = volume.depth_mm if side in ("front", "back") else volume.width_mm
    return run / steps, volume.height_mm / steps
