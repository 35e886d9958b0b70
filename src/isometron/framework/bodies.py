"""Which curved body a volume has: from its shape, its round holes and the circles on its faces."""

import math
from collections.abc import Sequence
from dataclasses import replace
from functools import lru_cache

import numpy as np

from isometron.framework import turned as lathe
from isometron.framework.circles import FaceCircle, FaceFrame, end_frame, flat_frame
from isometron.framework.curved import MARK, Curved, Making
from isometron.framework.extruded import Extruded
from isometron.framework.extruded import contents_mm3 as extruded_contents
from isometron.framework.extruded_body import curved_extruded
from isometron.framework.marks import Mark
from isometron.framework.outlines import Knot, Ring, circle, rectangle
from isometron.framework.sections import section_along, section_circle, section_of_extrusion
from isometron.framework.shapes import Block, Cut, Plan, RoundShape, Shape, Sides
from isometron.framework.solid import Solid
from isometron.framework.turned import Loop, Turned
from isometron.framework.turned_body import curved_loop, curved_turned, turned_frame
from isometron.perspective.errors import VolumeError


@lru_cache(maxsize=4096)
def round_shape(
    shape: Shape, sides: Sides, circles: tuple[FaceCircle, ...], cut: bool
) -> RoundShape | None:
    """The round shape a volume is drawn as: its own, or the extrusion that a pierced box or a
    prism with rounded corners is; None for a flat one. Raises VolumeError for a hole through a
    shape that cannot take it."""
    holes = [one for one in circles if one.through]
    if isinstance(shape, Plan) and not cut and ((shape.rounded and shape.corner_mm) or holes):
        shape = Extruded((_rounded_plan(shape, sides),), axis=2, name=shape.kind)
    if not holes:
        return shape if isinstance(shape, RoundShape) else None
    if cut:
        raise VolumeError("A volume with cuts takes no round hole: fill its cuts first.")
    if isinstance(shape, Extruded):
        return _pierced(shape, sides, holes)
    if isinstance(shape, Block):
        axes = {one.face // 2 for one in holes}
        if len(axes) > 1:
            raise VolumeError("Round holes run one way through a volume: choose that side.")
        box = Extruded((rectangle(),), axis=axes.pop(), name=shape.kind)
        return _pierced(box, sides, [_on_ends(one) for one in holes])
    raise VolumeError(f"No round hole goes through a {shape.kind}: make it a box, or use a bore.")


def _on_ends(circle: FaceCircle) -> FaceCircle:
    """A circle on a face of a box as one on an end of the box as an extrusion."""
    return replace(circle, face=circle.face % 2)


def _pierced(shape: Extruded, sides: Sides, holes: Sequence[FaceCircle]) -> Extruded:
    rings = list(shape.rings)
    for hole in holes:
        if not 0 <= hole.face <= 1:
            raise VolumeError("A hole through an extrusion begins on one of its ends.")
        radius = end_frame(shape, sides, hole.face).radius_of(hole)
        rings.append(circle(*hole.middle, radius / sides[shape.cross[0]]))
    return replace(shape, rings=tuple(rings))


def _rounded_plan(shape: Plan, sides: Sides) -> Ring:
    """A plan outline with its corners cut, as knots: rounded ones as true arcs."""
    size = np.array(sides[:2])
    corners = np.array(shape.outline) * size
    if not shape.corner_mm:
        return tuple(Knot(x, y) for x, y in shape.outline)
    knots = []
    for i, corner in enumerate(corners):
        back, on = corners[i - 1] - corner, corners[(i + 1) % len(corners)] - corner
        into, out = back / np.linalg.norm(back), on / np.linalg.norm(on)
        angle = math.acos(float(np.clip(into @ out, -1.0, 1.0)))
        reach = shape.corner_mm / math.tan(angle / 2) if shape.rounded else shape.corner_mm
        turn = math.copysign(math.pi - angle, float(out[0] * into[1] - out[1] * into[0]))
        first, last = (corner + reach * into) / size, (corner + reach * out) / size
        bulge = math.tan(turn / 4) if shape.rounded else 0.0
        knots += [
            Knot(float(first[0]), float(first[1]), bulge),
            Knot(float(last[0]), float(last[1])),
        ]
    return tuple(knots)


def curved_of(
    shape: Shape,
    sides: Sides,
    solid: Solid,
    circles: tuple[FaceCircle, ...],
    marks: tuple[Mark, ...],
    cuts: tuple[Cut, ...],
) -> Curved | None:
    """The curved body of a volume with everything drawn on it, in own mm; None for a flat volume
    without circles."""
    form = round_shape(shape, sides, circles, bool(cuts))
    if form is None and not circles:
        return None
    making = _body(form, sides)
    drawn = [one for one in circles if not one.through]
    for one in drawn:
        _draw(making, one, *_frame(form, sides, solid, one, shape, making))
    if isinstance(form, Turned | Extruded):
        for mark in marks:
            if mark.kind == "section":
                for share in mark.shares:
                    _section(making, form, sides, mark.axis, share)
    return making.done()


def _body(form: RoundShape | None, sides: Sides) -> Making:
    if isinstance(form, Turned):
        return curved_turned(form, sides)
    if isinstance(form, Extruded):
        return curved_extruded(form, sides)
    return curved_loop(form, sides) if isinstance(form, Loop) else Making()


def _frame(
    form: RoundShape | None,
    sides: Sides,
    solid: Solid,
    one: FaceCircle,
    shape: Shape,
    making: Making,
) -> tuple[FaceFrame, int]:
    """The frame of the face a circle is on, and the number of the patch (of a round body) or face
    (of a flat one)."""
    if form is None:
        return flat_frame(solid, one.face), one.face
    if isinstance(form, Loop):
        raise VolumeError("A circle in space has no faces: choose a volume.")
    if isinstance(shape, Block) and isinstance(form, Extruded):
        if one.face // 2 != form.axis:
            return flat_frame(solid, one.face), making.patch_at(
                flat_frame(solid, one.face).middle(one)
            )
        one = _on_ends(one)
    if not 0 <= one.face <= 1 or making.ends[one.face] < 0:
        raise VolumeError("A round volume has circles on its two ends only: choose one of them.")
    if isinstance(form, Extruded) and form.widths:
        raise VolumeError("Its sides are not flat where the width varies: make it straight first.")
    return end_frame(form, sides, one.face), making.ends[one.face]


def _draw(making: Making, one: FaceCircle, frame: FaceFrame, patch: int) -> None:
    middle, radius = frame.middle(one), frame.radius_of(one)
    for share in one.shares:
        making.circle(
            middle,
            (frame.across, frame.along),
            share * radius,
            (patch, -1),
            "mark",
            turns=(one.start_deg, one.sweep_deg),
            kind=MARK,
            rim=False,
        )


def _section(making: Making, form: RoundShape, sides: Sides, axis: int, share: float) -> None:
    if isinstance(form, Extruded):
        section_of_extrusion(making, form, sides, axis, share)
    elif isinstance(form, Turned) and axis == form.axis:
        section_circle(making, form, sides, share)
    elif isinstance(form, Turned):
        section_along(making, form, sides, axis, share)


def contents_of(
    shape: Shape, sides: Sides, solid: Solid, circles: tuple[FaceCircle, ...], cut: bool
) -> float:
    """True contents of a volume, mm³."""
    form = round_shape(shape, sides, circles, cut)
    if isinstance(form, Turned):
        *_, length, radius = turned_frame(form.axis, sides)
        return lathe.contents_mm3(form, length, radius)
    if isinstance(form, Extruded):
        return extruded_contents(form, sides)
    return 0.0 if isinstance(form, Loop) else solid.volume_mm3
