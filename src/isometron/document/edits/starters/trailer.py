"""A trailer: a box over one or two axles, and a drawbar, in wheel diameters."""

from dataclasses import replace

from isometron.document.edits.starters.starter import (
    Made,
    Question,
    Starter,
    Values,
    counted,
    side,
    span,
)
from isometron.framework.kinds import turned as lathe
from isometron.framework.modules import Module
from isometron.framework.placing import Anchor, Mirrored, Stepped
from isometron.framework.volume import Volume
from isometron.perspective.errors import VolumeError
from isometron.words import _, said

TYRE, BAR = 0.3, 0.16
"""How broad a tyre is, and how thick the drawbar."""

BETWEEN = 1.15
"""From axle to axle where there are two."""


def _trailer(values: Values) -> Made:
    w, long, wide = values["wheel diameter"], values["length"], values["width"]
    floor, high, bar = values["floor height"], values["side height"], values["drawbar"]
    axles, track = round(values["axles"]), values["track"]
    if not 1 <= axles <= 2:
        raise VolumeError(_("A trailer has one axle or two: type 1 or 2."))
    if long < axles * BETWEEN:
        raise VolumeError(_("The wheels reach beyond it: make it longer."))
    group = _("Trailer")

    def part(
        name: str, key: int, sides: tuple[float, float, float], on: Anchor | None = None
    ) -> Volume:
        width, depth, height = (one * w for one in sides)
        counts = counted(*sides, of="w")
        return Volume(name, width, depth, height, on=on, counts=counts, key=key, group=group)

    wheel = replace(part(_("Wheel"), 0, (1.0, TYRE, 1.0)), shape=lathe.wheel())
    first = (long - (axles - 1) * BETWEEN) / 2 - 0.5  # from the front of the box to the wheel's
    beside = (track - wide + TYRE) / 2
    box = part(
        _("Box"),
        1,
        (long, wide, high),
        Anchor(0, (0.0, 0.0, 0.0), (-first * w, beside * w, floor * w)),
    )
    pole = part(
        _("Drawbar"),
        2,
        (bar, BAR, BAR),
        Anchor(1, (0.0, 0.5, 0.0), (-bar * w, -BAR * w / 2, 0.0)),
    )
    made = [wheel, box, pole]
    if axles == 2:
        step = Stepped(0, 1, (BETWEEN * w, 0.0, 0.0))
        made.append(replace(wheel, name=_("Second wheel"), key=3, like=step))
    for number, source in enumerate([one for one in made if one.shape != box.shape]):
        twin = Mirrored(source.key, 1, 1)
        name = _("{name} twin").format(name=source.name)
        made.append(replace(source, name=name, key=10 + number, like=twin, on=None))
    return Made((Module("w", w),), made)


TRAILER = Starter(
    said("Trailer"),
    said("wheel diameters"),
    (
        Question(
            said("wheel diameter"),
            "length",
            560.0,
            said("The module: w."),
            measure=side(0, 0),
        ),
        Question(said("axles"), "count", 1.0, said("One or two.")),
        Question(
            said("length"),
            "ratio",
            4.0,
            said("Of the box."),
            measure=side(1, 0, per=0),
        ),
        Question(
            said("width"),
            "ratio",
            2.4,
            said("Of the box."),
            measure=side(1, 1, per=0),
        ),
        Question(
            said("side height"),
            "ratio",
            0.9,
            said("From the floor of the box to its rim."),
            measure=side(1, 2, per=0),
        ),
        Question(
            said("floor height"),
            "ratio",
            1.1,
            said("From the ground to the box."),
            measure=span(0, 0.0, 1, 0.0, 2, per=0),
        ),
        Question(
            said("drawbar"),
            "ratio",
            1.8,
            said("From the box to the hitch."),
            measure=side(2, 0, per=0),
        ),
        Question(
            said("track"),
            "ratio",
            2.75,
            said("From the middle of a wheel to that of its twin."),
            measure=span(0, 0.5, 1, 0.5, 1, per=0, times=2),
        ),
    ),
    _trailer,
)
