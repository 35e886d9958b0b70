"""Edits that round a side: arches, wheel arches, round ends, and what is set on a face."""

import math
from dataclasses import replace

import numpy as np

from isometron.document.document import Document
from isometron.document.edits.choosing import free_name, in_work, with_new
from isometron.document.edits.fittings.facing import facing_axes, standing_on
from isometron.document.edits.shapes.rounding import radius_of
from isometron.framework.bodies.extruded import CROSS
from isometron.framework.circles import FaceCircle
from isometron.framework.kinds.block import BLOCK
from isometron.framework.kinds.extruded import Extruded
from isometron.framework.kinds.turned import Turned
from isometron.framework.outlines import Knot, Ring, rectangle
from isometron.framework.volume import Volume
from isometron.nearness import SAME
from isometron.perspective.errors import VolumeError
from isometron.words import _, said

ROOM = 1.1
"""A guard arc over a wheel is so many times as large as the wheel."""


def extrude_box(document: Document, axis: int) -> Document:
    """The box in work as an extrusion of its rectangle along an own axis, ready to be shaped."""
    index, volume = in_work(document)
    return document.with_volume(index, _as_extrusion(volume, axis)[0])


def _as_extrusion(volume: Volume, axis: int) -> tuple[Volume, Extruded]:
    """The volume as an extrusion along an own axis, and that extrusion; circles on its faces are
    carried over to its ends."""
    if isinstance(volume.shape, Extruded):
        if volume.shape.axis != axis:
            raise VolumeError(
                _("{name} is an extrusion the other way: choose its near or far end.").format(
                    name=volume.name
                )
            )
        return volume, volume.shape
    if volume.shape != BLOCK:
        raise VolumeError(
            _("A {called} takes no arch: make it a whole box first.").format(
                called=_(volume.called)
            )
        )
    if volume.cuts:
        raise VolumeError(_("A volume with cuts takes no arch: fill its cuts first."))
    shape = Extruded((rectangle(),), axis=axis)
    return replace(volume, shape=shape, circles=_on_ends(volume, axis)), shape


def _on_ends(volume: Volume, axis: int) -> tuple[FaceCircle, ...]:
    """The circles of a box as those of an extrusion along an own axis: on its two ends only."""
    if any(one.face // 2 != axis for one in volume.circles):
        raise VolumeError(_("Its other sides carry circles: take them away first."))
    return tuple(replace(one, face=one.face % 2) for one in volume.circles)


def cut_arch(
    document: Document, axis: int, middle_mm: float, width_mm: float, straight_mm: float
) -> Document:
    """An arched opening up from the base of the volume in work, right through it along an own axis:
    straight sides and half a circle on top. With no straight sides it is a wheel's arch.

    middle_mm is counted along the first cross axis. Raises VolumeError when it does not fit.
    """
    index, volume = in_work(document)
    volume, shape = _as_extrusion(volume, axis)
    first, second = CROSS[axis]
    wide, high = volume.sides[first], volume.sides[second]
    low, far = (middle_mm - width_mm / 2) / wide, (middle_mm + width_mm / 2) / wide
    rise = straight_mm / high
    if not (width_mm > 0 and 0 < low < far < 1 and straight_mm >= 0):
        raise VolumeError(_("That arch runs out of the side: make it narrower or move it."))
    if straight_mm + width_mm / 2 >= high:
        raise VolumeError(_("That arch is higher than the volume: make it lower or narrower."))
    notch: list[Knot] = [Knot(low, 0.0), Knot(low, rise, -1.0), Knot(far, rise), Knot(far, 0.0)]
    if rise == 0:
        notch = [Knot(low, 0.0, -1.0), Knot(far, 0.0)]
    ring = _notched(shape.rings[0], low, far, notch)
    grown = replace(shape, rings=(ring, *shape.rings[1:]))
    return document.with_volume(index, replace(volume, shape=grown))


def cut_wheel_arch(
    document: Document, axis: int, middle_mm: float, rise_mm: float, radius_mm: float
) -> Document:
    """A guard arc over a wheel cut into the base of the volume in work: part of a circle whose
    middle lies `rise_mm` above the base (below it when negative)."""
    index, volume = in_work(document)
    volume, shape = _as_extrusion(volume, axis)
    first, _unused = CROSS[axis]
    if not radius_mm > 0 or abs(rise_mm) >= radius_mm:
        raise VolumeError(_("That wheel does not reach the base: make the arc larger or move it."))
    half = math.sqrt(radius_mm**2 - rise_mm**2)
    low, far = ((middle_mm + side * half) / volume.sides[first] for side in (-1.0, 1.0))
    if not 0 < low < far < 1:
        raise VolumeError(_("That arc runs out of the side: make it smaller or move it."))
    turn = 2 * (math.pi - math.acos(rise_mm / radius_mm))
    notch = [Knot(low, 0.0, -math.tan(turn / 4)), Knot(far, 0.0)]
    ring = _notched(shape.rings[0], low, far, notch)
    grown = replace(shape, rings=(ring, *shape.rings[1:]))
    return document.with_volume(index, replace(volume, shape=grown))


def let_door_in(
    document: Document, axis: int, ends: tuple[float, float], spring: float
) -> Document:
    """A door with a half round head let into the base of the volume in work, right through along an
    own axis: between two shares of the first cross side, its head beginning at a share of the
    second. Raises VolumeError where there is no straight base for it."""
    index, volume = in_work(document)
    volume, shape = _as_extrusion(volume, axis)
    low, far = sorted(ends)
    if not (0 < low < far < 1 and spring > 0):
        raise VolumeError(_("That door runs out of the side: make it smaller or move it."))
    notch = [Knot(low, 0.0), Knot(low, spring, -1.0), Knot(far, spring), Knot(far, 0.0)]
    ring = _notched(shape.rings[0], low, far, notch)
    grown = replace(shape, rings=(ring, *shape.rings[1:]))
    return document.with_volume(index, replace(volume, shape=grown))


def _notched(ring: Ring, low: float, far: float, notch: list[Knot]) -> Ring:
    """A ring with a notch let into the straight piece of its base that spans low … far."""
    for i, knot in enumerate(ring):
        after = ring[(i + 1) % len(ring)]
        on_base = abs(knot.y) < SAME and abs(after.y) < SAME and knot.bulge == 0
        if on_base and knot.x < low and after.x > far and not (knot.smooth or after.smooth):
            return (*ring[: i + 1], *notch, *ring[i + 1 :])
        if on_base and after.x < low and knot.x > far:
            turned = [replace(k, bulge=0.0) for k in reversed(notch)]
            for at, k in enumerate(notch[:-1]):
                turned[len(notch) - 2 - at] = replace(turned[len(notch) - 2 - at], bulge=-k.bulge)
            return (*ring[: i + 1], *turned, *ring[i + 1 :])
    raise VolumeError(_("There is no straight base there to let an arch into: move it along."))


def round_end(document: Document, axis: int, far: bool) -> Document:
    """One end of the box in work rounded to half a circle, seen along an own axis: the near or far
    side of its first cross axis."""
    index, volume = in_work(document)
    if volume.shape != BLOCK or volume.cuts:
        raise VolumeError(_("Only a whole box gets a round end: make it one first."))
    first, second = CROSS[axis]
    half = volume.sides[second] / 2 / volume.sides[first]
    if half >= 1:
        raise VolumeError(_("It is too short for half a circle: make it longer."))
    if far:
        ring = (Knot(0, 0), Knot(1 - half, 0, 1.0), Knot(1 - half, 1), Knot(0, 1))
    else:
        ring = (Knot(half, 0), Knot(1, 0), Knot(1, 1), Knot(half, 1, 1.0))
    shaped = Extruded((ring,), axis=axis, name="round end")
    rounded = replace(volume, shape=shaped, circles=_on_ends(volume, axis))
    return document.with_volume(index, rounded)


LIDS = (said("lid"), said("knob"), said("button"), said("dial"))


_LID_SHAPES = {
    "lid": Turned(((0.0, 1.0), (1.0, 1.0)), name="lid"),
    "knob": Turned(((0.0, 0.45), (0.35, 0.4), (0.7, 1.0), (1.0, 0.7)), join="smooth", name="knob"),
    "button": Turned(((0.0, 1.0), (0.6, 1.0), (1.0, 0.82)), name="button"),
    "dial": Turned(
        ((0.0, 1.0), (0.25, 1.0), (0.25, 0.7), (1.0, 0.62)), rings=((1.0, 0.4),), name="dial"
    ),
}


def set_on_face(
    document: Document,
    what: str,
    face: int,
    place: tuple[float, float],
    size_mm: tuple[float, float],
) -> Document:
    """A lid, knob, button or dial set on a face of the box of the volume in work (x=0, x=1, y=0,
    y=1, base, top), at shares across it, of a diameter and a height; it follows the volume."""
    _unused, parent = in_work(document)
    diameter, height = size_mm
    if not (diameter > 0 and height > 0):
        raise VolumeError(_("A knob needs a diameter and a height: type both."))
    sides = (diameter, diameter, height)
    made = Volume(
        free_name(document, what.capitalize()),
        *sides,
        shape=_LID_SHAPES[what],
        on=standing_on(parent, face, place, sides, facing_axes(face)),
        group=parent.group,
        key=-1,
    )
    return with_new(document, [made])


def arch_over(
    document: Document, wheel: Volume, axis: int, cross: tuple[int, int], room: float = ROOM
) -> Document:
    """A guard arc in the volume in work over a wheel, `room` times as large as the wheel."""
    _unused, body = in_work(document)
    place, axes = body.pose
    middle = np.array(wheel.place) + np.array(wheel.sides) / 2 @ wheel.pose[1]
    own = axes @ (middle - place)
    return cut_wheel_arch(
        document, axis, float(own[cross[0]]), float(own[cross[1]]), room * radius_of(wheel)
    )
