"""A vehicle of one, two or three boxes: body with arches, cabin and four wheels, in wheel
diameters."""

import math
from dataclasses import replace
from typing import NamedTuple

from isometron.document.edits.starters.starter import (
    Made,
    Measure,
    Question,
    Read,
    Starter,
    Values,
    counted,
    side,
    span,
)
from isometron.framework.intentions.centred import Centred
from isometron.framework.intentions.in_arch import InArch, arches_of, outlined
from isometron.framework.intentions.intention import Intention
from isometron.framework.intentions.within import Within
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
    shape = outlined(body)
    arched = shape is not None and arches_of(shape.rings[0])
    meant: list[Intention] = [Within(2, 1, 0), Centred(2, 1, 1)]
    if arched:
        meant += [InArch(key, 1, arch, ARCH - 0.5) for arch, key in enumerate((0, 3))]
    return Made((Module("w", w),), [body, house, wheel, behind, *twins], tuple(meant))


def _bonnet(now: Read, told: Values) -> float:
    """From the nose to the foot of the glass; as it was told where the cabin begins at the nose."""
    if round(told["boxes"]) == 1:
        return told["bonnet"]
    return span(1, 0.0, 2, 0.0, 0)(now, told) / now.side(0, 0)


def _boot(now: Read, told: Values) -> float:
    """From the tail to the foot of the rear glass, where there is a boot."""
    if round(told["boxes"]) < 3:
        return told["boot"]
    return span(2, 1.0, 1, 1.0, 0)(now, told) / now.side(0, 0)


def _outlined(now: Read) -> Extruded:
    """The body's outline. Raises KeyError where it is another kind of volume now."""
    shape = outlined(now.parts[1])
    if shape is None:
        raise KeyError
    return shape


def _nose(now: Read, told: Values) -> float:
    """From the ground to the upper edge of the nose, where there is a bonnet."""
    if round(told["boxes"]) == 1:
        return told["nose height"]
    high = _outlined(now).rings[0][-1].y * now.side(1, 2)
    belt = span(0, 0.0, 2, 0.0, 2)(now, told)
    nose = span(0, 0.0, 1, 0.0, 2)(now, told) + high
    w = now.side(0, 0)
    return told["nose height"] if nose >= belt * (1 - SAME) <= told["nose height"] * w else nose / w


def _nose_width(now: Read, told: Values) -> float:
    """How broad it is at the nose, where that narrows."""
    widths = _outlined(now).widths
    return widths[0][1] * now.side(1, 1) / now.side(0, 0) if widths else told["nose width"]


def _lean(side: int) -> Measure:
    """How far a side of the cabin (front, back, left, right) leans, degrees."""

    def lean(now: Read, _told: Values) -> float:
        leans = now.parts[2].shape.leans
        if leans is None:
            raise KeyError
        return math.degrees(math.atan2(leans[side], now.side(2, 2)))

    return lean


SAME = 1e-9
"""A nose as high as the belt, but for this share, may have been told any height above it."""


VEHICLE = Starter(
    said("Vehicle"),
    said("wheel diameters"),
    (
        Question(
            said("wheel diameter"),
            "length",
            620.0,
            said("The module: w."),
            measure=side(0, 0),
        ),
        Question(
            said("boxes"),
            "choice",
            2.0,
            said("What kind of vehicle it is, by the boxes that make its side."),
            choices=(said("all cabin"), said("a bonnet"), said("bonnet and boot")),
        ),
        Question(
            said("wheelbase"),
            "ratio",
            3.0,
            said("From axle to axle, in wheel diameters."),
            measure=span(0, 0.5, 3, 0.5, 0, per=0),
        ),
        Question(
            said("front overhang"),
            "ratio",
            0.9,
            said("From the nose to the front axle."),
            measure=span(1, 0.0, 0, 0.5, 0, per=0),
        ),
        Question(
            said("rear overhang"),
            "ratio",
            0.8,
            said("From the rear axle to the tail."),
            measure=span(3, 0.5, 1, 1.0, 0, per=0),
        ),
        Question(
            said("height"),
            "ratio",
            2.4,
            said("From the ground to the roof."),
            measure=span(0, 0.0, 2, 1.0, 2, per=0),
        ),
        Question(
            said("width"),
            "ratio",
            2.3,
            said("The width of the body."),
            measure=side(1, 1, per=0),
        ),
        Question(
            said("track"),
            "ratio",
            1.9,
            said("From the middle of a wheel to that of its twin."),
            measure=span(0, 0.5, 1, 0.5, 1, per=0, times=2),
        ),
        Question(
            said("ground clearance"),
            "ratio",
            0.4,
            said("From the ground to the underside."),
            measure=span(0, 0.0, 1, 0.0, 2, per=0),
        ),
        Question(
            said("belt height"),
            "ratio",
            1.44,
            said("From the ground to the side glass."),
            measure=span(0, 0.0, 2, 0.0, 2, per=0),
        ),
        Question(
            said("belt rise"),
            "ratio",
            0.0,
            said("How much higher it is at the tail."),
            none=True,
            measure=span(2, 0.0, 1, 1.0, 2, per=0),
        ),
        Question(
            said("bonnet"),
            "ratio",
            1.1,
            said("From the nose to the foot of the glass."),
            measure=_bonnet,
        ),
        Question(
            said("boot"),
            "ratio",
            0.7,
            said("From the tail to the foot of the rear glass."),
            measure=_boot,
        ),
        Question(
            said("nose height"),
            "ratio",
            1.44,
            said("From the ground to its upper edge."),
            measure=_nose,
        ),
        Question(
            said("nose width"),
            "ratio",
            2.3,
            said("Less than the width: the nose narrows."),
            measure=_nose_width,
        ),
        Question(
            said("lean of side glass"),
            "angle",
            10.0,
            said("Tumblehome: the sides lean inward."),
            measure=_lean(0),
        ),
        Question(
            said("rake front"),
            "angle",
            32.0,
            said("How far the front glass leans back."),
            measure=_lean(2),
        ),
        Question(
            said("rake rear"),
            "angle",
            14.0,
            said("How far the rear leans forward."),
            measure=_lean(3),
        ),
        Question(said("wheel arches"), "yes", 1.0, said("Cut over each wheel."), none=True),
    ),
    _vehicle,
    frame=1,
)
