"""Deeds that put something new on the sheet."""

from collections.abc import Callable

from isometron.deeds.deed import ActsOn, Deed, Given, Matter, words
from isometron.deeds.example import blank
from isometron.document.document import Document
from isometron.document.edits import sizing, stances
from isometron.document.edits.places import laying, saying_places
from isometron.document.edits.shapes import rounding
from isometron.words import _, said

MATTER = Matter.ADD

SIZE = words(
    said("size"),
    _("Its sides, such as 110 × 60 × 30 cm, or one length: a cube's side, a diameter."),
)
WHERE = words(
    said("where"),
    _("Such as: 35 cm above ground; against the right of Box 1, on the centre plane of Box 1."),
)


def _added(add: Callable[[Document], Document]) -> Callable[[Document, Given], Document]:
    """Something added, of the size and at the place that are said, if any."""

    def edit(document: Document, given: Given) -> Document:
        done, size, where = add(document), given.text(SIZE), given.text(WHERE)
        if size.strip():
            done = sizing.say_size(done, size)
        if where.strip():
            done = saying_places.say_place(done, where)
        return stances.seen_whole(document, done) if size.strip() else done

    return edit


def _round(form: str) -> Deed:
    """A round form put on the ground."""
    return Deed(
        f"add {form}",
        _(form).capitalize(),
        _("Put a {form} on the ground before us.").format(form=_(form)),
        _("add a {form}").format(form=_(form)),
        _added(lambda document: rounding.add_round(document, form)),
        more=(SIZE, WHERE),
        acts_on=(ActsOn.SHEET,),
        shows=blank,
        finds=_("add round turned lathe"),
    )


DEEDS = (
    Deed(
        "add box",
        _("Add a box"),
        _("Put a cube on the ground before us."),
        _("add a box"),
        _added(laying.add_box),
        more=(SIZE, WHERE),
        acts_on=(ActsOn.SHEET,),
        keys=("Ctrl+B",),
        shows=blank,
    ),
    Deed(
        "add wheel",
        _("Add a wheel"),
        _("Put a wheel on the ground before us."),
        _("add a wheel"),
        _added(lambda document: rounding.add_round(document, "wheel")),
        more=(SIZE, WHERE),
        acts_on=(ActsOn.SHEET,),
        keys=("Ctrl+R",),
        shows=blank,
    ),
    *(_round(form) for form in rounding.FORMS if form != "wheel"),
)
