"""The drawing tools of the board: what a press or a drag does while one is armed.

A tool stays armed until Escape or another tool. To add one, write it here and
its command in the Build menu.
"""

from collections.abc import Callable
from dataclasses import dataclass
from typing import NamedTuple

from isometron.document.document import Document
from isometron.document.edits.faces.drawn_by_hand import draw_outline
from isometron.document.edits.faces.drawn_pieces import divide_across, draw_cut, draw_opening
from isometron.document.edits.places.aiding import carry_height
from isometron.document.edits.places.laying import draw_depth, edge_laid, lay_face, snapped
from isometron.document.edits.places.sliding import Slid
from isometron.perspective.places import Place
from isometron.words import _


class Keys(NamedTuple):
    """What is held while a tool draws: whether it keeps to the marks of the ruler (Alt holds that
    off), how something new stands: "ground" (Shift), "floating" (Ctrl), or as it is found; and the
    places of the sheet the pointer has passed."""

    snap: bool = True
    how: str = ""
    path: tuple[Place, ...] = ()


Drawn = Callable[[Document, Place, Place, Keys], Slid]


class Stroke(NamedTuple):
    """One drag of a tool: what to do, what undo calls it, and the edit of a drag from a place of
    the sheet to another. clicks: whether a click alone does it too."""

    hint: str
    name: str = ""
    draws: Drawn | None = None
    clicks: bool = False


@dataclass(frozen=True)
class Tool:
    """One tool: its key (that of its command), what it is called on the board while it is in hand,
    and its strokes, made one after the other, over and over. One that draws nothing takes two
    things to measure between."""

    key: str
    title: str
    strokes: tuple[Stroke, ...]


def _ends(document: Document, start: Place, to: Place, keys: Keys) -> tuple[Place, Place]:
    return (snapped(document, start), snapped(document, to)) if keys.snap else (start, to)


def _lay(document: Document, start: Place, to: Place, keys: Keys) -> Slid:
    return edge_laid(document, *_ends(document, start, to, keys), keys.how)


def _face(document: Document, start: Place, to: Place, keys: Keys) -> Slid:
    return lay_face(document, *_ends(document, start, to, keys), keys.how)


LAY_EDGE = Tool(
    "lay edge",
    _("Laying edges"),
    (
        Stroke(
            _(
                "drag from the foot of the nearest upright edge to its top. Alt leaves the marks "
                "of the ruler, Shift sets it on the ground, Ctrl beside the picked volume."
            ),
            _("lay down a near edge"),
            _lay,
        ),
    ),
)
LAY_FACE = Tool(
    "lay face",
    _("Laying faces"),
    (
        Stroke(
            _(
                "drag a front face from corner to corner. Alt leaves the marks of the ruler, Shift "
                "sets it on the ground, Ctrl beside the picked volume."
            ),
            _("lay down a face"),
            _face,
        ),
        Stroke(
            _("now drag its depth, from a corner of the face towards the vanishing point."),
            _("draw its depth"),
            lambda document, start, to, keys: draw_depth(document, start, to),
        ),
    ),
)
MEASURE = Tool(
    "measure",
    _("Measuring"),
    (Stroke(_("click two things: corners, edges, rims or faces.")),),
)


def _outline(document: Document, start: Place, to: Place, keys: Keys) -> Slid:
    return Slid(draw_outline(document, keys.path, twin=keys.how == "ground"), "")


OUTLINE = Tool(
    "draw outline",
    _("Drawing on a face"),
    (
        Stroke(
            _(
                "draw right round on a face: a window, a door, a lamp. Shift draws the mirrored "
                "one too."
            ),
            _("draw an outline"),
            _outline,
        ),
    ),
)
OPENING = Tool(
    "draw opening",
    _("Drawing an opening"),
    (
        Stroke(
            _("drag it on its face from corner to corner. Alt leaves halves and thirds alone."),
            _("draw an opening"),
            lambda document, start, to, keys: draw_opening(document, start, to, snap=keys.snap),
        ),
    ),
)
CUT = Tool(
    "draw cut",
    _("Cutting a piece out"),
    (
        Stroke(
            _("drag it on a face from corner to corner; then slide its floor to where it ends."),
            _("cut"),
            lambda document, start, to, keys: draw_cut(document, start, to, snap=keys.snap),
        ),
    ),
)
DIVIDE = Tool(
    "divide by hand",
    _("Dividing"),
    (
        Stroke(
            _("drag across an edge where it is divided. Alt leaves halves and thirds alone."),
            _("divide the edge"),
            lambda document, start, to, keys: divide_across(document, start, to, snap=keys.snap),
        ),
    ),
)
CARRY = Tool(
    "carry height",
    _("Carrying a height"),
    (
        Stroke(
            _("click where on the ground the height of the picked volume is to stand."),
            _("carry the height"),
            lambda document, start, to, keys: Slid(carry_height(document, to), ""),
            clicks=True,
        ),
    ),
)
