"""A pump housing on feet: a round casing with an inlet before it and an outlet upward, a drive
behind it, and feet under both on a plate."""

from dataclasses import replace

from isometron.document.edits.fittings.legs import Legs, legs_under
from isometron.document.edits.starters.starter import Made, Question, Starter, Values, side, span
from isometron.framework.intentions.centred import Centred
from isometron.framework.kinds.block import BLOCK
from isometron.framework.kinds.kind import Kind
from isometron.framework.kinds.turned import CYLINDER, Turned
from isometron.framework.modules import Module
from isometron.framework.placing import Anchor
from isometron.framework.volume import Volume
from isometron.perspective.errors import VolumeError
from isometron.perspective.places import Sides
from isometron.words import _, said

FLANGED = Turned(((0.0, 0.66), (0.78, 0.66), (0.78, 1.0), (1.0, 1.0)), name="flanged pipe")
"""A pipe with a flange at its end."""
ALONG = Turned(
    ((0.0, 0.62), (0.1, 0.62), (0.1, 1.0), (0.9, 1.0), (0.9, 0.62), (1.0, 0.62)),
    axis=1,
    name="drive",
)
PLATE, FOOT = 0.12, 0.16
"""How thick the plate, and how thick and high a foot is, in casing diameters."""


def _pump(values: Values) -> Made:
    d, thick, axle = (values[k] for k in ("casing diameter", "casing depth", "axle height"))
    pipe, long, drive = (values[k] for k in ("pipe diameter", "drive length", "drive diameter"))
    plate, foot = PLATE * d, FOOT * d
    saddle = axle - drive / 2 - plate - foot
    if not (axle > d / 2 + plate + foot and saddle > 0 and pipe < 0.5 * d and pipe < thick * 1.6):
        raise VolumeError(
            _("Casing or drive touches the plate, or the pipes are too wide: raise the axle.")
        )
    group = _("Pump")
    wide, deep = 0.9 * d, thick + long
    bed = Volume(_("Plate"), wide, deep, plate, z_mm=foot, key=0, group=group)
    feet = legs_under(bed, Legs(foot, foot, 0.04 * d, round=True), 20, twins=2)

    def above(x: float, y: float, z: float) -> Anchor:
        return Anchor(0, (0.5, 0.0, 0.0), (x, y, z - foot))

    def part(name: str, key: int, sides: Sides, at: Anchor, shape: Kind = BLOCK) -> Volume:
        return Volume(name, *sides, shape=shape, on=at, key=key, group=group)

    round_one = replace(CYLINDER, axis=1, name="casing")
    forward = tuple((1 - h, r) for h, r in FLANGED.stations[::-1])
    ahead = Anchor(1, (0.5, 0.0, 0.5), (-pipe / 2, -0.8 * pipe, -pipe / 2))
    upward = Anchor(1, (0.0, 0.5, 0.5), (0.0, -pipe / 2, 0.0))
    made = [
        part(_("Casing"), 1, (d, thick, d), above(-d / 2, 0.0, axle - d / 2), round_one),
        part(
            _("Drive"),
            2,
            (drive, long, drive),
            above(-drive / 2, thick, axle - drive / 2),
            ALONG,
        ),
        part(
            _("Inlet"),
            3,
            (pipe, 0.8 * pipe, pipe),
            ahead,
            replace(FLANGED, axis=1, stations=forward),
        ),
        part(_("Outlet"), 4, (pipe, pipe, d / 2 + 0.6 * pipe), upward, FLANGED),
    ]
    for name, key, across, run, start in (
        (_("Casing foot"), 5, d, thick, 0.0),
        (_("Drive foot"), 6, drive, long, thick),
    ):
        high = axle - 0.45 * across - plate - foot
        at = above(-0.25 * across, start + 0.2 * run, foot + plate)
        made.append(part(name, key, (0.5 * across, 0.6 * run, high), at))
    meant = tuple(Centred(key, 0, 0) for key in (1, 2, 5, 6))
    return Made((Module("casing", d),), [bed, *feet, *made], meant)


PUMP = Starter(
    said("Pump on feet"),
    said("millimetres"),
    (
        Question(
            said("casing diameter"),
            "length",
            300.0,
            said("Of the round casing."),
            measure=side(1, 0),
        ),
        Question(
            said("casing depth"), "length", 120.0, said("Along the axle."), measure=side(1, 1)
        ),
        Question(
            said("axle height"),
            "length",
            270.0,
            said("From the ground to the axle."),
            measure=span(20, 0.0, 1, 0.5, 2),
        ),
        Question(
            said("pipe diameter"),
            "length",
            110.0,
            said("Of the flanges of inlet and outlet."),
            measure=side(3, 0),
        ),
        Question(
            said("drive length"), "length", 340.0, said("Behind the casing."), measure=side(2, 1)
        ),
        Question(
            said("drive diameter"), "length", 220.0, said("Of the drive."), measure=side(2, 0)
        ),
    ),
    _pump,
)
