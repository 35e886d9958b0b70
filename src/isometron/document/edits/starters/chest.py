"""A box without a top, and a lid that stands open on its back edge."""

from isometron.document.edits.fittings.on_faces import Lid, lid_over
from isometron.document.edits.starters.starter import Made, Question, Starter, Values, side
from isometron.framework.bodies.cuts import Cut
from isometron.framework.modules import Module
from isometron.framework.volume import Volume
from isometron.perspective.errors import VolumeError
from isometron.words import _, said


def _box(values: Values) -> Made:
    wide, deep, high = (values[k] for k in ("width", "depth", "height"))
    thick = values["thickness"]
    if 2 * thick >= min(wide, deep) or thick >= high:
        raise VolumeError(_("Its walls leave no room inside: make them thinner."))
    x, y, z = thick / wide, thick / deep, thick / high
    box = Volume(
        _("Chest"),
        *(wide, deep, high),
        cuts=(Cut((x, y, z), (1 - x, 1 - y, 1.0)),),
        key=0,
        group=_("Chest"),
    )
    lid = lid_over(box, Lid(thick, open_deg=values["lid open"]), 1)
    return Made((Module("chest", wide),), [box, lid])


CHEST = Starter(
    said("Chest with lid"),
    said("millimetres"),
    (
        Question(said("width"), "length", 420.0, said("From side to side."), measure=side(0, 0)),
        Question(said("depth"), "length", 300.0, said("From front to back."), measure=side(0, 1)),
        Question(said("height"), "length", 240.0, said("Without the lid."), measure=side(0, 2)),
        Question(said("thickness"), "length", 14.0, said("Of walls and lid."), measure=side(1, 2)),
        Question(said("lid open"), "angle", 105.0, said("How far it stands open; 0 is shut.")),
    ),
    _box,
)
