"""An example or two of every kind of volume, for tests that run over all of them."""

from isometron.framework.kinds import turned as lathe
from isometron.framework.kinds.bar import Bar
from isometron.framework.kinds.block import BLOCK
from isometron.framework.kinds.extruded import Extruded
from isometron.framework.kinds.kind import RECTANGLE
from isometron.framework.kinds.loop import Loop
from isometron.framework.kinds.plan import Plan
from isometron.framework.kinds.taper import Taper
from isometron.framework.kinds.turned import Turned
from isometron.framework.outlines import Knot, circle
from isometron.framework.volume import Volume

L_PLAN = ((0, 0), (1, 0), (1, 0.4), (0.4, 0.4), (0.4, 1), (0, 1))
ARCHED = (
    *(Knot(0, 0), Knot(0.2, 0, -0.9), Knot(0.5, 0), Knot(1, 0), Knot(1, 0.6)),
    *(Knot(0.7, 1, smooth=True), Knot(0.3, 0.9, smooth=True), Knot(0, 0.6)),
)
VASE = Turned(((0.0, 0.7), (0.2, 1.0), (0.5, 0.35), (0.8, 0.6), (1.0, 0.5)), join="smooth")
WEDGE = (Knot(0, 0), Knot(1, 0), Knot(1, 0.3), Knot(0.4, 1))
FLAT, ROUND, WIDE = (200.0, 140.0, 110.0), (120.0, 120.0, 160.0), (180.0, 90.0, 120.0)

EXAMPLES = {
    "box": [(BLOCK, FLAT)],
    "tapered box": [(Taper(20, 10, 30, -15), FLAT), (Taper(70, 70), FLAT)],
    "prism": [(Plan(L_PLAN), FLAT), (Plan(RECTANGLE, 25.0, True), FLAT)],
    "turned form": [(VASE, ROUND), (lathe.TUBE, ROUND), (lathe.CONE, ROUND)],
    "extrusion": [
        (Extruded((ARCHED, circle(0.65, 0.45, 0.12)), axis=1), WIDE),
        (Extruded((ARCHED,), axis=1, widths=((0, 0.4), (0.45, 1), (1, 0.7))), WIDE),
        (Extruded((WEDGE,), axis=1, slant=(0.3, 0.2)), WIDE),
    ],
    "bent bar": [
        (Bar(((0, 0, 0), (1, 0, 0), (1, 1, 1), (0, 1, 1)), 24.0, 24.0, 30.0), WIDE),
        (Bar(((0, 0.5, 0), (0.5, 0.5, 1), (1, 0.5, 0)), 20.0, 90.0, 0.0, False), WIDE),
    ],
    "circle": [(Loop(start_deg=20, sweep_deg=250), ROUND)],
}
EVERY = [(kind, sides) for some in EXAMPLES.values() for kind, sides in some]
SOLID = [(kind, sides) for kind, sides in EVERY if not isinstance(kind, Loop)]


def name(value):
    """What a case of a test is called."""
    return getattr(value, "called", None)


def volume(kind, sides, **changes):
    """A volume of a kind at the eye's height two metres ahead."""
    usual = {"x_mm": -60.0, "y_mm": 2000.0, "z_mm": 1440.0, "yaw_deg": 25.0}
    return Volume("Part", *sides, shape=kind, **{**usual, **changes})
