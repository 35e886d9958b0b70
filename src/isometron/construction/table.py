"""What lies on the person's table: what to change where an order cannot be made with it."""

import math
from collections.abc import Iterable

from isometron.construction.machine import Drawn
from isometron.construction.moves import Join, Mark, Move, StepOff
from isometron.construction.steps import Step
from isometron.document.kit import Kit
from isometron.perspective.lengths import write_length
from isometron.perspective.places import Place
from isometron.perspective.sheet import Sheet
from isometron.words import _

SPARE_MM = 1e-6
"""So much is rounding."""

MOST_GOES = 3
"""The ruler may be laid on so many times, along an edge of the paper or a line."""


def off_paper(sheet: Sheet, place: Place) -> float:
    """How far a place lies off the paper, mm."""
    x, y = place
    return math.hypot(max(-x, x - sheet.width_mm, 0.0), max(-y, y - sheet.height_mm, 0.0))


def _marked(move: Move) -> list[Place]:
    """The measured places of a move."""
    if isinstance(move, Mark):
        return [move.place]
    return [move.by] if isinstance(move, Join) and move.by is not None else []


def _from_edges(sheet: Sheet, place: Place) -> float:
    """How far a place is measured from the nearer of the edges either way, mm."""
    x, y = place
    return max(min(abs(x), abs(x - sheet.width_mm)), min(abs(y), abs(y - sheet.height_mm)))


def _laid_mm(move: Move, drawn: Drawn) -> float:
    """How much of the ruler a move takes."""
    if isinstance(move, StepOff):
        return abs(move.mm)
    if not isinstance(move, Join):
        return 0.0
    return math.dist(drawn.place(move.first), move.by or drawn.place(move.second))


def remedy_words(steps: Iterable[Step], drawn: Drawn, sheet: Sheet, kit: Kit, unit: str) -> str:
    """What to change when an order cannot be done with a kit, in a sentence; "" when it can."""
    moves = [move for step in steps for move in step.moves]
    places = [place for move in moves for place in _marked(move)]
    off = max((off_paper(sheet, place) for place in places), default=0.0)
    edges = max((_from_edges(sheet, place) / MOST_GOES for place in places), default=0.0)
    ruler = max(edges, *(_laid_mm(move, drawn) for move in moves), 0.0)
    told = []
    if off > kit.spare_paper_mm + SPARE_MM:
        told.append(
            _("a mark lies {length} off the paper: tape more paper on, or step nearer").format(
                length=write_length(off, unit)
            )
        )
    if ruler > kit.ruler_mm + SPARE_MM:
        told.append(
            _("a length of {length} is laid off: take a longer ruler, or a smaller sheet").format(
                length=write_length(ruler, unit)
            )
        )
    if not told:
        return ""
    return _("This sheet asks for more than lies on the table: {troubles}.").format(
        troubles="; ".join(told)
    )
