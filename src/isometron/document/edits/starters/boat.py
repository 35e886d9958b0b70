"""A small boat: a hull that narrows to its bow, a house on it, and a mast."""

from isometron.document.edits.starters.starter import Made, Question, Starter, Values, side
from isometron.framework.intentions.centred import Centred
from isometron.framework.intentions.intention import Intention
from isometron.framework.intentions.within import Within
from isometron.framework.kinds.extruded import Extruded
from isometron.framework.kinds.taper import Taper
from isometron.framework.kinds.turned import CYLINDER
from isometron.framework.modules import Module
from isometron.framework.outlines import Knot
from isometron.framework.placing import Anchor
from isometron.framework.volume import Volume
from isometron.perspective.errors import VolumeError
from isometron.words import _, said

DECK = 0.72
"""How high the deck behind the bow lies, as a share of the height at the bow."""
PLAN = ((0.0, 0.05), (0.14, 0.5), (0.34, 0.9), (0.52, 1.0), (1.0, 0.78))
"""How broad the hull is along its length, from the bow."""
SIDE = (
    *(Knot(0.13, 0.0), Knot(0.93, 0.05), Knot(1.0, DECK), Knot(0.5, DECK)),
    *(Knot(0.22, 0.84), Knot(0.0, 1.0)),
)
"""Its side, from the keel under the bow round: transom, deck, sheer, stem."""


def _boat(values: Values) -> Made:
    long, beam, high = (values[k] for k in ("length", "beam", "bow height"))
    house, tall, mast = (values[k] for k in ("house length", "house height", "mast height"))
    if not (beam < long and house < 0.42 * long):
        raise VolumeError(_("That house does not stand on its deck: make it shorter."))
    group = _("Boat")
    hull = Volume(
        _("Hull"),
        *(long, beam, high),
        shape=Extruded((SIDE,), axis=1, widths=PLAN, name="hull"),
        key=0,
        group=group,
    )
    made = [hull]
    meant: list[Intention] = []
    wide, back = 0.56 * beam, 0.3 * tall
    if house and tall:
        made.append(
            Volume(
                _("House"),
                *(house, wide, tall),
                shape=Taper(0.08 * wide, 0.08 * wide, back, 0.1 * tall),
                on=Anchor(0, (0.52, 0.5, DECK), (0.0, -wide / 2, 0.0)),
                key=1,
                group=group,
            )
        )
        meant += [Centred(1, 0, 1), Within(1, 0, 0)]
    if mast:
        thick = 0.02 * long
        made.append(
            Volume(
                _("Mast"),
                *(thick, thick, mast),
                shape=CYLINDER,
                on=Anchor(0, (0.5, 0.5, DECK), (-1.5 * thick, -thick / 2, 0.0)),
                key=2,
                group=group,
            )
        )
        meant.append(Centred(2, 0, 1))
    return Made((Module("beam", beam),), made, tuple(meant))


BOAT = Starter(
    said("Small boat"),
    said("millimetres"),
    (
        Question(said("length"), "length", 4800.0, said("From bow to stern."), measure=side(0, 0)),
        Question(said("beam"), "length", 1700.0, said("At its broadest."), measure=side(0, 1)),
        Question(
            said("bow height"),
            "length",
            1150.0,
            said("From the keel to the top of the bow."),
            measure=side(0, 2),
        ),
        Question(
            said("house length"),
            "length",
            1500.0,
            said("Of the house on its deck; 0 for none."),
            none=True,
            measure=side(1, 0),
        ),
        Question(
            said("house height"),
            "length",
            900.0,
            said("Above the deck; 0 for none."),
            none=True,
            measure=side(1, 2),
        ),
        Question(
            said("mast height"),
            "length",
            0.0,
            said("Above the deck; 0 for none."),
            none=True,
            measure=side(2, 2),
        ),
    ),
    _boat,
)
