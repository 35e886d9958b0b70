"""A seat with splayed legs, a leaning back and arms."""

import math
from dataclasses import replace

from isometron.document.edits.starters.starter import Made, Question, Starter, Values
from isometron.framework.kinds.block import BLOCK
from isometron.framework.kinds.kind import Kind
from isometron.framework.kinds.taper import Taper
from isometron.framework.modules import Module
from isometron.framework.placing import Anchor, Mirrored
from isometron.framework.volume import Volume
from isometron.perspective.errors import VolumeError
from isometron.words import _, said


def _seat(values: Values) -> Made:
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
