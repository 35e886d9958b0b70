"""A vehicle of one, two or three boxes: body with arches, cabin and four wheels, in wheel
diameters."""

import math
from dataclasses import replace
from typing import NamedTuple

from isometron.document.edits.starters.starter import Made, Question, Starter, Values, counted
from isometron.framework.kinds import turned as lathe
from isometron.framework.kinds.extruded import Extruded
from isometron.framework.kinds.taper import Taper
from isometron.framework.modules import Module
from isometron.framework.outlines import Knot, Ring
from isometron.framework.placing import Anchor, Mirrored
from isometron.framework.volume import Volume
from isometron.perspective.errors import VolumeError
from isometron.words import _, said

TYRE = 0.32
"""How broad a tyre is."""

ARCH = 0.57
"""Radius of a wheel's arch: a finger's breadth more than the wheel."""

NARROWS = 0.8
"""A nose narrows over this share of the front overhang."""


class Side(NamedTuple):
    """The side of a body, in wheel diameters: its length, from where to where the cabin stands, and
    above its underside the heights of the nose, of the belt where the cabin begins, and at the
    tail."""

    length: float
    begin: float
    end: float
    nose: float
    belt: float
    tail: float


def _side(values: Values) -> Side:
    boxes, clear = round(values["boxes"]), values["ground clearance"]
    if not 1 <= boxes <= 3:
        raise VolumeError(_("A vehicle is one, two or three boxes: type 1, 2 or 3."))
    length = values["front overhang"] + values["wheelbase"] + values["rear overhang"]
    begin = values["bonnet"] if boxes > 1 else 0.0
    end = length - (values["boot"] if boxes > 2 else 0.0)
    belt = values["belt height"] - clear
    nose = min(values["nose height"] - clear, belt) if boxes > 1 else belt
    if nose <= 0 or end - begin < 0.2 or values["height"] - clear <= belt + values["belt rise"]:
        raise VolumeError(
            _("That leaves no room: make it longer, or roof and belt line higher above the ground.")
        )
    return Side(length, begin, end, nose, belt, belt + values["belt rise"])


def _outline(side: Side, values: Values) -> Ring:
    """The outline of a body as shares of its length and height: nose, bonnet, belt line, tail, and
    along its underside an arch over each wheel where there is room for one."""
    length, high = side.length, side.tail
    under = [] if values["wheel arches"] <= 0 else _arches(side, values)
    base = [Knot(x / length, 0.0, bulge) for x, bulge in under]
    upper = [Knot(1.0, 1.0)]
    if side.begin > 0:
        upper.append(Knot(side.begin / length, side.belt / high))
    upper.append(Knot(0.0, side.nose / high))
    return (Knot(0.0, 0.0), *base, Knot(1.0, 0.0), *upper)


def _arches(side: Side, values: Values) -> list[tuple[float, float]]:
    rise, front = 0.5 - values["ground clearance"], values["front overhang"]
    if abs(rise) >= ARCH or rise + ARCH >= min(side.nose, side.belt):
        return []
    half = math.sqrt(ARCH**2 - rise**2)
    bulge = -math.tan((math.pi - math.acos(rise / ARCH)) / 2)
    middles = (front, front + values["wheelbase"])
    ends = [middle + way * half for middle in middles for way in (-1.0, 1.0)]
    if not 0 < ends[0] < ends[1] < ends[2] < ends[3] < side.length:
        return []
    return [(x, bulge * (1 - i % 2)) for i, x in enumerate(ends)]


def _narrowing(side: Side, values: Values) -> tuple[tuple[float, float], ...]:
    """How broad the body is along its length, when its nose narrows."""
    share = values["nose width"] / values["width"]
    full = NARROWS * values["front overhang"] / side.length
    if not 0 < share < 1:
        return ()
    return ((0.0, share), (full, 1.0), (1.0, 1.0))


def _vehicle(values: Values) -> Made:
    w, clear, front = values["wheel diameter"], values["ground clearance"], values["front overhang"]
    track, wide = values["track"], values["width"]
    side = _side(values)
    cabin = values["height"] - clear - side.belt
    roof_front, roof_rear, glass = (
        cabin * math.tan(math.radians(values[name]))
        for name in ("rake front", "rake rear", "lean of side glass")
    )
    if roof_front + roof_rear >= side.end - side.begin or 2 * glass >= wide:
        raise VolumeError(_("Those rakes leave no roof: lean the glass less, or make it longer."))
    group = _("Vehicle")

    def part(name: str, key: int, sides: tuple[float, float, float], **more: object) -> Volume:
        width, depth, height = (one * w for one in sides)
        counts = counted(*sides, of="w")
        made = Volume(name, width, depth, height, counts=counts, key=key, group=group)
        return replace(made, **more)  # type: ignore[arg-type]

    wheel = part(_("Front wheel"), 0, (1.0, TYRE, 1.0), shape=lathe.wheel())
    widths = _narrowing(side, values)
    body = part(
        _("Body"),
        1,
        (side.length, wide, side.tail),
        shape=Extruded((_outline(side, values),), axis=1, widths=widths, name="body"),
        on=Anchor(0, (0.5 - front, 0.5 + (track - wide) / (2 * TYRE), clear), (0.0, 0.0, 0.0)),
    )
    house = part(
        _("Cabin"),
        2,
        (side.end - side.begin, wide, cabin),
        shape=Taper(glass * w, glass * w, roof_front * w, roof_rear * w),
        on=Anchor(1, (side.begin / side.length, 0.0, side.belt / side.tail), (0.0, 0.0, 0.0)),
    )
    behind = part(
        _("Rear wheel"),
        3,
        (1.0, TYRE, 1.0),
        shape=lathe.wheel(),
        on=Anchor(0, (values["wheelbase"], 0.0, 0.0), (0.0, 0.0, 0.0)),
    )
    twins = [
        replace(wheel, name=_("Front wheel twin"), key=4, like=Mirrored(0, 1, 1), on=None),
        replace(behind, name=_("Rear wheel twin"), key=5, like=Mirrored(3, 1, 1), on=None),
    ]
    return (Module("w", w),), [body, house, wheel, behind, *twins]


VEHICLE = Starter(
    said("Vehicle"),
    said("wheel diameters"),
    (
        Question(said("wheel diameter"), "length", 620.0, said("The module: w.")),
        Question(
            said("boxes"),
            "choice",
            2.0,
            said("What kind of vehicle it is, by the boxes that make its side."),
            choices=(said("all cabin"), said("a bonnet"), said("bonnet and boot")),
        ),
        Question(said("wheelbase"), "ratio", 3.0, said("From axle to axle, in wheel diameters.")),
        Question(said("front overhang"), "ratio", 0.9, said("From the nose to the front axle.")),
        Question(said("rear overhang"), "ratio", 0.8, said("From the rear axle to the tail.")),
        Question(said("height"), "ratio", 2.4, said("From the ground to the roof.")),
        Question(said("width"), "ratio", 2.3, said("The width of the body.")),
        Question(
            said("track"), "ratio", 1.9, said("From the middle of a wheel to that of its twin.")
        ),
        Question(said("ground clearance"), "ratio", 0.4, said("From the ground to the underside.")),
        Question(said("belt height"), "ratio", 1.44, said("From the ground to the side glass.")),
        Question(
            said("belt rise"), "ratio", 0.0, said("How much higher it is at the tail."), none=True
        ),
        Question(said("bonnet"), "ratio", 1.1, said("From the nose to the foot of the glass.")),
        Question(said("boot"), "ratio", 0.7, said("From the tail to the foot of the rear glass.")),
        Question(said("nose height"), "ratio", 1.44, said("From the ground to its upper edge.")),
        Question(said("nose width"), "ratio", 2.3, said("Less than the width: the nose narrows.")),
        Question(
            said("lean of side glass"), "angle", 10.0, said("Tumblehome: the sides lean inward.")
        ),
        Question(said("rake front"), "angle", 32.0, said("How far the front glass leans back.")),
        Question(said("rake rear"), "angle", 14.0, said("How far the rear leans forward.")),
        Question(said("wheel arches"), "yes", 1.0, said("Cut over each wheel."), none=True),
    ),
    _vehicle,
)
