"""A turned object from foot to mouth."""

from isometron.document.edits.starters.starter import Made, Question, Starter, Values
from isometron.framework.kinds.turned import Turned
from isometron.framework.modules import Count, Module
from isometron.framework.volume import Volume
from isometron.perspective.errors import VolumeError
from isometron.words import _, said


def _turned_object(values: Values) -> Made:
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
