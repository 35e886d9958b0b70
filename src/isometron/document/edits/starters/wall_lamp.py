"""A lamp on a wall: a plate, an arm that is bent down, a shade that hangs from it."""

from dataclasses import replace

from isometron.document.edits.starters.starter import (
    Made,
    Question,
    Read,
    Starter,
    Values,
    side,
    span,
)
from isometron.framework.intentions.centred import Centred
from isometron.framework.kinds.bar import Bar
from isometron.framework.kinds.turned import CYLINDER, Turned
from isometron.framework.modules import Module
from isometron.framework.placing import Anchor
from isometron.framework.volume import Volume
from isometron.perspective.errors import VolumeError
from isometron.words import _, said

SHADE = Turned(((0.0, 1.0), (0.75, 0.42), (1.0, 0.3)), name="shade")
PLATE, WALL = 18.0, 40.0
"""Thickness of plate and wall, mm."""


def _lamp(values: Values) -> Made:
    out, up, plate = (values[k] for k in ("reach", "height", "plate diameter"))
    shade, tall, thick = (values[k] for k in ("shade diameter", "shade height", "arm thickness"))
    if not (2 * thick < plate and shade / 2 < out and 2 * thick < 0.3 * tall and up > tall + plate):
        raise VolumeError(
            _("The shade meets the wall or the arm has no room: reach farther, or make it less.")
        )
    group = _("Wall lamp")
    across = 2.2 * max(shade, plate)
    below, above = 1.6 * tall, 0.9 * plate
    foot = max(up - below, 0.0)
    wall = Volume(_("Wall"), across, WALL, up + above - foot, z_mm=foot, key=0, group=_("Wall"))
    disc = Volume(
        _("Plate"),
        *(plate, PLATE, plate),
        shape=replace(CYLINDER, axis=1, name="plate"),
        on=Anchor(0, (0.5, 0.0, 0.0), (-plate / 2, -PLATE, up - foot - plate / 2)),
        key=1,
        group=group,
    )
    long, drop = out - PLATE, 0.4 * tall
    arm = Volume(
        _("Arm"),
        *(thick, long + thick / 2, drop),
        shape=Bar(
            ((0.5, 1.0, 1.0), (0.5, 0.0, 1.0), (0.5, 0.0, 0.0)),
            thick,
            thick,
            min(2 * thick, drop / 2),
        ),
        on=Anchor(1, (0.5, 0.0, 0.5), (-thick / 2, -long - thick / 2, thick / 2 - drop)),
        key=2,
        group=group,
    )
    hood = Volume(
        _("Shade"),
        *(shade, shade, tall),
        shape=SHADE,
        on=Anchor(2, (0.5, 0.0, 0.0), (-shade / 2, thick / 2 - shade / 2, -tall)),
        key=3,
        group=group,
    )
    meant = Centred(1, 0, 0), Centred(2, 1, 0), Centred(3, 2, 0)
    return Made((Module("shade", shade),), [wall, disc, arm, hood], meant)


def _height(now: Read, _told: Values) -> float:
    """From the ground to the middle of the plate."""
    return now.parts[0].z_mm + span(0, 0.0, 1, 0.5, 2)(now, _told)


WALL_LAMP = Starter(
    said("Lamp on a wall"),
    said("millimetres"),
    (
        Question(
            said("height"),
            "length",
            1700.0,
            said("From the ground to the middle of its plate."),
            measure=_height,
        ),
        Question(
            said("reach"),
            "length",
            280.0,
            said("From the wall to the middle of the shade."),
            measure=span(3, 0.5, 0, 0.0, 1),
        ),
        Question(
            said("plate diameter"), "length", 120.0, said("Of the plate."), measure=side(1, 0)
        ),
        Question(
            said("shade diameter"),
            "length",
            260.0,
            said("At its lower rim."),
            measure=side(3, 0),
        ),
        Question(
            said("shade height"), "length", 190.0, said("From rim to top."), measure=side(3, 2)
        ),
        Question(said("arm thickness"), "length", 20.0, said("Of the arm."), measure=side(2, 0)),
    ),
    _lamp,
)
