"""A vehicle: body with arches, cabin and four wheels, in wheel diameters."""

import math
from dataclasses import replace

from isometron.document.edits.starters.starter import Made, Question, Starter, Values, counted
from isometron.framework.kinds import turned as lathe
from isometron.framework.kinds.block import BLOCK
from isometron.framework.kinds.extruded import Extruded
from isometron.framework.kinds.kind import Kind
from isometron.framework.kinds.taper import Taper
from isometron.framework.modules import Module
from isometron.framework.outlines import Knot
from isometron.framework.placing import Anchor, Mirrored
from isometron.framework.volume import Volume
from isometron.perspective.errors import VolumeError
from isometron.words import _, said


def _vehicle(values: Values) -> Made:
    w = values["wheel diameter"]
    base, front, rear = (values[k] for k in ("wheelbase", "front overhang", "rear overhang"))
    clear, high = values["ground clearance"], values["height"]
    track, wide = values["track"], values["width"]
    length, tyre = front + base + rear, 0.32
    belt = 0.52 * (high - clear)
    cabin = high - clear - belt
    if cabin <= 0 or length <= 1:
        raise VolumeError(_("That leaves no room for a body: make it higher or longer."))
    roof_front = cabin * math.tan(math.radians(values["rake front"]))
    roof_rear = cabin * math.tan(math.radians(values["rake rear"]))
    glass = cabin * math.tan(math.radians(values["lean of side glass"]))
    begin, end = 0.24 * length, 0.94 * length
    group = _("Vehicle")

    def part(name: str, key: int, sides: tuple[float, float, float], **more: object) -> Volume:
        width, depth, height = (side * w for side in sides)
        counts = counted(*sides, of="w")
        made = Volume(name, width, depth, height, counts=counts, key=key, group=group)
        return replace(made, **more)  # type: ignore[arg-type]

    wheel = part(_("Front wheel"), 0, (1.0, tyre, 1.0), shape=lathe.wheel())
    body = part(
        _("Body"),
        1,
        (length, wide, belt),
        shape=_body_with_arches((length, belt), (front, front + base), 0.5 - clear),
        on=Anchor(0, (0.5 - front, 0.5 + (track - wide) / (2 * tyre), clear), (0.0, 0.0, 0.0)),
    )
    lean = Taper(glass * w, glass * w, roof_front * w, roof_rear * w)
    house = part(
        _("Cabin"),
        2,
        (end - begin, wide, cabin),
        shape=lean,
        on=Anchor(1, (begin / length, 0.0, 1.0), (0.0, 0.0, 0.0)),
    )
    behind = part(
        _("Rear wheel"),
        3,
        (1.0, tyre, 1.0),
        shape=lathe.wheel(),
        on=Anchor(0, (base, 0.0, 0.0), (0.0, 0.0, 0.0)),
    )
    twins = [
        replace(wheel, name=_("Front wheel twin"), key=4, like=Mirrored(0, 1, 1), on=None),
        replace(behind, name=_("Rear wheel twin"), key=5, like=Mirrored(3, 1, 1), on=None),
    ]
    return (Module("w", w),), [body, house, wheel, behind, *twins]


ARCH = 0.57
"""Radius of a wheel's arch in wheel diameters: a finger's breadth more than the wheel."""


def _body_with_arches(size: tuple[float, float], middles: tuple[float, float], rise: float) -> Kind:
    """The side of a body (length, height in wheel diameters) with an arch over each wheel, whose
    middles lie `rise` above its base; a whole box where arches have no room."""
    length, high = size
    if abs(rise) >= ARCH or rise + ARCH >= high:
        return BLOCK
    half = math.sqrt(ARCH**2 - rise**2)
    bulge = -math.tan((math.pi - math.acos(rise / ARCH)) / 2)
    ends = [middle + side * half for middle in middles for side in (-1.0, 1.0)]
    if not 0 < ends[0] < ends[1] < ends[2] < ends[3] < length:
        return BLOCK
    base = [Knot(x / length, 0.0, bulge * (1 - i % 2)) for i, x in enumerate(ends)]
    ring = (Knot(0.0, 0.0), *base, Knot(1.0, 0.0), Knot(1.0, 1.0), Knot(0.0, 1.0))
    return Extruded((ring,), axis=1, name="body")


VEHICLE = Starter(
    said("Vehicle"),
    said("wheel diameters"),
    (
        Question(said("wheel diameter"), "length", 620.0, said("The module: w.")),
        Question(said("wheelbase"), "ratio", 3.0, said("From axle to axle, in wheel diameters.")),
        Question(said("front overhang"), "ratio", 0.9, said("From the nose to the front axle.")),
        Question(said("rear overhang"), "ratio", 0.8, said("From the rear axle to the tail.")),
        Question(said("height"), "ratio", 2.4, said("From the ground to the roof.")),
        Question(said("width"), "ratio", 2.3, said("The width of the body.")),
        Question(
            said("track"), "ratio", 1.9, said("From the middle of a wheel to that of its twin.")
        ),
        Question(said("ground clearance"), "ratio", 0.4, said("From the ground to the underside.")),
        Question(
            said("lean of side glass"), "angle", 10.0, said("Tumblehome: the sides lean inward.")
        ),
        Question(said("rake front"), "angle", 32.0, said("How far the front glass leans back.")),
        Question(said("rake rear"), "angle", 14.0, said("How far the rear leans forward.")),
    ),
    _vehicle,
)
