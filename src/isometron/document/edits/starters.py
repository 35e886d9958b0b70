"""Starters: first frameworks of a vehicle, a seat and a stack of crates, in modules.

The proportions are ours, made up for sketching. They are not engineering, safety or ergonomic data.
"""

import math
from collections.abc import Callable, Mapping
from dataclasses import replace
from typing import NamedTuple

import numpy as np

from isometron.document.document import Document
from isometron.document.edits.choosing import with_new
from isometron.document.edits.stances import stance_of, take_stance
from isometron.framework.kinds import turned as lathe
from isometron.framework.kinds.block import BLOCK
from isometron.framework.kinds.extruded import Extruded
from isometron.framework.kinds.kind import Kind
from isometron.framework.kinds.taper import Taper
from isometron.framework.kinds.turned import Turned
from isometron.framework.modules import Count, Module
from isometron.framework.outlines import Knot
from isometron.framework.placing import Anchor, Counts, Mirrored
from isometron.framework.settling import settle
from isometron.framework.volume import Volume
from isometron.perspective.errors import VolumeError
from isometron.words import _, said

CAUTION = _(
    "Proportions for sketching only: not engineering, safety or ergonomic "
    "data. What is built or sat on follows local codes and a licensed "
    "professional."
)

Values = Mapping[str, float]


class Question(NamedTuple):
    """One number a starter asks for: its words, kind ("length" in mm, "ratio" in modules, "angle",
    "count"), and what is proposed."""

    name: str
    kind: str
    proposed: float
    tip: str


class Starter(NamedTuple):
    """A starter: what it asks, and how the answers become modules and volumes."""

    name: str
    module: str
    questions: tuple[Question, ...]
    make: Callable[[Values], tuple[tuple[Module, ...], list[Volume]]]

    @property
    def proposal(self) -> dict[str, float]:
        """The proposed answers."""
        return {question.name: question.proposed for question in self.questions}


def with_starter(document: Document, starter: Starter, values: Values) -> Document:
    """The sheet with a starter's volumes on the ground, beside what is there and chosen.

    On an empty sheet the eye steps back before it, in the kind of view it had (`stance_of`). Raises
    VolumeError for answers that give no framework.
    """
    for question in starter.questions:
        value = values[question.name]
        if not math.isfinite(value) or (question.kind != "angle" and value <= 0):
            raise VolumeError(
                _("“{name}” must be more than nothing: type another number.").format(
                    name=question.name
                )
            )
    modules, volumes = starter.make(values)
    settled, _unused = settle(volumes, modules)
    known = {module.name for module in modules}
    kept = tuple(module for module in document.modules if module.name not in known)
    roomy = document.settled(document.volumes, (*modules, *kept))
    free = [i for i, volume in enumerate(settled) if volume.on is None and volume.like is None]
    shift = _beside(document, settled)
    moved = list(settled)
    for i in free:
        moved[i] = replace(moved[i], x_mm=moved[i].x_mm + shift)
    done = with_new(roomy, [replace(v, name=_own_name(document, v.name)) for v in moved])
    return done if document.volumes else take_stance(done, stance_of(document))


def _own_name(document: Document, name: str) -> str:
    taken = {volume.name for volume in document.volumes}
    number = 2
    given = name
    while given in taken:
        given, number = f"{name} {number}", number + 1
    return given


def _beside(document: Document, volumes: tuple[Volume, ...]) -> float:
    """How far to move new volumes along X so that they stand clear of what is there."""
    if not document.volumes:
        return 0.0
    there = np.concatenate([volume.enclosing() for volume in document.volumes])
    new = np.concatenate([volume.enclosing() for volume in volumes])
    gap = 0.25 * float(np.ptp(new[:, 0]))
    return float(there[:, 0].max() - new[:, 0].min()) + gap


def _counted(*numbers: float, of: str) -> Counts:
    width, depth, height = (Count(number, of) for number in numbers)
    return width, depth, height


def _vehicle(values: Values) -> tuple[tuple[Module, ...], list[Volume]]:
    w = values["wheel diameter"]
    base, front, rear = (values[k] for k in ("wheelbase", "front overhang", "rear overhang"))
    track, clear, high = values["track"], values["ground clearance"], values["height"]
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
        counts = _counted(*sides, of="w")
        made = Volume(name, width, depth, height, counts=counts, key=key, group=group)
        return replace(made, **more)  # type: ignore[arg-type]

    wheel = part(_("Front wheel"), 0, (1.0, tyre, 1.0), shape=lathe.wheel())
    body = part(
        _("Body"),
        1,
        (length, track, belt),
        shape=_body_with_arches((length, belt), (front, front + base), 0.5 - clear),
        on=Anchor(0, (0.5 - front, -0.06 / tyre, clear), (0.0, 0.0, 0.0)),
    )
    lean = Taper(glass * w, glass * w, roof_front * w, roof_rear * w)
    house = part(
        _("Cabin"),
        2,
        (end - begin, track, cabin),
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
        Question(said("track"), "ratio", 2.3, said("The width of the body.")),
        Question(said("ground clearance"), "ratio", 0.4, said("From the ground to the underside.")),
        Question(
            said("lean of side glass"), "angle", 10.0, said("Tumblehome: the sides lean inward.")
        ),
        Question(said("rake front"), "angle", 32.0, said("How far the front glass leans back.")),
        Question(said("rake rear"), "angle", 14.0, said("How far the rear leans forward.")),
    ),
    _vehicle,
)


def _seat(values: Values) -> tuple[tuple[Module, ...], list[Volume]]:
    height, wide, deep = (values[k] for k in ("seat height", "width", "depth"))
    board, leg, arm = 50.0, 42.0, 46.0
    splay = (height - board) * math.tan(math.radians(values["splay"]))
    rake = values["back height"] * math.tan(math.radians(values["back rake"]))
    if height <= board or min(wide, deep) <= 3 * leg:
        raise VolumeError(_("That is too small for a seat: make it higher or wider."))
    group = _("Seat")

    def part(
        name: str,
        key: int,
        sides: tuple[float, float, float],
        anchor: Anchor | None = None,
        shape: Kind = BLOCK,
    ) -> Volume:
        return Volume(name, *sides, key=key, on=anchor, shape=shape, group=group)

    inset = 0.5 * leg
    seat = replace(part(_("Seat"), 0, (wide, deep, board)), z_mm=height - board)
    under = -(height - board)
    front = part(
        _("Front leg"),
        1,
        (leg, leg, height - board),
        Anchor(0, (0.0, 0.0, 0.0), (inset - splay, inset - splay, under)),
        Taper(splay, -splay, splay, -splay),
    )
    back_leg = part(
        _("Back leg"),
        2,
        (leg, leg, height - board),
        Anchor(0, (0.0, 1.0, 0.0), (inset - splay, splay - inset - leg, under)),
        Taper(-splay, splay, splay, -splay),
    )
    back = part(
        _("Back"),
        3,
        (wide, 40.0, values["back height"]),
        Anchor(0, (0.0, 1.0, 1.0), (0.0, -40.0, 0.0)),
        Taper(rake, -rake, 0.0, 0.0),
    )
    rest = part(
        _("Arm"),
        4,
        (arm, 0.82 * deep, 28.0),
        Anchor(0, (0.0, 0.0, 1.0), (0.0, 0.1 * deep, values["arm height"] - 28.0)),
    )
    post = part(
        _("Arm post"),
        5,
        (arm, arm, values["arm height"] - 28.0),
        Anchor(0, (0.0, 0.0, 1.0), (0.0, 0.16 * deep, 0.0)),
    )
    twins = [
        replace(
            source,
            name=f"{source.name} twin",
            key=10 + source.key,
            on=None,
            like=Mirrored(source.key, 0, 0),
        )
        for source in (front, back_leg, rest, post)
    ]
    return (Module("seat", height),), [seat, back, front, back_leg, rest, post, *twins]


SEAT = Starter(
    said("Seat"),
    said("millimetres"),
    (
        Question(
            said("seat height"), "length", 440.0, said("From the floor to the top of the seat.")
        ),
        Question(said("depth"), "length", 460.0, said("From front to back.")),
        Question(said("width"), "length", 500.0, said("From side to side.")),
        Question(
            said("back height"), "length", 430.0, said("From the seat to the top of the back.")
        ),
        Question(said("back rake"), "angle", 12.0, said("How far the back leans.")),
        Question(said("arm height"), "length", 220.0, said("From the seat to the top of the arm.")),
        Question(said("splay"), "angle", 5.0, said("How far the legs spread outward.")),
    ),
    _seat,
)


def _stack(values: Values) -> tuple[tuple[Module, ...], list[Volume]]:
    sides = (values["width"], values["depth"], values["height"])
    turn, rows = values["turn of each layer"], round(values["columns"])
    layers = round(values["layers"])
    if rows * layers > 60:
        raise VolumeError(_("That is a warehouse: keep to sixty crates."))
    made: list[Volume] = []
    for row in range(rows):
        for layer in range(layers):
            key = len(made)
            count = _counted(
                1.0, values["depth"] / sides[0], values["height"] / sides[0], of="case"
            )
            crate = Volume(f"Case {key + 1}", *sides, key=key, counts=count)
            if layer == 0:
                crate = replace(crate, x_mm=1.35 * sides[0] * row, yaw_deg=(-1.0) ** row * turn / 2)
            else:
                way = (-1.0) ** (layer + row)
                crate = replace(crate, on=_turned_on(key - 1, sides, way * turn))
            made.append(crate)
    return (Module("case", sides[0]),), made


def _turned_on(parent: int, sides: tuple[float, ...], turn: float) -> Anchor:
    """On top of a like crate, turned about its middle."""
    angle = math.radians(turn)
    c, s = math.cos(angle), math.sin(angle)
    half = np.array(sides[:2]) / 2
    x, y = half - np.array([c * half[0] - s * half[1], s * half[0] + c * half[1]])
    return Anchor(parent, (0.0, 0.0, 1.0), (float(x), float(y), 0.0), (turn, 0.0, 0.0))


CRATES = Starter(
    said("Crate stack"),
    said("case widths"),
    (
        Question(said("width"), "length", 360.0, said("The module: case.")),
        Question(said("depth"), "length", 260.0, said("Of one crate.")),
        Question(said("height"), "length", 200.0, said("Of one crate.")),
        Question(said("columns"), "count", 2.0, said("How many stacks side by side.")),
        Question(said("layers"), "count", 3.0, said("How many crates high.")),
        Question(
            said("turn of each layer"),
            "angle",
            14.0,
            said("Each crate is turned on the one below."),
        ),
    ),
    _stack,
)


def _turned_object(values: Values) -> tuple[tuple[Module, ...], list[Volume]]:
    high, belly = values["height"], values["belly diameter"]
    widths = {
        0.0: values["foot diameter"],
        values["waist at"]: values["waist diameter"],
        values["belly at"]: belly,
        1.0: values["mouth diameter"],
    }
    if len(widths) < 4 or not all(0 <= place <= 1 for place in widths):
        raise VolumeError(
            _("Waist and belly lie between foot and mouth: give two different heights.")
        )
    widest = max(widths.values())
    stations = tuple((place, widths[place] / widest) for place in sorted(widths))
    shape = Turned(stations, join="smooth")
    counts = (Count(widest / belly, "d"), Count(widest / belly, "d"), Count(high / belly, "d"))
    made = Volume(_("Turned object"), widest, widest, high, shape=shape, counts=counts, key=0)
    return (Module("d", belly),), [made]


TURNED = Starter(
    said("Turned object"),
    said("belly diameters"),
    (
        Question(said("height"), "length", 180.0, said("From the foot to the mouth.")),
        Question(said("foot diameter"), "length", 90.0, said("Of the foot.")),
        Question(said("waist diameter"), "length", 46.0, said("At its narrowest.")),
        Question(said("waist at"), "ratio", 0.22, said("How far up, as a share of the height.")),
        Question(said("belly diameter"), "length", 120.0, said("The module: d.")),
        Question(said("belly at"), "ratio", 0.62, said("How far up, as a share of the height.")),
        Question(said("mouth diameter"), "length", 70.0, said("Of the mouth.")),
    ),
    _turned_object,
)

STARTERS = (VEHICLE, SEAT, CRATES, TURNED)
