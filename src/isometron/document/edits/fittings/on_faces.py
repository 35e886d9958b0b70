"""What is put on a face of a volume: handles, lids that open, louvres."""

import math
from typing import NamedTuple

import numpy as np

from isometron.document.edits.fittings.facing import (
    OUTWARD,
    face_extents,
    facing_axes,
    place_on,
    standing_on,
)
from isometron.framework.kinds.bar import Bar
from isometron.framework.kinds.block import BLOCK
from isometron.framework.kinds.turned import CYLINDER
from isometron.framework.placing import Anchor
from isometron.framework.turning import turns_of
from isometron.framework.volume import Volume
from isometron.nearness import SAME
from isometron.perspective.errors import VolumeError
from isometron.words import _, said

BENT = ((0.0, 0.5, 0.0), (0.0, 0.5, 1.0), (1.0, 0.5, 1.0), (1.0, 0.5, 0.0))
"""The line of a handle through its box: out, along, and back."""

MOST_SLATS = 40
HINGES = (said("back"), said("front"), said("left"), said("right"))


class Handle(NamedTuple):
    """A handle: how long, how far it stands out, how thick, mm; along the first side of its face or
    upright."""

    long: float
    out: float
    thick: float
    upright: bool = False


def handle_on(
    carrier: Volume, face: int, middle: tuple[float, float], handle: Handle, key: int
) -> Volume:
    """A bent bar on a face of a carrier, its middle at shares of the face. Raises VolumeError for
    one that has no room."""
    long, out, thick, upright = handle
    if not (thick > 0 and out > thick and long > 2 * thick):
        raise VolumeError(
            _("No hand goes through that handle: make it longer, farther out or thinner.")
        )
    if long > face_extents(carrier, face)[1 if upright else 0]:
        raise VolumeError(_("That handle is longer than its face: make it shorter."))
    sides = (long, thick, out)
    axes = facing_axes(face, upright=upright)
    bend = min(thick, out - thick, (long - thick) / 2)
    return Volume(
        _("Handle"),
        *sides,
        shape=Bar(BENT, thick, thick, bend),
        on=standing_on(carrier, face, middle, sides, axes),
        key=key,
        group=carrier.group,
    )


class Lid(NamedTuple):
    """A lid: how thick, how far it stands out on all sides, mm; how far it stands open, degrees; on
    which of HINGES it turns."""

    thick: float
    over: float = 0.0
    open_deg: float = 0.0
    hinge: str = "back"


def lid_over(carrier: Volume, lid: Lid, key: int) -> Volume:
    """A lid on the top of a carrier, of its plan, round on what stands round, turned open about an
    edge. Raises VolumeError for one that is none."""
    thick, over, open_deg, hinge = lid
    if not (thick > 0 and over >= 0):
        raise VolumeError(_("A lid has a thickness, and stands out by 0 or more: type others."))
    far = 1.0 if hinge in ("back", "right") else 0.0
    way = 0 if hinge in ("left", "right") else 1
    shares, own, off = [0.0, 0.0], [0.0, 0.0], [-over, -over]
    held = over / (carrier.sides[way] + 2 * over)  # it turns on the edge of its carrier
    shares[way], own[way], off[way] = far, 1.0 - held if far else held, 0.0
    turn = -open_deg if far else open_deg
    turns = (0.0, turn, 0.0) if way == 1 else (0.0, 0.0, -turn)
    return Volume(
        _("Lid"),
        *(carrier.width_mm + 2 * over, carrier.depth_mm + 2 * over, thick),
        shape=CYLINDER if carrier.shape.axle == 2 else BLOCK,
        on=Anchor(
            carrier.key,
            (shares[0], shares[1], 1.0),
            (off[0], off[1], 0.0),
            turns,
            (own[0], own[1], 0.0),
        ),
        key=key,
        group=carrier.group,
    )


class Louvre(NamedTuple):
    """A louvre: how many slats over how wide and high a part of a face, how thick and how deep each
    is, how far they begin behind the face, mm; how far they slope down outward, degrees."""

    slats: int
    wide: float
    high: float
    thick: float
    deep: float
    slope_deg: float = 30.0
    behind: float = 0.0


def louvre_on(
    carrier: Volume, face: int, middle: tuple[float, float], louvre: Louvre, key: int
) -> list[Volume]:
    """The slats of a louvre, evenly over its height from the lowest, the middle of it at shares of
    the face; each has its inner edge on the face, or so far behind it. Raises VolumeError for one
    that has no room."""
    slats, wide, high, thick, deep, slope_deg, behind = louvre
    if not 1 <= slats <= MOST_SLATS:
        raise VolumeError(
            _("A louvre has 1 to {most} slats: type another number.").format(most=MOST_SLATS)
        )
    if not (min(wide, high, thick, deep) > 0 and behind >= 0 and 0 <= slope_deg < 90):
        raise VolumeError(_("A slat has a thickness and a depth, and slopes less than 90°."))
    extents = face_extents(carrier, face)
    if any(
        abs(2 * share - 1) * extent + size > extent * (1 + SAME)
        for share, extent, size in zip(middle, extents, (wide, high), strict=True)
    ):
        raise VolumeError(_("That louvre runs out of its face: make it smaller or move it."))
    slope = math.radians(slope_deg)
    if slats * (thick * math.cos(slope)) >= high:
        raise VolumeError(_("Those slats leave no gaps: take fewer, or thinner ones."))
    facing = facing_axes(face)
    outward = facing[OUTWARD]
    up = facing_axes(face, upright=True)[0]
    down_out = math.cos(slope) * outward - math.sin(slope) * up
    normal = math.cos(slope) * up + math.sin(slope) * outward
    axes = np.stack([np.cross(up, outward), -down_out, normal])
    sides = (wide, deep, thick)
    at = place_on(carrier, face, middle)
    shares = at / np.array(carrier.sides)
    made = []
    for n in range(slats):
        level = ((n + 0.5) / slats - 0.5) * high
        inner = level * up + (thick / 2 * math.sin(slope) - behind) * outward
        corner = inner + deep / 2 * down_out - np.array(sides) / 2 @ axes
        x, y, z = (float(v) for v in corner)
        hung = (float(shares[0]), float(shares[1]), float(shares[2]))
        made.append(
            Volume(
                _("Slat {number}").format(number=n + 1),
                *sides,
                on=Anchor(carrier.key, hung, (x, y, z), turns_of(axes)),
                key=key + n,
                group=carrier.group,
            )
        )
    return made
