"""Steps that rise one behind the other."""

from isometron.document.edits.starters.starter import Made, Question, Starter, Values, side
from isometron.framework.modules import Count, Module
from isometron.framework.placing import Anchor
from isometron.framework.volume import Volume
from isometron.perspective.errors import VolumeError
from isometron.words import _, said

MOST_STEPS = 40


def _steps(values: Values) -> Made:
    wide, rise, going = (values[k] for k in ("width", "rise", "going"))
    count = round(values["steps"])
    if not 1 <= count <= MOST_STEPS:
        raise VolumeError(_("A flight has 1 to {most} steps.").format(most=MOST_STEPS))
    made = [
        Volume(
            _("Step {number}").format(number=n + 1),
            *(wide, going, (n + 1) * rise),
            counts=(Count(1.0, "flight"), Count(1.0, "going"), Count(n + 1.0, "rise")),
            on=Anchor(n - 1, (0.0, 1.0, 0.0), (0.0, 0.0, 0.0)) if n else None,
            key=n,
            group=_("Steps"),
        )
        for n in range(count)
    ]
    return Made((Module("rise", rise), Module("going", going), Module("flight", wide)), made)


STEPS = Starter(
    said("Steps"),
    said("millimetres"),
    (
        Question(said("rise"), "length", 170.0, said("Of one step."), measure=side(0, 2)),
        Question(said("going"), "length", 290.0, said("For a foot."), measure=side(0, 1)),
        Question(said("width"), "length", 900.0, said("From side to side."), measure=side(0, 0)),
        Question(said("steps"), "count", 5.0, said("How many.")),
    ),
    _steps,
)
