"""The drawing tools of the board: what a press or a drag does while one is armed.

A tool stays armed until Escape or another tool. To add one, write its row.
"""

from collections.abc import Callable
from dataclasses import dataclass

from isometron.document.document import Document
from isometron.document.edits.aiding import carry_height
from isometron.document.edits.laying import lay_near_edge, snapped
from isometron.render.view import Point
from isometron.words import _

Drawn = Callable[[Document, Point, Point, bool], Document]


@dataclass(frozen=True)
class Tool:
    """One tool: its key (that of its command), what it is called on the board while armed, what to
    do with it, and what undo calls what it did. draws: the edit of a drag from a place of the sheet
    to another, with snapping or without; clicks: whether a click alone does it too. Without `draws`
    it takes two things to measure between."""

    key: str
    title: str
    hint: str
    name: str = ""
    draws: Drawn | None = None
    clicks: bool = False


def _lay(document: Document, start: Point, to: Point, snap: bool) -> Document:
    if snap:
        start, to = snapped(document, start), snapped(document, to)
    return lay_near_edge(document, start, to)


LAY_EDGE = Tool(
    "lay edge",
    _("Laying edges"),
    _(
        "drag from the foot of the nearest upright edge to its top; both keep to marks of the "
        "ruler, with Alt they do not."
    ),
    _("lay down a near edge"),
    _lay,
)
MEASURE = Tool(
    "measure",
    _("Measuring"),
    _("click two things: corners, edges, rims or faces."),
)
CARRY = Tool(
    "carry height",
    _("Carrying a height"),
    _("click where on the ground the height of the volume in work is to stand."),
    _("carry the height"),
    lambda document, start, to, snap: carry_height(document, to),
    clicks=True,
)
TOOLS = {tool.key: tool for tool in (LAY_EDGE, MEASURE, CARRY)}
