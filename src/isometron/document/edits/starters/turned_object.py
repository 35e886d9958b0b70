"""A turned object from foot to mouth, with its joints and a lid."""

from isometron.document.edits.shapes.rounding import turned_of
from isometron.document.edits.starters.starter import (
    Made,
    Measure,
    Question,
    Read,
    Starter,
    Values,
    side,
)
from isometron.framework.bodies.lathe import segments_of
from isometron.framework.intentions.centred import Centred
from isometron.framework.kinds.turned import Turned
from isometron.framework.modules import Count, Module
from isometron.framework.placing import Anchor
from isometron.framework.volume import Volume
from isometron.perspective.errors import VolumeError
from isometron.words import _, said

LID = Turned(
    ((0.0, 1.0), (0.34, 1.0), (0.52, 0.62), (0.6, 0.3), (0.8, 0.36), (1.0, 0.12)), name="lid"
)
"""A rim, a shoulder and a knob."""

MOST_JOINTS = 12


def _rings(shape: Turned, joints: int) -> tuple[tuple[float, float], ...]:
    """Circles at even heights, as stations: where the parts of it join."""
    pieces = segments_of(shape.stations, shape.join, 1.0, 1.0)
    found = []
    for n in range(1, joints + 1):
        height = n / (joints + 1)
        piece = next(one for one in pieces if height <= one.high or one is pieces[-1])
        found.append((height, min(piece.radius(height), 1.0)))
    return tuple(found)


def _turned_object(values: Values) -> Made:
    high, belly = values["height"], values["belly diameter"]
    mouth, joints = values["mouth diameter"], round(values["joints"])
    widths = {
        0.0: values["foot diameter"],
        values["waist at"]: values["waist diameter"],
        values["belly at"]: belly,
        1.0: mouth,
    }
    if len(widths) < 4 or not all(0 <= place <= 1 for place in widths):
        raise VolumeError(
            _("Waist and belly lie between foot and mouth: give two different heights.")
        )
    if joints > MOST_JOINTS:
        raise VolumeError(
            _("So many joints are a pattern: type up to {most}.").format(most=MOST_JOINTS)
        )
    widest = max(widths.values())
    stations = tuple((place, widths[place] / widest) for place in sorted(widths))
    bare = Turned(stations, join="smooth")
    shape = Turned(stations, join="smooth", rings=_rings(bare, joints))
    counts = (Count(widest / belly, "d"), Count(widest / belly, "d"), Count(high / belly, "d"))
    made = Volume(_("Turned object"), widest, widest, high, shape=shape, counts=counts, key=0)
    if values["lid height"] <= 0:
        return Made((Module("d", belly),), [made])
    off = (widest - mouth) / 2
    lid = Volume(
        _("Lid"),
        *(mouth, mouth, values["lid height"]),
        shape=LID,
        on=Anchor(0, (0.0, 0.0, 1.0), (off, off, 0.0)),
        key=1,
    )
    return Made((Module("d", belly),), [made, lid], (Centred(1, 0, 0), Centred(1, 0, 1)))


WAIST, BELLY = 1, 2
"""The places between foot and mouth, where the waist lies below the belly."""


def _station(now: Read, told: Values, number: int) -> tuple[float, float]:
    """Height and radius of a place, as shares. Raises KeyError where it has other places now."""
    shape = turned_of(now.parts[0])
    if shape is None or len(shape.stations) != 4:
        raise KeyError
    upside = told["waist at"] > told["belly at"]
    return shape.stations[{WAIST: BELLY, BELLY: WAIST}.get(number, number) if upside else number]


def _diameter(number: int) -> Measure:
    """The measure of a diameter, mm."""
    return lambda now, told: _station(now, told, number)[1] * now.side(0, 0)


def _up(number: int) -> Measure:
    """The measure of a height, as a share of the whole."""
    return lambda now, told: _station(now, told, number)[0]


TURNED = Starter(
    said("Turned object"),
    said("belly diameters"),
    (
        Question(
            said("height"),
            "length",
            180.0,
            said("From the foot to the mouth."),
            measure=side(0, 2),
        ),
        Question(said("foot diameter"), "length", 90.0, said("Of the foot."), measure=_diameter(0)),
        Question(
            said("waist diameter"),
            "length",
            46.0,
            said("At its narrowest."),
            measure=_diameter(WAIST),
        ),
        Question(
            said("waist at"),
            "ratio",
            0.22,
            said("How far up, as a share of the height."),
            measure=_up(WAIST),
        ),
        Question(
            said("belly diameter"),
            "length",
            120.0,
            said("The module: d."),
            measure=_diameter(BELLY),
        ),
        Question(
            said("belly at"),
            "ratio",
            0.62,
            said("How far up, as a share of the height."),
            measure=_up(BELLY),
        ),
        Question(
            said("mouth diameter"), "length", 70.0, said("Of the mouth."), measure=_diameter(3)
        ),
        Question(
            said("joints"), "count", 0.0, said("Circles round it where parts join."), none=True
        ),
        Question(
            said("lid height"),
            "length",
            0.0,
            said("Of a lid; 0 for none."),
            none=True,
            measure=side(1, 2),
        ),
    ),
    _turned_object,
)
