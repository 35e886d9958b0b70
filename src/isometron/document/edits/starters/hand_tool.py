"""A hand tool: a turned barrel that narrows to a nose, a grip that leans under it, a block at its
foot."""

import math

from isometron.document.edits.starters.starter import Made, Question, Read, Starter, Values, side
from isometron.framework.intentions.centred import Centred
from isometron.framework.kinds.taper import Taper
from isometron.framework.kinds.turned import Turned
from isometron.framework.modules import Module
from isometron.framework.placing import Anchor
from isometron.framework.volume import Volume
from isometron.perspective.errors import VolumeError
from isometron.words import _, said

BARREL = Turned(
    ((0.0, 0.35), (0.24, 0.5), (0.24, 0.78), (0.42, 1.0), (0.94, 1.0), (1.0, 0.86)),
    axis=0,
    rings=((0.66, 1.0),),
    name="barrel",
)
"""From the nose to the back."""
STEEPEST_DEG = 40.0
SUNK = 0.12
"""How far the grip begins within the barrel, in barrel diameters."""


def _tool(values: Values) -> Made:
    long, d, grip = (values[k] for k in ("barrel length", "barrel diameter", "grip height"))
    wide, thick, lean = (values[k] for k in ("grip depth", "grip width", "grip lean"))
    block = values["block height"]
    if not abs(lean) <= STEEPEST_DEG:
        raise VolumeError(_("A grip leans up to {most:g}°.").format(most=STEEPEST_DEG))
    run = grip * math.tan(math.radians(lean))
    if not (wide < 0.6 * long and thick <= d and wide + abs(run) < long):
        raise VolumeError(_("The grip runs out of the barrel: make it narrower or upright."))
    group = _("Hand tool")
    barrel = Volume(
        _("Barrel"),
        *(long, d, d),
        z_mm=block + grip - SUNK * d,
        shape=BARREL,
        key=0,
        group=group,
    )
    begin = 0.5 * long
    handle = Volume(
        _("Grip"),
        *(wide, thick, grip),
        shape=Taper(0.0, 0.0, -run, run),
        on=Anchor(0, (0.5, 0.5, 0.0), (begin - 0.5 * long + run, -thick / 2, SUNK * d - grip)),
        key=1,
        group=group,
    )
    made, meant = [barrel, handle], [Centred(1, 0, 1)]
    if block:
        foot = (1.6 * wide, 1.5 * thick, block)
        at = Anchor(1, (0.5, 0.5, 0.0), (-0.9 * wide, -0.75 * thick, -block))
        made.append(Volume(_("Block"), *foot, on=at, key=2, group=group))
        meant.append(Centred(2, 0, 1))
    return Made((Module("barrel", d),), made, tuple(meant))


def _lean(now: Read, _told: Values) -> float:
    """How far the grip leans, degrees. Raises KeyError for another kind of part."""
    leans = now.parts[1].shape.leans
    if leans is None:
        raise KeyError
    return math.degrees(math.atan2(leans[3], now.side(1, 2)))


HAND_TOOL = Starter(
    said("Hand tool"),
    said("millimetres"),
    (
        Question(
            said("barrel length"), "length", 210.0, said("From nose to back."), measure=side(0, 0)
        ),
        Question(
            said("barrel diameter"), "length", 68.0, said("At its thickest."), measure=side(0, 1)
        ),
        Question(
            said("grip height"),
            "length",
            115.0,
            said("From its foot into the barrel."),
            measure=side(1, 2),
        ),
        Question(
            said("grip depth"),
            "length",
            46.0,
            said("From its front to its back."),
            measure=side(1, 0),
        ),
        Question(
            said("grip width"), "length", 34.0, said("From side to side."), measure=side(1, 1)
        ),
        Question(
            said("grip lean"),
            "angle",
            12.0,
            said("How far its foot lies behind its head."),
            measure=_lean,
        ),
        Question(
            said("block height"),
            "length",
            48.0,
            said("Of the block at its foot; 0 for none."),
            none=True,
            measure=side(2, 2),
        ),
    ),
    _tool,
)
