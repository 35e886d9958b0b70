"""Deeds of what a framework stands before: floor and wall lines, shelves, paths, a ground grid."""

from isometron.deeds.deed import ActsOn, Deed, Given, Matter, choice, length, plain
from isometron.deeds.example import Example, box, box_with
from isometron.document.document import Document
from isometron.document.edits.places import aiding
from isometron.document.edits.places.origin import set_origin
from isometron.words import _, said

MATTER = Matter.AIDS

ROOM_RUNS = choice(
    said("lines of the room"),
    _("Which way these lines run."),
    (said("to the points"), said("level across")),
    label=_("run"),
)
BEHIND = length(
    said("behind"),
    _("How far behind everything, or before it, they lie."),
    300.0,
    label=_("off by"),
)
THICK = length(
    said("thick, wide"), _("How thick a shelf is, how wide a path."), 40.0, label=_("thick")
)
SQUARE = length(
    said("square"), _("The side of one square of the ground grid."), aiding.USUAL_SQUARE_MM
)


def _aid(kind: str, text: str, tip: str, *, broad: bool = False, key: str = "") -> Deed:
    def lay(document: Document, given: Given) -> Document:
        level = given.whole(ROOM_RUNS) == 1
        return aiding.add_aid(document, kind, given[BEHIND], level=level, thick_mm=given[THICK])

    parameters = (BEHIND, ROOM_RUNS, *((THICK,) if broad else ()))
    return Deed(
        key or kind,
        text,
        tip,
        _(kind),
        lay,
        parameters,
        shows=lambda: box_with(behind=10.0, **{THICK.key: 6.0}),
    )


def _origin_beneath() -> Document:
    """A cube that stands on the ground origin."""
    document = box().document
    x, y, _z = document.volumes[0].place if document.volumes else (0.0, 0.0, 0.0)
    return set_origin(set_origin(document, 0, x), 1, y)


def _with_grid() -> Example:
    return Example(aiding.lay_grid(box().document, SQUARE.default))


DEEDS = (
    Deed(
        "floor line",
        _("Floor line"),
        _("Draw where floor and wall meet, a little behind everything."),
        _("floor line"),
        lambda document, given: aiding.add_aid(document, "floor line", BEHIND.default),
        keys=("Ctrl+Shift+B",),
    ),
    _aid(
        "floor line",
        _("Floor line at"),
        _("Draw where floor and wall meet, so far behind everything."),
        key="floor line at",
    ),
    _aid("back wall", _("Back wall"), _("Floor line with upright corners.")),
    _aid("shelf edge", _("Shelf edge"), _("An edge at its base, in front.")),
    _aid("shelf", _("Shelf"), _("A shelf that it stands on: two edges in front."), broad=True),
    _aid("path", _("Path"), _("A path in front of it: two lines on the ground."), broad=True),
    Deed(
        "ground grid",
        _("Ground grid"),
        _("Lay squares on the ground about the origin, along the picked volume."),
        _("ground grid"),
        lambda document, given: aiding.lay_grid(document, given[SQUARE]),
        (SQUARE,),
        (ActsOn.SHEET,),
        shows=lambda: Example(_origin_beneath(), None, {SQUARE.key: 20.0}),
        finds=_("squares floor tiles"),
    ),
    Deed(
        "clear aids",
        _("Take aids away"),
        _("Clear grid, floor, wall and shelf lines, and carried heights."),
        _("take aids away"),
        plain(aiding.clear_aids),
        acts_on=(ActsOn.SHEET,),
        shows=_with_grid,
    ),
)
